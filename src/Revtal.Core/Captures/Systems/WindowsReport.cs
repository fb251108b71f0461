using System.Globalization;
using System.Text.Json;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>
/// What the collector's PowerShell script sends: <c>format: revtal-windows/1</c> and, by their own names, the
/// properties of the system's management classes
/// Win32_ComputerSystem, Win32_BIOS, Win32_OperatingSystem, Win32_PhysicalMemoryArray, Win32_PhysicalMemory, MSFT_Disk,
/// MSFT_Partition, MSFT_Volume,
/// MSFT_PhysicalDisk and MSFT_StorageReliabilityCounter. A list of one may stand without its brackets.
/// </summary>
public static class WindowsReport
{
    private const int MostSlots = 1024,
        MostDrives = 256;

    internal static bool IsAt(JsonElement? root) => root.Text("format") == "revtal-windows/1";

    internal static Reading Decode(JsonElement? root)
    {
        var (computer, bios, os) = (root.Get("computerSystem"), root.Get("bios"), root.Get("operatingSystem"));
        var arrays = root.Several("physicalMemoryArray").Where(a => a.Number("Use") is null or 3).ToArray();
        var slots = root.Several("physicalMemory").Take(MostSlots).Select(Slot).ToArray();
        var usable = Kilobytes(os.Number("TotalVisibleMemorySize"));
        var paged = Paged(os);
        var inUse = usable - Kilobytes(os.Number("FreePhysicalMemory")) + (paged ?? 0);
        var bits = os.Text("OSArchitecture");
        return new Reading(
            [Source.OperatingSystem],
            new SystemIdentity(computer.Text("Manufacturer"), computer.Text("Model"), bios.Text("SerialNumber")),
            new FirmwareIdentity(bios.Text("Manufacturer"), bios.Text("SMBIOSBIOSVersion")),
            new MemoryReading(
                slots.Length > 0 && slots.All(s => s.SizeBytes is not null)
                    ? slots.Aggregate(
                        0L,
                        (sum, s) => sum > long.MaxValue - s.SizeBytes!.Value ? long.MaxValue : sum + s.SizeBytes.Value
                    )
                    : null,
                usable,
                Kilobytes(
                    arrays
                        .Select(a => a.Number("MaxCapacityEx") ?? a.Number("MaxCapacity"))
                        .FirstOrDefault(m => m is > 0)
                ),
                arrays.Select(a => a.Number("MemoryDevices")).FirstOrDefault(m => m is > 0 and <= MostSlots)
                    is { } count
                    ? (int)count
                    : null,
                slots,
                inUse is > 0 ? inUse : null,
                paged
            ),
            null,
            [.. root.Several("disk").Take(MostDrives).Select(d => DriveOf(root, d))],
            Host: new HostReading(
                os.Text("Caption"),
                bits is null ? null : bits.StartsWith("64", StringComparison.Ordinal),
                UpSeconds: root.Number("upSeconds"),
                TakenAt: CollectorNotes.Time(root.Text("taken"))
            ),
            Missing:
            [
                .. root.Several("missing")
                    .Select(m => m is { ValueKind: JsonValueKind.String } s ? s.GetString() : null)
                    .OfType<string>()
                    .Where(m => m.Length <= 300)
                    .Select(Words.Plain)
                    .Take(20),
            ]
        );
    }

    // Empty slots are not listed by the class; a locator is the firmware's own.
    private static SlotReading Slot(JsonElement? m) =>
        new(
            m.Text("DeviceLocator"),
            m.Text("BankLabel"),
            m.Number("Capacity"),
            Smbios.SmbiosNames.FormFactor(Form(m.Number("FormFactor"))),
            Smbios.SmbiosNames.Type(
                Small(m.Number("SMBIOSMemoryType")) is { } type and <= 255 ? (byte)type : (byte?)null
            ),
            Small(m.Number("Speed")) is > 0 and { } rated ? rated : null,
            Small(m.Number("ConfiguredClockSpeed")) is > 0 and { } runs ? runs : null,
            m.Text("Manufacturer"),
            m.Text("SerialNumber"),
            m.Text("PartNumber"),
            Small(m.Number("TotalWidth")),
            Small(m.Number("DataWidth"))
        );

