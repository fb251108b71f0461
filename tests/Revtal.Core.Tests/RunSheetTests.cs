using CsCheck;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class RunSheetTests
{
    private static readonly Plan TwoSlots = Planner.Make(
        Make.Fjell,
        Make.Reading(Make.Fjell, [0, 8]),
        [new SlotChange("S1", From: "S2"), new SlotChange("S2", Make.Module(16))]
    );
    private static readonly RunSheet Sheet = RunSheetBuilder.ForPlan(Make.Fjell, TwoSlots);

    [Fact]
    public void Holds_the_steps_of_this_order_and_no_others() =>
        Assert.Equal(
            [
                "prepare.bench",
                "isolate.shut-down-not-sleep",
                "isolate.unplug",
                "isolate.remove-battery-pack",
                "isolate.hold-power",
                "isolate.lay-face-down",
                "isolate.ground-yourself",
                "open.hatch",
                "open.keyboard",
                "record.modules",
                "pull.S2",
                "fit.S1",
                "fit.S2",
                "measure.open",
                "close.keyboard",
                "close.hatch",
                "return.remove-battery-pack",
                "start.power-on",
            ],
            Sheet.Steps.Select(s => s.Id.ToString())
        );

    [Fact]
    public void An_empty_slot_is_not_pulled_and_an_untouched_part_stays_on()
    {
        var plan = Planner.Make(Make.Fjell, Make.Reading(Make.Fjell, [8, 0]), [new SlotChange("S2", Make.Module(8))]);
        var steps = RunSheetBuilder.ForPlan(Make.Fjell, plan).Steps.Select(s => s.Id.ToString()).ToArray();
        Assert.DoesNotContain("pull.S2", steps);
        Assert.DoesNotContain("open.keyboard", steps);
    }

    [Fact]
    public void Traps_stand_in_their_step() =>
        Assert.Contains("graphics", Assert.Single(Sheet.Find(StepId.Parse("fit.S1")).Traps), StringComparison.Ordinal);

    [Theory]
    [InlineData(null, "edge", true, true)]
    [InlineData(null, "glass", true, true)]
    [InlineData(null, "power", true, false)]
    [InlineData("open", "cable", true, false)]
    [InlineData("close", "cable", false, true)]
    [InlineData("close", "power", false, true)]
    public void A_warning_is_told_on_the_way_it_is_for(string? when, string kind, bool opening, bool closing)
    {
        var guide = Make.Fjell with
        {
            Removals =
            [
                .. Make.Fjell.Removals.Select(r => r with { Precautions = [new Precaution(kind, "mind it", when)] }),
            ],
        };
        var sheet = RunSheetBuilder.ForPlan(guide, TwoSlots);
        Assert.Equal(opening, sheet.Find(StepId.Open("hatch")).Precautions.Any(p => p.Text == "mind it"));
        Assert.Equal(closing, sheet.Find(StepId.Close("hatch")).Precautions.Any(p => p.Text == "mind it"));
    }

    [Fact]
    public void A_pull_before_isolation_is_refused_with_the_reason()
    {
        var refused = Assert.Throws<RefusedException>(() => Sheet.Confirm(Wish("pull.S2"), RunState.Of([])));
        Assert.Equal(
            "power-not-isolated",
            Assert
                .Throws<RefusedException>(() => Sheet.Confirm(Wish("pull.S2"), RunState.Of([Done("prepare.bench")])))
                .Code
        );
        Assert.Contains("confirm", refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Whatever_is_tried_in_whatever_order_no_gate_is_passed() =>
        Gen.Int[0, Sheet.Steps.Count - 1]
            .Array[80]
            .Sample(tries =>
            {
                var done = new List<StepConfirmation>();
                foreach (var step in tries.Select(i => Sheet.Steps[i]))
                {
                    try
                    {
                        done.Add(
                            Sheet.Confirm(
                                Wish(step.Id.ToString(), step.LooseFasteners > 0 ? step.LooseFasteners : null),
                                RunState.Of(done)
                            )
                        );
                    }
                    catch (RefusedException)
                    {
                        continue;
                    }

                    var ids = done.Select(d => d.Step).ToHashSet();
                    Assert.Equal(ids.Count, done.Count);
                    Before(ids, step.Part is RunPart.Open or RunPart.Pull or RunPart.Fit, StepVerb.Isolate);
                    Before(ids, step.Part is RunPart.Pull or RunPart.Fit, StepVerb.Open);
                    Before(ids, step.Part == RunPart.Close, StepVerb.Fit);
                    Before(ids, step.Part == RunPart.Start, StepVerb.Close);
                }
            });

    [Fact]
    public void Following_the_next_step_ends_the_run()
    {
        var done = new List<StepConfirmation>();
        while (Sheet.Next(RunState.Of(done)) is { } step)
        {
            done.Add(
                Sheet.Confirm(
                    Wish(step.Id.ToString(), step.LooseFasteners > 0 ? step.LooseFasteners : null) with
                    {
                        Seen = MemorySize.Gigabytes(20),
                    },
                    RunState.Of(done)
                )
            );
        }

        Assert.Equal(0, Sheet.Left(RunState.Of(done)));
        Assert.False(Tally.Of(Sheet, RunState.Of(done)).IsOpen);
    }

    [Theory]
    [InlineData(null)]
    [InlineData(1)]
    [InlineData(3)]
    public void Closing_with_another_count_is_refused(int? back)
    {
        var done = Sheet
            .Steps.TakeWhile(s => s.Part < RunPart.Close)
            .Select(s => Done(s.Id.ToString(), s.Part == RunPart.Open ? s.LooseFasteners : null))
            .ToArray();
        Assert.Equal(
            "tally-open",
            Assert.Throws<RefusedException>(() => Sheet.Confirm(Wish("close.keyboard", back), RunState.Of(done))).Code
        );
        Assert.Equal(2, Sheet.Confirm(Wish("close.keyboard", 2), RunState.Of(done)).Fasteners);
        Assert.Equal(
            1,
            Sheet
                .Confirm(Wish("close.keyboard", 1) with { Explanation = "thread torn out" }, RunState.Of(done))
                .Fasteners
        );
    }

    [Fact]
    public void Another_count_on_opening_wants_an_explanation()
    {
        var done = Sheet
            .Steps.TakeWhile(s => s.Id.ToString() != "open.keyboard")
            .Select(s => Done(s.Id.ToString(), s.Part == RunPart.Open ? 0 : null))
            .ToArray();
        Assert.Equal(
            "count-differs",
            Assert.Throws<RefusedException>(() => Sheet.Confirm(Wish("open.keyboard", 1), RunState.Of(done))).Code
        );
        Assert.Equal(
            1,
            Sheet
                .Confirm(Wish("open.keyboard", 1) with { Explanation = "one missing on arrival" }, RunState.Of(done))
                .Fasteners
        );
    }

    [Fact]
    public void The_tally_counts_what_is_off()
    {
        var done = Sheet
            .Steps.TakeWhile(s => s.Part < RunPart.Close)
            .Select(s => Done(s.Id.ToString(), s.Part == RunPart.Open ? s.LooseFasteners : null))
            .ToArray();
        var tally = Tally.Of(Sheet, RunState.Of(done));
        Assert.True(tally.IsOpen);
        Assert.Equal((2, 0), (tally.Out, tally.Back));
    }

    [Fact]
    public void A_second_confirmation_tells_who_was_first()
    {
        var refused = Assert.Throws<RefusedException>(() =>
            Sheet.Confirm(Wish("prepare.bench"), RunState.Of([Done("prepare.bench")]))
        );
        Assert.Equal(RefusalKind.Conflict, refused.Kind);
        Assert.Contains("tobi", refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Stacked_slots_are_pulled_from_above_and_fitted_from_below()
    {
        var plan = Planner.Make(
            Make.Fjell,
            Make.Reading(Make.Fjell, [8, 8]),
            [new SlotChange("S1", Make.Module(16)), new SlotChange("S2", Make.Module(16))]
        );
        Assert.Equal(
            ["pull.S2", "pull.S1", "fit.S1", "fit.S2"],
            RunSheetBuilder
                .ForPlan(Make.Fjell, plan)
                .Steps.Where(s => s.Position is not null)
                .Select(s => s.Id.ToString())
        );
    }

    private static void Before(HashSet<StepId> done, bool applies, StepVerb verb)
    {
        if (applies)
        {
            Assert.All(Sheet.Steps.Where(s => s.Id.Verb == verb), s => Assert.Contains(s.Id, done));
        }
    }

    private static StepConfirmation Wish(string step, int? fasteners = null) =>
        new(StepId.Parse(step), "mara", default, fasteners);

    private static StepConfirmation Done(string step, int? fasteners = null) =>
        new(StepId.Parse(step), "tobi", default, fasteners);

    [Fact]
    public void What_accounts_of_the_bench_tell_stands_at_its_step()
    {
        var fjell = Make.Fjell;
        var guide = fjell with
        {
            Memory = fjell.Memory with
            {
                Slots =
                [
                    .. fjell.Memory.Slots.Select(s =>
                        s.Id == "S2" ? s with { Label = "white, marked 2", PadUnder = 0.5m, PadOn = 1.5m } : s
                    ),
                ],
            },
            Drives = [.. fjell.Drives.Select(d => d with { Port = "SATA 2" })],
            Removals =
            [
                .. fjell.Removals.Select(r =>
                    r.Id == "hatch"
                        ? r with
                        {
                            Fasteners =
                            [
                                .. r.Fasteners.Select(f =>
                                    f with
                                    {
                                        ByHand = true,
                                        ExactFit = true,
                                        Order = "the middle one first",
                                    }
                                ),
                            ],
                            Clips = [new Clips(4, [], null, "the rear tabs, then the sides")],
                        }
                        : r
                ),
            ],
            MeasureOpen = null,
            NeverMeasureOpen = "its fan is on the lid",
        };
        var plan = Planner.Make(guide, Make.Reading(guide, [0, 8]), [new SlotChange("S2", Fit: Make.Module(16))]);
        var steps = RunSheetBuilder.ForPlan(guide, plan).Steps.ToDictionary(s => s.Id.ToString(), s => s.Details);
        Assert.Contains("On the board S2 is white, marked 2.", steps["pull.S2"]);
        Assert.Contains("On the board S2 is white, marked 2.", steps["fit.S2"]);
        Assert.Contains("Pad of 0.5 mm under it, film off.", steps["fit.S2"]);
        Assert.Contains("Pad of 1.5 mm on it, film off.", steps["fit.S2"]);
        Assert.Contains("hatch: the middle one first.", steps["open.hatch"]);
        Assert.Contains("Clips: the rear tabs, then the sides.", steps["open.hatch"]);
        // The way back is not the way off, but soft stays soft.
        Assert.DoesNotContain(steps["close.hatch"], d => d.Contains("the middle one", StringComparison.Ordinal));
        Assert.Contains(steps["close.hatch"], d => d.Contains("no powered driver", StringComparison.Ordinal));
        Assert.Contains(steps["open.hatch"], d => d.Contains("PH0 and no other", StringComparison.Ordinal));
        Assert.Contains(
            "Not started with the case open on this model: its fan is on the lid.",
            steps.First(s => s.Key.StartsWith("close.", StringComparison.Ordinal)).Value
        );
        Assert.DoesNotContain("measure.open", steps.Keys);
    }
}
