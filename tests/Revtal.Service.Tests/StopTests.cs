using System.Collections.Concurrent;
using Revtal.Client;
using Revtal.Contracts;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A service that is asked to end answers what it was asked, and loses nothing that it answered.</summary>
public sealed class StopTests
{
    [Fact]
    public async Task Whoever_is_answered_is_answered_well_and_whoever_listens_is_let_go()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-stop-").FullName;
        await Staff.CopyToAsync(folder);
        var answered = new ConcurrentBag<(int Order, int Sequence)>();
        await using (var ends = await ServiceProcess.StartAsync(folder))
        {
            var heard = new ConcurrentQueue<long>();
            var listening = ListenAsync(ends.As("mara"), heard);
            while (heard.IsEmpty)
            {
                // Until the listener is there: it is told of what comes after it.
                await ends.As("ines").TakeInAsync(Story.TakeIn);
                await Task.Delay(50);
            }

            var writers = Enumerable.Range(0, 8).Select(_ => WriteAsync(ends.As("ines"), answered)).ToArray();
            while (answered.Count < 200)
            {
                await Task.Delay(5);
            }

            Assert.Equal(0, await ends.StopAsync());

            // Nobody got an answer other than recorded, or none.
            await Task.WhenAll(writers);
            await listening.WaitAsync(TimeSpan.FromSeconds(30));
            Assert.Equal(heard.Order().Distinct(), heard);
        }

        await using var again = await ServiceProcess.StartAsync(folder);
        foreach (var own in answered.GroupBy(a => a.Order))
        {
            var order = await again.As(null).OrderAsync(own.Key);
            Assert.Empty(own.Select(g => g.Sequence).Except(order.Journal.Select(l => l.Sequence)));
        }

        Directory.Delete(folder, recursive: true);
    }

    private static async Task WriteAsync(RevtalClient ines, ConcurrentBag<(int, int)> answered)
    {
        try
        {
            var order = (await ines.TakeInAsync(Story.TakeIn)).Order;
            while (true)
            {
                var receipt = await ines.NoteAsync(order, new NoteRequest("still here"));
                answered.Add((receipt.Order, receipt.Sequence));
            }
        }
        catch (UnreachableException)
        {
            // It has ended.
        }
    }

    // Until the stream has ended, as streams end: without a failure.
    private static async Task ListenAsync(RevtalClient mara, ConcurrentQueue<long> heard)
    {
        await foreach (var change in mara.ChangesAsync())
        {
            heard.Enqueue(change.Position);
        }
    }
}
