using Revtal.Core.Bench;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>The search for what is at fault begins.</summary>
public sealed record SwapTestBegun(SwapSetup Setup) : EntryBody
{
    public override OrderAct Act => OrderAct.BeginSwapTest;

    public override string Line(Guide? guide) =>
        $"Swap test begun: {Phrases.Counted(Setup.Modules.Count, "module", "modules")}, {Setup.First.Spoken}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.Checking,
            Swap = new SwapProgress(Setup, [], order.Stage),
        };
}

/// <summary>An arrangement was tried.</summary>
/// <param name="Counts">Fasteners out and back, where it was closed for the start.</param>
/// <param name="Explanation">Why fewer went back than came out.</param>
public sealed record SwapTried(SwapTrial Trial, IReadOnlyList<SwapCount>? Counts = null, string? Explanation = null)
    : EntryBody
{
    public override OrderAct Act => OrderAct.TrySwap;

    public override string Line(Guide? guide) =>
        $"Swap test: {string.Join(", ", Trial.Places.Select(Place))}"
        + $"{(Trial.Defaults ? ", settings at their defaults" : "")}; {Trial.Outcome.Spoken}"
        + SwapRules.Told(Counts, Explanation, guide);

    internal override Order Apply(Order order, Entry entry) =>
        order.Counting(Counts, entry) with
        {
            Swap = new SwapProgress(order.Swap!.Setup, order.Swap.Trials.Add(Trial), order.Swap.From),
        };

    private static string Place(SwapPlace p) => p.Module == p.Slot ? p.Slot : $"{p.Slot} from {p.Module}";
}

/// <summary>The search ended.</summary>
/// <param name="Conclusion">Null where it was given up.</param>
/// <param name="Counts">Fasteners out and back, where it lay open until now.</param>
/// <param name="Explanation">Why fewer went back than came out.</param>
public sealed record SwapTestEnded(
    SwapConclusion? Conclusion,
    string? Note,
    IReadOnlyList<SwapCount>? Counts = null,
    string? Explanation = null
) : EntryBody
{
    public override OrderAct Act => OrderAct.EndSwapTest;

    public override string Line(Guide? guide) =>
        (Conclusion is { } c ? $"Swap test: {c.Sentence} {c.Do}" : "Swap test given up")
        + Phrases.Added(Note)
        + SwapRules.Told(Counts, Explanation, guide);

    // Early journals hold ends of swap tests on parked orders: those stay parked, with their reason.
    internal override Order Apply(Order order, Entry entry) =>
        order.Counting(Counts, entry).Standing(order.Swap!.From) with
        {
            Swap = null,
            SwapResults = order.SwapResults.Add(
                new(entry.Sequence, Conclusion, Note, order.Swap.Trials.Count, entry.By, entry.At)
            ),
        };
}

/// <summary>
/// The swap test. Each rule gives the entry to append, or refuses with the reason and the way on.
/// </summary>
public static class SwapRules
{
    /// <summary>The search for what is at fault begins, from what the last start showed.</summary>
    /// <param name="seen">
    /// Null: as the last reading has it, or, where a fault came back while it was watched, that it does not run.
    /// </param>
    public static SwapTestBegun BeginSwapTest(Order order, Guide guide, SwapOutcome? seen)
    {
        seen ??= order.CameBack is { } watch ? new SwapOutcome(false, null, null, watch.Text) : null;
        var check = order.Check(guide);
        var rows = order
            .Plan!.Value.Slots.Where(s => s.Module is not null && guide.Slot(s.Slot) is { Soldered: false })
            .ToArray();
        if (rows.Length is 0 or > SwapTest.Most)
        {
            throw RefusedException.Rule(
                "swap-test-size",
                $"A swap test takes one to {SwapTest.Most} modules that can be moved; this plan has {rows.Length}."
            );
        }

        var modules = rows.Select(s => new SwapModule(s.Slot, s.Module!, s.Use == SlotUse.Fit)).ToArray();
        var first = seen is null ? Shown(check, modules) : Cleaned(seen, guide);
        var all = first.Slots is { } slots
            ? modules.All(m => slots.Contains(m.Home))
            : first.Seen?.Bytes >= modules.Sum(m => m.Module.Size.Bytes);
        if (first.Started && (all || first is { Slots: null, Seen: null }))
        {
            throw RefusedException.Rule(
                "nothing-short",
                "Every module is seen: there is nothing to search for. Say what is not seen, or that it does not start."
            );
        }

        var reseated = order.Runs.Where(r => !r.Mends).SelectMany(r => r.Reseat).ToHashSet();
        return new SwapTestBegun(
            new SwapSetup(
                modules,
                [.. guide.Memory.Slots.Where(s => !s.Soldered).Select(s => s.Id)],
                Preferred(guide.Memory, modules.Length),
                first,
                reseated.Count == 0,
                Reseated(first, modules, reseated),
                [.. guide.Memory.NeverEmpty.Where(id => guide.Slot(id) is { Soldered: false })],
                [
                    .. guide
                        .Memory.Slots.Where(s => !s.Soldered)
                        .GroupBy(s => s.Channel, s => s.Id)
                        .Where(c => c.Count() > 1)
                        .Select(c => (IReadOnlyList<string>)[.. c]),
                ],
                SwapWay.Of(guide, [.. modules.Select(m => m.Home)], order.WentBack)
            )
        );
    }

