using System.Collections.Concurrent;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Two instances of the service on one database, and a database that goes away.</summary>
public sealed class PostgresInstancesTests : IAsyncLifetime
{
    private readonly PostgresServer server = new();
    private readonly List<ServiceProcess> instances = [];

    private ServiceProcess One => instances[0];

    private ServiceProcess Two => instances[1];

    public async ValueTask InitializeAsync()
    {
        string[] store = ["--store", server.NewDatabase(), "--rate", "0"];
        var folder = Directory.CreateTempSubdirectory("revtal-none-").FullName;
        var nobody = new Dictionary<string, string>();
        instances.Add(await ServiceProcess.StartAsync(folder, arguments: store, tokens: nobody));
        await One.SetUpAsync();
        var guide = await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml"));
        await One.As("ines").PublishGuideAsync(guide);
        instances.Add(await ServiceProcess.StartAsync(folder, arguments: store, tokens: One.Tokens));
    }

    public async ValueTask DisposeAsync()
    {
        foreach (var instance in instances)
        {
            await instance.DisposeAsync();
        }

        server.Dispose();
    }

    [Fact]
    public async Task What_is_done_at_one_is_so_at_the_other()
    {
        // The same sign-in opens both.
        var (here, there) = (One.As("ines"), Two.As("ines"));
        using var stop = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        var before = (await there.BoardAsync()).Position;
        var order = (await here.TakeInAsync(Story.TakeIn)).Order;
        await there.NoteAsync(order, new NoteRequest("from the other"));
        await here.NoteAsync(order, new NoteRequest("and back"));
        var heard = new List<Change>();
        await foreach (var change in there.ChangesAsync(before, stop.Token))
        {
            heard.Add(change);
            if (heard.Count == 3)
            {
                break;
            }
        }

        Assert.Equal([1, 2, 3], heard.Select(c => c.Sequence));
        Assert.Equal(3, (await there.OrderAsync(order)).Head);

        // Whoever is named at one is known at the other at once.
        Assert.DoesNotContain((await there.ShopAsync()).People, p => p.Id == "mara");
        await here.PutPersonAsync("mara", new PersonRequest("Mara Lind", Role.Technician));
        for (var i = 0; i < 100 && (await there.ShopAsync()).People.All(p => p.Id != "mara"); i++)
        {
            await Task.Delay(20);
        }

        await there.OwnerAsync(order, new OwnerRequest("mara"));
        Assert.Equal("In Mara's hands", (await here.OrderAsync(order)).Journal[^1].Text);
    }

    [Fact]
    public async Task A_database_that_is_killed_and_begun_again_loses_nothing_and_nobody_starts_anew()
    {
        var (told, refused) = (new ConcurrentBag<(int Order, string Text)>(), new ConcurrentBag<(int, string)>());
        var over = false;
        var writers = Enumerable
            .Range(0, 8)
            .Select(i => WriteAsync(instances[i % 2].As("ines"), told, refused, () => over))
            .ToArray();
        await UntilAsync(() => told.Count > 100);
        server.Stop("immediate");
        using (var ready = await Two.Http.GetAsync("readyz"))
        {
            Assert.Equal(503, (int)ready.StatusCode);
            Assert.Contains("does not answer", await ready.Content.ReadAsStringAsync());
        }

        await UntilAsync(() => refused.Count > 8);
        var before = told.Count;
        server.Start();
        await UntilAsync(() => told.Count > before + 100);
        over = true;
        await Task.WhenAll(writers);
        Assert.All(refused, r => Assert.Equal((503, "store-failed"), r));
        await NeedAllOnceAsync(Two.As("ines"), told);
        Assert.Equal("ready\n", await One.Http.GetStringAsync("readyz"));
    }

    internal static async Task UntilAsync(Func<bool> so)
    {
        for (var i = 0; !so(); i++)
        {
            Assert.InRange(i, 0, 600);
            await Task.Delay(50);
        }
    }

    [Fact]
    public async Task Connections_that_are_cut_again_and_again_lose_nothing()
    {
        var (told, refused) = (new ConcurrentBag<(int Order, string Text)>(), new ConcurrentBag<(int, string)>());
        var over = false;
        var writers = Enumerable
            .Range(0, 8)
            .Select(i => WriteAsync(instances[i % 2].As("ines"), told, refused, () => over))
            .ToArray();
        for (var cut = 0; cut < 8; cut++)
        {
            var before = told.Count;
            server.Sql("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'revtald'");
            await UntilAsync(() => told.Count > before + 40);
        }

        over = true;
        await Task.WhenAll(writers);
        Assert.All(refused, r => Assert.Equal((503, "store-failed"), r));
        await NeedAllOnceAsync(One.As("ines"), told);
    }

    /// <summary>Every note that was acknowledged is there, and nothing twice.</summary>
    internal static async Task NeedAllOnceAsync(RevtalClient ines, IEnumerable<(int Order, string Text)> told)
    {
        foreach (var own in told.GroupBy(t => t.Order))
        {
            var order = await ines.OrderAsync(own.Key);
            Assert.Equal(own.Select(t => t.Text).Order(), order.Journal.Skip(1).Select(l => l.Text).Order());
        }
    }

    // Each note until it is recorded, with the same key.
    internal static async Task WriteAsync(
        RevtalClient ines,
        ConcurrentBag<(int, string)> told,
        ConcurrentBag<(int, string)> refused,
        Func<bool> over
    )
    {
        var order = (await RecordedAsync(key => ines.TakeInAsync(Story.TakeIn, key))).Order;
        for (var n = 0; !over(); n++)
        {
            var text = $"note {n}";
            await RecordedAsync(key => ines.NoteAsync(order, new NoteRequest(text), key));
            told.Add((order, text));
        }

        async Task<Receipt> RecordedAsync(Func<Guid, Task<Receipt>> ask)
        {
            for (var key = Guid.NewGuid(); ; await Task.Delay(100))
            {
                try
                {
                    return await ask(key);
                }
                catch (ProblemException e)
                {
                    refused.Add(((int)e.Status, e.Code));
                }
            }
        }
    }
}
