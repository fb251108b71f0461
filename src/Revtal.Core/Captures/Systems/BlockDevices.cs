using System.Text.Json;
using System.Text.RegularExpressions;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>
/// The drives as Linux lists them: JSON of <c>lsblk --json --bytes</c> (util-linux) with any of NAME, TYPE, SIZE,
/// MODEL, SERIAL, TRAN, LOG-SEC, PTTYPE,
/// LABEL, FSUSED, FSSIZE, MOUNTPOINTS. Drives in memory and images are left out.
/// </summary>
public static partial class BlockDevices
{
    private const int MostDrives = 256,
        MostNested = 16;
    private static readonly string[] NoDrives = ["loop", "zram", "ram", "sr", "fd"];

    internal static bool IsAt(JsonElement? root) => root.Get("blockdevices") is not null;

    /// <exception cref="RefusedException">It lists more than a machine holds.</exception>
    internal static Reading Decode(JsonElement? root)
    {
        var listed = root.Items("blockdevices")
            .Where(d =>
                (d.Text("type") ?? "disk") == "disk"
                && !NoDrives.Any(n => d.Text("name")?.StartsWith(n, StringComparison.Ordinal) == true)
                && !BootArea().IsMatch(d.Text("name") ?? "")
            )
            .Take(MostDrives + 1)
            .ToArray();
        var drives = listed.Where(d => d.Number("size") is > 0).ToArray();
        // A reader without its card is listed with 0; only what gives no size at all is unsaid.
        var unsaid = listed.Where(d => d.Number("size") is null).Select(d => d.Text("name") ?? "a drive").ToArray();
        return drives.Length > MostDrives
            ? throw RefusedException.Invalid(
                "drives-too-many",
                $"The list holds more than {MostDrives} drives. Send that of one machine."
            )
            : Reading.OfDrives(
                [.. drives.Select(Drive).GroupBy(Whole).Select(g => g.Aggregate(Together))],
                [.. drives.SelectMany(d => Arrays(d, 0)).DistinctBy(a => a.Name)]
            ) with
            {
                Missing = [.. unsaid.Select(name => $"the size of {name}: the system gives none")],
            };
    }

    // An NVMe drive may be divided into namespaces: nvme0n1 and nvme0n2 are parts of one.
    private static string Whole(DriveReading d) =>
        Namespace().Match(d.Device ?? "") is { Success: true } m && d.Drive.Serial is { } serial
            ? $"{m.Groups[1].Value} {serial}"
            : $"{d.Device}";

    private static DriveReading Together(DriveReading a, DriveReading b) =>
        a with
        {
            Drive = a.Drive with { Size = new DriveSize(Sum(a.Drive.Size.Bytes, b.Drive.Size.Bytes)) },
            UsedBytes = a.UsedBytes is { } x && b.UsedBytes is { } y ? Sum(x, y) : a.UsedBytes ?? b.UsedBytes,
            Boots = a.Boots is true || b.Boots is true ? true : a.Boots ?? b.Boots,
            Initialised = a.Initialised is true || b.Initialised is true,
            SpareBytes = a.SpareBytes is { } s && b.SpareBytes is { } t ? Sum(s, t) : null,
            Labels = a.Labels is null ? b.Labels : [.. a.Labels, .. b.Labels ?? []],
            Mounts = a.Mounts is null ? b.Mounts : [.. a.Mounts, .. b.Mounts ?? []],
        };

    private static long Sum(long a, long b) => a > long.MaxValue - b ? long.MaxValue : a + b;

    // What lies on an array lies on no one drive of it.
    private static bool IsArray(JsonElement? d) =>
        d.Text("type")?.StartsWith("raid", StringComparison.Ordinal) == true
        || d.Text("name")?.StartsWith("md", StringComparison.Ordinal) == true;

