using System.Globalization;
using System.Text.Json.Serialization;
using Revtal.Core.Captures.Spd;
using Revtal.Core.Captures.Systems;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures;

/// <summary>What a reading rests on.</summary>
public enum Source
{
    /// <summary>The firmware's own tables (DMTF DSP0134).</summary>
    FirmwareTables,

    /// <summary>What the operating system reports.</summary>
    OperatingSystem,

    /// <summary>Seen by eye and typed in.</summary>
    Eyes,

    /// <summary>The modules' own EEPROMs (JEDEC SPD).</summary>
    ModuleEeprom,
}

/// <summary>What one or more sources said of a machine at one time. Unknown is null, never a guess.</summary>
/// <param name="Board">Null where no source tells of the board.</param>
/// <param name="Drives">The drives that were listed.</param>
/// <param name="Modules">What the modules' own EEPROMs say, in the order in which they were read; the slot is not told
/// there.</param>
/// <param name="Host">What the operating system tells of itself; null where it was not asked.</param>
/// <param name="Missing">What could not be asked, and why, as a sentence each.</param>
/// <param name="Conflicts">Where the sources of this reading contradict each other.</param>
/// <param name="EmptyBays">Bays, by the guide's ids, in which somebody saw no drive.</param>
/// <param name="ArraysTold">Whether the system told of its arrays, be it that there are none.</param>
/// <param name="Load">What it had to do over some minutes; null where nobody watched.</param>
public sealed record Reading(
    IReadOnlyList<Source> Sources,
    SystemIdentity System,
    FirmwareIdentity Firmware,
    MemoryReading Memory,
    BoardIdentity? Board = null,
    IReadOnlyList<DriveReading>? Drives = null,
    IReadOnlyList<SpdModule>? Modules = null,
    IReadOnlyList<ArrayReading>? Arrays = null,
    HostReading? Host = null,
    IReadOnlyList<string>? Missing = null,
    IReadOnlyList<SourceConflict>? Conflicts = null,
    IReadOnlyList<string>? EmptyBays = null,
    bool ArraysTold = false,
    LoadSeries? Load = null
)
{
    /// <summary>Empty where no source told of drives.</summary>
    public IReadOnlyList<DriveReading> Drives { get; init; } = Drives ?? [];

    /// <summary>From the modules' own EEPROMs.</summary>
    public IReadOnlyList<SpdModule> Modules { get; } = Modules ?? [];

    /// <summary>Empty where no source told of arrays.</summary>
    public IReadOnlyList<ArrayReading> Arrays { get; init; } = Arrays ?? [];

    /// <summary>What was asked for and could not be had, in words.</summary>
    public IReadOnlyList<string> Missing { get; init; } = Missing ?? [];

    /// <summary>Where two sources said different things.</summary>
    public IReadOnlyList<SourceConflict> Conflicts { get; private init; } = Conflicts ?? [];

    /// <summary>Bays in which somebody saw no drive.</summary>
    public IReadOnlyList<string> EmptyBays { get; init; } = EmptyBays ?? [];

    /// <summary>
    /// Whether a system listed all of its drives: what is not among them is not seen. Eyes and health reports tell of
    /// single ones.
    /// </summary>
    [JsonIgnore]
    public bool ListsDrives => Drives.Any(d => d.Initialised is not null || d.Transport is not null);

    /// <summary>Whether it tells what the machine had to do, and nothing of the machine itself.</summary>
    [JsonIgnore]
    public bool IsLoadAlone => Load is not null && Sources.Count == 0;

    /// <summary>The same, with one more contradiction.</summary>
    public Reading Disputed(SourceConflict conflict) => this with { Conflicts = [.. Conflicts, conflict] };

    /// <summary>What nobody asked.</summary>
    public static Reading Nothing { get; } =
        new([], SystemIdentity.Unknown, FirmwareIdentity.Unknown, new MemoryReading(null, null, null, null, []));

    /// <summary>A reading of EEPROMs alone.</summary>
    public static Reading OfModules(IReadOnlyList<SpdModule> modules) =>
        new(
            [Source.ModuleEeprom],
            SystemIdentity.Unknown,
            FirmwareIdentity.Unknown,
            new MemoryReading(null, null, null, null, []),
            null,
            null,
            modules
        );

    /// <summary>A reading of drives and arrays alone, from the operating system.</summary>
    public static Reading OfDrives(
        IReadOnlyList<DriveReading> drives,
        IReadOnlyList<ArrayReading> arrays,
        bool arraysTold = false
    ) =>
        new(
            [Source.OperatingSystem],
            SystemIdentity.Unknown,
            FirmwareIdentity.Unknown,
            new MemoryReading(null, null, null, null, []),
            null,
            drives,
            null,
            arrays,
            ArraysTold: arraysTold
        );

    /// <summary>
    /// The two readings as one: the firmware's facts from the one that has them, the system's from the other. Where
    /// both tell and differ, the first counts and the conflict is kept.
    /// </summary>
    public static Reading Join(Reading a, Reading b) =>
        new(
            [.. a.Sources.Union(b.Sources)],
            new SystemIdentity(
                a.System.Manufacturer ?? b.System.Manufacturer,
                a.System.Product ?? b.System.Product,
                a.System.Serial ?? b.System.Serial
            ),
            new FirmwareIdentity(a.Firmware.Vendor ?? b.Firmware.Vendor, a.Firmware.Version ?? b.Firmware.Version),
            new MemoryReading(
                a.Memory.InstalledBytes ?? b.Memory.InstalledBytes,
                a.Memory.UsableBytes ?? b.Memory.UsableBytes,
                a.Memory.MaxCapacityBytes ?? b.Memory.MaxCapacityBytes,
                a.Memory.SlotCount ?? b.Memory.SlotCount,
                a.Memory.Slots.Count > 0 ? a.Memory.Slots : b.Memory.Slots,
                a.Memory.InUseBytes ?? b.Memory.InUseBytes,
                a.Memory.PagedOutBytes ?? b.Memory.PagedOutBytes,
                a.Memory.MappedBytes ?? b.Memory.MappedBytes
            ),
            a.Board ?? b.Board,
            DriveJoin.Of(a.Drives, b.Drives),
            a.Modules.Count > 0 ? a.Modules : b.Modules,
            ArrayReading.Join(a.Arrays, b.Arrays),
            a.Host is { } host && b.Host is { } other ? host.With(other) : a.Host ?? b.Host,
            [.. a.Missing, .. b.Missing],
            [.. a.Conflicts, .. b.Conflicts, .. SourceConflicts.Between(a, b)],
            [.. a.EmptyBays.Union(b.EmptyBays)],
            a.ArraysTold || b.ArraysTold,
            a.Load ?? b.Load
        );
}

