using System.Diagnostics;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>
/// A change on its way to a thousand signed-in screens, and what their listening costs whoever records: the same writes
/// without them, in the same run.
/// </summary>
internal static class LiveBench
{
    private const int Screens = 1_000,
        OfOneSignIn = 50,
        Changes = 40;

    public static async Task RunAsync(Report report)
    {
        await using var service = await ServiceProcess.StartAsync();
        var ines = service.As("ines");
        var order = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Tide-gauge office", "stops"))).Order;
        var clock = Stopwatch.StartNew();
        var heard = new List<double>();
        await WriteAsync(ines, order, null);
        var alone = await WriteAsync(ines, order, null);

        using var ends = new CancellationTokenSource();
        var sent = new Dictionary<int, double>();
        var since = (await ines.BoardAsync()).Position;
        var listening = new List<Task>();
        for (var i = 0; i < Screens / OfOneSignIn; i++)
        {
            var token = (await ines.MakeTokenAsync(new TokenRequest($"screen {i}", 1, Looks: true))).Token;
            for (var j = 0; j < OfOneSignIn; j++)
            {
                listening.Add(ListenAsync(new RevtalClient(service.Http, token)));
            }
        }

        // All of them hear a first change before anything counts.
        await ines.NoteAsync(order, new NoteRequest("are you there"));
        while (Count() < Screens)
        {
            await Task.Delay(50);
        }

        lock (heard)
        {
            heard.Clear();
        }

        var beside = await WriteAsync(ines, order, sent);
        while (Count() < Screens * Changes)
        {
            await Task.Delay(50);
        }

        await ends.CancelAsync();
        await Task.WhenAll(listening);
        var late = Report.Percentile(heard, 0.95);
        report.Tell(
            $"a change reaches {Screens} signed-in screens, 95th percentile",
            $"{late:0} ms",
            "under 200 ms",
            late < 200
        );
        var slower = Report.Median(beside) / Report.Median(alone);
        report.Tell(
            "recording while they listen, against nobody listening",
            $"{slower:0.00} times ({Report.Median(beside):0.0} ms : {Report.Median(alone):0.0} ms)",
            "within 2 times",
            slower <= 2
        );

        int Count()
        {
            lock (heard)
            {
                return heard.Count;
            }
        }

        async Task ListenAsync(RevtalClient screen)
        {
            try
            {
                await foreach (var change in screen.ChangesAsync(since, ends.Token))
                {
                    lock (heard)
                    {
                        heard.Add(clock.Elapsed.TotalMilliseconds - sent.GetValueOrDefault(change.Sequence));
                    }
                }
            }
            catch (OperationCanceledException)
            {
                // It has heard enough.
            }
        }

        // One after another, as a bench of people writes; each is sent well after the one before was heard.
        async Task<List<double>> WriteAsync(RevtalClient by, int to, Dictionary<int, double>? moments)
        {
            var times = new List<double>();
            var next = (await by.OrderAsync(to)).Head + 1;
            for (var i = 0; i < Changes; i++, next++)
            {
                if (moments is not null)
                {
                    lock (heard)
                    {
                        moments[next] = clock.Elapsed.TotalMilliseconds;
                    }
                }

                var began = Stopwatch.GetTimestamp();
                await by.NoteAsync(to, new NoteRequest("heard by all"));
                times.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
                await Task.Delay(150);
            }

            return times;
        }
    }
}
