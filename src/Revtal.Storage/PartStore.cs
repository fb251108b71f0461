using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;

namespace Revtal.Storage;

/// <summary>A line of the ledger as it was written.</summary>
public sealed record LedgerLine(
    long Id,
    long Item,
    string Kind,
    PartState? From,
    PartState To,
    int? Order,
    string? Position,
    string? Note,
    DateTimeOffset At,
    string By
);

/// <summary>What a file of parts is held against.</summary>
/// <param name="Serials">Of the parts that are in the shop, by kind.</param>
public sealed record CatalogueAndSerials(
    IReadOnlyDictionary<PartNumber, PartKind> Kinds,
    IReadOnlySet<(PartNumber Kind, string Serial)> Serials
);

/// <summary>
/// The catalogue, the shelf and its ledger. What orders do to the shelf is written by <see cref="JournalWriter"/> with
/// their entries.
/// </summary>
public sealed class PartStore(IDbContextFactory<RevtalDb> databases, Connections connections, Road road)
{
    private const int MostAtOnce = 1_000;

    // Beyond that all that is in the shop is read at once.
    private const int MostByKind = 100;

    // In the shop, or in a machine on its bench. Those that are gone only grow in number.
    private static readonly string[] InShop =
    [
        .. Enum.GetValues<PartState>().Where(s => !s.IsGone()).Select(s => s.ToString()),
    ];
    private static readonly string[] Gone = [.. Enum.GetNames<PartState>().Except(InShop)];
    private static readonly string StatesHere = string.Join(", ", InShop.Select(s => $"'{s}'"));

