using System.Text.Json.Serialization;
using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>What the bench knows of one machine model. One published revision of it never changes.</summary>
/// <param name="MeasureOpen">How a start with the case open is safe here; null where it is not.</param>
/// <param name="NeverMeasureOpen">Why it is not; null where nobody said.</param>
/// <param name="Variants">Builds that differ in some facts; each is a whole guide of its own.</param>
public sealed record Guide(
    ModelFacts Model,
    MemoryFacts Memory,
    IReadOnlyList<DriveBay> Drives,
    IReadOnlyList<IsolationStep> Isolate,
    IReadOnlyList<Removal> Removals,
    IReadOnlyList<FirstStartSign> FirstStart,
    FirmwareFacts? Firmware,
    string? MeasureOpen,
    IReadOnlyList<Trap> Traps,
    IReadOnlyList<Variant> Variants,
    string? NeverMeasureOpen = null
)
{
    /// <summary>Null for an id that the model does not have.</summary>
    public MemorySlot? Slot(string id) => Memory.Slots.FirstOrDefault(s => s.Id == id);

    /// <summary>What the bench calls a removal; its id where this guide has none of it.</summary>
    public string TitleOf(string removal) => Removals.FirstOrDefault(r => r.Id == removal)?.Title ?? removal;

    /// <summary>Null for an id that the model does not have.</summary>
    public DriveBay? Bay(string id) => Drives.FirstOrDefault(d => d.Id == id);

    /// <summary>
    /// The traps where they happen: by step (<c>fit.S1</c>), and for each kind of step (<c>isolate</c>)
    /// all that stand at one of it.
    /// </summary>
    public IReadOnlyDictionary<string, string[]> TrapsAt => GuideTraps.ByPlace(this);

    /// <summary>Whether it is being written at the bench.</summary>
    public bool IsSketch => Model.Sketch;

    /// <summary>All slots, then all bays.</summary>
    public IEnumerable<string> Positions => Memory.Slots.Select(s => s.Id).Concat(Drives.Select(d => d.Id));

    /// <summary>The slot of this id.</summary>
    /// <exception cref="RefusedException">The model has none; the message names those it has.</exception>
    public MemorySlot NeedSlot(string id) =>
        Slot(id)
        ?? throw RefusedException.Invalid(
            "no-such-slot",
            $"{Model.Code} has no slot “{id}”. It has {string.Join(", ", Memory.Slots.Select(s => s.Id))}."
        );

    /// <summary>
    /// The facts of one build; without a name, or for a name that later revisions dropped, those of the model.
    /// </summary>
    public Guide For(string? variant) => Variants.FirstOrDefault(v => v.Id == variant)?.Guide ?? this;

    /// <summary>The same facts, with what a later revision knows to work.</summary>
    public Guide Proving(ConfirmedMax? later) =>
        later is null || later.Size <= (Memory.ConfirmedMax?.Size ?? MemorySize.Zero)
            ? this
            : this with
            {
                Memory = Memory with { ConfirmedMax = later },
            };

    /// <summary>Proves that the model has this variant.</summary>
    /// <exception cref="RefusedException">It has none of this name.</exception>
    public void NeedVariant(string id)
    {
        if (Variants.All(v => v.Id != id))
        {
            throw RefusedException.Invalid(
                "no-such-variant",
                $"{Model.Code} has no variant “{id}”. {(
                Variants.Count == 0 ? "Its guide tells none apart." : "It has "
                    + $"{string.Join(", ", Variants.Select(v => v.Id))}.")}"
            );
        }
    }
}

/// <summary>A build of the model that differs: told apart by years, label or board revision.</summary>
/// <param name="Id">As the label has it: <c>FJ14-1</c>.</param>
/// <param name="TellApart">What to look at, and where.</param>
/// <param name="Guide">The model's facts with this build's in their place; it has no variants itself.</param>
public sealed record Variant(string Id, string TellApart, string? Built, string? Label, string? Board, Guide Guide);

