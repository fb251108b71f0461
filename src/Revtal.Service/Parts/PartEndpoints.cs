using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Documents;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Parts;

/// <summary><c>/api/v1/parts</c>: the catalogue, the shelf and its ledger.</summary>
public static class PartEndpoints
{
    private const long LargestCsv = 8 << 20;

    public static void MapParts(this IEndpointRouteBuilder api)
    {
        var parts = api.MapGroup("/parts").WithTags("parts");
        parts
            .MapGet(
                "/",
                async (PartStore store, CancellationToken cancel, string? text = null, bool onlyShort = false) =>
                    (await LinesAsync(store, cancel))
                        .Where(l => Matches(l.Kind, text) && (!onlyShort || l.Short > 0))
                        .ToArray()
            )
            .WithName("getParts")
            .WithSummary("The catalogue, with what lies on the shelf and what plans want");
        parts
            .MapGet(
                "/items",
                (
                    PartStore store,
                    CancellationToken cancel,
                    string? kind = null,
                    int? order = null,
                    PartState? state = null
                ) => store.ItemsAsync(kind is null ? null : [kind], order, state, cancel)
            )
            .WithName("getPartItems")
            .WithSummary("Physical parts");
        parts
            .MapGet(
                "/ledger",
                async (PartStore store, CancellationToken cancel, long? item = null, long after = 0, int limit = 200) =>
                    (await store.LedgerAsync(item, after, Math.Clamp(limit, 1, 1000), cancel))
                        .Select(l => new LedgerView(
                            l.Id,
                            l.Item,
                            l.Kind,
                            l.From,
                            l.To,
                            l.Order,
                            l.Position,
                            l.Note,
                            l.At,
                            l.By
                        ))
                        .ToArray()
            )
            .WithName("getLedger")
            .WithSummary("Every move of every part, oldest first");
        parts
            .MapGet("/find", (PartStore store, string text, CancellationToken cancel) => store.FindAsync(text, cancel))
            .WithName("findPart")
            .WithSummary("The kind that a typed number or a scanned code means");
        parts
            .MapGet(
                "/kind/{number}",
                async (string number, PartStore store, CancellationToken cancel) =>
                {
                    var kind = await store.FindAsync(number, cancel);
                    return new PartView(
                        (await LinesAsync(store, cancel)).First(l => l.Kind.Number == kind.Number),
                        await store.ItemsAsync([kind.Number], cancel: cancel)
                    );
                }
            )
            .WithName("getPart")
            .WithSummary("One kind with its parts");
        parts
            .MapPut(
                "/kind/{number}",
                async (string number, PartRequest request, Sender sender, PartStore store, CancellationToken cancel) =>
                {
                    _ = sender;
                    var kind = new PartKind(
                        number,
                        request.Name,
                        request.Module,
                        request.Drive,
                        request.Pieces,
                        request.Price,
                        request.Least,
                        request.Barcode,
                        request.Supplier
                    ).Checked();
                    await store.PutAsync([kind], cancel);
                    return kind;
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
                        Hand(sender, clock),
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
                        await store.FindAsync(request.Into, cancel),
                        Hand(sender, clock),
                        cancel
                    )
            )
            .WithName("splitKit")
            .WithSummary("Split a kit: its pieces go on as single parts");
        parts
            .MapGet(
                "/catalogue.csv",
                async (PartStore store, CancellationToken cancel) =>
                    Csv(PartsCsv.WriteKinds(await store.KindsAsync(cancel)), "catalogue.csv")
            )
            .WithName("exportCatalogue")
            .Produces<byte[]>(contentType: "text/csv")
            .WithSummary("The catalogue as CSV");
        parts
            .MapGet(
                "/shelf.csv",
                async (PartStore store, CancellationToken cancel) =>
                    Csv(PartsCsv.WriteParts(await store.ItemsAsync(cancel: cancel)), "shelf.csv")
            )
            .WithName("exportShelf")
            .Produces<byte[]>(contentType: "text/csv")
            .WithSummary("All parts as CSV");
        parts
            .MapPost("/catalogue.csv", ImportKindsAsync)
            .Accepts<byte[]>("text/csv")
            .WithMetadata(new RequestSizeLimitAttribute(LargestCsv))
            .WithName("importCatalogue")
            .WithSummary("Take catalogue lines in from CSV, all or none; a dry run only tells");
        parts
            .MapPost("/shelf.csv", ImportPartsAsync)
            .Accepts<byte[]>("text/csv")
            .WithMetadata(new RequestSizeLimitAttribute(LargestCsv))
            .WithName("importShelf")
            .WithSummary("Take parts in from CSV, all or none; a dry run only tells");
    }

