using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Guides;

namespace Revtal.Storage;

/// <summary>Drafts of guides, and the suggestions that orders left for them.</summary>
public sealed class DraftShelf(IDbContextFactory<RevtalDb> databases, Road road, GuideShelf guides)
{
    /// <summary>The draft of a model; null when nobody works on one.</summary>
    public async Task<GuideDraftRow?> FindAsync(string code, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Drafts.AsNoTracking().FirstOrDefaultAsync(d => d.Code == code, cancel);
    }

    /// <summary>All that somebody works on, by code.</summary>
    public async Task<IReadOnlyList<GuideDraftRow>> ListAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Drafts.AsNoTracking().OrderBy(d => d.Code).ToListAsync(cancel);
    }

    /// <summary>The draft of a model.</summary>
    /// <exception cref="RefusedException">There is none.</exception>
    public async Task<GuideDraftRow> GetAsync(string code, CancellationToken cancel = default) =>
        await FindAsync(code, cancel) ?? throw None(code);

    /// <summary>Saves a draft, with problems or without.</summary>
    /// <param name="version">The version that it was made from: 0 for a new one, null to overwrite whatever
    /// stands.</param>
    /// <exception cref="RefusedException">Somebody saved meanwhile.</exception>
    public Task<GuideDraftRow> SaveAsync(
        string code,
        string yaml,
        int? version,
        Hand hand,
        CancellationToken cancel = default
    ) => road.TakeAsync(ShopTopic.Guides, hand, db => PutAsync(db, code, yaml, version, hand, cancel), cancel);

    /// <summary>Throws the draft of a model away; nothing happens where there is none.</summary>
    public Task<bool> DiscardAsync(string code, Hand hand, CancellationToken cancel = default) =>
        road.TakeAsync(
            ShopTopic.Guides,
            hand,
            async db => await db.Drafts.Where(d => d.Code == code).ExecuteDeleteAsync(cancel) > 0,
            cancel
        );

    /// <summary>Publishes the draft as the next revision; it is then gone. Both or neither.</summary>
    /// <exception cref="RefusedException">There is none, or it has problems.</exception>
    public async Task<PublishedGuide> PublishAsync(string code, Hand hand, CancellationToken cancel = default)
    {
        var published = await road.TakeAsync(
            ShopTopic.Guides,
            hand,
            async db =>
            {
                var draft =
                    await db.Drafts.AsNoTracking().FirstOrDefaultAsync(d => d.Code == code, cancel) ?? throw None(code);
                if (guides.Check(draft.Yaml).Guide is { } guide && guide.Model.Code != code)
                {
                    throw RefusedException.Invalid(
                        "draft-code",
                        $"The draft of {code} calls itself {guide.Model.Code}. Mend its code, or publish it as a file "
                            + "of its own."
                    );
                }

                var staged = await guides.StageAsync(db, [draft.Yaml], hand, cancel);
                await db.Drafts.Where(d => d.Code == code).ExecuteDeleteAsync(cancel);
                return staged[0];
            },
            cancel
        );
        guides.Remember([published]);
        return published;
    }

    /// <summary>Suggestions, oldest first.</summary>
    /// <param name="code">Of one model; null for all.</param>
    /// <param name="state">Open, Accepted or Declined; null for all.</param>
    /// <param name="after">Time, order and sequence of the one before; null for the first page.</param>
    public async Task<Page<SuggestionRow>> SuggestionsAsync(
        string? code,
        string? state,
        long[]? after,
        int most,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = db
            .Suggestions.AsNoTracking()
            .Where(s => (code == null || s.Code == code) && (state == null || s.State == state));
        var total = await rows.Take(Page.MostCounted + 1).CountAsync(cancel);
        if (after is [var at, var order, var sequence])
        {
            rows = rows.Where(s =>
                s.At > at || (s.At == at && (s.Order > order || (s.Order == order && s.Sequence > sequence)))
            );
        }

        var page = await rows.OrderBy(s => s.At)
            .ThenBy(s => s.Order)
            .ThenBy(s => s.Sequence)
            .Take(most + 1)
            .ToListAsync(cancel);
        return Page.Of(page, most, total, s => $"{s.At}.{s.Order}.{s.Sequence}");
    }

    /// <summary>A lead takes a suggestion into the model's draft, or leaves it. Both are written together.</summary>
    /// <exception cref="RefusedException">There is no such suggestion, it is decided, or the draft cannot be
    /// read.</exception>
    public Task<SuggestionRow> DecideAsync(
        int order,
        int sequence,
        bool accept,
        Hand hand,
        CancellationToken cancel = default
    ) => road.TakeAsync(ShopTopic.Guides, hand, db => DecideAsync(db, order, sequence, accept, hand, cancel), cancel);

    private async Task<SuggestionRow> DecideAsync(
        RevtalDb db,
        int order,
        int sequence,
        bool accept,
        Hand hand,
        CancellationToken cancel
    )
    {
        var row =
            await db.Suggestions.FirstOrDefaultAsync(s => s.Order == order && s.Sequence == sequence, cancel)
            ?? throw RefusedException.NotFound(
                "no-such-suggestion",
                $"Entry {sequence} of order {order} suggests nothing."
            );
        if (row.State != "Open")
        {
            throw new RefusedException(
                RefusalKind.Conflict,
                "suggestion-decided",
                $"{row.DecidedBy} has {row.State.ToLowerInvariant()} it already."
            );
        }

        if (accept)
        {
            var draft = await db.Drafts.AsNoTracking().FirstOrDefaultAsync(d => d.Code == row.Code, cancel);
            var yaml = draft?.Yaml ?? guides.Yaml(row.Code, guides.Newest(row.Code));
            var guide =
                guides.Check(yaml).Guide
                ?? throw RefusedException.Rule(
                    "draft-problems",
                    $"The draft of {row.Code} has problems. Mend it first, then accept."
                );
            var changed = GuideChanges.Apply(
                guide,
                JsonSerializer.Deserialize<GuideChange>(row.Change, RevtalJson.Options)!
            );
            await PutAsync(db, row.Code, guides.Write(changed), draft?.Version ?? 0, hand, cancel);
        }

        (row.State, row.DecidedBy) = (accept ? "Accepted" : "Declined", hand.By);
        return row;
    }

    private static async Task<GuideDraftRow> PutAsync(
        RevtalDb db,
        string code,
        string yaml,
        int? version,
        Hand hand,
        CancellationToken cancel
    )
    {
        var row = await db.Drafts.FirstOrDefaultAsync(d => d.Code == code, cancel);
        if (version is { } seen && seen != (row?.Version ?? 0))
        {
            throw Overtaken(code, row?.By);
        }

        if (row is null)
        {
            row = new GuideDraftRow
            {
                Code = code,
                Yaml = yaml,
                By = hand.By,
            };
            db.Drafts.Add(row);
        }

        (row.Yaml, row.By, row.At, row.Version) = (yaml, hand.By, hand.At.ToUnixTimeMilliseconds(), row.Version + 1);
        return row;
    }

    private static RefusedException None(string code) =>
        RefusedException.NotFound("no-draft", $"There is no draft of {code}. Save one first.");

    private static RefusedException Overtaken(string code, string? by) =>
        new(
            RefusalKind.Conflict,
            "draft-overtaken",
            $"{by ?? "Somebody"} changed the draft of {code} meanwhile. Load it again; what you wrote is still in "
                + "your editor."
        );
}
