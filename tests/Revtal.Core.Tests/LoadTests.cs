using System.Text;
using CsCheck;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Load over time, what it advises, and the customer's own kind of work.</summary>
public sealed class LoadTests
{
    [Fact]
    public void A_series_is_read_in_its_units_and_what_is_not_told_stays_unknown()
    {
        var load = Decode("revtal-load/1\n0 1048576 0 - - -\n5 2097152 1024 93 2048 10\n125 - 512 7 0 0\n").Load!;
        Assert.Equal([0, 5, 125], load.Seconds);
        Assert.Equal([1L << 30, 2L << 30, null], load.InUseBytes);
        Assert.Equal([null, 2L << 20, 0], load.DiskBytes);
        // 125 s are begun three minutes; at one time 2 GB in use and 1 MB moved out were wanted.
        Assert.Equal(
            new LoadPeaks(3, 2L << 30, 1L << 20, (2L << 30) + (1L << 20), 93, 2L << 20, 10L << 10),
            load.Peaks
        );
        Assert.True(Decode("revtal-load/1\n0 1 0 0 0 0").IsLoadAlone);
    }

    [Theory]
    [InlineData("revtal-load/1\n", "Line 2")]
    [InlineData("revtal-load/1\n0 1 0 0 0", "5 fields")]
    [InlineData("revtal-load/1\n0 1 0 0 0 0\n0 1 0 0 0 0", "Line 3")] // time stands still
    [InlineData("revtal-load/1\n0 1 0 101 0 0", "100 %")]
    [InlineData("revtal-load/1\n0 -4 0 0 0 0", "no number")]
    [InlineData("revtal-load/1\n- 1 0 0 0 0", "time")]
    [InlineData("revtal-load/1\n0 99999999999999999999 0 0 0 0", "no number")]
    public void What_is_no_series_is_refused_with_its_line(string text, string says) =>
        Assert.Contains(says, Assert.Throws<RefusedException>(() => Decode(text)).Message, StringComparison.Ordinal);

    [Fact]
    public void Any_bytes_are_a_series_or_a_clear_refusal() =>
        Gen
            .Byte.Array[0, 300]
            .Sample(bytes =>
            {
                try
                {
                    Decode([.. "revtal-load/1\n"u8, .. bytes]);
                }
                catch (RefusedException)
                {
                    // Said, not thrown over the bench.
                }
            });

    [Fact]
    public void More_than_two_hours_is_refused()
    {
        var lines = string.Concat(Enumerable.Range(0, 1501).Select(i => $"{i} 1 0 0 0 0\n"));
        Assert.Equal("load-too-long", Assert.Throws<RefusedException>(() => Decode("revtal-load/1\n" + lines)).Code);
    }

    [Fact]
    public void The_advice_is_from_the_peak()
    {
        // 3 GB were in use when it was read, 6 GB and 2 GB moved out at the peak: half as much again as 8 is 12.
        var read = Make.Reading(Make.Fjell, [0, 8], usableGigabytes: 7.7);
        var before = read with { Memory = read.Memory with { InUseBytes = 3L << 30 } };
        Assert.Equal(MemorySize.Gigabytes(8), Sizing.Of(before)!.Target);
        var order = Make.Order(
            Make.TakenIn(),
            new ReadingTaken(Phase.Before, before, null, null),
            new LoadWatched(Phase.Before, Series(6, 2), null, null)
        );
        Assert.Equal(MemorySize.Gigabytes(12), order.Advice!.Target);
        Assert.Contains("at the peak of 1 min", order.Advice.Because, StringComparison.Ordinal);
        // What was watched after the upgrade says nothing of what is wanted for it.
        var after = Make.Order(
            Make.TakenIn(),
            new ReadingTaken(Phase.Before, before, null, null),
            new LoadWatched(Phase.After, Series(60, 0), null, null)
        );
        Assert.Equal(MemorySize.Gigabytes(8), after.Advice!.Target);
    }

