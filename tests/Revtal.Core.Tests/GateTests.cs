using CsCheck;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What stands between the technician and the board, and how it opens.</summary>
public sealed class GateTests
{
    private static readonly DateTimeOffset Start = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    [Fact]
    public void A_battery_connector_inside_is_isolation_too()
    {
        var bench = new Bench("NS13", [8, 8], new SlotChange("S1", Make.Module(16)));
        bench.SealGiven().Until("open.battery");
        Assert.Equal("power-not-isolated", bench.Refused("pull.S1"));
        Assert.Contains("battery connector", bench.Message("pull.S1"), StringComparison.Ordinal);
        Assert.Equal(
            "not-skipped",
            bench.Refused("open.battery", w => w with { Deviation = Deviation.Skipped, Explanation = "no time" })
        );
        Assert.DoesNotContain(
            "open.battery",
            new Bench("NS13", [8, 8], new SlotChange("S1", Inspect: true))
                .Sheet.Steps.Select(s => s.Id.ToString())
                .Take(7)
        );
    }

    [Fact]
    public void Cooling_runs_from_the_shut_down_by_the_services_clock_while_hands_go_on()
    {
        var bench = new Bench("NS13", [8, 8], new SlotChange("S1", Make.Module(16)));
        bench
            .Confirm("prepare.bench")
            .Confirm("isolate.shut-down-not-sleep")
            .Pass(4)
            .Confirm("isolate.unplug")
            .Confirm("isolate.clear-mat");
        Assert.Equal("still-cooling", bench.Refused("isolate.cool-down"));
        Assert.Contains("6 min 0 s left", bench.Message("isolate.cool-down"), StringComparison.Ordinal);
        var timer = Assert.Single(bench.Sheet.Timers(bench.Order.RunState));
        Assert.Equal((Start, Start.AddMinutes(10)), (timer.From, timer.Until));
        Assert.Equal("lead-waives", bench.WaiveRefused(Gate.StillCooling, "isolate.cool-down", Role.Technician));
        var waived = bench.Copy().Waive(Gate.StillCooling, "isolate.cool-down");
        waived.Confirm("isolate.cool-down");
        bench.Pass(6).Confirm("isolate.cool-down");
        Assert.Empty(bench.Sheet.Timers(bench.Order.RunState));
    }

    [Fact]
    public void A_sealed_fastener_waits_for_the_customers_word()
    {
        var bench = new Bench("NS13", [8, 8], new SlotChange("S1", Make.Module(16)));
        bench.Until("open.base");
        Assert.Equal("seal-consent-missing", bench.Refused("open.base"));
        bench.Copy().Waive(Gate.SealConsentMissing, "open.base").Confirm("open.base");
        bench.SealGiven().Confirm("open.base");
    }

    // What the intake says of a backup is another matter: the plan promised the data.
    [Theory]
    [InlineData(Backup.Waived)]
    [InlineData(Backup.Made)]
    public void A_drive_whose_data_was_promised_leaves_only_with_its_copy_verified_or_waived(Backup backup)
    {
        var bench = new Bench("QT40", [8, 0, 8, 0], CopyFirst("D2")) { Backup = backup };
        Assert.Equal("Copy and compare the data of D2, then begin the run", bench.Next);
        bench.Until("pull.D2", withCopies: false);
        Assert.Equal("boot-copy-missing", bench.Refused("pull.D2"));
        bench.Copy().Add(DriveRules.TellCopy(CopyState.Waived, "A. Pressel, by telephone")).Confirm("pull.D2");
        bench.Copy().Add(DriveRules.TellCopy(CopyState.Verified, "image, counted", 20)).Confirm("pull.D2");

        // A comparison that was not good takes back what was told before it.
        bench
            .Add(DriveRules.TellCopy(CopyState.Verified, "image, counted", 20))
            .Add(new CopyBegun("D2", "OLD", "NEW", "image", DriveSize.Parse("1 TB")))
            .Add(new CopyVerified("D2", 10, 10, 2, 1));
        Assert.Equal("boot-copy-missing", bench.Refused("pull.D2"));
        Assert.Equal(["D2"], bench.Order.CopiesOwed);
        bench.Add(new CopyVerified("D2", 10, 10, 2, 2)).Confirm("pull.D2");
        Assert.Equal(
            "text-missing",
            Assert.Throws<RefusedException>(() => DriveRules.TellCopy(CopyState.Verified, " ")).Code
        );
    }

