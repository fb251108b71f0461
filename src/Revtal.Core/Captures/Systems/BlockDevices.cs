using System.Text.Json;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>
/// The drives as Linux lists them: JSON of <c>lsblk --json --bytes</c> (util-linux) with any of NAME, TYPE, SIZE,
/// MODEL, SERIAL, TRAN, LOG-SEC, PTTYPE,
/// FSUSED, FSSIZE, MOUNTPOINTS. Drives in memory and images are left out.
/// </summary>
public static class BlockDevices
{
    private const int MostDrives = 256,
        MostNested = 16;
    private static readonly string[] NoDrives = ["loop", "zram", "ram", "sr", "fd"];

    internal static bool IsAt(JsonElement? root) => root.Get("blockdevices") is not null;

    /// <exception cref="RefusedException">It lists more than a machine holds.</exception>
    internal static Reading Decode(JsonElement? root)
    {
        var drives = root.Items("blockdevices")
            .Where(d =>
                (d.Text("type") ?? "disk") == "disk"
                && d.Number("size") is > 0
                && !NoDrives.Any(n => d.Text("name")?.StartsWith(n, StringComparison.Ordinal) == true)
            )
            .Take(MostDrives + 1)
            .ToArray();
        return drives.Length > MostDrives
            ? throw RefusedException.Invalid(
                "drives-too-many",
                $"The list holds more than {MostDrives} drives. Send that of one machine."
            )
            : Reading.OfDrives([.. drives.Select(Drive)], []);
    }

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
            SpareBytes: Spare(d)
        );
    }

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
            depth > MostNested ? [] : d.Items("children").Select(c => Used(c, depth + 1)).OfType<long>().ToArray();
        var all = d.Number("fsused") is { } own ? below.Append(own) : below;
        return all.Any() ? all.Aggregate(0L, (a, b) => a > long.MaxValue - b ? long.MaxValue : a + b) : null;
    }
}