/// <summary>Which machine this is about.</summary>
/// <param name="Code">Short, unique in the shop, upper case letters and digits: <c>FJ14</c>.</param>
/// <param name="Kind">In the trade's words: laptop, tower, all-in-one ….</param>
/// <param name="Built">Years, as <c>2021..2023</c>.</param>
/// <param name="TellApart">How to tell its variants, or it from its neighbours.</param>
/// <param name="ReportsAs">Product names under which its firmware reports it; empty where nobody looked.</param>
/// <param name="Sketch">It is being written at the bench: facts may be missing, and none of them is promised.</param>
public sealed record ModelFacts(
    string Maker,
    string Name,
    string Code,
    string Kind,
    string? Built,
    string? TellApart,
    IReadOnlyList<string>? ReportsAs = null,
    bool Sketch = false
)
{
    /// <summary>Product names (SMBIOS type 1).</summary>
    public IReadOnlyList<string> ReportsAs { get; init; } = ReportsAs ?? [];
}

/// <summary>What memory the model takes. Of a sketch all of it may be unknown.</summary>
/// <param name="Generation">As JEDEC names it; null where nobody looked.</param>
/// <param name="Module">The modules' form; null where nobody looked.</param>
/// <param name="Speeds">The platform's grades, in MT/s, ascending.</param>
/// <param name="StatedMax">What its maker states as the most; null where nobody looked.</param>
/// <param name="ConfirmedMax">What was proved to work; null before anybody tried more than stated.</param>
/// <param name="Populate">Which slots are to be filled.</param>
/// <param name="Pairing">One of the words that the schema gives.</param>
/// <param name="SharedGraphics">What the graphics keep for themselves, if they share the memory.</param>
/// <param name="Ecc">One of the words that the schema gives; null where nobody looked.</param>
/// <param name="Buffering">One of the words that the schema gives; null where nobody looked.</param>
/// <param name="Voltage">What the board gives its modules, in volts.</param>
/// <param name="PerChannel">The top speed in MT/s with so many modules in one channel, where crowding slows it.</param>
/// <param name="NeverEmpty">Slots without whose module the board does not start.</param>
/// <param name="SupportedTotals">The totals that its maker lists; empty where it lists none.</param>
public sealed record MemoryFacts(
    string? Generation,
    string? Module,
    IReadOnlyList<int> Speeds,
    MemorySize? StatedMax,
    ConfirmedMax? ConfirmedMax,
    IReadOnlyList<MemorySlot> Slots,
    FillOrder Populate,
    string? Pairing,
    MemorySize? SharedGraphics,
    string? Ecc = null,
    string? Buffering = null,
    decimal? Voltage = null,
    IReadOnlyDictionary<int, int>? PerChannel = null,
    IReadOnlyList<string>? NeverEmpty = null,
    IReadOnlyList<MemorySize>? SupportedTotals = null
)
{
    /// <summary>Empty where its maker lists none.</summary>
    public IReadOnlyList<MemorySize> SupportedTotals { get; } = SupportedTotals ?? [];

    /// <summary>Empty where crowding slows nothing.</summary>
    public IReadOnlyDictionary<int, int> PerChannel { get; } = PerChannel ?? new Dictionary<int, int>();

    /// <summary>Empty where nobody found one.</summary>
    public IReadOnlyList<string> NeverEmpty { get; } = NeverEmpty ?? [];
}

/// <summary>Which slots are to be filled: a preference, which forbids nothing.</summary>
/// <param name="Lines">The slots by how many there are to fill, soldered ones included.</param>
/// <param name="Any">The model is known not to care.</param>
public sealed record FillOrder(IReadOnlyDictionary<int, IReadOnlyList<string>> Lines, bool Any = false)
{
    /// <summary>A guide that says nothing of it.</summary>
    public static readonly FillOrder Unsaid = new(new Dictionary<int, IReadOnlyList<string>>());
}

/// <summary>
/// A maximum that orders of this shop proved. It counts for orders of earlier revisions too: what a model takes does
/// not depend on when it was written down.
/// </summary>
public sealed record ConfirmedMax(MemorySize Size, IReadOnlyList<int> Orders);

