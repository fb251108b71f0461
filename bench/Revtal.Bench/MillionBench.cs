using System.Diagnostics;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>
/// A shop of a million orders beside one of ten thousand, on each engine: what people ask of it all day.
/// </summary>
internal static class MillionBench
{
    private const int Few = 10_000,
        Clients = 32;

    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(250),
        Asks = TimeSpan.FromSeconds(15),
        // Until what is asked is compiled.
        WarmsUp = TimeSpan.FromSeconds(12);

    /// <param name="many">Orders of the large shop.</param>
    /// <param name="engine"><c>sqlite</c> or <c>postgres</c>.</param>
    /// <param name="filled">The folder of such a shop that is there already, and stays; none to fill one.</param>
    public static async Task RunAsync(Report report, int many, string engine, string[] filled)
    {
        using var server = engine == "postgres" ? new PostgresServer() : null;
        var few = await MeasureAsync(report, Few, engine, server, null);
        var large = await MeasureAsync(report, many, engine, server, filled is [var there] ? there : null);
        foreach (var (what, took) in large.Times)
        {
            report.Tell(
                $"{engine}: {what}, {many:N0} orders, 32 clients, 99th",
                $"{took:0.0} ms ({few.Times[what]:0.0} ms of {Few:N0})",
                "under 20 ms, within 1.5 times",
                took < 20 && took <= 1.5 * Math.Max(few.Times[what], 5)
            );
        }

        report.Tell(
            $"{engine}: start at {many:N0} orders",
            $"{large.Start:0.00} s ({few.Start:0.00} s)",
            "under 1.5 s",
            large.Start < 1.5
        );
        report.Tell(
            $"{engine}: memory after all of it",
            $"{large.Bytes / 1e6:0} MB ({few.Bytes / 1e6:0} MB)",
            "within 1.3 times",
            large.Bytes <= 1.3 * few.Bytes
        );
    }

    private static async Task<(Dictionary<string, double> Times, double Start, long Bytes)> MeasureAsync(
        Report report,
        int orders,
        string engine,
        PostgresServer? server,
        string? filled
    )
    {
        var folder = filled ?? Directory.CreateTempSubdirectory("revtal-million-").FullName;
        string[] store = server is null ? [] : ["--store", server.NewDatabase()];
        var watch = Stopwatch.StartNew();
        if (filled is null)
        {
            using var fill = ServiceProcess.Launch(folder, "revtal-demo", [.. store, "--fill", $"{orders}"]);
            for (string? line = ""; line is not null && !line.Contains("orders in", StringComparison.Ordinal); )
            {
                line = await fill.StandardOutput.ReadLineAsync();
            }

            var took = watch.Elapsed;
            report.Tell(
                $"{engine}: filled with {orders:N0} orders",
                $"{took.TotalSeconds:0} s",
                "1,000,000 in 20 min",
                took.TotalMinutes < 20
            );
            _ = fill.StandardOutput.ReadToEndAsync();
            using var end = Process.Start("kill", ["-TERM", $"{fill.Id}"]);
            await fill.WaitForExitAsync();
        }

        watch.Restart();
        await using var service = await ServiceProcess.StartAsync(
            folder,
            program: "revtal-demo",
            patience: 5,
            arguments: store
        );
        var start = watch.Elapsed.TotalSeconds;
        // The first day's head counts all of it, once.
        for (var made = false; !made; made = (await service.As("ines").HeadsAsync()).Count > 0)
        {
            await Task.Delay(TimeSpan.FromSeconds(1));
        }

        var token = service.Token("mara");
        var random = new Random(20261128);
        int Any() => random.Next(101, 101 + orders);
        var serials = new List<string>();
        for (var i = 0; i < Clients; i++)
        {
            serials.Add((await service.As("mara").OrderAsync(Any())).Intake.Serial!);
        }

        var asked = new Dictionary<string, Func<string>>
        {
            ["the board"] = () => "board",
            ["an order"] = () => $"orders/{Any()}",
            ["a search by a tag"] = () => "orders?limit=20&text=kelp" + Letters(random.Next(50_021)),
            ["a search by two words of many"] = () => "orders?limit=20&text=ferry%20archive",
            ["a search by two words of many that nobody said together"] = () => "orders?limit=20&text=ferry%20latch",
            ["a machine by its serial"] = () => $"machines/{serials[random.Next(serials.Count)]}",
            ["the parts"] = () => "parts?limit=50",
            ["orders of a stage"] = () => "orders?limit=50&stage=handed-back",
        };
        var times = new Dictionary<string, double>();
        foreach (var (what, path) in asked)
        {
            string Request(int c, int i) => Load.Get(service.Address, $"/api/v1/{path()}", token);
            await Load.LatenciesAsync(service.Address, Request, Clients, TimeSpan.Zero, WarmsUp);
            times[what] = Report.Percentile(
                await Load.LatenciesAsync(service.Address, Request, Clients, Pause, Asks),
                0.99
            );
        }

        var bytes = service.ResidentBytes;
        await service.StopAsync();
        if (filled is null)
        {
            Directory.Delete(folder, recursive: true);
        }

        return (times, start, bytes);

        string Letters(int n) => n < 26 ? $"{(char)('a' + n)}" : Letters(n / 26 - 1) + (char)('a' + n % 26);
    }
}
