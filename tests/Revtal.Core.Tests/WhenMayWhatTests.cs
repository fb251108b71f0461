using CsCheck;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>The one table of acts and stages, walked: every act × every stage × parked and swap test running.</summary>
public sealed class WhenMayWhatTests
{
    private static readonly OrderAct[] Acts = [.. Enum.GetValues<OrderAct>().Except([OrderAct.TakeIn])];

    // What is always open, on whatever order: somebody may still have something to say of it.
    private static readonly OrderAct[] Always = [OrderAct.AddNote, OrderAct.AddPhoto, OrderAct.SuggestChange];

    // The bench's order of work, written down from the design: at which stages each act is first and last of use.
    private static readonly Dictionary<OrderAct, (Stage First, Stage Last)> Span = new()
    {
        [OrderAct.ReadBefore] = (Stage.TakenIn, Stage.Planned),
        [OrderAct.SetPlan] = (Stage.Measured, Stage.OnBench),
        [OrderAct.Agree] = (Stage.Planned, Stage.Planned),
        [OrderAct.Decline] = (Stage.Planned, Stage.Planned),
        [OrderAct.OfferQuote] = (Stage.Planned, Stage.Planned),
        [OrderAct.ConfirmStep] = (Stage.Agreed, Stage.Checking),
        [OrderAct.WaiveGate] = (Stage.Agreed, Stage.OnBench),
        [OrderAct.BlockStep] = (Stage.Agreed, Stage.OnBench),
        [OrderAct.TakeStepBack] = (Stage.OnBench, Stage.OnBench),
        [OrderAct.ReadOpen] = (Stage.OnBench, Stage.OnBench),
        [OrderAct.ReadAfter] = (Stage.OnBench, Stage.Watching),
        [OrderAct.BeginReseat] = (Stage.OnBench, Stage.Watching),
        [OrderAct.MarkReady] = (Stage.Checking, Stage.Checking),
        [OrderAct.NoteWatch] = (Stage.OnBench, Stage.Watching),
        [OrderAct.EndWatch] = (Stage.OnBench, Stage.Watching),
        [OrderAct.HandBack] = (Stage.Ready, Stage.Ready),
    };

    /// <summary>An order at every stage, each parked as well, and one whose swap test runs.</summary>
    internal static readonly (string Name, Order Order)[] Orders = [.. Everywhere()];

    public static TheoryData<OrderAct> Spanned => [.. Span.Keys];

    [Fact]
    public void Every_act_is_allowed_or_refused_with_what_to_do_at_every_stage()
    {
        foreach (var (name, order) in Orders)
        {
            foreach (var act in Acts)
            {
                var no = WhenMayWhat.WhyNot(act, order, Make.Fjell);
                Assert.Equal(no is null, WhenMayWhat.Of(order, Make.Fjell).Any(a => a.Act == act && a.WhyNot is null));
                Assert.True(no is null || no.Message.EndsWith('.'), $"{act} at {name}: {no?.Message}");
            }
        }
    }

    [Theory]
    [MemberData(nameof(Spanned))]
    public void An_act_belongs_to_its_stages_and_to_no_other(OrderAct act)
    {
        var (first, last) = Span[act];
        Assert.All(
            Orders.Where(o => o.Order.Swap is null && o.Order.Stage != Stage.Parked),
            o => Assert.Equal(o.Order.Stage >= first && o.Order.Stage <= last, WhenMayWhat.IsAllowed(act, o.Order))
        );
    }

    [Fact]
    public void A_closed_order_takes_nothing_but_words()
    {
        OrderAct[] stillOpen = [.. Always, OrderAct.RevokeQuote];
        // What a machine that went home may come back for.
        OrderAct[] ofNextVisit = [OrderAct.NoteLater, OrderAct.DropLater];
        // What its owner may ask for once more.
        OrderAct[] ofReport =
        [
            OrderAct.MakeReport,
            OrderAct.OfferReport,
            OrderAct.AgreeExtra,
            OrderAct.DropExtra,
            OrderAct.MakeInvoice,
            OrderAct.ReverseInvoice,
            OrderAct.TakePayment,
        ];
        Assert.All(
            Orders.Where(o => !o.Order.IsOpen),
            o =>
                Assert.Empty(
                    Acts.Where(a => WhenMayWhat.IsAllowed(a, o.Order))
                        .Except(stillOpen)
                        .Except(o.Order.Stage == Stage.HandedBack ? [.. ofNextVisit, .. ofReport] : [])
                )
        );
    }

