using System.Data.Common;
using System.Text.Json;
using Revtal.Core.Orders;
using Revtal.Storage.Shapes;

namespace Revtal.Storage;

/// <summary>
/// By what orders are found. A trace's id begins with its order's number, so that the index of words alone tells which
/// orders have one.
/// </summary>
internal static class TraceRows
{
    /// <summary>Bits of an id that number the traces within an order.</summary>
    public const int Bits = 20;

    /// <summary>Stands after every letter.</summary>
    public const string AfterAll = "\uffff";

    /// <summary>
    /// Reads the journal on for what orders are found by, so many entries. What was read before changes nothing when it
    /// is read again.
    /// </summary>
    /// <returns>Whether there may be more.</returns>
    public static bool ReadOn(Prepared db, DbTransaction transaction, int most)
    {
        var entries = Unread(db, transaction, most);
        if (entries.Count == 0)
        {
            return false;
        }

        var uses = new Uses();
        foreach (var own in entries.GroupBy(e => e.Order))
        {
            Put(db, transaction, own.Key, [.. own.Select(e => Read(e.Kind, e.Body)).OfType<EntryBody>()], uses);
        }

        uses.Keep(db, transaction);
        db.Command("""UPDATE readers SET "Position" = @p0 WHERE "Name" = 'traces'""", transaction, entries[^1].Position)
            .ExecuteNonQuery();
        return entries.Count == most;
    }

    /// <summary>The last entry that was read.</summary>
    public static long ReadTo(Prepared db) =>
        db.Number("""SELECT "Position" FROM readers WHERE "Name" = 'traces'""", null) ?? 0;

    /// <summary>Whether something was recorded that was not read yet.</summary>
    public static bool IsBehind(Prepared db) =>
        db.Number(
            """
            SELECT 1 FROM readers WHERE "Name" = 'traces' AND "Position" < (SELECT max("Position") FROM entries)
            """,
            null
        )
            is not null;

    /// <summary>All of them are to be read anew.</summary>
    public static void Forget(Prepared db, DbTransaction transaction)
    {
        db.Dialect.Unindex(db, transaction);
        db.Command("DELETE FROM traces", transaction).ExecuteNonQuery();
        db.Command("DELETE FROM terms", transaction).ExecuteNonQuery();
        db.Command("""UPDATE readers SET "Position" = 0 WHERE "Name" = 'traces'""", transaction).ExecuteNonQuery();
    }

    private static IReadOnlyList<(long Position, int Order, string Kind, string Body)> Unread(
        Prepared db,
        DbTransaction transaction,
        int most
    ) =>
        db.All(
            """
            SELECT "Position", "Order", "Kind", "Body" FROM entries
            WHERE "Position" > (SELECT "Position" FROM readers WHERE "Name" = 'traces')
            ORDER BY "Position" LIMIT @p0
            """,
            row => (row.GetInt64(0), row.GetInt32(1), row.GetString(2), row.GetString(3)),
            transaction,
            most
        );

    // One that cannot be read has no words: it is its own order's trouble, told when that is opened, and nobody else's.
    private static EntryBody? Read(string kind, string body)
    {
        try
        {
            return EntryKinds.Read(kind, body);
        }
        catch (InvalidDataException)
        {
            return null;
        }
    }

    // What is left for a later visit is the order's to say, and not one entry's.
    private static void Put(
        Prepared db,
        DbTransaction transaction,
        int order,
        IReadOnlyList<EntryBody> bodies,
        Uses uses
    )
    {
        var (model, later) = Order(db, transaction, order);
        var kept = new Kept(db, transaction, order, uses);
        foreach (var body in bodies)
        {
            foreach (var kind in Traces.Gone(body))
            {
                kept.Drop(kind);
            }

            kept.Add(Traces.Of(body));
            if (body is TakenIn)
            {
                kept.Add([new Trace(TraceKind.Model, model)]);
            }
        }

        kept.Drop(TraceKind.Later, later);
        if (later is not null)
        {
            kept.Add([new Trace(TraceKind.Later, later)]);
        }
    }

