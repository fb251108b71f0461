using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What stands between an order and its hand-back, and what ends it.</summary>
public sealed class HoldTests
{
    // All of it was explained: what lies on the board lies there all the same, and power comes on it.
    [Fact]
    public void A_fastener_that_did_not_go_back_stops_power_and_holds_the_machine_however_it_is_explained()
    {
        var bench = Lost();
        Assert.Equal("loose-metal", bench.Refused("start.power-on"));
        var hold = Assert.Single(Holds.Open(bench.Order, bench.Guide));
        Assert.Equal((HoldKind.LooseMetal, "loose-metal"), (hold.Kind, hold.Key));
        Assert.Equal("lead-waives", bench.WaiveRefused(Gate.LooseMetal, "start.power-on", Role.Technician));
    }

    [Fact]
    public void A_lost_fastener_that_is_found_frees_the_machine_and_so_does_a_leads_word_that_it_is_out()
    {
        var bench = Lost();
        var found = BenchRules.Find(
            bench.Order,
            bench.Guide,
            FindKind.LostFastener,
            StepId.Parse(bench.Lost!),
            "under the fan"
        );
        Assert.Empty(Holds.Open(bench.Copy().Add(found).Order, bench.Guide));
        bench.Copy().Add(found).Confirm("start.power-on");
        Assert.Empty(Holds.Open(bench.Copy().Waive(Gate.LooseMetal, "start.power-on").Order, bench.Guide));
        bench.Copy().Waive(Gate.LooseMetal, "start.power-on").Confirm("start.power-on");
        var twice = bench.Copy().Add(found);
        Assert.Equal(
            "none-lost",
            Assert
                .Throws<RefusedException>(() =>
                    BenchRules.Find(twice.Order, twice.Guide, FindKind.LostFastener, StepId.Parse(bench.Lost!), null)
                )
                .Code
        );
    }

