using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;

namespace Revtal.Contracts;

/// <summary>What was recorded; it is on disk.</summary>
/// <param name="Position">Place in the whole journal, as live changes count it.</param>
public sealed record Receipt(int Order, int Sequence, long Position, Stage Stage, NextThing Next);

/// <summary>One line of a journal.</summary>
public sealed record JournalLine(int Sequence, DateTimeOffset At, string By, string Kind, string Text);

/// <summary>One entry, whole.</summary>
/// <param name="Body">As stored; its shape is told by the kind (docs/journal-format.md).</param>
public sealed record EntryView(long Position, int Order, int Sequence, Guid Id, DateTimeOffset At, string By, string Kind, System.Text.Json.JsonElement Body);

/// <summary>Entries after a sequence; a full page has more behind it.</summary>
public sealed record EntriesView(IReadOnlyList<EntryView> Entries, int? NextAfter);

/// <summary>A slot with its occupants: before, planned, after.</summary>
public sealed record PositionView(MemorySlot Slot, SlotContent? Before, PlannedSlot? Planned, SlotContent? After, SlotMatch? Match);

/// <summary>A reading with where it stands in the journal.</summary>
public sealed record ReadingView(int Sequence, DateTimeOffset At, string By, string? Capture, Reading Reading);

public sealed record StepView(RunStep Step, StepConfirmation? Done);

/// <summary>The run that counts now.</summary>
/// <param name="Reseat">The slots to seat anew; empty for the run of the plan.</param>
/// <param name="NextStep">The id of the step to do now; null when all are done.</param>
public sealed record RunView(int Number, IReadOnlyList<string> Reseat, IReadOnlyList<StepView> Steps, string? NextStep, Tally Tally);

/// <summary>A plan with what follows from it.</summary>
/// <param name="Remarks">What fits but should be known before.</param>
public sealed record PlanView(Plan Plan, Expectation Expectation, IReadOnlyList<string> Remarks);

/// <summary>An order as its page shows it.</summary>
/// <param name="Head">The sequence of its last entry; the ETag is this number in quotes.</param>
public sealed record OrderView(
    int Number,
    int Head,
    Stage Stage,
    Intake Intake,
    ModelFacts Model,
    int Revision,
    DateTimeOffset TakenInAt,
    DateTimeOffset ChangedAt,
    string? Reason,
    string? AgreedBy,
    IReadOnlyList<PositionView> Positions,
    ReadingView? Before,
    ReadingView? After,
    PlanView? Plan,
    RunView? Run,
    CheckResult? Check,
    NextThing Next,
    IReadOnlyList<JournalLine> Journal);

/// <summary>All open orders.</summary>
/// <param name="Position">The journal's last position when it was read.</param>
public sealed record BoardView(long Position, IReadOnlyList<OrderCard> Cards);

/// <summary>Found orders, newest first.</summary>
/// <param name="NextBelow">Ask again with this to see older ones; null at the end.</param>
public sealed record OrdersView(IReadOnlyList<OrderCard> Cards, int? NextBelow);

public sealed record GuideLine(string Code, int Revision, string Maker, string Name, string Kind, string? TellApart, int Slots, string By, DateTimeOffset At);

/// <summary>One published revision of a guide.</summary>
public sealed record GuideView(string Code, int Revision, Guide Guide);

/// <summary>A file that was published.</summary>
/// <param name="IsNew">False when the file was the newest revision already.</param>
public sealed record GuidePublished(string Code, int Revision, bool IsNew);

/// <summary>The shop.</summary>
/// <param name="Zone">IANA name of the bench's time zone.</param>
public sealed record ShopView(string Name, string Zone, string Version, IReadOnlyList<Person> People);

/// <summary>One live change, sent as a server-sent event whose id is the position.</summary>
public sealed record Change(long Position, int Order, int Sequence, string Kind, DateTimeOffset At, string By);
