using System.Net.Http.Json;
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

    /// <param name="below">The key of the next page: only numbers below it.</param>
    public Task<OrdersView> SearchAsync(
        string? text,
        Stage? stage = null,
        int? below = null,
        int limit = 50,
        CancellationToken cancel = default
    ) =>
        GetAsync<OrdersView>(
            $"orders?limit={limit}{Query("text", text)}{Query("stage", stage?.Word())}"
                + $"{Query("below", below?.ToString(System.Globalization.CultureInfo.InvariantCulture))}",
            cancel
        );

    public Task<EntriesView> EntriesAsync(int number, int after = 0, CancellationToken cancel = default) =>
        GetAsync<EntriesView>($"orders/{number}/entries?after={after}", cancel);

    public Task<ShopView> ShopAsync(CancellationToken cancel = default) => GetAsync<ShopView>("shop", cancel);

    public Task<Person> PutPersonAsync(string id, PersonRequest request, CancellationToken cancel = default) =>
        ChangeAsync<Person>(
            HttpMethod.Put,
            $"shop/people/{Uri.EscapeDataString(id)}",
            () => JsonContent.Create(request, options: RevtalJson.Options),
            null,
            null,
            cancel
        );

    /// <summary>Live changes of orders until cancelled or the connection ends.</summary>
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
        using var request = new HttpRequestMessage(HttpMethod.Get, $"{Root}changes");
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
                    (kind, data) => kind == type ? JsonSerializer.Deserialize<T>(data, RevtalJson.Options) : null
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
