using System.Globalization;

namespace Revtal.Core.Orders;

/// <summary>What a date of the bench is for.</summary>
public enum DateKind
{
    /// <summary>A machine is promised to its customer.</summary>
    Promised,

    /// <summary>Somebody is to be asked about a machine that is watched.</summary>
    Watch,

    /// <summary>An array will have rebuilt, as it said when it was read.</summary>
    Array,

    /// <summary>A parked order is taken up again.</summary>
    Parked,
}

/// <summary>One date of an order.</summary>
/// <param name="At">When; null for a whole day.</param>
/// <param name="On">The day; null where a time is known.</param>
/// <param name="Title">“107 promised: Norrland Fjell 14”.</param>
/// <param name="Text">Whose machine it is, where it lies and what comes next, a line each.</param>
public sealed record BenchDate(int Order, DateKind Kind, DateTimeOffset? At, DateOnly? On, string Title, string Text);

/// <summary>What of the open orders belongs in a calendar.</summary>
public static class BenchDates
{
    /// <summary>The dates of one order; none for most.</summary>
    public static IEnumerable<BenchDate> Of(OrderCard card)
    {
        if (card.PromisedAt is { } promised)
        {
            yield return Date(DateKind.Promised, promised, null, "promised");
        }

        if (card.DueOn is { } due)
        {
            yield return Date(DateKind.Watch, null, due, "ask how it goes");
        }

        // Of several the last: until then it is held.
        if (card.Holds?.Where(h => h.Kind == HoldKind.Array).Max(h => h.Until) is { } rebuilt)
        {
            yield return Date(DateKind.Array, rebuilt, null, "array rebuilt, as it said");
        }

        if (card.ParkedUntil is { } parked)
        {
            yield return Date(DateKind.Parked, parked, null, "taken up again");
        }

        BenchDate Date(DateKind kind, DateTimeOffset? at, DateOnly? on, string what) =>
            new(
                card.Number,
                kind,
                at,
                on,
                string.Create(CultureInfo.InvariantCulture, $"{card.Number} {what}: {card.Machine}"),
                string.Join(
                    '\n',
                    new[] { card.Customer, Phrases.When(card.Place, p => $"Lies at {p}"), card.WaitsFor }.Where(l =>
                        l.Length > 0
                    )
                )
            );
    }
}