    public static void MapMachines(this IEndpointRouteBuilder api) =>
        api.MapGet(
                "/machines/{serial}",
                async (string serial, Journal journal, Orders.OrderShelf shelf, CancellationToken cancel) =>
                {
                    var cards = new List<OrderCard>();
                    NotedStage? noted = null;
                    var marks = new List<SlotMark>();
                    foreach (var number in await journal.OrdersOfAsync(serial, cancel))
                    {
                        var snapshot = await shelf.LoadAsync(number, cancel);
                        cards.Add(OrderCard.Of(snapshot.Order, snapshot.Guide));
                        marks.AddRange(
                            snapshot.Order.SwapResults.SelectMany(r =>
                                (r.Conclusion?.Suspects ?? [])
                                    .Where(s => s.Kind == SuspectKind.Slot)
                                    .SelectMany(s => s.Slots)
                                    .Select(slot => new SlotMark(slot, number, r.At, r.Conclusion!.Sentence))
                            )
                        );
                        // Only the newest finished visit counts: a later one has done what an earlier one noted, or
                        // dropped it.
                        if (
                            noted is null
                            && snapshot.Order is { Stage: Stage.HandedBack } done
                            && cards.Count(c => c.Stage == Stage.HandedBack) == 1
                            && done.Later is { } later
                        )
                        {
                            noted = new NotedStage(number, later);
                        }
                    }

                    return cards.Count == 0
                        ? throw RefusedException.NotFound(
                            "no-such-machine",
                            $"No machine with the serial “{serial}” was here."
                        )
                        : new MachineView(serial, cards, noted, marks);
                }
            )
            .WithTags("machines")
            .WithName("getMachine")
            .WithSummary("A machine over all of its visits, and what was noted for the next");

    internal static async Task<IReadOnlyList<PartLine>> LinesAsync(PartStore store, CancellationToken cancel)
    {
        var kinds = await store.KindsAsync(cancel);
        var items = await store.HereAsync(cancel);
        var byKind = items.ToLookup(i => i.Kind);
        var wanted = (await store.WantedAsync(cancel))
            .SelectMany(w =>
                w.Numbers.GroupBy(n => n)
                    .Select(g =>
                        (
                            Number: g.Key,
                            Count: g.Count()
                                - items.Count(i =>
                                    i.Order == w.Order
                                    && i.Kind == g.Key
                                    && i.State is PartState.Reserved or PartState.Fitted
                                )
                        )
                    )
            )
            .Where(w => w.Count > 0)
            .ToLookup(w => w.Number, w => w.Count);
        return
        [
            .. kinds.Select(k => new PartLine(
                k,
                byKind[k.Number].Count(i => i.State == PartState.InStock) / k.Pieces,
                byKind[k.Number].Count(i => i.State == PartState.Reserved) / k.Pieces,
                wanted[k.Number].Sum() / k.Pieces
            )),
        ];
    }

    private static bool Matches(PartKind kind, string? text) =>
        string.IsNullOrWhiteSpace(text)
        || kind.IsCalled(text)
        || $"{kind.Number} {kind.Name} {kind.Module} {kind.Drive} {kind.Supplier}".Contains(
            text.Trim(),
            StringComparison.OrdinalIgnoreCase
        );

    private static async Task<IReadOnlyList<PartItem>> ReceiveAsync(
        string number,
        ReceiveRequest request,
        Sender sender,
        PartStore store,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var kind = await store.FindAsync(number, cancel);
        var serials = request.Serials ?? [];
        var count = serials.Count > 0 ? serials.Count : (request.Count ?? 1) * kind.Pieces;
        if (
            count is < 1 or > 1000
            || count % kind.Pieces != 0
            || request.Cost is < 0 or > PartKind.HighestPrice
            || (request.Grade is not (null or "A" or "B" or "C"))
        )
        {
            throw RefusedException.Invalid(
                "receive-impossible",
                kind.Pieces > 1
                    ? $"{kind.Number} is a kit of {kind.Pieces}: serials come {kind.Pieces} a kit, 1 to 1000 pieces "
                        + "at once; a cost is 0 or more, a grade A, B or C."
                    : "1 to 1000 parts come in at once; a cost is 0 or more, a grade A, B or C."
            );
        }

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
        return await store.ReceiveAsync(
            [
                .. Enumerable
                    .Range(0, count)
                    .Select(i => (kind, one with { Serial = i < serials.Count ? serials[i] : null })),
            ],
            Hand(sender, clock),
            cancel
        );
    }

