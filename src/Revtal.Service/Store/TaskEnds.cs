using Revtal.Storage;

namespace Revtal.Service.Store;

internal static class TaskEnds
{
    /// <summary>
    /// Tells how a task ended. Where the store does not answer, the task falls silent instead, which says as much.
    /// </summary>
    public static void End<T>(this StoreTasks tasks, string id, T so, DateTimeOffset now, ILogger log)
    {
        try
        {
            tasks.Tell(id, so, now, now);
        }
        catch (Exception e) when (StoreException.Of(e) is { } store)
        {
            log.LogWarning("How it went is not kept: {Reason}", store.Message);
        }
    }
}
