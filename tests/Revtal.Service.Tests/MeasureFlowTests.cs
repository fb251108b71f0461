using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The whole proof, with a simulated machine at the other end of the wire.</summary>
public sealed class MeasureFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");

    [Fact]
    public async Task A_dummy_with_a_faulty_module_is_taken_in_refitted_searched_mended_and_proved()
    {
        var name = "kliff-a";
        await mara.MakeDummyAsync(new DummyRequest(name, "PW24", Serial: "PW24-9001"));
        await mara.PutPartAsync(
            "OS4S-16G",
            new PartRequest(
                "16 GB small outline",
                61.5m,
                Module: new MemoryModule(MemorySize.Gigabytes(16), "DDR4", "SO-DIMM", 2666)
            )
        );
        await mara.ReceiveAsync("OS4S-16G", new ReceiveRequest(Count: 3));
        var order = (
            await mara.TakeInAsync(new TakeInRequest("PW24", "Ferry ticket desk", "slow", Serial: "PW24-9001"))
        ).Order;

        await Act(name, new(DummyAct.Start));
        await Send(name, order, Phase.Before);
        await mara.SetPlanAsync(
            order,
            new PlanRequest([
                new SlotChange(
                    "S1",
                    new MemoryModule(MemorySize.Gigabytes(16), PartNumber: new PartNumber("OS4S-16G"))
                ),
                new SlotChange(
                    "S3",
                    new MemoryModule(MemorySize.Gigabytes(16), PartNumber: new PartNumber("OS4S-16G"))
                ),
            ])
        );
        await mara.AgreeAsync(order, new AgreeRequest("R. Fahr"));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));

        foreach (
            var act in new DummyActRequest[]
            {
                new(DummyAct.Off),
                new(DummyAct.Open),
                new(DummyAct.Pull, "S1"),
                new(DummyAct.Fit, "S1", Gigabytes: 16),
                new(DummyAct.Fit, "S3", Gigabytes: 16),
                new(DummyAct.Spoil, "S3", How: "silent"),
            }
        )
        {
            await Act(name, act);
        }

        Assert.Equal(["S1"], (await Act(name, new(DummyAct.Start))).Shown!.SlotsSeen);
        await Send(name, order, Phase.After);
        var view = await mara.OrderAsync(order);
        Assert.Equal((Verdict.Short, NextKind.Reseat), (view.Check!.Verdict, view.Next.Kind));

        await mara.BeginSwapTestAsync(order, new SwapBeginRequest());
        while ((await mara.OrderAsync(order)).Swap is { State: { Next: { } next } })
        {
            // The dummy does just what the words say.
            await Act(name, new(DummyAct.Off));
            await ArrangeAsync(name, next);
            var shown = (await Act(name, new(DummyAct.Start))).Shown!;
            await mara.TrySwapAsync(
                order,
                new SwapTryRequest(
                    shown.Started ? new StartShown(true, shown.SlotsSeen) : new StartShown(false, Sign: shown.Sign),
                    true
                )
            );
        }

        Assert.Equal("It is the module of S3.", (await mara.OrderAsync(order)).Swap!.State.Conclusion!.Sentence);
        await EndSearchAsync(order);
        var items = await mara.PartItemsAsync("OS4S-16G");
        Assert.Equal(
            [PartState.Faulty, PartState.Fitted, PartState.Reserved],
            items
                .Select(i => i.State)
                .Order(Comparer<PartState>.Create((a, b) => string.CompareOrdinal(a.ToString(), b.ToString())))
        );

        // The spare from the shelf goes in its place, and the customer need not be asked about its like.
        Assert.Equal(NextKind.MendPlan, (await mara.OrderAsync(order)).Next.Kind);
        await mara.MendAsync(order, new MendRequest("the swap test named it", Again: ["S3"]));
        var mended = await mara.OrderAsync(order);
        Assert.Equal((Stage.OnBench, "R. Fahr"), (mended.Stage, mended.AgreedBy));
        Assert.Equal(
            ["Pull the module from S3", "Fit 16 GB into S3"],
            mended.Run!.Steps.Where(s => s.Step.Part is RunPart.Pull or RunPart.Fit).Select(s => s.Step.Title)
        );
        Assert.Null(mended.Check);
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        await Act(name, new(DummyAct.Off));
        await ArrangeAsync(name, []);
        foreach (
            var act in new DummyActRequest[]
            {
                new(DummyAct.Fit, "S1", Gigabytes: 16),
                new(DummyAct.Fit, "S3", Gigabytes: 16),
                new(DummyAct.Close),
                new(DummyAct.Start),
            }
        )
        {
            await Act(name, act);
        }

        await Send(name, order, Phase.After);
        Assert.Equal(Verdict.AsPlanned, (await mara.CheckAsync(order)).Verdict);
        Assert.Equal(
            PartState.Fitted,
            (await mara.PartItemsAsync("OS4S-16G")).Single(i => i.Position == "S3" && i.State != PartState.Faulty).State
        );
    }

    // Whatever was off until now is counted back.
    private async Task EndSearchAsync(int order) =>
        await mara.EndSwapTestAsync(order, new SwapEndRequest(Back: (await mara.OrderAsync(order)).Swap!.Open));

    [Fact]
    public async Task A_slot_at_fault_is_marked_on_the_machine_for_its_next_visit()
    {
        var order = await CheckedAsync("NF14-7711", 8, 0);
        await mara.BeginSwapTestAsync(order, new SwapBeginRequest(new StartShown(true, ["S2"])));
        while ((await mara.OrderAsync(order)).Swap is { State: { Next: { } next } })
        {
            var seen = next.Where(p => p.Slot != "S1").Select(p => p.Slot).ToArray();
            await mara.TrySwapAsync(
                order,
                new SwapTryRequest(seen.Length > 0 ? new StartShown(true, seen) : new StartShown(false), true)
            );
        }

        await EndSearchAsync(order);
        var mark = Assert.Single((await mara.MachineAsync("NF14-7711")).Marks);
        Assert.Equal(("S1", order), (mark.Slot, mark.Order));
    }

    [Fact]
    public async Task A_slot_is_given_up_in_the_same_order_and_the_customer_is_asked_again()
    {
        await mara.PutPartAsync("OS4S-8H", new PartRequest("8 GB SO-DIMM", 25, Story.Module(8)));
        await mara.ReceiveAsync("OS4S-8H", new ReceiveRequest(1));
        var part = new MemoryModule(MemorySize.Gigabytes(8), PartNumber: new PartNumber("OS4S-8H"));
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        await mara.TakeReadingAsync(order, Story.Seen(Phase.Before, 0, 8));
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S1", part)]));
        Assert.Equal(
            (409, "nothing-fitted"),
            await Story.Refused(
                mara.MendAsync(order, new MendRequest("too early", [new SlotChange("S1", Empty: true)]))
            )
        );
        await mara.AgreeAsync(order, new AgreeRequest("R. Fahr"));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        await mara.TakeReadingAsync(order, Story.Seen(Phase.After, 0, 8));
        Assert.Equal(Verdict.NotSeen, (await mara.OrderAsync(order)).Check!.Verdict);

        await mara.MendAsync(order, new MendRequest("S1 is dead", [new SlotChange("S1", Empty: true)]));
        var asked = await mara.OrderAsync(order);
        Assert.Equal((Stage.Planned, (string?)null), (asked.Stage, asked.AgreedBy));
        Assert.Equal(MemorySize.Gigabytes(8), asked.Plan!.Expectation.Installed);
        Assert.Equal(
            (409, "plan-too-late"),
            await Story.Refused(mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S1", part)])))
        );
        await mara.AgreeAsync(order, new AgreeRequest("R. Fahr"));
        Assert.Equal(
            ["Pull the module from S1"],
            (await mara.OrderAsync(order))
                .Run!.Steps.Where(s => s.Step.Part is RunPart.Pull or RunPart.Fit)
                .Select(s => s.Step.Title)
        );
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        // Its pull may still be taken back: it lies on the bench until the machine was measured.
        Assert.Equal(PartState.Pulled, Assert.Single(await mara.PartItemsAsync("OS4S-8H")).State);
        await mara.TakeReadingAsync(order, Story.Seen(Phase.After, 0, 8));
        Assert.Equal(PartState.InStock, Assert.Single(await mara.PartItemsAsync("OS4S-8H")).State);
        Assert.Equal(Verdict.AsPlanned, (await mara.CheckAsync(order)).Verdict);
        await mara.ReadyAsync(order, new ReasonRequest());
    }

    [Fact]
    public async Task A_kept_module_that_is_changed_later_wants_its_fate_and_another_part_is_asked_about()
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        await mara.TakeReadingAsync(order, Story.Seen(Phase.Before, 8, 8));
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S1", Story.Module(16))]));
        await mara.AgreeAsync(order, new AgreeRequest("R. Fahr"));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        await mara.TakeReadingAsync(order, Story.Seen(Phase.After, 16, 0));
        await mara.MendAsync(order, new MendRequest("S2's is dead", [new SlotChange("S2", Story.Module(16))]));
        await mara.AgreeAsync(order, new AgreeRequest("R. Fahr"));
        // It is still in the machine: nobody is asked yet what becomes of it.
        Assert.Equal(["S1"], Fates(await mara.OrderAsync(order)));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        Assert.Equal(["S1", "S2"], Fates(await mara.OrderAsync(order)));
        await mara.TakeReadingAsync(order, Story.Seen(Phase.After, 16, 16));
        Assert.Equal(Verdict.AsPlanned, (await mara.CheckAsync(order)).Verdict);
        Assert.Equal(
            ["fate-open.S1", "fate-open.S2"],
            (await mara.OrderAsync(order)).Holds.Where(h => h.IsOpen).Select(h => h.Key)
        );

        static string[] Fates(OrderView view) =>
            [.. view.ComesOut.Where(c => c.Bag is not null).Select(c => c.Position).Order()];
    }

    [Fact]
    public async Task Scores_stand_among_those_of_the_same_model_once_there_are_five()
    {
        for (var i = 0; i < 6; i++)
        {
            var order = (await mara.TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", "slow"))).Order;
            await mara.TakeScoresAsync(
                order,
                Phase.After,
                System.Text.Encoding.UTF8.GetBytes($"name,unit,value,better\nCopy,MB/s,{18_000 + (i * 100)},higher\n")
            );
            var line = Assert.Single((await mara.ScoresAsync(order)).Scores);
            if (i < 5)
            {
                Assert.Null(line.Among);
            }
            else
            {
                Assert.Equal(
                    (5, 18_050m, 18_200m, 18_350m, 1),
                    (line.Among!.Count, line.Among.Lower, line.Among.Median, line.Among.Upper, line.Place)
                );
            }
        }

        var bad = await Assert.ThrowsAsync<ProblemException>(() =>
            mara.TakeScoresAsync(101, Phase.After, "name,unit,value,better\nCopy,MB/s,fast,higher\n"u8.ToArray())
        );
        Assert.Equal("score-line", bad.Code);
    }

    [Fact]
    public async Task A_fault_is_watched_and_its_end_recorded()
    {
        var order = await CheckedAsync("NF14-7712", 8, 8);
        Assert.Equal(Stage.Watching, (await mara.BeginWatchAsync(order, new WatchRequest(14, 3, "It freezes"))).Stage);
        var card = (await mara.BoardAsync()).Cards.Single(c => c.Number == order);
        Assert.Equal(DateOnly.FromDateTime(DateTime.UtcNow).AddDays(3), card.DueOn);
        await mara.NoteWatchAsync(order, new WatchNoteRequest(WatchSign.None, DateOnly.FromDateTime(DateTime.UtcNow)));
        Assert.Equal(
            (403, "lead-ends-watch"),
            await Story.Refused(mara.EndWatchAsync(order, new WatchEndRequest(WatchOutcome.Gone)))
        );
        Assert.Equal(
            (Stage.Checking, NextKind.MarkReady),
            await fixture.Service.As("ines").EndWatchAsync(order, new WatchEndRequest(WatchOutcome.Gone)) is var ended
                ? (ended.Stage, ended.Next.Kind)
                : default
        );
        Assert.Equal(WatchOutcome.Gone, (await mara.OrderAsync(order)).Watch!.Outcome);
    }

    [Fact]
    public async Task Two_hands_in_one_dummy_at_once_are_told()
    {
        await mara.MakeDummyAsync(new DummyRequest("twice", "FJ14"));
        Assert.Equal(
            "dummy-taken",
            (
                await Assert.ThrowsAsync<ProblemException>(() => mara.MakeDummyAsync(new DummyRequest("twice", "FJ14")))
            ).Code
        );
        Assert.Equal(
            "no-such-dummy",
            (await Assert.ThrowsAsync<ProblemException>(() => mara.DummyAsync("nobody"))).Code
        );
        Assert.Equal(
            "dummy-closed",
            (await Assert.ThrowsAsync<ProblemException>(() => Act("twice", new(DummyAct.Pull, "S2")))).Code
        );
    }

    // A plan that was run; then what the slots show.
    private async Task<int> CheckedAsync(string serial, int s2, int s1)
    {
        var order = (
            await mara.TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", "It freezes", Serial: serial))
        ).Order;
        SeenReading Seen(int lower, int upper) =>
            new(
                MemorySize.Gigabytes(lower + upper),
                null,
                [
                    new("S1", lower == 0 ? null : new MemoryModule(MemorySize.Gigabytes(lower))),
                    new("S2", new MemoryModule(MemorySize.Gigabytes(upper))),
                ]
            );
        await mara.TakeReadingAsync(order, new ReadingRequest(Phase.Before, Seen: Seen(0, 8)));
        await mara.SetPlanAsync(
            order,
            new PlanRequest([new SlotChange("S1", new MemoryModule(MemorySize.Gigabytes(8), "DDR4", "SO-DIMM"))])
        );
        await mara.AgreeAsync(order, new AgreeRequest("M. Alto"));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        await mara.TakeReadingAsync(order, new ReadingRequest(Phase.After, Seen: Seen(s1, s2)));
        return order;
    }

    private async Task ArrangeAsync(string name, IReadOnlyList<SwapPlace> places)
    {
        var serials = (await mara.DummyAsync(name))
            .Positions.Where(p => p.IsSlot && p.Occupant is not null)
            .ToDictionary(p => p.Position, p => p.Fault);
        foreach (var slot in serials.Keys)
        {
            await Act(name, new(DummyAct.Pull, slot));
        }

        // The faulty one is known here by its fault; the other modules are alike.
        foreach (var place in places)
        {
            await Act(name, new(DummyAct.Fit, place.Slot, Gigabytes: 16));
            if (place.Module == "S3")
            {
                await Act(name, new(DummyAct.Spoil, place.Slot, How: "silent"));
            }
        }
    }

    private Task<DummyView> Act(string name, DummyActRequest act) => mara.ActOnDummyAsync(name, act);

    private async Task Send(string name, int order, Phase phase) =>
        await mara.SendDummyAsync(name, (await mara.InviteAsync(order, new InviteRequest(phase))).Code);
}