    private static IEnumerable<ArrayReading> Arrays(JsonElement? d, int depth) =>
        depth > MostNested
            ? []
            : d.Items("children")
                .SelectMany(c =>
                    IsArray(c) && c.Text("name") is { } name
                        ?
                        [
                            new ArrayReading(
                                name,
                                c.Text("type"),
                                true,
                                null,
                                null,
                                null,
                                null,
                                null,
                                SizeBytes: c.Number("size"),
                                UsedBytes: Used(c, 0)
                            ),
                        ]
                        : Arrays(c, depth + 1)
                );

    private static DriveReading Drive(JsonElement? d)
    {
        var mounts = Mounts(d, 0).ToArray();
        return new DriveReading(
            null,
            new Drive(
                new DriveSize(d.Number("size")!.Value),
                null,
                null,
                null,
                null,
                d.Number("log-sec") is { } sector and <= 1 << 16 ? (int)sector : null,
                null,
                PartNumber.Of(d.Text("model")),
                d.Text("serial")
            ),
            Used(d, 0),
            mounts.Length > 0 ? mounts.Any(m => m is "/" or "/boot" or "/boot/efi") : null,
            d.Text("name"),
            d.Text("tran"),
            // A drive with a file system right on it has no table, and wants none.
            d.Text("pttype")
                is not null
                || mounts.Length > 0
                || d.Text("fstype") is not null
                || d.Items("children").Any(),
            SpareBytes: Spare(d),
            Labels: Told(d, "label", 0) ? [.. Labels(d, 0)] : null,
            Mounts: Told(d, "mountpoint", 0) || Told(d, "mountpoints", 0) ? mounts : null
        );
    }

    // A column that was not asked for says nothing; one that is null says that there is none.
    private static bool Told(JsonElement? d, string column, int depth) =>
        d is { ValueKind: JsonValueKind.Object } node
        && (
            node.TryGetProperty(column, out _)
            || (depth <= MostNested && d.Items("children").Any(c => Told(c, column, depth + 1)))
        );

    private static IEnumerable<string> Labels(JsonElement? d, int depth) =>
        depth > MostNested
            ? []
            : new[] { d.Text("label") }
                .Where(l => l is { Length: > 0 })
                .OfType<string>()
                .Concat(d.Items("children").SelectMany(c => Labels(c, depth + 1)));

    // What lies in no partition, and what a mounted file system leaves of its partition: a copy that was not grown.
    private static long? Spare(JsonElement? d)
    {
        var parts = d.Items("children").Where(c => c.Text("type") == "part").ToArray();
        return d.Text("pttype") is null
            ? null
            : Math.Max(
                0,
                d.Number("size")!.Value
                    - parts.Sum(p =>
                        p.Number("size") is { } all and <= 1L << 60 ? Math.Min(all, p.Number("fssize") ?? all) : 0
                    )
            );
    }

    private static IEnumerable<string> Mounts(JsonElement? d, int depth) =>
        depth > MostNested
            ? []
            :
            [
                .. d.Items("mountpoints")
                    .Append(d.Get("mountpoint"))
                    .Where(m => m is { ValueKind: JsonValueKind.String })
                    .Select(m => Words.Plain(m!.Value.GetString()!)),
                .. d.Items("children").SelectMany(c => Mounts(c, depth + 1)),
            ];

    private static long? Used(JsonElement? d, int depth)
    {
        var below =
            depth > MostNested
                ? []
                : d.Items("children").Where(c => !IsArray(c)).Select(c => Used(c, depth + 1)).OfType<long>().ToArray();
        var all = d.Number("fsused") is { } own ? below.Append(own) : below;
        return all.Any() ? all.Aggregate(0L, Sum) : null;
    }

    [GeneratedRegex(@"^mmcblk\d+(boot\d+|rpmb)$", RegexOptions.CultureInvariant)]
    private static partial Regex BootArea();

    [GeneratedRegex(@"^(nvme\d+)n\d+$", RegexOptions.CultureInvariant)]
    private static partial Regex Namespace();
}