    // Its data is not at risk: a precaution says to mind it, and nothing stops.
    [Fact]
    public void A_drive_that_is_only_lifted_aside_stops_nothing()
    {
        var bench = new Bench("NM2", [8, 8], new SlotChange("S2", Reseat: true));
        bench.Until("open.bottom", withCopies: false).Confirm("open.bottom");
        Assert.Empty(bench.Order.CopiesOwed);
    }

    // NM2's S1 lies under S2, and both are reached through the bottom plate.
    [Fact]
    public void A_lower_slot_is_worked_at_with_the_upper_module_out()
    {
        var steps = new Bench("NM2", [8, 8], new SlotChange("S1", Make.Module(16)))
            .Sheet.Steps.Where(s => s.Id.MovesParts && s.Position is "S1" or "S2")
            .Select(s => s.Id.ToString());
        Assert.Equal(["pull.S2", "pull.S1", "fit.S1", "fit.S2"], steps);
        var upper = new Bench("NM2", [8, 8], new SlotChange("S2", Make.Module(16))).Sheet.Steps;
        Assert.DoesNotContain(upper, s => s.Position == "S1");
        // An empty one is in nobody's way, and FJ14's upper slot is reached from the other side.
        Assert.DoesNotContain(
            new Bench("NM2", [8, 0], new SlotChange("S1", Make.Module(16))).Sheet.Steps,
            s => s.Position == "S2"
        );
        Assert.DoesNotContain(
            new Bench("FJ14", [8, 8], new SlotChange("S1", Make.Module(16))).Sheet.Steps,
            s => s.Position == "S2"
        );
    }

