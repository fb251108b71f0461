using System.Data.Common;

namespace Revtal.Storage;

/// <summary>The entries as they are kept, with what each carries of the one before it.</summary>
internal static class ChainRows
{
    private const int AtOnce = 500;

    /// <summary>Chains whatever was recorded before there was a chain; a start that was killed amid goes on.</summary>
    public static void Fill(Prepared db)
    {
        for (var more = true; more; )
        {
            using var transaction = db.Begin();
            more = Fill(db, transaction, AtOnce);
            transaction.Commit();
        }
    }

    /// <summary>Chains the entries of orders that were recorded before there was a chain, so many orders.</summary>
    /// <returns>Whether there may be more.</returns>
    public static bool Fill(Prepared db, DbTransaction transaction, int most)
    {
        var orders = db.All(
            """SELECT "Number" FROM orders WHERE "Hash" IS NULL ORDER BY "Number" LIMIT @p0""",
            row => row.GetInt32(0),
            transaction,
            most
        );
        foreach (var order in orders)
        {
            db.Command(
                    """UPDATE orders SET "Hash" = @p1 WHERE "Number" = @p0""",
                    transaction,
                    order,
                    Chain(db, transaction, order)
                )
                .ExecuteNonQuery();
        }

        return orders.Count == most;
    }

    /// <summary>The entries of an order as they are kept, in order.</summary>
    public static IReadOnlyList<EntryRow> Of(Prepared db, DbTransaction? transaction, int order) =>
        db.All($"""{Select} WHERE "Order" = @p0 ORDER BY "Sequence" """, Read, transaction, order);

    /// <summary>Those after a position, up to another, by their positions.</summary>
    public static IReadOnlyList<EntryRow> Between(Prepared db, long after, long to, int most) =>
        db.All(
            $"""{Select} WHERE "Position" > @p0 AND "Position" <= @p1 ORDER BY "Position" LIMIT @p2""",
            Read,
            after,
            to,
            most
        );

    private const string Select = """
        SELECT "Position", "Order", "Sequence", "Id", "Kind", "At", "By", "Body", "Print", "SaidAt", "ClockOff",
            "Before"
        FROM entries
        """;

    private static EntryRow Read(DbDataReader row) =>
        new()
        {
            Position = row.GetInt64(0),
            Order = row.GetInt32(1),
            Sequence = row.GetInt32(2),
            Id = row.GetGuid(3),
            Kind = row.GetString(4),
            At = row.GetInt64(5),
            By = row.GetString(6),
            Body = row.GetString(7),
            Print = row.GetString(8),
            SaidAt = row.IsDBNull(9) ? null : row.GetInt64(9),
            ClockOff = row.IsDBNull(10) ? null : row.GetBoolean(10),
            Before = row.IsDBNull(11) ? null : (byte[])row.GetValue(11),
        };

    // What an entry carries already stays as it is: it is evidence.
    private static byte[] Chain(Prepared db, DbTransaction transaction, int order)
    {
        var before = EntryChain.None;
        foreach (var entry in Of(db, transaction, order))
        {
            if (entry.Before is null)
            {
                entry.Before = before;
                db.Command(
                        """UPDATE entries SET "Before" = @p1 WHERE "Position" = @p0""",
                        transaction,
                        entry.Position,
                        before
                    )
                    .ExecuteNonQuery();
            }

            before = EntryChain.HashOf(entry);
        }

        return before;
    }
}
