namespace Revtal.Service;

/// <summary>
/// The time of day, which never runs backwards: when the system's clock is set back, this one goes on from where it
/// was, at the pace of the machine. So no entry is older than the one before it, no code or link that ran out opens
/// again, and nothing that cools has to cool twice.
/// </summary>
public sealed class SteadyClock(TimeProvider system) : TimeProvider
{
    private readonly Lock turning = new();
    private DateTimeOffset last = DateTimeOffset.MinValue;
    private long stamp = system.GetTimestamp();

    public override TimeZoneInfo LocalTimeZone => system.LocalTimeZone;

    public override long TimestampFrequency => system.TimestampFrequency;

    public override long GetTimestamp() => system.GetTimestamp();

    public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period) =>
        system.CreateTimer(callback, state, dueTime, period);

    /// <summary>It was this late already, when something was written down.</summary>
    public void NotBefore(DateTimeOffset moment)
    {
        lock (turning)
        {
            last = Later(GetUtcNow(), moment);
        }
    }

    public override DateTimeOffset GetUtcNow()
    {
        lock (turning)
        {
            var now = system.GetTimestamp();
            var passed = Math.Max(0, system.GetElapsedTime(stamp, now).Ticks);
            last =
                last == DateTimeOffset.MinValue ? system.GetUtcNow() : Later(system.GetUtcNow(), last.AddTicks(passed));
            stamp = now;
            return last;
        }
    }

    private static DateTimeOffset Later(DateTimeOffset a, DateTimeOffset b) => a > b ? a : b;
}
