using Revtal.Core.Captures;
using Revtal.Core.Guides;
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

/// <summary>What becomes of one drive bay.</summary>
public enum BayUse
{
    /// <summary>Its drive comes out and goes back in.</summary>
    Reseat,

    /// <summary>It is only looked at.</summary>
    Inspect,
}

/// <summary>One bay of a plan; bays that are not named stay as they are.</summary>
public sealed record PlannedBay(string Bay, BayUse Use);

/// <summary>One slot of a plan.</summary>
/// <param name="Before">What sat there; its module is null when empty or unknown.</param>
/// <param name="Module">What sits there afterwards; null for empty, or for a kept occupant that the reading did not name.</param>
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

/// <summary>Which module sits where when the work is done; every slot of the guide once, in its order.</summary>
/// <param name="Bays">The bays that are touched or looked at.</param>
public sealed record Plan(IReadOnlyList<PlannedSlot> Slots, IReadOnlyList<PlannedBay>? Bays = null)
{
    public IReadOnlyList<PlannedBay> Bays { get; } = Bays ?? [];

    /// <summary>Positions that must be reached: pulled from, fitted into, or looked at.</summary>
    public IReadOnlyList<string> Touched => [.. Slots.Where(s => s.Use != SlotUse.Keep).Select(s => s.Slot), .. Bays.Select(b => b.Bay)];

    /// <summary>Whether nothing but looking is planned.</summary>
    public bool OnlyLooks => Slots.All(s => s.Use is SlotUse.Keep or SlotUse.Inspect) && Bays.All(b => b.Use == BayUse.Inspect);
}

/// <summary>
/// One wish of the technician; positions without a wish stay as they are. Exactly one of the five is given. A bay can be reseated or
/// inspected.
/// </summary>
/// <param name="Slot">A slot's or a bay's id.</param>
public sealed record SlotChange(string Slot, MemoryModule? Fit = null, string? From = null, bool Empty = false, bool Reseat = false, bool Inspect = false)
{
    internal int Wishes => (Fit is null ? 0 : 1) + (From is null ? 0 : 1) + (Empty ? 1 : 0) + (Reseat ? 1 : 0) + (Inspect ? 1 : 0);
}

/// <summary>Wishes to a whole plan.</summary>
public static class Planner
{
    /// <summary>Whether a plan made for one build can be carried out on another.</summary>
    public static bool Suits(Guide guide, Plan plan) =>
        plan.Slots.Select(s => s.Slot).SequenceEqual(guide.Memory.Slots.Select(s => s.Id))
        && plan.Bays.All(b => guide.Bay(b.Bay) is not null)
        && plan.Slots.Zip(guide.Memory.Slots).All(p => p.First.Stays
            || (!p.Second.Soldered && (p.First.Module is null || FitRules.WhyNot(guide, p.Second, p.First.Module) is null)));

    /// <summary>Completes the wishes with what stays, refusing what cannot be.</summary>
    /// <exception cref="RefusedException">Unknown or doubled slot, a move from an empty slot, a module that does not fit, or no change at all.</exception>
    public static Plan Make(Guide guide, Reading before, IReadOnlyList<SlotChange> changes)
    {
        var present = Occupancy.Of(guide, before).ToDictionary(c => c.Slot);
        foreach (var change in changes)
        {
            Check(change);
        }

        var moved = changes.Select(c => c.From).OfType<string>().ToHashSet();
        var plan = new Plan(
            [.. guide.Memory.Slots.Select(slot => Settle(slot.Id))],
            [.. changes.Where(c => guide.Bay(c.Slot) is not null).Select(c => new PlannedBay(c.Slot, c.Reseat ? BayUse.Reseat : BayUse.Inspect))]);
        if (plan.Touched.Count == 0)
        {
            throw RefusedException.Invalid("plan-changes-nothing", "The plan touches nothing. Name at least one position to fit, move, take out, reseat or inspect.");
        }

        return plan;

        PlannedSlot Settle(string id)
        {
            var was = present[id];
            var change = changes.FirstOrDefault(c => c.Slot == id);
            return change switch
            {
                { Fit: { } module } => new PlannedSlot(id, SlotUse.Fit, was, module, null),
                { From: { } from } => new PlannedSlot(id, SlotUse.Move, was, present[from].Module, from),
                { Empty: true } => new PlannedSlot(id, SlotUse.Empty, was, null, null),
                { Reseat: true } => new PlannedSlot(id, SlotUse.Reseat, was, was.Module, null),
                { Inspect: true } => new PlannedSlot(id, SlotUse.Inspect, was, was.Module, null),
                _ when moved.Contains(id) => new PlannedSlot(id, SlotUse.Empty, was, null, null),
                _ => new PlannedSlot(id, SlotUse.Keep, was, was.Module, null),
            };
        }

        void Check(SlotChange change)
        {
            if (changes.Count(c => c.Slot == change.Slot) > 1 || change.Wishes != 1)
            {
                throw RefusedException.Invalid("slot-planned-twice", $"{change.Slot} has no single plan. Say once what it gets: a module, another slot's module, nothing, a reseat or a look.");
            }

            if (guide.Bay(change.Slot) is not null)
            {
                if (!change.Reseat && !change.Inspect)
                {
                    throw RefusedException.Invalid("bay-not-memory", $"{change.Slot} is a drive bay: it can be reseated or inspected here.");
                }

                return;
            }

            var slot = guide.NeedSlot(change.Slot);
            if (change.Inspect)
            {
                return;
            }

            if (change.Reseat && present[change.Slot] is { Known: true, Module: null })
            {
                throw RefusedException.Invalid("nothing-to-reseat", $"{change.Slot} holds no module that could be seated anew.");
            }

            if (slot.Soldered || guide.Slot(change.From ?? change.Slot) is { Soldered: true })
            {
                throw RefusedException.Invalid("slot-soldered", $"{change.From ?? change.Slot} of {guide.Model.Code} is soldered: its memory cannot be changed.");
            }

            if (change.From is { } from && (!present.TryGetValue(from, out var source) || source.Module is null || from == change.Slot))
            {
                guide.NeedSlot(from);
                throw RefusedException.Invalid("nothing-to-move", $"{from} holds no module that could move to {change.Slot}. The before reading says: {present[from].Spoken}.");
            }

            if (change.From is { } twice && changes.Count(c => c.From == twice) > 1)
            {
                throw RefusedException.Invalid("moved-twice", $"The module of {twice} cannot move to two slots.");
            }

            if ((change.Fit ?? (change.From is { } f ? present[f].Module : null)) is { } module && FitRules.WhyNot(guide, slot, module) is { } no)
            {
                throw no;
            }
        }
    }
}