    [Fact]
    public void No_sheet_is_without_isolation_and_what_it_took_out_goes_back_before_power()
    {
        var guide = Make.Fjell with { Isolate = [] };
        var plan = Planner.Make(guide, Make.Reading(guide, [0, 8]), [new SlotChange("S1", Make.Module(8))]);
        Assert.Equal(
            ["isolate.shut-down-not-sleep", "isolate.unplug", "isolate.hold-power", "isolate.ground-yourself"],
            RunSheetBuilder
                .ForPlan(guide, plan)
                .Steps.Where(s => s.Part == RunPart.Isolate)
                .Select(s => s.Id.ToString())
        );
        var inside = Make.Fjell with { Isolate = [new IsolationStep("lift-battery-connector", null, null)] };
        var back = RunSheetBuilder
            .ForPlan(inside, plan)
            .Steps.SkipWhile(s => s.Part < RunPart.Close)
            .Select(s => s.Id.ToString());
        Assert.Equal(["return.lift-battery-connector", "close.keyboard", "close.hatch", "start.power-on"], back);
        Assert.Contains(
            GuideChecker.Check(guide),
            p => p.Message.StartsWith("isolate names no step", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void The_strap_goes_on_after_the_machine_has_cooled()
    {
        var strap = new Bench("QW80", [16, 0, 16, 0, 16, 0, 16, 0], new SlotChange("A2", Make.Module(16))).Sheet.Find(
            StepId.Parse("isolate.ground-yourself")
        );
        Assert.Contains(StepId.Isolate(Isolation.CoolDown), strap.WaitsFor);
    }

    [Fact]
    public void A_seal_that_the_customer_wants_whole_stops_the_plan_and_not_the_open_machine()
    {
        var guide = Repository.Guide("NS13");
        EntryBody[] bodies =
        [
            Make.TakenIn("NS13"),
            new ReadingTaken(Phase.Before, Make.Reading(guide, [8, 8]), null, null),
        ];
        SlotChange[] wish = [new("S1", Make.Module(16) with { Generation = "DDR5", Form = "SO-DIMM" })];
        var asked = Make.Order(bodies);
        var plan = PlanRules.SetPlan(asked, guide, wish, null);
        Assert.Equal(FitWeight.Remark, PlanRules.Sealed(asked, guide, plan.Plan)!.Weight);
        var refused = new SealTold(SealConsent.Refused, "Dr. Kolb");
        Assert.Equal(
            "seal-consent-missing",
            Assert
                .Throws<RefusedException>(() => PlanRules.SetPlan(Make.Order([.. bodies, refused]), guide, wish, null))
                .Code
        );
        // Said after the plan was made: no quote goes out on it.
        var planned = Make.Order([.. bodies, plan, refused]);
        Assert.Equal("seal-consent-missing", WhenMayWhat.WhyNot(OrderAct.OfferQuote, planned, guide)!.Code);
        Assert.Equal("seal-consent-missing", WhenMayWhat.WhyNot(OrderAct.Agree, planned, guide)!.Code);
    }

    [Fact]
    public void Copied_data_is_never_formatted_and_no_plan_leaves_a_machine_without_memory()
    {
        var order = Make.Order(Make.Agreed());
        Assert.Equal(
            "plan-leaves-nothing",
            Assert
                .Throws<RefusedException>(() =>
                    PlanRules.SetPlan(order, Make.Fjell, [new SlotChange("S2", Empty: true)], null)
                )
                .Code
        );
        var wish = new DriveWish(
            new Drive(DriveSize.Parse("2 TB"), "M.2 2280", "M", "PCIe 3.0 x4"),
            DataPath.CopyFirst,
            Setup: new DriveSetup(true, FileSystem: "NTFS", Label: "Plates", Grow: true)
        );
        Assert.Equal(
            "copy-and-format",
            Assert
                .Throws<RefusedException>(() =>
                    PlanRules.SetPlan(order, Make.Fjell, [new SlotChange("D1", Drive: wish)], null)
                )
                .Code
        );
        // A plan of before this was refused tells it no more than a new one does.
        var early = new Plan(order.Plan!.Value.Slots, [new PlannedBay("D1", BayUse.Fit, null, false, wish)]);
        Assert.Equal(
            ["rename", "grow"],
            RunSheetBuilder.ForPlan(Make.Fjell, early).Steps.Where(s => s.Part == RunPart.SetUp).Select(s => s.Id.Work)
        );
    }

    [Fact]
    public void A_start_with_the_case_open_wants_a_figure_and_hears_the_reading()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S1", Make.Module(8)));
        bench.Until("measure.open");
        Assert.Equal("figure-missing", bench.Refused("measure.open", w => w with { Seen = null }));
        bench.Add(new ReadingTaken(Phase.During, Make.Reading(bench.Model, [0, 8]), null, null));
        Assert.Equal("open-short", bench.Refused("measure.open", w => w with { Seen = null }));
        Assert.Equal("open-contradicts", bench.Refused("measure.open"));
        bench.Copy().Confirm("measure.open", w => w with { Explanation = "the reading was of the start before" });
    }

    private static SlotChange CopyFirst(string bay) =>
        new(
            bay,
            Drive: new DriveWish(
                new Drive(DriveSize.Parse("2 TB"), "3.5 in", Link: "SATA 6 Gb/s"),
                DataPath.CopyFirst,
                Setup: new DriveSetup(Grow: true)
            )
        );

    [Fact]
    public void A_drive_that_leaves_with_its_plate_is_written_down_once_and_comes_back_with_it()
    {
        var bench = new Bench("NM2", [8, 8], new SlotChange("D1", Reseat: true));
        Assert.Equal(
            ["open.bottom", "record.bottom"],
            bench
                .Sheet.Steps.Where(s => s.Part is RunPart.Open or RunPart.Record or RunPart.Pull)
                .Select(s => s.Id.ToString())
        );
        bench.Until("close.bottom");
        Assert.Equal("wrong-bay", bench.Refused("close.bottom", w => w with { Occupants = null }));
        bench.Confirm("close.bottom");
    }

    // The trays are out when their labels are read, and what was read before is offered beside them.
    [Fact]
    public void Serials_are_written_down_where_they_can_be_read_and_offered_where_they_were_read()
    {
        var bench = new Bench("TB6", [4, 0], new SlotChange("M2", Make.Module(4)));
        string[] way = [.. bench.Sheet.Steps.Select(s => s.Id.ToString())];
        Assert.Equal(Array.IndexOf(way, "open.drives-out") + 1, Array.IndexOf(way, "record.drives-out"));
        Assert.Empty(bench.Sheet.Find(StepId.Parse("record.drives-out")).Offers);
        var order = bench.Order;
        var read = order.Before!.Value with
        {
            Drives =
            [
                new("B1", new Drive(DriveSize.Sold(8000), Serial: "BA-1")),
                new(null, new Drive(DriveSize.Sold(8000), Serial: "BA-2")),
            ],
            EmptyBays = ["B6"],
        };
        var offers = (order with { Before = order.Before with { Value = read } })
            .Sheet(bench.Guide)!
            .Find(StepId.Parse("record.drives-out"))
            .Offers;
        // Of which bay the second is nobody knows: it is offered nowhere.
        Assert.Equal([("B1", "BA-1"), ("B6", "empty")], offers.Select(o => (o.Key, o.Value)).Order());
    }

    [Fact]
    public void Every_drive_comes_back_into_its_own_bay()
    {
        var bench = new Bench("TB6", [4, 0], new SlotChange("M2", Make.Module(4)));
        bench.Until("record.drives-out");
        Assert.Equal("occupant-missing", bench.Refused("record.drives-out", w => w with { Occupants = null }));
        Assert.Equal(
            "occupant-twice",
            bench.Refused(
                "record.drives-out",
                w => w with { Occupants = w.Occupants!.ToDictionary(o => o.Key, _ => "X1") }
            )
        );
        bench.Until("close.drives-out");
        var right = bench.Wish("close.drives-out").Occupants!;
        Assert.Equal("wrong-bay", bench.Refused("close.drives-out", w => w with { Occupants = null }));
        Assert.Equal("wrong-bay", bench.Refused("close.drives-out", w => w with { Occupants = Swapped(right) }));
        Assert.Contains(
            "belongs in B2, not in B1",
            bench.Message("close.drives-out", w => w with { Occupants = Swapped(right) }),
            StringComparison.Ordinal
        );
        bench
            .Copy()
            .Waive(Gate.WrongBay, "close.drives-out")
            .Confirm("close.drives-out", w => w with { Occupants = Swapped(right) });
        bench.Confirm("close.drives-out");

        static Dictionary<string, string> Swapped(IReadOnlyDictionary<string, string> right) =>
            new(right) { ["B1"] = right["B2"], ["B2"] = right["B1"] };
    }

    [Fact]
    public void A_swollen_battery_stops_all_until_a_lead_decides()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S1", Make.Module(8)));
        bench
            .Until("open.hatch")
            .Add(BenchRules.Find(bench.Order, bench.Guide, FindKind.SwollenBattery, StepId.Parse("open.hatch"), null));
        Assert.Equal("run-stopped", bench.Refused("open.hatch"));
        Assert.Contains("A lead decides", Assessment.Of(bench.Order, bench.Guide).Next.Text, StringComparison.Ordinal);
        bench.Waive(Gate.RunStopped, null).Confirm("open.hatch");
    }

    [Fact]
    public void A_step_that_cannot_be_done_waits_for_another_hand_or_a_lead()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S1", Make.Module(8)));
        bench.Until("open.keyboard");
        Assert.Equal("gate-not-closed", bench.WaiveRefused(Gate.StepImpossible, "open.keyboard"));
        bench.Add(BenchRules.Block(bench.Order, bench.Guide, StepId.Parse("open.keyboard"), "head torn"));
        Assert.Equal("not-open", bench.Refused("fit.S1"));
        bench.Copy().Waive(Gate.StepImpossible, "open.keyboard").Confirm("fit.S1");
        bench.Confirm("open.keyboard");
        Assert.Empty(bench.Order.RunState.Blocked);
    }

