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
        var ines = service.As("ines");
        var orders = new int[128];
        for (var i = 0; i < orders.Length; i++)
        {
            orders[i] = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Tide-gauge office", "stops"))).Order;
        }

        var folder = Directory.CreateTempSubdirectory("revtal-floor-").FullName;
        var floor = new Uri($"http://127.0.0.1:{FreePort()}/");
        using var smallest = SmallestService.Start(floor, Path.Combine(folder, "floor.db"));
        foreach (var clients in (int[])[16, 1])
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
                $"record an entry, {clients} client{(clients == 1 ? "" : "s")}",
                $"{ratio:0.00} of floor ({Report.Median(rates.Select(r => r.Ours)):0}/s : "
                    + $"{Report.Median(rates.Select(r => r.Floor)):0}/s)",
                $"{Least} or more",
                ratio >= Least
            );
        }

        smallest.Kill();
        await smallest.WaitForExitAsync();
        Directory.Delete(folder, recursive: true);

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
