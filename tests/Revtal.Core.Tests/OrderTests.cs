using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class OrderTests
{
    [Fact]
    public void Moves_through_its_stages_by_its_entries()
    {
        var run = Make.Run();
        var after = new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [8, 8]), null, null);
        EntryBody[] all = [.. run, after, new MarkedReady(Verdict.AsPlanned, null), new HandedBack("M. Alto", null)];
        Stage StageAfter(int entries) => Make.Order(all[..entries]).Stage;

        Assert.Equal(
            [Stage.TakenIn, Stage.Measured, Stage.Planned, Stage.Agreed, Stage.OnBench],
            Enumerable.Range(1, 5).Select(StageAfter)
        );
        Assert.Equal(
            [Stage.OnBench, Stage.Checking, Stage.Ready, Stage.HandedBack],
            new[] { run.Length, run.Length + 1, run.Length + 2, run.Length + 3 }.Select(StageAfter)
        );
    }

    [Fact]
    public void What_is_next_follows_the_stage()
    {
        var agreed = Make.Agreed();
        NextKind Next(params EntryBody[] bodies) => Assessment.Of(Make.Order(bodies), Make.Fjell).Next.Kind;
        Assert.Equal(
            [NextKind.TakeBefore, NextKind.Plan, NextKind.Agree, NextKind.Run],
            Enumerable.Range(1, 4).Select(n => Next(agreed[..n]))
        );
        Assert.Equal(NextKind.TakeAfter, Next(Make.Run()));
        Assert.Equal(NextKind.MarkReady, Next([.. Make.Run(), After(8, 8)]));
        Assert.Equal(NextKind.Reseat, Next([.. Make.Run(), After(0, 8)]));
    }

    [Fact]
    public void A_step_out_of_place_or_time_is_refused()
    {
        var order = Make.Order(Make.Agreed());
        Assert.Equal(
            "step-waits",
            Code(() =>
                BenchRules.Confirm(
                    order,
                    Make.Fjell,
                    new StepConfirmation(StepId.Parse("isolate.unplug"), "mara", default)
                )
            )
        );
        Assert.Equal("wrong-stage", Make.WhyNot(OrderAct.ConfirmStep, Make.Order(Make.Agreed()[..3])));
        Assert.Equal(
            "no-such-step",
            Code(() =>
                BenchRules.Confirm(order, Make.Fjell, new StepConfirmation(StepId.Parse("open.roof"), "mara", default))
            )
        );
    }

    [Fact]
    public void An_after_reading_waits_for_the_run()
    {
        var bodies = Make.Run();
        Assert.Equal("run-not-done", Make.WhyNot(OrderAct.ReadAfter, Make.Order(bodies[..^1])));
        Assert.Null(Make.WhyNot(OrderAct.ReadAfter, Make.Order(bodies)));
        Assert.Equal(
            Phase.After,
            MeasureRules
                .TakeReading(Make.Order(bodies), Make.Fjell, Phase.After, Make.Reading(Make.Fjell, [8, 8]), null, null)
                .Phase
        );
    }

    [Fact]
    public void A_short_check_leaves_by_a_leads_reason_or_by_a_reseat()
    {
        EntryBody[] shorted = [.. Make.Run(), After(0, 8)];
        var order = Make.Order(shorted);
        Assert.Equal(
            "lead-decides",
            Code(() => CloseRules.MarkReady(order, Make.Fjell, Role.Technician, "it is fine"))
        );
        Assert.Equal("reason-missing", Code(() => CloseRules.MarkReady(order, Make.Fjell, Role.Lead, " ")));
        Assert.Equal(
            Verdict.NotSeen,
            CloseRules.MarkReady(order, Make.Fjell, Role.Lead, "customer takes it as it is").Verdict
        );

        var again = Make.Order([.. shorted, BenchRules.Reseat(order, Make.Fjell, ["S1"], null)]);
        Assert.Equal(Stage.OnBench, again.Stage);
        Assert.Equal(
            ["pull.S1", "fit.S1"],
            again.Sheet(Make.Fjell)!.Steps.Where(s => s.Position is not null).Select(s => s.Id.ToString())
        );
        Assert.Equal("run-not-done", Make.WhyNot(OrderAct.ReadAfter, again));
    }

    [Fact]
    public void A_new_plan_asks_the_customer_again()
    {
        var order = Make.Order([.. Make.Agreed(), Make.Agreed()[2]]);
        Assert.Equal((Stage.Planned, (string?)null), (order.Stage, order.AgreedBy));
    }

    [Fact]
    public void A_parked_order_rests_and_goes_back_to_its_stage()
    {
        EntryBody[] parked = [.. Make.Agreed(), new Parked("waits for a module")];
        Assert.Equal("wrong-stage", Make.WhyNot(OrderAct.ConfirmStep, Make.Order(parked)));
        Assert.Equal(Stage.Agreed, Make.Order([.. parked, new Resumed()]).Stage);
    }

    [Fact]
    public void An_open_machine_cannot_be_cancelled_away()
    {
        var open = Make.Run()
            .TakeWhile(b => b is not StepConfirmed { Step: { Verb: StepVerb.Fit, Subject: "S1" } })
            .ToArray();
        Assert.Equal("tally-open", WhenMayWhat.WhyNot(OrderAct.Cancel, Make.Order(open), Make.Fjell)!.Code);
        Assert.Equal(Stage.Cancelled, Make.Order([.. Make.Agreed(), CloseRules.Cancel("customer declined")]).Stage);
    }

    [Theory]
    [InlineData("a\u0007b", "text-control")]
    [InlineData("a\u202Eb", "text-control")]
    [InlineData("\ud800", "text-control")]
    [InlineData("  ", "text-missing")]
    public void Unfit_text_is_refused(string text, string code) =>
        Assert.Equal(code, Code(() => NoteRules.AddNote(Make.Order(Make.Agreed()), Make.Fjell, text)));

    [Fact]
    public void Text_has_a_length_and_may_have_lines()
    {
        Assert.Equal(
            "text-too-long",
            Code(() => NoteRules.AddNote(Make.Order(Make.Agreed()), Make.Fjell, new string('x', 2001)))
        );
        Assert.Equal("two\nlines 🔧", NoteRules.AddNote(Make.Order(Make.Agreed()), Make.Fjell, " two\nlines 🔧 ").Text);
    }

    private static ReadingTaken After(params int[] gigabytes) =>
        new(Phase.After, Make.Reading(Make.Fjell, gigabytes), null, null);

    private static string Code(Action action) => Assert.Throws<RefusedException>(action).Code;
}
