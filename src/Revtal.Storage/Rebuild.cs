using System.Data.Common;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>How making the rows anew went.</summary>
/// <param name="Orders">Whose rows were made.</param>
/// <param name="Unread">Orders whose entries do not make an order; their rows stay as they were.</param>
public sealed record Rebuilt(int Orders, IReadOnlyList<int> Unread);

/// <summary>
/// Makes what the board and the search read anew from the journal, which is only read. Nobody may write meanwhile.
/// </summary>
public sealed class Rebuild(Connections connections, Journal journal, GuideShelf guides)
{
    /// <summary>
    /// What rows say is this program's word: raised when it says something else of the same entries, so that no board
    /// goes on with what an earlier one said.
    /// </summary>
    public const int Version = 1;

    private const int AtOnce = 500;
    private const int WordsAtOnce = 10_000;

    /// <summary>Whether the rows are an earlier program's.</summary>
    public bool IsDue() =>
        connections.Read(db => db.Number("""SELECT "Position" FROM readers WHERE "Name" = 'rows'""", null) != Version);

    /// <param name="progress">How many orders are made so far, from time to time.</param>
    public Rebuilt Run(Action<int>? progress = null)
    {
        using var db = connections.Open();
        var unread = new List<int>();
        var (made, last) = (0, 0);
        for (var more = true; more; )
        {
            using var transaction = db.Begin();
            var numbers = Numbers(db, transaction, last);
            foreach (var number in numbers)
            {
                if (Row(number) is { } row)
                {
                    OrderRows.Put(db, transaction, row);
                    made++;
                }
                else
                {
                    unread.Add(number);
                }

                last = number;
            }

            transaction.Commit();
            progress?.Invoke(made);
            more = numbers.Count == AtOnce;
        }

        Finish(db);
        return new Rebuilt(made, unread);
    }

    private static IReadOnlyList<int> Numbers(Prepared db, DbTransaction transaction, int after) =>
        db.All(
            """SELECT DISTINCT "Order" FROM entries WHERE "Order" > @p0 ORDER BY "Order" LIMIT @p1""",
            row => row.GetInt32(0),
            transaction,
            after,
            AtOnce
        );

    private OrderRow? Row(int number)
    {
        try
        {
            var order = Order.Fold(journal.Entries(number).Select(s => s.Entry));
            return ProjectionRows.Of(ProjectionRows.Project(order, guides.Of(order)));
        }
        catch (Exception e) when (e is InvalidDataException or InvalidOperationException or RefusedException)
        {
            return null;
        }
    }

    private static void Finish(Prepared db)
    {
        using var transaction = db.Begin();
        db.Command("""DELETE FROM orders WHERE "Number" NOT IN (SELECT "Order" FROM entries)""", transaction)
            .ExecuteNonQuery();
        while (ChainRows.Fill(db, transaction, AtOnce)) { }
        TraceRows.Forget(db, transaction);
        while (TraceRows.ReadOn(db, transaction, WordsAtOnce)) { }
        db.Command("""UPDATE readers SET "Position" = @p0 WHERE "Name" = 'rows'""", transaction, Version)
            .ExecuteNonQuery();
        transaction.Commit();
    }
}
