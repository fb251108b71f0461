using CsCheck;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Machines that are taken in, planned and told together.</summary>
public sealed class BatchTests
{
    private static readonly DateTimeOffset Start = new(2026, 11, 2, 8, 0, 0, TimeSpan.Zero);
    private static readonly PartKind Eight = new(
        new PartNumber("TM-8S"),
        "8 GB laptop module",
        Make.Module(8, part: "TM-8S"),
        null,
        1,
        19
    );

    [Fact]
    public void A_list_says_which_lines_stand_twice_or_tell_no_serial_and_nothing_of_it_is_taken_in()
    {
        BatchMachine[] list = [new("NM2-1"), new(" nm2-1 "), new("NM2-2"), new(""), new("000")];
        Assert.Equal(
            [(2, "It stands on line 1 already."), (4, NoSerial), (5, NoSerial)],
            BatchRules.Troubles(list).Select(t => (t.Line, t.Why))
        );
        var refused = Assert.Throws<RefusedException>(() => BatchRules.NeedSound(list));
        Assert.Equal("batch-list", refused.Code);
        Assert.Contains("Line 2, “ nm2-1 ”", refused.Message, StringComparison.Ordinal);
        Assert.Contains("Nothing was taken in", refused.Message, StringComparison.Ordinal);

        BatchMachine[] Some(int count) => [.. Enumerable.Range(1, count).Select(i => new BatchMachine($"X{i}"))];
        BatchRules.NeedSound(Some(500));
        Assert.Equal("batch-size", Assert.Throws<RefusedException>(() => BatchRules.NeedSound(Some(501))).Code);
        Assert.Equal("batch-size", Assert.Throws<RefusedException>(() => BatchRules.NeedSound([])).Code);
    }

    private const string NoSerial = "It has no serial, and nothing else tells it from its like.";

    [Fact]
    public void A_batch_is_called_by_its_first_order_and_a_machine_that_leaves_takes_no_offer_with_it()
    {
        var order = Machine(127, 3, [4, 0]);
        Assert.Equal(125, order.Batch);
        var planned = order.With(Plan(order));
        var offered = planned.With(new QuoteOffered(Quote(43), "a", Start.AddDays(1), [125, 126, 127]));
        Assert.Null(offered.With(BatchRules.Leave(offered, "its S2 is faulty")).Offered);
        var alone = planned.With(new QuoteOffered(Quote(43), "a", Start.AddDays(1)));
        var left = alone.With(BatchRules.Leave(alone, "its S2 is faulty"));
        Assert.NotNull(left.Offered);
        Assert.Null(left.Batch);
        Assert.Equal("text-missing", Assert.Throws<RefusedException>(() => BatchRules.Leave(order, " ")).Code);
        Assert.Equal("no-batch", Make.WhyNot(OrderAct.LeaveBatch, left));
        Assert.Equal("in-batch", Make.WhyNot(OrderAct.JoinBatch, order));

        Assert.Equal(125, left.With(BatchRules.Join(left, 125, [Machine(125, 1, [4, 0])])).Batch);
        var other = left with { Intake = left.Intake with { Customer = "Ferry ticket desk" } };
        Assert.Equal(
            "batch-not-alike",
            Assert.Throws<RefusedException>(() => BatchRules.Join(other, 125, [Machine(125, 1, [4, 0])])).Code
        );
        Assert.Equal("no-such-batch", Assert.Throws<RefusedException>(() => BatchRules.Join(left, 900, [])).Code);
    }

    [Fact]
    public void What_tells_machines_apart_is_told_with_who_it_is()
    {
        var alike = BatchStanding.Likenesses([
            Member(Machine(125, 1, [0, 4])),
            Member(Machine(126, 2, [4, 4])),
            Member(Machine(127, 3, [0, 4])),
            Member(Begun(128, 4)),
        ]);
        Assert.Equal([125, 127], alike[0].Orders);
        Assert.StartsWith("S1 empty, S2 4 GB", alike[0].Holds, StringComparison.Ordinal);
        Assert.Contains(alike, a => a.Orders is [126] && a.Holds.StartsWith("S1 4 GB", StringComparison.Ordinal));
        Assert.Contains(alike, a => a.Orders is [128] && a.Holds == "not measured yet");
    }

