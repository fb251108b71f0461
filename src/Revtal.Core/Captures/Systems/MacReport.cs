using System.Globalization;
using System.Text;
using System.Text.Json;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>
/// macOS's own system report as JSON: <c>system_profiler -json</c> with SPHardwareDataType, SPMemoryDataType,
/// SPNVMeDataType, SPSerialATADataType and
/// SPSoftwareDataType. Names of people and of machines, which it also holds, are not read.
/// </summary>
public static class MacReport
{
    private const int MostSlots = 64,
        MostDrives = 64;

    internal static bool IsAt(JsonElement? root) =>
        root.Get("SPHardwareDataType") is not null
        || root.Get("SPMemoryDataType") is not null
        || root.Get("SPNVMeDataType") is not null;

    internal static Reading Decode(JsonElement? root)
    {
        var hardware = root.Items("SPHardwareDataType").FirstOrDefault();
        var memory = root.Items("SPMemoryDataType").ToArray();
        // Slots are listed below a heading; soldered memory stands as one line of its own.
        var listed = memory.SelectMany(m => m.Items("_items")).Take(MostSlots).Select(Slot).ToArray();
        var soldered = listed.Length == 0 ? memory.Select(m => Soldered(m)).OfType<SlotReading>().ToArray() : [];
        var slots = listed.Concat(soldered).ToArray();
        var installed =
            slots.Length > 0 && slots.All(s => s.SizeBytes is not null)
                ? slots.Sum(s => s.SizeBytes!.Value)
                : Memory(hardware.Text("physical_memory"));
        return new Reading(
            [Source.OperatingSystem],
            new SystemIdentity(null, hardware.Text("machine_model"), hardware.Text("serial_number")),
            new FirmwareIdentity(null, hardware.Text("boot_rom_version")),
            new MemoryReading(
                installed,
                Memory(hardware.Text("physical_memory")),
                null,
                slots.Length > 0 ? slots.Length : null,
                slots
            ),
            null,
            [
                .. Controllers(root, "SPNVMeDataType")
                    .Concat(Controllers(root, "SPSerialATADataType"))
                    .Take(MostDrives)
                    .Select(p => DriveOf(p.Controller, p.Drive, p.Kind)),
            ],
            Host: new HostReading(root.Items("SPSoftwareDataType").FirstOrDefault().Text("os_version"), true)
        );
    }

    private static IEnumerable<(JsonElement? Controller, JsonElement? Drive, string Kind)> Controllers(
        JsonElement? root,
        string kind
    ) => root.Items(kind).SelectMany(c => c.Items("_items").Select(d => (c, d, kind)));

    private static SlotReading Slot(JsonElement? m) =>
        new(
            m.Text("_name"),
            null,
            m.Text("dimm_size") switch
            {
                "empty" or null => m.Text("dimm_status") == "empty" || m.Text("dimm_size") == "empty" ? 0 : null,
                var size => Memory(size),
            },
            null,
            m.Text("dimm_type") is { } type and not "empty" ? type : null,
            Megahertz(m.Text("dimm_speed")),
            Megahertz(m.Text("dimm_speed")),
            Plain(m.Text("dimm_manufacturer")),
            Plain(m.Text("dimm_serial_number")),
            Plain(m.Text("dimm_part_number"))
        );

    private static SlotReading? Soldered(JsonElement? m) =>
        Memory(m.Text("SPMemoryDataType")) is { } size
            ? new SlotReading(
                "Onboard",
                null,
                size,
                null,
                m.Text("dimm_type"),
                Manufacturer: Plain(m.Text("dimm_manufacturer"))
            )
            : null;

    private static DriveReading DriveOf(JsonElement? controller, JsonElement? d, string kind)
    {
        var volumes = d.Items("volumes").ToArray();
        var size = d.Number("size_in_bytes") ?? 0;
        var express = kind == "SPNVMeDataType";
        var now = express
            ? CollectorNotes.Express(
                d.Text("spnvme_linkspeed")?.Split(' ')[0] ?? "",
                d.Text("spnvme_linkwidth")?.TrimStart('x') ?? ""
            )
            : Sata(controller.Text("spsata_negotiatedlinkspeed"));
        return new DriveReading(
            null,
            new Drive(
                new DriveSize(size),
                null,
                null,
                null,
                null,
                null,
                null,
                PartNumber.Of(d.Text("device_model")),
                d.Text("device_serial")
            ),
            volumes.Length > 0 && volumes.All(v => v.Number("free_space_in_bytes") is not null)
                ? volumes.Sum(v =>
                    Math.Max(0, (v.Number("size_in_bytes") ?? 0) - v.Number("free_space_in_bytes")!.Value)
                )
                : null,
            volumes.Length > 0 ? volumes.Any(v => v.Text("mount_point") == "/") : null,
            d.Text("bsd_name"),
            express ? "nvme" : "sata",
            d.Text("partition_map_type") is { } map ? map != "unknown_partition_map_type"
                : volumes.Length > 0 ? true
                : null,
            new DriveHealth(
                d.Text("smart_status") switch
                {
                    "Verified" => true,
                    "Failing" => false,
                    _ => null,
                },
                null,
                null,
                null,
                null,
                null,
                null,
                null,
                now,
                express ? null : Sata(controller.Text("spsata_portspeed"))
            ),
            Path: d.Text("bay_name"),
            Labels: d.Get("volumes") is null ? null : [.. volumes.Select(v => v.Text("_name")).OfType<string>()],
            Mounts: d.Get("volumes") is null ? null : [.. volumes.Select(v => v.Text("mount_point")).OfType<string>()]
        );
    }

    // “6 Gigabit” of a port.
    private static string? Sata(string? speed) =>
        speed is not null && DriveLink.TryParse($"SATA {speed.Split(' ')[0]} Gb/s", out var link)
            ? link.ToString()
            : null;

    private static long? Memory(string? text) =>
        text is not null && MemorySize.TryParse(text, out var size) ? size.Bytes : null;

    // “2667 MHz”, by which the report means MT/s.
    private static int? Megahertz(string? text) =>
        int.TryParse(text?.Split(' ')[0], NumberStyles.None, CultureInfo.InvariantCulture, out var speed) && speed > 0
            ? speed
            : null;

    // Names may stand as the bytes of their letters: 0x544D2D38.
    private static string? Plain(string? text)
    {
        if (
            text is null
            || !text.StartsWith("0x", StringComparison.Ordinal)
            || text.Length % 2 != 0
            || text.Length < 8
            || !text.AsSpan(2).ContainsAnyExcept('0')
        )
        {
            return text is "" or "empty" or "-" ? null : text;
        }

        try
        {
            var letters = Encoding.ASCII.GetString(Convert.FromHexString(text.AsSpan(2))).Trim(' ', '\0');
            return letters.All(c => c is >= ' ' and <= '~') && letters.Length > 3 && letters.Any(char.IsAsciiLetter)
                ? letters
                : text[2..];
        }
        catch (FormatException)
        {
            return text;
        }
    }
}