    [Fact]
    public void A_trial_that_was_asked_for_is_held_until_it_ran_and_a_later_hand_undoes_it()
    {
        EntryBody[] read = [.. Asked("scores of forty voices", 20), After];
        Assert.Contains(Make.Order(read).Check(Make.Fjell)!.Findings, f => f.Code == "trial-owed");
        Assert.Contains(Holds.Open(Make.Order(read), Make.Fjell), h => h.Kind == HoldKind.TrialOwed);
        Assert.NotEqual(Verdict.AsPlanned, Make.Order(read).Check(Make.Fjell)!.Verdict);
        Assert.Equal(
            "trial-too-short",
            Assert.Throws<RefusedException>(() => Run(Make.Order(read), 19, TrialOutcome.AsWished)).Code
        );

        EntryBody[] tried = [.. read, Run(Make.Order(read), 20, TrialOutcome.AsWished)];
        Assert.Empty(Holds.Open(Make.Order(tried), Make.Fjell));
        Assert.Equal(Verdict.AsPlanned, Make.Order(tried).Check(Make.Fjell)!.Verdict);
        Assert.Equal("scores of forty voices", Make.Order(tried).Trial.Runs[0].Work);

        // Other work than was asked for, or less of it, proves nothing of what was.
        var other = TrialRules.Run(Make.Order(read), "writing letters", 20, null, TrialOutcome.AsWished, null);
        Assert.Contains(Make.Order([.. read, other]).Check(Make.Fjell)!.Findings, f => f.Code == "trial-owed");
        var more = Make.Order([.. tried, TrialRules.Ask("scores of forty voices", 60)]);
        Assert.Contains(more.Check(Make.Fjell)!.Findings, f => f.Code == "trial-owed");

        // Seated anew since: what ran before says nothing of it now.
        var again = Make.Order([
            .. tried,
            new ReseatBegun(["S1"], null),
            new StepConfirmed(2, StepId.Fit("S1"), null, null, null),
            After,
        ]);
        Assert.Contains(again.Check(Make.Fjell)!.Findings, f => f.Code == "trial-owed");
    }

    [Theory]
    [InlineData(TrialOutcome.Failed, "trial-failed", true)]
    [InlineData(TrialOutcome.Sluggish, "trial-sluggish", false)]
    public void What_was_not_as_wished_is_said_and_only_a_failed_one_holds(
        TrialOutcome outcome,
        string code,
        bool holds
    )
    {
        var order = Make.Order([.. Asked("ferry season", null), After]);
        Assert.Throws<RefusedException>(() => TrialRules.Run(order, null, 30, null, outcome, null));
        var tried = Make.Order([
            .. Asked("ferry season", null),
            After,
            TrialRules.Run(order, null, 30, 2, outcome, "the map waits"),
        ]);
        var finding = tried.Check(Make.Fjell)!.Findings.Single(f => f.Code == code);
        Assert.Contains("the map waits", finding.Sentence, StringComparison.Ordinal);
        Assert.Equal(Verdict.WithRemarks, tried.Check(Make.Fjell)!.Verdict);
        Assert.Equal(holds, Holds.Open(tried, Make.Fjell).Any(h => h.Kind == HoldKind.TrialOwed));
    }

    [Fact]
    public void A_trial_that_nobody_wants_any_more_holds_nothing()
    {
        var order = Make.Order([.. Asked("ferry season", 5), After, TrialRules.Ask(" ", 5)]);
        Assert.Equal(Trial.None with { Runs = order.Trial.Runs }, order.Trial);
        Assert.Empty(Holds.Open(order, Make.Fjell));
    }

    [Fact]
    public void The_newest_load_after_the_work_stands_beside_the_trial()
    {
        EntryBody[] read =
        [
            .. Asked("ferry season", null),
            After,
            new LoadWatched(Phase.After, Series(2, 0), null, null),
        ];
        var order = Make.Order(read);
        var first = TrialRules.Run(order, null, 5, null, TrialOutcome.AsWished, null);
        Assert.Equal(order.Head, first.Load);
        Assert.Null(TrialRules.Run(Make.Order([.. read, first]), null, 5, null, TrialOutcome.AsWished, null).Load);
    }

    private static ReadingTaken After { get; } = new(Phase.After, Make.Reading(Make.Fjell, [8, 8]), null, null);

    private static TrialDone Run(Order order, int minutes, TrialOutcome outcome) =>
        TrialRules.Run(order, null, minutes, null, outcome, null);

    private static EntryBody[] Asked(string work, int? minutes)
    {
        var run = Make.Run();
        return [run[0], TrialRules.Ask(work, minutes), .. run[1..]];
    }

    private static LoadSeries Series(int used, int paged) =>
        new([0, 5], [1L << 30, (long)used << 30], [0, (long)paged << 30], [null, 50], [null, 0], [null, 0]);

    private static Reading Decode(string text) => Decode(Encoding.UTF8.GetBytes(text));

    private static Reading Decode(byte[] bytes) => CaptureDecoder.Decode([new CaptureFile("load.txt", bytes)]);
}
