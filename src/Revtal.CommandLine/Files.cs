using Revtal.Core;

namespace Revtal.CommandLine;

/// <summary>Files on this machine, with failures in words.</summary>
internal static class Files
{
    public static byte[] Bytes(string path, long most)
    {
        try
        {
            return new FileInfo(path).Length > most
                ? throw RefusedException.Invalid("file-too-large", $"“{path}” is larger than {most >> 20} MB.")
                : File.ReadAllBytes(path);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw RefusedException.NotFound("file-unreadable", $"“{path}” cannot be read: {e.Message}");
        }
    }

    public static string Text(string path, long most) => System.Text.Encoding.UTF8.GetString(Bytes(path, most));

    /// <summary>A new file, for its owner alone.</summary>
    public static FileStream Make(string path)
    {
        try
        {
            return new FileStream(
                path,
                new FileStreamOptions
                {
                    Mode = FileMode.Create,
                    Access = FileAccess.Write,
                    UnixCreateMode = OperatingSystem.IsWindows()
                        ? null
                        : UnixFileMode.UserRead | UnixFileMode.UserWrite,
                }
            );
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw RefusedException.NotFound("file-unwritable", $"“{path}” cannot be written: {e.Message}");
        }
    }

    public static void Write(string path, byte[] bytes)
    {
        try
        {
            File.WriteAllBytes(path, bytes);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw RefusedException.NotFound("file-unwritable", $"“{path}” cannot be written: {e.Message}");
        }
    }
}
