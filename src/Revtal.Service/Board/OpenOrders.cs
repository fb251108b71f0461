using System.Text;
using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Storage;

namespace Revtal.Service.Board;

/// <summary>All open orders, as their cards tell them.</summary>
/// <param name="Position">Of the journal; what changed after it may be in the cards already.</param>
/// <param name="Cards">By number, each with the JSON that it was read from.</param>
/// <param name="Json">The same as they are sent, with a comma between two.</param>
internal sealed record OpenCards(
    long Position,
    IReadOnlyList<(string Json, OrderCard Card)> Cards,
    ReadOnlyMemory<byte> Json,
    IReadOnlyList<BatchCard> Batches,
    IReadOnlyList<PromisedWork> Promised
)
{
    /// <summary>Which of them are or will be late.</summary>
    public IReadOnlyList<Late> Late(DateTimeOffset now) => Outlook.Of(Promised, now);
}

/// <summary>
/// Keeps the cards of all open orders for as long as nothing is recorded: a card changes only with an entry of the
/// journal.
/// </summary>
internal sealed class OpenOrders(Journal journal)
{
    private volatile OpenCards? kept;

    public OpenCards Now()
    {
        // The position first: a change in between is then read again rather than missed.
        var position = journal.LastPosition();
        var before = kept;
        return before?.Position == position ? before : kept = Read(position, before);
    }

    // Most cards are what they were: only those that are not are parsed.
    private OpenCards Read(long position, OpenCards? before)
    {
        var known = before?.Cards.ToDictionary(c => c.Json, c => c.Card) ?? [];
        var texts = journal.OpenCards();
        (string Json, OrderCard Card)[] cards = [.. texts.Select(t => (t, known.GetValueOrDefault(t) ?? Parsed(t)))];
        return new OpenCards(
            position,
            cards,
            Encoding.UTF8.GetBytes(string.Join(',', texts)),
            BatchCard.Of(cards.Select(c => c.Card)),
            [.. cards.Select(c => PromisedWork.Of(c.Card)).OfType<PromisedWork>()]
        );
    }

    private static OrderCard Parsed(string json) => JsonSerializer.Deserialize<OrderCard>(json, RevtalJson.Options)!;
}
