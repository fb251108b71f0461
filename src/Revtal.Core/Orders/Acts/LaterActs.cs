using System.Globalization;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>Something is noted for the machine's next visit.</summary>
/// <param name="Changes">The wishes that make it; empty where only words are noted.</param>
/// <param name="Words">As the bench says it.</param>
/// <param name="Price">With work and tax, on the day it was noted; null where it is not known.</param>
public sealed record LaterNoted(IReadOnlyList<SlotChange> Changes, string Words, decimal? Price) : EntryBody
{
    public override OrderAct Act => OrderAct.NoteLater;

    public override string Line(Guide? guide) =>
        $"Noted for a later visit: {Words}"
        + Phrases.When(Price, p => string.Create(CultureInfo.InvariantCulture, $", {p:0.00} on that day"));

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Later = new LaterVisit(Changes, Words, Price, entry.At),
        };
}

/// <summary>Nothing is left for a later visit any more.</summary>
public sealed record LaterDropped(string? Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.DropLater;

    public override string Line(Guide? guide) => $"The later visit is dropped{Phrases.Added(Reason)}";

    internal override Order Apply(Order order, Entry entry) => order with { Later = null };
}

/// <summary>
/// What is left for the machine's next visit. Each rule gives the entry to append, or refuses with the reason and
/// the way on.
/// </summary>
public static class LaterRules
{
    /// <summary>The machine's next visit, planned on the machine as this order leaves it.</summary>
    /// <param name="order">As it stands; with a before reading where anything but words is noted.</param>
    /// <param name="changes">Empty where there are only words.</param>
    /// <exception cref="RefusedException">Nothing is said, or it cannot be done to this machine.</exception>
    public static LaterNoted Note(
        Order order,
        Guide guide,
        IReadOnlyList<SlotChange> changes,
        string? words,
        decimal? price = null
    )
    {
        if (changes.Count == 0)
        {
            return new LaterNoted([], Words.RequiredLine("What comes later", words), null);
        }

        var changed = PlanWords.Short(Planner.Make(guide, Leaves(order, guide), changes));
        return new LaterNoted(changes, $"{changed}{Phrases.Added(Words.Line("The note", words))}", price);
    }

    /// <summary>What was noted is dropped.</summary>
    public static LaterDropped Drop(string? reason) => new(Words.Text("The reason", reason));

    /// <summary>The order as its machine would come in next time, with that plan on it: to be priced.</summary>
    /// <param name="from">What the plan starts from; null for the machine as this order leaves it.</param>
    /// <exception cref="RefusedException">It cannot be done to this machine.</exception>
    public static Order Visit(Order order, Guide guide, IReadOnlyList<SlotChange> changes, Reading? from = null)
    {
        var reading = from ?? Leaves(order, guide);
        return order with
        {
            Before = order.Before! with { Value = reading },
            After = null,
            Plan = new Recorded<Plan>(Planner.Make(guide, reading, changes), order.Head),
            Runs = [],
            Discount = 0,
            Agreed = null,
            Later = null,
        };
    }

    /// <summary>The machine as this order leaves it: as it was read after the work, or as the plan has it.</summary>
    /// <exception cref="RefusedException">Nothing was read yet.</exception>
    public static Reading Leaves(Order order, Guide guide) =>
        order.Before is not { } before
            ? throw RefusedException.Rule(
                "no-reading",
                $"Order {order.Number} has no before reading yet: what is in the machine is not known. Take one "
                    + "first, or note words alone."
            )
        : order.After is { Value: { Memory.Slots.Count: > 0, ListsDrives: true } after } ? after
        : AfterPlan.Of(guide, before.Value, order.Plan?.Value);
}
