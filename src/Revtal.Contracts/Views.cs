using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Contracts;

/// <summary>What was recorded; it is on disk.</summary>
/// <param name="Position">Place in the whole journal, as live changes count it.</param>
/// <param name="OpenToo">At take-in: other orders of the same serial that are open; null for none.</param>
public sealed record Receipt(
    int Order,
    int Sequence,
    long Position,
    Stage Stage,
    NextThing Next,
    IReadOnlyList<int>? OpenToo = null
);

/// <summary>One line of a journal.</summary>
/// <param name="Topic">What it is about.</param>
/// <param name="Said">When it was said, where it waited for a network.</param>
/// <param name="Begun">Of a note: the sequence of the note that began what it belongs to; its own where it did.</param>
public sealed record JournalLine(
    int Sequence,
    DateTimeOffset At,
    string By,
    string Kind,
    string Text,
    JournalTopic Topic,
    Said? Said,
    int? Begun
);

/// <summary>One entry, whole.</summary>
/// <param name="Body">As stored; its shape is told by the kind (docs/journal-format.md).</param>
public sealed record EntryView(
    long Position,
    int Order,
    int Sequence,
    Guid Id,
    DateTimeOffset At,
    string By,
    string Kind,
    System.Text.Json.JsonElement Body,
    Said? Said
);

/// <summary>A slot with its occupants: before, planned, after.</summary>
public sealed record PositionView(
    MemorySlot Slot,
    SlotContent? Before,
    PlannedSlot? Planned,
    SlotContent? After,
    SlotMatch? Match
);

/// <summary>A reading with where it stands in the journal.</summary>
public sealed record ReadingView(int Sequence, DateTimeOffset At, string By, string? Capture, Reading Reading);

/// <param name="Settled">Confirmed, or waived by a lead.</param>
/// <param name="Blocked">Somebody found it impossible.</param>
/// <param name="Closed">What closes it whatever is said with it; null for nothing.</param>
public sealed record StepView(
    RunStep Step,
    StepConfirmation? Done,
    bool Settled,
    StepBlocked? Blocked,
    StepClosed? Closed
);

/// <summary>Why a step cannot be done now.</summary>
/// <param name="Code">As the refusal has it, <c>seal-consent-missing</c>.</param>
public sealed record StepClosed(string Code, string Detail, IReadOnlyList<RefusalAnswer> Answers);

/// <summary>The run that counts now.</summary>
/// <param name="Reseat">The slots to work at; empty for the run of the plan.</param>
/// <param name="Mends">What was fitted there is changed, not only seated anew.</param>
/// <param name="NextStep">The step to do now; null when all are done.</param>
/// <param name="LastStep">The step confirmed last, which may be taken back; null where none may.</param>
/// <param name="Timers">Clocks that run down, by the service's clock.</param>
/// <param name="Stop">What stops all work; null when nothing does.</param>
/// <param name="Signs">What its starts showed, and what follows from it, oldest first.</param>
/// <param name="Remarks">What was found and what a lead let be, oldest first.</param>
public sealed record RunView(
    int Number,
    IReadOnlyList<string> Reseat,
    bool Mends,
    IReadOnlyList<StepView> Steps,
    StepId? NextStep,
    StepId? LastStep,
    Tally Tally,
    IReadOnlyList<RunTimer> Timers,
    BenchFind? Stop,
    IReadOnlyList<BenchFind> Found,
    IReadOnlyList<SignAnswer> Signs,
    IReadOnlyList<GateWaiver> Waivers,
    IReadOnlyList<RunRemark> Remarks
);

/// <summary>What was found or let be in a run, as it is said.</summary>
public sealed record RunRemark(string Text, string By, DateTimeOffset At);

/// <summary>A build of the model, as its guide tells it apart.</summary>
public sealed record VariantLine(string Id, string TellApart);

/// <summary>A plan with what follows from it.</summary>
/// <param name="Notes">What fits but should be known before, heaviest first.</param>
/// <param name="Discount">In percent.</param>
public sealed record PlanView(
    Plan Plan,
    Expectation Expectation,
    IReadOnlyList<FitNote> Notes,
    decimal Discount = 0,
    LaterStage? Later = null
);

/// <summary>A quote that a link shows to the customer now.</summary>
public sealed record OfferedView(decimal Total, string Currency, DateTimeOffset Until);

/// <summary>All open orders.</summary>
/// <param name="Position">The journal's last position when it was read.</param>
/// <param name="NearlyFullPercent">From how many percent on a card's fullest drive is worth a mark.</param>
/// <param name="Batches">One card each for machines that are worked on together.</param>
/// <param name="Late">Promises that are broken, or will be even if all goes as the guides say.</param>
public sealed record BoardView(
    long Position,
    int NearlyFullPercent,
    IReadOnlyList<BatchCard> Batches,
    IReadOnlyList<Late> Late,
    IReadOnlyList<PartsOwed> PartsOwed,
    IReadOnlyList<OrderCard> Cards
);

