using System.Net;
using Revtal.Client;
using Revtal.Contracts;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Three instances that start at once on an empty database, of which one is killed meanwhile.</summary>
public sealed class PostgresStartTests : IDisposable
{
    private static readonly Dictionary<string, string> Nobody = [];

    private readonly string folder = Directory.CreateTempSubdirectory("revtal-starts-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    // A start takes some seconds, of which the tables are the middle.
    [Theory]
    [InlineData(500)]
    [InlineData(900)]
    [InlineData(1300)]
    [InlineData(1700)]
    [InlineData(2100)]
    public async Task The_others_make_the_shop_whenever_that_was(int after)
    {
        string[] store = ["--store", PostgresServer.Here.NewDatabase()];
        using var doomed = ServiceProcess.Launch(folder, "revtald", store);
        var starts = Enumerable
            .Range(0, 2)
            .Select(_ => ServiceProcess.StartAsync(folder, arguments: store, tokens: Nobody))
            .ToArray();
        await Task.Delay(after);
        doomed.Kill();
        await doomed.WaitForExitAsync();
        var others = await Task.WhenAll(starts);
        await using var one = others[0];
        await using var two = others[1];

        // Each instance tells a link, and each opens the shop until somebody used one.
        await one.SetUpAsync();
        var second = new SetUpRequest(Staff.Password, "tobi", "Tobi Kern", "tests");
        var refused = await Assert.ThrowsAsync<ProblemException>(() =>
            two.As(null).UseSetUpAsync(two.SetUpLink, second)
        );
        Assert.Equal(HttpStatusCode.NotFound, refused.Status);
        two.SignIn(one.Tokens);
        await one.As("ines").PublishGuideAsync(await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml")));
        var orders = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(i => others[i % 2].As("ines").TakeInAsync(Story.TakeIn))
        );
        Assert.Equal(Enumerable.Range(101, 8), orders.Select(o => o.Order).Order());
        Assert.Equal(8, (await two.As("ines").BoardAsync()).Cards.Count);
    }
}
