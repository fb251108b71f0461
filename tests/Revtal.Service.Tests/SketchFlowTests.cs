using System.Net.Http.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Dummies;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>
/// Machines that nobody knows: they tell of themselves, are taken in under a sketch, and what the bench does is the
/// next machine's guide. The truth is a machine whose guide the service never saw.
/// </summary>
public sealed class SketchFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");
    private readonly RevtalClient ines = fixture.Service.As("ines");

    [Fact]
    public async Task The_first_of_a_model_writes_its_guide_and_the_second_is_opened_by_it()
    {
        var invite = await mara.InviteArrivalAsync(new ArrivalInviteRequest());
        Assert.StartsWith("NEW-", invite.Code, StringComparison.Ordinal);
        var sent = await fixture.Service.Http.PostAsJsonAsync(
            $"c/{invite.Code}",
            Capture("Sund 9", "SU9-1"),
            RevtalJson.Options
        );
        sent.EnsureSuccessStatusCode();
        var told = Assert.Single(await mara.ArrivalsAsync(), a => a.Id == invite.Id).Told!;
        Assert.Equal(("Sundby", "Sund 9", "SU9-1"), (told.Maker, told.Product, told.Serial));
        Assert.Empty(told.Models);

        var first = await mara.TakeInAsync(
            new TakeInRequest(
                null,
                "Ferry ticket desk",
                "slow",
                NewModel: new NewModel("Sundby", "Sund 9", "laptop"),
                Arrival: invite.Id
            )
        );
        Assert.Equal(Stage.Measured, first.Stage);
        var order = await mara.OrderAsync(first.Order);
        Assert.Equal(("S9", true, "SU9-1"), (order.Model.Code[^2..], order.Model.Sketch, order.Intake.Serial));
        Assert.DoesNotContain(await mara.ArrivalsAsync(), a => a.Id == invite.Id);

        await AgreeAsync(first.Order);
        await IsolateAsync(first.Order);
        await OffAsync(first.Order, "bottom cover", new CameOffFasteners(7, "T5", 4));
        await OffAsync(first.Order, "shield", new CameOffFasteners(3, "PH00", 2, Hidden: "under the foil"));
        await mara.PositionAsync(first.Order, new PositionRequest(new SeenPosition("S2", Angle: 25)));
        await FinishAsync(first.Order);

        var learnt = await mara.GuideAsync(order.Model.Code);
        Assert.Equal(2, learnt.Revision);
        Assert.Equal(["bottom-cover", "shield"], Reach.To(learnt.Guide, ["S2"]).Select(r => r.Id));
        Assert.Equal(25, learnt.Guide.Slot("S2")!.Angle);

        // The second tells the same product: it is recognised, and nothing has to be told of its way in.
        var again = await mara.TakeArrivalAsync(Capture("Sund 9", "SU9-2"));
        Assert.Equal((order.Model.Code, true), (again.Told!.Models[0].Code, again.Told.Models[0].Reported));
        var second = await mara.TakeInAsync(
            new TakeInRequest(order.Model.Code, "Choir's archive", "slow", Arrival: again.Id)
        );
        await AgreeAsync(second.Order);
        var steps = (await mara.OrderAsync(second.Order)).Run!.Steps.Select(s => s.Step.Id.ToString()).ToArray();
        Assert.Equal(
            ["open.bottom-cover", "open.shield", "fit.S2", "close.shield", "close.bottom-cover"],
            steps.Where(s => s.Split('.')[0] is "open" or "fit" or "close" or "uncover")
        );

        // A lead publishes it once it tells what a guide must.
        var refused = await Assert.ThrowsAsync<ProblemException>(() => ines.PublishSketchAsync(order.Model.Code));
        Assert.Equal("guide-problems", refused.Code);
        Assert.Equal(
            "lead-publishes",
            (await Assert.ThrowsAsync<ProblemException>(() => mara.PublishSketchAsync(order.Model.Code))).Code
        );
    }

    [Fact]
    public async Task A_machine_that_told_is_taken_in_once_also_when_the_answer_was_lost()
    {
        var arrival = await mara.TakeArrivalAsync(Capture("FJ14", "FJ14-88"));
        Assert.Equal("FJ14", arrival.Told!.Models[0].Code);
        var request = new TakeInRequest("FJ14", "Letterpress printer", "slow", Arrival: arrival.Id);
        var key = Guid.NewGuid();
        var once = await mara.TakeInAsync(request, key);
        var twice = await mara.TakeInAsync(request, key);
        Assert.Equal((once.Order, once.Sequence), (twice.Order, twice.Sequence));
        Assert.Equal(2, (await mara.OrderAsync(once.Order)).Journal.Count);
        Assert.Equal(
            "arrival-used",
            (await Assert.ThrowsAsync<ProblemException>(() => mara.TakeInAsync(request, Guid.NewGuid()))).Code
        );
        // The next time it is known, and what is open is said.
        var back = await mara.TakeArrivalAsync(Capture("FJ14", "FJ14-88"));
        Assert.Equal(once.Order, Assert.Single(back.Told!.Machine!.Orders).Number);
    }

    [Fact]
    public async Task Words_that_contradict_what_it_told_are_said_at_once()
    {
        var arrival = await mara.TakeArrivalAsync(Capture("Sund 9", "SU9-3"));
        var held = await mara.ArrivalAsync(arrival.Id, "QT40", "SU9-4");
        Assert.Contains(held.Told!.Doubts, d => d.Contains("SU9-3", StringComparison.Ordinal));
        Assert.Empty((await mara.ArrivalAsync(arrival.Id, serial: "SU9-3")).Told!.Doubts);
    }

    [Fact]
    public async Task What_cannot_be_read_is_refused_and_leaves_no_machine_waiting()
    {
        var waiting = (await mara.ArrivalsAsync()).Count;
        var broken = CaptureBundle.Of([new CaptureFile("DMI", new byte[] { 1, 2, 3 })]);
        await Assert.ThrowsAsync<ProblemException>(() => mara.TakeArrivalAsync(broken));
        var invite = await mara.InviteArrivalAsync(new ArrivalInviteRequest());
        var sent = await fixture.Service.Http.PostAsJsonAsync($"c/{invite.Code}", broken, RevtalJson.Options);
        Assert.Equal(422, (int)sent.StatusCode);
        // The code opens still, and once.
        var whole = Capture("Sund 9", "SU9-5");
        (
            await fixture.Service.Http.PostAsJsonAsync($"c/{invite.Code}", whole, RevtalJson.Options)
        ).EnsureSuccessStatusCode();
        sent = await fixture.Service.Http.PostAsJsonAsync($"c/{invite.Code}", whole, RevtalJson.Options);
        Assert.Equal(404, (int)sent.StatusCode);
        Assert.Equal(waiting + 1, (await mara.ArrivalsAsync()).Count);
        Assert.Equal(
            "text-missing",
            (
                await Assert.ThrowsAsync<ProblemException>(() =>
                    mara.TakeInAsync(new TakeInRequest(null, "Choir's archive", "slow"))
                )
            ).Code
        );
    }

    [Fact]
    public async Task An_order_goes_on_by_what_another_taught_where_nothing_done_is_contradicted()
    {
        var arrival = await mara.TakeArrivalAsync(Capture("Havn 3", "HA3-1"));
        var model = new NewModel("Sundby", "Havn 3", "laptop");
        var first = await mara.TakeInAsync(
            new TakeInRequest(null, "Ferry ticket desk", "slow", NewModel: model, Arrival: arrival.Id)
        );
        var code = (await mara.OrderAsync(first.Order)).Model.Code;
        var other = await mara.TakeArrivalAsync(Capture("Havn 3", "HA3-2"));
        var second = await mara.TakeInAsync(new TakeInRequest(code, "Choir's archive", "slow", Arrival: other.Id));
        foreach (var order in new[] { first.Order, second.Order })
        {
            await AgreeAsync(order);
            await IsolateAsync(order);
        }

        await OffAsync(first.Order, "hatch", new CameOffFasteners(2, "PH0", 3));
        await FinishAsync(first.Order);

        // The second is isolated and no more: it goes on by the way that the first found.
        var look = await mara.AdoptionAsync(second.Order);
        Assert.Equal((2, null as string, false), (look.Revision, look.WhyNot, look.PlanDropped));
        Assert.Contains("Take off the hatch", look.New);
        await mara.AdoptAsync(second.Order, new AdoptRequest());
        var run = (await mara.OrderAsync(second.Order)).Run!;
        Assert.Equal("open.hatch", run.NextStep!.Value.ToString());
        Assert.Equal(
            "same-revision",
            (await Assert.ThrowsAsync<ProblemException>(() => mara.AdoptAsync(second.Order, new AdoptRequest(2)))).Code
        );
    }

    // A machine as its firmware and system tell it; the service knows no guide of it.
    private static CaptureBundle Capture(string product, string serial)
    {
        var like = Repository.Guide("FJ14");
        var machine = like with
        {
            Model = new ModelFacts("Sundby", product, product, "laptop", null, null),
            Drives = [],
        };
        return DummyReport.Memory(
            machine,
            DummyMachine.Make(machine, "truth", null, serial) with
            {
                Slots = new Dictionary<string, DummyFitted> { ["S1"] = DummyParts.Module(like, 8, null, serial) },
            }
        );
    }

    private async Task AgreeAsync(int order)
    {
        await mara.SetPlanAsync(
            order,
            new PlanRequest([new SlotChange("S2", new MemoryModule(MemorySize.Gigabytes(16), "DDR4", "SO-DIMM", 2666))])
        );
        await mara.AgreeAsync(order, new AgreeRequest("R. Fahr"));
    }

    private async Task IsolateAsync(int order)
    {
        foreach (
            var step in (await mara.OrderAsync(order)).Run!.Steps.Where(s =>
                s.Step.Part is Core.Bench.RunPart.Prepare or Core.Bench.RunPart.Isolate
            )
        )
        {
            await mara.ConfirmAsync(order, step.Step.Id, new ConfirmRequest());
        }
    }

    private Task<Receipt> OffAsync(int order, string name, params CameOffFasteners[] held) =>
        mara.CameOffAsync(order, new CameOffRequest(new CameOffWish(name, held)));

    private async Task FinishAsync(int order)
    {
        while ((await mara.OrderAsync(order)).Run! is { NextStep: { } next } run)
        {
            var step = run.Steps.First(s => s.Step.Id == next).Step;
            await mara.ConfirmAsync(
                order,
                next,
                new ConfirmRequest(step.LooseFasteners > 0 ? step.LooseFasteners : null)
            );
        }
    }
}