    private static async Task<CsvImported> ImportKindsAsync(
        HttpRequest request,
        Sender sender,
        PartStore store,
        CancellationToken cancel,
        bool dryRun = false
    )
    {
        _ = sender;
        var (kinds, problems) = PartsCsv.ReadKinds(await BodyAsync(request, cancel));
        var known = (await store.KindsAsync(cancel)).ToDictionary(k => k.Number, StringComparer.OrdinalIgnoreCase);
        CsvChange[] changes =
        [
            .. kinds
                .Where(k => !known.TryGetValue(k.Kind.Number, out var was) || was != k.Kind)
                .Select(k => new CsvChange(
                    k.Line,
                    k.Kind.Number,
                    known.TryGetValue(k.Kind.Number, out var was)
                        ? was.Price != k.Kind.Price
                            ? $"changes, price {was.Price:0.00} to {k.Kind.Price:0.00}"
                            : "changes"
                        : $"comes new, {k.Kind.Name}"
                )),
        ];
        if (!dryRun && problems.Count == 0)
        {
            await store.PutAsync([.. kinds.Select(k => k.Kind)], cancel);
        }

        return new CsvImported(dryRun, changes, Told(problems), kinds.Count - changes.Length);
    }

    private static async Task<CsvImported> ImportPartsAsync(
        HttpRequest request,
        Sender sender,
        PartStore store,
        TimeProvider clock,
        CancellationToken cancel,
        bool dryRun = false
    )
    {
        var (parts, bad) = PartsCsv.ReadParts(await BodyAsync(request, cancel));
        var known = (await store.KindsAsync(cancel)).ToDictionary(k => k.Number, StringComparer.OrdinalIgnoreCase);
        var here = (await store.HereAsync(cancel))
            .Where(i => i.Serial is not null)
            .Select(i => (i.Kind, i.Serial))
            .ToHashSet();
        var problems = Told(bad)
            .Concat(
                parts
                    .Select(p =>
                        !known.TryGetValue(p.Part.Kind, out var kind)
                            ? new CsvChange(p.Line, p.Part.Kind, "The catalogue has no such part. Add it first.")
                        : kind.Pieces > 1
                            ? new CsvChange(
                                p.Line,
                                p.Part.Kind,
                                $"It is a kit of {kind.Pieces}: receive kits one by one, so that their pieces stay "
                                    + "together."
                            )
                        : here.Contains((kind.Number, p.Part.Serial))
                            ? new CsvChange(p.Line, p.Part.Kind, $"The serial {p.Part.Serial} is in the shop already.")
                        : null
                    )
                    .OfType<CsvChange>()
            )
            .OrderBy(p => p.Line)
            .ToArray();
        if (!dryRun && problems.Length == 0 && parts.Count > 0)
        {
            await store.ReceiveAsync([.. parts.Select(p => (known[p.Part.Kind], p.Part))], Hand(sender, clock), cancel);
        }

        return new CsvImported(
            dryRun,
            [
                .. parts.Select(p => new CsvChange(
                    p.Line,
                    p.Part.Kind,
                    p.Part.Serial is { } s ? $"comes in, {s}" : "comes in"
                )),
            ],
            problems,
            0
        );
    }

    private static CsvChange[] Told(IReadOnlyList<CsvProblem> problems) =>
        [.. problems.Select(p => new CsvChange(p.Line, p.Number, p.Why))];

    private static async Task<Stream> BodyAsync(HttpRequest request, CancellationToken cancel)
    {
        var bytes = new MemoryStream();
        await request.Body.CopyToAsync(bytes, cancel);
        bytes.Position = 0;
        return bytes;
    }

    private static StockHand Hand(Sender sender, TimeProvider clock) =>
        new(sender.Person.Id, clock.GetUtcNow(), sender.Id);

    private static IResult Csv(byte[] bytes, string name) => Results.Bytes(bytes, "text/csv; charset=utf-8", name);
}
