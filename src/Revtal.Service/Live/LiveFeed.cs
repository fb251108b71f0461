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
/// <param name="After">The position that they follow.</param>
/// <param name="To">The position of the last.</param>
/// <param name="Events">Server-sent events, UTF-8.</param>
internal sealed record LiveBatch(long After, long To, byte[] Events);

/// <summary>Reads what each commit brought once, and hands it to everyone who listens.</summary>
internal sealed class LiveFeed(Journal journal, JournalWriter writer, ILogger<LiveFeed> log) : BackgroundService
{
    public const int Page = 200;

    // Who falls further behind reads the journal for itself.
    private const int MostWaiting = 64;
    private static readonly TimeSpan AfterFailure = TimeSpan.FromSeconds(1);

    private readonly ConcurrentDictionary<Channel<LiveBatch>, byte> listeners = new();
    private readonly SemaphoreSlim grown = new(0, 1);
    private long position;

    /// <summary>Everything that is committed from now on, until the channel is given back.</summary>
    public Channel<LiveBatch> Listen()
    {
        var channel = Channel.CreateBounded<LiveBatch>(
            new BoundedChannelOptions(MostWaiting) { SingleReader = true, FullMode = BoundedChannelFullMode.DropWrite }
        );
        listeners[channel] = 0;
        return channel;
    }

    public void Leave(Channel<LiveBatch> channel) => listeners.TryRemove(channel, out _);

    /// <summary>The changes after a position, as they are sent; null when there is none.</summary>
    public async Task<LiveBatch?> AfterAsync(long position, CancellationToken cancel)
    {
        var changes = await journal.ChangesAsync(position, Page, cancel);
        return changes.Count == 0 ? null : new LiveBatch(position, changes[^1].Position, Written(changes));
    }

    /// <summary>Before the first request: nothing is committed that it does not hear of.</summary>
    public override Task StartAsync(CancellationToken cancellationToken)
    {
        writer.Committed += _ => Wake();
        position = journal.LastPosition();
        return base.StartAsync(cancellationToken);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                while (await AfterAsync(position, stoppingToken) is { } batch)
                {
                    position = batch.To;
                    foreach (var listener in listeners.Keys)
                    {
                        listener.Writer.TryWrite(batch);
                    }
                }

                await grown.WaitAsync(stoppingToken);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception e)
            {
                log.LogError(e, "What changed could not be read; it is read again");
                await Task.Delay(AfterFailure, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private void Wake()
    {
        try
        {
            grown.Release();
        }
        catch (SemaphoreFullException)
        {
            // Somebody woke it already.
        }
    }

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
