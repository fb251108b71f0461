using System.Net;
using System.Net.Sockets;
using Revtal.Contracts;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>
/// Recording an entry, durable, beside the smallest honest service that inserts a row: the same settings, disk and load
/// generator, in turns.
/// </summary>
internal static class WriteBench
{
    private const int WarmUp = 5;
    private const int Turns = 5;
    private const double Least = 0.5;
    private static readonly TimeSpan Turn = TimeSpan.FromSeconds(2);

    public static async Task RunAsync(Report report)
    {
        await using var service = await ServiceProcess.StartAsync();
        var folder = Directory.CreateTempSubdirectory("revtal-floor-").FullName;
        await CompareAsync(report, service, Path.Combine(folder, "floor.db"), "SQLite", [16, 1]);
        Directory.Delete(folder, recursive: true);
    }

    /// <summary>The same on PostgreSQL, with its commits on disk.</summary>
    public static async Task RunPostgresAsync(Report report)
    {
        using var server = new PostgresServer(durable: true);
        await using var service = await Instances.FirstAsync(server.NewDatabase());
        await CompareAsync(report, service, server.NewDatabase(), "PostgreSQL", [64, 16, 1]);
    }

    private static async Task CompareAsync(
        Report report,
        ServiceProcess service,
        string floorStore,
        string engine,
        int[] loads
    )
    {
        var ines = service.As("ines");
        var orders = new int[512];
        for (var i = 0; i < orders.Length; i++)
        {
            orders[i] = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Tide-gauge office", "stops"))).Order;
        }

        var floor = new Uri($"http://127.0.0.1:{FreePort()}/");
        using var smallest = SmallestService.Start(floor, floorStore);
        foreach (var clients in loads)
        {
            // A service runs all day: both are compiled to the end before they are measured.
            for (var i = 0; i < WarmUp; i++)
            {
                await RateAsync(clients);
                await FloorAsync(clients);
            }

            var rates = new List<(double Ours, double Floor)>();
            for (var i = 0; i < Turns; i++)
            {
                rates.Add((await RateAsync(clients), await FloorAsync(clients)));
            }

            var ratio = Report.Median(rates.Select(r => r.Ours / r.Floor));
            report.Tell(
                $"{engine}: record an entry, {clients} client{(clients == 1 ? "" : "s")}",
                $"{ratio:0.00} of floor ({Report.Median(rates.Select(r => r.Ours)):0}/s : "
                    + $"{Report.Median(rates.Select(r => r.Floor)):0}/s)",
                $"{Least} or more",
                ratio >= Least
            );
        }

        smallest.Kill();
        await smallest.WaitForExitAsync();

        // Each client goes round orders of its own, so that none grows beyond what a bench would write.
        Task<double> RateAsync(int clients) =>
            Load.RateAsync(
                service.Address,
                (c, n) =>
                    Load.Post(
                        service.Address,
                        $"/api/v1/orders/{orders[((c * 8) + (n % 8)) % orders.Length]}/notes",
                        $$"""{"text":"note {{n}} of client {{c}}, in a line of usual length"}""",
                        service.Token("ines")
                    ),
                clients,
                Turn
            );

        Task<double> FloorAsync(int clients) =>
            Load.RateAsync(
                floor,
                (c, n) =>
                    Load.Post(floor, "/rows", $$"""{"text":"note {{n}} of client {{c}}, in a line of usual length"}"""),
                clients,
                Turn
            );
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
