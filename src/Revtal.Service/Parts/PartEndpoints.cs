using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Parts;

/// <summary><c>/api/v1/parts</c>: the catalogue, the shelf and its ledger.</summary>
public static class PartEndpoints
{
    public static void MapParts(this IEndpointRouteBuilder api)
    {
        var parts = api.MapGroup("/parts").WithTags("parts");
        parts
            .MapGet(
                "/",
                (
                    PartStore store,
                    CancellationToken cancel,
                    string? text = null,
                    [FromQuery(Name = "only-short")] bool onlyShort = false,
                    string? after = null,
                    int limit = Paging.Usual
                ) => store.LinesAsync(text, onlyShort, after, Paging.Checked(limit), cancel)
            )
            .WithName("getParts")
            .WithSummary("The catalogue by number, with what lies on the shelf and what plans want");
        parts
            .MapGet(
                "/items",
                (
                    PartStore store,
                    CancellationToken cancel,
                    string? kind = null,
                    int? order = null,
                    Word<PartState>? state = null,
                    string? after = null,
                    int limit = Paging.Usual
                ) =>
                    store.ItemPageAsync(
                        kind is null ? null : new PartNumber(kind),
                        order,
                        state?.Value,
                        Paging.Number(after),
                        Paging.Checked(limit),
                        cancel
                    )
            )
            .WithName("getPartItems")
            .WithSummary("Physical parts, oldest first");
        parts
            .MapGet(
                "/ledger",
                async (
                    PartStore store,
                    CancellationToken cancel,
                    long? item = null,
                    string? after = null,
                    int limit = Paging.Usual
                ) =>
                    (await store.LedgerAsync(item, Paging.Number(after), Paging.Checked(limit), cancel)).Select(
                        l => new LedgerView(l.Id, l.Item, l.Kind, l.From, l.To, l.Order, l.Position, l.Note, l.At, l.By)
                    )
            )
            .WithName("getLedger")
            .WithSummary("Every move of every part, oldest first");
        parts
            .MapGet("/find", (PartStore store, string text) => store.Find(text))
            .WithName("findPart")
            .WithSummary("The kind that a typed number or a scanned code means");
        parts
            .MapGet(
                "/kind/{number}",
                async (string number, PartStore store, CancellationToken cancel) =>
                {
                    var kind = store.Find(number);
                    return new PartView(
                        (await store.LinesAsync([kind], cancel)).Single(),
                        [.. store.Here([kind.Number]).Select(i => new PartItemView(i, StockRules.ByHand(i.State)))],
                        await store.GoneAsync(kind.Number, cancel)
                    );
                }
            )
            .WithName("getPart")
            .WithSummary("One kind with its parts that are in the shop or in a machine on its bench");
        parts
            .MapPut(
                "/kind/{number}",
                async (
                    string number,
                    PartRequest request,
                    Sender sender,
                    PartStore store,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                {
                    var kind = new PartKind(
                        new PartNumber(number),
                        request.Name,
                        request.Module,
                        request.Drive,
                        request.Pieces,
                        request.Price,
                        request.Least,
                        request.Barcode,
                        request.Supplier,
                        request.Elsewhere,
                        request.WarrantyMonths
                    ).Checked();
                    var (made, isNew) = await store.PutAsync(
                        [kind],
                        sender.Hand(clock, $"part/{number}", request),
                        known => new Put<PartKind>(kind, !known.ContainsKey(kind.Number)),
                        cancel
                    );
                    return Made.At($"parts/kind/{Uri.EscapeDataString(number)}", made, isNew);
                }
            )
            .WithName("putPart")
            .WithSummary("Add a kind to the catalogue, or change it");
        parts.MapPost("/kind/{number}/items", ReceiveAsync).WithName("receiveParts").WithSummary("Parts come in");
        parts
            .MapPost(
                "/items/{id:long}/move",
                (
                    long id,
                    MovePartRequest request,
                    Sender sender,
                    PartStore store,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    store.MoveAsync(
                        id,
                        request.To,
                        Words.Line("The place", request.Place),
                        request.Note,
                        request.Claim,
                        sender.Hand(clock, $"part/{id}/move", request),
                        cancel
                    )
            )
            .WithName("movePart")
            .WithSummary("Move a part by hand: faulty, returned, scrapped, sold, back in stock, or to another place");
        parts
            .MapPost(
                "/kits/{kit:long}/split",
                async (
                    long kit,
                    SplitRequest request,
                    Sender sender,
                    PartStore store,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    await store.SplitAsync(
                        kit,
                        store.Find(request.Into),
                        sender.Hand(clock, $"kit/{kit}/split", request),
                        cancel
                    )
            )
            .WithName("splitKit")
            .WithSummary("Split a kit: its pieces go on as single parts");
        parts.MapPartTables();
    }

    private static async Task<Created<IReadOnlyList<PartItem>>> ReceiveAsync(
        string number,
        ReceiveRequest request,
        Sender sender,
        PartStore store,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var kind = store.Find(number);
        var one = new PartItem(
            0,
            kind.Number,
            null,
            PartState.InStock,
            request.Cost,
            request.Supplier ?? kind.Supplier,
            request.Place,
            Grade: request.Grade,
            Tested: Words.Line("The test", request.Tested)
        );
        var items = StockRules.Receive(kind, request.Count, request.Serials ?? [], one);
        var received = await store.ReceiveAsync(
            [.. items.Select(i => (kind, i))],
            sender.Hand(clock, $"part/{number}/receive", request),
            cancel
        );
        return Made.At($"parts/kind/{Uri.EscapeDataString(number)}", received);
    }
}
