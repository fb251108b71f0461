using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>
/// Something that is done with the whole store, while it is done: tells by the clock that somebody is at it, however
/// long a part of it takes, and at the end how it went.
/// </summary>
internal sealed class RunningTask<T> : IDisposable
{
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(2);

    private readonly StoreTasks tasks;
    private readonly string id;
    private readonly TimeProvider clock;
    private readonly ILogger log;
    private readonly ITimer timer;
    private readonly Lock telling = new();
    private bool ended;

    public RunningTask(StoreTasks tasks, string id, T so, TimeProvider clock, ILogger log)
    {
        (this.tasks, this.id, So, this.clock, this.log) = (tasks, id, so, clock, log);
        timer = clock.CreateTimer(_ => Tell(null), null, Beat, Beat);
    }

    /// <summary>How it goes.</summary>
    public T So { get; set; }

    /// <summary>It is over, and this is how it went.</summary>
    public void End(T so)
    {
        So = so;
        Tell(clock.GetUtcNow());
    }

    public void Dispose() => timer.Dispose();

    // Where the store does not answer the task falls silent, which says as much.
    private void Tell(DateTimeOffset? end)
    {
        try
        {
            lock (telling)
            {
                if (!ended)
                {
                    ended = end is not null;
                    tasks.Tell(id, So, clock.GetUtcNow(), end);
                }
            }
        }
        catch (Exception e) when (StoreException.Of(e) is { } store)
        {
            log.LogWarning("How it goes is not kept: {Reason}", store.Message);
        }
    }
}
