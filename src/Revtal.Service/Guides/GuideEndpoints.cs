using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Documents;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Guides;

/// <summary><c>/api/v1/guides</c>: what the shop knows of its models.</summary>
public static class GuideEndpoints
{
    internal const string Yaml = "application/yaml",
        Draft = "draft";

    // What starts showed is counted over so many of a model's newest orders.
    private const int MostOrdersCounted = 500;

    public static void MapGuides(this IEndpointRouteBuilder api)
    {
        var guides = api.MapGroup("/guides").WithTags("guides");
        guides
            .MapGet("/", ListAsync)
            .WithName("listGuides")
            .WithSummary("The newest revision of each guide, or of those in which a text is found");
        guides
            .MapGet("/{code}", GetAsync)
            .WithName("getGuide")
            .WithSummary("A guide, the newest revision or a named one");
        guides
            .MapGet("/{code}/file", FileAsync)
            .WithName("getGuideFile")
            .Produces<string>(contentType: Yaml)
            .WithSummary("The guide's file, as it was published");
        guides
            .MapGet("/{code}/revisions", RevisionsAsync)
            .WithName("listRevisions")
            .WithSummary("All revisions, newest first");
        guides
            .MapGet("/{code}/compare", CompareAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("compareGuides")
            .WithSummary("Two revisions side by side; “draft” stands for the draft");
        guides
            .MapPost("/", PublishAsync)
            .WithName("publishGuide")
            .Accepts<string>(Yaml)
            .WithSummary("Publish a guide file as its next revision (leads)");
        guides
            .MapPost("/{code}/publish", FinishAsync)
            .WithName("publishSketch")
            .WithSummary("Publish a sketch as it stands: what was open must be known by now (leads)");
        guides
            .MapGet(
                "/{code}/signs",
                (string code, GuideShelf shelf, Journal journal) =>
                    SignCounts.Of(shelf.Get(code, shelf.Newest(code)), journal.StartsOf(code, MostOrdersCounted))
            )
            .WithName("getSigns")
            .WithSummary("What the starts of a model's newest orders showed, counted for its guide");
        guides
            .MapGet("/schema", () => Results.Text(GuideSchema.Text, "application/schema+json"))
            .WithName("getGuideSchema")
            .Produces<JsonElement>(contentType: "application/schema+json")
            .WithSummary("The JSON Schema of guide files");
        guides
            .MapPost("/check", CheckAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("checkGuide")
            .Accepts<string>(Yaml)
            .WithSummary("Check a guide file; nothing is recorded");
    }

    private static async Task<Page<GuideLine>> ListAsync(
        GuideShelf shelf,
        CancellationToken cancel,
        string? text = null,
        string? after = null,
        int limit = Paging.Usual
    )
    {
        var page = await shelf.ListAsync(text, after, Paging.Checked(limit), cancel);
        var lines = new List<GuideLine>();
        foreach (var listing in page.Items)
        {
            var guide = shelf.Get(listing.Code, listing.Revision);
            var model = guide.Model;
            lines.Add(
                new GuideLine(
                    model.Code,
                    listing.Revision,
                    model.Maker,
                    model.Name,
                    model.Kind,
                    model.TellApart,
                    guide.Memory.Slots.Count,
                    [.. guide.Variants.Select(v => new VariantLine(v.Id, v.TellApart))],
                    listing.By,
                    listing.At,
                    guide.IsSketch
                )
            );
        }

        return new Page<GuideLine>(lines, page.Total, page.Next);
    }

    private static async Task<GuideView> GetAsync(
        string code,
        GuideShelf shelf,
        CancellationToken cancel,
        int? revision = null
    )
    {
        var number = revision ?? shelf.Newest(code);
        return new GuideView(code, number, shelf.Get(code, number));
    }

    private static async Task<IResult> FileAsync(
        string code,
        GuideShelf shelf,
        CancellationToken cancel,
        int? revision = null
    ) => Results.Text(shelf.Yaml(code, revision ?? shelf.Newest(code)), Yaml);

    private static async Task<IReadOnlyList<RevisionLine>> RevisionsAsync(
        string code,
        GuideShelf shelf,
        CancellationToken cancel
    ) => [.. (await shelf.RevisionsAsync(code, cancel)).Select(r => new RevisionLine(r.Revision, r.By, r.At))];

    private static async Task<GuideCompared> CompareAsync(
        string code,
        GuideShelf shelf,
        DraftShelf drafts,
        CancellationToken cancel,
        string? from = null,
        string? to = null
    )
    {
        var newest = shelf.Newest(code);
        var second = to ?? (await drafts.FindAsync(code, cancel) is null ? $"{newest}" : Draft);
        var first = from ?? (second == Draft ? $"{newest}" : $"{Math.Max(1, newest - 1)}");
        return new GuideCompared(
            code,
            first,
            second,
            GuideComparison.Of(await NamedAsync(first), await NamedAsync(second))
        );

        async Task<Guide> NamedAsync(string name) =>
            name switch
            {
                Draft => shelf.Check((await drafts.GetAsync(code, cancel)).Yaml).Guide
                    ?? throw RefusedException.Rule(
                        "draft-problems",
                        $"The draft of {code} has problems; mend it, then compare."
                    ),
                _ when int.TryParse(name, out var revision) => shelf.Get(code, revision),
                _ => throw RefusedException.Invalid(
                    "no-such-revision",
                    $"“{name}” is no revision. Write its number, or “draft”."
                ),
            };
    }

    private static async Task<Results<Created<GuidePublished>, Ok<GuidePublished>>> PublishAsync(
        HttpRequest request,
        Sender sender,
        GuideShelf shelf,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var yaml = await ReadAsync(request, cancel);
        var published = await shelf.PublishAsync([yaml], sender.Hand(clock, "guide", yaml), cancel: cancel);
        return Answer(published[0]);
    }

    private static async Task<Results<Created<GuidePublished>, Ok<GuidePublished>>> FinishAsync(
        string code,
        Sender sender,
        GuideShelf shelf,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var guide = shelf.Get(code, shelf.Newest(code));
        if (!guide.IsSketch)
        {
            throw RefusedException.Rule("not-a-sketch", $"{code} is published already.");
        }

        var yaml = shelf.Write(guide with { Model = guide.Model with { Sketch = false } });
        var published = await shelf.PublishAsync([yaml], sender.Hand(clock, $"publish/{code}", null), cancel: cancel);
        return Answer(published[0]);
    }

    private static async Task<GuideChecked> CheckAsync(HttpRequest request, GuideShelf shelf, CancellationToken cancel)
    {
        var result = shelf.Check(await ReadAsync(request, cancel));
        return new GuideChecked(result.Problems, result.Guide);
    }

    /// <summary>201 for a new revision, 200 for one that there was.</summary>
    internal static Results<Created<GuidePublished>, Ok<GuidePublished>> Answer(PublishedGuide p) =>
        Made.At($"guides/{p.Listing.Code}?revision={p.Listing.Revision}", Published(p), p.IsNew);

    internal static GuidePublished Published(PublishedGuide p) => new(p.Listing.Code, p.Listing.Revision, p.IsNew);

    internal static async Task<string> ReadAsync(HttpRequest request, CancellationToken cancel)
    {
        if (request.ContentType?.StartsWith(Yaml, StringComparison.OrdinalIgnoreCase) != true)
        {
            throw new BadHttpRequestException("media", StatusCodes.Status415UnsupportedMediaType);
        }

        using var reader = new StreamReader(request.Body);
        var yaml = await reader.ReadToEndAsync(cancel);
        NoGaps.NeedKept(yaml, "The file");
        return yaml.Length > GuideYaml.Longest
            ? throw new BadHttpRequestException("large", StatusCodes.Status413PayloadTooLarge)
            : yaml;
    }
}
