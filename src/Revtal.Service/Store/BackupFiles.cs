using System.Globalization;
using System.Text.RegularExpressions;
using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>Backups as files of the service's own: whole or not there, and as many as are kept.</summary>
internal sealed partial class BackupFiles(string folder)
{
    private const string Unfinished = ".part";

    /// <summary>What a backup of this moment is called.</summary>
    public static string Name(DateTimeOffset at, BackupForm form = BackupForm.Lines) =>
        at.UtcDateTime.ToString("'revtal-'yyyy-MM-dd-HHmmss", CultureInfo.InvariantCulture)
        + (form == BackupForm.Tables ? ".zip" : ".jsonl.gz");

    /// <summary>Writes one beside its name, on disk, and proves what was written by reading it back.</summary>
    /// <param name="write">To a stream; what it throws leaves nothing behind.</param>
    /// <returns>Where it lies, its size and its proof.</returns>
    public async Task<(string Path, long Bytes, BackupProof Proof)> MakeAsync(
        string name,
        Func<Stream, Task> write,
        CancellationToken cancel
    )
    {
        Directory.CreateDirectory(folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        var path = Path.Combine(folder, name);
        var part = path + Unfinished;
        try
        {
            await using (var file = new FileStream(part, ForOwnerAlone))
            {
                await write(file);
                file.Flush(flushToDisk: true);
            }

            BackupProof proof;
            await using (var back = File.OpenRead(part))
            {
                proof = await BackupProver.ProveAsync(back, name, cancel: cancel);
            }

            File.Move(part, path, overwrite: true);
            return (path, new FileInfo(path).Length, proof);
        }
        finally
        {
            File.Delete(part);
        }
    }

    /// <summary>Removes all but the newest of those that were made here, and nothing else.</summary>
    public void Keep(int most)
    {
        foreach (var old in Made().OrderDescending(StringComparer.Ordinal).Skip(most))
        {
            File.Delete(Path.Combine(folder, old));
        }
    }

    private IEnumerable<string> Made() =>
        Directory.EnumerateFiles(folder).Select(f => Path.GetFileName(f)).Where(f => OwnName().IsMatch(f));

    private static FileStreamOptions ForOwnerAlone =>
        new()
        {
            Mode = FileMode.Create,
            Access = FileAccess.Write,
            UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
        };

    [GeneratedRegex(@"^revtal-\d{4}-\d\d-\d\d-\d{6}\.jsonl\.gz$")]
    private static partial Regex OwnName();
}
