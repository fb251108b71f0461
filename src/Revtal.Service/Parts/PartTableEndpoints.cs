using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Documents;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Parts;

/// <summary>Catalogue and shelf as tables: taken out, and taken in all or none.</summary>
internal static class PartTableEndpoints
{
    private const long LargestCsv = 8 << 20;

    public static void MapPartTables(this IEndpointRouteBuilder parts)
    {
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

    private static async Task<CsvImported> ImportKindsAsync(
        HttpRequest request,
        Sender sender,
        PartStore store,
        TimeProvider clock,
        CancellationToken cancel,
        [FromQuery(Name = "dry-run")] bool dryRun = false
    )
    {
        var (kinds, problems) = PartsCsv.ReadKinds(await BodyAsync(request, cancel));
        var known = (await store.KindsAsync(cancel)).ToDictionary(k => k.Number);
        CsvChange[] changes =
        [
            .. kinds
                .Where(k => !known.TryGetValue(k.Kind.Number, out var was) || was != k.Kind)
                .Select(k => new CsvChange(
                    k.Line,
                    k.Kind.Number.ToString(),
                    known.TryGetValue(k.Kind.Number, out var was)
                        ? was.Price != k.Kind.Price
                            ? $"changes, price {was.Price:0.00} to {k.Kind.Price:0.00}"
                            : "changes"
                        : $"comes new, {k.Kind.Name}"
                )),
        ];
        if (!dryRun && problems.Count == 0)
        {
            await store.PutAsync(
                [.. kinds.Select(k => k.Kind)],
                sender.Hand(clock, "catalogue", kinds.Select(k => k.Kind).ToArray()),
                cancel
            );
        }

        return new CsvImported(
            dryRun,
            problems.Count > 0 ? [] : changes,
            Lines(problems),
            kinds.Count - changes.Length
        );
    }

    private static async Task<CsvImported> ImportPartsAsync(
        HttpRequest request,
        Sender sender,
        PartStore store,
        Road road,
        TimeProvider clock,
        CancellationToken cancel,
        [FromQuery(Name = "dry-run")] bool dryRun = false
    )
    {
        var (parts, bad) = PartsCsv.ReadParts(await BodyAsync(request, cancel));
        var known = (await store.KindsAsync(cancel)).ToDictionary(k => k.Number);
        var here = (await store.HereAsync(cancel))
            .Where(i => i.Serial is not null)
            .Select(i => (i.Kind, i.Serial))
            .ToHashSet();
        var hand = sender.Hand(clock, "shelf", parts.Select(p => p.Part).ToArray());

        // Asked after the shelf was read: what it brought in itself is no serial that was there before.
        var again = await road.IsDoneAsync(hand, cancel);
        var problems = Lines(bad)
            .Concat(
                parts
                    .Select(p =>
                        !known.TryGetValue(p.Part.Kind, out var kind)
                            ? new CsvChange(
                                p.Line,
                                p.Part.Kind.ToString(),
                                "The catalogue has no such part. Add it first."
                            )
                        : kind.Pieces > 1
                            ? new CsvChange(
                                p.Line,
                                p.Part.Kind.ToString(),
                                $"It is a kit of {kind.Pieces}: receive kits one by one, so that their pieces stay "
                                    + "together."
                            )
                        : !again && here.Contains((kind.Number, p.Part.Serial))
                            ? new CsvChange(
                                p.Line,
                                p.Part.Kind.ToString(),
                                $"The serial {p.Part.Serial} is in the shop already."
                            )
                        : null
                    )
                    .OfType<CsvChange>()
            )
            .OrderBy(p => p.Line)
            .ToArray();
        if (!dryRun && problems.Length == 0 && parts.Count > 0)
        {
            await store.ReceiveAsync([.. parts.Select(p => (known[p.Part.Kind], p.Part))], hand, cancel);
        }

        return new CsvImported(
            dryRun,
            problems.Length > 0
                ? []
                :
                [
                    .. parts.Select(p => new CsvChange(
                        p.Line,
                        p.Part.Kind.ToString(),
                        p.Part.Serial is { } s ? $"comes in, {s}" : "comes in"
                    )),
                ],
            problems,
            0
        );
    }

    private static CsvChange[] Lines(IReadOnlyList<CsvProblem> problems) =>
        [.. problems.Select(p => new CsvChange(p.Line, p.Number, p.Why))];

    private static async Task<Stream> BodyAsync(HttpRequest request, CancellationToken cancel)
    {
        var bytes = new MemoryStream();
        await request.Body.CopyToAsync(bytes, cancel);
        bytes.Position = 0;
        return bytes;
    }

    private static IResult Csv(byte[] bytes, string name) => Results.Bytes(bytes, "text/csv; charset=utf-8", name);
}
