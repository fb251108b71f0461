using System.Diagnostics;
using System.Globalization;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>Ten minutes of damaged captures through every decoder, or as many as REVTAL_FUZZ_MINUTES says.</summary>
internal static class FuzzBench
{
    private static readonly string[] Models = ["FJ14", "NL12", "NM2", "NS13", "PW24", "QT40", "QW80", "TB6"];

    public static void Run(Report report)
    {
        var minutes = double.TryParse(
            Environment.GetEnvironmentVariable("REVTAL_FUZZ_MINUTES"),
            CultureInfo.InvariantCulture,
            out var m
        )
            ? m
            : 10;
        var seeds = CaptureMutations.Seeds(Models.Select(Repository.Guide));
        var seed = Environment.TickCount;
        var random = new Random(seed);
        var watch = Stopwatch.StartNew();
        long captures = 0,
            faults = 0;
        while (watch.Elapsed < TimeSpan.FromMinutes(minutes))
        {
            var files = CaptureMutations.Next(random, seeds);
            if (CaptureMutations.Fault(files) is { } fault && faults++ < 5)
            {
                Console.Error.WriteLine($"seed {seed}, capture {captures}: {fault}");
            }

            captures++;
        }

        report.Tell(
            $"fuzz: {minutes:0.#} min, seed {seed}",
            $"{captures:N0} captures, {faults} faults, {Process.GetCurrentProcess().PeakWorkingSet64 >> 20} MB at most",
            "no fault",
            faults == 0
        );
    }
}
