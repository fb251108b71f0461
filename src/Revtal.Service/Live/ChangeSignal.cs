namespace Revtal.Service.Live;

/// <summary>
/// Wakes everyone who waits for the journal to grow. It carries no data: who wakes reads the journal.
/// </summary>
public sealed class ChangeSignal
{
    private TaskCompletionSource next = New();

    /// <summary>Completes at the next change; take it before reading, so that none is missed.</summary>
    public Task Next => Volatile.Read(ref next).Task;

    public void Raise() => Interlocked.Exchange(ref next, New()).TrySetResult();

    private static TaskCompletionSource New() => new(TaskCreationOptions.RunContinuationsAsynchronously);
}
