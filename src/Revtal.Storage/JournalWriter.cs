using System.Collections.Concurrent;
using System.Data.Common;
using System.Diagnostics;
using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Storage.Shapes;

namespace Revtal.Storage;

/// <summary>One entry to append, with what the order looks like afterwards.</summary>
/// <param name="Order">Null for a take-in: the writer gives the next number.</param>
/// <param name="Head">The head that the decision was made on; 0 for a take-in.</param>
/// <param name="Project">The order's projection after the entry.</param>
/// <param name="Capture">Stored in the same transaction, if given.</param>
/// <param name="Stock">Parts that move with it, in the same transaction or not at all.</param>
/// <param name="NewPart">A part that comes into the stock with it, and its catalogue line where there is none.</param>
/// <param name="Sketch">The next revision of a sketch that is written with it.</param>
/// <param name="Arrival">The machine that told of itself and is taken in by it.</param>
/// <param name="Notices">Whom it concerns.</param>
/// <param name="Said">When it was said, where it waited for a network.</param>
public sealed record Append(
    int? Order,
    int Head,
    Guid Id,
    DateTimeOffset At,
    string By,
    EntryBody Body,
    string Print,
    Func<Entry, Projection> Project,
    CaptureRow? Capture = null,
    IReadOnlyList<StockMove>? Stock = null,
    (PartKind Kind, PartItem Item)? NewPart = null,
    SketchRevision? Sketch = null,
    string? Arrival = null,
    IReadOnlyList<Notice>? Notices = null,
    Said? Said = null
);

/// <summary>A sketch's next revision, written by what was done on an order.</summary>
/// <param name="Yaml">The same as its file.</param>
public sealed record SketchRevision(Guide Guide, int Revision, string Yaml);

/// <summary>What the projection columns say.</summary>
/// <param name="Way">What came off, once the run is done.</param>
public sealed record Projection(Order Order, string CardJson, string? Way = null);

/// <summary>
/// How an append went. Exactly one of: recorded now, already recorded under this id, somebody else was next (on the
/// order, or with a part).
/// </summary>
public abstract record AppendResult
{
    public sealed record Recorded(Stored Stored) : AppendResult;

    public sealed record Already(Stored Stored) : AppendResult;

    public sealed record Overtaken : AppendResult;
}

/// <summary>
/// The one road into the journal. Appends that wait at the same moment share a transaction, and so a commit to disk;
/// each is answered only after it.
/// </summary>
public sealed class JournalWriter(Connections connections, Changes changes) : IDisposable
{
    private const int MostTogether = 128;
    internal const int FirstNumber = 101;

    // As much as a large entry needs.
    private const int ProbeLength = 64 << 10;

    // Longer than anybody should wait for them: whoever comes after is told to come again, and those before are not
    // slowed by it.
    private const int MostWaiting = 2_048;

    private readonly ConcurrentQueue<Appending> queue = new();
    private int waits;
    private readonly Lock writing = new();
    private readonly List<Appending> together = new(MostTogether);
    private Prepared? db;

    /// <summary>What the last round failed at; null once one was kept again.</summary>
    private Exception? LastFailure { get; set; }

    /// <summary>Appends that wait to be written.</summary>
    public int Waiting => Volatile.Read(ref waits);

    /// <summary>Appends; the task ends when the entry is on disk.</summary>
    public async Task<AppendResult> AppendAsync(Append append) => (await AppendAllAsync([append]))[0];

    /// <summary>
    /// Appends all of them or none; take-ins get numbers that follow each other. The task ends when they are on disk.
    /// </summary>
    /// <returns>One result an append where they were recorded; else the one that was in the way.</returns>
    /// <exception cref="StoreException">Too many wait already: nothing of this was recorded.</exception>
    public Task<IReadOnlyList<AppendResult>> AppendAllAsync(IReadOnlyList<Append> appends)
    {
        if (Interlocked.Increment(ref waits) > MostWaiting)
        {
            Interlocked.Decrement(ref waits);
            throw new StoreException("Too much is being recorded at once: nothing of this was. Try again in a moment.");
        }

        var waiting = new Appending(appends, Stopwatch.GetTimestamp());
        queue.Enqueue(waiting);
        Write();
        return waiting.Answer.Task;
    }

