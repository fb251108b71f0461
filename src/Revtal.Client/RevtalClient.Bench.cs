using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Client;

// The board, orders as they stand, the shop, and what changes live.
public sealed partial class RevtalClient
{
    public Task<BoardView> BoardAsync(CancellationToken cancel = default) => GetAsync<BoardView>("board", cancel);

    public Task<OrderView> OrderAsync(int number, CancellationToken cancel = default) =>
        GetAsync<OrderView>($"orders/{number}", cancel);

    /// <param name="after">What the page before gave as next.</param>
    /// <param name="later">Only those that leave something for a later visit.</param>
    public Task<Page<OrderCard>> SearchAsync(
        string? text,
        Stage? stage = null,
        string? after = null,
        int limit = 50,
        bool later = false,
        CancellationToken cancel = default
    ) =>
        GetAsync<Page<OrderCard>>(
            $"orders?limit={limit}{Query("text", text)}{Query("stage", Word(stage))}{Query("after", after)}"
                + Query("later", later ? "true" : null),
            cancel
        );

    /// <summary>All that was recorded on an order.</summary>
    public Task<IReadOnlyList<EntryView>> EntriesAsync(int number, CancellationToken cancel = default) =>
        AllAsync<EntryView>($"orders/{number}/entries?", cancel);

    public Task<ShopView> ShopAsync(CancellationToken cancel = default) => GetAsync<ShopView>("shop", cancel);

    public Task<Person> PutPersonAsync(string id, PersonRequest request, CancellationToken cancel = default) =>
        ChangeAsync<Person>(
            HttpMethod.Put,
            $"shop/people/{Uri.EscapeDataString(id)}",
            () => Json(request),
            null,
            null,
            cancel
        );

    /// <summary>Live changes of orders until cancelled or the connection ends.</summary>
    /// <summary>What is promised, watched, rebuilt and taken up again when: a calendar (RFC 5545), UTF-8.</summary>
    public Task<byte[]> DatesAsync(CancellationToken cancel = default) => BytesAsync("board/dates.ics", cancel);

    /// <param name="after">The position last seen; null for what comes from now on.</param>
    public IAsyncEnumerable<Change> ChangesAsync(long? after = null, CancellationToken cancel = default) =>
        EventsAsync<Change>(SseParser.EventTypeDefault, after, cancel);

    /// <summary>What changes outside the orders, until cancelled or the connection ends.</summary>
    public IAsyncEnumerable<ShopChange> ShopChangesAsync(CancellationToken cancel = default) =>
        EventsAsync<ShopChange>("shop", null, cancel);

    private async IAsyncEnumerable<T> EventsAsync<T>(
        string type,
        long? after,
        [EnumeratorCancellation] CancellationToken cancel
    )
        where T : class
    {
        using var request = Signed(new HttpRequestMessage(HttpMethod.Get, $"{Root}changes"));
        if (after is { } position)
        {
            request.Headers.Add("Last-Event-ID", position.ToString(System.Globalization.CultureInfo.InvariantCulture));
        }

        using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
        if (!answer.IsSuccessStatusCode)
        {
            throw await ProblemAsync(answer, cancel);
        }

        await using var stream = await answer.Content.ReadAsStreamAsync(cancel);
        await foreach (
            var item in SseParser
                .Create(
                    stream,
                    (kind, data) => kind == type ? JsonSerializer.Deserialize(data, WireTypes.Of<T>()) : null
                )
                .EnumerateAsync(cancel)
        )
        {
            if (item.Data is { } change)
            {
                yield return change;
            }
        }
    }
}
