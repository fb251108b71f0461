using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Machines that are worked on together, from the list to the closing list.</summary>
public sealed class BatchFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");
    private readonly RevtalClient sanne = fixture.Service.As("sanne");
    private readonly RevtalClient ines = fixture.Service.As("ines");

    [Fact]
    public async Task Machines_come_in_together_are_planned_alike_agreed_once_and_handed_back()
    {
        await mara.PutPartAsync("BF-8", new PartRequest("8 GB", 20, Module("BF-8")));
        await mara.ReceiveAsync("BF-8", new ReceiveRequest(3, Cost: 10));
        var batch = await TakeInAsync("BF", 5);
        var orders = Enumerable.Range(batch, 5).ToArray();
        Assert.Equal(orders, (await mara.BatchAsync(batch)).Machines.Select(m => m.Card.Number));

        // The fourth holds another module, the fifth has what is wanted.
        int[][] held =
        [
            [0, 4],
            [0, 4],
            [0, 4],
            [4, 4],
            [8, 8],
        ];
        foreach (var (number, sizes) in orders.Zip(held))
        {
            await mara.TakeReadingAsync(number, Story.Seen(Phase.Before, sizes));
        }

        var seen = await mara.BatchAsync(batch);
        Assert.Equal(orders[..3], seen.Likenesses[0].Orders);
        Assert.Equal(3, seen.Likenesses.Count);

        await mara.LeaveBatchAsync(orders[4], new ReasonRequest("it has 16 GB"));
        Assert.Equal((409, "no-batch"), await Story.Refused(mara.LeaveBatchAsync(orders[4], new ReasonRequest("so"))));
        var plan = new BatchPlanRequest([new SlotChange("S1", Fit: Module("BF-8"))]);
        var preview = await mara.PreviewBatchAsync(batch, plan);
        Assert.Equal([null, null, null], preview.Machines.Take(3).Select(m => m.Differs));
        Assert.Contains("from S1", preview.Machines[3].Differs, StringComparison.Ordinal);
        Assert.Equal((4, 1), (preview.Parts[0].Wanted, preview.Parts[0].Short));
        Assert.Equal([orders[3]], preview.Parts[0].Lack);
        Assert.All(await StagesAsync(batch), s => Assert.Equal(Stage.Measured, s));

        await mara.SetPlanAsync(orders[0], new PlanRequest([new SlotChange("S1", Fit: Module("BF-8"))]));
        Assert.Equal(
            3,
            (await mara.PlanBatchAsync(batch, new BatchPlanRequest(Like: orders[0], Note: "as the first"))).Orders.Count
        );
        seen = await mara.BatchAsync(batch);
        Assert.Equal(seen.Machines.Sum(m => m.Total), seen.Quote!.Total);
        Assert.Equal(preview.Quote!.Total, seen.Quote.Total);
        Assert.Equal("it has 16 GB", Assert.Single(seen.Gone).Reason);

        await sanne.AgreeBatchAsync(batch, new BatchAgreeRequest("Dr. Kolb, by mail"));
        Assert.All(await StagesAsync(batch), s => Assert.Equal(Stage.Agreed, s));
        var reserved = await mara.PartItemsAsync("BF-8");
        Assert.Equal(orders[..3], reserved.Select(i => i.Order!.Value).Order());
        var part = Assert.Single((await mara.BatchAsync(batch)).Parts);
        Assert.Equal((4, 3, 1), (part.Wanted, part.SetAside, part.Short));

        await ines.SpreadAsync(batch, new BatchSpreadRequest(["tobi", "mara"]));
        Assert.Equal(
            ["tobi", "tobi", "mara", "mara"],
            (await mara.BatchAsync(batch)).Machines.Select(m => m.Card.Owner)
        );
        Assert.Equal(
            (422, "no-such-hands"),
            await Story.Refused(ines.SpreadAsync(batch, new BatchSpreadRequest(["sanne"])))
        );

        // Step after step while nothing is counted, then machine after machine.
        while ((await mara.BatchRunAsync(batch)).Steps is [{ Together: true, Orders.Count: 4 } step, ..])
        {
            if ((await mara.OrderAsync(batch)).Run!.Timers.Count > 0)
            {
                break;
            }

            await mara.ConfirmBatchAsync(batch, step.Id, new BatchConfirmRequest(step.Orders));
        }

        Assert.All(await StagesAsync(batch), s => Assert.Equal(Stage.OnBench, s));
        foreach (var number in orders[..4])
        {
            await Story.RunAsync(mara, number, lead: ines);
            await mara.TakeReadingAsync(number, Story.Seen(Phase.After, 8, 4));
        }

        await mara.SettleAsync(orders[3], "S1", new OldPartRequest(PartFate.Kept));
        Assert.Equal(4, (await mara.ReadyBatchAsync(batch, new ReasonRequest())).Orders.Count);
        await sanne.HandBackBatchAsync(batch, new HandBackRequest("Dr. Kolb"));
        var totals = (await mara.BatchAsync(batch)).Totals;
        Assert.Equal((4, 4, 0), (totals.Machines, totals.Good, totals.Bad));
        Assert.Equal((20L << 30, 48L << 30), (totals.Before, totals.After));
        Assert.Equal(preview.Quote.Total, totals.Total);
        Assert.DoesNotContain((await mara.BoardAsync()).Batches, b => b.Number == batch);

        var lines = System.Text.Encoding.UTF8.GetString(await mara.BatchReportAsync(batch)).Split('\n');
        Assert.StartsWith("order,serial,stage,memory before,memory after", lines[0], StringComparison.Ordinal);
        Assert.StartsWith($"{batch},BF-1,handed back,{4L << 30},{12L << 30}", lines[1], StringComparison.Ordinal);
        Assert.Equal(4, lines.Skip(1).Count(l => l.Length > 0));
    }

    [Fact]
    public async Task A_list_with_doubles_takes_nothing_in_and_names_the_lines()
    {
        const string List = "serial;condition\nDB-1;\"new; in its box\"\n\nDB-2;\ndb-1;scratched\n";
        var read = await mara.ReadBatchListAsync(List);
        Assert.Equal(["DB-1", "DB-2", "db-1"], read.Lines.Select(l => l.Machine.Serial));
        Assert.Equal("new; in its box", read.Lines[0].Machine.Condition);
        Assert.Equal("It stands on line 1 already.", read.Lines[2].Trouble);
        var before = await HighestAsync();
        Assert.Equal(
            (422, "batch-list"),
            await Story.Refused(sanne.TakeInBatchAsync(Request([.. read.Lines.Select(l => l.Machine)])))
        );
        Assert.Equal(before, await HighestAsync());
        Assert.Equal((422, "csv-columns"), await Story.Refused(mara.ReadBatchListAsync("serial,price\nX,1")));
        Assert.Equal(["A-1", "A-2"], (await mara.ReadBatchListAsync("A-1\nA-2\n")).Lines.Select(l => l.Machine.Serial));
        Assert.Empty((await mara.ReadBatchListAsync("\n\n")).Lines);

        // A model that is not there: none of them is taken in.
        Assert.Equal(
            (404, "no-such-model"),
            await Story.Refused(sanne.TakeInBatchAsync(Request([new("E-1"), new("E-2")]) with { Model = "XX99" }))
        );
        Assert.Equal(before, await HighestAsync());
    }

    [Fact]
    public async Task Five_hundred_machines_come_in_at_once_in_one_row_of_numbers_and_one_more_is_refused()
    {
        BatchMachine[] machines = [.. Enumerable.Range(1, 501).Select(i => new BatchMachine($"M500-{i}"))];
        Assert.Equal((422, "batch-size"), await Story.Refused(sanne.TakeInBatchAsync(Request(machines))));
        var key = Guid.CreateVersion7();
        var taken = await sanne.TakeInBatchAsync(Request(machines[..500]), key);
        Assert.Equal(Enumerable.Range(taken.Batch, 500), taken.Orders.Select(o => o.Order));

        // The answer was lost: the same key takes nothing in twice, and answers with all of them.
        var again = await sanne.TakeInBatchAsync(Request(machines[..500]), key);
        Assert.Equal(taken.Orders.Select(o => o.Position), again.Orders.Select(o => o.Position));
        var view = await mara.BatchAsync(taken.Batch);
        Assert.Equal((500, "not measured yet"), (view.Machines.Count, view.Likenesses[0].Holds));
        Assert.Equal(500, (await mara.BoardAsync()).Batches.Single(b => b.Number == taken.Batch).Orders.Count);
    }

    [Fact]
    public async Task Two_batches_taken_in_at_the_same_moment_do_not_mix_their_numbers()
    {
        var taken = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(b =>
                    sanne.TakeInBatchAsync(Request([.. Serials($"MX{b}", 7).Select(s => new BatchMachine(s))]))
                )
        );
        Assert.All(taken, t => Assert.Equal(Enumerable.Range(t.Batch, 7), t.Orders.Select(o => o.Order)));
        foreach (var batch in taken)
        {
            var serials = (await mara.BatchAsync(batch.Batch)).Machines.Select(m => m.Serial!.Split('-')[0]);
            Assert.Single(serials.Distinct());
        }
    }

    [Fact]
    public async Task What_one_machine_refuses_is_recorded_on_none_and_the_machine_is_named()
    {
        var batch = await TakeInAsync("RF", 3);
        foreach (var number in new[] { batch, batch + 1 })
        {
            await mara.TakeReadingAsync(number, Story.Seen(Phase.Before, 0, 4));
        }

        var wish = new BatchPlanRequest([new SlotChange("S1", Fit: Story.Module(8))]);
        // The third was not measured: by name it is refused with the others, else it is not meant.
        var refused = await Assert.ThrowsAsync<ProblemException>(() =>
            mara.PlanBatchAsync(batch, wish with { Only = [batch, batch + 1, batch + 2] })
        );
        Assert.Contains($"{batch + 2}: ", refused.Message, StringComparison.Ordinal);
        Assert.DoesNotContain($"{batch + 1}: ", refused.Message, StringComparison.Ordinal);
        Assert.Equal([Stage.Measured, Stage.Measured, Stage.TakenIn], await StagesAsync(batch));
        Assert.Equal(2, (await mara.PlanBatchAsync(batch, wish)).Orders.Count);

        Assert.Equal(
            (404, "not-of-batch"),
            await Story.Refused(mara.PlanBatchAsync(batch, wish with { Only = [batch + 40] }))
        );
        Assert.Equal((404, "no-such-batch"), await Story.Refused(mara.BatchAsync(batch + 1)));
        Assert.Equal(
            (422, "batch-serial"),
            await Story.Refused(
                mara.PlanBatchAsync(batch, new([new SlotChange("S1", Fit: Story.Module(8) with { Serial = "A" })]))
            )
        );
        Assert.Equal((422, "plan-missing"), await Story.Refused(mara.PlanBatchAsync(batch, new())));
        Assert.Equal(
            (409, "batch-none"),
            await Story.Refused(sanne.HandBackBatchAsync(batch, new HandBackRequest("Dr. Kolb")))
        );
    }

    [Fact]
    public async Task One_link_offers_all_and_closes_once_one_of_them_moves_on()
    {
        var batch = await TakeInAsync("LK", 3);
        foreach (var number in Enumerable.Range(batch, 3))
        {
            await mara.TakeReadingAsync(number, Story.Seen(Phase.Before, 0, 4));
        }

        await mara.PutPartAsync("LK-8", new PartRequest("8 GB", 20, Module("LK-8")));
        var wish = new BatchPlanRequest([new SlotChange("S1", Fit: Module("LK-8"))]);
        await mara.PlanBatchAsync(batch, wish);
        var stale = Secret(await sanne.OfferBatchAsync(batch, new OfferRequest(7)));
        var shown = await mara.ReadQuoteAsync(stale);
        Assert.Equal(["LK-1", "LK-2", "LK-3"], shown.Serials);
        Assert.Equal((await mara.BatchAsync(batch)).Quote!.Total, shown.Quote.Total);
        Assert.Equal(shown.Quote.Total, (await mara.BatchAsync(batch)).Offered!.Total);

        await mara.SetPlanAsync(batch + 1, new PlanRequest([new SlotChange("S1", Fit: Story.Module(16))]));
        Assert.Equal((404, "no-such-quote"), await Story.Refused(mara.ReadQuoteAsync(stale)));
        Assert.Equal(
            (404, "no-such-quote"),
            await Story.Refused(mara.AnswerQuoteAsync(stale, new AnswerRequest(true, "Dr. Kolb")))
        );
        Assert.Null((await mara.BatchAsync(batch)).Offered);
        Assert.All(await StagesAsync(batch), s => Assert.Equal(Stage.Planned, s));

        // One that is cancelled takes the sum with it, too; and who names it is told, not passed over.
        var fourth = (await sanne.TakeInAsync(Story.TakeIn with { Customer = Lab, Serial = "LK-4" })).Order;
        await sanne.JoinBatchAsync(fourth, new JoinBatchRequest(batch));
        await mara.TakeReadingAsync(fourth, Story.Seen(Phase.Before, 0, 4));
        await mara.PlanBatchAsync(batch, wish);
        var cancelled = Secret(await sanne.OfferBatchAsync(batch, new OfferRequest(7)));
        await sanne.CancelAsync(fourth, new ReasonRequest("dropped on the way"));
        Assert.Equal(
            (404, "no-such-quote"),
            await Story.Refused(mara.AnswerQuoteAsync(cancelled, new AnswerRequest(true, "Dr. Kolb")))
        );
        var named = new BatchAgreeRequest("Dr. Kolb", Only: [batch, fourth]);
        Assert.Equal((409, "wrong-stage"), await Story.Refused(sanne.AgreeBatchAsync(batch, named)));
        Assert.All((await StagesAsync(batch)).Take(3), s => Assert.Equal(Stage.Planned, s));

        await mara.PlanBatchAsync(batch, wish);
        var link = Secret(await sanne.OfferBatchAsync(batch, new OfferRequest(7)));
        await mara.AnswerQuoteAsync(link, new AnswerRequest(true, "Dr. Kolb"));
        Assert.All((await StagesAsync(batch)).Take(3), s => Assert.Equal(Stage.Agreed, s));
        Assert.Equal("agreed", (await mara.ReadQuoteAsync(link)).Answered);
        Assert.Equal(
            (409, "quote-answered"),
            await Story.Refused(mara.AnswerQuoteAsync(link, new AnswerRequest(false, "Dr. Kolb")))
        );
    }

    [Fact]
    public async Task A_machine_that_was_forgotten_joins_and_one_of_another_customer_does_not()
    {
        var batch = await TakeInAsync("JN", 2);
        var late = (await sanne.TakeInAsync(Story.TakeIn with { Customer = Lab, Serial = "JN-3" })).Order;
        await sanne.JoinBatchAsync(late, new JoinBatchRequest(batch));
        Assert.Equal([batch, batch + 1, late], (await mara.BatchAsync(batch)).Machines.Select(m => m.Card.Number));
        Assert.Equal(batch, (await mara.OrderAsync(late)).Batch);
        var other = (await sanne.TakeInAsync(Story.TakeIn)).Order;
        Assert.Equal(
            (409, "batch-not-alike"),
            await Story.Refused(sanne.JoinBatchAsync(other, new JoinBatchRequest(batch)))
        );

        // The first goes its own way, and the batch keeps its name.
        await sanne.LeaveBatchAsync(batch, new ReasonRequest("it is the teacher's own"));
        Assert.Equal([batch + 1, late], (await mara.BatchAsync(batch)).Machines.Select(m => m.Card.Number));
        Assert.Equal([batch], (await mara.BatchAsync(batch)).Gone.Select(g => g.Order));
    }

    private const string Lab = "School chemistry lab";

    private static string[] Serials(string name, int count) =>
        [.. Enumerable.Range(1, count).Select(i => $"{name}-{i}")];

    private async Task<int> TakeInAsync(string name, int count) =>
        (await sanne.TakeInBatchAsync(Request([.. Serials(name, count).Select(s => new BatchMachine(s))]))).Batch;

    private static BatchRequest Request(IReadOnlyList<BatchMachine> machines) =>
        new("FJ14", Lab, "swaps all lesson long", machines, Backup: Backup.Made);

    private static MemoryModule Module(string number) => Story.Module(8) with { PartNumber = new PartNumber(number) };

    private async Task<int> HighestAsync() =>
        (await mara.SearchAsync(null, limit: 1)).Items is [var first, ..] ? first.Number : 0;

    private async Task<IReadOnlyList<Stage>> StagesAsync(int batch) =>
        [.. (await mara.BatchAsync(batch)).Machines.Select(m => m.Card.Stage)];

    private static string Secret(OfferView offer) => offer.Link.Split("/quote/")[1];
}
