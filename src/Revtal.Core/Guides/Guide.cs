using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>What the bench knows of one machine model. One published revision of it never changes.</summary>
public sealed record Guide(
    ModelFacts Model,
    MemoryFacts Memory,
    IReadOnlyList<DriveBay> Drives,
    IReadOnlyList<IsolationStep> Isolate,
    IReadOnlyList<Removal> Removals,
    IReadOnlyList<FirstStartSign> FirstStart,
    IReadOnlyList<Trap> Traps)
{
    public MemorySlot? Slot(string id) => Memory.Slots.FirstOrDefault(s => s.Id == id);

    /// <summary>The slot of this id.</summary>
    /// <exception cref="RefusedException">The model has none; the message names those it has.</exception>
    public MemorySlot NeedSlot(string id) => Slot(id) ?? throw RefusedException.Invalid(
        "no-such-slot", $"{Model.Code} has no slot “{id}”. It has {string.Join(", ", Memory.Slots.Select(s => s.Id))}.");
}

/// <summary>Which machine this is about.</summary>
/// <param name="Code">Short, unique in the shop, upper case letters and digits: <c>FJ14</c>.</param>
/// <param name="Kind">In the trade's words: laptop, tower, all-in-one ….</param>
/// <param name="Built">Years, as <c>2021..2023</c>.</param>
/// <param name="TellApart">How to tell its variants, or it from its neighbours.</param>
public sealed record ModelFacts(string Maker, string Name, string Code, string Kind, string? Built, string? TellApart);

/// <summary>What memory the model takes.</summary>
/// <param name="Speeds">The platform's grades, in MT/s, ascending.</param>
/// <param name="StatedMax">What its maker states as the most.</param>
/// <param name="Populate">Slots in the order in which they are to be filled, by how many modules there are.</param>
/// <param name="SharedGraphics">What the graphics keep for themselves, if they share the memory.</param>
public sealed record MemoryFacts(
    string Generation,
    string Module,
    IReadOnlyList<int> Speeds,
    MemorySize StatedMax,
    IReadOnlyList<MemorySlot> Slots,
    IReadOnlyDictionary<int, IReadOnlyList<string>> Populate,
    MemorySize? SharedGraphics);

/// <summary>One memory slot.</summary>
/// <param name="ReportsAs">The locator under which the firmware lists it.</param>
/// <param name="Below">The slot that lies over this one on the board.</param>
/// <param name="Reach">The removal that gives access to it; null where nothing need come off.</param>
/// <param name="Soldered">Its module cannot be changed.</param>
/// <param name="Angle">At which the module goes in, in degrees from the board; 90 upright.</param>
/// <param name="Latch">How its latches work: <c>spread-both</c>, <c>one-side</c>, <c>swing-tabs</c>, <c>self-closing</c>.</param>
/// <param name="Press">How it is pressed home: <c>straight-down</c> or <c>hold-latches-open</c>.</param>
/// <param name="Notch">Where the notch points.</param>
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
    string? Notch);

/// <summary>One drive bay, with the trade's names for form, key and link.</summary>
public sealed record DriveBay(string Id, string Form, string? Key, string? Link, bool Boots, string? Reach, string? Pad);

/// <summary>What is done before anything is opened.</summary>
/// <param name="Kind">One of <see cref="Isolation.Known"/>.</param>
/// <param name="Duration">How long, where the kind has a length.</param>
public sealed record IsolationStep(string Kind, TimeSpan? Duration, string? Note);

/// <summary>One thing that comes off, and what must have come off before it.</summary>
/// <param name="Needs">Ids of other removals, or <c>isolated</c>.</param>
/// <param name="Minutes">What it takes to take it off; closing takes as long.</param>
public sealed record Removal(
    string Id,
    string Title,
    IReadOnlyList<string> Needs,
    IReadOnlyList<FastenerGroup> Fasteners,
    IReadOnlyList<Precaution> Precautions,
    string? Open,
    string? Close,
    int Minutes);

/// <summary>Fasteners alike that hold one removal.</summary>
/// <param name="Driver">The bit: <c>PH0</c>, <c>T5</c>, <c>hand</c>.</param>
/// <param name="Length">Under the head, in mm.</param>
/// <param name="Captive">They stay in the part when loose, and so are not counted out.</param>
/// <param name="At">Where each sits on the cover, from its upper left corner, 0 to 1 across and down.</param>
public sealed record FastenerGroup(
    string Group, string Driver, decimal? Length, int Count, bool Captive, IReadOnlyList<BoardPoint> At, string? Hidden);

/// <summary>A place on the drawing: 0 to 1 across and down.</summary>
public sealed record BoardPoint(double X, double Y);

/// <summary>A warning that belongs to a step.</summary>
/// <param name="Kind">One of <see cref="PrecautionKinds"/>.</param>
public sealed record Precaution(string Kind, string Text)
{
    public static readonly IReadOnlyList<string> PrecautionKinds =
        ["power", "static", "heat", "edge", "cable", "latch", "notch", "seal", "data", "screw", "pad", "glass"];
}

/// <summary>Something that may be seen or heard at the first start.</summary>
/// <param name="Means"><c>normal</c>, or what is wrong: <c>not-seated</c>, <c>unfit-module</c> ….</param>
public sealed record FirstStartSign(string Sees, string Means, string? Do);

/// <summary>What people get wrong on this model, told at the step where it happens.</summary>
/// <param name="At">A step id, or the start of one: <c>fit.S1</c>, <c>open.</c>.</param>
public sealed record Trap(string At, string Text);
