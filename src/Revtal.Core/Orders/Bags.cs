using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What stands on the bag of a part that came out.</summary>
/// <param name="Code">Said aloud and written by hand: <c>103-S2</c>.</param>
/// <param name="Part">What it is, as far as the before reading knows it.</param>
/// <param name="Mark">What tells it from its like: its serial, or what was written down of it on the bench.</param>
/// <param name="OutAt">When it came out.</param>
/// <param name="OutBy">Who took it out, by id.</param>
/// <param name="Fate">What becomes of it, in words; null while nobody said.</param>
/// <param name="Place">Where the bag lies; null while nobody said.</param>
public sealed record BagLabel(
    string Position,
    string Code,
    string Part,
    string? Mark,
    DateTimeOffset OutAt,
    string OutBy,
    string? Fate,
    string? Place
)
{
    /// <summary>What its QR code holds, and a scanner types: <c>revtal:bag:103-S2</c>.</summary>
    public string Scan => $"revtal:bag:{Code}";
}

/// <summary>The bags of an order's old parts.</summary>
public static class Bags
{
    /// <summary>One for each part that came out for good, in the plan's order.</summary>
    /// <param name="guide">The facts of this build.</param>
    public static IReadOnlyList<BagLabel> Of(Order order, Guide guide) =>
        [.. order.CameOut(guide).Select(part => Of(order, guide, part))];

    private static BagLabel Of(Order order, Guide guide, LeavingPart part)
    {
        var done = order.Runs.SelectMany(r => r.Done).Where(d => d.Deviation != Deviation.Skipped).ToArray();
        var mark =
            done.Where(d => d.Step.Verb == StepVerb.Record)
                .Select(d => d.Occupants?.GetValueOrDefault(part.Position))
                .LastOrDefault(m => m is not null)
            ?? Serial(order.Plan!.Value, part.Position);
        var step = order.TakenOut(guide, part.Position)!;
        return new BagLabel(
            part.Position,
            $"{order.Number}-{part.Position}",
            part.Name,
            mark,
            step.At,
            step.By,
            order.Settled.FirstOrDefault(s => s.Position == part.Position)?.Words,
            order.Bagged.GetValueOrDefault(part.Position)
        );
    }

    private static string? Serial(Plan plan, string position) =>
        (
            plan.Slots.FirstOrDefault(s => s.Slot == position)?.Before.Module?.Serial
            ?? plan.Bay(position)?.Before?.Serial
        )
            is { } serial
            ? $"serial {serial}"
            : null;
}
