using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>One entry to append, with what the order looks like afterwards.</summary>
/// <param name="Order">Null for a take-in: the writer gives the next number.</param>
/// <param name="Head">The head that the decision was made on; 0 for a take-in.</param>
/// <param name="Project">The order's projection after the entry.</param>
/// <param name="Capture">Stored in the same transaction, if given.</param>
public sealed record Append(int? Order, int Head, Guid Id, DateTimeOffset At, string By, EntryBody Body, string Print, Func<Entry, Projection> Project, CaptureRow? Capture = null);

/// <summary>What the projection columns say.</summary>
public sealed record Projection(Order Order, string CardJson);

/// <summary>How an append went. Exactly one of: recorded now, already recorded under this id, somebody else was next.</summary>
public abstract record AppendResult
{
    public sealed record Recorded(Stored Stored) : AppendResult;

    public sealed record Already(Stored Stored) : AppendResult;

    public sealed record Overtaken : AppendResult;
}

/// <summary>
/// The one road into the journal. Appends that wait at the same moment share a transaction, and so a commit to disk; each is answered
/// only after it.
/// </summary>
public sealed class JournalWriter(IDbContextFactory<RevtalDb> databases) : IAsyncDisposable
{
    private const int MostTogether = 128;
    private const int FirstNumber = 101;

    private readonly Channel<Waiting> queue = Channel.CreateBounded<Waiting>(new BoundedChannelOptions(4096) { SingleReader = true });
    private readonly Lock starting = new();
    private Task? loop;

    /// <summary>Raised after each commit, with the last position written.</summary>
    public event Action<long>? Committed;

    /// <summary>Appends, and returns when the entry is on disk.</summary>
    public async Task<AppendResult> AppendAsync(Append append, CancellationToken cancel = default)
    {
        lock (starting)
        {
            loop ??= Task.Run(RunAsync, CancellationToken.None);
        }

        var waiting = new Waiting(append);
        await queue.Writer.WriteAsync(waiting, cancel);
        return await waiting.Answer.Task;
    }

    public async ValueTask DisposeAsync()
    {
        queue.Writer.TryComplete();
        await (loop ?? Task.CompletedTask);
    }

    private async Task RunAsync()
    {
        var together = new List<Waiting>(MostTogether);
        while (await queue.Reader.WaitToReadAsync())
        {
            together.Clear();
            while (together.Count < MostTogether && queue.Reader.TryRead(out var waiting))
            {
                together.Add(waiting);
            }

            await WriteAsync(together);
        }
    }

    private async Task WriteAsync(List<Waiting> together)
    {
        try
        {
            await CommitAsync(together);
        }
        catch (DbUpdateException) when (together.Count > 1)
        {
            // One of them collides with what is stored; alone, each finds its own answer.
            foreach (var waiting in together)
            {
                await WriteAsync([waiting]);
            }
        }
        catch (DbUpdateException e)
        {
            await ExplainAsync(together[0], e);
        }
        catch (Exception e)
        {
            foreach (var waiting in together)
            {
                waiting.Answer.TrySetException(e);
            }
        }
    }

    private async Task CommitAsync(List<Waiting> together)
    {
        await using var db = await databases.CreateDbContextAsync();
        var next = together.Any(w => w.Append.Order is null) ? await NextNumberAsync(db) : 0;
        var written = new List<(Waiting Waiting, EntryRow Row, Entry Entry)>(together.Count);
        var overtaken = new List<Waiting>();
        var touched = new HashSet<int>();
        var captures = new HashSet<string>();
        foreach (var waiting in together)
        {
            var append = waiting.Append;
            var number = append.Order ?? next++;
            if (!touched.Add(number))
            {
                // Decided on the head that another of this round moves.
                overtaken.Add(waiting);
                continue;
            }

            var entry = new Entry(number, append.Head + 1, append.Id, append.At, append.By, append.Body);
            var row = new EntryRow
            {
                Order = number,
                Sequence = entry.Sequence,
                Id = append.Id,
                At = append.At.ToUnixTimeMilliseconds(),
                By = append.By,
                Kind = EntryKinds.NameOf(append.Body),
                Body = EntryKinds.Write(append.Body),
                Print = append.Print,
            };
            db.Entries.Add(row);
            Project(db, append, append.Project(entry));
            if (append.Capture is { } capture && captures.Add(capture.Hash) && !await db.Captures.AnyAsync(c => c.Hash == capture.Hash))
            {
                db.Captures.Add(new CaptureRow { Hash = capture.Hash, Content = capture.Content });
            }

            written.Add((waiting, row, entry));
        }

        await db.SaveChangesAsync();
        foreach (var (waiting, row, entry) in written)
        {
            waiting.Answer.TrySetResult(new AppendResult.Recorded(new Stored(row.Position, entry, row.Print)));
        }

        // Told only now: who is told reloads at once, and must find what overtook it.
        foreach (var waiting in overtaken)
        {
            waiting.Answer.TrySetResult(new AppendResult.Overtaken());
        }

        if (written.Count > 0)
        {
            Committed?.Invoke(written.Max(w => w.Row.Position));
        }
    }

    private static void Project(RevtalDb db, Append append, Projection after)
    {
        var row = ProjectionRows.Of(after);
        if (append.Order is null)
        {
            db.Orders.Add(row);
            return;
        }

        // The update names the head it was decided on; if that has moved, no row matches and the commit fails.
        var tracked = db.Orders.Update(row);
        tracked.Property(o => o.Head).OriginalValue = append.Head;
    }

    private static async Task<int> NextNumberAsync(RevtalDb db) => (await db.Orders.MaxAsync(o => (int?)o.Number) ?? FirstNumber - 1) + 1;

    private async Task ExplainAsync(Waiting waiting, DbUpdateException error)
    {
        try
        {
            await using var db = await databases.CreateDbContextAsync();
            var append = waiting.Append;
            if (await db.Entries.AsNoTracking().FirstOrDefaultAsync(e => e.Id == append.Id) is { } earlier)
            {
                waiting.Answer.TrySetResult(new AppendResult.Already(Journal.Read(earlier)));
            }
            else if (append.Order is null || await db.Orders.AnyAsync(o => o.Number == append.Order && o.Head != append.Head))
            {
                waiting.Answer.TrySetResult(new AppendResult.Overtaken());
            }
            else
            {
                waiting.Answer.TrySetException(error);
            }
        }
        catch (Exception e)
        {
            waiting.Answer.TrySetException(e);
        }
    }

    private sealed record Waiting(Append Append)
    {
        public TaskCompletionSource<AppendResult> Answer { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);
    }
}
