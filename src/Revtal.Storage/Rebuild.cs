using System.Data.Common;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>How making the rows anew went.</summary>
/// <param name="Orders">Whose rows were made.</param>
/// <param name="Unread">Orders whose entries do not make an order; their rows stay as they were.</param>
public sealed record Rebuilt(int Orders, IReadOnlyList<int> Unread);

/// <summary>
/// Makes what the board and the search read anew from the journal, which is only read. Nobody may write meanwhile. One
/// that was killed goes on where it was.
/// </summary>
public sealed class Rebuild(Connections connections, Journal journal, GuideShelf guides)
{
    /// <summary>
    /// What rows say is this program's word: raised when it says something else of the same entries, so that no board
    /// goes on with what an earlier one said.
    /// </summary>
    public const int Version = 1;

    /// <summary>The same of the words that orders are found by.</summary>
    public const int WordsVersion = 2;

    private const string Rows = "rows",
        Words = "words";

    private const int AtOnce = 500;
    private const int WordsAtOnce = 40_000;

    // Rows of one program are no beginning for another's.
    private static readonly string Begun = $"{Rows}/{Version}";

    /// <summary>Whether what is read is an earlier program's.</summary>
    public bool IsDue() => connections.Read(db => AreOld(db, Rows, Version) || AreOld(db, Words, WordsVersion));

    /// <param name="all">All of it, also what is this program's.</param>
    /// <param name="progress">How many orders are made so far, from time to time.</param>
    /// <param name="reading">Up to which entry words are read so far, from time to time.</param>
    public Rebuilt Run(bool all = true, Action<int>? progress = null, Action<long>? reading = null)
    {
        using var db = connections.Open();
        var rebuilt = all || AreOld(db, Rows, Version) ? Orders(db, progress) : new Rebuilt(0, []);
        ChainRows.Fill(db);
        ForgetWords(db, all);
        for (var more = true; more; )
        {
            using var transaction = db.Begin();
            more = TraceRows.ReadOn(db, transaction, WordsAtOnce);
            transaction.Commit();
            reading?.Invoke(TraceRows.ReadTo(db));
        }

        return rebuilt;
    }

    // From then on it is like any other journal that is not read to its end. Of several that begin at once one does it.
    private static void ForgetWords(Prepared db, bool all)
    {
        using var transaction = db.Begin();
        if (all || AreOld(db, Words, WordsVersion, transaction))
        {
            TraceRows.Forget(db, transaction);
            Put(db, transaction, Words, WordsVersion);
        }

        transaction.Commit();
    }

    private Rebuilt Orders(Prepared db, Action<int>? progress)
    {
        var unread = new List<int>();
        var last = (int)(At(db, Begun) ?? 0);
        var made = (int)db.Number("""SELECT count(*) FROM orders WHERE "Number" <= @p0""", null, last)!;
        for (var more = true; more; )
        {
            using var transaction = db.Begin();
            var numbers = Numbers(db, transaction, last);
            foreach (var (number, row) in numbers.AsParallel().AsOrdered().Select(n => (n, Row(n))))
            {
                if (row is not null)
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

            Put(db, transaction, Begun, last);
            transaction.Commit();
            progress?.Invoke(made);
            more = numbers.Count == AtOnce;
        }

        using var end = db.Begin();
        db.Command(
                """
                DELETE FROM orders WHERE NOT EXISTS (SELECT 1 FROM entries e WHERE e."Order" = orders."Number")
                """,
                end
            )
            .ExecuteNonQuery();
        db.Command("""DELETE FROM readers WHERE "Name" LIKE 'rows/%'""", end).ExecuteNonQuery();
        Put(db, end, Rows, Version);
        end.Commit();
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

    // Words have a version since their first; before that they had none.
    private static bool AreOld(Prepared db, string name, int version, DbTransaction? transaction = null) =>
        (At(db, name, transaction) ?? 1) != version;

    private static long? At(Prepared db, string name, DbTransaction? transaction = null) =>
        db.Number("""SELECT "Position" FROM readers WHERE "Name" = @p0""", transaction, name);

    private static void Put(Prepared db, DbTransaction transaction, string name, long position) =>
        db.Command(
                """
                INSERT INTO readers ("Name", "Position") VALUES (@p0, @p1)
                ON CONFLICT ("Name") DO UPDATE SET "Position" = @p1
                """,
                transaction,
                name,
                position
            )
            .ExecuteNonQuery();
}
