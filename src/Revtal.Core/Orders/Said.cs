namespace Revtal.Core.Orders;

/// <summary>When somebody said what was recorded later, for want of a network.</summary>
/// <param name="At">By the service's clock, as far as it can be told. UTC.</param>
/// <param name="ClockOff">
/// The clock of the screen was set anew meanwhile: the moment is told, but nothing rests on it.
/// </param>
public sealed record Said(DateTimeOffset At, bool ClockOff)
{
    /// <summary>What arrives within it was said just now.</summary>
    public static readonly TimeSpan Soon = TimeSpan.FromSeconds(5);

    /// <summary>How far the clock of a screen may be from the service's; an answer takes its time on the way.</summary>
    public static readonly TimeSpan Tolerated = TimeSpan.FromMinutes(1);

    /// <summary>
    /// The moment at which it was said. What counts is how long it waited, so a clock that is wrong all along does no
    /// harm; one that was set meanwhile shows in what it says now.
    /// </summary>
    /// <param name="said">When it was said, by the sender's clock.</param>
    /// <param name="sent">What the sender's clock, as it was understood then, shows now.</param>
    /// <param name="now">What the service's clock shows now.</param>
    /// <param name="notBefore">It cannot have been said earlier.</param>
    /// <returns>Null where it was said just now.</returns>
    public static Said? Of(DateTimeOffset said, DateTimeOffset sent, DateTimeOffset now, DateTimeOffset notBefore)
    {
        var waited = sent - said;
        var off = (sent - now).Duration() > Tolerated || waited < -Soon || now - waited < notBefore - Tolerated;
        if (waited.Duration() <= Soon && !off)
        {
            return null;
        }

        var at = now - waited;
        return new Said(
            at > now ? now
                : at < notBefore ? notBefore
                : at,
            off
        );
    }
}
