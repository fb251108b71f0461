using System.Threading.Channels;

namespace Revtal.Service;

/// <summary>Wakes whoever works beside the requests: soon after something happened, or after a while anyhow.</summary>
/// <param name="look">That while.</param>
internal sealed class Bell(TimeProvider clock, TimeSpan look)
{
    // Many things happen at once: one look is enough for them.
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(500);

    private readonly Channel<bool> rung = Channel.CreateBounded<bool>(
        new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite }
    );

    /// <summary>Something happened; how much does not matter.</summary>
    public void Ring() => rung.Writer.TryWrite(true);

    /// <returns>Whether the while has passed.</returns>
    public async Task<bool> WaitAsync(CancellationToken cancel)
    {
        var passed = false;
        using var timer = clock.CreateTimer(
            _ =>
            {
                passed = true;
                Ring();
            },
            null,
            look,
            Timeout.InfiniteTimeSpan
        );
        await rung.Reader.ReadAsync(cancel);
        await Task.Delay(Pause, clock, cancel);
        return passed;
    }
}
