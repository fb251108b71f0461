using System.Globalization;
using System.Text;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>
/// The folder of one shop while a service has it in hand: nobody else may, and what was opened is still what lies
/// there.
/// </summary>
public sealed class StoreFolder : IDisposable
{
    private const string LockName = "revtal.lock";

    // Written once there is a shop: from then on an empty folder is a loss, not a beginning. After it stands the last
    // position of the journal that was kept.
    private const byte ShopMark = (byte)'s';
    private const int MarkDigits = 20;
    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    private readonly FileStream held;
    private OpenFile? database;

    private StoreFolder(string path, FileStream held) => (Path, this.held) = (path, held);

    public string Path { get; }

    private string File => System.IO.Path.Combine(Path, SqliteStore.FileName);

    /// <summary>Takes the folder in hand; makes it, for its owner alone, where there is none.</summary>
    /// <exception cref="StoreException">Another service has it, or it cannot be used.</exception>
    public static StoreFolder Take(string path)
    {
        try
        {
            Directory.CreateDirectory(path, OwnerOnly | UnixFileMode.UserExecute);
            var options = new FileStreamOptions
            {
                Mode = FileMode.OpenOrCreate,
                Access = FileAccess.ReadWrite,
                Share = FileShare.None,
                UnixCreateMode = OwnerOnly,
            };
            return new StoreFolder(path, new FileStream(System.IO.Path.Combine(path, LockName), options));
        }
        catch (UnauthorizedAccessException e)
        {
            throw new StoreException($"The data folder {path} cannot be used: {e.Message}", e);
        }
        catch (IOException e)
        {
            throw new StoreException(
                $"Another revtald has the data folder {path} in hand, or it cannot be written to. Stop that one, or "
                    + "choose another folder with --data.",
                e
            );
        }
    }

    /// <summary>Whether there is a database to open; makes an empty one, for its owner alone, for a new shop.</summary>
    /// <exception cref="StoreException">There was a shop here, and its file is gone or empty.</exception>
    public void Begin()
    {
        var had = held.Length > 0;
        var size = System.IO.File.Exists(File) ? new FileInfo(File).Length : (long?)null;
        if (had && size is null or 0)
        {
            throw new StoreException(
                $"{File} is {(size is null ? "gone" : "empty")}, and this folder had a shop. Put it back, or "
                    + "restore a backup into another folder: revtald --restore FILE. "
                    + $"To begin a new shop instead, remove {LockName} first."
            );
        }

        if (size is null)
        {
            using var made = new FileStream(
                File,
                new FileStreamOptions
                {
                    Mode = FileMode.CreateNew,
                    Access = FileAccess.Write,
                    UnixCreateMode = OwnerOnly,
                }
            );
        }
    }

    /// <summary>There is a shop here from now on.</summary>
    public void Settle()
    {
        if (held.Length == 0)
        {
            held.WriteByte(ShopMark);
            held.Flush(flushToDisk: true);
        }

        // An earlier version left them open to all.
        foreach (var kept in new[] { File, $"{File}-wal", $"{File}-shm" }.Where(System.IO.File.Exists))
        {
            System.IO.File.SetUnixFileMode(kept, OwnerOnly);
        }

        database ??= new OpenFile(File);
    }

    /// <summary>
    /// Remembers how far the journal was kept, beside it. Not before it is on disk there: a mark may be behind the
    /// store, and a store behind its mark has lost something.
    /// </summary>
    public void Mark(long position) =>
        RandomAccess.Write(
            held.SafeFileHandle,
            Encoding.ASCII.GetBytes(position.ToString(CultureInfo.InvariantCulture).PadLeft(MarkDigits)),
            fileOffset: 1
        );

    /// <summary>Proves that the store holds what it was marked to hold.</summary>
    /// <param name="position">The last one that it has.</param>
    /// <exception cref="StoreException">It has lost some of it.</exception>
    public void NeedMarked(long position)
    {
        Span<byte> mark = stackalloc byte[MarkDigits];
        if (
            RandomAccess.Read(held.SafeFileHandle, mark, fileOffset: 1) == MarkDigits
            && long.TryParse(mark, NumberStyles.AllowLeadingWhite, CultureInfo.InvariantCulture, out var marked)
            && marked > position
        )
        {
            throw new StoreException(
                $"{File} has lost {Phrases.Counted((int)(marked - position), "entry", "entries")} that it held: its "
                    + $"log ({SqliteStore.FileName}-wal) is gone, or the file is an older one. Put back what belongs "
                    + "there, or restore a backup into another folder: revtald --restore FILE. To go on without "
                    + $"them, remove {LockName} first."
            );
        }
    }

    /// <summary>Proves that the open file is still the one that lies in the folder.</summary>
    /// <exception cref="StoreException">It was moved or removed: what were written now would be lost.</exception>
    public void Prove()
    {
        if (database?.HasLeft() == true)
        {
            throw new StoreException(
                $"{File} was moved or removed while the service runs: nothing is recorded any more. Stop the service, "
                    + "put the file back, and start it again."
            );
        }
    }

    public void Dispose()
    {
        database?.Dispose();
        held.Dispose();
    }
}
