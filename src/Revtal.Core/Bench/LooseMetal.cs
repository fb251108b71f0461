using Revtal.Core.Guides;

namespace Revtal.Core.Bench;

/// <summary>
/// Fasteners that came out and went nowhere: however well that is explained, they may lie on the board.
/// </summary>
/// <param name="Removal">The removal's id.</param>
/// <param name="Group">The group of fasteners.</param>
/// <param name="Count">From 1.</param>
/// <param name="Since">When the count at closing did not add up.</param>
public sealed record LooseMetal(string Removal, string Group, int Count, DateTimeOffset Since)
{
    /// <summary>What is lost over these runs, oldest first, and neither found again nor told to be out.</summary>
    public static IReadOnlyList<LooseMetal> Of(IReadOnlyList<RunState> runs)
    {
        var found = runs.SelectMany(r => r.Found.Where(f => IsFoundAgain(f) || WasMissing(r, f)))
            .GroupBy(f => f.Step?.Subject ?? "")
            .ToDictionary(g => g.Key, g => g.Count());
        var isOut = runs.SelectMany(r => r.Waivers)
            .Where(w => w.Gate == Gate.LooseMetal)
            .Max(w => (DateTimeOffset?)w.At);
        return
        [
            .. runs.SelectMany(Lost)
                .GroupBy(l => (l.Removal, l.Group))
                .Select(g => new LooseMetal(g.Key.Removal, g.Key.Group, g.Sum(l => l.Count), g.Max(l => l.Since)))
                .Select(l => l with { Count = l.Count - Taken(l) })
                .Where(l => l.Count > 0 && !(isOut >= l.Since)),
        ];

        // What was missing on arrival, or was found again, is not in the machine.
        int Taken(LooseMetal lost)
        {
            var take = Math.Min(Math.Max(lost.Count, 0), found.GetValueOrDefault(lost.Removal));
            found[lost.Removal] = found.GetValueOrDefault(lost.Removal) - take;
            return take;
        }
    }

    /// <summary>
    /// Holes of a removal that were empty on arrival, though its opening was counted as the guide has it.
    /// </summary>
    public static int MissingOnArrival(RunState run, string removal) =>
        run.Found.Count(f => f.Step?.Subject == removal && WasMissing(run, f));

    // A count that was explained at opening knows of it already.
    private static bool WasMissing(RunState run, BenchFind find) =>
        find is { Kind: FindKind.MissingFastener, Step: { } step }
        && run.Confirmed(StepId.Open(step.Subject)) is { Explanation: null } open
        && find.At >= open.At;

    private static bool IsFoundAgain(BenchFind find) => find is { Kind: FindKind.LostFastener, Step: not null };

    // Less than nothing where a later run put more back than came out: that one was found.
    private static IEnumerable<LooseMetal> Lost(RunState run) =>
        from back in run.Done
        where back.Step.Verb == StepVerb.Close && back.Deviation != Deviation.Skipped
        let open = run.Confirmed(StepId.Open(back.Step.Subject))
        where open is not null
        from kind in Groups(open, back)
        select new LooseMetal(back.Step.Subject, kind, Counted(open, kind) - Counted(back, kind), back.At);

    private static IEnumerable<string> Groups(StepConfirmation open, StepConfirmation back) =>
        open.Groups is { } groups && back.Groups is { } backs ? groups.Keys.Union(backs.Keys) : [""];

    // Early records tell one number a removal.
    private static int Counted(StepConfirmation said, string group) =>
        group.Length == 0 ? said.Fasteners ?? 0 : said.Groups!.GetValueOrDefault(group);
}
