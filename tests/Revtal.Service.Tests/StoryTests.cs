using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The job from take-in to hand-back, through the client, on the real captures.</summary>
public sealed class StoryTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly ServiceProcess service = fixture.Service;

    [Fact]
    public async Task One_upgrade_from_take_in_to_hand_back()
    {
        var (desk, mara) = (service.As("sanne"), service.As("mara"));
        var number = (await desk.TakeInAsync(Story.TakeIn)).Order;
        Assert.Equal(
            Stage.Measured,
            (await mara.TakeReadingAsync(number, Story.Read(Phase.Before, "vm-before-4g"))).Stage
        );
        var preview = await mara.PreviewAsync(number, Story.Plan);
        Assert.Equal(MemorySize.Gigabytes(20), preview.Plan.Expectation.Installed);
        Assert.Equal(Stage.Planned, (await mara.SetPlanAsync(number, Story.Plan)).Stage);
        Assert.Equal(Stage.Agreed, (await desk.AgreeAsync(number, new AgreeRequest("J. Marsk, by telephone"))).Stage);

        var early = await Story.Refused(mara.ConfirmAsync(number, StepId.Parse("pull.S2"), new ConfirmRequest()));
        Assert.Equal((409, "step-waits"), early);
        await mara.ConfirmAsync(number, StepId.Parse("prepare.bench"), new ConfirmRequest());
        Assert.Equal(
            (409, "power-not-isolated"),
            await Story.Refused(mara.ConfirmAsync(number, StepId.Parse("pull.S2"), new ConfirmRequest()))
        );
        await Story.RunAsync(
            mara,
            number,
            async step =>
            {
                if (step.Id.ToString() == "close.keyboard")
                {
                    Assert.Equal(
                        (409, "tally-open"),
                        await Story.Refused(mara.ConfirmAsync(number, step.Id, new ConfirmRequest(1)))
                    );
                }
            }
        );

        var receipt = await mara.TakeReadingAsync(number, Story.Read(Phase.After, "vm-after-20g"));
        Assert.Equal((Stage.Checking, NextKind.MarkReady), (receipt.Stage, receipt.Next.Kind));
        var check = await mara.CheckAsync(number);
        Assert.Equal((Verdict.AsPlanned, "20 GB installed, as planned."), (check.Verdict, check.Sentence));
        await mara.ReadyAsync(number, new ReasonRequest());
        Assert.Equal(
            Stage.HandedBack,
            (await desk.HandBackAsync(number, new HandBackRequest("J. Marsk", "none"))).Stage
        );

        var order = await desk.OrderAsync(number);
        Assert.Equal(Enumerable.Range(1, order.Head), order.Journal.Select(l => l.Sequence));
        Assert.Equal(["sanne", "mara", "mara", "sanne"], order.Journal.Take(4).Select(l => l.By));
        Assert.DoesNotContain((await desk.BoardAsync()).Cards, c => c.Number == number);
        Assert.Contains((await desk.SearchAsync("Tide-gauge")).Items, c => c.Number == number);
    }

    [Fact]
    public async Task A_module_that_is_not_seen_is_reseated_and_found()
    {
        var (desk, mara, ines) = (service.As("sanne"), service.As("mara"), service.As("ines"));
        var number = (await desk.TakeInAsync(Story.TakeIn with { Model = "PW24" })).Order;
        await mara.TakeReadingAsync(number, Story.Seen(Phase.Before, 4, 0, 4, 0));
        await mara.SetPlanAsync(
            number,
            new PlanRequest([new SlotChange("S2", Story.Module(8)), new SlotChange("S4", Story.Module(8))])
        );
        await desk.AgreeAsync(number, new AgreeRequest("R. Fahr"));
        await Story.RunAsync(mara, number, lead: ines);
        var receipt = await mara.TakeReadingAsync(number, Story.Seen(Phase.After, 4, 8, 4, 0));
        Assert.Equal((NextKind.Reseat, Stage.Checking), (receipt.Next.Kind, receipt.Stage));
        Assert.Equal((403, "lead-decides"), await Story.Refused(mara.ReadyAsync(number, new ReasonRequest("hurry"))));
        await mara.ReseatAsync(number, new ReseatRequest(["S4"]));
        Assert.Equal(
            (409, "run-not-done"),
            await Story.Refused(mara.TakeReadingAsync(number, Story.Seen(Phase.After, 4, 8, 4, 8)))
        );
        await Story.RunAsync(mara, number, lead: ines);
        await mara.TakeReadingAsync(number, Story.Seen(Phase.After, 4, 8, 4, 8));
        Assert.Equal(Verdict.AsPlanned, (await ines.OrderAsync(number)).Check!.Verdict);
    }

    [Fact]
    public async Task A_capture_comes_back_as_it_was_sent()
    {
        var mara = service.As("mara");
        var number = (await mara.TakeInAsync(Story.TakeIn)).Order;
        var receipt = await mara.TakeReadingAsync(number, Story.Read(Phase.Before, "vm-before-4g"));
        var bundle = CaptureBundle.Of(Repository.Capture("vm-before-4g"));
        var stored = System.Text.Json.JsonSerializer.Deserialize<CaptureBundle>(
            await service.Http.GetByteArrayAsync($"/api/v1/orders/{number}/captures/{receipt.Sequence}"),
            Revtal.Core.RevtalJson.Options
        )!;
        Assert.Equal(
            bundle.Files.Select(f => (f.Name, Convert.ToHexString(f.Content))),
            stored.Files.Select(f => (f.Name, Convert.ToHexString(f.Content)))
        );
    }
}
