using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class CheckerTests
{
    private static readonly SlotChange[] TwoLarge = [new("S1", Make.Module(16)), new("S3", Make.Module(16))];

    [Fact]
    public void The_real_captures_are_as_planned_though_their_serials_repeat()
    {
        var before = CaptureDecoder.Decode(Repository.Capture("vm-before-4g"));
        var after = CaptureDecoder.Decode(Repository.Capture("vm-after-20g"));
        var check = Make.Check(
            Make.Fjell,
            before,
            after,
            new SlotChange("S1", From: "S2"),
            new SlotChange("S2", Make.Module(16))
        );

        Assert.Equal("20 GB installed, as planned.", check.Sentence);
        Assert.Equal(Verdict.AsPlanned, check.Verdict);
        Assert.Equal(["usable-explained", "serials-repeat"], check.Findings.Select(f => f.Code));
        Assert.All(check.Rows, r => Assert.Equal(SlotMatch.Same, r.Match));
    }

    [Fact]
    public void The_same_captures_under_another_plan_show_the_modules_in_other_slots()
    {
        var before = CaptureDecoder.Decode(Repository.Capture("vm-before-4g"));
        var after = CaptureDecoder.Decode(Repository.Capture("vm-after-20g"));
        var check = Make.Check(Make.Fjell, before, after, new SlotChange("S1", Make.Module(16)));

        Assert.Equal(Verdict.WithRemarks, check.Verdict);
        var finding = check.Findings.Single(f => f.Code == "in-other-slot");
        Assert.Equal(("S1 4 GB, S2 16 GB", "S1 16 GB, S2 4 GB"), (finding.Seen, finding.Expected));
    }

    [Fact]
    public void One_module_short_names_the_slot_to_reseat()
    {
        var check = Make.Check(
            Make.Kliff,
            Make.Reading(Make.Kliff, [4, 0, 4, 0]),
            Make.Reading(Make.Kliff, [16, 0, 0, 0]),
            TwoLarge
        );

        Assert.Equal((Verdict.Short, "16 GB short. S3 not seen."), (check.Verdict, check.Sentence));
        var finding = check.Findings[0];
        Assert.Equal(("module-not-seen", ActionKind.Reseat), (finding.Code, finding.Action.Kind));
        Assert.Equal(["S3"], finding.Action.Slots);
        Assert.Equal([2, 3, 9], finding.Evidence);
        Assert.Equal("Reseat S3: lift, check the notch, press until both latches click.", finding.Action.Text);
    }

    [Fact]
    public void Totals_alone_still_point_at_one_module()
    {
        var before = Make.Reading(Make.Kliff, [4, 0, 4, 0]);
        var after = EyeReading.Make(MemorySize.Gigabytes(24), null, [], null);
        var finding = Make.Check(
            Make.Kliff,
            before,
            after,
            new SlotChange("S2", Make.Module(16)),
            new SlotChange("S4", Make.Module(8))
        ).Findings[0];

        Assert.Equal(("module-not-seen", "8 GB short: exactly the module of S4."), (finding.Code, finding.Sentence));
        Assert.Equal(["S4"], finding.Action.Slots);
    }

    [Fact]
    public void Nothing_changed_is_its_own_verdict()
    {
        var before = Make.Reading(Make.Kliff, [4, 0, 4, 0]);
        var check = Make.Check(Make.Kliff, before, before, TwoLarge);

        Assert.Equal(Verdict.NotSeen, check.Verdict);
        Assert.Equal("nothing-changed", check.Findings[0].Code);
        Assert.Equal(["S1", "S3"], check.Findings[0].Action.Slots);
    }

    [Fact]
    public void A_kept_module_that_went_missing_is_said_to_be_a_kept_one()
    {
        var check = Make.Check(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8]),
            Make.Reading(Make.Fjell, [8, 0]),
            new SlotChange("S1", Make.Module(8))
        );

        Assert.Equal(Verdict.Short, check.Verdict);
        Assert.Equal("kept-module-missing", check.Findings[0].Code);
        Assert.Equal(["S2"], check.Findings[0].Action.Slots);
    }

    [Fact]
    public void A_system_that_sees_less_than_firmware_is_told_with_the_32_bit_limit_first()
    {
        var check = Make.Check(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 4], usableGigabytes: 3.8),
            Make.Reading(Make.Fjell, [4, 4], usableGigabytes: 3.8),
            new SlotChange("S1", Make.Module(4))
        );

        var finding = check.Findings.Single(f => f.Code == "system-below-firmware");
        Assert.Equal(Verdict.Short, check.Verdict);
        Assert.StartsWith("The system is a 32-bit one", finding.Causes[0], StringComparison.Ordinal);
        Assert.Equal(ActionKind.Setting, finding.Action.Kind);
    }

    [Fact]
    public void Usable_below_installed_is_explained_not_reported_as_loss()
    {
        var check = Make.Check(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8], usableGigabytes: 7.7),
            Make.Reading(Make.Fjell, [8, 8], usableGigabytes: 15.5),
            new SlotChange("S1", Make.Module(8))
        );

        Assert.Equal(Verdict.AsPlanned, check.Verdict);
        Assert.Equal(
            (Severity.Note, "usable-explained"),
            (check.Findings.Single().Severity, check.Findings.Single().Code)
        );
    }

    [Fact]
    public void A_reading_of_another_machine_proves_nothing()
    {
        var check = Make.Check(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8], machine: "NF14-1"),
            Make.Reading(Make.Fjell, [8, 8], machine: "NF14-2"),
            new SlotChange("S1", Make.Module(8))
        );

        Assert.Equal(Verdict.Unknown, check.Verdict);
        Assert.Contains("NF14-2", check.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void A_machine_without_a_serial_is_told_by_its_board()
    {
        var (before, after) = (
            Make.Reading(Make.Fjell, [0, 8]) with
            {
                Board = new(null, null, "B1"),
            },
            Make.Reading(Make.Fjell, [8, 8]) with
            {
                Board = new(null, null, "B2"),
            }
        );
        Assert.Equal(
            Verdict.Unknown,
            Make.Check(Make.Fjell, before, after, new SlotChange("S1", Make.Module(8))).Verdict
        );
        Assert.Equal(
            Verdict.AsPlanned,
            Make.Check(
                Make.Fjell,
                before,
                after with
                {
                    Board = before.Board,
                },
                new SlotChange("S1", Make.Module(8))
            ).Verdict
        );
    }

    [Fact]
    public void Another_module_of_the_same_size_is_noticed_by_its_serial()
    {
        var check = Make.Check(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8], serials: [null, "AAAA"]),
            Make.Reading(Make.Fjell, [8, 8], serials: ["CCCC", "AAAA"]),
            new SlotChange("S1", Make.Module(8, serial: "BBBB"))
        );

        Assert.Equal((Verdict.WithRemarks, "module-not-booked"), (check.Verdict, check.Findings.Single().Code));
    }

    [Fact]
    public void Modules_that_run_slower_than_they_could_are_a_remark()
    {
        var check = Make.Check(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8], speed: 3200),
            Make.Reading(Make.Fjell, [8, 8], speed: 2666, rated: 3200),
            new SlotChange("S1", Make.Module(8, speed: 3200))
        );

        Assert.Equal("2666 MT/s, not 3200.", check.Findings.Single(f => f.Code == "speed-below-rated").Sentence);
    }

    [Fact]
    public void More_than_planned_is_a_remark() =>
        Assert.Equal(
            "8 GB more than planned: S1 holds 16 GB, not 8 GB.",
            Make.Check(
                    Make.Fjell,
                    Make.Reading(Make.Fjell, [0, 8]),
                    Make.Reading(Make.Fjell, [16, 8]),
                    new SlotChange("S1", Make.Module(8))
                )
                .Findings[0]
                .Sentence
        );

    [Fact]
    public void A_reading_that_says_too_little_gives_no_verdict()
    {
        var after = EyeReading.Make(null, null, [new SeenSlot("S2", Make.Module(8))], null);
        Assert.Equal(
            Verdict.Unknown,
            Make.Check(
                Make.Fjell,
                Make.Reading(Make.Fjell, [0, 8]),
                after,
                new SlotChange("S1", Make.Module(8))
            ).Verdict
        );
    }
}
