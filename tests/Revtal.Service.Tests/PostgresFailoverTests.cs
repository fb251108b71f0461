using System.Collections.Concurrent;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A server that dies, and its standby that takes its place by PostgreSQL's own tools.</summary>
public sealed class PostgresFailoverTests
{
    [Fact]
    public async Task What_was_acknowledged_is_at_the_standby_and_the_services_go_on_there_by_themselves()
    {
        using var primary = new PostgresServer();
        var database = primary.NewDatabase();
        var folder = Directory.CreateTempSubdirectory("revtal-none-").FullName;
        var nobody = new Dictionary<string, string>();
        await using var first = await ServiceProcess.StartAsync(
            folder,
            arguments: ["--store", database],
            tokens: nobody
        );
        await first.SetUpAsync();
        await first.As("ines").PublishGuideAsync(await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml")));
        await first.StopAsync();

        using var standby = primary.Standby();
        var name = database.Split("Database=")[1];
        string[] both =
        [
            "--store",
            $"Host=127.0.0.1:{primary.Port},127.0.0.1:{standby.Port};Database={name}",
            "--rate",
            "0",
        ];
        await using var one = await ServiceProcess.StartAsync(folder, arguments: both, tokens: first.Tokens);
        await using var two = await ServiceProcess.StartAsync(folder, arguments: both, tokens: first.Tokens);
        var (told, refused) = (new ConcurrentBag<(int Order, string Text)>(), new ConcurrentBag<(int, string)>());
        var over = false;
        var writers = Enumerable
            .Range(0, 8)
            .Select(i =>
                PostgresInstancesTests.WriteAsync((i % 2 == 0 ? one : two).As("ines"), told, refused, () => over)
            )
            .ToArray();
        await PostgresInstancesTests.UntilAsync(() => told.Count > 100);
        primary.Stop("immediate");
        await PostgresInstancesTests.UntilAsync(() => refused.Count > 8);
        var before = told.Count;
        standby.Promote();
        await PostgresInstancesTests.UntilAsync(() => told.Count > before + 100);
        over = true;
        await Task.WhenAll(writers);

        Assert.All(refused, r => Assert.Equal((503, "store-failed"), r));
        await PostgresInstancesTests.NeedAllOnceAsync(two.As("ines"), told);
        Assert.Equal("ready\n", await one.Http.GetStringAsync("readyz"));
        Directory.Delete(folder);
    }
}
