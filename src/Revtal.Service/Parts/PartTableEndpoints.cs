using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
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
        var (lines, problems) = PartsCsv.ReadKinds(await BodyAsync(request, cancel));
        if (dryRun || problems.Count > 0)
        {
            return Tell((await store.KindsAsync(cancel)).ToDictionary(k => k.Number));
        }

        PartKind[] kinds = [.. lines.Select(l => l.Kind)];
        return await store.PutAsync(kinds, sender.Hand(clock, "catalogue", kinds), Tell, cancel);

        CsvImported Tell(IReadOnlyDictionary<PartNumber, PartKind> known)
        {
            CsvChange[] changes =
            [
                .. lines
                    .Where(l => known.GetValueOrDefault(l.Kind.Number) != l.Kind)
                    .Select(l => new CsvChange(l.Line, l.Kind.Number.ToString(), Difference(known, l.Kind))),
            ];
            return new CsvImported(
                dryRun,
                problems.Count > 0 ? [] : changes,
                Lines(problems),
                lines.Count - changes.Length
            );
        }
    }

    private static string Difference(IReadOnlyDictionary<PartNumber, PartKind> known, PartKind kind) =>
        !known.TryGetValue(kind.Number, out var was) ? $"comes new, {kind.Name}"
        : was.Price != kind.Price ? $"changes, price {was.Price:0.00} to {kind.Price:0.00}"
        : "changes";

    private static async Task<CsvImported> ImportPartsAsync(
        HttpRequest request,
        Sender sender,
        PartStore store,
        TimeProvider clock,
        CancellationToken cancel,
        [FromQuery(Name = "dry-run")] bool dryRun = false
    )
    {
        var (lines, bad) = PartsCsv.ReadParts(await BodyAsync(request, cancel));
        if (dryRun || bad.Count > 0)
        {
            return Decide(await store.KnownAsync(cancel)).Told;
        }

        var hand = sender.Hand(clock, "shelf", lines.Select(l => l.Part).ToArray());
        return await store.ReceiveAsync(hand, Decide, cancel);

        (CsvImported Told, IReadOnlyList<(PartKind, PartItem)> Parts) Decide(CatalogueAndSerials known)
        {
            CsvChange[] problems =
            [
                .. Lines(bad)
                    .Concat(
                        lines
                            .Where(l => WhyNot(known, l.Part) is not null)
                            .Select(l => Line(l.Line, l.Part, WhyNot(known, l.Part)!))
                    )
                    .OrderBy(p => p.Line),
            ];
            return problems.Length > 0
                ? (new CsvImported(dryRun, [], problems, 0), [])
                : (
                    new CsvImported(dryRun, [.. lines.Select(l => Line(l.Line, l.Part, ComesIn(l.Part)))], [], 0),
                    [.. lines.Select(l => (known.Kinds[l.Part.Kind], l.Part))]
                );
        }
    }

    private static string? WhyNot(CatalogueAndSerials known, PartItem part) =>
        !known.Kinds.TryGetValue(part.Kind, out var kind) ? "The catalogue has no such part. Add it first."
        : kind.Pieces > 1
            ? $"It is a kit of {kind.Pieces}: receive kits one by one, so that their pieces stay together."
        : part.Serial is { } serial && known.Serials.Contains((kind.Number, serial))
            ? $"The serial {serial} is in the shop already."
        : null;

    private static string ComesIn(PartItem part) => $"comes in{Phrases.When(part.Serial, s => $", {s}")}";

    private static CsvChange Line(int line, PartItem part, string what) => new(line, part.Kind.ToString(), what);

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