    /// <summary>
    /// What keeps the store from being written; null for nothing. Where the last round failed a write is tried, so that
    /// nobody's entry has to find out that the disk has room again.
    /// </summary>
    public Exception? WhyNotWritable()
    {
        if (LastFailure is null)
        {
            return null;
        }

        try
        {
            return InTurn(
                (db, transaction) =>
                {
                    db.Command(
                            """INSERT INTO requests ("Key", "Print", "Answer", "At") VALUES (@p0, '', @p1, 0)""",
                            transaction,
                            Guid.Empty,
                            new string(' ', ProbeLength)
                        )
                        .ExecuteNonQuery();
                    db.Command("""DELETE FROM requests WHERE "Key" = @p0""", transaction, Guid.Empty).ExecuteNonQuery();
                    return (Exception?)null;
                }
            );
        }
        catch (Exception e)
        {
            return e;
        }
    }

    /// <summary>Writes something beside the journal, in turn with the appends.</summary>
    internal T InTurn<T>(Func<Prepared, DbTransaction, T> write)
    {
        try
        {
            var result = default(T)!;
            lock (writing)
            {
                Keep(db =>
                {
                    using var transaction = db.Begin();
                    result = write(db, transaction);
                    transaction.Commit();
                });
            }

            return result;
        }
        finally
        {
            GoOn();
        }
    }

    public void Dispose()
    {
        lock (writing)
        {
            db?.Dispose();
            db = null;
        }
    }

    // Who comes while nobody writes, writes: for itself and for all who queued meanwhile. Who comes later is written
    // for.
    private void Write()
    {
        if (!writing.TryEnter())
        {
            return;
        }

        try
        {
            Round();
        }
        finally
        {
            writing.Exit();
        }

        GoOn();
    }

    // Somebody may have queued and seen the lock held. Another thread goes on, so that this one's caller gets its
    // answer.
    private void GoOn()
    {
        if (!queue.IsEmpty)
        {
            ThreadPool.UnsafeQueueUserWorkItem(static writer => writer.Write(), this, preferLocal: false);
        }
    }

    // The disk is full or the file is gone: nothing of this is kept, and the next begins anew.
    private void Keep(Action<Prepared> write)
    {
        try
        {
            connections.Prove();
            write(db ??= connections.Open());
            LastFailure = null;
        }
        catch (Exception e)
        {
            db?.Dispose();
            db = null;
            LastFailure = e;
            throw;
        }
    }

    private void Round()
    {
        together.Clear();
        while (together.Count < MostTogether && queue.TryDequeue(out var waiting))
        {
            together.Add(waiting);
        }

        if (together.Count == 0)
        {
            return;
        }

        using var trace = StoreMeter.Traces.StartActivity("journal.commit");
        try
        {
            Keep(db => Commit(db, together));
        }
        catch (Exception e)
        {
            foreach (var waiting in together)
            {
                waiting.Answer.TrySetException(e);
            }
        }

        Interlocked.Add(ref waits, -together.Count);
        foreach (var waiting in together)
        {
            StoreMeter.Answered(waiting.Came);
        }
    }

    private void Commit(Prepared db, List<Appending> together)
    {
        // Mostly all of a round are kept: what takes back one of them alone costs two statements more for each.
        var (answers, failures) =
            Commit(db, together, eachAlone: false) ?? Commit(db, together, eachAlone: true)!.Value;

        // Told only now: what was acknowledged is on disk, and who was overtaken finds what overtook it.
        for (var i = 0; i < together.Count; i++)
        {
            if (failures[i] is { } failure)
            {
                together[i].Answer.TrySetException(failure);
            }
            else
            {
                together[i].Answer.TrySetResult(answers[i]!);
            }
        }

        changes.Tell([.. Recorded(answers).Select(r => Journal.ChangedBy(r.Stored))]);
        foreach (var hand in Sketched(answers, together))
        {
            changes.Tell(ShopTopic.Guides, hand);
        }
    }

    // Null, and nothing kept, where one has failed after it had written something that cannot be taken back alone.
    private (IReadOnlyList<AppendResult>?[] Answers, Exception?[] Failures)? Commit(
        Prepared db,
        List<Appending> together,
        bool eachAlone
    )
    {
        var answers = new IReadOnlyList<AppendResult>?[together.Count];
        var failures = new Exception?[together.Count];
        using var transaction = db.Begin();
        int? next = null;
        var position = Journal.LastPosition(db, transaction);
        for (var i = 0; i < together.Count; i++)
        {
            var appends = together[i].Appends;
            var highest = next;
            Do(db, transaction, "SAVEPOINT entry", eachAlone);
            try
            {
                answers[i] = RecordAll(db, transaction, appends, ref next, position);
            }
            catch (Exception e) when (StoreException.IsTaken(e) || StoreException.Of(e) is null)
            {
                // It fails alone. What the store itself fails at ends the round.
                failures[i] = e;
            }

            if (answers[i] is [AppendResult.Recorded, ..])
            {
                position += appends.Count;
            }
            else if (eachAlone || WroteNothing(appends, answers[i]))
            {
                next = highest;
                Do(db, transaction, "ROLLBACK TO entry", eachAlone);
            }
            else
            {
                return null;
            }

            Do(db, transaction, "RELEASE entry", eachAlone);
        }

        Call(db, transaction, answers, together);
        transaction.Commit();
        connections.Mark(position);
        return (answers, failures);
    }