    /// <summary>All of the catalogue, by number.</summary>
    public async Task<IReadOnlyList<PartKind>> KindsAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return
        [
            .. (await db.PartKinds.AsNoTracking().OrderBy(k => k.Number).Select(k => k.Body).ToListAsync(cancel))
                .Select(Read)
                // Early catalogues may hold one number in two spellings: the first one counts.
                .DistinctBy(k => k.Number),
        ];
    }

    /// <summary>The catalogue lines of these numbers; those it does not have are left out.</summary>
    public IReadOnlyList<PartKind> Kinds(IReadOnlyCollection<PartNumber> numbers) =>
        Called([.. numbers.Select(n => n.ToString())]);

    /// <summary>
    /// The catalogue lines that these typed numbers or scanned codes mean; those it does not have are left out.
    /// </summary>
    public IReadOnlyList<PartKind> Called(IReadOnlyCollection<string> called)
    {
        var codes = called.Select(c => c.Trim()).ToHashSet();
        var numbers = codes.Select(c => new PartNumber(c)).ToHashSet();
        var kinds = connections.Read(db =>
            codes.Count > MostByKind ? Called(db, null) : codes.SelectMany(c => Called(db, c)).ToArray()
        );
        return
        [
            .. kinds
                .Where(k => numbers.Contains(k.Number) || codes.Contains(k.Barcode ?? ""))
                .DistinctBy(k => k.Number.ToString()),
        ];
    }

    private static IReadOnlyList<PartKind> Called(Prepared db, string? code) =>
        db.All(
            $"""
            SELECT "Body" FROM part_kinds
            {(code is null ? "" : "WHERE upper(\"Number\") = @p0 OR \"Barcode\" = @p1")}
            """,
            row => Read(row.GetString(0)),
            code is null ? [] : [code.ToUpperInvariant(), code]
        );

    /// <summary>The kind that a typed number or a scanned code means.</summary>
    /// <exception cref="RefusedException">The catalogue has none.</exception>
    public PartKind Find(string text) =>
        Called([text]).OrderByDescending(k => k.Number == new PartNumber(text)).FirstOrDefault()
        ?? throw RefusedException.NotFound(
            "no-such-part",
            $"The catalogue has no part “{text.Trim()}”. Add it there first."
        );

    /// <summary>Adds kinds, or changes them; all or none.</summary>
    /// <param name="tell">What the sender is told, from these kinds as they were when this was done.</param>
    public Task<T> PutAsync<T>(
        IReadOnlyList<PartKind> kinds,
        Hand hand,
        Func<IReadOnlyDictionary<PartNumber, PartKind>, T> tell,
        CancellationToken cancel = default
    ) =>
        road.TakeAsync(
            ShopTopic.Parts,
            hand,
            async db =>
            {
                // Early catalogues may hold one number in two spellings: the first one counts.
                string[] numbers = [.. kinds.Select(k => k.Number.ToString().ToUpperInvariant())];
                var there = db.PartKinds.Where(k => numbers.Contains(k.Number.ToUpper())).OrderBy(k => k.Number);
                var rows = (await there.ToListAsync(cancel))
                    .DistinctBy(k => new PartNumber(k.Number))
                    .ToDictionary(k => new PartNumber(k.Number));
                var answer = tell(rows.ToDictionary(r => r.Key, r => Read(r.Value.Body)));
                Put(db, rows, kinds);
                return answer;
            },
            cancel
        );

    /// <summary>Early catalogues do not say what a search looks through.</summary>
    internal static async Task DescribeAsync(RevtalDb db)
    {
        foreach (var row in await db.PartKinds.Where(k => k.Search == "").ToListAsync())
        {
            var kind = Read(row.Body);
            (row.Search, row.Least) = (PartLine.Words(kind), kind.Least);
        }

        await db.SaveChangesAsync();
    }

    private static void Put(RevtalDb db, Dictionary<PartNumber, PartKindRow> known, IReadOnlyList<PartKind> kinds)
    {
        foreach (var kind in kinds)
        {
            var body = JsonSerializer.Serialize(kind, RevtalJson.Options);
            if (known.TryGetValue(kind.Number, out var row))
            {
                (row.Body, row.Barcode, row.Search, row.Least) = (body, kind.Barcode, PartLine.Words(kind), kind.Least);
            }
            else
            {
                db.PartKinds.Add(
                    known[kind.Number] = new PartKindRow
                    {
                        Number = kind.Number.ToString(),
                        Body = body,
                        Barcode = kind.Barcode,
                        Search = PartLine.Words(kind),
                        Least = kind.Least,
                    }
                );
            }
        }
    }

    /// <summary>Parts, by id.</summary>
    public async Task<IReadOnlyList<PartItem>> ItemsAsync(
        IReadOnlyCollection<PartNumber>? kinds = null,
        int? order = null,
        PartState? state = null,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return [.. (await Items(db, kinds, order, state).OrderBy(i => i.Id).ToListAsync(cancel)).Select(Item)];
    }

    /// <summary>Parts of these kinds that are in the shop or in a machine on its bench, by id.</summary>
    public IReadOnlyList<PartItem> Here(IReadOnlyCollection<PartNumber> kinds)
    {
        var wanted = kinds.ToHashSet();
        var items = connections.Read(db =>
            wanted.Count > MostByKind
                ? Here(db, null)
                : wanted.SelectMany(k => Here(db, k.ToString().ToUpperInvariant())).ToArray()
        );
        return [.. items.Where(i => wanted.Contains(i.Kind)).OrderBy(i => i.Id)];
    }

    private static IReadOnlyList<PartItem> Here(Prepared db, string? kind) =>
        db.All(
            $"""
            SELECT "Id", "Kind", "Serial", "State", "Cost", "Supplier", "Place", "Order", "Position", "Kit", "Grade",
                "Tested"
            FROM part_items WHERE "State" IN ({StatesHere}) {(kind is null ? "" : "AND upper(\"Kind\") = @p0")}
            """,
            row => new PartItem(
                row.GetInt64(0),
                new PartNumber(row.GetString(1)),
                row.IsDBNull(2) ? null : row.GetString(2),
                Enum.Parse<PartState>(row.GetString(3)),
                row.IsDBNull(4) ? null : row.GetDecimal(4),
                row.IsDBNull(5) ? null : row.GetString(5),
                row.IsDBNull(6) ? null : row.GetString(6),
                row.IsDBNull(7) ? null : row.GetInt32(7),
                row.IsDBNull(8) ? null : row.GetString(8),
                row.IsDBNull(9) ? null : row.GetInt64(9),
                row.IsDBNull(10) ? null : row.GetString(10),
                row.IsDBNull(11) ? null : row.GetString(11)
            ),
            kind is null ? [] : [kind]
        );

    /// <summary>How many parts of a kind the shop had and has no more.</summary>
    public async Task<int> GoneAsync(PartNumber kind, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await Items(db, [kind], null, null).CountAsync(i => Gone.Contains(i.State), cancel);
    }

    /// <summary>A page of parts, by id.</summary>
    /// <param name="after">Only ids above this one.</param>
    public async Task<Page<PartItem>> ItemPageAsync(
        PartNumber? kind,
        int? order,
        PartState? state,
        long? after,
        int most,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = Items(db, kind is { } k ? [k] : null, order, state);
        var page = await rows.Where(i => after == null || i.Id > after)
            .OrderBy(i => i.Id)
            .Take(most + 1)
            .ToListAsync(cancel);
        return Page.Of(page, most, await rows.Take(Page.MostCounted + 1).CountAsync(cancel), i => $"{i.Id}")
            .Select(Item);
    }

    /// <summary>A page of the catalogue with what lies on the shelf, by number.</summary>
    /// <param name="text">A number, a barcode, or anything that the line says; null for all.</param>
    /// <param name="onlyShort">Only what should be ordered.</param>
    /// <param name="after">Only numbers behind this one.</param>
    public async Task<Page<PartLine>> LinesAsync(
        string? text,
        bool onlyShort,
        string? after,
        int most,
        CancellationToken cancel = default
    )
    {
        var wanted = await WantedAsync(cancel);
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = db.PartKinds.AsNoTracking();
        if (!string.IsNullOrWhiteSpace(text))
        {
            var like = Like.Containing(text.ToLowerInvariant());
            rows = rows.Where(k => EF.Functions.Like(k.Search, like, Like.Escape));
        }

        if (!onlyShort)
        {
            var page = await rows.Where(k => after == null || string.Compare(k.Number, after) > 0)
                .OrderBy(k => k.Number)
                .Take(most + 1)
                .Select(k => k.Body)
                .ToListAsync(cancel);
            return Page.Of(
                Lines([.. page.Select(Read)], wanted),
                most,
                await rows.Take(Page.MostCounted + 1).CountAsync(cancel),
                Key
            );
        }

        // Nothing else can be short: the rest is neither planned nor wanted on the shelf.
        string[] planned =
        [
            .. wanted.SelectMany(w => w.Numbers).Select(n => n.ToString().ToUpperInvariant()).Distinct(),
        ];
        var may = await rows.Where(k => k.Least > 0 || planned.Contains(k.Number.ToUpper()))
            .OrderBy(k => k.Number)
            .Select(k => k.Body)
            .ToListAsync(cancel);
        PartLine[] lines = [.. Lines([.. may.Select(Read)], wanted).Where(l => l.Short > 0)];
        return Page.Of(
            [.. lines.Where(l => after is null || string.CompareOrdinal(Key(l), after) > 0).Take(most + 1)],
            most,
            lines.Length,
            Key
        );

        static string Key(PartLine line) => line.Kind.Number.ToString();
    }

    /// <summary>These kinds with what lies on the shelf; the whole catalogue where none are named.</summary>
    public async Task<IReadOnlyList<PartLine>> LinesAsync(
        IReadOnlyList<PartKind>? kinds = null,
        CancellationToken cancel = default
    )
    {
        kinds ??= await KindsAsync(cancel);
        return Lines(kinds, await WantedAsync(cancel));
    }

    private IReadOnlyList<PartLine> Lines(
        IReadOnlyList<PartKind> kinds,
        IReadOnlyList<(int Order, IReadOnlyList<PartNumber> Numbers)> wanted
    ) => PartLine.Of(kinds, Here([.. kinds.Select(k => k.Number)]), wanted);

    private static IQueryable<PartItemRow> Items(
        RevtalDb db,
        IReadOnlyCollection<PartNumber>? kinds,
        int? order,
        PartState? state
    )
    {
        var rows = db.PartItems.AsNoTracking();
        if (kinds is not null)
        {
            string[] numbers = [.. kinds.Select(k => k.ToString().ToUpperInvariant())];
            rows = rows.Where(i => numbers.Contains(i.Kind.ToUpper()));
        }

        rows = order is null ? rows : rows.Where(i => i.Order == order);
        var named = state?.ToString();
        return named is null ? rows : rows.Where(i => i.State == named);
    }

    /// <summary>Parts come in. Pieces of a kit stay together.</summary>
    /// <param name="parts">One entry a part; of a kit all pieces, one after the other.</param>
    /// <exception cref="RefusedException">A serial is in the shop already.</exception>
    public Task<IReadOnlyList<PartItem>> ReceiveAsync(
        IReadOnlyList<(PartKind Kind, PartItem Part)> parts,
        Hand hand,
        CancellationToken cancel = default
    ) => road.TakeAsync(ShopTopic.Parts, hand, db => ReceiveAsync(db, parts, hand, cancel), cancel);

    /// <summary>Parts of a file come in, all or none.</summary>
    /// <param name="decide">From the catalogue and the serials in the shop: what the sender is told, and what comes in.
    /// It is asked when nobody else moves parts.</param>
    public Task<T> ReceiveAsync<T>(
        Hand hand,
        Func<CatalogueAndSerials, (T Answer, IReadOnlyList<(PartKind Kind, PartItem Part)> Parts)> decide,
        CancellationToken cancel = default
    ) =>
        road.TakeAsync(
            ShopTopic.Parts,
            hand,
            async db =>
            {
                var (answer, parts) = decide(await KnownAsync(db, cancel));
                if (parts.Count > 0)
                {
                    await ReceiveAsync(db, parts, hand, cancel);
                }

                return answer;
            },
            cancel
        );

    /// <summary>What a file of parts is held against.</summary>
    public async Task<CatalogueAndSerials> KnownAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await KnownAsync(db, cancel);
    }

    private static async Task<CatalogueAndSerials> KnownAsync(RevtalDb db, CancellationToken cancel)
    {
        var kinds = await db.PartKinds.AsNoTracking().OrderBy(k => k.Number).Select(k => k.Body).ToListAsync(cancel);
        var serials = await db
            .PartItems.AsNoTracking()
            .Where(i => i.Serial != null && InShop.Contains(i.State))
            .Select(i => new { i.Kind, i.Serial })
            .ToListAsync(cancel);
        return new CatalogueAndSerials(
            kinds.Select(Read).DistinctBy(k => k.Number).ToDictionary(k => k.Number),
            serials.Select(i => (new PartNumber(i.Kind), i.Serial!)).ToHashSet()
        );
    }

    private static async Task<IReadOnlyList<PartItem>> ReceiveAsync(
        RevtalDb db,
        IReadOnlyList<(PartKind Kind, PartItem Part)> parts,
        Hand hand,
        CancellationToken cancel
    )
    {
        if (parts.Count is 0 or > MostAtOnce)
        {
            throw RefusedException.Invalid(
                "count-impossible",
                $"{parts.Count} parts cannot come in at once: 1 to {MostAtOnce}."
            );
        }

        var rows = parts.Select(p => Row(p.Part with { Kind = p.Kind.Number, State = PartState.InStock })).ToArray();
        db.PartItems.AddRange(rows);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e) when (StoreException.IsTaken(e))
        {
            throw SerialHere();
        }

        for (var i = 0; i < rows.Length; )
        {
            var pieces = parts[i].Kind.Pieces;
            for (var piece = 0; piece < pieces && pieces > 1; piece++)
            {
                rows[i + piece].Kit = rows[i].Id;
            }

            i += pieces;
        }

        db.StockMoves.AddRange(rows.Select(r => Line(hand, new StockMove(r.Id, null, PartState.InStock))));
        return [.. rows.Select(Item)];
    }

    /// <summary>One part is moved by hand.</summary>
    /// <exception cref="RefusedException">There is no such part, or it cannot go there.</exception>
    public Task<PartItem> MoveAsync(
        long id,
        PartState? to,
        string? place,
        string? note,
        Claim? claim,
        Hand hand,
        CancellationToken cancel = default
    ) =>
        road.TakeAsync(
            ShopTopic.Parts,
            hand,
            async db =>
            {
                var row = await db.PartItems.FirstOrDefaultAsync(i => i.Id == id, cancel) ?? throw NoItem(id);
                row.Place = place ?? row.Place;
                if (to is { } state && state != Item(row).State)
                {
                    // Nobody moves it meanwhile: the transaction holds the store's only pen.
                    db.StockMoves.Add(Line(hand, StockRules.Move(Item(row), state, note, claim)));
                    (row.State, row.Order, row.Position) = (state.ToString(), null, null);
                }

                return Item(row);
            },
            cancel
        );

    /// <summary>A kit is split: its pieces go on as single parts of another kind.</summary>
    public Task<IReadOnlyList<PartItem>> SplitAsync(
        long kit,
        PartKind into,
        Hand hand,
        CancellationToken cancel = default
    ) => road.TakeAsync(ShopTopic.Parts, hand, db => SplitAsync(db, kit, into, hand, cancel), cancel);

    private static async Task<IReadOnlyList<PartItem>> SplitAsync(
        RevtalDb db,
        long kit,
        PartKind into,
        Hand hand,
        CancellationToken cancel
    )
    {
        var rows = await db.PartItems.Where(i => i.Kit == kit).OrderBy(i => i.Id).ToListAsync(cancel);
        if (rows.Count == 0 || rows.Any(r => r.State != nameof(PartState.InStock)))
        {
            throw RefusedException.Rule(
                "kit-not-whole",
                $"There is no kit {kit} whose pieces all lie in stock. A kit is called by the lowest number of its "
                    + "pieces."
            );
        }

        if (into.Pieces != 1)
        {
            throw RefusedException.Invalid(
                "kit-into",
                $"{into.Number} is a kit itself. Name the kind of a single piece."
            );
        }

        foreach (var row in rows)
        {
            (row.Kit, row.Kind) = (null, into.Number.ToString());
            db.StockMoves.Add(
                Line(
                    hand,
                    new StockMove(row.Id, PartState.InStock, PartState.InStock, null, null, $"split from kit {kit}")
                )
            );
        }

        return [.. rows.Select(Item)];
    }

    /// <summary>The ledger, newest last.</summary>
    /// <param name="after">Only lines after this id.</param>
    public async Task<Page<LedgerLine>> LedgerAsync(
        long? item,
        long? after,
        int most,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var lines =
            from m in db.StockMoves.AsNoTracking()
            join i in db.PartItems.AsNoTracking() on m.Item equals i.Id
            where item == null || m.Item == item
            select new { m, i.Kind };
        var page = await lines
            .Where(l => after == null || l.m.Id > after)
            .OrderBy(l => l.m.Id)
            .Take(most + 1)
            .ToListAsync(cancel);
        return Page.Of(page, most, await lines.Take(Page.MostCounted + 1).CountAsync(cancel), l => $"{l.m.Id}")
            .Select(l => new LedgerLine(
                l.m.Id,
                l.m.Item,
                l.Kind,
                l.m.From is { } f ? Enum.Parse<PartState>(f) : null,
                Enum.Parse<PartState>(l.m.To),
                l.m.Order,
                l.m.Position,
                l.m.Note,
                DateTimeOffset.FromUnixTimeMilliseconds(l.m.At),
                l.m.By
            ));
    }

    /// <summary>What the plans of open orders want from the catalogue, order by order.</summary>
    public async Task<IReadOnlyList<(int Order, IReadOnlyList<PartNumber> Numbers)>> WantedAsync(
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db
            .Orders.Where(o => o.Open && o.Wants != null)
            .Select(o => new { o.Number, o.Wants })
            .ToListAsync(cancel);
        return [.. rows.Select(r => (r.Number, (IReadOnlyList<PartNumber>)Wanted(r.Wants!)))];
    }

    /// <summary>Agreed orders for which fewer parts are set aside than their plans want, by number.</summary>
    public IReadOnlyList<int> Unserved() =>
        [
            .. connections
                .Read(db =>
                    db.All(
                        """
                        SELECT o."Number", o."Wants", i."Kind" FROM orders o
                        LEFT JOIN part_items i ON i."Order" = o."Number"
                        WHERE o."Open" AND o."Stage" = 'Agreed' AND o."Wants" IS NOT NULL ORDER BY o."Number"
                        """,
                        row =>
                            (
                                Order: (row.GetInt32(0), row.GetString(1)),
                                Kind: row.IsDBNull(2) ? null : row.GetString(2)
                            )
                    )
                )
                .GroupBy(r => r.Order, r => r.Kind)
                .Where(o => !Serves([.. o.OfType<string>()], Wanted(o.Key.Item2)))
                .Select(o => o.Key.Item1),
        ];

    private static bool Serves(IReadOnlyList<string> held, PartNumber[] wanted) =>
        wanted
            .GroupBy(n => $"{n}", StringComparer.OrdinalIgnoreCase)
            .All(g => held.Count(h => h.Equals(g.Key, StringComparison.OrdinalIgnoreCase)) >= g.Count());

    private static PartNumber[] Wanted(string wants) => JsonSerializer.Deserialize<PartNumber[]>(wants)!;

    /// <summary>A part with this serial is in the shop already.</summary>
    internal static RefusedException SerialHere() =>
        new(
            RefusalKind.Conflict,
            "serial-here",
            "One of these serials is in the shop already. Look it up, and mend whichever is wrong."
        );

    private static RefusedException NoItem(long id) =>
        RefusedException.NotFound("no-such-item", $"There is no part {id}. Each part has its own number, from 1.");

    private static PartKind Read(string body) => JsonSerializer.Deserialize<PartKind>(body, RevtalJson.Options)!;

    private static StockMoveRow Line(Hand hand, StockMove move) =>
        new()
        {
            Item = move.Item,
            From = move.From?.ToString(),
            To = move.To.ToString(),
            Order = move.Order,
            Position = move.Position,
            Note = move.Note,
            At = hand.At.ToUnixTimeMilliseconds(),
            By = hand.By,
            Key = hand.Key,
        };

    private static PartItemRow Row(PartItem i) =>
        new()
        {
            Kind = i.Kind.ToString(),
            Serial = Words.Line("The serial", i.Serial),
            State = i.State.ToString(),
            Cost = i.Cost,
            Supplier = Words.Line("The supplier", i.Supplier),
            Place = Words.Line("The place", i.Place),
            Grade = i.Grade,
            Tested = i.Tested,
        };

    private static PartItem Item(PartItemRow r) =>
        new(
            r.Id,
            new PartNumber(r.Kind),
            r.Serial,
            Enum.Parse<PartState>(r.State),
            r.Cost,
            r.Supplier,
            r.Place,
            r.Order,
            r.Position,
            r.Kit,
            r.Grade,
            r.Tested
        );
}
