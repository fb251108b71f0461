using System.Collections.Concurrent;
using System.Diagnostics;
using Revtal.Contracts;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>
/// What lies on the disk at any moment is a whole shop: the files are taken while everything stands still amid writes,
/// as a power cut leaves them.
/// </summary>
public sealed class PowerCutTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-cut-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task It_opens_and_has_every_entry_that_was_acknowledged()
    {
        await using var service = await ServiceProcess.StartAsync(arguments: ["--rate", "0"]);
        var acknowledged = new ConcurrentQueue<(int Order, string Text)>();
        using var over = new CancellationTokenSource();
        var writers = Enumerable
            .Range(0, 16)
            .Select(async w =>
            {
                var order = (await service.As("sanne").TakeInAsync(Story.TakeIn)).Order;
                for (var i = 0; !over.IsCancellationRequested; i++)
                {
                    await service.As("mara").NoteAsync(order, new NoteRequest($"{w}.{i}"));
                    acknowledged.Enqueue((order, $"{w}.{i}"));
                }
            })
            .ToList();
        var random = new Random(20261128);
        for (var cut = 0; cut < 6; cut++)
        {
            await Task.Delay(random.Next(50, 300));
            var copy = Directory.CreateDirectory(Path.Combine(folder, $"{cut}")).FullName;
            Signal(service, "STOP");
            (int Order, string Text)[] before = [.. acknowledged];
            using (var cp = Process.Start("cp", [.. Directory.GetFiles(service.Folder), copy]))
            {
                await cp.WaitForExitAsync();
            }

            Signal(service, "CONT");
            await using var after = await ServiceProcess.StartAsync(copy, tokens: service.Tokens);
            foreach (var own in before.GroupBy(b => b.Order, b => b.Text))
            {
                var said = (await after.As("mara").OrderAsync(own.Key)).Journal.Select(l => l.Text).ToHashSet();
                Assert.Subset(said, own.ToHashSet());
            }

            Assert.Empty((await VerifyTests.Looked(after.As("ines"))).First);
        }

        await over.CancelAsync();
        await Task.WhenAll(writers);
        Assert.True(acknowledged.Count > 200);
    }

    private static void Signal(ServiceProcess service, string signal)
    {
        using var kill = Process.Start("kill", [$"-{signal}", $"{service.Id}"]);
        kill.WaitForExit();
        Assert.Equal(0, kill.ExitCode);
    }
}