    // A key that was taken stops the first statement.
    private static bool WroteNothing(IReadOnlyList<Append> appends, IReadOnlyList<AppendResult>? answers) =>
        appends is [{ Stock: null or [], Sketch: null }] && answers is [AppendResult.Already or AppendResult.Overtaken];

    // With the commit itself: nobody hears of what is not kept, and nothing is kept that nobody hears of.
    private static void Call(
        Prepared db,
        DbTransaction transaction,
        IReadOnlyList<AppendResult>?[] answers,
        List<Appending> together
    )
    {
        if (db.Dialect.Call is not { } call || !Recorded(answers).Any())
        {
            return;
        }

        db.Command(call, transaction, "").ExecuteScalar();
        foreach (var hand in Sketched(answers, together))
        {
            db.Command(call, transaction, Changes.Written(ShopTopic.Guides, hand)).ExecuteScalar();
        }
    }

    private static IEnumerable<AppendResult.Recorded> Recorded(IReadOnlyList<AppendResult>?[] answers) =>
        answers.SelectMany(a => a ?? []).OfType<AppendResult.Recorded>();

    // Who wrote a sketch.
    private static IEnumerable<Hand> Sketched(IReadOnlyList<AppendResult>?[] answers, List<Appending> together) =>
        together
            .Where((_, i) => answers[i] is [AppendResult.Recorded, ..])
            .SelectMany(w => w.Appends)
            .Where(a => a.Sketch is not null)
            .Select(a => new Hand(a.By, a.At, a.Id));

    // Prepared like the rest, which the transaction's own methods are not.
    private static void Do(Prepared db, DbTransaction transaction, string sql, bool isNeeded)
    {
        if (isNeeded)
        {
            db.Command(sql, transaction).ExecuteNonQuery();
        }
    }

    // All of them, or the one that is in the way.
    private static IReadOnlyList<AppendResult> RecordAll(
        Prepared db,
        DbTransaction transaction,
        IReadOnlyList<Append> appends,
        ref int? next,
        long position
    )
    {
        var results = new AppendResult[appends.Count];
        for (var i = 0; i < appends.Count; i++)
        {
            var number = appends[i].Order ?? (next = next + 1 ?? NextNumber(db, transaction)).Value;
            results[i] = Record(db, transaction, appends[i], number, position + i + 1);
            if (results[i] is not AppendResult.Recorded)
            {
                return [results[i]];
            }
        }

        return results;
    }

