using System.Runtime.CompilerServices;
using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Documents;
using Revtal.Service.Http;
using Revtal.Service.Pictures;
using Revtal.Storage;

namespace Revtal.Service.Guides;

/// <summary>All guides at once, with their pictures.</summary>
public static class LibraryEndpoints
{
    private const string Zip = "application/zip";

    public static void MapLibrary(this IEndpointRouteBuilder api)
    {
        api.MapGet("/library", ExportAsync)
            .WithTags("guides")
            .WithName("exportLibrary")
            .Produces<byte[]>(contentType: Zip)
            .WithSummary("All newest revisions and their pictures as a ZIP file");
        api.MapPost("/library", ImportAsync)
            .WithTags("guides")
            .WithName("importLibrary")
            .Accepts<byte[]>(Zip)
            .WithMetadata(new RequestSizeLimitAttribute(GuideLibrary.Largest))
            .WithSummary("Publish a whole library, all or nothing; a dry run only says what it would do (leads)");
    }

    // By way of a file: pictures need no memory, and what fails fails before anything is sent.
    private static async Task<IResult> ExportAsync(GuideShelf shelf, PictureStore pictures, CancellationToken cancel)
    {
        var file = new FileStream(
            Path.GetTempFileName(),
            new FileStreamOptions
            {
                Mode = FileMode.Create,
                Access = FileAccess.ReadWrite,
                Options = FileOptions.DeleteOnClose | FileOptions.Asynchronous,
            }
        );
        try
        {
            await GuideLibrary.WriteAsync(file, FilesAsync(shelf, pictures, cancel), cancel);
            file.Position = 0;
            return Results.Stream(file, Zip, "revtal-guides.zip");
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }

    private static async IAsyncEnumerable<(string, byte[])> FilesAsync(
        GuideShelf shelf,
        PictureStore pictures,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var hashes = new SortedSet<string>(StringComparer.Ordinal);
        foreach (var listing in (await shelf.ListAsync(cancel: cancel)).Items)
        {
            hashes.UnionWith(Named(shelf.Get(listing.Code, listing.Revision)));
            yield return GuideLibrary.Guide(listing.Code, shelf.Yaml(listing.Code, listing.Revision));
        }

        foreach (var hash in hashes)
        {
            if (await pictures.GetAsync(hash, small: false, cancel) is { } jpeg)
            {
                yield return GuideLibrary.Picture(hash, jpeg);
            }
        }
    }

    private static async Task<LibraryImported> ImportAsync(
        HttpRequest request,
        Sender sender,
        GuideShelf shelf,
        PictureStore pictures,
        TimeProvider clock,
        CancellationToken cancel,
        [FromQuery(Name = "dry-run")] bool dryRun = false
    )
    {
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, cancel);
        body.Position = 0;
        var library = GuideLibrary.Read(body);
        var strange = await pictures.MissingAsync([.. library.Pictures.Select(p => p.Hash)], cancel);
        var made = new Dictionary<string, Picture>();
        foreach (var (hash, file) in library.Pictures.Where(p => strange.Contains(p.Hash)))
        {
            made[hash] = await PictureEndpoints.MakeAsync(file, cancel);
        }

        // Written anew a picture has another hash, and the guides name it by that.
        (string Name, string Yaml)[] guides =
        [
            .. library.Guides.Select(g =>
                (
                    g.Name,
                    made.Aggregate(g.Yaml, (yaml, m) => yaml.Replace(m.Key, m.Value.Hash, StringComparison.Ordinal))
                )
            ),
        ];
        var read = guides.Select(g => (g.Name, Result: shelf.Check(g.Yaml))).ToArray();
        var problems = read.SelectMany(g => g.Result.Problems.Select(p => $"{g.Name} {p}")).ToArray();
        if (problems.Length > 0)
        {
            throw RefusedException.Invalid(
                "guide-problems",
                $"Nothing was imported: {string.Join("; ", problems.Take(20))}."
            );
        }

        var missing = await pictures.MissingAsync(
            [.. read.SelectMany(g => Named(g.Result.Guide!)).Distinct().Except(made.Values.Select(p => p.Hash))],
            cancel
        );
        if (!dryRun)
        {
            // First what guides point at; a picture that no guide names does no harm.
            await pictures.PutAsync(made.Values.DistinctBy(p => p.Hash).Select(PictureEndpoints.Row), cancel);
        }

        var published = await shelf.PublishAsync(
            [.. guides.Select(g => g.Yaml)],
            sender.Hand(clock, "library", library.Guides),
            dryRun,
            cancel
        );
        return new LibraryImported(
            dryRun,
            [.. published.Select(GuideEndpoints.Published)],
            library.Pictures.Count,
            missing.Count
        );
    }

    internal static IEnumerable<string> Named(Guide guide) =>
        guide
            .Variants.Select(v => v.Guide)
            .Append(guide)
            .SelectMany(g => g.Removals)
            .SelectMany(r => r.Pictures.Open.Concat(r.Pictures.Close));
}
