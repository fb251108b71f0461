using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>A machine of a batch with the guide that it is worked by.</summary>
/// <param name="Guide">The facts of its build.</param>
public sealed record BatchMember(Order Order, Guide Guide);

/// <summary>Machines of a batch that hold the same before the work.</summary>
/// <param name="Holds">“S1 8 GB DDR4-2666, S2 empty; D1 256 GB”; “not measured yet”.</param>
public sealed record BatchLikeness(string Holds, IReadOnlyList<int> Orders);

/// <summary>A kind of part that the plans of a batch want together.</summary>
/// <param name="Wanted">Pieces by all plans.</param>
/// <param name="SetAside">Of them, set aside or fitted already.</param>
/// <param name="Short">Of them, neither set aside nor free on the shelf.</param>
/// <param name="Lack">The machines that go without.</param>
public sealed record BatchPart(
    PartNumber Number,
    string? Name,
    int Wanted,
    int SetAside,
    int Short,
    IReadOnlyList<int> Lack
);

/// <summary>A step that machines of a batch stand at.</summary>
/// <param name="Together">Whether it can be said of all of them at once: nothing is counted or written down in
/// it.</param>
public sealed record BatchStep(Bench.RunStep Step, IReadOnlyList<int> Orders, bool Together);

/// <summary>How many machines of a batch stand at a stage.</summary>
public sealed record BatchStage(Stage Stage, int Count);

/// <summary>What follows from a batch's orders; computed, never stored.</summary>
public static class BatchStanding
{
    /// <summary>How many at each stage, in the order in which they move.</summary>
    public static IReadOnlyList<BatchStage> Stages(IEnumerable<Stage> stages) =>
        [.. stages.CountBy(s => s).OrderBy(s => s.Key).Select(s => new BatchStage(s.Key, s.Value))];

    /// <summary>Where the card of a batch stands: with the machine that has the furthest to go.</summary>
    /// <param name="stages">Of its open machines; at least one.</param>
    public static Stage StandsAt(IEnumerable<BatchStage> stages) =>
        // A parked machine waits for something of its own; the others are not held by it.
        stages.OrderBy(s => s.Stage == Stage.Parked).ThenBy(s => s.Stage).First().Stage;

    /// <summary>What tells the machines apart before the work, the most alike first.</summary>
    public static IReadOnlyList<BatchLikeness> Likenesses(IReadOnlyList<BatchMember> members) =>
        [
            .. members
                .GroupBy(m => Holds(m))
                .OrderByDescending(g => g.Count())
                .ThenBy(g => g.Min(m => m.Order.Number))
                .Select(g => new BatchLikeness(g.Key, [.. g.Select(m => m.Order.Number)])),
        ];

    private static string Holds(BatchMember member)
    {
        if (member.Order.Before is not { Value: var read })
        {
            return "not measured yet";
        }

        var slots = Occupancy.Of(member.Guide, read).Select(s => $"{s.Slot} {s.Module?.ToString() ?? s.Spoken}");
        var drives = DrivePlaces
            .Of(member.Guide, read)
            .Where(d => d.Drive.Size.Bytes > 0)
            .Select(d => $"{d.Bay ?? "a drive"} {d.Drive.Size}");
        return string.Join("; ", new[] { string.Join(", ", slots), string.Join(", ", drives) }.Where(t => t != ""))
            + Phrases.When(member.Order.Variant, v => $"; build {v}");
    }

    /// <summary>
    /// What the plans want from the shelf, together: as an agreement by all of them would set it aside, one after
    /// another, so that a part is counted for one machine only.
    /// </summary>
    /// <param name="items">Parts of the plans' kinds, whatever their state.</param>
    /// <param name="kinds">Their catalogue lines.</param>
    public static IReadOnlyList<BatchPart> Parts(
        IReadOnlyList<Order> orders,
        IReadOnlyList<PartItem> items,
        IReadOnlyList<PartKind> kinds
    )
    {
        var shelf = items;
        var wanted = new List<PartWish>();
        var missing = new List<(int Order, PartNumber Number)>();
        foreach (var order in orders.Where(o => o is { IsOpen: true, Plan: not null }))
        {
            wanted.AddRange(StockEffects.Wishes(order.Plan!.Value));
            if (order.WorkStage > Stage.OnBench)
            {
                continue;
            }

            PartItem[] held = [.. shelf.Where(i => i.Order == order.Number && i.State.IsHeld())];
            // What is fitted already lacks nothing.
            PartItem[] secured = [.. held.Select(i => i with { State = PartState.Reserved })];
            var effect = StockEffects.Of(order, new PlanAgreed("", null), secured, shelf, kinds);
            missing.AddRange(effect.Missing.Select(w => (order.Number, w.Number)));
            shelf = StockEffects.Moved(shelf, effect.Moves);
        }

        return
        [
            .. wanted
                .GroupBy(w => w.Number)
                .Select(g => new BatchPart(
                    g.Key,
                    kinds.FirstOrDefault(k => k.Number == g.Key)?.Name,
                    g.Count(),
                    items.Count(i =>
                        i.Kind == g.Key && i.State.IsHeld() && orders.Any(o => o.Number == i.Order && o.IsOpen)
                    ),
                    missing.Count(m => m.Number == g.Key),
                    [.. missing.Where(m => m.Number == g.Key).Select(m => m.Order).Distinct()]
                )),
        ];
    }

