using System.Runtime.InteropServices;
using System.Text;

namespace Revtal.Storage;

/// <summary>A file that is held open, and whether it still lies where it was opened.</summary>
internal sealed class OpenFile : IDisposable
{
    // Longer than any path that Linux takes.
    private const int LongestPath = 4096;

    // Kept open to the end: closing it would let go of the locks that the store holds on the same file.
    private readonly FileStream stream;
    private readonly byte[] link;
    private readonly byte[] name = new byte[LongestPath];
    private readonly Lock asking = new();
    private readonly byte[] opened;

    public OpenFile(string path)
    {
        stream = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
        link = Encoding.UTF8.GetBytes($"/proc/self/fd/{stream.SafeFileHandle.DangerousGetHandle()}\0");
        opened = Name().ToArray();
    }

    /// <summary>
    /// Whether it was moved or removed since. Asked before every commit, so it is the bare call of the system.
    /// </summary>
    public bool HasLeft()
    {
        lock (asking)
        {
            return !Name().SequenceEqual(opened);
        }
    }

    public void Dispose() => stream.Dispose();

    // Where there is no /proc to ask, nothing is ever seen to move.
    private ReadOnlySpan<byte> Name() => name.AsSpan(0, (int)Math.Max(0, ReadLink(link, name, name.Length)));

    [DllImport("libc", EntryPoint = "readlink")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.SafeDirectories)]
    private static extern nint ReadLink(byte[] path, byte[] buffer, nint size);
}