    [Fact]
    public void A_parked_order_goes_on_only_when_it_is_resumed()
    {
        OrderAct[] moves =
        [
            .. Span.Keys.Except([OrderAct.Agree, OrderAct.Decline]),
            OrderAct.BeginCopy,
            OrderAct.BeginSwapTest,
            OrderAct.TrySwap,
            OrderAct.EndSwapTest,
        ];
        foreach (var (name, order) in Orders.Where(o => o.Order.Stage == Stage.Parked))
        {
            Assert.DoesNotContain(moves, a => WhenMayWhat.IsAllowed(a, order));
            Assert.Null(Make.WhyNot(OrderAct.Resume, order));
            // The customer may answer a quote whenever they like.
            Assert.Equal(order.WorkStage == Stage.Planned, Make.WhyNot(OrderAct.Decline, order) is null);
            Assert.Contains("Resume it first", WhenMayWhat.WhyNot(OrderAct.SetPlan, order, Make.Fjell)!.Message);
        }
    }

    [Fact]
    public void A_running_swap_test_stands_before_everything_that_would_pass_it()
    {
        var order = Orders.Single(o => o.Name == "swap test").Order;
        Assert.All(
            (OrderAct[])
                [
                    OrderAct.MarkReady,
                    OrderAct.ReadAfter,
                    OrderAct.BeginReseat,
                    OrderAct.BeginWatch,
                    OrderAct.BeginSwapTest,
                ],
            act => Assert.Equal("swap-test-runs", Make.WhyNot(act, order))
        );
        Assert.Null(Make.WhyNot(OrderAct.TrySwap, order));
        Assert.Null(Make.WhyNot(OrderAct.EndSwapTest, order));
    }

    [Fact]
    public void Ending_a_swap_test_that_an_early_journal_ended_while_parked_leaves_it_parked()
    {
        EntryBody[] bodies = [.. SwapTest(), new Parked("waits for a module")];
        Assert.Equal("wrong-stage", Make.WhyNot(OrderAct.EndSwapTest, Make.Order(bodies)));
        var ended = Make.Order([.. bodies, new SwapTestEnded(null, "given up")]);
        Assert.Equal((Stage.Parked, "waits for a module", Stage.Checking), (ended.Stage, ended.Reason, ended.Resting));
        Assert.Null(ended.Swap);
    }

    [Fact]
    public void Copies_are_neither_advanced_nor_verified_once_the_order_is_closed()
    {
        foreach (var (name, order) in Orders.Where(o => !o.Order.IsOpen))
        {
            Assert.Equal("wrong-stage", Make.WhyNot(OrderAct.AdvanceCopy, order));
            Assert.Equal("wrong-stage", Make.WhyNot(OrderAct.VerifyCopy, order));
        }
    }

    [Fact]
    public void A_build_told_on_a_parked_order_is_taken_and_the_order_stays_parked()
    {
        var parked = Make.Order([.. Make.Agreed(), new Parked("waits")]);
        Assert.Null(Make.WhyNot(OrderAct.TellVariant, parked));
        var told = IntakeRules.TellVariant(parked, Make.Fjell, "FJ14-1");
        Assert.True(told.PlanDropped);
        var after = Make.Order([.. Make.Agreed(), new Parked("waits"), told]);
        Assert.Equal((Stage.Parked, Stage.Measured, "waits"), (after.Stage, after.Resting, after.Reason));
        Assert.Null(after.Plan);
    }

    [Fact]
    public void Whatever_the_table_allows_a_rule_or_the_fold_takes_without_falling() =>
        Gen.Int[0, Acts.Length - 1]
            .Array[1, 40]
            .Sample(
                picks =>
                {
                    var bodies = new List<EntryBody> { Make.TakenIn() };
                    foreach (var act in picks.Select(i => Acts[i]))
                    {
                        var order = Make.Order([.. bodies]);
                        if (Make.WhyNot(act, order) is null && Simple(act, order) is { } body)
                        {
                            Assert.Equal(act, body.Act);
                            bodies.Add(body);
                        }
                    }

                    var end = Make.Order([.. bodies]);
                    Assert.Equal(end.Stage == Stage.Parked, end.Resting is not null);
                    Assert.NotNull(Assessment.Of(end, Make.Fjell).Next);
                },
                iter: 400
            );

