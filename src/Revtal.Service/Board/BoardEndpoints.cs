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
        OpenOrders orders,
        OrderDesk desk,
        TimeProvider clock,
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

        var open = orders.Now();
        var byNumber = open.Cards.ToDictionary(c => c.Card.Number, c => c.Card);
        return new CardsView(
            [
                .. (order ?? []).Select(n => byNumber.GetValueOrDefault(n)).OfType<OrderCard>(),
                .. owner is { Length: > 0 }
                    ? open.Cards.Select(c => c.Card).Where(c => owner.Contains(c.Owner)).Take(MostCards)
                    : [],
            ],
            open.Late(clock.GetUtcNow()),
            await desk.PartsOwedAsync(cancel)
        );
    }

    // Cards lie in the projection as the JSON that is sent: they are copied through.
    private static async Task GetAsync(
        HttpContext context,
        OpenOrders orders,
        OrderDesk desk,
        IOptions<ShopOptions> shop,
        TimeProvider clock
    )
    {
        var open = orders.Now();
        var owed = await desk.PartsOwedAsync(context.RequestAborted);
        context.Response.ContentType = "application/json; charset=utf-8";
        var body = context.Response.BodyWriter;
        Encoding.UTF8.GetBytes(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{{\"position\":{open.Position},\"nearlyFullPercent\":{shop.Value.NearlyFullPercent}"
            ),
            body
        );
        Write(body, ",\"batches\":"u8, open.Batches);
        Write(body, ",\"late\":"u8, open.Late(clock.GetUtcNow()));
        Write(body, ",\"partsOwed\":"u8, owed);
        body.Write(",\"cards\":["u8);
        body.Write(open.Json.Span);
        body.Write("]}"u8);
        await body.FlushAsync(context.RequestAborted);
    }

    private static void Write<T>(IBufferWriter<byte> body, ReadOnlySpan<byte> name, T value)
    {
        body.Write(name);
        body.Write(JsonSerializer.SerializeToUtf8Bytes(value, RevtalJson.Options));
    }
}
