using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Guides;

namespace Revtal.Storage;

/// <summary>Drafts of guides, and the suggestions that orders left for them.</summary>
/// <param name="write">Writes a guide as its file; handed in, since files are not this project's business.</param>
public sealed class DraftShelf(IDbContextFactory<RevtalDb> databases, GuideShelf guides, Func<Guide, string> write)
{
    /// <summary>The draft of a model; null when nobody works on one.</summary>
    public async Task<GuideDraftRow?> FindAsync(string code, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Drafts.AsNoTracking().FirstOrDefaultAsync(d => d.Code == code, cancel);
    }

    /// <summary>The draft of a model.</summary>
    /// <exception cref="RefusedException">There is none.</exception>
    public async Task<GuideDraftRow> GetAsync(string code, CancellationToken cancel = default) =>
        await FindAsync(code, cancel)
        ?? throw RefusedException.NotFound("no-draft", $"There is no draft of {code}. Save one first.");

    /// <summary>Saves a draft, with problems or without.</summary>
    /// <param name="version">The version that it was made from: 0 for a new one, null to overwrite whatever
    /// stands.</param>
    /// <exception cref="RefusedException">Somebody saved meanwhile.</exception>
    public async Task<GuideDraftRow> SaveAsync(
        string code,
        string yaml,
        int? version,
        string by,
        DateTimeOffset at,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var row = await PutAsync(db, code, yaml, version, by, at, cancel);
        await SaveAsync(db, code, cancel);
        return row;
    }

    public async Task DiscardAsync(string code, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await db.Drafts.Where(d => d.Code == code).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Publishes the draft as the next revision; it is then gone.</summary>
    /// <exception cref="RefusedException">There is none, or it has problems.</exception>
    public async Task<(GuideListing Listing, bool IsNew)> PublishAsync(
        string code,
        string by,
        DateTimeOffset at,
        CancellationToken cancel = default
    )
    {
        var draft = await GetAsync(code, cancel);
        if (guides.Check(draft.Yaml).Guide is { } guide && guide.Model.Code != code)
        {
            throw RefusedException.Invalid(
                "draft-code",
                $"The draft of {code} calls itself {guide.Model.Code}. Mend its code, or publish it as a file of its "
                    + "own."
            );
        }

        var published = (await guides.PublishAsync([draft.Yaml], by, at, cancel: cancel))[0];
        await using var db = await databases.CreateDbContextAsync(cancel);
        await db.Drafts.Where(d => d.Code == code && d.Version == draft.Version).ExecuteDeleteAsync(cancel);
        return published;
    }

    /// <summary>Suggestions, oldest first.</summary>
    /// <param name="code">Of one model; null for all.</param>
    /// <param name="state">Open, Accepted or Declined; null for all.</param>
    public async Task<IReadOnlyList<SuggestionRow>> SuggestionsAsync(
        string? code,
        string? state,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Suggestions.AsNoTracking()
            .Where(s => (code == null || s.Code == code) && (state == null || s.State == state))
            .OrderBy(s => s.At)
            .Take(500)
            .ToListAsync(cancel);
    }

    /// <summary>A lead takes a suggestion into the model's draft, or leaves it. Both are written together.</summary>
    /// <exception cref="RefusedException">There is no such suggestion, it is decided, or the draft cannot be
    /// read.</exception>
    public async Task<SuggestionRow> DecideAsync(
        int order,
        int sequence,
        bool accept,
        string by,
        DateTimeOffset at,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
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
            var yaml =
                draft?.Yaml ?? await guides.YamlAsync(row.Code, await guides.NewestAsync(row.Code, cancel), cancel);
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
            await PutAsync(db, row.Code, write(changed), draft?.Version ?? 0, by, at, cancel);
        }

        (row.State, row.DecidedBy) = (accept ? "Accepted" : "Declined", by);
        await SaveAsync(db, row.Code, cancel);
        return row;
    }

    private static async Task<GuideDraftRow> PutAsync(
        RevtalDb db,
        string code,
        string yaml,
        int? version,
        string by,
        DateTimeOffset at,
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
                By = by,
            };
            db.Drafts.Add(row);
        }

        (row.Yaml, row.By, row.At, row.Version) = (yaml, by, at.ToUnixTimeMilliseconds(), row.Version + 1);
        return row;
    }

    private static async Task SaveAsync(RevtalDb db, string code, CancellationToken cancel)
    {
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException)
        {
            throw Overtaken(code, null);
        }
    }

    private static RefusedException Overtaken(string code, string? by) =>
        new(
            RefusalKind.Conflict,
            "draft-overtaken",
            $"{by ?? "Somebody"} changed the draft of {code} meanwhile. Load it again; what you wrote is still in "
                + "your editor."
        );
}