/// <summary>Who made the machine and which one it is (DSP0134 type 1).</summary>
public sealed record SystemIdentity(string? Manufacturer, string? Product, string? Serial)
{
    /// <summary>Of a machine that nobody asked.</summary>
    public static SystemIdentity Unknown { get; } = new(null, null, null);
}

/// <summary>Who made the main board and which one it is (DSP0134 type 2).</summary>
public sealed record BoardIdentity(string? Manufacturer, string? Product, string? Serial);

/// <summary>The firmware that answered (DSP0134 type 0).</summary>
public sealed record FirmwareIdentity(string? Vendor, string? Version)
{
    /// <summary>Of firmware that nobody asked.</summary>
    public static FirmwareIdentity Unknown { get; } = new(null, null);
}

/// <summary>The memory of a machine.</summary>
/// <param name="InstalledBytes">What the firmware counts as fitted, in bytes.</param>
/// <param name="UsableBytes">What the operating system may use, in bytes; less than installed, since firmware, graphics
/// and the system keep some.</param>
/// <param name="MaxCapacityBytes">The most that the firmware says it takes, in bytes.</param>
/// <param name="SlotCount">How many slots the firmware counts; it may list fewer.</param>
/// <param name="Slots">The slots that were listed, in the order in which they were.</param>
/// <param name="InUseBytes">What was in use when it was read, in bytes: of the memory, and what had been moved out of
/// it for want of room.</param>
/// <param name="PagedOutBytes">Of that, what had been moved out, in bytes.</param>
/// <param name="MappedBytes">What the firmware maps for use (DSP0134 type 19), in bytes.</param>
public sealed record MemoryReading(
    long? InstalledBytes,
    long? UsableBytes,
    long? MaxCapacityBytes,
    int? SlotCount,
    IReadOnlyList<SlotReading> Slots,
    long? InUseBytes = null,
    long? PagedOutBytes = null,
    long? MappedBytes = null
);