    // The unique keys decide: a doubled id is a retry, a taken sequence means that somebody else was next.
    private static AppendResult Record(Prepared db, DbTransaction transaction, Append append, int number, long position)
    {
        var body = InvoiceRows.Numbered(db, transaction, append.Body);
        var entry = new Entry(number, append.Head + 1, append.Id, append.At, append.By, body, append.Said);
        var kept = Kept(entry, position, append.Print, Before(db, transaction, entry));
        var moves = append.Stock ?? [];
        var recorded = db.Command(
                """
                INSERT INTO entries
                ("Position", "Order", "Sequence", "Id", "Kind", "At", "By", "Body", "Print", "SaidAt", "ClockOff",
                    "Before")
                VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6, @p7, @p8, @p9, @p10, @p11)
                ON CONFLICT DO NOTHING
                """,
                transaction,
                kept.Position,
                kept.Order,
                kept.Sequence,
                kept.Id,
                kept.Kind,
                kept.At,
                kept.By,
                kept.Body,
                kept.Print,
                kept.SaidAt,
                kept.ClockOff,
                kept.Before
            )
            .ExecuteNonQuery();
        if (recorded == 0)
        {
            return Journal.Find(db, append.Id, transaction) is { } earlier
                ? new AppendResult.Already(earlier)
                : new AppendResult.Overtaken();
        }

        var after = append.Project(entry);
        var row = ProjectionRows.Of(after);
        row.Hash = EntryChain.HashOf(kept);
        OrderRows.Change(db, transaction, row);
        InvoiceRows.Put(db, transaction, entry);
        if (append.Sketch is null && ProjectionRows.Suggestion(entry) is { } change)
        {
            db.Command(
                    """
                    INSERT INTO suggestions ("Order", "Sequence", "Code", "Step", "Change", "By", "At", "State")
                    VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6, @p7)
                    ON CONFLICT DO NOTHING
                    """,
                    transaction,
                    number,
                    entry.Sequence,
                    row.Model,
                    (entry.Body as GuideSuggested)?.Step,
                    JsonSerializer.Serialize(change, RevtalJson.Options),
                    entry.By,
                    entry.At.ToUnixTimeMilliseconds(),
                    "Open"
                )
                .ExecuteNonQuery();
        }

        if (!moves.All(m => StockRows.Move(db, transaction, m, entry)))
        {
            // Another order took the part first: nothing of this entry is kept.
            return new AppendResult.Overtaken();
        }

        if (append.NewPart is { } part)
        {
            try
            {
                StockRows.Receive(db, transaction, part.Kind, part.Item, entry);
            }
            catch (DbException e) when (StoreException.IsTaken(e))
            {
                throw PartStore.SerialHere();
            }
        }

        if (append.Sketch is { } sketch)
        {
            var written = db.Command(
                    """
                    INSERT INTO guides ("Code", "Revision", "Yaml", "By", "At") VALUES (@p0, @p1, @p2, @p3, @p4)
                    ON CONFLICT DO NOTHING
                    """,
                    transaction,
                    sketch.Guide.Model.Code,
                    sketch.Revision,
                    sketch.Yaml,
                    entry.By,
                    entry.At.ToUnixTimeMilliseconds()
                )
                .ExecuteNonQuery();
            if (written == 0)
            {
                // Another order wrote the sketch meanwhile: nothing of this entry is kept.
                return new AppendResult.Overtaken();
            }

            GuideNames.Put(db, transaction, sketch.Guide);
        }

        if (
            append.Arrival is { } arrival
            && db.Command(
                    """UPDATE arrivals SET "Order" = @p1 WHERE "Id" = @p0 AND "Order" IS NULL""",
                    transaction,
                    arrival,
                    number
                )
                .ExecuteNonQuery() == 0
        )
        {
            throw RefusedException.Rule(
                "arrival-used",
                "This machine was taken in meanwhile. Look at its open orders."
            );
        }

        foreach (var notice in append.Notices ?? [])
        {
            db.Command(
                    """
                    INSERT INTO notices ("Person", "Order", "Sequence", "Kind", "Text", "By", "At")
                    VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6)
                    """,
                    transaction,
                    notice.For,
                    number,
                    entry.Sequence,
                    notice.Kind.ToString(),
                    notice.Text,
                    entry.By,
                    entry.At.ToUnixTimeMilliseconds()
                )
                .ExecuteNonQuery();
        }

        if (append.Capture is { } capture)
        {
            db.Command(
                    """INSERT INTO captures ("Hash", "Content") VALUES (@p0, @p1) ON CONFLICT DO NOTHING""",
                    transaction,
                    capture.Hash,
                    capture.Content
                )
                .ExecuteNonQuery();
        }

        return new AppendResult.Recorded(new Stored(position, entry, append.Print));
    }

    private static EntryRow Kept(Entry entry, long position, string print, byte[] before) =>
        new()
        {
            Position = position,
            Order = entry.Order,
            Sequence = entry.Sequence,
            Id = entry.Id,
            Kind = EntryKinds.NameOf(entry.Body),
            At = entry.At.ToUnixTimeMilliseconds(),
            By = entry.By,
            Body = EntryKinds.Write(entry.Body),
            Print = print,
            SaidAt = entry.Said?.At.ToUnixTimeMilliseconds(),
            ClockOff = entry.Said?.ClockOff,
            Before = before,
        };

    private static byte[] Before(Prepared db, DbTransaction transaction, Entry entry) =>
        entry.Sequence == 1
            ? EntryChain.None
            : db.Command("""SELECT "Hash" FROM orders WHERE "Number" = @p0""", transaction, entry.Order).ExecuteScalar()
                as byte[]
                ?? throw new InvalidOperationException($"Order {entry.Order} is not chained.");

    private static int NextNumber(Prepared db, DbTransaction transaction) =>
        (int?)db.Number("""SELECT max("Number") FROM orders""", transaction) + 1 ?? FirstNumber;

    private sealed record Appending(IReadOnlyList<Append> Appends, long Came)
    {
        public TaskCompletionSource<IReadOnlyList<AppendResult>> Answer { get; } =
            new(TaskCreationOptions.RunContinuationsAsynchronously);
    }
}
