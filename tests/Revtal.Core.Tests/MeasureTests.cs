using CsCheck;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class MeasureTests
{
    private static readonly DateTimeOffset Noon = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);

    [Fact]
    public void A_code_takes_one_reading_of_its_phase_and_no_other()
    {
        var order = Make.Order(Make.TakenIn(), new ReadingInvited(Phase.Before, "ab", Noon));
        var invite = Assert.Single(order.Invites);
        var taken = MeasureRules.TakeInvited(order, Make.Fjell, invite, Make.Reading(Make.Fjell, [0, 8]), "cd");
        var after = Make.Order(Make.TakenIn(), new ReadingInvited(Phase.Before, "ab", Noon), taken);

        Assert.Empty(after.Invites);
        Assert.Equal(
            "invite-used",
            Code(() => MeasureRules.TakeInvited(after, Make.Fjell, invite, Make.Reading(Make.Fjell, [0, 8]), "cd"))
        );
        Assert.Equal("wrong-stage", WhenMayWhat.WhyNot(OrderAct.ReadAfter, order, Make.Fjell)!.Code);
        Assert.Equal("invite-time", Code(() => MeasureRules.Invite(Phase.Before, "ab", Noon, TimeSpan.FromDays(2))));
    }

    [Fact]
    public void A_newer_code_closes_the_older_one_of_its_phase() =>
        Assert.Equal(
            "cd",
            Assert
                .Single(
                    Make.Order(
                        Make.TakenIn(),
                        new ReadingInvited(Phase.Before, "ab", Noon),
                        new ReadingInvited(Phase.Before, "cd", Noon)
                    ).Invites
                )
                .CodeHash
        );

    [Fact]
    public void A_machine_with_another_serial_than_its_label_is_noticed_at_once()
    {
        var order = Make.Order(Make.TakenIn() with { Intake = Make.TakenIn().Intake with { Serial = "NF14-1" } });
        var taken = MeasureRules.TakeReading(
            order,
            Make.Fjell,
            Phase.Before,
            Make.Reading(Make.Fjell, [0, 8], machine: "NF14-2"),
            null,
            null
        );
        Assert.Equal("NF14-2 (firmware tables)", Assert.Single(taken.Reading.Conflicts).First);
    }

    [Fact]
    public void Sources_asked_right_after_each_other_are_one_set_and_contradict_each_other_in_sight()
    {
        var tables = new ReadingTaken(Phase.Before, Make.Reading(Make.Fjell, [0, 8]), null, null);
        var eyes = new ReadingTaken(
            Phase.Before,
            EyeReading.Make(MemorySize.Gigabytes(16), MemorySize.Parse("7.7 GB"), [], null),
            null,
            null
        );
        var set = Make.Order(Make.TakenIn(), tables, eyes).Before!.Value;
        Assert.Equal((8L << 30, MemorySize.Parse("7.7 GB").Bytes), (set.Memory.InstalledBytes, set.Memory.UsableBytes));
        Assert.Equal("installed memory", Assert.Single(set.Conflicts).What);
        // Said in between, or asked again: a later state.
        Assert.Equal(
            16L << 30,
            Make.Order(Make.TakenIn(), tables, new NoteAdded("reseated"), eyes).Before!.Value.Memory.InstalledBytes
        );
        Assert.Empty(Make.Order(Make.TakenIn(), tables, tables).Before!.Value.Conflicts);
    }

    [Fact]
    public void A_case_open_reading_counts_while_the_run_goes_on()
    {
        var bodies = Make.Agreed();
        var order = Make.Order([.. bodies, new StepConfirmed(1, StepId.Parse("prepare.tools"), null, null, null)]);
        Assert.Equal(Stage.OnBench, order.Stage);
        var open = Make.Order([
            .. bodies,
            new StepConfirmed(1, StepId.Parse("prepare.tools"), null, null, null),
            MeasureRules.TakeReading(order, Make.Fjell, Phase.During, Make.Reading(Make.Fjell, [0, 8]), null, null),
        ]);
        Assert.Equal((Stage.OnBench, Verdict.NotSeen), (open.Stage, open.Check(Make.Fjell)!.Verdict));
        Assert.Equal("wrong-stage", Make.WhyNot(OrderAct.ReadOpen, Make.Order(bodies)));
    }

    [Fact]
    public void A_swap_test_goes_from_the_check_to_a_faulty_part_and_its_replacement()
    {
        var bodies = Short();
        var order = Make.Order(bodies);
        var begun = SwapRules.BeginSwapTest(order, Make.Fjell, null);
        Assert.Equal(["S2"], begun.Setup.First.Slots);
        Assert.True(begun.Setup.ReseatFirst);

        bodies = [.. bodies, begun];
        Assert.Equal(
            "not-isolated",
            Code(() => SwapRules.Try(Make.Order(bodies), Make.Fjell, null, new SwapOutcome(true, ["S2"]), false))
        );
        Assert.Equal(
            "seen-in-empty-slot",
            Code(() =>
                SwapRules.Try(Make.Order(bodies), Make.Fjell, [new("S2", "S1")], new SwapOutcome(true, ["S1"]), true)
            )
        );
        Assert.Equal(
            "arrangement-impossible",
            Code(() => SwapRules.Try(Make.Order(bodies), Make.Fjell, [new("S9", "S1")], new SwapOutcome(false), true))
        );
        while (Make.Order(bodies).Swap!.State is { Next: { } next })
        {
            var seen = next.Where(p => p.Module != "S1").Select(p => p.Slot).ToArray();
            bodies =
            [
                .. bodies,
                SwapRules.Try(
                    Make.Order(bodies),
                    Make.Fjell,
                    null,
                    seen.Length > 0 ? new SwapOutcome(true, seen) : new SwapOutcome(false, Sign: "3 short beeps"),
                    true
                ),
            ];
        }

        Assert.Equal("swap-test-runs", Make.WhyNot(OrderAct.ReadAfter, Make.Order(bodies)));
        // It lay open for all of it: it ends closed, and what came out is counted back.
        Assert.Equal("count-missing", Code(() => SwapRules.EndSwapTest(Make.Order(bodies), Make.Fjell, null)));
        var ended = SwapRules.EndSwapTest(Make.Order(bodies), Make.Fjell, null, All(Make.Order(bodies)));
        Assert.Equal("It is the module of S1.", ended.Conclusion!.Sentence);

        PartItem fitted = new(1, new PartNumber("TM-8S"), "A", PartState.Fitted, Order: 101, Position: "S1"),
            spare = new(2, new PartNumber("TM-8S"), "B", PartState.InStock);
        var moves = StockEffects.Of(Make.Order(bodies), ended, [fitted], [fitted, spare], []).Moves;
        Assert.Equal([(1L, PartState.Faulty), (2L, PartState.Reserved)], moves.Select(m => (m.Item, m.To)));
        var done = Make.Order([.. bodies, ended]);
        var after = Assessment.Of(done, Make.Fjell);
        Assert.Equal((Stage.Checking, NextKind.MendPlan), (done.Stage, after.Next.Kind));
        // What was short does not ask for the search any more that was just made.
        Assert.StartsWith(
            "It is the module of S1.",
            after.Check!.Findings.First(f => f.Severity == Severity.Short).Action.Text,
            StringComparison.Ordinal
        );
    }

    private static Dictionary<string, int> All(Order order) => order.Swap!.LeftOpen.ToDictionary();

    // Each start is a short run: the way in and out is the guide's, and what came out goes back before power.
    [Fact]
    public void A_try_says_its_whole_way_and_counts_what_went_back()
    {
        // Nobody starts this one with the case open: it is closed for each start.
        var closed = Make.Fjell with
        {
            MeasureOpen = null,
        };
        List<EntryBody> bodies = [.. Short(), SwapRules.BeginSwapTest(Make.Order(Short()), closed, null)];
        var state = Make.Order([.. bodies]).Swap!.State;
        Assert.Equal("Shut the machine down: off, not asleep.", state.Words[0]);
        Assert.Contains("Take the battery pack out.", state.Words);
        Assert.Contains("Take off the keyboard: 2 fasteners out.", state.Words);
        string[] end = [.. state.Words.SkipWhile(w => w != "Put the keyboard back: 2 fasteners back.")];
        Assert.Equal(
            [
                "Put the keyboard back: 2 fasteners back.",
                "Put the memory hatch back.",
                "Put the battery pack back: both locks must click.",
                "Start it, and tell what is seen.",
            ],
            end
        );
        Assert.Equal([("keyboard", 2)], state.Counts.Select(c => (c.Key, c.Value)));

        Assert.Equal("count-missing", Code(() => Try(null, null)));
        Assert.Equal("tally-open", Code(() => Try(new() { ["keyboard"] = 1 }, null)));
        Assert.Equal("no-fasteners-here", Code(() => Try(new() { ["keyboard"] = 2, ["door"] = 1 }, null)));
        bodies.Add(Try(new() { ["keyboard"] = 1 }, "rolled under the board"));
        var loose = Make.Order([.. bodies]);
        Assert.Equal(("keyboard", 1), loose.RunState.Loose.Select(l => (l.Removal, l.Count)).Single());
        Assert.Contains(Holds.Open(loose, closed), h => h.Kind == HoldKind.LooseMetal);
        // No power on it, until it is found.
        Assert.Equal("loose-metal", Code(() => Try(new() { ["keyboard"] = 2 }, null)));
        bodies.Add(BenchRules.Find(loose, closed, FindKind.LostFastener, StepId.Close("keyboard"), null));
        Assert.Empty(Make.Order([.. bodies]).RunState.Loose);

        SwapTried Try(Dictionary<string, int>? back, string? why) =>
            SwapRules.Try(
                Make.Order([.. bodies]),
                closed,
                null,
                new SwapOutcome(false),
                true,
                back: back,
                explanation: why
            );
    }

    // Where it may be started open, it is opened once and closed at the end.
    [Fact]
    public void A_board_that_starts_open_is_opened_once()
    {
        List<EntryBody> bodies = [.. Short(), SwapRules.BeginSwapTest(Make.Order(Short()), Make.Fjell, null)];
        var first = Make.Order([.. bodies]).Swap!;
        Assert.Contains("Take off the keyboard: 2 fasteners out.", first.State.Words);
        Assert.DoesNotContain("Put the memory hatch back.", first.State.Words);
        Assert.Empty(first.State.Counts);
        bodies.Add(SwapRules.Try(Make.Order([.. bodies]), Make.Fjell, null, first.Setup.First, true));
        var second = Make.Order([.. bodies]).Swap!;
        Assert.Equal("Shut the machine down: off, not asleep.", second.State.Words[0]);
        Assert.DoesNotContain("Take off the keyboard: 2 fasteners out.", second.State.Words);
        Assert.Equal([("keyboard", 2)], second.LeftOpen.Select(c => (c.Key, c.Value)));
        Assert.Equal(
            "tally-open",
            Code(() =>
                SwapRules.EndSwapTest(
                    Make.Order([.. bodies]),
                    Make.Fjell,
                    "late",
                    new Dictionary<string, int> { ["keyboard"] = 1 }
                )
            )
        );
    }

    [Fact]
    public void Where_nothing_is_short_there_is_nothing_to_search_for()
    {
        Assert.Equal(
            "nothing-short",
            Code(() =>
                SwapRules.BeginSwapTest(
                    Make.Order(Make.Run()) with
                    {
                        Stage = Stage.Checking,
                    },
                    Make.Fjell,
                    new SwapOutcome(true, ["S1", "S2"])
                )
            )
        );
        Assert.Equal("no-swap-test", Make.WhyNot(OrderAct.EndSwapTest, Make.Order(Make.Agreed())));
        Assert.Equal("no-swap-test", Make.WhyNot(OrderAct.EndSwapTest, Make.Order(Short())));
        Assert.Equal(
            "text-missing",
            Code(() =>
                SwapRules.EndSwapTest(
                    Make.Order([.. Short(), SwapRules.BeginSwapTest(Make.Order(Short()), Make.Fjell, null)]),
                    Make.Fjell,
                    null
                )
            )
        );
    }

    [Fact]
    public void A_watch_asks_again_and_ends_with_what_came_of_it()
    {
        EntryBody[] bodies = [.. Short(), WatchRules.BeginWatch(Make.Order(Short()), null, Noon, Noon.AddDays(7), 3)];
        var order = Make.Order(bodies);
        Assert.Equal(
            (Stage.Watching, "slow", NextKind.Watch),
            (order.Stage, order.Watch!.For, Assessment.Of(order, Make.Fjell).Next.Kind)
        );
        Assert.Equal(
            "nothing-observed",
            Code(() => WatchRules.EndWatch(order, Role.Technician, WatchOutcome.Gone, Noon.AddDays(7), null))
        );
        Assert.Equal(
            "watch-day",
            Code(() => WatchRules.NoteWatch(order, WatchSign.None, new DateOnly(2027, 1, 1), Noon, null))
        );

        var day = order.Watch.DueOn;
        var noted = Make.Order([
            .. bodies,
            WatchRules.NoteWatch(order, WatchSign.Freeze, day, Noon.AddDays(3), "at noon"),
        ]);
        Assert.Equal(day.AddDays(3), noted.Watch!.DueOn);
        // It froze once: that the fault is gone is no technician's word, and neither is it before the last day.
        Assert.Equal(
            "lead-ends-watch",
            Code(() => WatchRules.EndWatch(noted, Role.Technician, WatchOutcome.Gone, Noon.AddDays(8), null))
        );
        var quiet = Make.Order([.. bodies, WatchRules.NoteWatch(order, WatchSign.None, day, Noon.AddDays(3), null)]);
        Assert.Equal(
            "lead-ends-watch",
            Code(() => WatchRules.EndWatch(quiet, Role.Technician, WatchOutcome.Gone, Noon.AddDays(6), null))
        );
        Assert.Equal(
            WatchOutcome.Gone,
            WatchRules.EndWatch(quiet, Role.Technician, WatchOutcome.Gone, Noon.AddDays(8), null).Outcome
        );
        Assert.Equal(Stage.Checking, Make.Order([.. bodies, new WatchEnded(WatchOutcome.CameBack, "twice")]).Stage);
        // A watch passes no gate: what was to be checked before is to be checked after.
        Assert.Equal(Stage.Checking, Make.Order([.. bodies, new WatchEnded(WatchOutcome.Gone, null)]).Stage);
        Assert.Equal(
            Stage.Ready,
            Make.Order([
                .. Short(),
                new MarkedReady(Verdict.Short, "as it is"),
                new WatchBegun("slow", Noon.AddDays(7), 3),
                new WatchEnded(WatchOutcome.Gone, null),
            ]).Stage
        );
    }

    [Fact]
    public void Scores_are_compared_the_way_round_that_they_were_told()
    {
        var none = Array.Empty<(string, string, decimal)>().ToLookup(x => (x.Item1, x.Item2), x => x.Item3);
        var lines = ScoreLine.Of(
            [new("Copy", "MB/s", 16_000, true), new("Render", "s", 40, false)],
            [new("Copy", "MB/s", 20_000, true), new("Render", "s", 44, false), new("Old", "points", 7, true)],
            none
        );
        Assert.Equal([(25m, true), (10m, false), (null, null)], lines.Select(l => (l.Percent, l.Better)));
        Assert.All(lines, l => Assert.Null(l.Among));
        Assert.Equal(
            "score-turned",
            Code(() =>
                MeasureRules.TakeScores(
                    Make.Order(Make.TakenIn(), new ScoresTaken(Phase.Before, [new("Copy", "MB/s", 1, true)], null)),
                    Phase.After,
                    [new("Copy", "MB/s", 1, false)],
                    null
                )
            )
        );
    }

    // Worked by hand from the textbook rule: the median, and the medians of what lies on each side of it.
    [Theory]
    [InlineData(new[] { 1, 2, 3, 4 }, null)]
    [InlineData(new[] { 7, 15, 36, 39, 40, 41 }, new[] { 15d, 37.5, 40 })]
    [InlineData(new[] { 6, 7, 15, 36, 39, 40, 41, 42, 43, 47, 49 }, new[] { 15d, 40, 43 })]
    public void Quartiles_are_silent_below_five(int[] values, double[]? expected)
    {
        var baseline = Baseline.Of(values.Select(v => (decimal)v));
        Assert.Equal(
            expected?.Select(e => (decimal)e),
            baseline is null ? null : (decimal[])[baseline.Lower, baseline.Median, baseline.Upper]
        );
    }

    [Fact]
    public void Quartiles_stand_in_order_whatever_the_values() =>
        Gen.Int[-1000, 1000]
            .Array[5, 60]
            .Sample(values =>
            {
                var b = Baseline.Of(values.Select(v => (decimal)v))!;
                return b.Least <= b.Lower
                    && b.Lower <= b.Median
                    && b.Median <= b.Upper
                    && b.Upper <= b.Most
                    && values.Count(v => v <= b.Median) * 2 >= values.Length;
            });

    [Fact]
    public void Load_right_after_a_start_is_not_compared_with_a_settled_one()
    {
        Reading Up(long minutes) =>
            Make.Reading(Make.Fjell, [0, 8]) is var r
                ? r with
                {
                    Memory = r.Memory with { UsableBytes = 8L << 30, InUseBytes = 6L << 30 },
                    Host = new HostReading(UpSeconds: minutes * 60),
                }
                : r;
        Assert.Equal(
            "One was read 3 min after the start, the other after 600 min: read again when it has settled.",
            LoadChange.Of(Up(600), Up(3))!.Unlike
        );
        Assert.Equal(
            (75m, null),
            (LoadChange.Of(Up(600), Up(700))!.Before!.InUseShare, LoadChange.Of(Up(600), Up(700))!.Unlike)
        );
    }

    // S1 was fitted and is not seen.
    private static EntryBody[] Short() =>
        [.. Make.Run(), new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 8]), null, null)];

    private static string Code(Func<object> act) => Assert.Throws<RefusedException>(act).Code;
}
