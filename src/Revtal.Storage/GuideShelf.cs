using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>A published revision, as the shelf lists it.</summary>
public sealed record GuideListing(string Code, int Revision, string By, DateTimeOffset At);

/// <summary>What became of a file that was published.</summary>
/// <param name="IsNew">False where it is the revision that it was already.</param>
public sealed record PublishedGuide(GuideListing Listing, bool IsNew);

/// <summary>The shop's guides. Revisions never change, so each is understood once and kept.</summary>
public sealed class GuideShelf
{
    private const int MostCandidates = 8;

    private readonly IDbContextFactory<RevtalDb> databases;
    private readonly Connections connections;
    private readonly Road road;
    private readonly Changes changes;
    private readonly Func<string, bool, GuideResult> read;
    private readonly Func<Guide, string> write;
    private readonly ConcurrentDictionary<(string Code, int Revision), Guide> known = new();
    private ConcurrentDictionary<string, int> newest = new();
    private bool isNamed;

    /// <param name="read">Understands a guide file, a new or a published one; handed in, since files are not this
    /// project's business.</param>
    /// <param name="write">Writes a guide as its file.</param>
    public GuideShelf(
        IDbContextFactory<RevtalDb> databases,
        Connections connections,
        Road road,
        Changes changes,
        Func<string, bool, GuideResult> read,
        Func<Guide, string> write
    )
    {
        (this.databases, this.connections, this.road, this.changes) = (databases, connections, road, changes);
        (this.read, this.write) = (read, write);
        changes.Shop += (topic, _) =>
        {
            if (topic is ShopTopic.Guides or null)
            {
                // Whoever asked before this remembers it where nobody looks any more.
                Volatile.Write(ref newest, new());
            }
        };
    }

    /// <summary>One revision of a guide.</summary>
    /// <exception cref="RefusedException">There is none.</exception>
    public Guide Get(string code, int revision)
    {
        if (known.TryGetValue((code, revision), out var guide))
        {
            return guide;
        }

        var published =
            read(Yaml(code, revision), true).Guide
            ?? throw new InvalidDataException($"Revision {revision} of the guide {code} is damaged.");
        return known.GetOrAdd((code, revision), published);
    }

    /// <summary>The guide by which an order is worked: its build, and of a sketch what its own bench told.</summary>
    /// <param name="revision">Another revision than the order keeps.</param>
    public Guide Of(Order order, int? revision = null) =>
        SketchWork.Drawn(
            Get(order.Model, revision ?? order.Revision).For(order.Variant).Proving(Proved(order.Model)),
            order
        );

    /// <summary>The file of a revision, as it was sent.</summary>
    /// <exception cref="RefusedException">There is none.</exception>
    public string Yaml(string code, int revision) =>
        connections.Read(db =>
            db.Command("""SELECT "Yaml" FROM guides WHERE "Code" = @p0 AND "Revision" = @p1""", null, code, revision)
                .ExecuteScalar() as string
        )
        ?? throw RefusedException.NotFound("no-such-revision", $"There is no revision {revision} of the guide {code}.");

    /// <summary>The newest revision's number.</summary>
    /// <exception cref="RefusedException">There is no such guide.</exception>
    public int Newest(string code)
    {
        var kept = Volatile.Read(ref newest);
        if (changes.Hears && kept.TryGetValue(code, out var known))
        {
            return known;
        }

        var revision = connections.Read(db =>
            db.Number("""SELECT max("Revision") FROM guides WHERE "Code" = @p0""", null, code)
        );
        if (revision is { } last)
        {
            return Remember(kept, code, (int)last);
        }

        var codes = connections.Read(db =>
            db.All("""SELECT DISTINCT "Code" FROM guides ORDER BY "Code" LIMIT 40""", row => row.GetString(0))
        );
        throw RefusedException.NotFound(
            "no-such-model",
            $"There is no guide for the model “{code}”. "
                + $"{(codes.Count > 0 ? $"The shelf has {string.Join(", ", codes)}." : "Import one first.")}"
        );
    }

    /// <summary>Whether any model of the shop has this code.</summary>
    public bool Has(string code) =>
        newest.ContainsKey(code)
        || connections.Read(db => db.Command("""SELECT 1 FROM guides WHERE "Code" = @p0""", null, code).ExecuteScalar())
            is not null;

    /// <summary>The guide as its file.</summary>
    public string Write(Guide guide) => write(guide);

    /// <summary>Models that a machine may be that calls itself so, the likeliest first.</summary>
    /// <param name="product">As its firmware tells it, or a person.</param>
    public async Task<IReadOnlyList<NamedModel>> RecogniseAsync(string product, CancellationToken cancel = default)
    {
        if (!isNamed)
        {
            await NameAsync(cancel);
            isNamed = true;
        }

        return connections.Read(db => GuideNames.Find(db, product, MostCandidates));
    }

    // Guides from before names were written down.
    private async Task NameAsync(CancellationToken cancel)
    {
        var missing = connections.Read(GuideNames.Missing);
        if (missing.Count > 0)
        {
            await using var db = await databases.CreateDbContextAsync(cancel);
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            foreach (var code in missing)
            {
                await NameAsync(db, Get(code, Newest(code)), cancel);
            }

            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
        }
    }

    private static async Task NameAsync(RevtalDb db, Guide guide, CancellationToken cancel)
    {
        await db.GuideNames.Where(n => n.Code == guide.Model.Code).ExecuteDeleteAsync(cancel);
        db.GuideNames.AddRange(GuideNames.Of(guide));
    }

