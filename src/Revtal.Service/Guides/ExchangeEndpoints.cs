using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Service.Pictures;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Guides;

/// <summary>Guides between shops: what is known with what it rests on, merged fact by fact.</summary>
public static class ExchangeEndpoints
{
    // As many orders as signs are counted over.
    private const int MostOrders = 500;
    private const int MostRevisions = 200;

    public static void MapExchange(this IEndpointRouteBuilder api)
    {
        api.MapGet("/guides/{code}/exchange", ExportAsync)
            .WithTags("guides")
            .WithName("exportGuide")
            .WithSummary("A guide for another shop: all revisions and what orders showed, without customers");
        var exchange = api.MapGroup("/exchange").WithTags("guides");
        exchange
            .MapPost("/compare", (ExchangeFile file, GuideShelf shelf) => Open(file, shelf).View())
            .WithMetadata(new ApiFacts(RefusesByRule: true), new RequestSizeLimitAttribute(ExchangeFile.Largest))
            .WithName("compareExchange")
            .WithSummary("What another shop's guide tells otherwise than ours; nothing is recorded");
        exchange
            .MapPost("/merge", MergeAsync)
            .WithMetadata(new RequestSizeLimitAttribute(ExchangeFile.Largest))
            .WithName("mergeExchange")
            .WithSummary("Make a draft of ours and theirs, fact by fact");
    }

    private static async Task<ExchangeFile> ExportAsync(
        string code,
        GuideShelf shelf,
        Journal journal,
        PictureStore pictures,
        IOptions<ShopOptions> shop,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        Guide[] revisions = [.. Revisions(shelf, code).Select(GuideMerge.ForOthers)];
        var newest = revisions[^1];
        var jpegs = new List<ExchangePicture>();
        foreach (var hash in LibraryEndpoints.Named(newest).Distinct().Order(StringComparer.Ordinal))
        {
            if (await pictures.GetAsync(hash, small: false, cancel) is { } jpeg)
            {
                jpegs.Add(new ExchangePicture(hash, Convert.ToBase64String(jpeg)));
            }
        }

        return new ExchangeFile(
            ExchangeFile.Known,
            shop.Value.Name,
            clock.GetUtcNow(),
            code,
            [.. revisions.Select(shelf.Write)],
            GuideEvidence.Of(
                newest,
                journal.WaysOf(code),
                SignCounts.Of(newest, journal.StartsOf(code, MostOrders)),
                shelf.Proved(code)
            ),
            jpegs
        );
    }

    private static async Task<Results<Created<DraftView>, Ok<DraftView>>> MergeAsync(
        MergeRequest request,
        Sender sender,
        GuideShelf shelf,
        DraftShelf drafts,
        PictureStore pictures,
        TimeProvider clock,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        var opened = Open(request.File, shelf);
        var guide = opened.Merge(request.TakeTheirs ?? [], request.KeepOurs ?? []).Guide;
        var hand = sender.Hand(clock, $"exchange/{opened.File.Code}", request);
        var yaml = shelf.Write(guide);
        foreach (var picture in request.File.Pictures)
        {
            var made = await PictureEndpoints.MakeAsync(Bytes(picture), cancel);
            await pictures.PutAsync([PictureEndpoints.Row(made)], cancel);
            // Written anew it has another hash, and the guide names it by that.
            yaml = yaml.Replace(picture.Hash, made.Hash, StringComparison.Ordinal);
        }

        var draft = await drafts.SaveAsync(opened.File.Code, yaml, 0, hand, cancel);
        return Made.At(
            $"guides/{opened.File.Code}/draft",
            DraftEndpoints.View(draft, shelf, response),
            draft.Version == 1
        );
    }

    // What came, understood as far as it can be; one bad line refuses all of it.
    private static Opened Open(ExchangeFile file, GuideShelf shelf)
    {
        if (file.Format != ExchangeFile.Known || file.Revisions.Count is 0 or > MostRevisions)
        {
            throw RefusedException.Invalid(
                "exchange-unknown",
                $"This service reads {ExchangeFile.Known} with 1 to {MostRevisions} revisions. Ask the other "
                    + "shop for it."
            );
        }

        var read = file.Revisions.Select(shelf.Check).ToArray();
        if (read[^1] is { Guide: null, Problems: var problems })
        {
            throw RefusedException.Invalid(
                "guide-problems",
                $"Their newest revision cannot be read here: {string.Join("; ", problems.Take(20))}."
            );
        }

        // Older ones only help to find what is in common.
        Guide[] theirs = [.. read.Select(r => r.Guide).OfType<Guide>().Select(GuideMerge.Bare)];
        if (theirs[^1].Model.Code != file.Code)
        {
            throw RefusedException.Invalid(
                "exchange-code",
                $"It says {file.Code}, and holds a guide of another model."
            );
        }

        Guide[] ours = shelf.Has(file.Code) ? [.. Revisions(shelf, file.Code).Select(GuideMerge.Bare)] : [];
        return new Opened(file, ours, theirs, ours.Length == 0 ? null : shelf.Get(file.Code, ours.Length));
    }

    private static IEnumerable<Guide> Revisions(GuideShelf shelf, string code) =>
        Enumerable.Range(1, shelf.Newest(code)).Select(r => shelf.Get(code, r));

    private static byte[] Bytes(ExchangePicture picture)
    {
        var jpeg = new byte[picture.Jpeg.Length];
        return
            Convert.TryFromBase64String(picture.Jpeg, jpeg, out var length)
            && Documents.Pictures.HashOf(jpeg[..length]) == picture.Hash
            ? jpeg[..length]
            : throw RefusedException.Invalid(
                "exchange-picture",
                $"The picture {picture.Hash} is not what its name says. Ask the other shop for the file again."
            );
    }

    /// <param name="Newest">Ours with what our orders proved; null where the model is new here.</param>
    private sealed record Opened(
        ExchangeFile File,
        IReadOnlyList<Guide> Ours,
        IReadOnlyList<Guide> Theirs,
        Guide? Newest
    )
    {
        private Guide? Common { get; } = GuideMerge.Common(Ours, Theirs);

        public Merged Merge(IReadOnlyCollection<string> takeTheirs, IReadOnlyCollection<string> keepOurs) =>
            Newest is null
                ? new Merged(Theirs[^1], [])
                : GuideMerge.Of(Common, Newest, Theirs[^1], takeTheirs, keepOurs);

        public ExchangeView View() =>
            new(
                File.Code,
                File.Shop,
                File.At,
                Common is null ? null : Ours.ToList().IndexOf(Common) + 1,
                Newest is null ? null : Ours.Count,
                Merge([], []).Facts,
                File.Evidence
            );
    }
}
