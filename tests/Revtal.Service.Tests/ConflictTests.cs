using System.Net;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Several hands at once, lost answers, and a service that dies.</summary>
public sealed class ConflictTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly ServiceProcess service = fixture.Service;

    [Fact]
    public async Task Of_two_who_confirm_one_step_one_wins_and_the_other_sees_who()
    {
        var number = await AgreedAsync();
        RevtalClient[] both = [service.As("mara"), service.As("tobi")];
        var tries = await Task.WhenAll(
            both.Select(c => TryAsync(c.ConfirmAsync(number, StepId.Parse("prepare.bench"), new ConfirmRequest())))
        );
        var lost = Assert.Single(tries.OfType<ProblemException>());
        Assert.Equal((HttpStatusCode.Conflict, "already-so"), (lost.Status, lost.Code));
        var winner = (await both[0].OrderAsync(number)).Run!.Steps[0].Done!.By;
        Assert.Contains($"by {winner}", lost.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_retry_with_the_same_key_records_once()
    {
        var mara = service.As("mara");
        var key = Guid.NewGuid();
        var first = await mara.TakeInAsync(Story.TakeIn, key);
        var second = await mara.TakeInAsync(Story.TakeIn, key);
        Assert.Equal((first.Order, first.Position), (second.Order, second.Position));

        var note = Guid.NewGuid();
        var receipts = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(_ => mara.NoteAsync(first.Order, new NoteRequest("dust"), note))
        );
        Assert.Single(receipts.Select(r => r.Sequence).Distinct());
        Assert.Equal(2, (await mara.OrderAsync(first.Order)).Head);
    }

    [Fact]
    public async Task A_key_stands_for_one_thing_only()
    {
        var mara = service.As("mara");
        var key = Guid.NewGuid();
        var number = (await mara.TakeInAsync(Story.TakeIn)).Order;
        await mara.NoteAsync(number, new NoteRequest("dust"), key);
        var problem = await Assert.ThrowsAsync<ProblemException>(() =>
            mara.NoteAsync(number, new NoteRequest("rust"), key)
        );
        Assert.Equal("key-reused", problem.Code);
    }

    [Fact]
    public async Task A_change_decided_on_an_old_state_is_refused_with_what_came_since()
    {
        var mara = service.As("mara");
        var number = await AgreedAsync();
        var head = (await mara.OrderAsync(number)).Head;
        await service.As("tobi").NoteAsync(number, new NoteRequest("swollen palm rest"));
        var problem = await Assert.ThrowsAsync<ProblemException>(() =>
            mara.ConfirmAsync(number, StepId.Parse("prepare.bench"), new ConfirmRequest(), ifMatch: head)
        );
        Assert.Equal(HttpStatusCode.PreconditionFailed, problem.Status);
        Assert.Contains("Tobi: swollen palm rest", problem.Message, StringComparison.Ordinal);
        await mara.ConfirmAsync(number, StepId.Parse("prepare.bench"), new ConfirmRequest(), ifMatch: head + 1);
    }

    [Fact]
    public async Task Many_hands_on_one_order_leave_no_gap_and_lose_nothing()
    {
        var number = (await service.As("mara").TakeInAsync(Story.TakeIn)).Order;
        await Task.WhenAll(
            Enumerable.Range(0, 12).Select(i => service.As("mara").NoteAsync(number, new NoteRequest($"note {i}")))
        );
        var journal = (await service.As("mara").OrderAsync(number)).Journal;
        Assert.Equal(Enumerable.Range(1, 13), journal.Select(l => l.Sequence));
        Assert.Equal(
            12,
            journal.Select(l => l.Text).Where(t => t.StartsWith("note", StringComparison.Ordinal)).Distinct().Count()
        );
    }

    [Fact]
    public async Task Every_acknowledged_entry_survives_a_kill()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-kill-").FullName;
        try
        {
            var acknowledged = new System.Collections.Concurrent.ConcurrentBag<(int Order, int Sequence)>();
            await Staff.CopyToAsync(folder);
            await using (var doomed = await ServiceProcess.StartAsync(folder))
            {
                var writers = Enumerable
                    .Range(0, 8)
                    .Select(async _ =>
                    {
                        var ines = doomed.As("ines");
                        try
                        {
                            var order = (await ines.TakeInAsync(Story.TakeIn)).Order;
                            while (true)
                            {
                                var receipt = await ines.NoteAsync(order, new NoteRequest("still here"));
                                acknowledged.Add((receipt.Order, receipt.Sequence));
                            }
                        }
                        catch (UnreachableException)
                        {
                            // The kill.
                        }
                    })
                    .ToArray();
                while (acknowledged.Count < 200)
                {
                    await Task.Delay(5);
                }

                await doomed.KillAsync();
                await Task.WhenAll(writers);
            }

            await using var restarted = await ServiceProcess.StartAsync(folder);
            foreach (var group in acknowledged.GroupBy(a => a.Order))
            {
                var order = await restarted.As(null).OrderAsync(group.Key);
                Assert.Empty(group.Select(g => g.Sequence).Except(order.Journal.Select(l => l.Sequence)));
                Assert.Equal(Enumerable.Range(1, order.Head), order.Journal.Select(l => l.Sequence));
            }
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task Live_changes_arrive_and_a_listener_who_left_catches_up()
    {
        var mara = service.As("mara");
        using var stop = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        var number = (await mara.TakeInAsync(Story.TakeIn)).Order;
        var receipt = await mara.NoteAsync(number, new NoteRequest("one"));
        await mara.NoteAsync(number, new NoteRequest("two"));

        // As a browser does after a lost connection: with the last id that it saw.
        var seen = new List<Change>();
        await foreach (var change in mara.ChangesAsync(receipt.Position, stop.Token))
        {
            if (change.Order == number)
            {
                seen.Add(change);
            }

            if (seen.Count == 1)
            {
                _ = mara.NoteAsync(number, new NoteRequest("three"), cancel: stop.Token);
            }
            else if (seen.Count == 2)
            {
                break;
            }
        }

        Assert.Equal([3, 4], seen.Select(c => c.Sequence));
        Assert.All(seen, c => Assert.Equal("mara", c.By));
    }

    private async Task<int> AgreedAsync()
    {
        var mara = service.As("mara");
        var number = (await mara.TakeInAsync(Story.TakeIn)).Order;
        await mara.TakeReadingAsync(number, Story.Read(Phase.Before, "vm-before-4g"));
        await mara.SetPlanAsync(number, Story.Plan);
        await mara.AgreeAsync(number, new AgreeRequest("J. Marsk"));
        return number;
    }

    private static async Task<object> TryAsync(Task<Receipt> call)
    {
        try
        {
            return await call;
        }
        catch (ProblemException e)
        {
            return e;
        }
    }
}