    [Fact]
    public void A_part_on_the_shelf_is_counted_for_one_machine_only()
    {
        var orders = Enumerable.Range(125, 4).Select(n => Planned(Machine(n, n - 124, [0, 4]))).ToArray();
        PartItem[] shelf =
        [
            new(1, Eight.Number, "A", PartState.InStock),
            new(2, Eight.Number, "B", PartState.InStock),
            new(3, Eight.Number, "C", PartState.Sold),
        ];
        var part = Assert.Single(BatchStanding.Parts(orders, shelf, [Eight]));
        Assert.Equal((4, 0, 2), (part.Wanted, part.SetAside, part.Short));
        Assert.Equal([127, 128], part.Lack);

        // One is set aside for the last, and one is fitted in the first already.
        PartItem[] held =
        [
            new(1, Eight.Number, "A", PartState.Fitted, Order: 125, Position: "S1"),
            new(2, Eight.Number, "B", PartState.Reserved, Order: 128, Position: "S1"),
        ];
        part = Assert.Single(BatchStanding.Parts(orders, held, [Eight]));
        Assert.Equal((4, 2, 2), (part.Wanted, part.SetAside, part.Short));
        Assert.Equal([126, 127], part.Lack);
    }

    [Fact]
    public void One_quote_sums_all_and_says_once_what_is_alike() =>
        Gen.Int[1, 30]
            .Array[1, 12]
            .Sample(prices =>
            {
                var quotes = prices.Select(p => Quote(p)).ToArray();
                var all = BatchStanding.Together(quotes);
                Assert.Equal(prices.Sum(), all.Total);
                Assert.Equal(all.Net, all.Lines.Sum(l => l.Sum));
                Assert.Equal(prices.Length * 16, all.Minutes);
                Assert.Equal(prices.Distinct().Count(), all.Lines.Count);
                Assert.Equal(["S2 gets 8 GB."], all.Work);
            });

    [Fact]
    public void What_is_said_of_some_is_said_with_how_many_and_mixed_discounts_are_one_true_percentage()
    {
        var twice = BatchStanding.Together([Quote(90, 10), Quote(90, 10)]);
        Assert.Equal((10m, 20m), (twice.DiscountPercent, twice.Discount));
        var mixed = BatchStanding.Together([Quote(90, 10), Quote(100) with { Work = ["S2 stays."] }]);
        Assert.Equal((5m, 10m), (mixed.DiscountPercent, mixed.Discount));
        Assert.Equal(["1 of 2 machines: S2 gets 8 GB.", "1 of 2 machines: S2 stays."], mixed.Work);
    }

    [Fact]
    public void Machines_at_one_step_are_told_together_unless_something_is_counted_in_it()
    {
        var agreed = Enumerable
            .Range(125, 3)
            .Select(n => Planned(Machine(n, n - 124, [0, 4])).With(new PlanAgreed("Dr. Kolb", null)))
            .ToArray();
        var sheet = agreed[0].Sheet(Make.Fjell)!;
        var ahead = sheet
            .Steps.TakeWhile(s => s.Part < Revtal.Core.Bench.RunPart.Open)
            .Aggregate(agreed[2], (o, s) => o.With(new StepConfirmed(1, s.Id, null, null, null)));
        var steps = BatchStanding.Steps([Member(agreed[0]), Member(agreed[1]), Member(ahead)]);
        Assert.Equal([125, 126], steps[0].Orders);
        Assert.True(steps[0].Together);
        Assert.Equal([127], steps[1].Orders);
        Assert.Equal(sheet.Steps.First(s => s.Part == Revtal.Core.Bench.RunPart.Open).Id, steps[1].Step.Id);
        Assert.Equal(steps[1].Step.LooseFasteners == 0, steps[1].Together);
        var fits = sheet.Steps.First(s => s.LooseFasteners > 0).Id;
        Assert.Equal(
            "step-one-by-one",
            Assert.Throws<RefusedException>(() => BatchStanding.NeedTogether(Member(ahead), fits)).Code
        );
    }