    [Fact]
    public void Only_the_last_step_can_be_taken_back_and_then_its_gate_is_shut_again()
    {
        var bench = new Bench("FJ14", [8, 8], new SlotChange("S1", Make.Module(16)));
        bench.Until("pull.S1");
        Assert.Equal(
            "not-the-last",
            Assert
                .Throws<RefusedException>(() =>
                    BenchRules.TakeBack(bench.Order, bench.Guide, StepId.Parse("isolate.unplug"), null)
                )
                .Code
        );
        var last = bench.Order.Run!.Done[^1].Step;
        bench.Add(BenchRules.TakeBack(bench.Order, bench.Guide, last, "not yet"));
        Assert.Equal(last, bench.Sheet.Next(bench.Order.RunState)!.Id);
        Assert.Equal("not-recorded", bench.Refused("pull.S1"));
    }

    [Fact]
    public void Two_lengths_changed_over_are_found_though_the_sum_is_right()
    {
        var bench = new Bench("NS13", [8, 8], new SlotChange("S1", Make.Module(16)));
        bench.SealGiven().Until("close.base");
        Assert.Contains(
            "another length",
            bench.Message(
                "close.base",
                w =>
                    w with
                    {
                        Fasteners = null,
                        Groups = new Dictionary<string, int> { ["base-long"] = 3, ["base-short"] = 4 },
                    }
            ),
            StringComparison.Ordinal
        );
        Assert.Equal("count-by-group", bench.Refused("close.base", w => w with { Fasteners = 6 }));
        Assert.Contains(
            "base-short/3",
            bench.Message(
                "close.base",
                w =>
                    w with
                    {
                        Fasteners = null,
                        Holes =
                        [
                            "base-long/1",
                            "base-long/2",
                            "base-long/3",
                            "base-long/4",
                            "base-short/1",
                            "base-short/2",
                        ],
                    }
            ),
            StringComparison.Ordinal
        );
        Assert.Equal(
            "hole-unknown",
            bench.Refused("close.base", w => w with { Fasteners = null, Holes = ["base-long/9"] })
        );
        bench.Confirm("close.base");
        Assert.Equal([4, 3], bench.Tally.Lines.Where(l => l.Removal == "base").Select(l => l.Back!.Value));
    }