/// <summary>One memory slot.</summary>
/// <param name="ReportsAs">The locator under which the firmware lists it.</param>
/// <param name="ReportsBank">The bank that tells it from another of the same locator.</param>
/// <param name="Below">The slot that lies over this one on the board.</param>
/// <param name="Reach">The removal that gives access to it; null where nothing need come off, <c>unknown</c> in a
/// sketch where nobody was there yet.</param>
/// <param name="Soldered">Its module cannot be changed.</param>
/// <param name="Angle">At which the module goes in, in degrees from the board; 90 upright.</param>
/// <param name="Latch">One of the words that the schema gives.</param>
/// <param name="Press">One of the words that the schema gives.</param>
/// <param name="Notch">Where the notch points.</param>
/// <param name="Seated">How a module that is home looks: how deep it sits.</param>
/// <param name="Label">What the board has printed beside it, or its colour.</param>
/// <param name="At">Its middle on the drawing of the board.</param>
/// <param name="PadUnder">Thickness of the pad between module and board, in mm.</param>
/// <param name="PadOn">Thickness of the pad on the module, in mm.</param>
/// <param name="Turn">How its long side lies on the drawing, in degrees clockwise from across; 0 or 90.</param>
public sealed record MemorySlot(
    string Id,
    string? Channel,
    string? ReportsAs,
    string? Below,
    string? Reach,
    MemorySize? Max,
    bool Soldered,
    int? Angle,
    string? Latch,
    string? Press,
    string? Notch,
    string? Seated,
    string? Label,
    BoardPoint? At,
    int Turn,
    string? ReportsBank = null,
    decimal? PadUnder = null,
    decimal? PadOn = null
)
{
    /// <summary>A slot of which nothing but its name is known.</summary>
    public static MemorySlot Named(string id) =>
        new(id, null, null, null, null, null, false, null, null, null, null, null, null, null, 0);
}

/// <summary>
/// One drive bay, with the trade's names for form, key and link. Bays stand in the order of the machine.
/// </summary>
/// <param name="Form">Null in a sketch where nobody looked.</param>
/// <param name="Height">Of the tallest drive or of the stack, in mm.</param>
/// <param name="Standoff">Where the screw post must sit.</param>
/// <param name="Pad">Thickness of its thermal pad, in mm.</param>
/// <param name="Hold">The cable, tray or cage that holds it.</param>
/// <param name="Path">How the path ends by which a system links what sits there: <c>ata-3</c>.</param>
/// <param name="Port">Where its cable goes on the board, as it is printed there.</param>
/// <param name="At">Its middle on the drawing of the board.</param>
public sealed record DriveBay(
    string Id,
    string? Form,
    string? Key,
    string? Link,
    decimal? Height,
    bool Boots,
    string? Reach,
    string? Standoff,
    decimal? Pad,
    string? Hold,
    string? Path,
    BoardPoint? At,
    string? Port = null
);

/// <summary>What is done before anything is opened.</summary>
/// <param name="Kind">One of <see cref="Isolation.Kinds"/>.</param>
/// <param name="Duration">How long, where the kind has a length.</param>
/// <param name="Note">This model's own way: its locks, what not to pull.</param>
/// <param name="Says">The step in words of its own, in place of the usual ones.</param>
public sealed record IsolationStep(string Kind, TimeSpan? Duration, string? Note, string? Says = null)
{
    /// <summary>“Hold the power button for 10 s”.</summary>
    public string Sentence => Says ?? Isolation.Sentence(Kind, Duration);

    /// <summary>“Held the power button for 10 s”.</summary>
    public string DoneSentence => Says is { } own ? $"{own}: done" : Isolation.DoneSentence(Kind, Duration);
}

