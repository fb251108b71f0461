using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
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

    /// <summary>What an entry changes of what its order is found by.</summary>
    /// <param name="model">By which all orders of the model are found.</param>
    /// <param name="later">What the order leaves for a later visit after the entry; null for nothing.</param>
    public static void Put(
        Prepared db,
        DbTransaction? transaction,
        int order,
        EntryBody body,
        Trace model,
        string? later
    )
    {
        foreach (var kind in Traces.Gone(body))
        {
            Drop(db, transaction, order, kind, "");
        }

        Drop(db, transaction, order, TraceKind.Later, later ?? "");
        Add(
            db,
            transaction,
            order,
            [
                .. body is TakenIn ? [model] : Array.Empty<Trace>(),
                .. Traces.Of(body),
                .. later is null ? Array.Empty<Trace>() : [new Trace(TraceKind.Later, later)],
            ]
        );
    }

    private static void Drop(Prepared db, DbTransaction? transaction, int order, TraceKind kind, string but) =>
        db.Command(
                """DELETE FROM traces WHERE "Id" > @p0 AND "Id" < @p1 AND "Kind" = @p2 AND "Text" <> @p3""",
                transaction,
                From(order),
                From(order + 1),
                kind.ToString(),
                but
            )
            .ExecuteNonQuery();

    private static void Add(Prepared db, DbTransaction? transaction, int order, IEnumerable<Trace> traces)
    {
        var (from, to) = (From(order), From(order + 1));
        foreach (var trace in traces)
        {
            db.Command(
                    """
                    INSERT INTO traces ("Id", "Kind", "Text")
                    SELECT (SELECT coalesce(max("Id"), @p0) + 1 FROM traces WHERE "Id" > @p0 AND "Id" < @p1), @p2, @p3
                    WHERE NOT EXISTS (
                        SELECT 1 FROM traces WHERE "Id" > @p0 AND "Id" < @p1 AND "Kind" = @p2 AND "Text" = @p3)
                    """,
                    transaction,
                    from,
                    to,
                    trace.Kind.ToString(),
                    trace.Text
                )
                .ExecuteNonQuery();
        }
    }

    /// <summary>All traces of an order.</summary>
    public static IReadOnlyList<Trace> Of(Prepared db, int order) =>
        db.All(
            """SELECT "Kind", "Text" FROM traces WHERE "Id" > @p0 AND "Id" < @p1""",
            row => new Trace(Enum.Parse<TraceKind>(row.GetString(0)), row.GetString(1)),
            From(order),
            From(order + 1)
        );

    /// <summary>Finds the traces of a store from before there were any.</summary>
    public static async Task DescribeAsync(RevtalDb db)
    {
        await db.Database.OpenConnectionAsync();
        await using var transaction = await db.Database.BeginTransactionAsync();
        using var prepared = new Prepared(db.Database.GetDbConnection(), owns: false);
        Describe(prepared, transaction.GetDbTransaction());
        await transaction.CommitAsync();
    }

    /// <summary>Makes all of them anew from the journal.</summary>
    public static void Describe(Prepared db, DbTransaction transaction)
    {
        db.Command("DELETE FROM traces", transaction).ExecuteNonQuery();
        foreach (var (order, model, later) in Orders(db, transaction))
        {
            foreach (var body in Bodies(db, transaction, order))
            {
                Put(db, transaction, order, body, new Trace(TraceKind.Model, model), later);
            }
        }
    }

    private static List<EntryBody> Bodies(Prepared db, DbTransaction transaction, int order)
    {
        using var rows = db.Command(
                """SELECT "Kind", "Body" FROM entries WHERE "Order" = @p0 ORDER BY "Sequence" """,
                transaction,
                order
            )
            .ExecuteReader();
        var bodies = new List<EntryBody>();
        while (rows.Read())
        {
            bodies.Add(EntryKinds.Read(rows.GetString(0), rows.GetString(1)));
        }

        return bodies;
    }

    private static List<(int Order, string Model, string? Later)> Orders(Prepared db, DbTransaction transaction)
    {
        using var rows = db.Command(
                """
                SELECT "Number", json_extract("Card", '$.machine') || ' ' || "Model", "Later" FROM orders
                ORDER BY "Number"
                """,
                transaction
            )
            .ExecuteReader();
        var orders = new List<(int, string, string?)>();
        while (rows.Read())
        {
            orders.Add((rows.GetInt32(0), rows.GetString(1), rows.IsDBNull(2) ? null : rows.GetString(2)));
        }

        return orders;
    }

    /// <summary>Before the first of an order's ids.</summary>
    public static long From(int order) => (long)order << Bits;
}
