using Revtal.Contracts;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>Reading an order of 100 entries, beside the same bytes from a bare endpoint.</summary>
internal static class ReadBench
{
    private const int Connections = 8,
        Turns = 5;
    private static readonly TimeSpan Turn = TimeSpan.FromSeconds(2);

    public static async Task RunAsync(Report report)
    {
        await using var service = await ServiceProcess.StartAsync();
        var ines = service.As("ines");
        var number = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Tide-gauge office", "stops"))).Order;
        for (var i = 1; i < 100; i++)
        {
            await ines.NoteAsync(
                number,
                new NoteRequest($"What was seen at the {i}th look, in a line of usual length.")
            );
        }

        var path = $"/api/v1/orders/{number}";
        var file = Path.GetTempFileName();
        await File.WriteAllBytesAsync(file, await service.Http.GetByteArrayAsync(path));
        var bare = new Uri("http://127.0.0.1:7498");
        using var floor = BareServer.Start(bare, file);
        try
        {
            using var http = new HttpClient { BaseAddress = bare };
            for (var tries = 0; tries < 100 && !await AnswersAsync(http); tries++)
            {
                await Task.Delay(50);
            }

            var ours = Load.Get(service.Address, path, service.Token("ines"));
            var theirs = Load.Get(bare, "/bytes");
            await Load.RateAsync(service.Address, (_, _) => ours, Connections, Turn);
            await Load.RateAsync(bare, (_, _) => theirs, Connections, Turn);
            var rates = new List<(double Ours, double Floor)>();
            for (var i = 0; i < Turns; i++)
            {
                rates.Add(
                    (
                        await Load.RateAsync(service.Address, (_, _) => ours, Connections, Turn),
                        await Load.RateAsync(bare, (_, _) => theirs, Connections, Turn)
                    )
                );
            }

            var ratio = Report.Median(rates.Select(r => r.Ours / r.Floor));
            report.Tell(
                $"read an order of 100 entries ({new FileInfo(file).Length / 1024} KB)",
                $"{ratio:0.00} of bare ({Report.Median(rates.Select(r => r.Ours)):0}/s : "
                    + $"{Report.Median(rates.Select(r => r.Floor)):0}/s)",
                "0.5 or more",
                ratio >= 0.5
            );
        }
        finally
        {
            floor.Kill();
            File.Delete(file);
        }
    }

    private static async Task<bool> AnswersAsync(HttpClient http)
    {
        try
        {
            return (await http.GetAsync("/bytes")).IsSuccessStatusCode;
        }
        catch (HttpRequestException)
        {
            return false;
        }
    }
}