    private static (string Model, string? Later) Order(Prepared db, DbTransaction transaction, int order) =>
        db.All(
            """
            SELECT "Card", "Model", "Later" FROM orders WHERE "Number" = @p0
            """,
            row => ($"{MachineOf(row.GetString(0))} {row.GetString(1)}", row.IsDBNull(2) ? null : row.GetString(2)),
            transaction,
            order
        )[0];

    private static string? MachineOf(string card)
    {
        using var read = JsonDocument.Parse(card);
        return read.RootElement.GetProperty("machine").GetString();
    }

    /// <summary>What an order is found by so far.</summary>
    private sealed class Kept(Prepared db, DbTransaction transaction, int order, Uses uses)
    {
        private readonly Dictionary<Trace, long> ids = Rows(db, transaction, order)
            .ToDictionary(r => r.Trace, r => r.Id);

        public void Add(IEnumerable<Trace> traces)
        {
            // What a machine told of itself may have a sign that not every engine's texts keep.
            foreach (
                var trace in traces.Select(t => t with { Text = t.Text.Replace("\0", "", StringComparison.Ordinal) })
            )
            {
                var id = ids.Count == 0 ? From(order) + 1 : ids.Values.Max() + 1;
                if (ids.TryAdd(trace, id))
                {
                    db.Dialect.Add(db, transaction, id, trace);
                    uses.Count(trace.Text, 1);
                }
            }
        }

        /// <param name="but">A text that stays.</param>
        public void Drop(TraceKind kind, string? but = null)
        {
            foreach (var (trace, id) in ids.Where(r => r.Key.Kind == kind && r.Key.Text != but).ToArray())
            {
                db.Command("""DELETE FROM traces WHERE "Id" = @p0""", transaction, id).ExecuteNonQuery();
                db.Dialect.Unindex(db, transaction, id, trace);
                uses.Count(trace.Text, -1);
                ids.Remove(trace);
            }
        }
    }

    // In how many more or fewer traces each word stands; most words of a round are the same few.
    private sealed class Uses
    {
        private readonly Dictionary<string, int> more = [];

        public void Count(string text, int by)
        {
            foreach (var term in Traces.Terms(text))
            {
                more[term] = more.GetValueOrDefault(term) + by;
            }
        }

        // In their order, so that neighbours are written together.
        public void Keep(Prepared db, DbTransaction transaction)
        {
            foreach (var (term, by) in more.Where(m => m.Value != 0).OrderBy(m => m.Key, StringComparer.Ordinal))
            {
                db.Command(
                        """
                        INSERT INTO terms ("Term", "Uses") VALUES (@p0, @p1)
                        ON CONFLICT ("Term") DO UPDATE SET "Uses" = terms."Uses" + @p1
                        """,
                        transaction,
                        term,
                        by
                    )
                    .ExecuteNonQuery();
                if (by < 0)
                {
                    db.Command("""DELETE FROM terms WHERE "Term" = @p0 AND "Uses" = 0""", transaction, term)
                        .ExecuteNonQuery();
                }
            }
        }
    }

    /// <summary>All traces of an order.</summary>
    public static IEnumerable<Trace> Of(Prepared db, int order) => Rows(db, null, order).Select(r => r.Trace);

    private static IReadOnlyList<(long Id, Trace Trace)> Rows(Prepared db, DbTransaction? transaction, int order) =>
        db.All(
            """SELECT "Id", "Kind", "Text" FROM traces WHERE "Id" > @p0 AND "Id" < @p1 ORDER BY "Id" """,
            row => (row.GetInt64(0), new Trace(Enum.Parse<TraceKind>(row.GetString(1)), row.GetString(2))),
            transaction,
            From(order),
            From(order + 1)
        );

    /// <summary>Before the first of an order's ids.</summary>
    public static long From(int order) => (long)order << Bits;
}
