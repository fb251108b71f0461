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
}

/// <summary>One slot of a plan.</summary>
/// <param name="Before">What sat there; its module is null when empty or unknown.</param>
/// <param name="Module">What sits there afterwards; null for empty, or for a kept occupant that the reading did not name.</param>
/// <param name="From">Where a moved module comes from.</param>
public sealed record PlannedSlot(string Slot, SlotUse Use, SlotContent Before, MemoryModule? Module, string? From)
{
    /// <summary>Whether something must come out: a module that is there, or may be.</summary>
    public bool Pulls => Use != SlotUse.Keep && (Before.Module is not null || !Before.Known);
}

/// <summary>Which module sits where when the work is done; every slot of the guide once, in its order.</summary>
public sealed record Plan(IReadOnlyList<PlannedSlot> Slots)
{
    /// <summary>Slots that a hand must touch: pulled from, fitted into, or both.</summary>
    public IReadOnlyList<string> Touched => [.. Slots.Where(s => s.Use != SlotUse.Keep).Select(s => s.Slot)];
}

/// <summary>One wish of the technician; slots without a wish stay as they are. Exactly one of the three is given.</summary>
public sealed record SlotChange(string Slot, MemoryModule? Fit = null, string? From = null, bool Empty = false);

/// <summary>Wishes to a whole plan.</summary>
public static class Planner
{
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
        var plan = new Plan([.. guide.Memory.Slots.Select(slot => Settle(slot.Id))]);
        if (plan.Touched.Count == 0)
        {
            throw RefusedException.Invalid("plan-changes-nothing", "The plan changes no slot. Name at least one module to fit, move or take out.");
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
                _ when moved.Contains(id) => new PlannedSlot(id, SlotUse.Empty, was, null, null),
                _ => new PlannedSlot(id, SlotUse.Keep, was, was.Module, null),
            };
        }

        void Check(SlotChange change)
        {
            var slot = guide.NeedSlot(change.Slot);
            if (changes.Count(c => c.Slot == change.Slot) > 1 || (change.Fit is null ? 0 : 1) + (change.From is null ? 0 : 1) + (change.Empty ? 1 : 0) != 1)
            {
                throw RefusedException.Invalid("slot-planned-twice", $"{change.Slot} has no single plan. Say once what it gets: a module, another slot's module, or nothing.");
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
