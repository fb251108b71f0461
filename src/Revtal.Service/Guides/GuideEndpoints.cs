using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Documents;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Guides;

/// <summary><c>/api/v1/guides</c>: what the shop knows of its models.</summary>
public static class GuideEndpoints
{
    private const string Yaml = "application/yaml";

    public static void MapGuides(this IEndpointRouteBuilder api)
    {
        var guides = api.MapGroup("/guides").WithTags("guides");
        guides.MapGet("/", ListAsync).WithName("listGuides").WithSummary("The newest revision of each guide");
        guides.MapGet("/{code}", GetAsync).WithName("getGuide").WithSummary("A guide, the newest revision or a named one");
        guides.MapGet("/{code}/file", FileAsync).WithName("getGuideFile").Produces<string>(contentType: Yaml).WithSummary("The guide's file, as it was published");
        guides.MapPost("/", PublishAsync).WithName("publishGuide").Accepts<string>(Yaml).WithSummary("Publish a guide file as its next revision (leads)");
    }

    private static async Task<IReadOnlyList<GuideLine>> ListAsync(GuideShelf shelf, CancellationToken cancel)
    {
        var lines = new List<GuideLine>();
        foreach (var listing in await shelf.ListAsync(cancel))
        {
            var guide = await shelf.GetAsync(listing.Code, listing.Revision, cancel);
            var model = guide.Model;
            lines.Add(new GuideLine(model.Code, listing.Revision, model.Maker, model.Name, model.Kind, model.TellApart, guide.Memory.Slots.Count, listing.By, listing.At));
        }

        return lines;
    }

    private static async Task<GuideView> GetAsync(string code, GuideShelf shelf, CancellationToken cancel, int? revision = null)
    {
        var number = revision ?? await shelf.NewestAsync(code, cancel);
        return new GuideView(code, number, await shelf.GetAsync(code, number, cancel));
    }

    private static async Task<IResult> FileAsync(string code, GuideShelf shelf, CancellationToken cancel, int? revision = null) =>
        Results.Text(await shelf.YamlAsync(code, revision ?? await shelf.NewestAsync(code, cancel), cancel), Yaml);

    private static async Task<GuidePublished> PublishAsync(HttpRequest request, Sender sender, GuideShelf shelf, TimeProvider clock, CancellationToken cancel)
    {
        if (sender.Person.Role != Role.Lead)
        {
            throw new RefusedException(RefusalKind.Role, "lead-publishes", "Guides are published by a lead.");
        }

        if (request.ContentType?.StartsWith(Yaml, StringComparison.OrdinalIgnoreCase) != true)
        {
            throw new BadHttpRequestException("media", StatusCodes.Status415UnsupportedMediaType);
        }

        using var reader = new StreamReader(request.Body);
        var yaml = await reader.ReadToEndAsync(cancel);
        if (yaml.Length > GuideYaml.Longest)
        {
            throw new BadHttpRequestException("large", StatusCodes.Status413PayloadTooLarge);
        }

        var (listing, isNew) = await shelf.PublishAsync(yaml, sender.Person.Id, clock.GetUtcNow(), cancel);
        return new GuidePublished(listing.Code, listing.Revision, isNew);
    }
}
