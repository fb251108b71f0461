using System.Text;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The shelf between many hands, and what orders do to it.</summary>
public sealed class StockTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private static int next;

    private readonly ServiceProcess service = fixture.Service;
    private readonly RevtalClient mara = fixture.Service.As("mara");

    [Fact]
    public async Task Two_orders_never_set_aside_the_same_part()
    {
        var number = await KindAsync(received: 4);
        var orders = new List<int>();
        for (var i = 0; i < 6; i++)
        {
            orders.Add(await PlannedAsync(number, "S1"));
        }

        // Six customers agree at the same moment; four parts lie there.
        await Task.WhenAll(orders.Select(o => service.As("sanne").AgreeAsync(o, new AgreeRequest("J. Marsk"))));
        var items = await mara.PartItemsAsync(number);
        Assert.Equal(4, items.Count(i => i.State == PartState.Reserved));
        Assert.Equal(4, items.Select(i => i.Order).Distinct().Count());
        Assert.All(items, i => Assert.Contains(i.Order!.Value, orders));
        var line = (await mara.PartAsync(number)).Line;
        Assert.Equal((0, 4, 2, 2), (line.Free, line.Reserved, line.Wanted, line.Short));
        await LedgerAddsUpAsync();
    }

    [Fact]
    public async Task A_part_follows_its_order_to_the_customer_and_a_cancelled_order_lets_go()
    {
        var number = await KindAsync(received: 2);
        var (sold, dropped) = (await PlannedAsync(number, "S1"), await PlannedAsync(number, "S1"));
        await mara.AgreeAsync(sold, new AgreeRequest("J. Marsk"));
        await mara.AgreeAsync(dropped, new AgreeRequest("J. Marsk"));
        await mara.CancelAsync(dropped, new ReasonRequest("bought a new one"));
        Assert.Equal([PartState.Reserved, PartState.InStock], (await mara.PartItemsAsync(number)).Select(i => i.State));
        Assert.Equal(
            (409, "part-reserved"),
            await Story.Refused(
                mara.MovePartAsync((await mara.PartItemsAsync(number))[0].Id, new MovePartRequest(PartState.Sold))
            )
        );

        await Story.RunAsync(mara, sold);
        Assert.Equal(PartState.Fitted, (await mara.PartItemsAsync(number, sold)).Single().State);
        await mara.TakeReadingAsync(sold, Story.Seen(Phase.After, 8, 8));
        await mara.ReadyAsync(sold, new ReasonRequest());
        await mara.HandBackAsync(sold, new HandBackRequest("J. Marsk"));
        var item = (await mara.PartItemsAsync(number, sold)).Single();
        Assert.Equal((PartState.Sold, "S1"), (item.State, item.Position!));
        Assert.Equal(
            [
                (null, PartState.InStock),
                (PartState.InStock, PartState.Reserved),
                (PartState.Reserved, PartState.Fitted),
                (PartState.Fitted, PartState.Sold),
            ],
            (await mara.LedgerAsync(item.Id)).Select(l => (l.From, l.To))
        );
        await LedgerAddsUpAsync();
    }

    [Fact]
    public async Task A_plan_made_anew_lets_go_and_a_step_taken_back_takes_the_part_back()
    {
        var number = await KindAsync(received: 1);
        var order = await PlannedAsync(number, "S1");
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S2", Reseat: true)]));
        Assert.Equal(PartState.InStock, (await mara.PartItemsAsync(number)).Single().State);
        await mara.SetPlanAsync(order, Wish(number, "S1"));
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        while ((await mara.OrderAsync(order)).Run!.NextStep is { } step && step != StepId.Fit("S1"))
        {
            await ConfirmAsync(order, step.ToString());
        }

        await ConfirmAsync(order, "fit.S1");
        await mara.TakeBackAsync(order, StepId.Parse("fit.S1"), new ReasonRequest("the wrong one"));
        Assert.Equal(PartState.Reserved, (await mara.PartItemsAsync(number)).Single().State);
        await ConfirmAsync(order, "fit.S1");
        Assert.Equal(PartState.Fitted, (await mara.PartItemsAsync(number)).Single().State);
        await LedgerAddsUpAsync();
    }

    [Fact]
    public async Task A_serial_is_one_part_and_another_orders_part_is_not_planned()
    {
        var number = await KindAsync(received: 0);
        var serial = $"{number}-X";
        await mara.ReceiveAsync(number, new ReceiveRequest(Serials: [serial]));
        Assert.Equal(
            (409, "serial-here"),
            await Story.Refused(mara.ReceiveAsync(number, new ReceiveRequest(Serials: [serial])))
        );
        Assert.Equal(
            (409, "serial-here"),
            await Story.Refused(mara.ReceiveAsync(number, new ReceiveRequest(Serials: [$"{number}-Y", $"{number}-Y"])))
        );
        Assert.Single(await mara.PartItemsAsync(number));
        var mine = new PlanRequest([
            new SlotChange("S1", new MemoryModule(MemorySize.Zero, PartNumber: new PartNumber(number), Serial: serial)),
        ]);
        var first = await MeasuredAsync();
        await mara.SetPlanAsync(first, mine);
        await mara.AgreeAsync(first, new AgreeRequest("J. Marsk"));
        var second = await MeasuredAsync();
        Assert.Equal((409, "part-reserved"), await Story.Refused(mara.SetPlanAsync(second, mine)));
        Assert.Equal((409, "part-reserved"), await Story.Refused(mara.PreviewAsync(second, mine)));
    }

    [Fact]
    public async Task The_same_delivery_sent_again_comes_in_once()
    {
        var number = await KindAsync(received: 0);
        var key = Guid.NewGuid();
        var first = await mara.ReceiveAsync(number, new ReceiveRequest(3, Cost: 20), key);
        var again = await mara.ReceiveAsync(number, new ReceiveRequest(3, Cost: 20), key);
        Assert.Equal(first.Select(i => i.Id), again.Select(i => i.Id));
        Assert.Equal(3, (await mara.PartItemsAsync(number)).Count);
    }

    [Fact]
    public async Task A_kit_stays_together_until_it_is_split()
    {
        var single = await KindAsync(received: 0);
        var kit = await KindAsync(received: 1, pieces: 2);
        Assert.Equal((409, "kit-together"), await Story.Refused(PlannedAsync(kit, "S1")));
        var items = await mara.PartItemsAsync(kit);
        Assert.Equal([items[0].Id, items[0].Id], items.Select(i => i.Kit!.Value));
        Assert.Equal(1, (await mara.PartAsync(kit)).Line.Free);
        Assert.Equal((422, "kit-into"), await Story.Refused(mara.SplitKitAsync(items[0].Id, new SplitRequest(kit))));
        Assert.Equal(
            (409, "kit-not-whole"),
            await Story.Refused(mara.SplitKitAsync(items[1].Id, new SplitRequest(single)))
        );
        Assert.All(
            await mara.SplitKitAsync(items[0].Id, new SplitRequest(single)),
            i => Assert.Equal((new PartNumber(single), (long?)null), (i.Kind, i.Kit))
        );
        var whole = await PlannedAsync(single, "S1", "S2");
        await mara.AgreeAsync(whole, new AgreeRequest("J. Marsk"));
        Assert.Equal(2, (await mara.PartItemsAsync(single, whole)).Count(i => i.State == PartState.Reserved));
        await LedgerAddsUpAsync();
    }

    [Fact]
    public async Task What_comes_out_may_be_bought_in_as_used_stock()
    {
        var number = await KindAsync(received: 1);
        var order = await MeasuredAsync(0, 8);
        await mara.SetPlanAsync(order, Wish(number, "S2"));
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        Assert.Equal(
            (409, "wrong-stage"),
            await Story.Refused(mara.SettleAsync(order, "S2", new OldPartRequest(PartFate.Kept)))
        );
        await Story.RunAsync(mara, order);
        Assert.Equal(
            (422, "buy-in-facts"),
            await Story.Refused(mara.SettleAsync(order, "S2", new OldPartRequest(PartFate.BoughtIn)))
        );
        Assert.Equal(
            (422, "nothing-comes-out"),
            await Story.Refused(mara.SettleAsync(order, "S1", new OldPartRequest(PartFate.Kept)))
        );
        await mara.SettleAsync(
            order,
            "S2",
            new OldPartRequest(PartFate.BoughtIn, Grade: "B", Tested: "two passes, no fault", Price: 6)
        );
        var used = (await mara.PartItemsAsync(state: PartState.InStock)).Last(i => i.Grade == "B");
        Assert.Equal((6m, "Tide-gauge office"), (used.Cost!.Value, used.Supplier!));
        Assert.Contains($"order {order}", (await mara.LedgerAsync(used.Id)).Single().Note!, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("number,name,what,size\nX1,x,module,16 GB\n", "csv-columns")]
    [InlineData("number,name,what,size,price,colour\nX1,x,module,16 GB,1,red\n", "csv-columns")]
    [InlineData("", "csv-empty")]
    public async Task A_file_with_the_wrong_columns_is_refused(string csv, string code) =>
        Assert.Equal((422, code), await Story.Refused(mara.ImportPartsAsync("catalogue", Encoding.UTF8.GetBytes(csv))));

    [Fact]
    public async Task A_file_is_taken_in_whole_or_not_at_all_and_tells_before()
    {
        var number = $"CSV-{Interlocked.Increment(ref next)}";
        var head = "number,name,what,size,speed,form,price,least\n";
        var good = $"{number},\"Module, 16 GB\",module,16 GB,PC4-25600,SO-DIMM,49.50,2\n";
        var bad =
            head
            + good
            + $"{number}-2,x,module,13 GB,DDR4-3200,SO-DIMM,49.50,\n{number}-3,x,module,16 "
            + $"GB,DDR4-3200,SO-DIMM,-1,\n{number}-4,x,module,many,,SO-DIMM,5,\n{number},again,module,16 "
            + $"GB,,SO-DIMM,5,\n{number}-5,x,cable,16 GB,,,5,\n";
        var told = await Import(bad, dryRun: false);
        Assert.Equal([3, 4, 5, 6, 7], told.Problems.Select(p => p.Line));
        Assert.Empty(told.Changes);
        Assert.Equal((404, "no-such-part"), await Story.Refused(mara.PartAsync(number)));

        Assert.Single((await Import(head + good, dryRun: true)).Changes);
        Assert.Equal((404, "no-such-part"), await Story.Refused(mara.PartAsync(number)));
        await Import(head + good, dryRun: false);
        var kind = (await mara.PartAsync(number)).Line.Kind;
        Assert.Equal(
            ("DDR4", 3200, 49.50m, 2),
            (kind.Module!.Generation!, kind.Module.RatedSpeed!.Value, kind.Price, kind.Least)
        );
        Assert.Equal(
            (0, 1),
            (await Import(head + good, dryRun: true)) is var same ? (same.Changes.Count, same.Unchanged) : default
        );
        Assert.Contains(
            "49.50 to 45.00",
            (await Import(head + good.Replace("49.50", "45", StringComparison.Ordinal), dryRun: true))
                .Changes.Single()
                .What,
            StringComparison.Ordinal
        );

        // What leaves as a file comes back as the same.
        var all = await mara.ExportPartsAsync("catalogue");
        Assert.Empty((await mara.ImportPartsAsync("catalogue", all, dryRun: true)).Changes);

        Task<CsvImported> Import(string csv, bool dryRun) =>
            mara.ImportPartsAsync("catalogue", Encoding.UTF8.GetBytes(csv), dryRun);
    }

    [Fact]
    public async Task A_million_rows_and_a_picture_are_refused_at_once()
    {
        var rows = new StringBuilder("number,serial\n");
        for (var i = 0; i < 30_000; i++)
        {
            rows.Append("X,").Append(i).Append('\n');
        }

        Assert.Equal(
            (422, "csv-too-long"),
            await Story.Refused(mara.ImportPartsAsync("shelf", Encoding.UTF8.GetBytes(rows.ToString())))
        );
        using var large = new HttpRequestMessage(HttpMethod.Post, "api/v1/parts/shelf.csv")
        {
            Content = new ByteArrayContent(new byte[9 << 20]),
        };
        large.Headers.Authorization = fixture.Service.Bearer("mara");
        large.Headers.ExpectContinue = true;
        Assert.Equal(413, (int)(await service.Http.SendAsync(large)).StatusCode);
        Assert.Equal(
            (422, "csv-unreadable"),
            await Story.Refused(mara.ImportPartsAsync("shelf", [0x89, 0x50, 0xFF, 0xFE, 0x0A, 0x2C]))
        );
    }

    [Fact]
    public async Task Parts_come_in_from_a_file_line_by_line()
    {
        var number = await KindAsync(received: 0);
        var csv = Encoding.UTF8.GetBytes(
            $"number,serial,cost,place\n{number},{number}-1,20.50,drawer 3\n{number},{number}-2,20.50,drawer "
                + "3\nNOPE-1,x,1,\n"
        );
        var told = await mara.ImportPartsAsync("shelf", csv);
        Assert.Equal((4, "NOPE-1"), (told.Problems.Single().Line, told.Problems.Single().Number));
        Assert.Empty(await mara.PartItemsAsync(number));
        await mara.ImportPartsAsync(
            "shelf",
            Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(csv).Replace("NOPE-1,x,1,\n", "", StringComparison.Ordinal))
        );
        Assert.Equal(
            [($"{number}-1", "drawer 3"), ($"{number}-2", "drawer 3")],
            (await mara.PartItemsAsync(number)).Select(i => (i.Serial!, i.Place!))
        );
        Assert.Equal(
            2,
            (
                await mara.ImportPartsAsync(
                    "shelf",
                    Encoding.UTF8.GetBytes(
                        Encoding.UTF8.GetString(csv).Replace("NOPE-1,x,1,\n", "", StringComparison.Ordinal)
                    ),
                    dryRun: true
                )
            )
                .Problems
                .Count
        );
    }

    [Fact]
    public async Task What_cannot_be_is_refused()
    {
        var module = new MemoryModule(MemorySize.Gigabytes(16), "DDR4");
        Assert.Equal(
            (422, "price-impossible"),
            await Story.Refused(mara.PutPartAsync("BAD-1", new PartRequest("x", -5, module)))
        );
        Assert.Equal((422, "part-what"), await Story.Refused(mara.PutPartAsync("BAD-1", new PartRequest("x", 5))));
        Assert.Equal(
            (422, "size-impossible"),
            await Story.Refused(
                mara.PutPartAsync("BAD-1", new PartRequest("x", 5, module with { Size = MemorySize.Gigabytes(13) }))
            )
        );
        Assert.Equal(
            (422, "count-impossible"),
            await Story.Refused(mara.PutPartAsync("BAD-1", new PartRequest("x", 5, module, Pieces: 0)))
        );
        Assert.Equal((404, "no-such-part"), await Story.Refused(mara.ReceiveAsync("BAD-1", new ReceiveRequest(1))));
        var number = await KindAsync(received: 1);
        Assert.Equal(
            (422, "receive-impossible"),
            await Story.Refused(mara.ReceiveAsync(number, new ReceiveRequest(1, Cost: -1)))
        );
        Assert.Equal(
            (422, "receive-impossible"),
            await Story.Refused(mara.ReceiveAsync(number, new ReceiveRequest(5_000)))
        );
        Assert.Equal(
            (404, "no-such-item"),
            await Story.Refused(mara.MovePartAsync(999_999, new MovePartRequest(PartState.Faulty)))
        );
        var item = (await mara.PartItemsAsync(number)).Single();
        Assert.Equal(
            (409, "part-way"),
            await Story.Refused(mara.MovePartAsync(item.Id, new MovePartRequest(PartState.Fitted)))
        );
        await mara.MovePartAsync(item.Id, new MovePartRequest(PartState.Scrapped, Note: "bent"));
        Assert.Equal(
            (409, "part-way"),
            await Story.Refused(mara.MovePartAsync(item.Id, new MovePartRequest(PartState.InStock)))
        );
    }

    // Every part stands where its last line left it, and every line begins where the one before ended.
    private async Task LedgerAddsUpAsync()
    {
        var lines = await mara.LedgerAsync();
        var items = await mara.PartItemsAsync();
        Assert.Equal(
            items.Select(i => (i.Id, i.State)),
            lines.GroupBy(l => l.Item).OrderBy(g => g.Key).Select(g => (g.Key, g.Last().To))
        );
        Assert.All(
            lines.GroupBy(l => l.Item),
            g => Assert.Equal([null, .. g.SkipLast(1).Select(l => (PartState?)l.To)], g.Select(l => l.From))
        );
        Assert.All(
            lines.Where(l => l.From != l.To),
            l => Assert.True(StockRules.IsWay(l.From, l.To), $"{l.From} to {l.To}")
        );
    }

    private async Task<string> KindAsync(int received, int pieces = 1)
    {
        var number = $"TK-{Interlocked.Increment(ref next)}";
        await mara.PutPartAsync(
            number,
            new PartRequest(
                "8 GB module",
                20,
                new MemoryModule(MemorySize.Gigabytes(8), "DDR4", "SO-DIMM"),
                Pieces: pieces
            )
        );
        if (received > 0)
        {
            await mara.ReceiveAsync(number, new ReceiveRequest(received, Cost: 11));
        }

        return number;
    }

    private static PlanRequest Wish(string number, params string[] slots) =>
        new([
            .. slots.Select(s => new SlotChange(
                s,
                new MemoryModule(MemorySize.Zero, PartNumber: new PartNumber(number))
            )),
        ]);

    private async Task<int> MeasuredAsync(params int[] gigabytes)
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        await mara.TakeReadingAsync(order, Story.Seen(Phase.Before, gigabytes.Length > 0 ? gigabytes : [0, 8]));
        return order;
    }

    private async Task<int> PlannedAsync(string number, params string[] slots)
    {
        var order = await MeasuredAsync();
        await mara.SetPlanAsync(order, Wish(number, slots));
        return order;
    }

    private async Task ConfirmAsync(int order, string step)
    {
        var loose = (await mara.OrderAsync(order))
            .Run!.Steps.Single(s => s.Step.Id == StepId.Parse(step))
            .Step.LooseFasteners;
        await mara.ConfirmAsync(order, StepId.Parse(step), new ConfirmRequest(loose > 0 ? loose : null));
    }
}