    // The class counts forms in its own way: 8 a DIMM, 12 a SO-DIMM; DSP0134 7.18.1 has 9 and 13.
    private static byte? Form(long? form) =>
        form switch
        {
            8 => 0x09,
            12 => 0x0D,
            _ => null,
        };

    private static DriveReading DriveOf(JsonElement? root, JsonElement? d)
    {
        var number = d.Number("Number");
        var physical = root.Several("physicalDisk")
            .FirstOrDefault(p => p.Text("DeviceId") == number?.ToString(CultureInfo.InvariantCulture));
        var counter = root.Several("reliability")
            .FirstOrDefault(r => r.Text("DeviceId") == number?.ToString(CultureInfo.InvariantCulture));
        var letters = root.Several("partition")
            .Where(p => p.Number("DiskNumber") == number)
            .Select(p => p.Text("DriveLetter"))
            .OfType<string>()
            .ToArray();
        var volumes = root.Several("volume")
            .Where(v => v.Text("DriveLetter") is { } letter && letters.Contains(letter))
            .ToArray();
        var size = d.Number("Size");
        return new DriveReading(
            null,
            new Drive(
                new DriveSize(size ?? 0),
                null,
                null,
                null,
                null,
                Small(d.Number("LogicalSectorSize")),
                null,
                PartNumber.Of(d.Text("FriendlyName")),
                d.Text("SerialNumber")
            ),
            volumes.Length > 0
                ? volumes.Sum(v => Math.Clamp((v.Number("Size") ?? 0) - (v.Number("SizeRemaining") ?? 0), 0, 1L << 55))
                : null,
            d.Flag("IsBoot"),
            number is { } n ? $"disk {n}" : null,
            Bus(d.Number("BusType")),
            d.Number("PartitionStyle") is { } style ? style is 1 or 2 : null,
            Health(physical, counter),
            size - d.Number("AllocatedSize") is >= 0 and { } spare ? spare : null,
            Location(d.Text("Location")),
            volumes.Any(v => v.Get("Label") is not null)
                ? [.. volumes.Select(v => v.Text("Label")).Where(l => l is { Length: > 0 }).OfType<string>()]
                : null,
            root.Several("partition").Any() ? [.. letters.Where(l => l.Length > 0).Select(l => $"{l}:")] : null
        );
    }

    // “Integrated : Bus 0 : Device 23 : Function 0 : Adapter 1 : Port 3”; adapters are counted anew at each start.
    private static string? Location(string? text) =>
        text is null
            ? null
            : string.Join(" : ", text.Split(" : ").Where(p => !p.StartsWith("Adapter", StringComparison.Ordinal)));

    // MSFT_PhysicalDisk: 0 healthy, 1 warning, 2 unhealthy.
    private static DriveHealth? Health(JsonElement? disk, JsonElement? counter) =>
        disk is null && counter is null
            ? null
            : new DriveHealth(
                disk.Number("HealthStatus") is { } status and <= 2 ? status == 0 : null,
                Small(counter.Number("PowerOnHours")),
                Small(counter.Number("Wear")),
                null,
                Small(counter.Number("Temperature")),
                null,
                Small(counter.Number("ReadErrorsUncorrected")),
                null,
                null,
                null
            );

    private static string? Bus(long? type) =>
        type switch
        {
            7 => "usb",
            8 => "raid",
            10 => "sas",
            11 => "sata",
            17 => "nvme",
            _ => null,
        };

    private static long? Paged(JsonElement? os) =>
        os.Number("SizeStoredInPagingFiles") - os.Number("FreeSpaceInPagingFiles") is >= 0 and var kilobytes
            ? Kilobytes(kilobytes)
            : null;

    private static long? Kilobytes(long? kilobytes) => kilobytes is >= 0 and <= 1L << 43 ? kilobytes << 10 : null;

    private static int? Small(long? value) => value is >= 0 and <= int.MaxValue ? (int)value : null;
}
