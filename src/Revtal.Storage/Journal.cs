using System.Data.Common;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Checks;
using Revtal.Core.Orders;
using Revtal.Storage.Shapes;

namespace Revtal.Storage;

/// <summary>An entry as the journal keeps it.</summary>
/// <param name="Position">Place in the whole journal.</param>
/// <param name="Print">Hash of the request that recorded it.</param>
public sealed record Stored(long Position, Entry Entry, string Print);

/// <summary>That an entry was recorded, without what it says.</summary>
public sealed record Changed(long Position, int Order, int Sequence, string Kind, DateTimeOffset At, string By);

/// <summary>Reads the journal and its projection. Writing is <see cref="JournalWriter"/>'s alone.</summary>
public sealed class Journal(IDbContextFactory<RevtalDb> databases, Connections connections, TraceKeeper traces)
{
    /// <summary>The sequence of the order's last entry; null for an order that does not exist.</summary>
    public int? Head(int order) =>
        connections.Read(db => (int?)db.Number("""SELECT "Head" FROM orders WHERE "Number" = @p0""", null, order));

    /// <summary>The order's entries after a sequence, in order.</summary>
    public IReadOnlyList<Stored> Entries(int order, int after = 0, int most = int.MaxValue) =>
        connections.Read(db =>
            db.All(
                $"""
                SELECT {Columns} FROM entries
                WHERE "Order" = @p0 AND "Sequence" > @p1
                ORDER BY "Sequence" LIMIT @p2
                """,
                Read,
                order,
                after,
                most
            )
        );