    /// <summary>The most that the model is known to take by its newest revision; null where nobody tried.</summary>
    public ConfirmedMax? Proved(string code) => Get(code, Newest(code)).Memory.ConfirmedMax;

    /// <summary>The newest revision of each guide, by code.</summary>
    /// <param name="text">Found anywhere in its file; null for all.</param>
    /// <param name="after">Only codes behind this one.</param>
    public async Task<Page<GuideListing>> ListAsync(
        string? text = null,
        string? after = null,
        int most = int.MaxValue - 1,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = db.Guides.Where(g => g.Revision == db.Guides.Where(h => h.Code == g.Code).Max(h => h.Revision));
        if (!string.IsNullOrWhiteSpace(text))
        {
            var like = Like.Containing(text);
            rows = rows.Where(g => EF.Functions.Like(g.Yaml, like, Like.Escape));
        }

        var page = await rows.Where(g => after == null || string.Compare(g.Code, after) > 0)
            .OrderBy(g => g.Code)
            .Take(most + 1)
            .Select(g => new
            {
                g.Code,
                g.Revision,
                g.By,
                g.At,
            })
            .ToListAsync(cancel);
        return Page.Of(page, most, await rows.Take(Page.MostCounted + 1).CountAsync(cancel), g => g.Code)
            .Select(g => new GuideListing(g.Code, g.Revision, g.By, DateTimeOffset.FromUnixTimeMilliseconds(g.At)));
    }

    /// <summary>All revisions of a guide, newest first.</summary>
    /// <exception cref="RefusedException">There is no such guide.</exception>
    public async Task<IReadOnlyList<GuideListing>> RevisionsAsync(string code, CancellationToken cancel = default)
    {
        Newest(code);
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db
            .Guides.Where(g => g.Code == code)
            .OrderByDescending(g => g.Revision)
            .Select(g => new
            {
                g.Revision,
                g.By,
                g.At,
            })
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(r => new GuideListing(
                code,
                r.Revision,
                r.By,
                DateTimeOffset.FromUnixTimeMilliseconds(r.At)
            )),
        ];
    }

    /// <summary>
    /// Publishes files as the next revisions, all or none; the same file again stays the revision that it is.
    /// </summary>
    /// <param name="dryRun">Only says what it would do.</param>
    /// <exception cref="RefusedException">A file has problems; the message lists them with their lines.</exception>
    public async Task<IReadOnlyList<PublishedGuide>> PublishAsync(
        IReadOnlyList<string> yamls,
        Hand hand,
        bool dryRun = false,
        CancellationToken cancel = default
    )
    {
        if (dryRun)
        {
            await using var db = await databases.CreateDbContextAsync(cancel);
            return await StageAsync(db, yamls, hand, cancel);
        }

        var published = await road.TakeAsync(ShopTopic.Guides, hand, db => StageAsync(db, yamls, hand, cancel), cancel);
        Remember(published);
        return published;
    }

    /// <summary>Puts files where the next commit of this database makes them revisions.</summary>
    internal async Task<IReadOnlyList<PublishedGuide>> StageAsync(
        RevtalDb db,
        IReadOnlyList<string> yamls,
        Hand hand,
        CancellationToken cancel
    )
    {
        var published = new List<PublishedGuide>();
        foreach (var yaml in yamls)
        {
            var guide = Understand(yaml);
            var code = guide.Model.Code;
            if (db.Guides.Local.Any(g => g.Code == code))
            {
                throw RefusedException.Invalid("guide-twice", $"{code} comes twice. Send each model once.");
            }

            var last = await db
                .Guides.AsNoTracking()
                .Where(g => g.Code == code)
                .OrderByDescending(g => g.Revision)
                .FirstOrDefaultAsync(cancel);
            if (last?.Yaml == yaml)
            {
                var at = DateTimeOffset.FromUnixTimeMilliseconds(last.At);
                published.Add(new PublishedGuide(new GuideListing(code, last.Revision, last.By, at), false));
                continue;
            }

            var row = new GuideRow
            {
                Code = code,
                Revision = (last?.Revision ?? 0) + 1,
                Yaml = yaml,
                By = hand.By,
                At = hand.At.ToUnixTimeMilliseconds(),
            };
            db.Guides.Add(row);
            await NameAsync(db, guide, cancel);
            published.Add(new PublishedGuide(new GuideListing(code, row.Revision, hand.By, hand.At), true));
        }

        return published;
    }

    /// <summary>After the commit: an order wrote this revision.</summary>
    public void Wrote(SketchRevision sketch) => Remember(newest, sketch.Guide.Model.Code, sketch.Revision);

    /// <summary>After the commit: these are the newest by now.</summary>
    internal void Remember(IReadOnlyList<PublishedGuide> published)
    {
        foreach (var (listing, _) in published)
        {
            Remember(newest, listing.Code, listing.Revision);
        }
    }

    // Who asked before a publication may remember after it; the larger number is the later one.
    private static int Remember(ConcurrentDictionary<string, int> kept, string code, int revision) =>
        kept.AddOrUpdate(code, revision, (_, known) => Math.Max(known, revision));

    /// <summary>Reads and checks a guide file.</summary>
    public GuideResult Check(string yaml) => read(yaml, false);

    private Guide Understand(string yaml)
    {
        var result = read(yaml, false);
        return result.Guide
            ?? throw RefusedException.Invalid(
                "guide-problems",
                $"The guide cannot be published: {string.Join("; ", result.Problems.Take(20))}."
            );
    }
}
