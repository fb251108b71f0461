using System.Text.Json.Serialization;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Bench;

/// <summary>The parts of a run, in order. A step waits for all steps of earlier parts.</summary>
public enum RunPart
{
    Prepare,
    Isolate,
    Open,

    /// <summary>Writing down what sits where, before it leaves.</summary>
    Record,
    Pull,
    Fit,

    /// <summary>A start with the case open, where the guide allows it.</summary>
    Measure,
    Close,
    Start,

    /// <summary>What a new drive wants once the system runs.</summary>
    SetUp,
}

/// <summary>One action on the bench.</summary>
/// <param name="Id">Stable within the order: <c>isolate.unplug</c>, <c>open.hatch</c>, <c>pull.S2</c>,
/// <c>close.hatch</c>.</param>
/// <param name="Title">What to do, short enough for an arm's length.</param>
/// <param name="Details">More of it, one line each.</param>
/// <param name="Position">The slot or bay it is about, for pull and fit.</param>
/// <param name="Removal">The removal it is about, for open and close.</param>
/// <param name="RemovalTitle">The same as the bench calls it.</param>
/// <param name="Face">The side of the machine that the drawing shows.</param>
/// <param name="Fasteners">Loose and captive groups that this step takes out or puts back.</param>
/// <param name="Clips">What holds when they are out.</param>
/// <param name="Pry">Where a tool goes in.</param>
/// <param name="Records">Positions whose occupants are written down, or must come back as written down.</param>
/// <param name="CopiedFirst">Bays whose drive leaves for good in this step, after its copy was verified.</param>
/// <param name="Isolates">Power stays on the board until it is done.</param>
/// <param name="Seconds">How long it lasts, where it has a length.</param>
/// <param name="TimedFrom">The step whose confirmation starts the clock; null where a hand does.</param>
/// <param name="Stuck">What usually holds this part, for who is stuck.</param>
/// <param name="Pictures">Hashes of the guide's pictures.</param>
/// <param name="WaitsFor">Ids of the steps within the same part that come first.</param>
public sealed record RunStep(
    StepId Id,
    RunPart Part,
    string Title,
    IReadOnlyList<string> Details,
    IReadOnlyList<Precaution> Precautions,
    IReadOnlyList<string> Traps,
    string? Position,
    string? Removal,
    string? RemovalTitle,
    string? Face,
    IReadOnlyList<FastenerGroup> Fasteners,
    IReadOnlyList<Clips> Clips,
    IReadOnlyList<PryPoint> Pry,
    IReadOnlyList<string> Records,
    IReadOnlyList<string> CopiedFirst,
    bool Isolates,
    int? Seconds,
    StepId? TimedFrom,
    IReadOnlyList<string> Stuck,
    IReadOnlyList<string> Pictures,
    IReadOnlyList<StepId> WaitsFor,
    int Minutes
)
{
    /// <summary>The shape of each of its groups of fasteners.</summary>
    public IReadOnlyList<FastenerShape> Shapes => FastenerShapes.Of(Fasteners.Count);

    /// <summary>Fasteners that leave the machine, and so must be counted.</summary>
    public int LooseFasteners => Loose.Sum(f => f.Count);

    /// <summary>What the machine may show at this start, where it is one.</summary>
    public required IReadOnlyList<FirstStartSign> Signs { get; init; }

    /// <summary>
    /// What the before reading told of the positions that are written down here, to be held against the labels.
    /// </summary>
    public required IReadOnlyDictionary<string, string> Offers { get; init; }

    /// <summary>What turns the fasteners of this run, as it is laid out here; by hand needs none.</summary>
    public required IReadOnlyList<string> Bits { get; init; }

    /// <summary>The groups that will leave the machine, as the trays for them are laid out here.</summary>
    public required IReadOnlyList<FastenerGroup> Trays { get; init; }

    /// <summary>All that is written of it where nothing can be pressed.</summary>
    [JsonIgnore]
    public IEnumerable<string> Lines => Details.Concat(Signs.Select(s => s.Line));

    /// <summary>Whether it only writes down what sits where.</summary>
    public bool IsRecord => Id.Verb == StepVerb.Record;

    internal bool IsSealed { get; init; }

    internal IEnumerable<FastenerGroup> Loose => Fasteners.Where(f => !f.Captive);

    private static readonly Dictionary<string, string> NoOffers = [];

    /// <summary>A step with nothing but its title.</summary>
    public static RunStep Of(StepId id, RunPart part, string title) =>
        new(id, part, title, [], [], [], null, null, null, null, [], [], [], [], [], false, null, null, [], [], [], 1)
        {
            Signs = [],
            Offers = NoOffers,
            Bits = [],
            Trays = [],
        };
}

/// <summary>A step that was not done as the sheet says.</summary>
public enum Deviation
{
    Otherwise,
    Skipped,
}

/// <summary>What was said when a step was confirmed.</summary>
/// <param name="Fasteners">For open and close: how many were counted.</param>
/// <param name="Explanation">Why the count differs, or why the step was done otherwise or skipped.</param>
/// <param name="Holes">Which ones, as <c>group/number</c> from 1, if they were told one by one.</param>
/// <param name="Groups">How many of each group.</param>
/// <param name="Occupants">What sits in each position, in words or by its serial.</param>
/// <param name="Seen">What the firmware showed with the case open.</param>
public sealed record StepConfirmation(
    StepId Step,
    string By,
    DateTimeOffset At,
    int? Fasteners = null,
    string? Explanation = null,
    string? Note = null,
    IReadOnlyList<string>? Holes = null,
    IReadOnlyDictionary<string, int>? Groups = null,
    IReadOnlyDictionary<string, string>? Occupants = null,
    MemorySize? Seen = null,
    Deviation? Deviation = null
)
{
    /// <summary>Whether another confirmation of the step says nothing that this one does not.</summary>
    public bool Covers(StepConfirmation wish) =>
        wish.Deviation == Deviation
        && (wish.Counted is null || wish.Counted == Counted)
        && (wish.Holes is null || Holes is null || wish.Holes.ToHashSet().SetEquals(Holes))
        && (wish.Occupants ?? new Dictionary<string, string>()).All(o => Occupants?.GetValueOrDefault(o.Key) == o.Value)
        && (wish.Seen is null || wish.Seen == Seen)
        && (wish.Explanation is null || wish.Explanation == Explanation)
        && (wish.Note is null || wish.Note == Note);

    /// <summary>What was counted, recorded, seen and said with it: “, 5 fasteners, 20 GB seen – tight”.</summary>
    public string Facts() =>
        string.Concat(
            Fasteners is > 0 and var n ? $", {Phrases.Counted(n, "fastener", "fasteners")}" : "",
            Phrases.When(Occupants, o => string.Concat(o.Select(p => $", {p.Key} {p.Value}"))),
            Phrases.When(Seen, seen => $", {seen} seen"),
            Phrases.Added(Explanation) + Phrases.Added(Note)
        );

    private int? Counted => Fasteners ?? Holes?.Count ?? Groups?.Values.Sum();
}