/// <summary>One thing that comes off, and what must have come off before it.</summary>
/// <param name="Needs">Ids of other removals, or <c>isolated</c>.</param>
/// <param name="Isolates">Power stays on the board until this is off: a battery connector inside.</param>
/// <param name="TakesOut">Bays whose drives leave with it.</param>
/// <param name="Face">The side of the machine that its drawing shows.</param>
/// <param name="Clips">What it still hangs on when the fasteners are out.</param>
/// <param name="Pry">Where a tool goes in.</param>
/// <param name="PadsStay">Pads that may stay behind on it.</param>
/// <param name="Orient">Which way round it goes back.</param>
/// <param name="SitsRight">How to see that it sits right.</param>
/// <param name="Minutes">What it takes to take it off; closing takes as long.</param>
public sealed record Removal(
    string Id,
    string Title,
    IReadOnlyList<string> Needs,
    bool Isolates,
    IReadOnlyList<string> TakesOut,
    string? Face,
    IReadOnlyList<FastenerGroup> Fasteners,
    IReadOnlyList<Clips> Clips,
    IReadOnlyList<PryPoint> Pry,
    IReadOnlyList<string> Cables,
    string? PadsStay,
    IReadOnlyList<Precaution> Precautions,
    string? Open,
    string? Close,
    string? Orient,
    string? SitsRight,
    Pictures Pictures,
    int Minutes
)
{
    /// <summary>The shape of each of its groups of fasteners.</summary>
    public IReadOnlyList<FastenerShape> Shapes => FastenerShapes.Of(Fasteners.Count);

    /// <summary>Whether it cannot come off with the warranty seal whole: one of its fasteners lies under it.</summary>
    public bool IsSealed =>
        Fasteners.Any(f => f.Seal)
        || (Fasteners.Any(f => f.Hidden is not null) && Precautions.Any(p => p is { Kind: "seal", AtOpening: true }));

    /// <summary>A removal of which only the name, the needs and the minutes are known.</summary>
    public static Removal Named(string id, IReadOnlyList<string> needs, int minutes = 1) =>
        new(id, id, needs, false, [], null, [], [], [], [], null, [], null, null, null, null, Pictures.None, minutes);
}

/// <summary>Fasteners alike that hold one removal.</summary>
/// <param name="Driver">The bit: <c>PH0</c>, <c>T5</c>, <c>hand</c>.</param>
/// <param name="Length">Under the head, in mm.</param>
/// <param name="Captive">They stay in the part when loose, and so are not counted out.</param>
/// <param name="Seal">A warranty seal covers one of them.</param>
/// <param name="At">Where each sits on the drawing, one for each.</param>
/// <param name="Hidden">Where the ones that are not seen hide: under a sticker, a foot, a cover.</param>
/// <param name="ByHand">Turned by hand alone: what they go into is soft.</param>
/// <param name="ExactFit">This very bit alone: a near one rounds the heads.</param>
/// <param name="Order">Which of them first: “the middle one first, then the corners”.</param>
public sealed record FastenerGroup(
    string Group,
    string Driver,
    decimal? Length,
    int Count,
    bool Captive,
    bool Seal,
    IReadOnlyList<BoardPoint> At,
    string? Hidden,
    bool ByHand = false,
    bool ExactFit = false,
    string? Order = null
)
{
    /// <summary>The holes that are counted, each by its key: <c>hatch/1</c>; none of captive ones.</summary>
    public IReadOnlyList<string> Holes => Captive ? [] : [.. Enumerable.Range(1, Count).Select(i => $"{Group}/{i}")];
}

/// <summary>
/// The shapes by which groups of fasteners are told apart without colour, the same on screen and on paper.
/// </summary>
public enum FastenerShape
{
    Circle,
    Square,
    Triangle,
    Diamond,
}

/// <summary>Which group has which shape.</summary>
public static class FastenerShapes
{
    /// <summary>The shapes of so many groups of one removal, in their order.</summary>
    public static IReadOnlyList<FastenerShape> Of(int groups)
    {
        var all = Enum.GetValues<FastenerShape>();
        return [.. Enumerable.Range(0, groups).Select(i => all[i % all.Length])];
    }
}

/// <summary>Snap fits along an edge.</summary>
/// <param name="Order">Which of them first: “the rear tabs, then the sides, then the front”.</param>
public sealed record Clips(int Count, IReadOnlyList<BoardPoint> At, string? Text, string? Order = null);

