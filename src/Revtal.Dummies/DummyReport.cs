using System.Globalization;
using System.Text;
using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;

namespace Revtal.Dummies;

/// <summary>
/// What a running simulated machine answers to the collector: tables and EEPROMs as bytes, the system's own outputs as
/// text.
/// </summary>
public static class DummyReport
{
    private const int KeptMegabytes = 180;
    private const long LeastWanted = 9 << 20;

    /// <summary>All that the collector would send.</summary>
    /// <exception cref="RefusedException">It is off, or has no system.</exception>
    public static CaptureBundle All(Guide guide, DummyMachine m, DateTimeOffset now)
    {
        if (!m.IsOn || (guide.Drives.Count > 0 && DummyStart.StartDrive(guide, m) is null))
        {
            throw RefusedException.Rule(
                "dummy-off",
                m.IsOn
                    ? $"{m.Name} finds no system to start, so nothing can be collected. Its firmware still shows the "
                        + "memory."
                    : $"{m.Name} is off. Start it first."
            );
        }

        var files = new List<CaptureFile>
        {
            new("firmware.bin", Tables(guide, m)),
            Text("meminfo", MemInfo(guide, m)),
            Text("notes.txt", Notes(m, now, m.StartedAt!.Value)),
        };
        files.AddRange(
            DummyStart
                .Seen(guide, m)
                .Where(s => !IsSoldered(guide, s))
                .Select(s => new CaptureFile($"spd-{s}", ModuleEeprom.Write(m.Slots[s].Module)))
        );
        var drives = guide
            .Drives.Where(b => m.Bays.TryGetValue(b.Id, out var d) && d.Seat == DummySeat.Home)
            .Select((b, i) => (Bay: b, Drive: m.Bays[b.Id], Device: Device(b, i)))
            .ToArray();
        if (drives.Length > 0)
        {
            files.Add(Text("lsblk.json", Blocks(guide, m, drives)));
            files.Add(Text("by-path.txt", string.Concat(drives.Select(d => $"{PathOf(guide, d.Bay)} {d.Device}\n"))));
            files.AddRange(drives.Select(d => Text($"smart-{d.Device}.json", Health(d.Bay, d.Drive, d.Device))));
        }

        if (guide.Drives.Count >= 4)
        {
            files.Add(Text("mdstat", Arrays(drives, guide.Drives.Count)));
        }

        return CaptureBundle.Of(files);
    }

    /// <summary>Firmware tables and memory lines alone.</summary>
    public static CaptureBundle Memory(Guide guide, DummyMachine m) =>
        CaptureBundle.Of([new CaptureFile("firmware.bin", Tables(guide, m)), Text("meminfo", MemInfo(guide, m))]);

    private static byte[] Tables(Guide guide, DummyMachine m)
    {
        var seen = DummyStart.Seen(guide, m);
        var slots = guide.Memory.Slots.Select(
            (s, i) =>
            {
                var form =
                    IsSoldered(guide, s.Id) ? (byte)0x0B
                    : guide.Memory.Module == "DIMM" ? (byte)0x09
                    : (byte)0x0D;
                return seen.Contains(s.Id) && m.Slots[s.Id] is { Module: var module } fitted
                    ? new DummySlot(
                        s.ReportsAs ?? s.Id,
                        $"BANK {i}",
                        DummyStart.Bytes(module) >> 20,
                        module.Speed,
                        Running(guide, m, seen),
                        fitted.Maker,
                        $"{module.Serial:X8}",
                        module.PartNumber,
                        guide.Memory.Generation!.StartsWith("LPDDR4", StringComparison.Ordinal)
                            ? (byte)0x1E
                            : module.Generation switch
                            {
                                3 => (byte)0x18,
                                4 => (byte)0x1A,
                                _ => (byte)0x22,
                            },
                        form
                    )
                    : new DummySlot(s.ReportsAs ?? s.Id, $"BANK {i}", 0, Form: form);
            }
        );
        // A board claims what its slots take, whatever its maker states.
        var most = guide.Memory.Slots.All(s => s.Max is not null)
            ? guide.Memory.Slots.Sum(s => s.Max!.Value.Bytes)
            : guide.Memory.StatedMax!.Value.Bytes;
        return FirmwareTables.Dump(
            new DummyBoard(guide.Model.Maker, guide.Model.Code, m.Serial, "1.14", most >> 20, [.. slots])
        );
    }

