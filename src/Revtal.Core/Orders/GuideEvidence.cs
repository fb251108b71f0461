using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>How long runs took that came in by one way.</summary>
/// <param name="Way">What came off, by id, in order.</param>
/// <param name="Median">In minutes.</param>
public sealed record WayMinutes(string Way, int Runs, int Median);

/// <summary>
/// What a shop's orders showed of a model, for another shop: counted, so that no customer and no order is told.
/// </summary>
/// <param name="Runs">Runs that are through.</param>
/// <param name="Starts">Starts after a run.</param>
/// <param name="Signs">What they showed.</param>
/// <param name="Proved">What was proved to work beyond what its maker states; null where nothing was.</param>
/// <param name="ProvedBy">On how many machines.</param>
public sealed record GuideEvidence(
    int Runs,
    IReadOnlyList<WayMinutes> Ways,
    int Starts,
    IReadOnlyList<SignSeen> Signs,
    MemorySize? Proved,
    int ProvedBy
)
{
    /// <param name="ways">What came off in each run, and its minutes.</param>
    public static GuideEvidence Of(
        Guide guide,
        IReadOnlyList<(string Way, int Minutes)> ways,
        SignCounts signs,
        ConfirmedMax? proved
    ) =>
        new(
            ways.Count,
            [
                .. ways.GroupBy(w => w.Way)
                    .OrderByDescending(g => g.Count())
                    .ThenBy(g => g.Key, StringComparer.Ordinal)
                    .Select(g => new WayMinutes(
                        g.Key,
                        g.Count(),
                        g.Select(w => w.Minutes).Order().ElementAt(g.Count() / 2)
                    )),
            ],
            signs.Starts,
            // What the guide does not know was typed by hand: it may name whoever stood beside.
            [
                .. signs
                    .Signs.Where(s => guide.FirstStart.Any(f => f.Sees == s.Sees))
                    .Select(s => new SignSeen(s.Sees, s.Times, s.Passed)),
            ],
            proved?.Size,
            proved?.Orders.Count ?? 0
        );
}

/// <summary>How often starts showed a sign of the guide.</summary>
/// <param name="Passed">In how many of them it then started normally.</param>
public sealed record SignSeen(string Sees, int Times, int Passed);
