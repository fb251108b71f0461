using System.Data.Common;

namespace Revtal.Storage;

/// <summary>What is kept of an order beside its entries.</summary>
internal static class OrderRows
{
    /// <summary>Null where nothing is.</summary>
    public static OrderRow? Of(Prepared db, int number)
    {
        using var row = db.Command(
                """
                SELECT "Number", "Head", "Open", "Stage", "Model", "Customer", "Serial", "ChangedAt", "Card", "Way",
                    "RunMinutes", "Scores", "Later", "Batch", "Wants", "Hash"
                FROM orders WHERE "Number" = @p0
                """,
                null,
                number
            )
            .ExecuteReader();
        if (!row.Read())
        {
            return null;
        }

        return new OrderRow
        {
            Number = row.GetInt32(0),
            Head = row.GetInt32(1),
            Open = row.GetBoolean(2),
            Stage = row.GetString(3),
            Model = row.GetString(4),
            Customer = row.GetString(5),
            Serial = Text(6),
            ChangedAt = row.GetInt64(7),
            Card = row.GetString(8),
            Way = Text(9),
            RunMinutes = row.IsDBNull(10) ? null : row.GetInt32(10),
            Scores = Text(11),
            Later = Text(12),
            Batch = row.IsDBNull(13) ? null : row.GetInt32(13),
            Wants = Text(14),
            Hash = row.IsDBNull(15) ? null : (byte[])row.GetValue(15),
        };

        string? Text(int column) => row.IsDBNull(column) ? null : row.GetString(column);
    }

    /// <summary>After an entry.</summary>
    public static void Change(Prepared db, DbTransaction transaction, OrderRow row)
    {
        // What most entries leave as it is stands in the condition, so that its indexes are not written again.
        var changed = db.Command(
                """
                UPDATE orders
                SET "Head" = @p1, "Stage" = @p3, "ChangedAt" = @p4, "Card" = @p5, "RunMinutes" = @p7, "Wants" = @p8,
                    "Scores" = @p9, "Later" = @p10, "Hash" = @p12
                WHERE "Number" = @p0 AND "Open" = @p2 AND "Way" IS NOT DISTINCT FROM @p6
                    AND "Batch" IS NOT DISTINCT FROM @p11
                    AND "Serial" IS NOT DISTINCT FROM @p13
                """,
                transaction,
                row.Number,
                row.Head,
                row.Open,
                row.Stage,
                row.ChangedAt,
                row.Card,
                row.Way,
                row.RunMinutes,
                row.Wants,
                row.Scores,
                row.Later,
                row.Batch,
                row.Hash,
                row.Serial
            )
            .ExecuteNonQuery();
        if (changed == 0)
        {
            Put(db, transaction, row);
        }
    }

    /// <summary>Whatever was there before; the hash that is there stays where the row has none.</summary>
    public static void Put(Prepared db, DbTransaction transaction, OrderRow row) =>
        db.Command(
                """
                INSERT INTO orders ("Number", "Head", "Open", "Stage", "Model", "Customer", "Serial", "ChangedAt",
                    "Card", "Way", "RunMinutes", "Wants", "Scores", "Later", "Batch", "Hash")
                VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6, @p7, @p8, @p9, @p10, @p11, @p12, @p13, @p14, @p15)
                ON CONFLICT ("Number") DO UPDATE
                SET "Head" = @p1, "Open" = @p2, "Stage" = @p3, "Model" = @p4, "Customer" = @p5, "Serial" = @p6,
                    "ChangedAt" = @p7, "Card" = @p8, "Way" = @p9,
                    "RunMinutes" = @p10, "Wants" = @p11, "Scores" = @p12, "Later" = @p13, "Batch" = @p14,
                    "Hash" = coalesce(@p15, orders."Hash")
                """,
                transaction,
                row.Number,
                row.Head,
                row.Open,
                row.Stage,
                row.Model,
                row.Customer,
                row.Serial,
                row.ChangedAt,
                row.Card,
                row.Way,
                row.RunMinutes,
                row.Wants,
                row.Scores,
                row.Later,
                row.Batch,
                row.Hash
            )
            .ExecuteNonQuery();
}
