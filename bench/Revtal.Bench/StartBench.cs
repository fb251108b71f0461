using System.Diagnostics;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>From starting the process to its first answer, and what it holds when idle, with the demo data.</summary>
internal static class StartBench
{
    public static async Task RunAsync(Report report)
    {
        var folder = Directory.CreateTempSubdirectory("revtal-bench-").FullName;
        IReadOnlyDictionary<string, string> tokens;
        await using (var demo = await ServiceProcess.StartAsync(folder, program: "revtal-demo"))
        {
            // It fills the folder; who is signed in stays so.
            tokens = await Staff.OfDemoAsync(demo.As(null));
        }

        var firsts = new List<double>();
        var resident = 0.0;
        for (var i = 0; i < 5; i++)
        {
            var watch = Stopwatch.StartNew();
            await using var service = await ServiceProcess.StartAsync(
                folder,
                ready: "/api/v1/board",
                patience: 5,
                tokens: tokens
            );
            firsts.Add(watch.Elapsed.TotalSeconds);
            if (i == 4)
            {
                for (var n = 101; n <= 110; n++)
                {
                    await service.As(null).OrderAsync(n);
                }

                await Task.Delay(TimeSpan.FromSeconds(10));
                resident = service.ResidentBytes / (1024.0 * 1024);
            }
        }

        Directory.Delete(folder, recursive: true);
        report.Tell(
            "start to the first board (median of 5)",
            $"{Report.Median(firsts):0.00} s",
            "within 1.0 s",
            Report.Median(firsts) <= 1.0
        );
        report.Tell("resident, idle, demo data", $"{resident:0} MB", "under 130 MB", resident < 130);
    }
}
