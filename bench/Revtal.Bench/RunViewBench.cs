using System.Diagnostics;
using System.Globalization;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>The run view in Chromium, driven by <c>tests/EndToEnd/run-view.bench.mjs</c>.</summary>
internal static class RunViewBench
{
    public static async Task RunAsync(Report report)
    {
        var start = new ProcessStartInfo("node", [Repository.At("tests", "EndToEnd", "run-view.bench.mjs")])
        {
            RedirectStandardOutput = true,
        };
        using var process = Process.Start(start)!;
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        var figures = output
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => l.Split(' '))
            .ToDictionary(l => l[0], l => double.Parse(l[1], CultureInfo.InvariantCulture));
        report.Tell(
            "a step confirmed, to its sight on another console (95th)",
            $"{figures["seen95"]:0} ms, {figures["seen95"] / figures["bare95"]:0.0} times a bare change event",
            "under 150 ms",
            figures["seen95"] < 150
        );
        report.Tell(
            "a tap on the run view answered, processor 4 times slower (95th)",
            $"{figures["tap95"]:0} ms",
            "under 100 ms",
            figures["tap95"] < 100
        );
    }
}
