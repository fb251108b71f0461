using Revtal.Core.Bench;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>A slot that is at fault, and which order found it.</summary>
public sealed record SlotMark(string Slot, int Order, DateTimeOffset At, string Sentence);

/// <summary>What an earlier order left for the machine's next visit.</summary>
public sealed record NotedVisit(int Order, LaterVisit Visit);

/// <summary>What a machine's earlier visits left for this one.</summary>
/// <param name="Noted">What an earlier order left for this visit; null where nothing.</param>
/// <param name="Marks">Slots that a swap test found at fault.</param>
/// <param name="SealBroken">The order in which its warranty seal was broken; null where it was not here.</param>
public sealed record MachineHistory(NotedVisit? Noted, IReadOnlyList<SlotMark> Marks, int? SealBroken)
{
    /// <param name="visits">All of the machine, newest first, each with the guide that it was worked by.</param>
    public static MachineHistory Of(IReadOnlyList<(Order Order, Guide Guide)> visits)
    {
        Order[] orders = [.. visits.Select(v => v.Order)];
        // Only the newest finished visit counts: a later one has done what an earlier one noted, or dropped it.
        var last = orders.FirstOrDefault(o => o.Stage == Stage.HandedBack);
        return new(
            last?.Later is { } later ? new NotedVisit(last.Number, later) : null,
            [.. orders.SelectMany(o => o.SwapResults.SelectMany(r => Marked(o.Number, r)))],
            visits
                .Where(v => v.Guide.Removals.Any(r => r.IsSealed && WasOff(v.Order, r)))
                .Min(v => (int?)v.Order.Number)
        );
    }

    private static bool WasOff(Order order, Removal removal) =>
        order
            .Runs.SelectMany(r => r.Done)
            .Any(d => d.Step == StepId.Open(removal.Id) && d.Deviation != Deviation.Skipped);

    private static IEnumerable<SlotMark> Marked(int order, SwapResult result) =>
        from suspect in result.Conclusion?.Suspects ?? []
        where suspect.Kind is SuspectKind.Slot or SuspectKind.Two
        from slot in suspect.Slots
        select new SlotMark(slot, order, result.At, result.Conclusion!.Sentence);
}
