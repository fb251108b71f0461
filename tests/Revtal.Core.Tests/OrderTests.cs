using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Documents;
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
            Code(() => BenchRules.Confirm(order, Make.Fjell, new StepConfirmation("isolate.unplug", "mara", default)))
        );
        Assert.Equal(
            "wrong-stage",
            Code(() =>
                BenchRules.Confirm(
                    Make.Order(Make.Agreed()[..3]),
                    Make.Fjell,
                    new StepConfirmation("prepare.bench", "mara", default)
                )
            )
        );
        Assert.Equal(
            "no-such-step",
            Code(() => BenchRules.Confirm(order, Make.Fjell, new StepConfirmation("open.roof", "mara", default)))
        );
    }

    [Fact]
    public void An_after_reading_waits_for_the_run()
    {
        var bodies = Make.Run();
        Assert.Equal(
            "run-not-done",
            Code(() =>
                OrderRules.TakeReading(
                    Make.Order(bodies[..^1]),
                    Make.Fjell,
                    Phase.After,
                    Make.Reading(Make.Fjell, [8, 8]),
                    null,
                    null
                )
            )
        );
        Assert.Equal(
            Phase.After,
            OrderRules
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
            Code(() => OrderRules.MarkReady(order, Make.Fjell, Role.Technician, "it is fine"))
        );
        Assert.Equal("reason-missing", Code(() => OrderRules.MarkReady(order, Make.Fjell, Role.Lead, " ")));
        Assert.Equal(
            Verdict.NotSeen,
            OrderRules.MarkReady(order, Make.Fjell, Role.Lead, "customer takes it as it is").Verdict
        );

        var again = Make.Order([.. shorted, BenchRules.Reseat(order, Make.Fjell, ["S1"], null)]);
        Assert.Equal(Stage.OnBench, again.Stage);
        Assert.Equal(
            ["pull.S1", "fit.S1"],
            again.Sheet(Make.Fjell)!.Steps.Where(s => s.Position is not null).Select(s => s.Id)
        );
        Assert.Equal(
            "run-not-done",
            Code(() =>
                OrderRules.TakeReading(again, Make.Fjell, Phase.After, Make.Reading(Make.Fjell, [8, 8]), null, null)
            )
        );
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
        Assert.Equal(
            "wrong-stage",
            Code(() =>
                BenchRules.Confirm(
                    Make.Order(parked),
                    Make.Fjell,
                    new StepConfirmation("prepare.bench", "mara", default)
                )
            )
        );
        Assert.Equal(Stage.Agreed, Make.Order([.. parked, OrderRules.Resume(Make.Order(parked))]).Stage);
    }

    [Fact]
    public void An_open_machine_cannot_be_cancelled_away()
    {
        var open = Make.Run().TakeWhile(b => b is not StepConfirmed { Step: "fit.S1" }).ToArray();
        Assert.Equal("tally-open", Code(() => OrderRules.Cancel(Make.Order(open), Make.Fjell, "customer declined")));
        Assert.Equal(
            Stage.Cancelled,
            Make.Order([
                .. Make.Agreed(),
                OrderRules.Cancel(Make.Order(Make.Agreed()), Make.Fjell, "customer declined"),
            ]).Stage
        );
    }

    [Theory]
    [InlineData("a\u0007b", "text-control")]
    [InlineData("a\u202Eb", "text-control")]
    [InlineData("\ud800", "text-control")]
    [InlineData("  ", "text-missing")]
    public void Unfit_text_is_refused(string text, string code) =>
        Assert.Equal(code, Code(() => OrderRules.AddNote(Make.Order(Make.Agreed()), Make.Fjell, text)));

    [Fact]
    public void Text_has_a_length_and_may_have_lines()
    {
        Assert.Equal(
            "text-too-long",
            Code(() => OrderRules.AddNote(Make.Order(Make.Agreed()), Make.Fjell, new string('x', 2001)))
        );
        Assert.Equal(
            "two\nlines 🔧",
            OrderRules.AddNote(Make.Order(Make.Agreed()), Make.Fjell, " two\nlines 🔧 ").Text
        );
    }

    [Fact]
    public void Every_kind_of_entry_survives_being_written_and_read()
    {
        EntryBody[] bodies =
        [
            .. Make.Run(),
            After(0, 8),
            new ReseatBegun(["S1"], "short"),
            new MarkedReady(Verdict.Short, "as it is"),
            new HandedBack("M. Alto", null),
            new Parked("waits"),
            new Resumed(),
            new Cancelled("no"),
            new NoteAdded("dust"),
            new VariantTold("FJ14-1", true),
            new SealTold(SealConsent.Given, "M. Alto"),
            new CopyTold(CopyState.Verified, "41 files"),
            new StepTakenBack(1, "open.hatch", null),
            new GateWaived(1, Gate.StillCooling, "isolate.cool-down", "cold"),
            new StepImpossible(1, "open.hatch", "torn"),
            new FoundInside(1, FindKind.Dust, null, null),
            new PhotoTaken("ab", 4, 3, "open.hatch", "dust"),
            new GuideSuggested(new GuideChange(GuideChangeKind.Minutes, "hatch", Number: 2), null),
            new QuoteOffered(
                Quote.Of(Make.Order(Make.Agreed()), Make.Fjell, [], new WorkTime(30, 0), new ShopTerms("EUR", 60, 19)),
                "ab",
                DateTimeOffset.UnixEpoch
            ),
            new QuoteRevoked(),
            new QuoteDeclined("M. Alto", "too dear"),
            new CopyBegun("D1", "old", "new", "image", DriveSize.Parse("500 GB")),
            new CopyAdvanced("D1", DriveSize.Parse("20 GB")),
            new CopyVerified("D1", 41_204, 41_204, 200, 200),
            new OldPartSettled("D1", PartFate.Wiped, new Wipe(WipeCategory.Purge, "secure erase", "read back"), null),
            new ReadingInvited(Phase.After, "ab", DateTimeOffset.UnixEpoch),
            new ScoresTaken(Phase.After, [new Score("Copy", "MB/s", 18_200, true)], null),
            new SwapTestBegun(Swap),
            new SwapTried(new SwapTrial([new("S1", "S2"), new("S2", "S1")], new SwapOutcome(true, ["S1"]))),
            new SwapTestEnded(
                SwapTest.Of(Swap, [new([new("S1", "S2"), new("S2", "S1")], new SwapOutcome(false))]).Conclusion,
                "as said"
            ),
            new WatchBegun("It freezes", DateTimeOffset.UnixEpoch.AddDays(14), 3),
            new WatchNoted(WatchSign.Freeze, new DateOnly(1970, 1, 2), "at noon"),
            new WatchEnded(WatchOutcome.CameBack, "twice"),
        ];
        Assert.All(
            bodies,
            body =>
            {
                var text = EntryKinds.Write(body);
                Assert.Equal(text, EntryKinds.Write(EntryKinds.Read(EntryKinds.NameOf(body), text)));
                Assert.NotEmpty(EntryWords.Say(body));
            }
        );
        var kinds = typeof(EntryBody).Assembly.GetTypes().Where(t => t.BaseType == typeof(EntryBody));
        Assert.Empty(kinds.Except(bodies.Select(b => b.GetType())));
    }

    private static SwapSetup Swap =>
        new(
            [new("S1", Make.Module(8), true), new("S2", Make.Module(8), false)],
            ["S1", "S2"],
            new Dictionary<int, IReadOnlyList<string>> { [1] = ["S2"], [2] = ["S1", "S2"] },
            new SwapOutcome(true, ["S2"]),
            false
        );

    [Fact]
    public void A_journal_written_by_the_first_version_still_opens()
    {
        var lines = File.ReadAllLines(Repository.At("tests", "data", "journal", "first-version.jsonl"));
        var entries = lines
            .Select(
                (line, i) =>
                {
                    using var json = System.Text.Json.JsonDocument.Parse(line);
                    var root = json.RootElement;
                    return new Entry(
                        101,
                        i + 1,
                        root.GetProperty("id").GetGuid(),
                        root.GetProperty("at").GetDateTimeOffset(),
                        root.GetProperty("by").GetString()!,
                        EntryKinds.Read(root.GetProperty("kind").GetString()!, root.GetProperty("body").GetRawText())
                    );
                }
            )
            .ToArray();
        var order = Order.Fold(entries);
        var guide = GuideYaml
            .Read(
                File.ReadAllText(Repository.At("tests", "data", "journal", "first-version-FJ14.yaml")),
                published: true
            )
            .Guide!;
        var assessment = Assessment.Of(order, guide);

        Assert.Equal((Stage.HandedBack, entries.Length), (order.Stage, order.Head));
        Assert.Equal(Verdict.AsPlanned, assessment.Check!.Verdict);
        Assert.Equal(0, assessment.Sheet!.Left(order.RunState));
        Assert.All(assessment.Sheet.Steps, s => Assert.True(assessment.Sheet.IsSettled(s, order.RunState)));
    }

    private static ReadingTaken After(params int[] gigabytes) =>
        new(Phase.After, Make.Reading(Make.Fjell, gigabytes), null, null);

    private static string Code(Action action) => Assert.Throws<RefusedException>(action).Code;
}