    // The slowest of them, the board's grade for so many in a channel, or its lowest while the profile is off.
    private static int Running(Guide guide, DummyMachine m, IReadOnlyList<string> seen)
    {
        var fullest = seen.GroupBy(s => guide.Slot(s)!.Channel).Max(g => g.Count());
        var grades = guide.Memory.Speeds;
        var crowded = guide
            .Memory.PerChannel.Where(p => p.Key <= fullest)
            .Select(p => p.Value)
            .DefaultIfEmpty(int.MaxValue)
            .Min();
        return Math.Min(
            seen.Min(s => m.Slots[s].Module.Speed),
            Math.Min(
                crowded,
                grades.Count == 0 ? int.MaxValue
                    : m.ProfileOff ? grades[0]
                    : grades[^1]
            )
        );
    }

    private static string MemInfo(Guide guide, DummyMachine m)
    {
        var kilobytes = DummyStart.Seen(guide, m).Sum(s => DummyStart.Bytes(m.Slots[s].Module)) >> 10;
        var usable =
            kilobytes
            - (kilobytes / 64)
            - (KeptMegabytes << 10)
            - (guide.Memory.SharedGraphics is { } shared ? shared.Bytes >> 10 : 0);
        if (
            m.Limit is { } limit
            && limit.Split('=')[^1].TrimEnd('G') is var text
            && long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var gigabytes)
        )
        {
            usable = Math.Min(usable, (gigabytes << 20) - (KeptMegabytes << 10));
        }