    /// <summary>What changed after a position of the journal, in order, without the bodies.</summary>
    public async Task<IReadOnlyList<Changed>> ChangesAsync(long position, int most, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db
            .Entries.Where(e => e.Position > position)
            .OrderBy(e => e.Position)
            .Take(most)
            .Select(e => new
            {
                e.Position,
                e.Order,
                e.Sequence,
                e.Kind,
                e.At,
                e.By,
            })
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(r => new Changed(
                r.Position,
                r.Order,
                r.Sequence,
                r.Kind,
                DateTimeOffset.FromUnixTimeMilliseconds(r.At),
                r.By
            )),
        ];
    }

    internal static Changed ChangedBy(Stored s) =>
        new(s.Position, s.Entry.Order, s.Entry.Sequence, EntryKinds.NameOf(s.Entry.Body), s.Entry.At, s.Entry.By);

    /// <summary>The last position of the journal; 0 when it is empty.</summary>
    public long LastPosition() => connections.Read(db => LastPosition(db, null));

    internal static long LastPosition(Prepared db, DbTransaction? transaction) =>
        db.Number("""SELECT max("Position") FROM entries""", transaction) ?? 0;

    /// <summary>When the last entry was recorded; null in an empty journal.</summary>
    public DateTimeOffset? LastMoment() =>
        connections.Read(db =>
            db.Number("""SELECT "At" FROM entries ORDER BY "Position" DESC LIMIT 1""", null) is { } at
                ? DateTimeOffset.FromUnixTimeMilliseconds(at)
                : (DateTimeOffset?)null
        );

    /// <summary>The entry that a sender recorded under this id, if any.</summary>
    public Stored? Find(Guid id) => connections.Read(db => Find(db, id, null));

    /// <summary>The cards of all open orders, JSON each, by number.</summary>
    public IReadOnlyList<string> OpenCards() =>
        connections.Read(db =>
            db.All("""SELECT "Card" FROM orders WHERE "Open" ORDER BY "Number" """, row => row.GetString(0))
        );

    /// <summary>The cards of all orders that are parked, JSON each, by number.</summary>
    public IReadOnlyList<string> ParkedCards() =>
        connections.Read(db =>
            db.All(
                """SELECT "Card" FROM orders WHERE "Open" AND "Stage" = 'Parked' ORDER BY "Number" """,
                row => row.GetString(0)
            )
        );

    /// <summary>The orders of a batch, closed ones too, by number.</summary>
    public IReadOnlyList<int> OrdersOfBatch(int batch) =>
        connections.Read(db =>
            db.All(
                """SELECT "Number" FROM orders WHERE "Batch" = @p0 ORDER BY "Number" """,
                row => row.GetInt32(0),
                batch
            )
        );

    /// <summary>Cards of orders, newest first, open or not.</summary>
    /// <param name="text">
    /// Beginnings of words in whatever people said of them, pieces of the serials that were read, or the number itself,
    /// a letter mistyped or not; null for all.
    /// </param>
    /// <param name="later">Only those that leave something for a later visit.</param>
    /// <param name="below">Only numbers below this one.</param>
    public async Task<Page<FoundCard>> SearchAsync(
        string? text,
        Stage? stage,
        bool later,
        long? below,
        int most,
        CancellationToken cancel = default
    )
    {
        if (!string.IsNullOrWhiteSpace(text))
        {
            CatchUp();
            return connections.Read(db => TraceSearch.Find(db, text, stage?.ToString(), later, below, most));
        }

        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = db.Orders.AsQueryable();
        if (stage?.ToString() is { } s)
        {
            rows = rows.Where(o => o.Stage == s);
        }

        if (later)
        {
            rows = rows.Where(o => o.Later != null);
        }

        var page = await rows.Where(o => below == null || o.Number < below)
            .OrderByDescending(o => o.Number)
            .Take(most + 1)
            .Select(o => new { o.Number, o.Card })
            .ToListAsync(cancel);
        return Page.Of(page, most, await rows.Take(Page.MostCounted + 1).CountAsync(cancel), o => $"{o.Number}")
            .Select(o => new FoundCard(o.Card, null));
    }

    // A store that takes nothing now is searched as far as it was read.
    private void CatchUp()
    {
        try
        {
            traces.CatchUp();
        }
        catch (Exception e) when (StoreException.Of(e) is not null) { }
    }

    internal static bool Exists(Prepared db, int order) =>
        db.All("""SELECT 1 FROM orders WHERE "Number" = @p0""", _ => true, order).Count > 0;

    /// <summary>How long past runs of a model took, in minutes, that came in by the same way.</summary>
    public async Task<IReadOnlyList<int>> RunMinutesAsync(string model, string way, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Orders.Where(o => o.Model == model && o.Way == way && o.RunMinutes != null)
            .OrderByDescending(o => o.Number)
            .Take(50)
            .Select(o => o.RunMinutes!.Value)
            .ToListAsync(cancel);
    }

    /// <summary>What came off in each run of a model that is through, and its minutes.</summary>
    public IReadOnlyList<(string Way, int Minutes)> WaysOf(string model) =>
        connections.Read(db =>
            db.All(
                """
                SELECT "Way", "RunMinutes" FROM orders
                WHERE "Model" = @p0 AND "Way" IS NOT NULL AND "RunMinutes" IS NOT NULL
                """,
                row => (row.GetString(0), row.GetInt32(1)),
                model
            )
        );

    /// <summary>Scores after the work, of other orders of a model, the newest 500 orders that have any.</summary>
    public async Task<IReadOnlyList<Score>> ScoresAsync(string model, int except, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db
            .Orders.Where(o => o.Model == model && o.Number != except && o.Scores != null)
            .OrderByDescending(o => o.Number)
            .Take(500)
            .Select(o => o.Scores!)
            .ToListAsync(cancel);
        return [.. rows.SelectMany(r => JsonSerializer.Deserialize<Score[]>(r, RevtalJson.Options) ?? [])];
    }

    /// <summary>What the starts of a model's newest orders told, oldest first within each order.</summary>
    /// <param name="most">Of so many orders.</param>
    public IReadOnlyList<(int Order, IReadOnlyList<EntryBody> Bodies)> StartsOf(string model, int most)
    {
        string[] kinds = ["found-inside/1", "step-confirmed/1", "step-taken-back/1"];
        var rows = connections.Read(db =>
            db.All(
                $"""
                SELECT e."Order", e."Kind", e."Body" FROM entries e
                WHERE e."Order" IN (
                        SELECT "Number" FROM orders WHERE "Model" = @p0 ORDER BY "Number" DESC LIMIT @p1)
                    AND e."Kind" IN ({string.Join(", ", kinds.Select(k => $"'{k}'"))})
                ORDER BY e."Order", e."Sequence"
                """,
                row => (Order: row.GetInt32(0), Body: EntryKinds.Read(row.GetString(1), row.GetString(2))),
                model,
                most
            )
        );
        return [.. rows.GroupBy(r => r.Order, (n, own) => (n, (IReadOnlyList<EntryBody>)[.. own.Select(r => r.Body)]))];
    }

    /// <summary>The numbers of the shop's invoices, oldest first, each with the order whose it is.</summary>
    /// <param name="above">Only numbers above this one.</param>
    public async Task<Page<(int Number, int Order)>> InvoicesAsync(
        int above,
        int most,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var page = await db
            .Invoices.Where(i => i.Number > above)
            .OrderBy(i => i.Number)
            .Take(most + 1)
            .Select(i => new { i.Number, i.Order })
            .ToListAsync(cancel);
        var counted = await db.Invoices.Take(Page.MostCounted + 1).CountAsync(cancel);
        return Page.Of(page, most, counted, i => $"{i.Number}").Select(i => (i.Number, i.Order));
    }

    /// <summary>The orders of one machine, newest first.</summary>
    /// <param name="serial">The machine's.</param>
    public async Task<IReadOnlyList<int>> OrdersOfAsync(string serial, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Orders.Where(o => o.Serial == serial)
            .OrderByDescending(o => o.Number)
            .Take(50)
            .Select(o => o.Number)
            .ToListAsync(cancel);
    }

    /// <summary>The bytes of a capture, as they were sent.</summary>
    public async Task<byte[]?> CaptureAsync(string hash, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Captures.Where(c => c.Hash == hash).Select(c => c.Content).FirstOrDefaultAsync(cancel);
    }

    internal static Stored? Find(Prepared db, Guid id, DbTransaction? transaction)
    {
        using var rows = db.Command($"""SELECT {Columns} FROM entries WHERE "Id" = @p0""", transaction, id)
            .ExecuteReader();
        return rows.Read() ? Read(rows) : null;
    }

    private const string Columns = """
        "Position", "Order", "Sequence", "Id", "Kind", "At", "By", "Body", "Print", "SaidAt", "ClockOff"
        """;

    private static Stored Read(DbDataReader row) =>
        new(
            row.GetInt64(0),
            new Entry(
                row.GetInt32(1),
                row.GetInt32(2),
                row.GetGuid(3),
                DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(5)),
                row.GetString(6),
                EntryKinds.Read(row.GetString(4), row.GetString(7)),
                row.IsDBNull(9)
                    ? null
                    : new Said(DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(9)), row.GetBoolean(10))
            ),
            row.GetString(8)
        );
}
