using System.Text;
using Revtal.Core.Captures.Smbios;
using Revtal.Core.Captures.Spd;
using Revtal.Core.Captures.Systems;

namespace Revtal.Core.Captures;

/// <summary>One file of a capture: its name as it was, and its bytes.</summary>
public sealed record CaptureFile(string Name, ReadOnlyMemory<byte> Content);

/// <summary>
/// The files of one capture to one reading. What a file is, its bytes tell; names are only for messages.
/// </summary>
public static class CaptureDecoder
{
    /// <summary>The most that one capture may hold, in bytes.</summary>
    public const int LargestCapture = 16 << 20;

    /// <summary>The most files that one capture may hold.</summary>
    public const int MostFiles = 64;

    // A dump puts the table at this offset or at the one its entry point names.
    private const int DumpTableOffset = 0x20;

    /// <summary>
    /// Decodes a capture: any of entry point, table, dump of both, memory lines, module EEPROMs, drives and their
    /// health as JSON, array status, the reports of Windows and macOS.
    /// </summary>
    /// <exception cref="RefusedException">Too large, nothing in it is known, or a known part is damaged.</exception>
    public static Reading Decode(IReadOnlyList<CaptureFile> files)
    {
        if (files.Count > MostFiles || files.Sum(f => (long)f.Content.Length) > LargestCapture)
        {
            throw RefusedException.Invalid(
                "capture-too-large",
                "The capture is larger than 16 MB or holds more than 64 files. Send only the files of one machine."
            );
        }

        EntryPoint? entry = null;
        ReadOnlyMemory<byte> table = default;
        Reading? lines = null;
        var systems = new List<Reading>();
        var modules = new List<SpdModule>();
        foreach (var file in files.Select(Plain))
        {
            var bytes = file.Content.Span;
            if (EntryPoint.IsAt(bytes))
            {
                entry = EntryPoint.Read(bytes);
                if (bytes.Length > DumpTableOffset)
                {
                    table = file.Content[TableOffset(entry.Value, bytes.Length)..];
                }
            }
            else if (SpdDecoder.IsAt(bytes))
            {
                modules.Add(SpdDecoder.Decode(bytes));
            }
            else if (MemInfo.IsAt(bytes))
            {
                lines = MemInfo.Decode(bytes);
            }
            else if (CollectorNotes.IsAt(bytes))
            {
                systems.Add(CollectorNotes.Decode(bytes));
            }
            else if (LoadLines.IsAt(bytes))
            {
                systems.Add(LoadLines.Decode(bytes));
            }
            else if (ArrayStatus.IsAt(bytes))
            {
                systems.Add(ArrayStatus.Decode(bytes));
            }
            else if (DrivePaths.IsAt(bytes))
            {
                systems.Add(DrivePaths.Decode(bytes));
            }
            else if (JsonLines.IsAt(bytes))
            {
                systems.Add(OfJson(file, isAlone: files.Count == 1));
            }
            else if (LooksLikeTable(bytes))
            {
                table = file.Content;
            }
        }

        Reading?[] parts =
        [
            table.IsEmpty ? null : SmbiosDecoder.Decode(table.Span, entry),
            lines,
            .. systems,
            modules.Count > 0 ? Reading.OfModules(modules) : null,
        ];
        return parts.OfType<Reading>().ToArray() switch
        {
            [var first, .. var others] => Sized(others.Aggregate(first, Reading.Join)),
            _ when entry is not null => throw RefusedException.Invalid(
                "tables-missing",
                "The capture has the entry point but not the table it points to. Add the file DMI that lies beside it."
            ),
            _ => throw RefusedException.Invalid(
                "capture-unknown",
                "Nothing in the capture is known "
                    + $"({(files.Count == 0 ? "it is empty" : string.Join(", ", files.Take(5).Select(f => f.Name)))}). "
                    + "It wants the firmware tables (smbios_entry_point and DMI, or one dump), the memory lines "
                    + "(meminfo), module EEPROMs, or what lsblk and smartctl write as JSON."
            ),
        };
    }

    // Some shells write text with a mark before it, or two bytes a letter (ISO/IEC 10646, UTF-16).
    private static CaptureFile Plain(CaptureFile file) =>
        file.Content.Span switch
        {
            [0xEF, 0xBB, 0xBF, ..] => file with { Content = file.Content[3..] },
            [0xFF, 0xFE, not 0, 0, ..] => file with
            {
                Content = Encoding.UTF8.GetBytes(Encoding.Unicode.GetString(file.Content.Span[2..])),
            },
            _ => file,
        };

    // A link whose drive no other source lists says nothing.
    private static Reading Sized(Reading reading) =>
        reading with
        {
            Drives = [.. reading.Drives.Where(d => d.Drive.Size.Bytes > 0)],
        };

    private static Reading OfJson(CaptureFile file, bool isAlone)
    {
        using var json = JsonLines.Parse(file.Content, file.Name);
        try
        {
            return OfJson(json.RootElement, file.Name);
        }
        catch (RefusedException e) when (e.Code == DriveHealthReport.TellsNothing && !isAlone)
        {
            return Reading.Nothing with { Missing = [$"{file.Name}: {e.Message}"] };
        }
        catch (InvalidOperationException)
        {
            // A text in it is none: bytes that are no UTF-8, or half a character written as an escape.
            throw JsonLines.Broken(file.Name, "a text in it is damaged");
        }
    }

    private static Reading OfJson(System.Text.Json.JsonElement? root, string name) =>
        BlockDevices.IsAt(root) ? BlockDevices.Decode(root)
        : DriveHealthReport.IsAt(root) ? DriveHealthReport.Decode(root)
        : WindowsReport.IsAt(root) ? WindowsReport.Decode(root)
        : MacReport.IsAt(root) ? MacReport.Decode(root)
        : throw RefusedException.Invalid(
            "json-unknown",
            $"{name} is JSON, but of none of the reports that are read: lsblk --json, smartctl --json, "
                + "system_profiler -json, the collector's own."
        );

    private static int TableOffset(EntryPoint entry, int length) =>
        entry.TableAddress is >= 0x18 and var at && at < (ulong)length ? (int)at : DumpTableOffset;

    // A first structure has a known header length for its type; text and JSON do not look like that.
    private static bool LooksLikeTable(ReadOnlySpan<byte> bytes) =>
        bytes.Length > 4
        && bytes[1] >= 4
        && bytes[0] is < 64 or 127 or >= 128
        && bytes[0] is not ((byte)'{' or (byte)'[')
        && bytes[..Math.Min(bytes.Length, 64)].IndexOfAny((byte)0, (byte)1) >= 0;
}
