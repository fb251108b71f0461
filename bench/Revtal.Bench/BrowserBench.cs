using System.Diagnostics;
using System.Globalization;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>The console in Chromium, driven by the scripts <c>tests/EndToEnd/*.bench.mjs</c>.</summary>
internal static class BrowserBench
{
    public static async Task LoadPlotAsync(Report report)
    {
        var figures = await FiguresAsync("load-plot");
        report.Tell(
            "a load of an hour drawn, from the press to its last line (median, 95th)",
            $"{figures["median"]:0} ms, {figures["drawn95"]:0} ms",
            "under 100 ms (median)",
            figures["median"] < 100
        );
    }

    public static async Task RunViewAsync(Report report)
    {
        var figures = await FiguresAsync("run-view");
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
        report.Tell(
            "the run view opened without a network, processor 4 times slower (median)",
            $"{figures["offline"]:0} ms, {figures["offline"] - figures["page"]:0} after its page",
            "under 1,000 ms",
            figures["offline"] < 1000
        );
    }

    public static async Task TabletAsync(Report report)
    {
        var figures = await FiguresAsync("tablet");
        report.Tell(
            "other hands at a bench tablet, from the badge to the run view, processor 4 times slower (95th)",
            $"{figures["hands95"]:0} ms",
            "under 2,000 ms",
            figures["hands95"] < 2000
        );
    }

    // A script tells a figure a line: its name and its number.
    private static async Task<IReadOnlyDictionary<string, double>> FiguresAsync(string script)
    {
        var start = new ProcessStartInfo("node", [Repository.At("tests", "EndToEnd", $"{script}.bench.mjs")])
        {
            RedirectStandardOutput = true,
        };
        using var process = Process.Start(start)!;
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return output
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => l.Split(' '))
            .ToDictionary(l => l[0], l => double.Parse(l[1], CultureInfo.InvariantCulture));
    }
}
