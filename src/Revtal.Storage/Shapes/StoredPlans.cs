namespace Revtal.Storage.Shapes;

// Plans, parts and quotes as they are kept; see EntryKinds.

internal sealed record StoredPlan(
    IReadOnlyList<StoredPlannedSlot> Slots,
    IReadOnlyList<StoredPlannedBay>? Bays = null,
    bool Cleans = false
);

internal sealed record StoredLaterStage(
    string Part,
    int Count,
    decimal Price,
    string Words,
    IReadOnlyList<StoredSlotChange>? Changes = null
);

internal sealed record StoredSlotChange(
    string Slot,
    StoredMemoryModule? Fit = null,
    string? From = null,
    bool Empty = false,
    bool Reseat = false,
    bool Inspect = false,
    StoredDriveWish? Drive = null
);

internal sealed record StoredQuote(
    IReadOnlyList<string> Work,
    IReadOnlyList<string> Risks,
    IReadOnlyList<StoredQuoteLine> Lines,
    int Minutes,
    int PastRuns,
    decimal DiscountPercent,
    decimal Discount,
    decimal Net,
    decimal TaxPercent,
    decimal Tax,
    decimal Total,
    string Currency,
    IReadOnlyList<string> Unpriced,
    IReadOnlyList<string>? Compared = null
);

internal sealed record StoredPlannedSlot(
    string Slot,
    string Use,
    StoredSlotContent Before,
    StoredMemoryModule? Module,
    string? From
);

internal sealed record StoredPlannedBay(
    string Bay,
    string Use,
    StoredDrive? Before = null,
    bool WasEmpty = false,
    StoredDriveWish? Wish = null,
    string? From = null,
    bool StartsHere = false
);

internal sealed record StoredQuoteLine(string Text, int Count, decimal? Each, decimal Sum);

internal sealed record StoredDrive(
    long Size,
    string? Form = null,
    string? Key = null,
    string? Link = null,
    decimal? Height = null,
    int? SectorSize = null,
    string? Maker = null,
    string? PartNumber = null,
    string? Serial = null
);

internal sealed record StoredSlotContent(string Slot, bool Known, StoredMemoryModule? Module, int? RunningSpeed);

internal sealed record StoredMemoryModule(
    long Size,
    string? Generation = null,
    string? Form = null,
    int? RatedSpeed = null,
    string? Maker = null,
    string? PartNumber = null,
    string? Serial = null,
    int? Ranks = null,
    bool? Ecc = null,
    bool? Registered = null,
    decimal? Voltage = null
);

internal sealed record StoredDriveWish(
    StoredDrive Drive,
    string? Path = null,
    string? Word = null,
    StoredDriveSetup? Setup = null,
    decimal? Pad = null,
    string? ArrayState = null,
    string? SystemFrom = null
);

internal sealed record StoredDriveSetup(
    bool Initialise = false,
    string? Partition = null,
    string? FileSystem = null,
    string? Label = null,
    string? Mount = null,
    bool Grow = false
);
