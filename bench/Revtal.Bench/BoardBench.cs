using Revtal.Core.Orders;
using Revtal.Storage;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>The board of 200 open orders among 1,000 and among 100,000, and a search of those.</summary>
internal static class BoardBench
{
    private const int Open = 200,
        Requests = 1_000,
        Searches = 200;

    private static readonly string[] Customers =
    [
        "Ferry ticket desk",
        "Tide-gauge office",
        "Letterpress printer",
        "Choir's archive",
        "School chemistry lab",
        "Bird-ringing station",
    ];

    // What is typed, and how many of the 100,000 have it.
    private static readonly (string Text, string Has)[] Typed =
    [
        ("W24-07731", "a piece of one serial"),
        ("crackles1234", "a word of 20 orders"),
        ("crackles1234 ferry", "the same and a word of 17,000"),
        ("ferr", "the beginning of a word of 17,000"),
        ("crackels1234", "a word of 20, mistyped"),
    ];

    public static async Task RunAsync(Report report)
    {
        var few = await PercentileAsync(1_000, search: null);
        var many = await PercentileAsync(100_000, search: report);
        report.Tell("board of 200 open among 100,000, 99th percentile", $"{many:0.0} ms", "under 10 ms", many < 10);
        report.Tell(
            "the same against among 1,000",
            $"{many / few:0.00} times ({few:0.0} ms)",
            "within 1.5 times",
            many / few <= 1.5
        );
    }

    private static async Task<double> PercentileAsync(int orders, Report? search)
    {
        var folder = Directory.CreateTempSubdirectory("revtal-board-").FullName;
        await Staff.CopyToAsync(folder);
        await FillAsync(folder, orders);
        await using var service = await ServiceProcess.StartAsync(folder);
        var request = Load.Get(service.Address, "/api/v1/board", service.Token("ines"));
        await Load.TimesAsync(service.Address, request, Requests);
        var times = await Load.TimesAsync(service.Address, request, Requests);
        foreach (var (text, has) in search is null ? [] : Typed)
        {
            var find = Load.Get(
                service.Address,
                $"/api/v1/orders?limit=20&text={Uri.EscapeDataString(text)}",
                service.Token("ines")
            );
            await Load.TimesAsync(service.Address, find, Searches);
            var took = Report.Percentile(await Load.TimesAsync(service.Address, find, Searches), 0.95);
            search!.Tell($"search of 100,000 orders, {has}, 95th", $"{took:0.0} ms", "under 20 ms", took < 20);
        }

        await service.KillAsync();
        Directory.Delete(folder, recursive: true);
        return Report.Percentile(times, 0.99);
    }

    // By the journal's own writer: every order is taken in, and all but the last 200 are cancelled.
    private static async Task FillAsync(string folder, int orders)
    {
        using var store = await TestStore.InAsync(folder);
        var guides = store.Guides;
        await guides.PublishAsync(
            [await File.ReadAllTextAsync(Repository.At("guides", "PW24.yaml"))],
            new Hand("ines", DateTimeOffset.UtcNow, Guid.NewGuid())
        );
        var guide = guides.Get("PW24", 1);
        TakenIn Body(int i) =>
            IntakeRules.TakeIn(
                new Intake(
                    Customers[i % Customers.Length],
                    null,
                    $"PW24-{i:000000}",
                    $"freezes and crackles{i % 5_000}",
                    null,
                    null,
                    null,
                    Backup.Made,
                    SealConsent.NoSeal
                ),
                guide,
                1
            );

        foreach (var chunk in Enumerable.Range(0, orders).Chunk(500))
        {
            var taken = await Task.WhenAll(
                chunk.Select(i =>
                    store.Writer.AppendAsync(
                        new Append(
                            null,
                            0,
                            Guid.NewGuid(),
                            DateTimeOffset.UtcNow,
                            "sanne",
                            Body(i),
                            "",
                            e => ProjectionRows.Project(Order.Fold([e]), guide)
                        )
                    )
                )
            );
            await Task.WhenAll(
                taken
                    .Cast<AppendResult.Recorded>()
                    .Select(t => t.Stored.Entry)
                    .Where(e => e.Order - 100 <= orders - Open)
                    .Select(e =>
                    {
                        var order = Order.Fold([e]);
                        return store.Writer.AppendAsync(
                            new Append(
                                order.Number,
                                1,
                                Guid.NewGuid(),
                                DateTimeOffset.UtcNow,
                                "sanne",
                                new Cancelled("history"),
                                "",
                                c => ProjectionRows.Project(order.Apply(c), guide)
                            )
                        );
                    })
            );
        }

        new TraceKeeper(store.Connections, store.Writer).CatchUp();
    }
}
