using Revtal.Core.Checks;

namespace Revtal.Core.Reports;

/// <summary>
/// What the customer is told of an order whose work is done: each sentence rests on its journal. It is signed as it
/// stands, and every paper and page of it is written from this alone.
/// </summary>
/// <param name="Entry">The sequence of the last entry that it rests on.</param>
/// <param name="At">When it was made.</param>
/// <param name="Machine">Maker and name.</param>
/// <param name="Model">The guide's code.</param>
/// <param name="HandedBackAt">Null while it is here.</param>
/// <param name="Complaint">As it was written down over the counter.</param>
/// <param name="Done">What was done, a sentence each.</param>
/// <param name="Sentence">The verdict with its figures.</param>
/// <param name="Slots">In the guide's order.</param>
/// <param name="Drives">Bays of which anything is known.</param>
/// <param name="Figures">Load and benchmarks.</param>
/// <param name="Found">What was noticed, in words for the customer.</param>
/// <param name="LetBe">Gates that were waived and holds that were released, with reason and name.</param>
/// <param name="CameOut">What came out, and what becomes of it.</param>
/// <param name="Watched">How a fault was watched for; null where none was.</param>
/// <param name="Later">What is left for the next visit; null for nothing.</param>
public sealed record Report(
    string Shop,
    int Order,
    int Entry,
    DateTimeOffset At,
    string Machine,
    string Model,
    string? Serial,
    string Customer,
    DateTimeOffset TakenInAt,
    DateTimeOffset? HandedBackAt,
    string Complaint,
    string? Goal,
    IReadOnlyList<string> Done,
    IReadOnlyList<ReportPart> Fitted,
    Verdict Verdict,
    string Sentence,
    IReadOnlyList<ReportSlot> Slots,
    CheckTotal Installed,
    CheckTotal Usable,
    IReadOnlyList<ReportDrive> Drives,
    IReadOnlyList<ReportFigure> Figures,
    IReadOnlyList<string> Found,
    IReadOnlyList<string> LetBe,
    IReadOnlyList<string> CameOut,
    string? Watched,
    string? Later
);

/// <summary>A part that was fitted.</summary>
/// <param name="Name">As the catalogue calls it, else what it is.</param>
/// <param name="Serial">As the machine reads it, else as it was set aside; null where nobody knows.</param>
/// <param name="WarrantyMonths">From the day of the hand-back; null where the catalogue does not tell.</param>
/// <param name="WarrantyUntil">The last day; null before the hand-back.</param>
public sealed record ReportPart(
    string Position,
    string Name,
    string? Number,
    string? Serial,
    int? WarrantyMonths,
    DateOnly? WarrantyUntil
);

/// <summary>A slot in three rows.</summary>
/// <param name="Before">“8 GB”, “empty”, “unknown”.</param>
/// <param name="After">As it was read: “16 GB”, “not seen”.</param>
/// <param name="Stays">What sits there afterwards is what sat there before.</param>
/// <param name="BeforeBytes">0 where it was empty, null where nobody knows; so the other two.</param>
/// <param name="Part">The number of what was read there.</param>
/// <param name="Serial">Of what was read there.</param>
public sealed record ReportSlot(
    string Slot,
    string Before,
    string Planned,
    string After,
    SlotMatch Match,
    bool Stays,
    long? BeforeBytes,
    long? PlannedBytes,
    long? AfterBytes,
    string? Part,
    string? Serial
);

/// <summary>A drive bay in three rows; sizes as sold, with the binary one beside it.</summary>
/// <param name="Before">Null where nothing was read there.</param>
/// <param name="Planned">Null where nothing should be there.</param>
/// <param name="After">Null where nothing is seen there.</param>
/// <param name="Part">The model of what was read there.</param>
/// <param name="Health">What the drive says of itself: “sound, 1200 h, 3 % worn”; null where it was not asked.</param>
public sealed record ReportDrive(
    string Bay,
    string? Before,
    string? Planned,
    string? After,
    SlotMatch Match,
    string? Part,
    string? Serial,
    string? Health
);

/// <summary>A figure before and after.</summary>
/// <param name="Percent">How much it changed; null where it cannot be said.</param>
/// <param name="Better">Null where there is nothing to judge.</param>
public sealed record ReportFigure(
    string Name,
    string Unit,
    decimal? Before,
    decimal? After,
    decimal? Percent,
    bool? Better
);
