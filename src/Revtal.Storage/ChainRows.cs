using System.Data.Common;

namespace Revtal.Storage;

/// <summary>The entries as they are kept, with what each carries of the one before it.</summary>
internal static class ChainRows
{
    /// <summary>Chains the entries of orders that were recorded before there was a chain, so many orders.</summary>
    /// <returns>Whether there may be more.</returns>
    public static bool Fill(Prepared db, DbTransaction transaction, int most)
    {
        var orders = new List<int>();
        using (
            var rows = db.Command(
                    """SELECT "Number" FROM orders WHERE "Hash" IS NULL ORDER BY "Number" LIMIT @p0""",
                    transaction,
                    most
                )
                .ExecuteReader()
        )
        {
            while (rows.Read())
            {
                orders.Add(rows.GetInt32(0));
            }
        }

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
    public static IReadOnlyList<EntryRow> Of(Prepared db, DbTransaction? transaction, int order)
    {
        using var rows = db.Command(
                """
                SELECT "Position", "Order", "Sequence", "Id", "Kind", "At", "By", "Body", "Print", "SaidAt", "ClockOff",
                    "Before"
                FROM entries WHERE "Order" = @p0 ORDER BY "Sequence"
                """,
                transaction,
                order
            )
            .ExecuteReader();
        var entries = new List<EntryRow>();
        while (rows.Read())
        {
            entries.Add(
                new EntryRow
                {
                    Position = rows.GetInt64(0),
                    Order = rows.GetInt32(1),
                    Sequence = rows.GetInt32(2),
                    Id = rows.GetGuid(3),
                    Kind = rows.GetString(4),
                    At = rows.GetInt64(5),
                    By = rows.GetString(6),
                    Body = rows.GetString(7),
                    Print = rows.GetString(8),
                    SaidAt = rows.IsDBNull(9) ? null : rows.GetInt64(9),
                    ClockOff = rows.IsDBNull(10) ? null : rows.GetBoolean(10),
                    Before = rows.IsDBNull(11) ? null : (byte[])rows.GetValue(11),
                }
            );
        }

        return entries;
    }

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