    [Fact]
    public void Work_is_spread_evenly_and_neighbours_stay_together() =>
        Gen.Select(Gen.Int[1, 60], Gen.Int[1, 6])
            .Sample(
                (machines, people) =>
                {
                    var hands = Enumerable.Range(0, people).Select(i => $"p{i}").ToArray();
                    var given = BatchRules.Spread([.. Enumerable.Range(200, machines)], hands);
                    Assert.Equal(machines, given.Count);
                    var counts = hands.Select(h => given.Values.Count(v => v == h)).ToArray();
                    Assert.True(counts.Max() - counts.Min() <= 1);
                    var order = given.OrderBy(g => g.Key).Select(g => g.Value).ToArray();
                    Assert.Equal(order.Order(StringComparer.Ordinal), order);
                }
            );

    [Fact]
    public void The_card_stands_with_the_machine_that_has_the_furthest_to_go_and_tells_the_worst()
    {
        var card = OrderCard.Of(Machine(125, 1, [0, 4]), Make.Fjell);
        var all = BatchCard.Of([
            card with
            {
                Stage = Stage.Ready,
                Verdict = Verdict.AsPlanned,
            },
            card with
            {
                Number = 126,
                Stage = Stage.Checking,
                Verdict = Verdict.Short,
            },
            card with
            {
                Number = 127,
                Stage = Stage.Parked,
            },
            card with
            {
                Number = 128,
                Batch = null,
                Stage = Stage.TakenIn,
            },
        ]);
        var one = Assert.Single(all);
        Assert.Equal((125, Stage.Checking, Verdict.Short), (one.Number, one.Stage, one.Verdict));
        Assert.Equal([125, 126, 127], one.Orders);
        Assert.Equal(
            [(Stage.Checking, 1), (Stage.Ready, 1), (Stage.Parked, 1)],
            one.Stages.Select(s => (s.Stage, s.Count))
        );
    }

    [Fact]
    public void A_sum_over_machines_of_which_one_is_not_measured_is_not_known()
    {
        var measured = Machine(125, 1, [0, 4]);
        Assert.Equal(8L << 30, BatchStanding.Totals([(measured, null), (measured, null)]).Before);
        var some = BatchStanding.Totals([(measured, null), (Begun(126, 2), null)]);
        Assert.Null(some.Before);
        Assert.Equal((2, 0, 0), (some.Machines, some.Good, some.Bad));
    }

    [Fact]
    public void A_plan_as_wishes_makes_the_same_plan_again_without_the_very_part()
    {
        var before = Make.Reading(Make.Kliff, [4, 0, 4, 8], serials: ["a", null, "b", "c"]);
        SlotChange[] changes =
        [
            new("S1", From: "S4"),
            new("S2", Fit: Make.Module(16, "X-1", "OS4S-16G")),
            new("S3", Reseat: true),
        ];
        var plan = Planner.Make(Make.Kliff, before, changes);
        var again = Planner.Make(Make.Kliff, before, PlanWishes.Of(plan));
        Assert.Equal(
            plan.Slots.Select(s => (s.Slot, s.Use, s.From, s.Module?.Size)),
            again.Slots.Select(s => (s.Slot, s.Use, s.From, s.Module?.Size))
        );
        Assert.Null(again.Slots[1].Module!.Serial);
        Assert.Equal("OS4S-16G", again.Slots[1].Module!.PartNumber.ToString());
    }

    private static BatchMember Member(Order order) => new(order, Make.Fjell);

    private static Order Begun(int number, int place) =>
        Order.Fold([
            new Entry(
                number,
                1,
                Guid.NewGuid(),
                Start,
                "sanne",
                Make.TakenIn() with
                {
                    Intake = Make.TakenIn().Intake with { Serial = $"X{number}", Batch = new BatchPlace(place, 12) },
                }
            ),
        ]);

    private static Order Machine(int number, int place, int[] gigabytes) =>
        Begun(number, place).With(new ReadingTaken(Phase.Before, Make.Reading(Make.Fjell, gigabytes), null, null));

    private static PlanSet Plan(Order order) =>
        PlanRules.SetPlan(order, Make.Fjell, [new SlotChange("S1", Fit: Make.Module(8, part: "TM-8S"))], null);

    private static Order Planned(Order order) => order.With(Plan(order));

    private static Quote Quote(decimal net, decimal discount = 0) =>
        new(
            ["S2 gets 8 GB."],
            [],
            [new QuoteLine("8 GB laptop module", 1, net, net)],
            16,
            0,
            100 * discount / (net + discount),
            discount,
            net,
            0,
            0,
            net,
            "EUR",
            []
        );
}