    // A plain wish of each act that wants no more than the order; null where it wants what a rule would refuse.
    private static EntryBody? Simple(OrderAct act, Order order) =>
        act switch
        {
            OrderAct.ReadBefore => Read(Phase.Before, 0, 8),
            OrderAct.ReadOpen => Read(Phase.During, 8, 8),
            OrderAct.ReadAfter => Read(Phase.After, 0, 8),
            OrderAct.SetPlan => PlanRules.SetPlan(order, Make.Fjell, [new SlotChange("S1", Make.Module(8))], null),
            OrderAct.Agree => PlanRules.Agree("M. Alto", null),
            OrderAct.Decline => PlanRules.Decline("M. Alto", null),
            OrderAct.ConfirmStep when order.Sheet(Make.Fjell)!.Next(order.RunState) is { } step => new StepConfirmed(
                order.Run?.Number ?? 1,
                step.Id,
                step.LooseFasteners,
                null,
                null
            ),
            OrderAct.TakeStepBack => BenchRules.TakeBack(order, Make.Fjell, order.Run!.Done[^1].Step, null),
            OrderAct.AddFind => BenchRules.Find(order, Make.Fjell, FindKind.Dust, null, null),
            OrderAct.BeginReseat => BenchRules.Reseat(order, Make.Fjell, ["S1"], null),
            OrderAct.BeginSwapTest => SwapRules.BeginSwapTest(order, Make.Fjell, new SwapOutcome(true, ["S2"])),
            OrderAct.EndSwapTest => SwapRules.EndSwapTest(order, Make.Fjell, "given up", order.Swap!.LeftOpen),
            OrderAct.BeginWatch => WatchRules.BeginWatch(order, null, default, default(DateTimeOffset).AddDays(7), 3),
            OrderAct.EndWatch => new WatchEnded(WatchOutcome.Unclear, "nothing"),
            OrderAct.MarkReady => CloseRules.MarkReady(order, Make.Fjell, Role.Lead, "as it is"),
            OrderAct.HandBack => CloseRules.HandBack(order, Make.Fjell, "M. Alto", null),
            OrderAct.Park => CloseRules.Park(order, "waits", default),
            OrderAct.Resume => new Resumed(),
            OrderAct.Cancel => CloseRules.Cancel("no"),
            OrderAct.TellSeal => IntakeRules.TellSeal(SealConsent.Given, "M. Alto"),
            OrderAct.AddNote => new NoteAdded("dust"),
            OrderAct.NameOwner => new OwnerNamed("mara", "the left clip is worn"),
            OrderAct.ReadHandOver => new HandOverRead(),
            OrderAct.TellPlace => new PlaceTold("Bench 2"),
            OrderAct.Promise => new Promised(DateTimeOffset.UnixEpoch),
            _ => null,
        };

    private static ReadingTaken Read(Phase phase, params int[] gigabytes) =>
        new(phase, Make.Reading(Make.Fjell, gigabytes), null, null);

    private static EntryBody[] SwapTest()
    {
        EntryBody[] bodies = [.. Make.Run(), Read(Phase.After, 0, 8)];
        return [.. bodies, SwapRules.BeginSwapTest(Make.Order(bodies), Make.Fjell, null)];
    }

    private static IEnumerable<(string, Order)> Everywhere()
    {
        var run = Make.Run();
        EntryBody[] good = [.. run, Read(Phase.After, 8, 8)];
        EntryBody[] ready = [.. good, new MarkedReady(Verdict.AsPlanned, null)];
        (string Name, EntryBody[] Bodies)[] all =
        [
            ("taken in", run[..1]),
            ("measured", run[..2]),
            ("planned", run[..3]),
            ("agreed", run[..4]),
            ("on bench", run[..6]),
            ("run done", run),
            ("checking", good),
            ("swap test", SwapTest()),
            ("watching", [.. good, new WatchBegun("slow", default, 3)]),
            ("ready", ready),
            ("handed back", [.. ready, new HandedBack("M. Alto", null)]),
            ("cancelled", [.. run[..3], new Cancelled("no")]),
        ];
        foreach (var (name, bodies) in all)
        {
            var order = Make.Order(bodies);
            yield return (name, order);
            if (order.IsOpen)
            {
                yield return ($"{name}, parked", Make.Order([.. bodies, new Parked("waits")]));
            }
        }
    }
}
