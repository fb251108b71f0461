using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What an order knows of a sketched model beyond the revision that it keeps.</summary>
public static class SketchWork
{
    /// <summary>
    /// The guide by which the order is worked: of a sketch, with what its before reading and its bench told.
    /// </summary>
    public static Guide Drawn(Guide guide, Order order) => guide.IsSketch ? Learn(guide, order) : guide;

    /// <summary>Whether what the order taught is worth a revision now: it was started, accepted, or ends.</summary>
    public static bool Concludes(EntryBody body) =>
        body is MarkedReady or HandedBack or Cancelled or StepConfirmed { Step.Verb: StepVerb.Start };

    /// <summary>
    /// The next revision of a sketch by what was done on an order: what came off and what gave access, signs, traps,
    /// the most that was proved.
    /// </summary>
    /// <param name="newest">The newest revision; a published guide stays as it is.</param>
    public static Guide Revised(Guide newest, Order order)
    {
        if (!newest.IsSketch)
        {
            return newest;
        }

        var learnt = Learn(newest, order);
        return learnt with
        {
            Memory = learnt.Memory with { ConfirmedMax = Proved(learnt.Memory.ConfirmedMax, order) },
            FirstStart = [.. learnt.FirstStart, .. Signs(learnt, order)],
            Traps = [.. learnt.Traps, .. Traps(learnt, order)],
        };
    }

    private static Guide Learn(Guide sketch, Order order)
    {
        var facts = order.Before is { } before ? SketchFacts.Fill(sketch, before.Value) : sketch;
        facts = order.Seen.Aggregate(facts, Sketch.With);
        foreach (var run in order.Runs)
        {
            facts = Reached(run.CameOff.Aggregate(facts, Sketch.With), run);
        }

        return facts;
    }

    // What came off last before a position was said to lie open is what gives access to it.
    private static Guide Reached(Guide sketch, Run run)
    {
        string? off = null;
        foreach (var done in run.Done.Where(d => d.Deviation != Deviation.Skipped))
        {
            if (done.Step.Verb == StepVerb.Open)
            {
                off = done.Step.Subject;
            }
            else if (done.Step.Verb == StepVerb.Uncover)
            {
                sketch = Sketch.Reached(sketch, [done.Step.Subject], off);
            }
        }

        return sketch;
    }

    private static ConfirmedMax? Proved(ConfirmedMax? known, Order order) =>
        order.Proved is not { } size || size < known?.Size ? known
        : size == known?.Size ? known with { Orders = [.. known.Orders.Append(order.Number).Distinct()] }
        : new ConfirmedMax(size, [order.Number]);

    // A sign is known once; what it means is for who knows it.
    private static IEnumerable<FirstStartSign> Signs(Guide guide, Order order) =>
        order
            .Runs.SelectMany(r => r.Found)
            .Where(f => f is { Kind: FindKind.Sign, Text: not null } && StartSign.Of(guide, f.Text).Known is null)
            .DistinctBy(f => f.Text, StringComparer.OrdinalIgnoreCase)
            .Select(f => new FirstStartSign(
                f.Text!,
                null,
                $"seen on order {order.Number}, not yet explained",
                null,
                null
            ));

    private static IEnumerable<Trap> Traps(Guide guide, Order order) =>
        order
            .Runs.SelectMany(r => r.Done)
            // What was seen of this machine is no trap of its model.
            .Where(d => d.Step.Verb != StepVerb.Look && (d.Explanation ?? d.Note) is not null)
            .Select(d => new Trap(d.Step.ToString(), (d.Explanation ?? d.Note)!.ReplaceLineEndings(" ")))
            .Distinct()
            .Where(t => !guide.Traps.Contains(t) && GuideChecker.Stands(guide, t));
}