    // Soldered memory is filled in any case, and is no part of the search.
    private static Dictionary<int, IReadOnlyList<string>> Preferred(MemoryFacts memory, int most)
    {
        var soldered = memory.Slots.Where(s => s.Soldered).Select(s => s.Id).ToArray();
        return Enumerable
            .Range(1, Math.Max(0, most - 1))
            .Select(n => (n, Wish: Population.Wanted(memory, n + soldered.Length)))
            .Where(p => p.Wish is not null)
            .ToDictionary(
                p => p.n,
                p => (IReadOnlyList<string>)[.. p.Wish!.Filled.Concat(p.Wish.Rest).Except(soldered).Take(p.n)]
            );
    }

    /// <summary>The arrangement was started, and showed this.</summary>
    /// <param name="places">Null for the arrangement that was asked for.</param>
    /// <param name="isolated">Power was off the board before hands went in.</param>
    /// <param name="defaults">The firmware's settings were put to their defaults; null as it was asked for.</param>
    /// <param name="back">Fasteners that went back, by removal, where it was closed for the start.</param>
    /// <param name="explanation">Why fewer went back than came out.</param>
    public static SwapTried Try(
        Order order,
        Guide guide,
        IReadOnlyList<SwapPlace>? places,
        SwapOutcome outcome,
        bool isolated,
        bool? defaults = null,
        IReadOnlyDictionary<string, int>? back = null,
        string? explanation = null
    )
    {
        var swap = order.Swap!;
        if (order.RunState.Loose is { Count: > 0 } loose)
        {
            throw RefusedException.Rule(
                "loose-metal",
                $"A fastener of the {guide.TitleOf(loose[0].Removal)} did not go back, and may lie on the board: no "
                    + "power before that. Record it as found (the lost fastener), or give the swap test up."
            );
        }

        if (!isolated && (places is not null || swap.State.HandsIn))
        {
            throw RefusedException.Rule(
                "not-isolated",
                "Say that power was off the board before hands went in: off, unplugged, any battery out."
            );
        }

        var tried =
            places
            ?? swap.State.Next
            ?? throw RefusedException.Rule("swap-test-done", $"{swap.State.Conclusion?.Sentence} End the swap test.");
        if (
            tried.Count == 0
            || tried.DistinctBy(p => p.Slot).Count() < tried.Count
            || tried.DistinctBy(p => p.Module).Count() < tried.Count
            || tried.Any(p => !swap.Setup.Slots.Contains(p.Slot) || swap.Setup.Modules.All(m => m.Home != p.Module))
        )
        {
            throw RefusedException.Invalid(
                "arrangement-impossible",
                $"An arrangement puts each module once: slots {string.Join(", ", swap.Setup.Slots)}, modules by the "
                    + $"slot they came from, {string.Join(", ", swap.Setup.Modules.Select(m => m.Home))}."
            );
        }

        var told = Cleaned(outcome, guide);
        return told.Slots?.Except(tried.Select(p => p.Slot)).FirstOrDefault() is { } strange
            ? throw RefusedException.Invalid(
                "seen-in-empty-slot",
                $"{strange} holds no module in this arrangement, so none can be seen there."
            )
            : new SwapTried(
                new SwapTrial(tried, told, defaults ?? (places is null && swap.State.Defaults)),
                Counted(swap.State.Counts, back, explanation, guide),
                Words.Text("The explanation", explanation)
            );
    }

