using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Service.Board;

/// <summary>Which orders are or will be late, from the cards of all that are open.</summary>
internal sealed class Lateness(TimeProvider clock)
{
    // What a card says stays the same as long as its text does: most cards of a board were on the one before it.
    private volatile Dictionary<string, PromisedWork?> known = [];

    /// <param name="cards">Of all open orders, JSON each.</param>
    public IReadOnlyList<Late> Of(IReadOnlyList<string> cards)
    {
        var before = known;
        var works = new Dictionary<string, PromisedWork?>();
        foreach (var card in cards.Where(c => c.Contains("\"promisedAt\":\"", StringComparison.Ordinal)))
        {
            works[card] = before.TryGetValue(card, out var work) ? work : PromisedWork.Of(Read(card));
        }

        known = works;
        return Outlook.Of(works.Values.OfType<PromisedWork>(), clock.GetUtcNow());
    }

    private static OrderCard Read(string card) => JsonSerializer.Deserialize<OrderCard>(card, RevtalJson.Options)!;
}
