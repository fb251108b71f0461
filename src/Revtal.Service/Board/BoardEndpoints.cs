using System.Buffers;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Board;

/// <summary><c>/api/v1/board</c>: all open orders.</summary>
public static class BoardEndpoints
{
    public static void MapBoard(this IEndpointRouteBuilder api) =>
        api.MapGet("/board", GetAsync)
            .WithTags("board")
            .WithName("getBoard")
            .Produces<BoardView>()
            .WithSummary("All open orders");

    // Cards lie in the projection as the JSON that is sent: they are copied through, neither read nor gathered in one
    // large buffer.
    private static async Task GetAsync(HttpContext context, Journal journal, IOptions<ShopOptions> shop)
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
        var batches = BatchCard.Of(
            journal.BatchCards().Select(c => JsonSerializer.Deserialize<OrderCard>(c, RevtalJson.Options)!)
        );
        body.Write(JsonSerializer.SerializeToUtf8Bytes(batches, RevtalJson.Options));
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
