using System.Globalization;
using System.Text;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>
/// What the collector's scripts add in words: the first line <c>revtal-notes/1</c>, then a key and its value a line
/// (docs/capture-format.md).
/// Keys that are not known are passed over.
/// </summary>
public static class CollectorNotes
{
    private const int LongestText = 64 << 10,
        MostLines = 500;

    public static bool IsAt(ReadOnlySpan<byte> bytes) => bytes.StartsWith("revtal-notes/1"u8);

    /// <exception cref="RefusedException">It is longer than the scripts write.</exception>
    public static Reading Decode(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > LongestText)
        {
            throw RefusedException.Invalid(
                "notes-too-long",
                "The collector's notes are longer than its scripts write. Collect again."
            );
        }

        var host = new HostReading();
        var system = SystemIdentity.Unknown;
        var firmware = FirmwareIdentity.Unknown;
        var missing = new List<string>();
        var drives = new List<DriveReading>();
        foreach (var raw in Encoding.UTF8.GetString(bytes).Split('\n').Skip(1).Take(MostLines))
        {
            var line = Words.Plain(raw.Trim());
            if (line.Split(':', 2, StringSplitOptions.TrimEntries) is not [var key, { Length: > 0 and <= 300 } value])
            {
                continue;
            }

            switch (key)
            {
                case "system":
                    host = host with { Name = value };
                    break;
                case "bits":
                    host = host with { Is64Bit = value == "64" };
                    break;
                case "limit":
                    host = host with { Limit = value, LimitBytes = Limit(value) };
                    break;
                case "up" when long.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var up):
                    host = host with { UpSeconds = up };
                    break;
                case "taken":
                    host = host with { TakenAt = Time(value) };
                    break;
                case "load"
                    when decimal.TryParse(
                        value,
                        NumberStyles.AllowDecimalPoint,
                        CultureInfo.InvariantCulture,
                        out var load
                    ):
                    host = host with { Load = load };
                    break;
                case "maker":
                    system = system with { Manufacturer = value };
                    break;
                case "product":
                    system = system with { Product = value };
                    break;
                case "serial":
                    system = system with { Serial = value };
                    break;
                case "firmware":
                    firmware = firmware with { Version = value };
                    break;
                case "missing":
                    missing.Add(value);
                    break;
                case "link" when Link(value) is { } drive:
                    drives.Add(drive);
                    break;
            }
        }

        return new Reading(
            [Source.OperatingSystem],
            system,
            firmware,
            new MemoryReading(null, null, null, null, []),
            null,
            drives,
            null,
            null,
            host,
            missing
        );
    }

    /// <summary>A time of a machine's clock; null for one that no bench lives in.</summary>
    internal static DateTimeOffset? Time(string? text) =>
        DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at)
        && at.Year is >= 2000 and <= 2200
            ? at.ToUniversalTime()
            : null;

    // “nvme0n1 8.0 4 16.0 4”: GT/s and lanes agreed, GT/s and lanes possible. The size is another source's to tell.
    private static DriveReading? Link(string value) =>
        value.Split(' ', StringSplitOptions.RemoveEmptyEntries)
            is [var device, var now, var lanes, var most, var mostLanes]
        && Express(now, lanes) is { } current
        && Express(most, mostLanes) is { } possible
            ? new DriveReading(
                null,
                new Drive(new DriveSize(0)),
                Device: device,
                Health: DriveHealth.OfLink(current, possible)
            )
            : null;

    // PCI Express Base Specification: transfer rate of one lane by generation.
    internal static string? Express(string gigatransfers, string lanes) =>
        gigatransfers switch
        {
            "2.5" => "1.0",
            "5" or "5.0" => "2.0",
            "8" or "8.0" => "3.0",
            "16" or "16.0" => "4.0",
            "32" or "32.0" => "5.0",
            "64" or "64.0" => "6.0",
            _ => null,
        }
            is { } generation
        && DriveLink.TryParse($"PCIe {generation} x{lanes}", out var link)
            ? link.ToString()
            : null;

    // The kernel's mem=4G; without a unit it is bytes.
    private static long? Limit(string setting)
    {
        var text = setting.Split('=')[^1].Trim();
        var shift =
            text.Length == 0
                ? 0
                : char.ToUpperInvariant(text[^1]) switch
                {
                    'K' => 10,
                    'M' => 20,
                    'G' => 30,
                    'T' => 40,
                    _ => 0,
                };
        return
            long.TryParse(shift > 0 ? text[..^1] : text, NumberStyles.None, CultureInfo.InvariantCulture, out var n)
            && n > 0
            && n <= long.MaxValue >> shift
            ? n << shift
            : null;
    }
}
