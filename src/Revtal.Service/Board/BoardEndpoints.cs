using System.Buffers;
using System.Text;
using Revtal.Contracts;
using Revtal.Storage;

namespace Revtal.Service.Board;

/// <summary><c>/api/v1/board</c>: all open orders.</summary>
public static class BoardEndpoints
{
    public static void MapBoard(this IEndpointRouteBuilder api) =>
        api.MapGet("/board", GetAsync).WithTags("board").WithName("getBoard").Produces<BoardView>().WithSummary("All open orders");

    // Cards lie in the projection as the JSON that is sent, so nothing is read and written again here.
    private static async Task<IResult> GetAsync(Journal journal, CancellationToken cancel)
    {
        // The position first: a change in between is then sent again rather than missed.
        var position = await journal.LastPositionAsync(cancel);
        var body = new ArrayBufferWriter<byte>(64 * 1024);
        Encoding.UTF8.GetBytes($"{{\"position\":{position},\"cards\":[", body);
        var first = true;
        foreach (var card in await journal.OpenCardsAsync())
        {
            if (!first)
            {
                body.Write(","u8);
            }

            first = false;
            Encoding.UTF8.GetBytes(card, body);
        }

        body.Write("]}"u8);
        return Results.Bytes(body.WrittenMemory, "application/json; charset=utf-8");
    }
}