/// <summary>One slot as one source reports it (DSP0134 type 17).</summary>
/// <param name="Locator">The firmware's own name of the slot; the guide's slot id in a reading by eye.</param>
/// <param name="Bank">The firmware's name of the bank or channel.</param>
/// <param name="SizeBytes">In bytes; 0 when the slot is empty, null when the size is unknown.</param>
/// <param name="FormFactor">DSP0134 name: <c>DIMM</c>, <c>SODIMM</c>.</param>
/// <param name="Type">DSP0134 name: <c>DDR4</c>, <c>RAM</c>.</param>
/// <param name="RatedSpeed">The fastest it is capable of, in MT/s.</param>
/// <param name="RunningSpeed">The speed it is set to, in MT/s.</param>
/// <param name="TotalWidth">In bits, with the bits for error correction.</param>
/// <param name="DataWidth">In bits, without them.</param>
/// <param name="MappedBytes">How much of it the firmware maps (DSP0134 type 20), in bytes; null where it does not
/// tell.</param>
public sealed record SlotReading(
    string? Locator,
    string? Bank,
    long? SizeBytes,
    string? FormFactor = null,
    string? Type = null,
    int? RatedSpeed = null,
    int? RunningSpeed = null,
    string? Manufacturer = null,
    string? Serial = null,
    string? PartNumber = null,
    int? TotalWidth = null,
    int? DataWidth = null,
    long? MappedBytes = null
)
{
    /// <summary>
    /// The module that sits there, or null when the slot is empty or its size unknown. Firmware says “DIMM” of small
    /// ones too: then the form is not known.
    /// </summary>
    public MemoryModule? Module() =>
        SizeBytes is > 0
            ? new MemoryModule(
                new MemorySize(SizeBytes.Value),
                Type,
                FormFactor == "DIMM" ? null : FormFactor,
                RatedSpeed,
                Manufacturer,
                Hardware.PartNumber.Of(PartNumber),
                Serial,
                Ecc: TotalWidth is { } total && DataWidth is > 0 and { } data ? total > data : null
            )
            : null;
}

/// <summary>One drive as one source reports it.</summary>
/// <param name="Bay">The guide's id of the bay, where the source can tell.</param>
/// <param name="UsedBytes">What its file systems hold, in bytes.</param>
/// <param name="Boots">Whether the system was started from it.</param>
/// <param name="Device">The system's name of it: <c>sda</c>, <c>nvme0n1</c>.</param>
/// <param name="Transport">How the system reaches it: <c>sata</c>, <c>nvme</c>, <c>usb</c>.</param>
/// <param name="Initialised">Whether it carries a partition table or a file system.</param>
/// <param name="SpareBytes">What lies in no partition, or in a partition but in no file system, in bytes.</param>
/// <param name="Path">How it is connected, as the system links it: it stays while names change.</param>
/// <param name="Labels">Of its file systems; empty where none has one, null where nobody looked.</param>
/// <param name="Mounts">Where its file systems are mounted; empty where none is, null where nobody looked.</param>
public sealed record DriveReading(
    string? Bay,
    Drive Drive,
    long? UsedBytes = null,
    bool? Boots = null,
    string? Device = null,
    string? Transport = null,
    bool? Initialised = null,
    DriveHealth? Health = null,
    long? SpareBytes = null,
    string? Path = null,
    IReadOnlyList<string>? Labels = null,
    IReadOnlyList<string>? Mounts = null
)
{
    /// <summary>Of a file system whose label the collector keeps to itself.</summary>
    public const string HiddenLabel = "-";

    /// <summary>Of a file system that is mounted where the collector does not say.</summary>
    public const string HiddenMount = "/elsewhere";

    /// <summary>What another source adds.</summary>
    internal DriveReading With(DriveReading other) =>
        new(
            Bay ?? other.Bay,
            Drive with
            {
                Size = Fuller(this, other),
                Form = Drive.Form ?? other.Drive.Form,
                Key = Drive.Key ?? other.Drive.Key,
                Link = Drive.Link ?? other.Drive.Link,
                Height = Drive.Height ?? other.Drive.Height,
                SectorSize = Drive.SectorSize ?? other.Drive.SectorSize,
                Maker = Drive.Maker ?? other.Drive.Maker,
                PartNumber = Drive.PartNumber ?? other.Drive.PartNumber,
                Serial = Drive.Serial ?? other.Drive.Serial,
            },
            UsedBytes ?? other.UsedBytes,
            Boots ?? other.Boots,
            Device ?? other.Device,
            Transport ?? other.Transport,
            Initialised ?? other.Initialised,
            Health is { } health && other.Health is { } more ? health.With(more) : Health ?? other.Health,
            SpareBytes ?? other.SpareBytes,
            Path ?? other.Path,
            Labels ?? other.Labels,
            Mounts ?? other.Mounts
        );

    // A system counts sectors, where eyes read a label.
    private static DriveSize Fuller(DriveReading a, DriveReading b) =>
        a.Drive.Size.Bytes == 0 || (a.Device is null && b.Device is not null && b.Drive.Size.Bytes > 0)
            ? b.Drive.Size
            : a.Drive.Size;
}

