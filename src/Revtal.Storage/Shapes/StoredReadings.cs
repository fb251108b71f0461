namespace Revtal.Storage.Shapes;

// What captures are kept as; see EntryKinds.

internal sealed record StoredReading(
    IReadOnlyList<string> Sources,
    StoredSystemIdentity System,
    StoredFirmwareIdentity Firmware,
    StoredMemoryReading Memory,
    StoredBoardIdentity? Board = null,
    IReadOnlyList<StoredDriveReading>? Drives = null,
    IReadOnlyList<StoredSpdModule>? Modules = null,
    IReadOnlyList<StoredArrayReading>? Arrays = null,
    StoredHostReading? Host = null,
    IReadOnlyList<string>? Missing = null,
    IReadOnlyList<StoredSourceConflict>? Conflicts = null,
    IReadOnlyList<string>? EmptyBays = null,
    bool ArraysTold = false,
    StoredLoadSeries? Load = null
);

internal sealed record StoredLoadSeries(
    IReadOnlyList<int> Seconds,
    IReadOnlyList<long?> InUseBytes,
    IReadOnlyList<long?> PagedOutBytes,
    IReadOnlyList<int?> CpuPercent,
    IReadOnlyList<long?> DiskBytes,
    IReadOnlyList<long?> NetBytes
);

internal sealed record StoredSystemIdentity(string? Manufacturer, string? Product, string? Serial);

internal sealed record StoredFirmwareIdentity(string? Vendor, string? Version);

internal sealed record StoredMemoryReading(
    long? InstalledBytes,
    long? UsableBytes,
    long? MaxCapacityBytes,
    int? SlotCount,
    IReadOnlyList<StoredSlotReading> Slots,
    long? InUseBytes = null,
    long? PagedOutBytes = null,
    long? MappedBytes = null
);

internal sealed record StoredBoardIdentity(string? Manufacturer, string? Product, string? Serial);

internal sealed record StoredDriveReading(
    string? Bay,
    StoredDrive Drive,
    long? UsedBytes = null,
    bool? Boots = null,
    string? Device = null,
    string? Transport = null,
    bool? Initialised = null,
    StoredDriveHealth? Health = null,
    long? SpareBytes = null,
    string? Path = null,
    IReadOnlyList<string>? Labels = null,
    IReadOnlyList<string>? Mounts = null
);

internal sealed record StoredSpdModule(
    string Type,
    string? Form,
    long? SizeBytes,
    int? Ranks,
    int? DeviceWidth,
    int? BusWidth,
    bool Ecc,
    bool Registered,
    int? SpeedMTs,
    decimal? Voltage,
    string? PartNumber,
    string? Serial,
    string? Made,
    int? MakerBank,
    int? MakerCode,
    bool CrcValid
);

internal sealed record StoredArrayReading(
    string Name,
    string? Level,
    bool Active,
    int? Wanted,
    int? Present,
    string? Doing,
    decimal? Percent,
    decimal? MinutesLeft,
    string? Waits = null,
    IReadOnlyList<StoredArrayMember>? Members = null,
    long? SizeBytes = null,
    long? UsedBytes = null
);

internal sealed record StoredArrayMember(string Device, bool IsSpare = false, bool IsFaulty = false);

internal sealed record StoredHostReading(
    string? Name = null,
    bool? Is64Bit = null,
    long? LimitBytes = null,
    string? Limit = null,
    long? UpSeconds = null,
    DateTimeOffset? TakenAt = null,
    decimal? Load = null
);

internal sealed record StoredSourceConflict(string What, string First, string Other);

internal sealed record StoredSlotReading(
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
);

internal sealed record StoredDriveHealth(
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
);