        // The customer's work wants the same before and after, more on a larger machine; what finds no room is moved
        // out.
        var wanted = Math.Max(LeastWanted, guide.Memory.StatedMax!.Value.Bytes / 1024 * 9 / 64);
        var free = Math.Max(usable / 12, usable - wanted);
        var swap = usable / 2;
        var swapped = Math.Min(swap, Math.Max(0, wanted - (usable - free)));
        return string.Create(
            CultureInfo.InvariantCulture,
            $"""
            MemTotal:       {usable, 8} kB
            MemFree:        {free / 3, 8} kB
            MemAvailable:   {free, 8} kB
            SwapTotal:      {swap, 8} kB
            SwapFree:       {swap - swapped, 8} kB

            """
        );
    }

    private static string Notes(DummyMachine m, DateTimeOffset now, DateTimeOffset started)
    {
        var up = Math.Max(0, (long)(now - started).TotalSeconds);
        List<string> lines = ["revtal-notes/1", "script: dummy 1", "system: Linux 6.1 x86_64", "bits: 64"];
        if (m.Limit is { } limit)
        {
            lines.Add($"limit: {limit}");
        }

        lines.Add(string.Create(CultureInfo.InvariantCulture, $"taken: {now.UtcDateTime:yyyy-MM-ddTHH:mm:ssZ}"));
        lines.Add(string.Create(CultureInfo.InvariantCulture, $"up: {up}"));
        lines.Add("load: 0.4");
        lines.AddRange(m.Bays.Values.Where(b => b.Lanes > 0).Select(b => $"link: nvme0n1 8.0 {b.Lanes} 8.0 4"));
        return string.Concat(lines.Select(l => l + "\n"));
    }

    private static string Blocks(Guide guide, DummyMachine m, (DriveBay Bay, DummyDrive Drive, string Device)[] drives)
    {
        var start = DummyStart.StartDrive(guide, m);
        return JsonSerializer.Serialize(
            new
            {
                blockdevices = drives.Select(d => new
                {
                    name = d.Device,
                    type = "disk",
                    size = d.Drive.Bytes,
                    model = d.Drive.Model,
                    serial = d.Drive.Serial,
                    tran = d.Device.StartsWith('n') ? "nvme" : "sata",
                    pttype = d.Drive.PartitionBytes > 0 ? "gpt" : null,
                    children = d.Drive.PartitionBytes == 0
                        ? []
                        : new[]
                        {
                            new
                            {
                                name = d.Device + (d.Device.StartsWith('n') ? "p1" : "1"),
                                type = "part",
                                size = d.Drive.PartitionBytes,
                                fstype = "ext4",
                                label = d.Drive.Label,
                                fsused = d.Drive.UsedBytes,
                                fssize = d.Drive.PartitionBytes / 100 * 98,
                                mountpoints = new[]
                                {
                                    d.Bay.Id == start ? "/"
                                    : d.Drive.IsMounted ? DriveReading.HiddenMount
                                    : null,
                                },
                            },
                        },
                }),
            }
        );
    }

    private static string Health(DriveBay bay, DummyDrive d, string device)
    {
        var isExpress = device.StartsWith('n');
        var form =
            bay.Form!.StartsWith("M.2", StringComparison.Ordinal) ? bay.Form
            : bay.Form.StartsWith("2.5", StringComparison.Ordinal) ? "2.5 inches"
            : "3.5 inches";
        object common = new { json_format_version = new[] { 1, 0 } };
        return isExpress
            ? JsonSerializer.Serialize(
                new
                {
                    smartctl = common,
                    device = new { name = $"/dev/{device}", type = "nvme" },
                    model_name = d.Model,
                    serial_number = d.Serial,
                    user_capacity = new { bytes = d.Bytes },
                    logical_block_size = 512,
                    smart_status = new { passed = d.Reallocated == 0 },
                    power_on_time = new { hours = d.Hours },
                    temperature = new { current = 34 },
                    nvme_smart_health_information_log = new
                    {
                        percentage_used = d.WearPercent,
                        available_spare = 100,
                        media_errors = d.Reallocated,
                    },
                }
            )
            : JsonSerializer.Serialize(
                new
                {
                    smartctl = common,
                    device = new { name = $"/dev/{device}", type = "sat" },
                    model_name = d.Model,
                    serial_number = d.Serial,
                    user_capacity = new { bytes = d.Bytes },
                    logical_block_size = 512,
                    form_factor = new { name = form },
                    interface_speed = new
                    {
                        current = new { @string = "6.0 Gb/s" },
                        max = new { @string = "6.0 Gb/s" },
                    },
                    smart_status = new { passed = true },
                    power_on_time = new { hours = d.Hours },
                    temperature = new { current = 31 },
                    ata_smart_attributes = new
                    {
                        table = new[]
                        {
                            new { id = 5, raw = new { value = d.Reallocated } },
                            new { id = 197, raw = new { value = 0 } },
                        },
                    },
                }
            );
    }

    private static string Arrays((DriveBay Bay, DummyDrive Drive, string Device)[] drives, int wanted)
    {
        var members = string.Join(' ', drives.Select((d, i) => $"{d.Device}1[{i}]"));
        var present = new string('U', drives.Length) + new string('_', wanted - drives.Length);
        return $"""
            Personalities : [raid6] [raid5]
            md0 : active raid6 {members}
                  31255156736 blocks super 1.2 level 6, 512k chunk, algorithm 2 [{wanted}/{drives.Length}] [{present}]

            unused devices: <none>

            """;
    }

    // Each bay has its own connector, whatever the drives are called at this start.
    private static string PathOf(Guide guide, DriveBay bay)
    {
        var place = guide.Drives.ToList().IndexOf(bay) + 1;
        return bay.Link?.StartsWith("PCIe", StringComparison.Ordinal) == true
            ? $"pci-0000:{place:00}:00.0-{bay.Path ?? "nvme-1"}"
            : $"pci-0000:00:1f.2-{bay.Path ?? $"ata-{place}"}";
    }

    private static string Device(DriveBay bay, int index) =>
        bay.Link?.StartsWith("PCIe", StringComparison.Ordinal) == true ? $"nvme{index}n1" : $"sd{(char)('a' + index)}";

    private static bool IsSoldered(Guide guide, string slot) => guide.Slot(slot)?.Soldered == true;

    private static CaptureFile Text(string name, string text) => new(name, Encoding.UTF8.GetBytes(text));
}
