using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>What an order waits for that is not the bench's own next thing.</summary>
public enum WaitKind
{
    Customer,
    Parts,
    Array,
    Watch,
    Lead,

    /// <summary>It is parked, for the reason that was given.</summary>
    Parked,
}

/// <summary>What takes a parked order up again by itself.</summary>
public enum WakeOn
{
    /// <summary>The customer says yes or no to the quote.</summary>
    CustomerAnswers,

    /// <summary>All parts of its plan lie on the shelf or are set aside for it.</summary>
    PartsArrive,
}

/// <summary>A word that whoever goes on must have read.</summary>
/// <param name="By">Who said it, by id.</param>
/// <param name="To">Whose hands it is for; null for whoever comes.</param>
public sealed record HandOver(string By, string? To, string Word, DateTimeOffset At);

/// <summary>What an order waits for, and since when.</summary>
/// <param name="On">“the customer”, “parts”.</param>
public sealed record Waiting(WaitKind Kind, string On, DateTimeOffset Since)
{
    /// <summary>Null where the next thing is the bench's to do.</summary>
    /// <param name="holds">Those of the order.</param>
    public static Waiting? Of(Order order, IReadOnlyList<Hold> holds) =>
        order switch
        {
            { IsOpen: false } => null,
            { Stage: Stage.Parked, Parking: { } parking } => parking.Wakes switch
            {
                WakeOn.CustomerAnswers => new(WaitKind.Customer, "the customer", parking.Since),
                WakeOn.PartsArrive => new(WaitKind.Parts, "parts", parking.Since),
                _ => new(WaitKind.Parked, "what it is parked for", parking.Since),
            },
            { Stage: Stage.Watching, Watch: { } watch } => new(WaitKind.Watch, "the end of its watch", watch.BeganAt),
            { Stage: Stage.Planned, Offered: not null, OfferedAt: { } offered } => new(
                WaitKind.Customer,
                "the customer",
                offered
            ),
            { Stage: Stage.OnBench, RunState.Stop: { } stop } => new(WaitKind.Lead, "a lead", stop.At),
            _ when holds.Any(h => h is { IsOpen: true, Kind: HoldKind.Array, Until: not null }) => new(
                WaitKind.Array,
                "its array",
                order.Readings[^1].At
            ),
            _ => null,
        };
}

/// <summary>What an agreed order cannot begin without: neither set aside for it nor free on the shelf.</summary>
/// <param name="Parts">Each kind once.</param>
public sealed record PartsOwed(int Number, IReadOnlyList<PartNumber> Parts)
{
    /// <summary>Null where nothing is lacking, or the order waits for something else first.</summary>
    /// <param name="lacks">By <see cref="StockEffects.Lacks"/>.</param>
    public static PartsOwed? Of(Order order, IReadOnlyList<PartWish> lacks) =>
        order.Stage == Stage.Agreed && lacks.Count > 0
            ? new PartsOwed(order.Number, [.. lacks.Select(w => w.Number).Distinct()])
            : null;
}

/// <summary>That an order rests.</summary>
/// <param name="Since">When it was parked.</param>
/// <param name="By">Who parked it.</param>
/// <param name="Wakes">What takes it up again beside a time; null for nothing.</param>
public sealed record Parking(DateTimeOffset Since, string By, WakeOn? Wakes);

/// <summary>When a parked order is taken up again by itself.</summary>
public static class Waking
{
    /// <param name="hasParts">Asked only of an order that waits for parts.</param>
    public static bool IsDue(Order order, DateTimeOffset now, Func<bool> hasParts) =>
        order is { Stage: Stage.Parked }
        && (
            order.ParkedUntil <= now
            || order.Parking?.Wakes switch
            {
                WakeOn.CustomerAnswers => order.WorkStage > Stage.Planned || order.Declined is not null,
                WakeOn.PartsArrive => hasParts(),
                _ => false,
            }
        );

    /// <exception cref="RefusedException">That would never come.</exception>
    public static void NeedPossible(Order order, WakeOn? wakes)
    {
        if (wakes == WakeOn.CustomerAnswers && order is not { Stage: Stage.Planned, Offered: not null, Declined: null })
        {
            throw RefusedException.Rule(
                "nothing-to-wake",
                "The customer has no quote to answer: make its link first, or park it without that."
            );
        }

        if (wakes == WakeOn.PartsArrive && order.PartsWanted.Count == 0)
        {
            throw RefusedException.Rule(
                "nothing-to-wake",
                "Its plan waits for no part of the catalogue: park it with a reason alone."
            );
        }
    }
}
