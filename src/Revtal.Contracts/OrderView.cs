using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Contracts;

/// <summary>An order as its page shows it, with everything that follows from it.</summary>
public sealed record OrderView
{
    public required int Number { get; init; }

    /// <summary>The sequence of its last entry; the ETag begins with this number.</summary>
    public required int Head { get; init; }

    public required Stage Stage { get; init; }

    public required NextThing Next { get; init; }

    /// <summary>What may be done now, and for what a person would look for: what to do first.</summary>
    public required IReadOnlyList<Allowance> Actions { get; init; }

    public required Intake Intake { get; init; }

    public required DateTimeOffset TakenInAt { get; init; }

    public required DateTimeOffset ChangedAt { get; init; }

    /// <summary>Why it is parked or cancelled.</summary>
    public required string? Reason { get; init; }

    public required ModelFacts Model { get; init; }

    /// <summary>The guide's revision that this order keeps.</summary>
    public required int Revision { get; init; }

    /// <summary>The guide's newest revision, if it is newer than the one this order keeps.</summary>
    public required int? NewerRevision { get; init; }

    public required string? Variant { get; init; }

    /// <summary>The batch that it is of, by the number of its first order; null where it goes its own way.</summary>
    public required int? Batch { get; init; }

    /// <summary>Who has it in hand, by id; null for nobody.</summary>
    public required string? Owner { get; init; }

    /// <summary>What was handed over with it in words and not read yet.</summary>
    public required HandOver? HandOver { get; init; }

    /// <summary>Where it lies, as it is written there; null where nobody said.</summary>
    public required string? Place { get; init; }

    /// <summary>By when the customer was promised it; null where nothing was.</summary>
    public required DateTimeOffset? PromisedAt { get; init; }

    /// <summary>What it waits for that is not the bench's own next thing.</summary>
    public required Waiting? Waiting { get; init; }

    /// <summary>Since when it rests and what wakes it; null where it does not rest.</summary>
    public required Parking? Parking { get; init; }

    public required IReadOnlyList<VariantLine> Variants { get; init; }

    public required IReadOnlyList<PositionView> Positions { get; init; }

    public required IReadOnlyList<DriveBay> Bays { get; init; }

    /// <summary>What the before reading and the guide say of each bay, in the order of the bays.</summary>
    public required IReadOnlyList<BayView> BayStates { get; init; }

    /// <summary>
    /// Whether the machine keeps its drives as an array, whose state is written down before a bay changes.
    /// </summary>
    public required bool KeepsArray { get; init; }

    /// <summary>How much memory it should have, from what was in use.</summary>
    public required SizeAdvice? Advice { get; init; }

    /// <summary>The customer's own kind of work: asked for, and run.</summary>
    public required Trial Trial { get; init; }

    public required ReadingView? Before { get; init; }

    /// <summary>What speaks against the before reading; nothing is planned from it before somebody answers.</summary>
    public required IReadOnlyList<string> Doubts { get; init; }

    public required ReadingView? After { get; init; }

    /// <summary>All that were taken, oldest first.</summary>
    public required IReadOnlyList<ReadingLine> Readings { get; init; }

    /// <summary>Codes that are not used yet.</summary>
    public required IReadOnlyList<InviteLine> Invites { get; init; }

    public required PlanView? Plan { get; init; }

    /// <summary>Drives that hardly take anything more, as the order leaves them, fullest first.</summary>
    public required IReadOnlyList<NearlyFull> NearlyFull { get; init; }

    /// <summary>What is left for the machine's next visit; null for nothing.</summary>
    public required LaterVisit? Later { get; init; }

    /// <summary>Who agreed on the customer's side.</summary>
    public required string? AgreedBy { get; init; }

    /// <summary>What the customer agreed to, frozen.</summary>
    public required Quote? Agreed { get; init; }

    public required OfferedView? Offered { get; init; }

    public required QuoteDeclined? Declined { get; init; }

    /// <summary>What became of the boot drive's data; null before anybody said.</summary>
    public required CopyTold? Copy { get; init; }

    /// <summary>Bays whose drive's data the plan copies first.</summary>
    public required IReadOnlyList<string> CopyBays { get; init; }

    public required IReadOnlyList<CopyView> Copies { get; init; }

    /// <summary>What leaves the machine for good, and what becomes of it.</summary>
    public required IReadOnlyList<LeavingView> ComesOut { get; init; }

    public required RunView? Run { get; init; }

    public required IReadOnlyList<Photo> Photos { get; init; }

    public required CheckResult? Check { get; init; }

    /// <summary>What stands between it and its hand-back, heaviest first; what a lead released too.</summary>
    public required IReadOnlyList<Hold> Holds { get; init; }

    /// <summary>When a parked order is to be taken up again; null where nobody said.</summary>
    public required DateTimeOffset? ParkedUntil { get; init; }

    /// <summary>The swap test that runs; null when none does.</summary>
    public required SwapView? Swap { get; init; }

    public required IReadOnlyList<SwapResult> SwapResults { get; init; }

    public required Watch? Watch { get; init; }

    public required IReadOnlyList<JournalLine> Journal { get; init; }
}

/// <summary>A bay before anything is done to it.</summary>
/// <param name="Before">Its drive, as far as it was read.</param>
/// <param name="IsEmpty">Whether the reading found nothing there; false where nobody looked.</param>
/// <param name="DataPath">How the data comes onto a new drive there, where nothing else is said; null where there is
/// none.</param>
public sealed record BayView(string Bay, DriveReadingView? Before, bool IsEmpty, DataPath? DataPath);

/// <summary>A drive that was read.</summary>
/// <param name="UsedBytes">Null where the reading does not tell.</param>
public sealed record DriveReadingView(Drive Drive, long? UsedBytes);

/// <summary>A part that leaves the machine for good.</summary>
/// <param name="IsDrive">It is cleared of its data before it goes anywhere but home.</param>
/// <param name="Bag">What stands on its bag once it has come out; null while it is inside, and nobody is asked what
/// becomes of it.</param>
/// <param name="Settled">What becomes of it; null while nobody said.</param>
/// <param name="Words">The same in words.</param>
/// <param name="Choices">What may become of it.</param>
public sealed record LeavingView(
    string Position,
    string Name,
    bool IsDrive,
    BagLabel? Bag,
    OldPartSettled? Settled,
    string? Words,
    IReadOnlyList<FateChoice> Choices
);

/// <summary>One thing that may become of a part.</summary>
/// <param name="Words">“the customer keeps it”.</param>
/// <param name="WantsWipe">It is cleared of its data first.</param>
/// <param name="WantsClaim">The supplier's claim is told with it.</param>
/// <param name="WantsOrder">The order that uses it is told with it.</param>
public sealed record FateChoice(PartFate Fate, string Words, bool WantsWipe, bool WantsClaim, bool WantsOrder);
