using System.Data.Common;
using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Core.Parts;

namespace Revtal.Storage;

/// <summary>Stock moves inside an order's transaction.</summary>
internal static class StockRows
{
    /// <summary>False when the part is not where it was when this was decided.</summary>
    public static bool Move(Prepared db, DbTransaction transaction, StockMove move, Entry entry)
    {
        var moved = db.Command(
                """
                UPDATE part_items
                SET "State" = @p0, "Order" = @p1, "Position" = @p2
                WHERE "Id" = @p3 AND "State" = @p4
                """,
                transaction,
                move.To.ToString(),
                move.Order,
                move.Position,
                move.Item,
                move.From.ToString()
            )
            .ExecuteNonQuery();
        return moved == 1 && Write(db, transaction, move, entry) == 1;
    }

    public static void Receive(Prepared db, DbTransaction transaction, PartKind kind, PartItem item, Entry entry)
    {
        db.Command(
                """
                INSERT INTO part_kinds ("Number", "Body", "Barcode", "Search", "Least")
                VALUES (@p0, @p1, @p2, @p3, @p4)
                ON CONFLICT DO NOTHING
                """,
                transaction,
                kind.Number,
                JsonSerializer.Serialize(kind, RevtalJson.Options),
                kind.Barcode,
                PartLine.Words(kind),
                kind.Least
            )
            .ExecuteNonQuery();
        var id = db.Command(
                """
                INSERT INTO part_items ("Kind", "Serial", "State", "Cost", "Supplier", "Place", "Grade", "Tested")
                VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6, @p7)
                RETURNING "Id"
                """,
                transaction,
                kind.Number,
                item.Serial,
                item.State.ToString(),
                item.Cost,
                item.Supplier,
                item.Place,
                item.Grade,
                item.Tested
            )
            .ExecuteScalar();
        Write(
            db,
            transaction,
            new StockMove(
                (long)id!,
                null,
                item.State,
                entry.Order,
                item.Position,
                $"bought in from order {entry.Order}"
            ),
            entry
        );
    }

    private static int Write(Prepared db, DbTransaction transaction, StockMove move, Entry entry) =>
        db.Command(
                """
                INSERT INTO stock_moves ("Item", "From", "To", "Order", "Position", "Note", "At", "By", "Key")
                VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6, @p7, @p8)
                """,
                transaction,
                move.Item,
                move.From?.ToString(),
                move.To.ToString(),
                entry.Order,
                move.Position,
                move.Note,
                entry.At.ToUnixTimeMilliseconds(),
                entry.By,
                entry.Id
            )
            .ExecuteNonQuery();
}
