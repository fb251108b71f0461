using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Guides;

/// <summary>Drafts of guides and the suggestions that go into them.</summary>
public static class DraftEndpoints
{
    public static void MapDrafts(this IEndpointRouteBuilder api)
    {
        var draft = api.MapGroup("/guides/{code}/draft").WithTags("guides");
        draft
            .MapGet(
                "/",
                async (
                    string code,
                    DraftShelf drafts,
                    GuideShelf guides,
                    HttpResponse response,
                    CancellationToken cancel
                ) => View(await drafts.GetAsync(code, cancel), guides, response)
            )
            .WithName("getDraft")
            .WithSummary("The draft, with what keeps it from being published");
        draft
            .MapPut("/", SaveAsync)
            .WithMetadata(new ApiFacts(LooksAtState: true))
            .WithName("saveDraft")
            .Accepts<string>(GuideEndpoints.Yaml)
            .WithSummary("Save the draft; If-Match names the version it was made from, \"0\" for a new one");
        draft
            .MapPost("/like/{model}", BeginAsync)
            .WithName("beginDraft")
            .WithSummary("Begin the draft of a new model from the guide of a like one; an existing draft stays");
        api.MapGet("/drafts", ListDraftsAsync)
            .WithTags("guides")
            .WithName("listDrafts")
            .WithSummary("Drafts that somebody works on, by code");
        draft.MapDelete("/", DiscardAsync).WithName("discardDraft").WithSummary("Throw the draft away (leads)");
        draft
            .MapPost("/publish", PublishAsync)
            .WithName("publishDraft")
            .WithSummary("Publish the draft as the next revision (leads)");
        var suggestions = api.MapGroup("/suggestions").WithTags("guides");
        suggestions.MapGet("/", ListAsync).WithName("listSuggestions").WithSummary("What orders taught, oldest first");
        suggestions
            .MapPost(
                "/{order:int}/{sequence:int}/accept",
                (
                    int order,
                    int sequence,
                    Sender sender,
                    DraftShelf drafts,
                    TimeProvider clock,
                    CancellationToken cancel
                ) => DecideAsync(order, sequence, true, sender, drafts, clock, cancel)
            )
            .WithName("acceptSuggestion")
            .WithSummary("Take it into the model's draft (leads)");
        suggestions
            .MapPost(
                "/{order:int}/{sequence:int}/decline",
                (
                    int order,
                    int sequence,
                    Sender sender,
                    DraftShelf drafts,
                    TimeProvider clock,
                    CancellationToken cancel
                ) => DecideAsync(order, sequence, false, sender, drafts, clock, cancel)
            )
            .WithName("declineSuggestion")
            .WithSummary("Leave it (leads)");
    }

    private static async Task<Results<Created<DraftView>, Ok<DraftView>>> SaveAsync(
        string code,
        HttpRequest request,
        Sender sender,
        DraftShelf drafts,
        GuideShelf guides,
        TimeProvider clock,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        NeedCode(code);
        var yaml = await GuideEndpoints.ReadAsync(request, cancel);
        var hand = sender.Hand(clock, $"draft/{code}", yaml);
        var draft = await drafts.SaveAsync(code, yaml, sender.IfMatch, hand, cancel);
        return Made.At($"guides/{code}/draft", View(draft, guides, response), draft.Version == 1);
    }

    private static void NeedCode(string code)
    {
        if (!GuideReader.IsCode(code))
        {
            throw RefusedException.Invalid(
                "guide-code",
                $"“{code}” is no code of a model. It wants 2 to 12 capital letters, digits or hyphens."
            );
        }
    }

    private static async Task<Results<Created<DraftView>, Ok<DraftView>>> BeginAsync(
        string code,
        string model,
        Sender sender,
        DraftShelf drafts,
        GuideShelf guides,
        TimeProvider clock,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        NeedCode(code);
        if (guides.Has(code))
        {
            throw RefusedException.Rule("guide-there", $"There is a guide of {code} already: edit that.");
        }

        var like = guides.Get(model, guides.Newest(model));
        var hand = sender.Hand(clock, $"draft/{code}/like/{model}", null);
        var draft = await drafts.SaveAsync(code, guides.Write(LikeModel.Begin(like, code)), 0, hand, cancel);
        return Made.At($"guides/{code}/draft", View(draft, guides, response), draft.Version == 1);
    }

    private static async Task<IReadOnlyList<DraftLine>> ListDraftsAsync(
        DraftShelf drafts,
        GuideShelf guides,
        CancellationToken cancel
    ) =>
        [
            .. (await drafts.ListAsync(cancel)).Select(d => new DraftLine(
                d.Code,
                d.Version,
                d.By,
                DateTimeOffset.FromUnixTimeMilliseconds(d.At),
                guides.Check(d.Yaml).Problems.Count,
                !guides.Has(d.Code)
            )),
        ];

    private static async Task<NoContent> DiscardAsync(
        string code,
        Sender sender,
        DraftShelf drafts,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        await drafts.DiscardAsync(code, sender.Hand(clock, $"draft/{code}/discard", null), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Created<GuidePublished>, Ok<GuidePublished>>> PublishAsync(
        string code,
        Sender sender,
        DraftShelf drafts,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        return GuideEndpoints.Answer(
            await drafts.PublishAsync(code, sender.Hand(clock, $"draft/{code}/publish", null), cancel)
        );
    }

    private static async Task<Page<SuggestionView>> ListAsync(
        DraftShelf drafts,
        CancellationToken cancel,
        string? code = null,
        Word<SuggestionState>? state = null,
        string? after = null,
        int limit = Paging.Usual
    ) =>
        (
            await drafts.SuggestionsAsync(
                code,
                state?.Value.ToString(),
                Paging.Numbers(after, 3),
                Paging.Checked(limit),
                cancel
            )
        ).Select(View);

    private static async Task<SuggestionView> DecideAsync(
        int order,
        int sequence,
        bool accept,
        Sender sender,
        DraftShelf drafts,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        return View(
            await drafts.DecideAsync(
                order,
                sequence,
                accept,
                sender.Hand(clock, $"suggestion/{order}/{sequence}", accept),
                cancel
            )
        );
    }

    internal static DraftView View(GuideDraftRow d, GuideShelf guides, HttpResponse response)
    {
        response.Headers.ETag = $"\"{d.Version}\"";
        return new DraftView(
            d.Code,
            d.Yaml,
            d.Version,
            d.By,
            DateTimeOffset.FromUnixTimeMilliseconds(d.At),
            guides.Check(d.Yaml).Problems
        );
    }

    private static SuggestionView View(SuggestionRow s)
    {
        var change = JsonSerializer.Deserialize<GuideChange>(s.Change, RevtalJson.Options)!;
        return new SuggestionView(
            s.Order,
            s.Sequence,
            s.Code,
            StepId.TryParse(s.Step, out var step) ? step : null,
            change,
            GuideChanges.Sentence(change),
            s.By,
            DateTimeOffset.FromUnixTimeMilliseconds(s.At),
            Enum.Parse<SuggestionState>(s.State),
            s.DecidedBy
        );
    }
}