/// <summary>Where to begin, and with what.</summary>
public sealed record PryPoint(string Tool, BoardPoint? At, string? Text);

/// <summary>Pictures of both ways, by the hash under which the shop keeps them.</summary>
public sealed record Pictures(IReadOnlyList<string> Open, IReadOnlyList<string> Close)
{
    /// <summary>No picture of either way.</summary>
    public static Pictures None { get; } = new([], []);
}

/// <summary>A place on the drawing: 0 to 1 across and down from its upper left corner.</summary>
public sealed record BoardPoint(double X, double Y);

/// <summary>A warning that belongs to a step.</summary>
/// <param name="Kind">One of the words that the schema gives.</param>
/// <param name="When"><c>open</c> or <c>close</c> where it holds for one way only; null where for both.</param>
public sealed record Precaution(string Kind, string Text, string? When = null)
{
    // Going back, of what holds both ways only these still bite.
    private bool BitesClosing => Kind is "screw" or "cable" or "edge" or "data" or "glass";

    /// <summary>Told when the part comes off.</summary>
    [JsonIgnore]
    public bool AtOpening => When is not "close";

    /// <summary>Told when the part goes back.</summary>
    [JsonIgnore]
    public bool AtClosing => When is "close" || (When is null && BitesClosing);
}

/// <summary>What follows from a sign.</summary>
public enum SignFollow
{
    Wait,

    /// <summary>It is accepted in the firmware's set-up.</summary>
    Accept,

    PowerCycle,

    /// <summary>The modules of the plan are seated anew.</summary>
    Reseat,

    /// <summary>The drives of the plan are seated anew.</summary>
    ReseatDrives,

    /// <summary>The battery is flat: mains first.</summary>
    Mains,
}

/// <summary>Something that may be seen or heard at the first start.</summary>
/// <param name="Kind">One of the words that the schema gives; null when it is none of them.</param>
/// <param name="Means"><c>normal</c>, or what is wrong: <c>not-seated</c>, <c>unfit-module</c> ….</param>
/// <param name="Lasts">How long it may go on.</param>
/// <param name="Then">The word of <see cref="SignFollow"/> for what follows: <c>power-cycle</c>; null where nothing
/// does.</param>
public sealed record FirstStartSign(
    string Sees,
    string? Kind,
    string Means,
    TimeSpan? Lasts,
    string? Do,
    string? Then = null
)
{
    /// <summary>What follows; null where nothing does.</summary>
    [JsonIgnore]
    public SignFollow? Follow =>
        Then is { } word && GuideTerms.Follows.ToList().IndexOf(word) is >= 0 and var i ? (SignFollow)i : null;

    /// <summary>Nothing is wrong.</summary>
    public bool IsNormal => Means == "normal";

    /// <summary>“not seated”.</summary>
    [JsonIgnore]
    public string Meaning => Means.Replace('-', ' ');

    /// <summary>“3 short beeps: not seated – reseat, upper slot first”.</summary>
    [JsonIgnore]
    public string Line =>
        $"{Sees}{Phrases.When(Lasts, l => $", up to {Durations.Text(l)}")}: {Meaning}"
        + Phrases.When(Do, d => $" – {d}");
}

/// <summary>The firmware's set-up.</summary>
/// <param name="Enter">How to get there.</param>
/// <param name="RatedSpeed">The setting that makes modules run at their rated speed; null where there is none.</param>
public sealed record FirmwareFacts(string Enter, string? RatedSpeed);

/// <summary>What people get wrong on this model, told at the step where it happens.</summary>
/// <param name="At">A step, or what several have in common: <c>fit.S1</c>, <c>open</c>.</param>
public sealed record Trap(string At, string Text)
{
    /// <summary>Whether it is told at this step.</summary>
    public bool StandsAt(StepId step)
    {
        var at = At.TrimEnd('.');
        var id = step.ToString();
        return id == at || id.StartsWith(at + ".", StringComparison.Ordinal);
    }

    /// <summary>Whether it is told at all steps of this kind, or at one of them.</summary>
    public bool StandsAt(StepVerb verb) => At.Split('.')[0] == StepId.Word(verb);
}
