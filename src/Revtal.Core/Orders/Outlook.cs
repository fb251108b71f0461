namespace Revtal.Core.Orders;

/// <summary>What is promised of one order, and what stands before it.</summary>
/// <param name="Owner">Whose hands; null for nobody's yet.</param>
/// <param name="MinutesLeft">At the machine, by the guide; null where it is not planned yet.</param>
/// <param name="IsOurs">Whether the bench can go on with it now.</param>
public sealed record PromisedWork(int Number, string? Owner, DateTimeOffset PromisedAt, int? MinutesLeft, bool IsOurs)
{
    /// <summary>Of an order as its card tells it; null where nothing is promised, or it is ready.</summary>
    public static PromisedWork? Of(OrderCard card) =>
        card is { PromisedAt: { } at, Stage: not (Stage.Ready or Stage.HandedBack or Stage.Cancelled) }
            ? new(card.Number, card.Owner, at, card.MinutesLeft, card.Waiting is null)
            : null;
}

/// <summary>A promise that is broken, or will hardly be kept.</summary>
/// <param name="IsLate">Whether its time has passed.</param>
/// <param name="Minutes">By how many minutes, of work without a break.</param>
public sealed record Late(int Number, bool IsLate, int Minutes);

/// <summary>Which promises are broken, and which will be if all goes as the guides say.</summary>
public static class Outlook
{
    /// <summary>
    /// Each pair of hands does what is promised first, without a break: what comes too late even so is told. What
    /// nobody has in hand yet is measured by its own minutes alone.
    /// </summary>
    public static IReadOnlyList<Late> Of(IEnumerable<PromisedWork> works, DateTimeOffset now)
    {
        var late = new List<Late>();
        foreach (var hands in works.GroupBy(w => w.Owner ?? $"nobody's {w.Number}"))
        {
            var before = 0;
            foreach (var work in hands.OrderBy(w => w.PromisedAt).ThenBy(w => w.Number))
            {
                before += work.IsOurs ? work.MinutesLeft ?? 0 : 0;
                var ends = now.AddMinutes(before);
                if (work.PromisedAt <= now)
                {
                    late.Add(new(work.Number, true, Minutes(now - work.PromisedAt)));
                }
                else if (work is { IsOurs: true, MinutesLeft: not null } && ends > work.PromisedAt)
                {
                    late.Add(new(work.Number, false, Minutes(ends - work.PromisedAt)));
                }
            }
        }

        return [.. late.OrderBy(l => l.Number)];
    }

    private static int Minutes(TimeSpan span) => (int)Math.Ceiling(span.TotalMinutes);
}