    // What came out goes back before power, and is counted by hand.
    private static IReadOnlyList<SwapCount>? Counted(
        IReadOnlyDictionary<string, int> cameOut,
        IReadOnlyDictionary<string, int>? back,
        string? explanation,
        Guide guide
    )
    {
        if (back?.Keys.FirstOrDefault(id => !cameOut.ContainsKey(id)) is { } strange)
        {
            throw RefusedException.Invalid("no-fasteners-here", $"Nothing of “{strange}” is to be counted back now.");
        }

        if (cameOut.Keys.FirstOrDefault(id => back?.ContainsKey(id) != true) is { } uncounted)
        {
            throw RefusedException.Invalid(
                "count-missing",
                $"Count what went back into the {guide.TitleOf(uncounted)}: {cameOut[uncounted]} came out."
            );
        }

        SwapCount[] counts = [.. cameOut.Select(c => new SwapCount(c.Key, c.Value, back![c.Key]))];
        return counts.FirstOrDefault(c => c.Back != c.Out) is { } off && string.IsNullOrWhiteSpace(explanation)
                ? throw RefusedException.Rule(
                    "tally-open",
                    $"{off.Out} out, {off.Back} back into the {guide.TitleOf(off.Removal)}. Look for it before power; "
                        + "else say with an explanation where it went."
                )
            : counts.Length > 0 ? counts
            : null;
    }

    internal static string Told(IReadOnlyList<SwapCount>? counts, string? explanation, Guide? guide)
    {
        return counts is null ? "" : $" ({Phrases.Listed(counts.Select(Back))}{Phrases.Added(explanation)})";

        string Back(SwapCount c) => $"{c.Back} of {c.Out} back into the {guide?.TitleOf(c.Removal) ?? c.Removal}";
    }

    /// <summary>The search ends: with its conclusion, or given up with a reason.</summary>
    /// <param name="back">Fasteners that went back, by removal, where it lay open until now.</param>
    /// <param name="explanation">Why fewer went back than came out.</param>
    public static SwapTestEnded EndSwapTest(
        Order order,
        Guide guide,
        string? note,
        IReadOnlyDictionary<string, int>? back = null,
        string? explanation = null
    )
    {
        var swap = order.Swap!;
        return new SwapTestEnded(
            swap.State.Conclusion,
            swap.State.Conclusion is null
                ? Words.RequiredText("Why it is given up", note)
                : Words.Text("The note", note),
            Counted(swap.LeftOpen, back, explanation, guide),
            Words.Text("The explanation", explanation)
        );
    }

    // All that may be badly seated was out and in already.
    private static bool Reseated(SwapOutcome first, SwapModule[] modules, HashSet<string> reseated) =>
        modules
            .Select(m => m.Home)
            .Where(h => first is { Started: false } or { Slots: null } || !first.Slots.Contains(h))
            .All(reseated.Contains);

    private static SwapOutcome Shown(CheckResult? check, SwapModule[] modules) =>
        check is null
            ? throw RefusedException.Rule(
                "nothing-seen",
                "No reading tells what is seen. Say which slots are seen, or that it does not start."
            )
        : check.Rows.All(r => r.After.Known || modules.All(m => m.Home != r.Slot))
            ? new SwapOutcome(
                true,
                [
                    .. check
                        .Rows.Where(r => r.After.Module is not null && modules.Any(m => m.Home == r.Slot))
                        .Select(r => r.Slot),
                ],
                check.Installed.After is { } seen ? new(seen) : null
            )
        : new SwapOutcome(true, null, check.Installed.After is { } total ? new(total) : null);

    private static SwapOutcome Cleaned(SwapOutcome outcome, Guide guide)
    {
        foreach (var slot in outcome.Slots ?? [])
        {
            guide.NeedSlot(slot);
        }

        return outcome with
        {
            Sign = Words.Line("The sign", outcome.Sign),
            Slots = outcome.Started ? outcome.Slots : null,
            Seen = outcome.Started ? outcome.Seen : null,
        };
    }
}