    // What a start shows is pressed where it is seen; only the guide's word, or nobody's, says that it is not normal.
    [Theory]
    [InlineData("3 short beeps", "At its start it showed: 3 short beeps (not seated).")]
    [InlineData("a burnt smell", "At its start it showed: a burnt smell (not in the guide).")]
    [InlineData("Restarts once by itself", null)]
    public void A_start_that_is_not_normal_holds_the_machine_until_one_is(string sees, string? held)
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S2", new(MemorySize.Gigabytes(16), "DDR4", "SO-DIMM")));
        bench.Until("start.power-on");
        bench.Add(BenchRules.Find(bench.Order, bench.Guide, FindKind.Sign, StepId.PowerOn, sees));
        Assert.Equal(held, Sentence(bench));
        bench.Confirm("start.power-on");
        Assert.Equal(held, Sentence(bench));
        // A reading that is as planned does not make the sign undone.
        bench.Add(new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 16]), null, null));
        Assert.Equal(held, Sentence(bench));
        Assert.Equal(held is null ? Verdict.AsPlanned : Verdict.WithRemarks, bench.Order.Check(bench.Guide)!.Verdict);
        bench.Add(BenchRules.Find(bench.Order, bench.Guide, FindKind.NormalStart, StepId.PowerOn, null));
        Assert.Null(Sentence(bench));

        static string? Sentence(Bench b) =>
            Holds.Open(b.Order, b.Guide).FirstOrDefault(h => h.Kind == HoldKind.Sign)?.Sentence;
    }

    [Fact]
    public void A_start_after_another_run_tells_anew()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S2", new(MemorySize.Gigabytes(16), "DDR4", "SO-DIMM")));
        bench.Until("start.power-on").Confirm("start.power-on");
        bench.Add(BenchRules.Find(bench.Order, bench.Guide, FindKind.Sign, StepId.PowerOn, "3 short beeps"));
        bench.Add(new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 16]), null, null));
        bench.Add(BenchRules.Reseat(bench.Order, bench.Guide, ["S2"], "beeps")).Until("start.power-on");
        Assert.NotNull(bench.Order.SignOpen(bench.Guide));
        Assert.Null(bench.Confirm("start.power-on").Order.SignOpen(bench.Guide));
    }

    // The next run opens and closes with as many as it found: the one of the run before is still missing.
    [Fact]
    public void A_later_run_forgets_no_fastener_that_an_earlier_one_lost()
    {
        var bench = Lost();
        bench.Add(BenchRules.Reseat(bench.Order, bench.Guide, ["B2"], null)).Until("measure.open");
        Assert.Equal("loose-metal", bench.Refused("measure.open"));
        Assert.Equal(HoldKind.LooseMetal, Assert.Single(Holds.Open(bench.Order, bench.Guide)).Kind);
    }

    [Fact]
    public void What_came_out_is_counted_and_never_taken_from_the_guide()
    {
        var bench = new Bench("QT40", [8, 0, 0, 0], new SlotChange("B2", new(MemorySize.Gigabytes(8), "DDR4", "DIMM")));
        var open = bench.Sheet.Steps.First(s => s.Part == RunPart.Open && s.LooseFasteners > 0).Id.ToString();
        bench.Until(open);
        Assert.Equal("count-missing", bench.Refused(open, w => w with { Fasteners = null }));
    }

    // Counted as the guide has it in the hurry; the empty hole is seen when the panel lies on the mat.
    [Fact]
    public void A_hole_found_empty_on_arrival_counts_at_closing()
    {
        var bench = new Bench("QT40", [8, 0, 0, 0], new SlotChange("B2", new(MemorySize.Gigabytes(8), "DDR4", "DIMM")));
        var open = bench.Sheet.Steps.First(s => s.Part == RunPart.Open && s.LooseFasteners > 0).Id;
        var close = StepId.Close(open.Subject).ToString();
        bench.Until(close);
        Assert.Equal("tally-open", bench.Refused(close, w => w with { Fasteners = w.Fasteners - 1 }));
        bench
            .Add(BenchRules.Find(bench.Order, bench.Guide, FindKind.MissingFastener, open, null))
            .Confirm(close, w => w with { Fasteners = w.Fasteners - 1 });
        Assert.Empty(Holds.Open(bench.Order, bench.Guide));
    }

    private static Bench Lost()
    {
        var bench = new Bench("QT40", [8, 0, 0, 0], new SlotChange("B2", new(MemorySize.Gigabytes(8), "DDR4", "DIMM")));
        var close = bench.Sheet.Steps.First(s => s.Part == RunPart.Close && s.LooseFasteners > 0).Id.ToString();
        bench.Lost = close;
        return bench
            .Until(close)
            .Confirm(close, w => w with { Fasteners = w.Fasteners - 1, Explanation = "rolled off, not found" })
            .Until("start.power-on");
    }

    [Fact]
    public void A_fault_that_came_back_is_a_finding_and_holds_until_a_search_names_a_part()
    {
        EntryBody[] bodies =
        [
            .. Make.Run(),
            new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [8, 8]), null, null),
            new WatchBegun("freezes", new DateTimeOffset(2026, 3, 22, 9, 0, 0, TimeSpan.Zero), 3),
            new WatchEnded(WatchOutcome.CameBack, "at noon, twice"),
        ];
        var order = Make.Order(bodies);
        var now = Assessment.Of(order, Make.Fjell);
        Assert.Equal((Stage.Checking, NextKind.SwapTest), (order.Stage, now.Next.Kind));
        Assert.Equal(Verdict.WithRemarks, now.Check!.Verdict);
        Assert.Equal("It came back while it was watched: at noon, twice", now.Check.Sentence[^49..]);
        Assert.Equal(HoldKind.CameBack, Assert.Single(now.Holds, h => h.IsOpen).Kind);
        Assert.Equal("lead-decides", Code(() => CloseRules.MarkReady(order, Make.Fjell, Role.Technician, "fine")));
        // All modules are seen: that it fails is what the search starts from.
        Assert.False(SwapRules.BeginSwapTest(order, Make.Fjell, null).Setup.First.Started);
    }

    [Fact]
    public void A_lead_releases_one_hold_with_a_reason_and_what_falls_short_since_is_held_anew()
    {
        EntryBody[] bodies =
        [
            .. Make.Run(),
            new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 8]), null, null),
        ];
        var order = Make.Order(bodies);
        var key = Assert.Single(Holds.Open(order, Make.Fjell)).Key;
        Assert.Equal("lead-releases", Code(() => CloseRules.Release(order, Make.Fjell, Role.Technician, key, "why")));
        Assert.Equal("no-such-hold", Code(() => CloseRules.Release(order, Make.Fjell, Role.Lead, "watched", "why")));
        var released = CloseRules.Release(order, Make.Fjell, Role.Lead, key, "the customer knows");
        var after = Make.Order([.. bodies, released]);
        Assert.Empty(Holds.Open(after, Make.Fjell));
        Assert.Equal(
            "the customer knows",
            Assert.Single(Holds.Of(after, Make.Fjell, after.Check(Make.Fjell))).Released!.Reason
        );
        var worse = Make.Order([
            .. bodies,
            released,
            new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 4]), null, null),
        ]);
        Assert.NotEmpty(Holds.Open(worse, Make.Fjell));
    }

    [Fact]
    public void What_came_out_is_spoken_for_before_the_machine_goes_and_not_before_it_is_out()
    {
        var bench = new Bench(
            "QT40",
            [8, 0, 0, 0],
            new SlotChange("A1", new(MemorySize.Gigabytes(16), "DDR4", "DIMM"))
        );
        bench.Until("pull.A1");
        Assert.Equal("not-out-yet", bench.WhyNot(OrderAct.SettleOldPart));
        bench.Confirm("pull.A1");
        Assert.Equal("fate-open.A1", Assert.Single(Holds.Open(bench.Order, bench.Guide)).Key);
        Assert.Equal("old-parts-open", Code(() => CloseRules.HandBack(bench.Order, bench.Guide, "M. Alto", null)));
        var home = CloseRules.HandBack(bench.Order, bench.Guide, "M. Alto", "in the bag");
        Assert.Empty(Holds.Open(bench.Copy().Add(home).Order, bench.Guide));
        Assert.Equal("claim-missing", Code(() => Settle(PartFate.Returned)));
        Assert.Equal("order-missing", Code(() => Settle(PartFate.OtherOrder)));
        bench.Add(Settle(PartFate.ForLater));
        Assert.Empty(Holds.Open(bench.Order, bench.Guide));

        OldPartSettled Settle(PartFate fate) => DriveRules.Settle(bench.Order, bench.Guide, "A1", fate, null, null);
    }

    // Sold as set up: the reading may come first, and what is not confirmed is held.
    [Fact]
    public void A_drive_that_was_sold_as_set_up_is_read_before_it_is_and_held_until_it_is()
    {
        var bench = new Bench(
            "NM2",
            [8, 8],
            new SlotChange(
                "D2",
                Drive: new DriveWish(
                    new Drive(DriveSize.Parse("1 TB"), "M.2 2280", "M", "PCIe 4.0 x4"),
                    DataPath.CleanInstall,
                    Setup: new DriveSetup(true, "GPT", "NTFS", "Plates")
                )
            )
        );
        bench.Until("set-up.D2.initialise");
        Assert.Null(bench.WhyNot(OrderAct.ReadAfter));
        bench.Add(new ReadingTaken(Phase.After, Make.Reading(bench.Model, [8, 8]), null, null));
        Assert.Contains(Holds.Open(bench.Order, bench.Guide), h => h.Key == "not-set-up.D2.format");
        Assert.Null(bench.WhyNot(OrderAct.ConfirmStep));
        bench.Confirm("set-up.D2.initialise").Confirm("set-up.D2.format");
        Assert.DoesNotContain(Holds.Open(bench.Order, bench.Guide), h => h.Kind == HoldKind.NotSetUp);
        Assert.Equal((Stage.OnBench, "Take the after reading"), (bench.Order.Stage, bench.Next));
    }

    [Fact]
    public void The_desk_confirms_nothing_at_the_machine_and_empties_no_agreed_plan()
    {
        var order = Make.Order(Make.Agreed());
        foreach (
            var act in (OrderAct[])[OrderAct.ConfirmStep, OrderAct.SetPlan, OrderAct.ReadAfter, OrderAct.MarkReady]
        )
        {
            Assert.Equal("technician-does", Code(() => WhenMayWhat.NeedRole(act, order, Role.Desk)));
            WhenMayWhat.NeedRole(act, order, Role.Technician);
        }

        WhenMayWhat.NeedRole(OrderAct.HandBack, order, Role.Desk);
    }

    private static string Code(Action act) => Assert.Throws<RefusedException>(act).Code;
}