/// <summary>Some orders' cards as they are now.</summary>
/// <param name="Cards">Of those that were asked for and are open; the others are closed.</param>
/// <param name="Late">Of all open orders: promises that are broken, or will be.</param>
/// <param name="PartsOwed">Of all open orders: agreed ones that parts are lacking for.</param>
public sealed record CardsView(
    IReadOnlyList<OrderCard> Cards,
    IReadOnlyList<Late> Late,
    IReadOnlyList<PartsOwed> PartsOwed
);

public sealed record GuideLine(
    string Code,
    int Revision,
    string Maker,
    string Name,
    string Kind,
    string? TellApart,
    int Slots,
    IReadOnlyList<VariantLine> Variants,
    string By,
    DateTimeOffset At,
    bool Sketch
);

/// <summary>One published revision of a guide.</summary>
public sealed record GuideView(string Code, int Revision, Guide Guide);

/// <summary>A file that was checked.</summary>
/// <param name="Guide">Null when it has problems.</param>
public sealed record GuideChecked(IReadOnlyList<GuideProblem> Problems, Guide? Guide);

/// <summary>One revision, without what it says.</summary>
public sealed record RevisionLine(int Revision, string By, DateTimeOffset At);

/// <summary>Two states of a guide side by side.</summary>
/// <param name="From">A revision's number, or “draft”.</param>
public sealed record GuideCompared(string Code, string From, string To, IReadOnlyList<GuideDifference> Differences);

/// <summary>A guide's draft.</summary>
/// <param name="Version">Grows with every save; the ETag is this number in quotes.</param>
/// <param name="Problems">What keeps it from being published.</param>
public sealed record DraftView(
    string Code,
    string Yaml,
    int Version,
    string By,
    DateTimeOffset At,
    IReadOnlyList<GuideProblem> Problems
);

/// <summary>A draft that somebody works on.</summary>
/// <param name="Problems">How many keep it from being published.</param>
/// <param name="IsNew">There is no guide of this model yet.</param>
public sealed record DraftLine(string Code, int Version, string By, DateTimeOffset At, int Problems, bool IsNew);

public enum SuggestionState
{
    Open,
    Accepted,
    Declined,
}

/// <summary>What an order taught.</summary>
/// <param name="Text">As the lead reads it.</param>
public sealed record SuggestionView(
    int Order,
    int Sequence,
    string Code,
    StepId? Step,
    GuideChange Change,
    string Text,
    string By,
    DateTimeOffset At,
    SuggestionState State,
    string? DecidedBy
);

/// <summary>What a library's import did, or would do.</summary>
/// <param name="MissingPictures">How many pictures its guides name that neither it nor the shop has.</param>
public sealed record LibraryImported(
    bool DryRun,
    IReadOnlyList<GuidePublished> Guides,
    int Pictures,
    int MissingPictures
);

/// <summary>A picture as the shop keeps it.</summary>
public sealed record PictureKept(string Hash, int Width, int Height);

/// <summary>A file that was published.</summary>
/// <param name="IsNew">False when the file was the newest revision already.</param>
public sealed record GuidePublished(string Code, int Revision, bool IsNew);

/// <summary>The shop.</summary>
/// <param name="Zone">IANA name of the bench's time zone.</param>
/// <param name="Called">How each of them is called at the bench, by id.</param>
/// <param name="Workloads">How much memory the shop advises for which work.</param>
/// <param name="Kinds">Kinds of machines, in the trade's words.</param>
/// <param name="NearlyFullPercent">From how many percent on a drive is spoken of as nearly full.</param>
/// <param name="Trials">Kinds of customers' work that the shop often tries; another may be typed.</param>
public sealed record ShopView(
    string Name,
    string Zone,
    string Version,
    IReadOnlyList<Person> People,
    IReadOnlyDictionary<string, string> Called,
    ShopTerms Terms,
    IReadOnlyList<Workload> Workloads,
    IReadOnlyList<string> Kinds,
    int NearlyFullPercent,
    IReadOnlyList<string> Trials
);

/// <summary>One line of the shop's own table.</summary>
public sealed record Workload(string Name, MemorySize Size);

/// <summary>
/// Something of the shop changed outside its orders; sent as a server-sent event of the type <c>shop</c>, without an
/// id: who was away asks anew.
/// </summary>
/// <param name="Topic">Null where some were missed: anything may have changed.</param>
public sealed record ShopChange(ShopTopic? Topic, DateTimeOffset At, string? By);

/// <summary>One live change of an order, sent as a server-sent event whose id is the position.</summary>
public sealed record Change(long Position, int Order, int Sequence, string Kind, DateTimeOffset At, string By);
