using System.Buffers;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Board;

/// <summary><c>/api/v1/board</c>: all open orders.</summary>
public static class BoardEndpoints
{
    // More than a screen follows one by one.
    private const int MostCards = 100;

    public static void MapBoard(this IEndpointRouteBuilder api)
    {
        var board = api.MapGroup("/board").WithTags("board");
        board.MapGet("/", GetAsync).WithName("getBoard").Produces<BoardView>().WithSummary("All open orders");
        board
            .MapGet("/cards", GetCardsAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getCards")
            .WithSummary("The cards of some orders, or of what some people have in hand, as they are now");
    }

    private static async Task<CardsView> GetCardsAsync(
        Journal journal,
        OrderDesk desk,
        Lateness late,
        CancellationToken cancel,
        int[]? order = null,
        [FromQuery] string[]? owner = null
    )
    {
        if (order?.Length > MostCards)
        {
            throw RefusedException.Invalid(
                "too-many-cards",
                $"Ask for at most {MostCards} orders: ?order=104&order=105."
            );
        }

        var cards = journal.OpenCards();
        return new CardsView(
            [
                .. (order ?? []).Select(journal.OpenCard).OfType<string>().Select(Read),
                .. owner is { Length: > 0 }
                    ? cards.Select(Read).Where(c => owner.Contains(c.Owner)).Take(MostCards)
                    : [],
            ],
            late.Of(cards),
            await desk.PartsOwedAsync(cancel)
        );
    }

    private static OrderCard Read(string card) => JsonSerializer.Deserialize<OrderCard>(card, RevtalJson.Options)!;

    // Cards lie in the projection as the JSON that is sent: they are copied through, neither read nor gathered in one
    // large buffer.
    private static async Task GetAsync(
        HttpContext context,
        Journal journal,
        OrderDesk desk,
        IOptions<ShopOptions> shop,
        Lateness late
    )
    {
        // The position first: a change in between is then sent again rather than missed.
        var position = journal.LastPosition();
        var cards = journal.OpenCards();
        context.Response.ContentType = "application/json; charset=utf-8";
        var body = context.Response.BodyWriter;
        Encoding.UTF8.GetBytes(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{{\"position\":{position},\"nearlyFullPercent\":{shop.Value.NearlyFullPercent},\"batches\":"
            ),
            body
        );
        var batches = BatchCard.Of(journal.BatchCards().Select(Read));
        body.Write(JsonSerializer.SerializeToUtf8Bytes(batches, RevtalJson.Options));
        body.Write(",\"late\":"u8);
        body.Write(JsonSerializer.SerializeToUtf8Bytes(late.Of(cards), RevtalJson.Options));
        body.Write(",\"partsOwed\":"u8);
        body.Write(
            JsonSerializer.SerializeToUtf8Bytes(await desk.PartsOwedAsync(context.RequestAborted), RevtalJson.Options)
        );
        body.Write(",\"cards\":["u8);
        for (var i = 0; i < cards.Count; i++)
        {
            if (i > 0)
            {
                body.Write(","u8);
            }

            Encoding.UTF8.GetBytes(cards[i], body);
        }

        body.Write("]}"u8);
        await body.FlushAsync(context.RequestAborted);
    }
}
