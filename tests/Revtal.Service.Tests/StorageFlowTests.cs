using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A drive that is nearly full, from the remark to the next visit.</summary>
public sealed class StorageFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");
    private readonly RevtalClient sanne = fixture.Service.As("sanne");

    [Fact]
    public async Task A_full_drive_is_told_noted_for_later_found_again_and_planned_at_the_next_visit()
    {
        const string Serial = "PW-FULL";
        await mara.PutPartAsync(
            "SF-1T",
            new PartRequest("1 TB", 80, Drive: new Drive(DriveSize.Parse("1 TB"), "2.5 in", null, "SATA 6 Gb/s", 7))
        );
        var order = await ReadAsync(Serial);
        var seen = await mara.OrderAsync(order);
        Assert.Equal(
            ("D1", 92, false),
            (seen.NearlyFull[0].Drive.Bay, seen.NearlyFull[0].Drive.Percent, seen.NearlyFull[0].IsNoted)
        );
        var board = await mara.BoardAsync();
        Assert.Equal(85, board.NearlyFullPercent);
        Assert.Equal(92, board.Cards.Single(c => c.Number == order).Fullest!.Percent);

        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S1", Reseat: true)]));
        Assert.Contains((await mara.OrderAsync(order)).Plan!.Notes, n => n.Code == "nearly-full");
        var preview = await mara.PreviewAsync(order, new PlanRequest([new SlotChange("S1", Reseat: true)]));
        Assert.Contains(preview.Plan.Notes, n => n.Code == "nearly-full");

        var options = await mara.DriveOptionsAsync(order, later: true);
        var larger = options.Options.Single(o =>
            o.Option.Way == DriveWay.Replace && $"{o.Option.Buys!.Number}" == "SF-1T"
        );
        Assert.Equal(80, larger.Option.Price);
        Assert.True(larger.Total > 80);
        Assert.Equal((422, "drive-size-unreadable"), await Story.Refused(mara.DriveOptionsAsync(order, "a lot")));
        Assert.Equal(
            (422, "wrong-drive-form"),
            await Story.Refused(
                mara.NoteLaterAsync(
                    order,
                    new LaterRequest([
                        new SlotChange(
                            "D1",
                            Drive: new DriveWish(new Drive(DriveSize.Parse("8 TB"), "3.5 in"), DataPath.CopyFirst)
                        ),
                    ])
                )
            )
        );
        await mara.NoteLaterAsync(order, new LaterRequest(larger.Option.Changes, "after the tide tables"));
        seen = await mara.OrderAsync(order);
        Assert.Equal(larger.Total, seen.Later!.Price);
        Assert.True(seen.NearlyFull[0].IsNoted);
        Assert.Null((await mara.BoardAsync()).Cards.Single(c => c.Number == order).Fullest);
        Assert.Equal(order, Assert.Single((await mara.SearchAsync("tide tables")).Items).Number);
        Assert.Contains((await mara.SearchAsync(null, later: true)).Items, c => c.Number == order);

        await sanne.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        await mara.TakeReadingAsync(order, Seen(Phase.After));
        await mara.ReadyAsync(order, new ReasonRequest("seen"));
        await sanne.HandBackAsync(order, new HandBackRequest("J. Marsk"));

        var noted = (await sanne.MachineAsync(Serial)).Noted!;
        Assert.Equal((order, "D1"), (noted.Order, noted.Visit.Changes[0].Slot));
        var next = await ReadAsync(Serial);
        await mara.PutPartAsync(
            "SF-1T",
            new PartRequest("1 TB", 60, Drive: new Drive(DriveSize.Parse("1 TB"), "2.5 in", null, "SATA 6 Gb/s", 7))
        );
        var today = await mara.PreviewAsync(next, new PlanRequest(noted.Visit.Changes));
        Assert.Equal(noted.Visit.Price - 20, today.Quote.Total);
        await mara.SetPlanAsync(next, new PlanRequest(noted.Visit.Changes));
        Assert.Equal(["D1"], (await mara.OrderAsync(next)).CopyBays);
        Assert.DoesNotContain((await mara.OrderAsync(next)).Plan!.Notes, n => n.Code == "nearly-full");

        await sanne.DropLaterAsync(order, new LaterDropRequest("done with order " + next));
        Assert.Empty((await mara.SearchAsync("tide tables")).Items);
        Assert.Equal((409, "nothing-noted"), await Story.Refused(sanne.DropLaterAsync(order, new LaterDropRequest())));
    }

    private async Task<int> ReadAsync(string serial)
    {
        var taken = await sanne.TakeInAsync(Story.TakeIn with { Model = "PW24", Serial = serial });
        await mara.TakeReadingAsync(taken.Order, Seen(Phase.Before));
        return taken.Order;
    }

    private static ReadingRequest Seen(Phase phase) =>
        new(
            phase,
            Seen: new SeenReading(
                MemorySize.Gigabytes(8),
                Slots:
                [
                    new SeenSlot("S1", new MemoryModule(MemorySize.Gigabytes(8), "DDR4", "SO-DIMM")),
                    .. new[] { "S2", "S3", "S4" }.Select(s => new SeenSlot(s, null)),
                ],
                Drives:
                [
                    new SeenDrive(
                        "D1",
                        new Drive(DriveSize.Parse("500 GB"), "2.5 in", null, "SATA 6 Gb/s", Serial: "BS-77"),
                        DriveSize.Parse("462 GB")
                    ),
                ]
            )
        );
}
