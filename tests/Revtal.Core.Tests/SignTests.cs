using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What a start shows, what follows from it on this order, and what it teaches the guide.</summary>
public sealed class SignTests
{
    private const string Beeps = "3 short beeps";

    [Fact]
    public void A_sign_of_a_module_not_seated_names_the_slots_of_this_very_plan_upper_first()
    {
        // S1 lies under S2; only S2 is fitted by the first plan, both by the second.
        Assert.Equal(["S2"], Answer(Started(new SlotChange("S2", Make.Module(16))), Beeps).Reseat);
        var both = Answer(Started(new("S1", Make.Module(16)), new("S2", Make.Module(16))), Beeps);
        Assert.Equal(
            ("not seated", false, "Off, unplugged, drained; then seat S2, then S1 anew."),
            (both.Meaning, both.IsNormal, both.Follow)
        );
        Assert.Equal(["S2", "S1"], both.Reseat);
    }

    [Fact]
    public void A_sign_that_lasts_has_a_clock_and_one_that_nobody_knows_is_no_comfort()
    {
        // TB6: one long beep is normal and lasts up to 2 min.
        var box = new Bench("TB6", [4, 4], new SlotChange("M2", Make.Module(8)));
        box.Until("start.power-on");
        box.Add(BenchRules.Find(box.Order, box.Guide, FindKind.Sign, StepId.PowerOn, "one long beep"));
        var beep = Assert.Single(SignAnswers.Of(box.Guide, box.Order.Plan!.Value, box.Order.RunState));
        Assert.Equal(
            (true, TimeSpan.FromMinutes(2), "Wait, up to 2 min."),
            (beep.IsNormal, beep.Until - beep.At, beep.Follow)
        );
        var unknown = Answer(Started(new SlotChange("S2", Make.Module(16))), "smoke");
        Assert.Equal(("not in the guide", false, null), (unknown.Meaning, unknown.IsNormal, unknown.Until));
    }

    [Fact]
    public void What_the_guide_says_of_a_flat_battery_and_of_a_notice_is_a_step()
    {
        var flat = Answer(Started(new SlotChange("S2", Make.Module(16))), "the lamp blinks amber and nothing starts");
        Assert.Contains("mains", flat.Follow!, StringComparison.Ordinal);
        Assert.Empty(flat.Reseat);
        var notice = Answer(Started(new SlotChange("S2", Make.Module(16))), "notice that memory size changed");
        Assert.Contains("F2", notice.Follow!, StringComparison.Ordinal);
    }

    [Fact]
    public void A_reseat_may_begin_once_the_machine_is_closed_before_anything_was_read()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S2", Make.Module(16))).Until("fit.S2");
        Assert.Equal("wrong-stage", bench.WhyNot(OrderAct.BeginReseat));
        bench.Until("start.power-on");
        Assert.Null(bench.WhyNot(OrderAct.BeginReseat));
        bench.Add(BenchRules.Find(bench.Order, bench.Guide, FindKind.Sign, StepId.PowerOn, Beeps));
        Assert.NotNull(bench.Order.SignOpen(bench.Guide));
        bench.Add(BenchRules.Reseat(bench.Order, bench.Guide, ["S2"], "it beeped"));
        Assert.Equal(["S2"], bench.Order.Run!.Reseat);
        bench.Until("nothing");
        Assert.Null(bench.Order.SignOpen(bench.Guide));
    }

    [Fact]
    public void Signs_are_counted_for_the_guide()
    {
        EntryBody[] passes = [Sign(Beeps), new FoundInside(1, FindKind.NormalStart, StepId.PowerOn, null), Start];
        // Seated anew in another run: that it started then says nothing of the sign.
        EntryBody[] mended = [Sign(Beeps), new FoundInside(2, FindKind.NormalStart, StepId.PowerOn, null), Start];
        var harmless = Count(passes, passes, passes);
        Assert.Equal((3, 3, 103), (harmless.Times, harmless.Passed, harmless.Last));
        Assert.Contains("Is it normal?", harmless.Advice!, StringComparison.Ordinal);
        Assert.Null(Count(passes, passes, mended).Advice);
        Assert.Null(Count(passes, passes).Advice);

        var counts = SignCounts.Of(
            Make.Fjell,
            [.. Enumerable.Range(1, 10).Select(i => (i, (IReadOnlyList<EntryBody>)[Start]))]
        );
        Assert.Equal(10, counts.Starts);
        Assert.All(
            counts.Signs,
            s => Assert.StartsWith("Never told in 10 starts", s.Advice!, StringComparison.Ordinal)
        );
        var few = SignCounts.Of(
            Make.Fjell,
            [.. Enumerable.Range(1, 9).Select(i => (i, (IReadOnlyList<EntryBody>)[Start]))]
        );
        Assert.All(few.Signs, s => Assert.Null(s.Advice));
        var strange = SignCounts.Of(Make.Fjell, [(7, [Sign("Hums"), Sign("hums"), Start])]).Signs[^1];
        Assert.Equal(("Hums", null, 1, 7), (strange.Sees, strange.Means, strange.Times, strange.Last));
        Assert.Contains("Not in the guide", strange.Advice!, StringComparison.Ordinal);
    }

    private static StepConfirmed Start { get; } = new(1, StepId.PowerOn, null, null, null);

    private static FoundInside Sign(string sees) => new(1, FindKind.Sign, StepId.PowerOn, sees);

    private static SignCount Count(params EntryBody[][] orders) =>
        SignCounts
            .Of(Make.Fjell, [.. orders.Select((o, i) => (101 + i, (IReadOnlyList<EntryBody>)o))])
            .Signs.Single(s => s.Sees == Beeps);

    private static Bench Started(params SlotChange[] changes) =>
        new Bench("FJ14", [0, 8], changes).Until("start.power-on");

    private static SignAnswer Answer(Bench bench, string sees)
    {
        bench.Add(BenchRules.Find(bench.Order, bench.Guide, FindKind.Sign, StepId.PowerOn, sees));
        return Assert.Single(SignAnswers.Of(bench.Guide, bench.Order.Plan!.Value, bench.Order.RunState));
    }
}
