using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What of an order belongs in a calendar.</summary>
public sealed class BenchDatesTests
{
    private static readonly DateTimeOffset Noon = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);
    private static readonly OrderCard Card = OrderCard.Of(Make.Order(Make.Agreed()), Make.Fjell);

    [Fact]
    public void Most_orders_have_no_date() => Assert.Empty(BenchDates.Of(Card));

    [Fact]
    public void Each_date_says_of_which_order_and_what_for()
    {
        var card = Card with
        {
            PromisedAt = Noon,
            DueOn = new DateOnly(2026, 3, 5),
            ParkedUntil = Noon.AddDays(2),
            Place = "shelf 3",
            Holds =
            [
                new CardHold(HoldKind.Array, "array rebuilds", Noon.AddHours(1)),
                new CardHold(HoldKind.Array, "array rebuilds", Noon.AddHours(3)),
                new CardHold(HoldKind.CopyOwed, "copy owed", Noon.AddHours(9)),
            ],
        };
        Assert.Equal(
            [
                (DateKind.Promised, Noon, null, "101 promised: Norrland Fjell 14"),
                (DateKind.Watch, null, new DateOnly(2026, 3, 5), "101 ask how it goes: Norrland Fjell 14"),
                (DateKind.Array, Noon.AddHours(3), null, "101 array rebuilt, as it said: Norrland Fjell 14"),
                (DateKind.Parked, Noon.AddDays(2), (DateOnly?)null, "101 taken up again: Norrland Fjell 14"),
            ],
            BenchDates.Of(card).Select(d => (d.Kind, d.At, d.On, d.Title))
        );
        Assert.All(
            BenchDates.Of(card),
            d => Assert.StartsWith("Choir's archive\nLies at shelf 3\n", d.Text, StringComparison.Ordinal)
        );
    }
}
