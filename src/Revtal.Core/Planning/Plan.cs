using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>What becomes of one slot.</summary>
public enum SlotUse
{
    /// <summary>As it is: its module stays, or it stays empty.</summary>
    Keep,

    /// <summary>A module that is in the machine comes here from another slot.</summary>
    Move,

    /// <summary>A module from outside is fitted.</summary>
    Fit,

    /// <summary>Its module leaves and none follows.</summary>
    Empty,

    /// <summary>Its module comes out and goes back in, seated anew.</summary>
    Reseat,

    /// <summary>It is only looked at.</summary>
    Inspect,
}

/// <summary>One slot of a plan.</summary>
/// <param name="Before">What sat there; its module is null when empty or unknown.</param>
/// <param name="Module">What sits there afterwards; null for empty, or for a kept occupant that the reading did not
/// name.</param>
/// <param name="From">Where a moved module comes from.</param>
public sealed record PlannedSlot(string Slot, SlotUse Use, SlotContent Before, MemoryModule? Module, string? From)
{
    /// <summary>Whether something must come out: a module that is there, or may be.</summary>
    public bool Pulls => Use is not (SlotUse.Keep or SlotUse.Inspect) && (Before.Module is not null || !Before.Known);

    /// <summary>Whether something goes in.</summary>
    public bool Fits => Use is SlotUse.Move or SlotUse.Fit or SlotUse.Reseat;

    /// <summary>Whether what sits there afterwards is what sat there before.</summary>
    public bool Stays => Use is SlotUse.Keep or SlotUse.Reseat or SlotUse.Inspect;
}

/// <summary>A part that leaves the machine for good.</summary>
/// <param name="Name">As far as the before reading knows it.</param>
/// <param name="IsDrive">Its data is to be thought of.</param>
public sealed record LeavingPart(string Position, string Name, bool IsDrive);

/// <summary>Which module sits where when the work is done; every slot of the guide once, in its order.</summary>
/// <param name="Bays">The bays that are touched or looked at.</param>
public sealed record Plan(IReadOnlyList<PlannedSlot> Slots, IReadOnlyList<PlannedBay>? Bays = null)
{
    /// <summary>Only the bays that the plan is about.</summary>
    public IReadOnlyList<PlannedBay> Bays { get; } = Bays ?? [];

    /// <summary>Whether it is cleaned inside while it is open; a priced extra.</summary>
    public bool Cleans { get; init; }

    /// <summary>Positions that must be reached: pulled from, fitted into, or looked at.</summary>
    public IReadOnlyList<string> Touched =>
        [.. Slots.Where(s => s.Use != SlotUse.Keep).Select(s => s.Slot), .. Bays.Select(b => b.Bay)];

    /// <summary>Whether nothing but looking is planned.</summary>
    public bool OnlyLooks =>
        Slots.All(s => s.Use is SlotUse.Keep or SlotUse.Inspect) && Bays.All(b => b.Use == BayUse.Inspect);

    /// <summary>
    /// What leaves the machine for good: modules first, then drives; what moves to another place stays.
    /// </summary>
    public IReadOnlyList<LeavingPart> ComesOut =>
        [
            .. Slots
                .Where(s => s.Pulls && !s.Stays && Slots.All(o => o.From != s.Slot))
                .Select(s => new LeavingPart(s.Slot, s.Before.Module?.ToString() ?? "the module", false)),
            .. Bays.Where(b => b.Changes && b.Pulls && Bays.All(o => o.From != b.Bay))
                .Select(b => new LeavingPart(b.Bay, b.Before?.ToString() ?? "the drive", true)),
        ];

    /// <summary>Bays whose data is copied off the drive of this one before that drive leaves.</summary>
    internal IReadOnlyList<string> CopiedFrom(string bay) =>
        [.. Bays.Where(b => b.CopiesFirst && b.Wish!.DataFrom(b.Bay) == bay).Select(b => b.Bay)];

    /// <summary>What becomes of a bay; null where it stays as it is.</summary>
    public PlannedBay? Bay(string id) => Bays.FirstOrDefault(b => b.Bay == id);
}

/// <summary>
/// One wish of the technician; positions without a wish stay as they are. Exactly one of them is given.
/// </summary>
/// <param name="Slot">A slot's or a bay's id.</param>
/// <param name="From">The slot or bay whose occupant comes here.</param>
/// <param name="Drive">For a bay: the drive that is fitted.</param>
public sealed record SlotChange(
    string Slot,
    MemoryModule? Fit = null,
    string? From = null,
    bool Empty = false,
    bool Reseat = false,
    bool Inspect = false,
    DriveWish? Drive = null
)
{
    internal int Wishes =>
        new[] { Fit is not null, From is not null, Empty, Reseat, Inspect, Drive is not null }.Count(w => w);
}
