using System.Buffers;
using System.Collections.Concurrent;
using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Threading.Channels;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Storage;

namespace Revtal.Service.Live;

/// <summary>Some changes as they are sent.</summary>
/// <param name="After">The position that they follow; null for what is not of the journal.</param>
/// <param name="To">The position of the last.</param>
/// <param name="Events">Server-sent events, UTF-8.</param>
internal sealed record LiveBatch(long? After, long To, byte[] Events);

/// <summary>Who listens: what waits for it, and whether there was something that it had no room for.</summary>
internal sealed class Listener
{
    // Who falls further behind reads the journal for itself.
    private const int MostWaiting = 64;
    private readonly Channel<LiveBatch> waiting = Channel.CreateBounded<LiveBatch>(
        new BoundedChannelOptions(MostWaiting) { SingleReader = true }
    );
    private int missed;

    public ChannelReader<LiveBatch> Batches => waiting.Reader;

    public void Hand(LiveBatch batch)
    {
        if (!waiting.Writer.TryWrite(batch))
        {
            Volatile.Write(ref missed, 1);
        }
    }

    /// <summary>Whether something was missed since this was asked last.</summary>
    public bool HasMissed() => Interlocked.Exchange(ref missed, 0) == 1;
}

/// <summary>
/// Writes down once what the commits of a moment brought, and hands it to everyone who listens. The moment is for
/// whoever recorded: the answer goes out before a thousand screens are told.
/// </summary>
internal sealed class LiveFeed(Journal journal, Changes changes, TimeProvider clock) : IHostedService
{
    public const int Page = 200;

    /// <summary>How many may listen by one sign-in, and at all.</summary>
    public const int MostOfOne = 100,
        MostAtAll = 5_000;

    // Far less than anybody sees, far more than an answer takes.
    private static readonly TimeSpan Moment = TimeSpan.FromMilliseconds(15);

    private readonly ConcurrentDictionary<Listener, string> listeners = new();
    private readonly Channel<LiveBatch> toTell = Channel.CreateUnbounded<LiveBatch>(
        new UnboundedChannelOptions { SingleReader = true }
    );
    private Task telling = Task.CompletedTask;
    private long position;

    public int Listeners => listeners.Count;

    /// <summary>The last position that listeners are told of.</summary>
    public long Position => Interlocked.Read(ref position);

    /// <summary>Everything that is committed from now on, until the listener leaves.</summary>
    /// <param name="session">Whose sign-in it is.</param>
    /// <returns>Null where too many listen already.</returns>
    public Listener? Listen(string session)
    {
        if (listeners.Count >= MostAtAll || listeners.Count(l => l.Value == session) >= MostOfOne)
        {
            return null;
        }

        var listener = new Listener();
        listeners[listener] = session;
        return listener;
    }

    public void Leave(Listener listener) => listeners.TryRemove(listener, out _);

    /// <summary>The changes after a position, as they are sent; null when there is none.</summary>
    public async Task<LiveBatch?> AfterAsync(long position, CancellationToken cancel)
    {
        var changes = await journal.ChangesAsync(position, Page, cancel);
        return changes.Count == 0 ? null : new LiveBatch(position, changes[^1].Position, Written(changes));
    }

    /// <summary>Before the first request: nothing is committed that it does not hear of.</summary>
    public Task StartAsync(CancellationToken cancellationToken)
    {
        position = journal.LastPosition();
        changes.Recorded += Commit;
        changes.Shop += Change;
        telling = TellAllAsync();
        return Task.CompletedTask;
    }

    public Task StopAsync(CancellationToken cancellationToken)
    {
        changes.Recorded -= Commit;
        changes.Shop -= Change;
        toTell.Writer.TryComplete();
        return telling;
    }

    /// <summary>A change of the shop as it is sent.</summary>
    public static byte[] Written(ShopChange change) => Written("shop", change);

    /// <summary>Tells who has an order open now.</summary>
    public void Tell(HereView here)
    {
        if (!listeners.IsEmpty)
        {
            Tell(new LiveBatch(null, 0, Written("here", here)));
        }
    }

    private static byte[] Written<T>(string type, T told) =>
        Encoding.UTF8.GetBytes($"event: {type}\ndata: {JsonSerializer.Serialize(told, RevtalJson.Options)}\n\n");

    // The writer calls commit after commit, so positions follow one another; who came between finds a gap and reads the
    // journal.
    private void Commit(IReadOnlyList<Changed> changes)
    {
        var after = position;
        position = changes[^1].Position;
        if (!listeners.IsEmpty)
        {
            Tell(new LiveBatch(after, position, Written(changes)));
        }
    }

    private void Change(ShopTopic? topic, Hand? hand)
    {
        if (!listeners.IsEmpty)
        {
            Tell(new LiveBatch(null, 0, Written(new ShopChange(topic, hand?.At ?? clock.GetUtcNow(), hand?.By))));
        }
    }

    private void Tell(LiveBatch batch) => toTell.Writer.TryWrite(batch);

    private async Task TellAllAsync()
    {
        while (await toTell.Reader.WaitToReadAsync())
        {
            await Task.Delay(Moment);
            var batches = new List<LiveBatch>();
            while (toTell.Reader.TryRead(out var batch))
            {
                batches.Add(batch);
            }

            foreach (var batch in Together(batches))
            {
                foreach (var (listener, _) in listeners)
                {
                    listener.Hand(batch);
                }
            }
        }
    }

    // What is of the journal apart from what is not: who has seen the one already has not heard the other.
    private static IEnumerable<LiveBatch> Together(List<LiveBatch> batches) =>
        batches
            .GroupBy(b => b.After is null)
            .Select(g => new LiveBatch(g.First().After, g.Last().To, [.. g.SelectMany(b => b.Events)]));

    private static byte[] Written(IReadOnlyList<Changed> changes)
    {
        var events = new ArrayBufferWriter<byte>();
        foreach (var c in changes)
        {
            var change = new Change(c.Position, c.Order, c.Sequence, c.Kind, c.At, c.By);
            Encoding.UTF8.GetBytes(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"id: {c.Position}\ndata: {JsonSerializer.Serialize(change, RevtalJson.Options)}\n\n"
                ),
                events
            );
        }

        return events.WrittenSpan.ToArray();
    }
}
