using System.Collections.Concurrent;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>Killed under sixteen writers, again and again: what was acknowledged is there, once.</summary>
internal static class KillsBench
{
    private const int Writers = 16;

    public static async Task RunAsync(Report report, int kills, string engine)
    {
        using var server = engine == "postgres" ? new PostgresServer() : null;
        var folder = Directory.CreateTempSubdirectory("revtal-kills-").FullName;
        string[] store = ["--rate", "0", .. server is null ? [] : (string[])["--store", server.NewDatabase()]];
        await Staff.CopyToAsync(folder);
        IReadOnlyDictionary<string, string>? tokens = server is null ? null : new Dictionary<string, string>();
        var told = new ConcurrentBag<(int Order, string Text)>();
        var (random, orders) = (new Random(20261128), new List<int>());
        for (var kill = 0; kill <= kills; kill++)
        {
            await using var service = await ServiceProcess.StartAsync(folder, arguments: store, tokens: tokens);
            if (tokens is { Count: 0 })
            {
                await service.SetUpAsync();
                await service
                    .As("ines")
                    .PublishGuideAsync(await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml")));
                tokens = service.Tokens;
            }

            var ines = service.As("ines");
            if (kill == kills)
            {
                await TellAsync(report, engine, kills, ines, orders, told);
                break;
            }

            if (kill % 20 == 0)
            {
                orders.Clear();
                for (var i = 0; i < Writers; i++)
                {
                    orders.Add((await ines.TakeInAsync(new TakeInRequest("FJ14", "Ferry office", "slow"))).Order);
                }
            }

            using var over = new CancellationTokenSource();
            var writing = orders
                .Select((order, w) => WriteAsync(ines, order, $"{kill}.{w}", told, over.Token))
                .ToList();
            await Task.Delay(random.Next(20, 400));
            await service.KillAsync();
            await over.CancelAsync();
            await Task.WhenAll(writing);
        }

        Directory.Delete(folder, recursive: true);
    }

    private static async Task TellAsync(
        Report report,
        string engine,
        int kills,
        RevtalClient ines,
        List<int> orders,
        ConcurrentBag<(int Order, string Text)> told
    )
    {
        var (lost, twice) = (0, 0);
        foreach (var own in told.GroupBy(t => t.Order, t => t.Text))
        {
            var there = (await ines.OrderAsync(own.Key)).Journal.CountBy(l => l.Text).ToDictionary();
            lost += own.Count(t => !there.ContainsKey(t));
            twice += there.Values.Sum(n => n - 1);
        }

        report.Tell(
            $"{engine}: killed {kills} times under {Writers} writers",
            $"{told.Count:N0} acknowledged, {lost} lost, {twice} twice",
            "none lost, none twice",
            lost == 0 && twice == 0 && told.Count > kills
        );
    }

    // One note after another until the service is gone.
    private static async Task WriteAsync(
        RevtalClient ines,
        int order,
        string name,
        ConcurrentBag<(int, string)> told,
        CancellationToken over
    )
    {
        for (var n = 0; !over.IsCancellationRequested; n++)
        {
            try
            {
                var text = $"{name}.{n}";
                await ines.NoteAsync(order, new NoteRequest(text), Guid.NewGuid(), over);
                told.Add((order, text));
            }
            catch (Exception e) when (e is UnreachableException or OperationCanceledException or HttpRequestException)
            {
                return;
            }
        }
    }
}
