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

/// <summary>What the next action of a finding does, so that a face can start it.</summary>
public enum ActionKind
{
    None,

    /// <summary>Take the modules of the named slots out and seat them again.</summary>
    Reseat,

    /// <summary>Take the reading again.</summary>
    ReadAgain,

    /// <summary>Change a setting of the firmware or the system.</summary>
    Setting,

    /// <summary>Look at the parts and compare them with the plan.</summary>
    Compare,
}

/// <summary>What to do about a finding.</summary>
/// <param name="Slots">The slots it is about, empty when it is about none.</param>
public sealed record NextAction(ActionKind Kind, string Text, IReadOnlyList<string> Slots);

/// <summary>One thing noticed, with its evidence.</summary>
/// <param name="Code">Stable, for scripts: <c>module-not-seen</c>.</param>
/// <param name="Sentence">The number first: “8 GB short. S2 not seen.”</param>
/// <param name="Seen">What was read.</param>
/// <param name="Expected">What should have been.</param>
/// <param name="Causes">Likely causes, likeliest first.</param>
/// <param name="Evidence">Sequences of the entries that it rests on.</param>
public sealed record Finding(
    string Code,
    Severity Severity,
    string Sentence,
    string Seen,
    string Expected,
    IReadOnlyList<string> Causes,
    NextAction Action,
    IReadOnlyList<int> Evidence);

/// <summary>How row two and row three of a slot agree.</summary>
public enum SlotMatch
{
    Unknown,
    Same,

    /// <summary>A module should be there and none is seen.</summary>
    Missing,

    /// <summary>One is seen where none should be.</summary>
    Unplanned,

    /// <summary>Another size than planned.</summary>
    Different,
}

/// <summary>One slot, side by side.</summary>
public sealed record CheckRow(string Slot, SlotContent Before, MemoryModule? Planned, SlotUse Use, SlotContent After, SlotMatch Match);

/// <summary>One total, side by side, in bytes; null where it is not known.</summary>
public sealed record CheckTotal(long? Before, long? PlannedLow, long? PlannedHigh, long? After);

/// <summary>Before, planned and after, the verdict and what was noticed, heaviest first.</summary>
public sealed record CheckResult(
    Verdict Verdict, string Sentence, IReadOnlyList<CheckRow> Rows, CheckTotal Installed, CheckTotal Usable, IReadOnlyList<Finding> Findings);