    /// <summary>At which steps the machines on the bench stand, in the order of the run.</summary>
    public static IReadOnlyList<BatchStep> Steps(IReadOnlyList<BatchMember> members) =>
        [
            .. members
                .Where(m => m.Order.Stage is Stage.Agreed or Stage.OnBench && m.Order.RunState.Stop is null)
                .Select(m => (m.Order.Number, Step: m.Order.Sheet(m.Guide)?.Next(m.Order.RunState)))
                .Where(m => m.Step is not null)
                .GroupBy(m => (m.Step!.Id, m.Step.Title))
                .Select(g => (g.First().Step, Orders: g.Select(m => m.Number).ToArray()))
                .OrderBy(s => s.Step!.Part)
                .ThenBy(s => s.Step!.Id.ToString(), StringComparer.Ordinal)
                .Select(s => new BatchStep(s.Step!, s.Orders, IsOneWord(s.Step!))),
        ];

    /// <summary>Proves that a step can be said of several machines at once.</summary>
    /// <exception cref="RefusedException">Something is counted, written down or looked at in it.</exception>
    public static void NeedTogether(BatchMember member, Guides.StepId step)
    {
        if (member.Order.Sheet(member.Guide)?.Steps.FirstOrDefault(s => s.Id == step) is { } own && !IsOneWord(own))
        {
            throw RefusedException.Rule(
                "step-one-by-one",
                $"“{own.Title}” is told machine by machine: something is counted, written down or looked at in it."
            );
        }
    }

    // Nothing is told of it but that it is done.
    private static bool IsOneWord(Bench.RunStep step) =>
        step
            is {
                Id.Verb: not Guides.StepVerb.Look,
                LooseFasteners: 0,
                Records: [],
                Signs: [],
                CopiedFirst: [],
                Part: not (Bench.RunPart.Measure or Bench.RunPart.Start)
            };

    /// <summary>
    /// One quote for all: what is alike stands on one line, and is said once with how many machines it is said of.
    /// </summary>
    /// <param name="quotes">One a machine, in one currency; at least one.</param>
    public static Quote Together(IReadOnlyList<Quote> quotes)
    {
        if (quotes is [var only])
        {
            return only;
        }

        var (net, discount) = (quotes.Sum(q => q.Net), quotes.Sum(q => q.Discount));
        return new Quote(
            [.. Said(quotes.Select(q => q.Work))],
            [.. Said(quotes.Select(q => q.Risks))],
            [
                .. quotes
                    .SelectMany(q => q.Lines)
                    .GroupBy(l => (l.Text, l.Each))
                    .Select(g => new QuoteLine(g.Key.Text, g.Sum(l => l.Count), g.Key.Each, g.Sum(l => l.Sum))),
            ],
            quotes.Sum(q => q.Minutes),
            quotes.Min(q => q.PastRuns),
            quotes.Select(q => q.DiscountPercent).Distinct().ToArray() is [var percent]
                ? percent
                : Math.Round(100 * discount / (net + discount), 2),
            discount,
            net,
            quotes[0].TaxPercent,
            quotes.Sum(q => q.Tax),
            quotes.Sum(q => q.Total),
            quotes[0].Currency,
            [.. quotes.SelectMany(q => q.Unpriced).Distinct()],
            Said(quotes.Select(q => q.Compared ?? [])).ToArray() is { Length: > 0 } compared ? compared : null
        );

        IEnumerable<string> Said(IEnumerable<IReadOnlyList<string>> sentences) =>
            sentences
                .SelectMany(s => s.Distinct())
                .CountBy(s => s)
                .Select(s => s.Value == quotes.Count ? s.Key : $"{s.Value} of {quotes.Count} machines: {s.Key}");
    }

    /// <summary>What a batch came to.</summary>
    /// <param name="machines">Its machines, with what the check of each says; null where there is none.</param>
    public static BatchTotals Totals(IReadOnlyList<(Order Order, Checks.CheckResult? Check)> machines) =>
        new(
            machines.Count,
            Stages(machines.Select(m => m.Order.Stage)),
            machines.Count(m => m.Check is { Verdict: Checks.Verdict.AsPlanned or Checks.Verdict.WithRemarks }),
            machines.Count(m => m.Check is { Verdict: Checks.Verdict.Short or Checks.Verdict.NotSeen }),
            Sum(machines.Select(m => m.Order.InstalledAt(Phase.Before))),
            Sum(machines.Select(m => m.Check?.Installed.After)),
            machines.Sum(m => Ran(m.Order) ?? 0),
            machines.Sum(m => m.Order.Agreed?.Quote?.Total ?? 0)
        );

    /// <summary>How long its run took, in minutes; null before it is through.</summary>
    public static int? Ran(Order order) => order.WorkStage > Stage.OnBench ? order.RunMinutes : null;

    // A sum over machines of which one is not known is not known.
    private static long? Sum(IEnumerable<long?> bytes)
    {
        var all = bytes.ToArray();
        return all.Contains(null) ? null : all.Sum();
    }
}

/// <summary>What a batch came to.</summary>
/// <param name="Good">Machines whose check says as planned, with remarks or without.</param>
/// <param name="Bad">Machines whose check says short or not seen.</param>
/// <param name="Before">Memory of all of them, in bytes; null where one was not measured.</param>
/// <param name="After">The same after the work.</param>
/// <param name="Minutes">On the bench, of those that ran.</param>
/// <param name="Total">Agreed with the customer, with tax.</param>
public sealed record BatchTotals(
    int Machines,
    IReadOnlyList<BatchStage> Stages,
    int Good,
    int Bad,
    long? Before,
    long? After,
    int Minutes,
    decimal Total
);
