using System.Diagnostics;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>The command line as a shell starts it, beside a program that does nothing.</summary>
internal static class TerminalBench
{
    private const int Rounds = 60,
        Warm = 5;

    public static async Task RunAsync(Report report)
    {
        await using var service = await ServiceProcess.StartAsync();
        var signIns = Staff.SignInsFile(service);
        string[] signedIn = ["--service", service.Http.BaseAddress!.ToString()];
        var revtal = Repository.At("bin", "revtal");
        var nothing = await MedianAsync("/bin/true", []);
        var board = await MedianAsync(revtal, ["board", "show", .. signedIn], signIns);
        var help = await MedianAsync(revtal, ["--help"]);
        report.Tell("revtal board show, signed in (median)", Words(board), "under 200 ms", board < 200);
        report.Tell("revtal --help (median)", Words(help), "under 40 ms", help < 40);

        string Words(double ms) => $"{ms:0} ms; a program that does nothing {nothing:0.0} ms";
    }

    private static async Task<double> MedianAsync(string program, string[] arguments, string? signIns = null)
    {
        var start = new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true };
        start.Environment["REVTAL_SIGN_INS"] = signIns;
        var times = new List<double>();
        for (var i = 0; i < Rounds; i++)
        {
            var began = Stopwatch.GetTimestamp();
            using var process = Process.Start(start)!;
            await process.StandardOutput.ReadToEndAsync();
            await process.WaitForExitAsync();
            times.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
            if (process.ExitCode != 0)
            {
                throw new InvalidOperationException($"{program} ended with {process.ExitCode}.");
            }
        }

        return Report.Median(times[Warm..]);
    }
}