    // However many come out and go back: without an explanation only what came out goes back, group by group.
    [Fact]
    public void The_tally_closes_by_itself_only_when_every_group_is_back()
    {
        var opened = new Bench("NS13", [8, 8], new SlotChange("S1", Make.Module(16))).SealGiven().Until("open.base");
        Gen.Select(Gen.Int[0, 5], Gen.Int[0, 4], Gen.Int[0, 5], Gen.Int[0, 4])
            .Sample(
                (outLong, outShort, backLong, backShort) =>
                {
                    var bench = opened
                        .Copy()
                        .Confirm(
                            "open.base",
                            w =>
                                w with
                                {
                                    Fasteners = null,
                                    Groups = Groups(outLong, outShort),
                                    Explanation = "counted",
                                }
                        )
                        .Until("close.base");
                    var back = Groups(backLong, backShort);
                    if ((outLong, outShort) == (backLong, backShort))
                    {
                        bench.Confirm("close.base", w => w with { Fasteners = null, Groups = back });
                    }
                    else
                    {
                        Assert.Equal(
                            "tally-open",
                            bench.Refused("close.base", w => w with { Fasteners = null, Groups = back })
                        );
                        Assert.True(bench.Tally.IsOpen);
                        bench.Confirm(
                            "close.base",
                            w => w with { Fasteners = null, Groups = back, Explanation = "two heads torn off" }
                        );
                    }

                    Assert.False(bench.Tally.IsOpen);
                    Assert.Equal((outLong + outShort, backLong + backShort), (bench.Tally.Out, bench.Tally.Back));
                },
                iter: 80
            );

        static Dictionary<string, int> Groups(int longs, int shorts) =>
            new() { ["base-long"] = longs, ["base-short"] = shorts };
    }

