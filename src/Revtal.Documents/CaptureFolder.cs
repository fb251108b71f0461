using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Captures;

namespace Revtal.Documents;

/// <summary>Captures as they lie on a disk.</summary>
public static class CaptureFolder
{
    /// <summary>Reads a folder's files, one file, or the files of a bundle.</summary>
    /// <exception cref="RefusedException">Nothing is there, or it is too large.</exception>
    public static IReadOnlyList<CaptureFile> Read(string path)
    {
        try
        {
            if (Directory.Exists(path))
            {
                return Bounded(
                    Directory
                        .EnumerateFiles(path)
                        .Order(StringComparer.Ordinal)
                        .Take(CaptureDecoder.MostFiles + 1)
                        .Select(f => new FileInfo(f))
                        .ToArray()
                );
            }

            if (!File.Exists(path))
            {
                throw RefusedException.NotFound(
                    "capture-missing",
                    $"There is no file or folder “{path}”. Name the folder with smbios_entry_point, DMI and meminfo."
                );
            }

            var files = Bounded([new FileInfo(path)]);
            return IsBundle(files[0].Content) ? FromJson(files[0].Content.Span).ToFiles() : files;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw RefusedException.Invalid("capture-unreadable", $"“{path}” cannot be read: {e.Message}");
        }
    }

    /// <exception cref="RefusedException">The JSON is broken or no bundle.</exception>
    public static CaptureBundle FromJson(ReadOnlySpan<byte> json)
    {
        try
        {
            return JsonSerializer.Deserialize(json, BundleTypes.Bundle) ?? throw new JsonException("it is null");
        }
        catch (JsonException e)
        {
            throw RefusedException.Invalid("bundle-broken", $"The JSON is no capture bundle: {e.Message}");
        }
    }

    // A bundle names its format or has files; any other JSON is one file of a capture, and the decoder says what it is.
    private static bool IsBundle(ReadOnlyMemory<byte> bytes)
    {
        try
        {
            using var json = JsonDocument.Parse(bytes);
            return json.RootElement is { ValueKind: JsonValueKind.Object } root
                && (
                    root.TryGetProperty("files", out _)
                    || (
                        root.TryGetProperty("format", out var format)
                        && format.ValueKind == JsonValueKind.String
                        && format.GetString()!.StartsWith("revtal-capture/", StringComparison.Ordinal)
                    )
                );
        }
        catch (JsonException)
        {
            return false;
        }
    }

    // Lengths are proved before anything is read, and again while reading: a device or a growing file has no true
    // length.
    private static CaptureFile[] Bounded(FileInfo[] files)
    {
        if (files.Sum(f => f.Length) > CaptureBundle.Largest)
        {
            throw TooLarge();
        }

        return [.. files.Select(f => new CaptureFile(f.Name, ReadAtMost(f.FullName)))];
    }

    private static byte[] ReadAtMost(string path)
    {
        using var file = File.OpenRead(path);
        using var memory = new MemoryStream();
        var buffer = new byte[81920];
        for (int n; (n = file.Read(buffer)) > 0; )
        {
            memory.Write(buffer, 0, n);
            if (memory.Length > CaptureBundle.Largest)
            {
                throw TooLarge();
            }
        }

        return memory.ToArray();
    }

    private static RefusedException TooLarge() =>
        RefusedException.Invalid(
            "capture-too-large",
            "The capture is larger than 16 MB. Send only the files of one machine."
        );
}
