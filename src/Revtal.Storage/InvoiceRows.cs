using System.Data.Common;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>
/// The numbers of the shop's invoices: whoever writes the journal gives them, so that none is left out.
/// </summary>
internal static class InvoiceRows
{
    /// <summary>What takes a number with the next one; anything else as it is.</summary>
    public static EntryBody Numbered(Prepared db, DbTransaction transaction, EntryBody body) =>
        body is InvoiceEntry invoice
            ? invoice with
            {
                Number = (int)(db.Number("""SELECT max("Number") FROM invoices""", transaction) ?? 0) + 1,
            }
            : body;

    /// <summary>Keeps which entry has its number.</summary>
    public static void Put(Prepared db, DbTransaction transaction, Entry entry)
    {
        if (entry.Body is not InvoiceEntry { Number: var number })
        {
            return;
        }

        db.Command(
                """INSERT INTO invoices ("Number", "Order", "Sequence") VALUES (@p0, @p1, @p2)""",
                transaction,
                number,
                entry.Order,
                entry.Sequence
            )
            .ExecuteNonQuery();
    }

    /// <summary>The numbers of an order's entries, in their order.</summary>
    /// <param name="last">The last of these entries.</param>
    public static IReadOnlyList<int> Of(Prepared db, int order, int last) =>
        db.All(
            """SELECT "Number" FROM invoices WHERE "Order" = @p0 AND "Sequence" <= @p1 ORDER BY "Sequence" """,
            row => row.GetInt32(0),
            order,
            last
        );

    /// <summary>The first number that is missing; null where none is.</summary>
    public static int? Gap(Prepared db) =>
        (int?)
            db.Number(
                """
                SELECT min(i."Number") + 1 FROM (SELECT 0 AS "Number" UNION ALL SELECT "Number" FROM invoices) i
                WHERE i."Number" < (SELECT coalesce(max("Number"), 0) FROM invoices)
                    AND NOT EXISTS (SELECT 1 FROM invoices n WHERE n."Number" = i."Number" + 1)
                """,
                null
            );
}
