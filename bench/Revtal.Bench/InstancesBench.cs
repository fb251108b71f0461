using System.Collections.Concurrent;
using System.Diagnostics;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>
/// Three instances on one database against one, on the same two cores; and how long a change is on its way from one to
/// whoever listens at another.
/// </summary>
internal static class InstancesBench
{
    private const int Clients = 48,
        Listeners = 100,
        Changes = 60,
        WarmUp = 3,
        Turns = 5;

    private const double Late = 100;

    private static readonly TimeSpan Turn = TimeSpan.FromSeconds(2);

    public static async Task RunAsync(Report report)
    {
        using var server = new PostgresServer(durable: true);
        var store = server.NewDatabase();
        await using var one = await Instances.FirstAsync(store);
        await using var two = await Instances.OtherAsync(store, one);
        await using var three = await Instances.OtherAsync(store, one);
        ServiceProcess[] alone = [one],
            all = [one, two, three];
        var orders = new int[Clients * 8];
        for (var i = 0; i < orders.Length; i++)
        {
            orders[i] = (await one.As("ines").TakeInAsync(new TakeInRequest("FJ14", "Ferry office", "slow"))).Order;
        }

        await TellAsync(report, "read an order", alone, all, Read);
        await TellAsync(report, "record an entry", alone, all, Write);
        await OnTheirWayAsync(report, one, two, orders[0]);

        string Read(ServiceProcess at, int c, int n) =>
            Load.Get(at.Address, $"/api/v1/orders/{Own(c, n)}", at.Token("ines"));

        string Write(ServiceProcess at, int c, int n) =>
            Load.Post(
                at.Address,
                $"/api/v1/orders/{Own(c, n)}/notes",
                $$"""{"text":"note {{n}} of client {{c}}, in a line of usual length"}""",
                at.Token("ines")
            );

        int Own(int c, int n) => orders[(c * 8) + (n % 8)];
    }

    private static async Task TellAsync(
        Report report,
        string what,
        ServiceProcess[] alone,
        ServiceProcess[] all,
        Func<ServiceProcess, int, int, string> request
    )
    {
        for (var i = 0; i < WarmUp; i++)
        {
            await RateAsync(all, request);
        }

        var (few, many) = (new List<double>(), new List<double>());
        for (var i = 0; i < Turns; i++)
        {
            few.Add(await RateAsync(alone, request));
            many.Add(await RateAsync(all, request));
        }

        var (one, three) = (Report.Median(few), Report.Median(many));
        report.Tell(
            $"PostgreSQL: {what}, three instances against one, {Clients} clients",
            $"{three / one:0.00} times ({three:0}/s : {one:0}/s), all on the same two cores",
            "told, no target",
            true
        );
    }

    // Each instance has its share of the clients.
    private static async Task<double> RateAsync(ServiceProcess[] at, Func<ServiceProcess, int, int, string> request) =>
        (
            await Task.WhenAll(
                at.Select(
                    (service, i) =>
                        Load.RateAsync(
                            service.Address,
                            (c, n) => request(service, c + (i * Clients / at.Length), n),
                            Clients / at.Length,
                            Turn
                        )
                )
            )
        ).Sum();

    private static async Task OnTheirWayAsync(Report report, ServiceProcess here, ServiceProcess there, int order)
    {
        var (clock, sent, heard) = (
            Stopwatch.StartNew(),
            new ConcurrentDictionary<int, double>(),
            new ConcurrentBag<double>()
        );
        using var ends = new CancellationTokenSource();
        var ines = here.As("ines");
        var since = (await there.As("ines").BoardAsync()).Position;
        var listening = new List<Task>();
        for (var i = 0; i < Listeners; i++)
        {
            var token = (await ines.MakeTokenAsync(new TokenRequest($"screen {i}", 1, Looks: true))).Token;
            listening.Add(ListenAsync(new RevtalClient(there.Http, token)));
        }

        await Task.Delay(1_000);
        for (var i = 0; i < Changes; i++)
        {
            var next = (await ines.OrderAsync(order)).Head + 1;
            sent[next] = clock.Elapsed.TotalMilliseconds;
            await ines.NoteAsync(order, new NoteRequest("heard at the other"));
            await Task.Delay(120);
        }

        for (var i = 0; i < 100 && heard.Count < Listeners * Changes; i++)
        {
            await Task.Delay(50);
        }

        await ends.CancelAsync();
        await Task.WhenAll(listening);
        var late = Report.Percentile([.. heard], 0.95);
        report.Tell(
            $"PostgreSQL: a change reaches {Listeners} screens at another instance, 95th percentile",
            $"{late:0} ms, {heard.Count:N0} of {Listeners * Changes:N0} heard",
            $"under {Late:0} ms",
            late < Late && heard.Count == Listeners * Changes
        );

        async Task ListenAsync(RevtalClient screen)
        {
            try
            {
                await foreach (var change in screen.ChangesAsync(since, ends.Token))
                {
                    if (change.Order == order && sent.TryGetValue(change.Sequence, out var began))
                    {
                        heard.Add(clock.Elapsed.TotalMilliseconds - began);
                    }
                }
            }
            catch (OperationCanceledException)
            {
                // It has heard enough.
            }
        }
    }
}