    [Fact]
    public void Measured_short_with_the_case_open_it_does_not_close()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S1", Make.Module(8)));
        bench.Until("measure.open");
        Assert.Equal(
            "open-short",
            bench.Refused("measure.open", w => w with { Seen = Revtal.Core.Hardware.MemorySize.Gigabytes(8) })
        );
        bench.Confirm("measure.open", w => w with { Seen = Revtal.Core.Hardware.MemorySize.Gigabytes(16) });
    }

    [Fact]
    public void Otherwise_and_skipped_want_a_reason_and_skipping_has_its_bounds()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S1", Make.Module(8)));
        Assert.Equal("reason-missing", bench.Refused("prepare.bench", w => w with { Deviation = Deviation.Skipped }));
        bench.Confirm("prepare.bench", w => w with { Deviation = Deviation.Skipped, Explanation = "laid out already" });
        Assert.Equal(
            "not-skipped",
            bench.Refused(
                "isolate.shut-down-not-sleep",
                w => w with { Deviation = Deviation.Skipped, Explanation = "it is off" }
            )
        );
        bench.Confirm(
            "isolate.shut-down-not-sleep",
            w => w with { Deviation = Deviation.Otherwise, Explanation = "came in off" }
        );
    }

    [Fact]
    public void A_reseat_or_a_look_is_a_plan_like_any_other()
    {
        var look = new Bench("NL12", [8], new SlotChange("D1", Inspect: true));
        Assert.Equal(
            ["open.base", "open.battery", "look.D1"],
            look.Sheet.Steps.Where(s => s.Part is RunPart.Open or RunPart.Record).Select(s => s.Id.ToString())
        );
        var reseat = new Bench("FJ14", [8, 8], new SlotChange("S2", Reseat: true));
        Assert.Equal(
            ["pull.S2", "fit.S2"],
            reseat.Sheet.Steps.Where(s => s.Position is not null).Select(s => s.Id.ToString())
        );
        Assert.Equal(
            "nothing-to-reseat",
            Assert.Throws<RefusedException>(() => new Bench("FJ14", [0, 8], new SlotChange("S1", Reseat: true))).Code
        );
        Assert.Equal(
            "bay-not-memory",
            Assert.Throws<RefusedException>(() => new Bench("FJ14", [0, 8], new SlotChange("D1", Make.Module(8)))).Code
        );
    }

    [Fact]
    public void A_variant_that_the_plan_does_not_suit_drops_the_plan_while_that_is_still_possible()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S1", Make.Module(8)));
        bench.Until("open.keyboard");
        var told = IntakeRules.TellVariant(bench.Order, bench.Model, "FJ14-1");
        Assert.True(told.PlanDropped);
        bench.Add(told);
        Assert.Equal((Stage.Measured, "FJ14-1"), (bench.Order.Stage, bench.Order.Variant!));
        Assert.Equal(
            "slot-soldered",
            Assert
                .Throws<RefusedException>(() =>
                    PlanRules.SetPlan(bench.Order, bench.Guide, [new SlotChange("S1", Make.Module(8))], null)
                )
                .Code
        );
        bench
            .Add(PlanRules.SetPlan(bench.Order, bench.Guide, [new SlotChange("S2", Make.Module(16))], null))
            .Add(new PlanAgreed("M. Alto", null));
        Assert.Equal("record.modules", bench.Sheet.Next(bench.Order.RunState)!.Id.ToString());
        Assert.Equal(
            "no-such-variant",
            Assert.Throws<RefusedException>(() => IntakeRules.TellVariant(bench.Order, bench.Model, "FJ15")).Code
        );
    }

    public static TheoryData<string> Models => ["FJ14", "NS13", "PW24", "QT40", "QW80", "TB6", "NM2"];

    // Confirm, do otherwise, skip, call impossible, find, wait: in any order, on every model, with a lead who waives
    // some of it.
    [Theory]
    [MemberData(nameof(Models))]
    public void No_sequence_of_accepted_actions_pulls_or_fits_before_isolation(string model)
    {
        var first = new Bench(
            model,
            [.. Enumerable.Repeat(4, Repository.Guide(model).Memory.Slots.Count)],
            new SlotChange(Repository.Guide(model).Memory.Slots[0].Id, Make.Module(8))
        );
        Gen.Select(Gen.Int[0, 6], Gen.Int[0, first.Sheet.Steps.Count - 1])
            .Array[70]
            .Sample(
                actions =>
                {
                    var bench = first.Copy();
                    foreach (var (action, at) in actions)
                    {
                        var step = bench.Sheet.Steps[at];
                        try
                        {
                            _ = action switch
                            {
                                0 => bench.Confirm(
                                    step.Id.ToString(),
                                    w => w with { Deviation = Deviation.Skipped, Explanation = "why" }
                                ),
                                1 => bench.Add(BenchRules.Block(bench.Order, bench.Guide, step.Id, "why")),
                                2 => bench.Pass(3),
                                3 => bench.Waive(Gate.StepImpossible, step.Id.ToString()),
                                4 => bench.Confirm((bench.Sheet.Next(bench.Order.RunState) ?? step).Id.ToString()),
                                _ => bench.Confirm(step.Id.ToString()),
                            };
                        }
                        catch (RefusedException)
                        {
                            continue;
                        }

                        if (step.Part is RunPart.Pull or RunPart.Fit && action is 0 or 5 or 6)
                        {
                            var state = bench.Order.RunState;
                            Assert.All(
                                bench.Sheet.Steps.Where(s => s.Part == RunPart.Isolate || s.Isolates),
                                s =>
                                    Assert.True(
                                        state.Confirmed(s.Id) is { Deviation: not Deviation.Skipped }
                                            || state.IsWaived(Gate.StepImpossible, s.Id)
                                            || !state.Settled(step.Id)
                                    )
                            );
                        }
                    }
                },
                iter: 60
            );
    }
}
