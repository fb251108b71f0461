using System.Diagnostics;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Bench;

/// <summary>
/// The way to 64 positions through 200 removals, each of which may need any before it; beside a plain walk over the
/// same needs.
/// </summary>
internal static class ReachBench
{
    private const int Removals = 200,
        Positions = 64,
        Rounds = 200;

    public static void Run(Report report)
    {
        var random = new Random(7420);
        var guide = Make(random);
        var positions = guide.Memory.Slots.Select(s => s.Id.ToString()).ToArray();
        var (ours, floor) = (new List<double>(), new List<double>());
        for (var i = 0; i < Rounds; i++)
        {
            // Warm, as a service is.
            _ = Reach.To(guide, positions).Count + Walk(guide, positions);
        }

        for (var i = 0; i < Rounds; i++)
        {
            ours.Add(Time(() => Reach.To(guide, positions).Count));
            floor.Add(Time(() => Walk(guide, positions)));
        }

        var worst = Report.Percentile(ours, 0.95);
        report.Tell(
            $"reach: {Removals} removals, {Positions} positions (95th of {Rounds})",
            $"{worst:0.00} ms, {Report.Median(ours) / Report.Median(floor):0.0} times a plain walk",
            "under 5 ms",
            worst < 5
        );
    }

    // The same closure without order: what any answer must at least touch.
    private static int Walk(Guide guide, string[] positions)
    {
        var byId = guide.Removals.ToDictionary(r => r.Id);
        var seen = new HashSet<string>();
        var open = new Stack<string>(positions.Select(p => guide.Slot(p)!.Reach!));
        while (open.TryPop(out var id))
        {
            if (seen.Add(id))
            {
                foreach (var need in byId[id].Needs)
                {
                    open.Push(need);
                }
            }
        }

        return seen.Count;
    }

    private static double Time(Func<int> action)
    {
        var start = Stopwatch.GetTimestamp();
        action();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }

    private static Guide Make(Random random)
    {
        var removals = Enumerable
            .Range(0, Removals)
            .Select(i =>
                Removal.Named($"r{i}", [.. Enumerable.Range(0, i).Where(_ => random.Next(3) == 0).Select(j => $"r{j}")])
            )
            .ToArray();
        var slots = Enumerable
            .Range(0, Positions)
            .Select(i => MemorySlot.Named($"S{i}") with { Reach = $"r{random.Next(Removals)}" })
            .ToArray();
        return new Guide(
            new ModelFacts("Quillon", "Bench", "QB1", "workstation", null, null),
            new MemoryFacts(
                "DDR4",
                "DIMM",
                [3200],
                MemorySize.Gigabytes(512),
                null,
                slots,
                FillOrder.Unsaid with
                {
                    Any = true,
                },
                null,
                null
            ),
            [],
            [],
            removals,
            [],
            null,
            null,
            [],
            []
        );
    }
}