/// <summary>What a drive says of its own state.</summary>
/// <param name="Passed">Its own verdict.</param>
/// <param name="Hours">Powered on.</param>
/// <param name="WearPercent">Of the life that its maker plans; may exceed 100.</param>
/// <param name="SparePercent">Spare blocks left.</param>
/// <param name="Reallocated">Sectors replaced by spare ones.</param>
/// <param name="Errors">Data that could not be read or written back.</param>
/// <param name="Pending">Sectors that wait to be replaced.</param>
/// <param name="LinkNow">The speed that was agreed: <c>SATA 3 Gb/s</c>.</param>
/// <param name="LinkMost">The fastest it speaks.</param>
public sealed record DriveHealth(
    bool? Passed,
    int? Hours,
    int? WearPercent,
    int? SparePercent,
    int? Celsius,
    int? Reallocated,
    int? Errors,
    int? Pending,
    string? LinkNow,
    string? LinkMost
)
{
    /// <summary>“sound, 1200 h, 3 % worn, 2 sectors replaced”; null where it tells none of that.</summary>
    public string? Told() =>
        string.Join(
            ", ",
            new[]
            {
                Passed is { } passed ? (passed ? "sound by its own word" : "failing by its own word") : null,
                Hours is { } hours ? Figure(hours, "h") : null,
                WearPercent is { } wear ? Figure(wear, "% worn") : null,
                Reallocated is > 0 and var moved ? Figure(moved, "sectors replaced") : null,
                Errors is > 0 and var errors ? Figure(errors, "errors") : null,
                Pending is > 0 and var pending ? Figure(pending, "sectors in doubt") : null,
                LinkNow is { } now && LinkMost is { } most && now != most ? $"{now} of {most}" : null,
            }.OfType<string>()
        )
            is { Length: > 0 } told
            ? told
            : null;

    private static string Figure(int value, string unit) =>
        string.Create(CultureInfo.InvariantCulture, $"{value} {unit}");

    internal DriveHealth With(DriveHealth o) =>
        new(
            Passed ?? o.Passed,
            Hours ?? o.Hours,
            WearPercent ?? o.WearPercent,
            SparePercent ?? o.SparePercent,
            Celsius ?? o.Celsius,
            Reallocated ?? o.Reallocated,
            Errors ?? o.Errors,
            Pending ?? o.Pending,
            LinkNow ?? o.LinkNow,
            LinkMost ?? o.LinkMost
        );

    /// <summary>A link alone.</summary>
    internal static DriveHealth OfLink(string? now, string? most) =>
        new(null, null, null, null, null, null, null, null, now, most);
}

/// <summary>What the operating system tells of itself.</summary>
/// <param name="Name">And its version.</param>
/// <param name="Is64Bit">A 32-bit system ends at 4 GB or before.</param>
/// <param name="LimitBytes">A limit on memory that it was started with, in bytes.</param>
/// <param name="Limit">Where that limit comes from: the start setting as it is written, or the edition.</param>
/// <param name="UpSeconds">Since it started.</param>
/// <param name="TakenAt">By the machine's own clock.</param>
/// <param name="Load">How many tasks ran or waited to, over the last minutes.</param>
public sealed record HostReading(
    string? Name = null,
    bool? Is64Bit = null,
    long? LimitBytes = null,
    string? Limit = null,
    long? UpSeconds = null,
    DateTimeOffset? TakenAt = null,
    decimal? Load = null
)
{
    // What runs in 64 bits proves its processor, whatever the firmware says of that.
    internal HostReading With(HostReading o) =>
        new(
            Name ?? o.Name,
            Is64Bit is true || o.Is64Bit is true ? true : Is64Bit ?? o.Is64Bit,
            LimitBytes ?? o.LimitBytes,
            Limit ?? o.Limit,
            UpSeconds ?? o.UpSeconds,
            TakenAt ?? o.TakenAt,
            Load ?? o.Load
        );
}
