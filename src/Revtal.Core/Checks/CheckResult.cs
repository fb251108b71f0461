using System.Text.Json.Serialization;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>The outcome of a check.</summary>
public enum Verdict
{
    /// <summary>The readings do not say enough.</summary>
    Unknown,

    /// <summary>Everything is where and what it should be.</summary>
    AsPlanned,

    /// <summary>The capacity is there; something else is worth knowing or mending.</summary>
    WithRemarks,

    /// <summary>Some of the capacity is missing.</summary>
    Short,

    /// <summary>Nothing of what was fitted is seen.</summary>
    NotSeen,
}

/// <summary>Verdicts as they are said.</summary>
public static class VerdictWords
{
    /// <summary>“as planned”, “not seen”.</summary>
    public static string Spoken(this Verdict verdict) => Phrases.Words(verdict);
}

/// <summary>How much a finding weighs; the order is from light to heavy.</summary>
public enum Severity
{
    /// <summary>Explains a number; nothing to do.</summary>
    Note,

    /// <summary>Worth mending or telling the customer.</summary>
    Remark,

    /// <summary>The order is not done.</summary>
    Short,
}

/// <summary>What a finding alone makes of the verdict.</summary>
public enum FindingEffect
{
    /// <summary>As much as it weighs.</summary>
    Weight,

    /// <summary>The reading proves nothing: the verdict is unknown whatever else was found.</summary>
    ProvesNothing,

    /// <summary>Nothing of the work is seen.</summary>
    NothingSeen,
}

/// <summary>What the next action of a finding does, so that a face can start it.</summary>
public enum ActionKind
{
    None,

    /// <summary>Take what sits in the named positions out and seat it again.</summary>
    Reseat,

    /// <summary>Take the reading again.</summary>
    ReadAgain,

    /// <summary>Change a setting of the firmware or the system.</summary>
    Setting,

    /// <summary>Look at the parts and compare them with the plan.</summary>
    Compare,

    /// <summary>Search for the part at fault by trying arrangements.</summary>
    SwapTest,

    /// <summary>Partition the drive, or grow what is on it.</summary>
    SetUp,

    /// <summary>Nothing but time mends it.</summary>
    Wait,
}

/// <summary>What to do about a finding.</summary>
/// <param name="Slots">The slots and bays it is about, empty when it is about none.</param>
public sealed record NextAction(ActionKind Kind, string Text, IReadOnlyList<string> Slots);

/// <summary>One thing noticed, with its evidence.</summary>
/// <param name="Code">Stable, for scripts: <c>module-not-seen</c>.</param>
/// <param name="Sentence">The number first: “8 GB short. S2 not seen.”</param>
/// <param name="Seen">What was read.</param>
/// <param name="Expected">What should have been.</param>
/// <param name="Causes">Likely causes, likeliest first.</param>
/// <param name="Evidence">Sequences of the entries that it rests on.</param>
/// <param name="Customer">The same in words for the customer.</param>
public sealed record Finding(
    string Code,
    Severity Severity,
    string Sentence,
    string Seen,
    string Expected,
    IReadOnlyList<string> Causes,
    NextAction Action,
    IReadOnlyList<int> Evidence,
    string Customer
)
{
    /// <summary>What it makes of the verdict.</summary>
    [JsonIgnore]
    public FindingEffect Effect { get; init; }

    /// <summary>What it is about, where that is no slot or bay: an array's name.</summary>
    [JsonIgnore]
    public string? About { get; init; }

    /// <summary>When time alone will have ended it, as far as the readings tell.</summary>
    public DateTimeOffset? Until { get; init; }
}

/// <summary>How row two and row three of a position agree.</summary>
public enum SlotMatch
{
    Unknown,
    Same,

    /// <summary>Something should be there and is not seen.</summary>
    Missing,

    /// <summary>Something is seen where nothing should be.</summary>
    Unplanned,

    /// <summary>Another size than planned.</summary>
    Different,
}

/// <summary>What a slot shows after the work, as it is said.</summary>
public static class SlotMatchWords
{
    /// <summary>“not seen” where a module should be, else “16 GB”, “empty”, “unknown”.</summary>
    public static string Spoken(this SlotMatch match, SlotContent after) =>
        match == SlotMatch.Missing ? "not seen" : after.Spoken;
}

/// <summary>One slot, side by side.</summary>
public sealed record CheckRow(
    string Slot,
    SlotContent Before,
    MemoryModule? Planned,
    SlotUse Use,
    SlotContent After,
    SlotMatch Match
)
{
    // What sits there afterwards is what sat there before.
    internal bool Stays => Use is SlotUse.Keep or SlotUse.Reseat or SlotUse.Inspect;
}

/// <summary>One drive bay, side by side.</summary>
/// <param name="Use">Null where the plan leaves it alone.</param>
/// <param name="After">What the after reading tells of the drive; null when it is not listed.</param>
public sealed record DriveRow(
    string Bay,
    Drive? Before,
    Drive? Planned,
    BayUse? Use,
    DriveReading? After,
    SlotMatch Match
);

/// <summary>One total, side by side, in bytes; null where it is not known.</summary>
public sealed record CheckTotal(long? Before, long? PlannedLow, long? PlannedHigh, long? After);

/// <summary>A reading with when and where it was recorded.</summary>
public sealed record TimedReading(int Sequence, Phase Phase, DateTimeOffset At, Reading Reading);

/// <summary>What is known of the trial that an order asks for.</summary>
/// <param name="Work">What was asked for.</param>
/// <param name="Outcome">“as wished”, “sluggish”, “failed”; null while it was not run since hands were in the
/// machine.</param>
/// <param name="Note">What was not as wished.</param>
public sealed record TrialFact(string Work, string? Outcome, bool Failed, bool AsWished, string? Note);

/// <summary>What happened around a check.</summary>
/// <param name="ChangedAt">When hands were in the machine last.</param>
/// <param name="Readings">All that were taken, oldest first.</param>
/// <param name="Reseated">Positions that were seated anew already.</param>
/// <param name="Placed">Serials of drives by the bay into which the run put them back.</param>
/// <param name="Loose">How many fasteners may lie in the machine, by the removal that they held.</param>
/// <param name="Serial">The machine's, as the order has it.</param>
/// <param name="Booked">Serials of the stock items by the slot that they were set aside for.</param>
/// <param name="Found">What a search named since the reading, and what follows.</param>
/// <param name="Trial">Of the customer's own kind of work; null where none is asked for or was run.</param>
/// <param name="CameBack">What was seen when the fault came back, where nothing was found of it since.</param>
public sealed record CheckHistory(
    DateTimeOffset? ChangedAt,
    IReadOnlyList<TimedReading> Readings,
    IReadOnlyList<string> Reseated,
    IReadOnlyDictionary<string, string>? Placed = null,
    IReadOnlyDictionary<string, int>? Loose = null,
    string? CameBack = null,
    IReadOnlyDictionary<string, string>? Booked = null,
    string? Serial = null,
    string? Found = null,
    StartSign? Sign = null,
    TrialFact? Trial = null
)
{
    /// <summary>A machine and a bench without a past.</summary>
    public static CheckHistory None { get; } = new(null, [], []);
}

/// <summary>Before, planned and after, the verdict and what was noticed, heaviest first.</summary>
public sealed record CheckResult(
    Verdict Verdict,
    string Sentence,
    IReadOnlyList<CheckRow> Rows,
    IReadOnlyList<DriveRow> Drives,
    CheckTotal Installed,
    CheckTotal Usable,
    IReadOnlyList<Finding> Findings
);
