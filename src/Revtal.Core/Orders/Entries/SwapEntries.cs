using Revtal.Core.Bench;
using Revtal.Core.Guides;

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
public sealed record SwapTried(SwapTrial Trial) : EntryBody
{
    public override OrderAct Act => OrderAct.TrySwap;

    public override string Line(Guide? guide) =>
        $"Swap test: {string.Join(", ", Trial.Places.Select(Place))}; {Trial.Outcome.Spoken}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Swap = new SwapProgress(order.Swap!.Setup, order.Swap.Trials.Add(Trial), order.Swap.From),
        };

    private static string Place(SwapPlace p) => p.Module == p.Slot ? p.Slot : $"{p.Slot} from {p.Module}";
}

/// <summary>The search ended.</summary>
/// <param name="Conclusion">Null where it was given up.</param>
public sealed record SwapTestEnded(SwapConclusion? Conclusion, string? Note) : EntryBody
{
    public override OrderAct Act => OrderAct.EndSwapTest;

    public override string Line(Guide? guide) =>
        (Conclusion is { } c ? $"Swap test: {c.Sentence} {c.Do}" : "Swap test given up") + Phrases.Added(Note);

    // Early journals hold ends of swap tests on parked orders: those stay parked, with their reason.
    internal override Order Apply(Order order, Entry entry) =>
        order.Standing(order.Swap!.From) with
        {
            Swap = null,
            SwapResults = order.SwapResults.Add(
                new(entry.Sequence, Conclusion, Note, order.Swap.Trials.Count, entry.By, entry.At)
            ),
        };
}
