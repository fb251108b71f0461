using System.Diagnostics;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>A hundred machines planned alike at once; the floor is one of them planned by itself.</summary>
internal static class BatchBench
{
    private const int Machines = 100,
        Rounds = 8;

    public static async Task RunAsync(Report report)
    {
        await using var service = await ServiceProcess.StartAsync(
            Directory.CreateTempSubdirectory("revtal-batch-").FullName,
            program: "revtal-demo"
        );
        var mara = service.As("mara");
        var taken = await mara.TakeInBatchAsync(
            new BatchRequest(
                "FJ14",
                "School chemistry lab",
                "slow",
                [.. Enumerable.Range(1, Machines).Select(i => new BatchMachine($"BB-{i}"))]
            )
        );
        var held = new SeenReading(
            Slots: [new SeenSlot("S1", null), new SeenSlot("S2", new MemoryModule(MemorySize.Gigabytes(8)))]
        );
        foreach (var order in taken.Orders)
        {
            await mara.TakeReadingAsync(order.Order, new ReadingRequest(Phase.Before, Seen: held));
        }

        SlotChange[] wish =
        [
            new(
                "S1",
                new MemoryModule(MemorySize.Gigabytes(16), "DDR4", "SO-DIMM", PartNumber: new PartNumber("OS4S-16G"))
            ),
        ];
        var plan = new BatchPlanRequest(wish);
        var (together, shown, floor) = (new List<double>(), new List<double>(), new List<double>());
        for (var i = 0; i < Rounds; i++)
        {
            floor.Add(await TimeAsync(() => mara.SetPlanAsync(taken.Batch, new PlanRequest(wish))));
            shown.Add(await TimeAsync(() => mara.PreviewBatchAsync(taken.Batch, plan)));
            together.Add(await TimeAsync(() => mara.PlanBatchAsync(taken.Batch, plan)));
        }

        var worst = together.Skip(1).Max();
        report.Tell(
            $"a batch of {Machines} planned (slowest of {Rounds - 1})",
            $"{worst:0} ms, {Report.Median(together) / Report.Median(floor):0} times one; what it would lead to "
                + $"{Report.Median(shown):0} ms",
            "under 1000 ms",
            worst < 1000
        );
    }

    private static async Task<double> TimeAsync<T>(Func<Task<T>> action)
    {
        var start = Stopwatch.GetTimestamp();
        await action();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }
}
