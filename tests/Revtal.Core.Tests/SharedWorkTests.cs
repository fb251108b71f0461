using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Whose an order is, what it waits for, and which promises are kept.</summary>
public sealed class SharedWorkTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 27, 9, 0, 0, TimeSpan.Zero);

    [Fact]
    public void What_is_handed_over_in_words_stops_the_run_until_it_is_read()
    {
        var order = Make.Order([.. Make.Agreed(), new OwnerNamed("tobi", "the left clip is worn")]);
        Assert.Equal("tobi", order.Owner);
        var no = WhenMayWhat.WhyNot(OrderAct.ConfirmStep, order, Make.Fjell)!;
        Assert.Equal("hand-over-unread", no.Code);
        Assert.Contains("the left clip is worn", no.Message);
        Assert.Null(Make.WhyNot(OrderAct.ConfirmStep, order.With(new HandOverRead())));
        Assert.Equal("nothing-handed-over", Make.WhyNot(OrderAct.ReadHandOver, order.With(new HandOverRead())));

        // Whoever else takes it has not read it; who said it and takes it back knows it.
        Assert.Equal("the left clip is worn", Named(order, "juno", "juno", null).HandOver!.Word);
        Assert.Equal("the left clip is worn", Named(order, "mara", null, null).HandOver!.Word);
        Assert.Null(Named(order, "mara", "mara", null).HandOver);
        Assert.Equal(
            "the left clip is worn\nand the base is hot",
            Named(order, "tobi", "juno", "and the base is hot").HandOver!.Word
        );
        Assert.Null(Named(order, "mara", null, null).Owner);

        static Order Named(Order order, string by, string? owner, string? word) =>
            order.Apply(new Entry(101, order.Head + 1, Guid.Empty, Now, by, new OwnerNamed(owner, word)));
    }

    [Fact]
    public void A_place_is_told_as_it_is_called_or_as_its_label_is_scanned()
    {
        Assert.Equal("Bench 2", SharedRules.TellPlace(" Bench 2 ").Place);
        Assert.Equal("Shelf B", SharedRules.TellPlace("revtal:place:Shelf B").Place);
        Assert.Null(SharedRules.TellPlace("").Place);
        Assert.Equal("Shelf B", Make.Order([.. Make.Agreed(), new PlaceTold("Shelf B")]).Place);
    }

    [Fact]
    public void A_quote_that_lies_with_the_customer_is_waited_for_since_it_was_sent()
    {
        var order = Offered();
        var waiting = Assessment.Of(order, Make.Fjell).Waiting!;
        Assert.Equal((WaitKind.Customer, order.OfferedAt), (waiting.Kind, waiting.Since));
        Assert.Null(Assessment.Of(order.With(new QuoteDeclined("M. Alto", "too dear")), Make.Fjell).Waiting);
        Assert.Null(Assessment.Of(order.With(new PlanAgreed("M. Alto", null)), Make.Fjell).Waiting);
    }

    [Fact]
    public void An_order_parked_for_an_answer_wakes_with_it_and_goes_on_where_it_leads()
    {
        var parked = Offered().With(CloseRules.Park(Offered(), "asks her brother", Now, null, WakeOn.CustomerAnswers));
        Assert.Equal(WaitKind.Customer, Assessment.Of(parked, Make.Fjell).Waiting!.Kind);
        Assert.False(Waking.IsDue(parked, Now.AddYears(1), () => true));
        var agreed = parked.With(new PlanAgreed("M. Alto", null));
        Assert.Equal((Stage.Parked, Stage.Agreed), (agreed.Stage, agreed.WorkStage));
        Assert.True(Waking.IsDue(agreed, Now, () => false));
        Assert.Equal(Stage.Agreed, agreed.With(new Resumed()).Stage);
        Assert.True(Waking.IsDue(parked.With(new QuoteDeclined("M. Alto", null)), Now, () => false));
    }

    [Fact]
    public void An_order_parked_for_parts_wakes_when_they_are_there_or_at_its_time()
    {
        var order = Wanting();
        var until = Now.AddDays(3);
        var parked = order.With(CloseRules.Park(order, "the module is ordered", Now, until, WakeOn.PartsArrive));
        Assert.Equal(WaitKind.Parts, Assessment.Of(parked, Make.Fjell).Waiting!.Kind);
        // What is still to come is asked for while it rests.
        Assert.NotEmpty(parked.PartsWanted);
        Assert.False(Waking.IsDue(parked, Now, () => false));
        Assert.True(Waking.IsDue(parked, Now, () => true));
        Assert.True(Waking.IsDue(parked, until, () => false));
        Assert.False(Waking.IsDue(order, until, () => true));
    }

    [Fact]
    public void Hands_do_what_is_promised_first_and_what_comes_too_late_even_so_is_told()
    {
        PromisedWork[] works =
        [
            new(1, "mara", Now.AddMinutes(60), 40, true),
            // 40 + 50 minutes of work, promised in 80.
            new(2, "mara", Now.AddMinutes(80), 50, true),
            // Another's hands: nothing stands before it.
            new(3, "tobi", Now.AddMinutes(80), 50, true),
            // Past its time.
            new(4, "tobi", Now.AddMinutes(-5), 10, true),
            // Waits for somebody else: when it ends nobody knows, and it stops nobody's hands.
            new(5, "mara", Now.AddMinutes(10), 500, false),
            // In nobody's hands yet: by its own minutes alone.
            new(6, null, Now.AddMinutes(30), 31, true),
            new(7, null, Now.AddMinutes(30), 29, true),
            // Not planned yet: nothing is known of its end.
            new(8, "juno", Now.AddMinutes(1), null, true),
        ];
        Assert.Equal([new Late(2, false, 10), new Late(4, true, 5), new Late(6, false, 1)], Outlook.Of(works, Now));
    }

    [Fact]
    public void A_machine_that_is_ready_in_time_is_not_late_when_it_is_fetched_late()
    {
        var card = OrderCard.Of(Make.Order([.. Make.Agreed(), new Promised(Now.AddDays(-1))]), Make.Fjell);
        Assert.True(Assert.Single(Outlook.Of([PromisedWork.Of(card)!], Now)).IsLate);
        Assert.Null(PromisedWork.Of(card with { Stage = Stage.Ready }));
        Assert.Null(PromisedWork.Of(card with { PromisedAt = null }));
    }

    [Fact]
    public void Minutes_left_are_those_of_steps_that_are_not_settled()
    {
        var order = Make.Order([.. Make.Agreed()]);
        var sheet = order.Sheet(Make.Fjell)!;
        var first = sheet.Steps.First(s => s.Minutes > 0);
        var after = order.With(new StepConfirmed(1, first.Id, null, null, null));
        Assert.Equal(sheet.Steps.Sum(s => s.Minutes) - first.Minutes, OrderCard.Of(after, Make.Fjell).MinutesLeft);
    }

    [Fact]
    public void What_came_meanwhile_is_set_aside_for_the_order_that_is_taken_up()
    {
        var order = Wanting();
        var parked = order.With(CloseRules.Park(order, "ordered", Now, null, WakeOn.PartsArrive));
        PartItem[] shelf = [Item(7)];
        Assert.Equal("S1", Assert.Single(StockEffects.Lacks(parked, [], [], [Kind])).Position);
        Assert.Empty(StockEffects.Lacks(parked, [], shelf, [Kind]));
        var move = Assert.Single(StockEffects.Of(parked, new Resumed(), [], shelf, [Kind]).Moves);
        Assert.Equal((7, PartState.Reserved, 101, "S1"), (move.Item, move.To, move.Order!.Value, move.Position));

        // What is set aside already is not taken twice.
        var held = Item(7) with
        {
            State = PartState.Reserved,
            Order = 101,
            Position = "S1",
        };
        Assert.Empty(StockEffects.Of(parked, new Resumed(), [held], [held, Item(8)], [Kind]).Moves);
        Assert.Empty(StockEffects.Lacks(parked, [held], [held], [Kind]));
    }

    private static readonly PartKind Kind = new(
        new PartNumber("TM-8S"),
        "8 GB module",
        Make.Module(8),
        null,
        1,
        19.90m
    );

    private static PartItem Item(long id) => new(id, new PartNumber("TM-8S"), null, PartState.InStock);

    private static EntryBody[] Measured() =>
        [Make.TakenIn(), new ReadingTaken(Phase.Before, Make.Reading(Make.Fjell, [0, 8]), null, null)];

    private static PlanSet Wishing() =>
        new(
            Planner.Make(
                Make.Fjell,
                Make.Reading(Make.Fjell, [0, 8]),
                [new SlotChange("S1", Make.Module(8, part: "TM-8S"))]
            ),
            null
        );

    private static Order Offered() =>
        Make.Order([
            .. Measured(),
            Wishing(),
            new QuoteOffered(new Quote([], [], [], 30, 0, 0, 0, 80, 19, 15.2m, 95.2m, "EUR", []), "00", Now.AddDays(7)),
        ]);

    private static Order Wanting() => Make.Order([.. Measured(), Wishing(), new PlanAgreed("M. Alto", null)]);
}
