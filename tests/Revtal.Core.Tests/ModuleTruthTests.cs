using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What was really done to the modules, and that the check says no other thing.</summary>
public sealed class ModuleTruthTests
{
    private static readonly Guide Tower = Repository.Guide("QT40");

    private static readonly Reading Old = Make.Reading(
        Tower,
        [0, 8, 0, 8],
        speed: 2666,
        serials: [null, "OLD-A2", null, "OLD-B2"]
    );

    // A2 and B2 get 16 GB each.
    private static readonly SlotChange[] Both = [new("A2", Dimm(16, "N1")), new("B2", Dimm(16, "N2"))];

    [Fact]
    public void A_slower_module_is_told_as_such_and_no_profile_is_blamed()
    {
        var check = Check([0, 16, 0, 16], ["", "N1", "", "N3"], Both, rated: 2400);
        var slower = One(check, "module-slower");
        Assert.Equal(["A2", "B2"], slower.Action.Slots);
        Assert.DoesNotContain(check.Findings, f => f.Code == "speed-below-rated");
        Assert.StartsWith("A2 tells a rating of 2400; 2666 was planned.", slower.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void A_smaller_module_names_its_slot() =>
        Assert.Equal(
            ("12 GB short: B2 holds 4 GB, not 16 GB.", "module-smaller", Verdict.Short),
            Said(Check([0, 16, 0, 4], ["", "N1", "", "N3"], Both))
        );

    [Fact]
    public void The_old_module_that_went_back_in_is_known_by_its_serial() =>
        Assert.Equal(
            ("8 GB short: B2 still holds the old 8 GB, not 16 GB.", "module-not-changed", Verdict.Short),
            Said(Check([0, 16, 0, 8], ["", "N1", "", "OLD-B2"], Both))
        );

    [Fact]
    public void Two_causes_at_once_are_both_named_and_the_sum_is_explained()
    {
        var check = Check([0, 8, 0, 0], ["", "OLD-A2", "", ""], Both);
        Assert.Equal("24 GB short: A2 still holds the old 8 GB, not 16 GB; B2 not seen.", check.Sentence);
        Assert.Equal(["B2"], One(check, "module-not-seen").Action.Slots);
        Assert.Equal("A2 still holds the old 8 GB, not 16 GB.", One(check, "module-not-changed").Sentence);
    }

    // The customer's own stays in A2, one of the same size comes into B2.
    [Theory]
    [InlineData("OLD-A2", "N2", "", Verdict.AsPlanned)]
    [InlineData("N2", "OLD-A2", "in-other-slot", Verdict.WithRemarks)]
    [InlineData("X9", "N2", "kept-module-gone", Verdict.Short)]
    [InlineData("OLD-A2", "X9", "module-not-booked", Verdict.WithRemarks)]
    [InlineData("OLD-A2", "OLD-B2", "module-not-changed", Verdict.Short)]
    public void Modules_of_one_size_are_told_apart_by_their_serials(string a2, string b2, string code, Verdict verdict)
    {
        var check = Check([0, 8, 0, 8], ["", a2, "", b2], [new SlotChange("B2", Dimm(8, "N2"))]);
        Assert.Equal(verdict, check.Verdict);
        Assert.Equal(
            code.Length == 0 ? [] : [code],
            check.Findings.Where(f => f.Severity != Severity.Note).Select(f => f.Code).Distinct()
        );
    }

    // Some firmware derives a module's serial from its slot: then a larger module bears the old one's.
    [Fact]
    public void A_serial_that_goes_with_the_slot_makes_no_new_module_the_old_one()
    {
        var check = Check(
            [0, 16, 0, 16],
            ["", "OLD-A2", "", "OLD-B2"],
            [new("A2", Dimm(16, null)), new("B2", Dimm(16, null))]
        );
        Assert.Equal(Verdict.AsPlanned, check.Verdict);
    }

    // No serial, or one for all: nothing is said that is not known.
    [Theory]
    [InlineData("", "")]
    [InlineData("00000000", "00000000")]
    [InlineData("SAME", "SAME")]
    public void Serials_that_tell_nothing_accuse_no_module(string a2, string b2)
    {
        var check = Check([0, 8, 0, 8], ["", a2, "", b2], [new SlotChange("B2", Dimm(8, "N2"))]);
        Assert.Equal(Verdict.AsPlanned, check.Verdict);
    }

    // The stock item that was set aside for B2 is not the one that was fitted.
    [Fact]
    public void What_is_read_is_compared_with_the_piece_that_was_booked()
    {
        var plan = Planner.Make(Tower, Old, [new SlotChange("B2", Dimm(16, null))]);
        var check = Checker.Check(
            Tower,
            new(Old, 2),
            new(plan, 3),
            new(Make.Reading(Tower, [0, 8, 0, 16], speed: 2666, serials: [null, "OLD-A2", null, "OS-17"]), 9),
            CheckHistory.None with
            {
                Booked = new Dictionary<string, string> { ["B2"] = "OS-12" },
            }
        );
        Assert.Equal("B2 holds the module OS-17; OS-12 was booked for it.", One(check, "module-not-booked").Sentence);
    }

    // 16 GB with graphics that share it: nobody read before what they keep.
    [Theory]
    [InlineData(15.6, null, Verdict.AsPlanned)]
    [InlineData(13.8, null, Verdict.WithRemarks)]
    [InlineData(13.8, 7.9, Verdict.WithRemarks)]
    [InlineData(9.8, 7.9, Verdict.Short)]
    public void What_was_kept_back_before_decides_whether_usable_memory_is_short(
        double after,
        double? before,
        Verdict verdict
    )
    {
        var was = Make.Reading(Make.Kliff, [4, 0, 4, 0], before);
        var check = Make.Check(
            Make.Kliff with
            {
                Memory = Make.Kliff.Memory with { SharedGraphics = null },
            },
            was,
            Make.Reading(Make.Kliff, [8, 0, 8, 0], after) with
            {
                Host = new HostReading(Is64Bit: true),
            },
            new SlotChange("S1", Make.Module(8)),
            new SlotChange("S3", Make.Module(8))
        );
        Assert.Equal(verdict, check.Verdict);
    }

    // The system alone was asked, and only after the work.
    [Fact]
    public void A_figure_of_the_system_alone_is_unsure_where_nobody_knows_what_it_keeps_back()
    {
        var guide = Make.Kliff with { Memory = Make.Kliff.Memory with { SharedGraphics = null } };
        var after = Make.Reading(guide, [-1, -1, -1, -1], 13.8);
        var check = Make.Check(
            guide,
            Make.Reading(guide, [4, 0, 4, 0]),
            after with
            {
                Memory = after.Memory with { Slots = [] },
            },
            new SlotChange("S1", Make.Module(8)),
            new SlotChange("S3", Make.Module(8))
        );
        Assert.Equal(Verdict.Unknown, check.Verdict);
    }

    [Fact]
    public void A_total_alone_is_as_planned_and_says_that_the_slots_were_not_read()
    {
        var after = Make.Reading(Tower, [0, 16, 0, 16]);
        var check = Make.Check(Tower, Old, after with { Memory = after.Memory with { Slots = [] } }, Both);
        Assert.Equal(
            (Verdict.AsPlanned, "32 GB installed, as planned; the slots were not read."),
            (check.Verdict, check.Sentence)
        );
    }

    // Firmware counts from 0 what the guide counts from 1; or it calls both by one name; or by none that fits.
    [Theory]
    [InlineData("M 0", "M 1", SlotNaming.ByOrder, "8 GB", "empty")]
    [InlineData("m-1", "M 2", SlotNaming.Named, "8 GB", "empty")]
    [InlineData("DIMM", "DIMM", SlotNaming.ByOrder, "8 GB", "empty")]
    [InlineData("M2", "M1", SlotNaming.Named, "empty", "8 GB")]
    [InlineData("Left", null, SlotNaming.Unmatched, "unknown", "unknown")]
    public void Slots_are_found_by_name_by_order_or_not_at_all(
        string first,
        string? second,
        SlotNaming naming,
        string m1,
        string m2
    )
    {
        var guide = Make.Fjell with
        {
            Memory = Make.Fjell.Memory with { Slots = [MemorySlot.Named("M1"), MemorySlot.Named("M2")] },
        };
        SlotReading[] listed =
        [
            new(first, null, MemorySize.Gigabytes(8).Bytes),
            .. second is null ? Array.Empty<SlotReading>() : [new SlotReading(second, null, 0)],
        ];
        var reading = Reading.Nothing with
        {
            Sources = [Source.FirmwareTables],
            Memory = new MemoryReading(MemorySize.Gigabytes(8).Bytes, null, null, null, listed),
        };
        Assert.Equal(naming, Occupancy.NamingOf(guide, reading));
        Assert.Equal([m1, m2], Occupancy.Of(guide, reading).Select(c => c.Spoken));
    }

    [Fact]
    public void Two_slots_alike_but_for_their_bank_are_told_apart_by_it()
    {
        var guide = Make.Fjell with
        {
            Memory = Make.Fjell.Memory with
            {
                Slots =
                [
                    MemorySlot.Named("S1") with
                    {
                        ReportsAs = "DIMM 0",
                        ReportsBank = "BANK 2",
                    },
                    MemorySlot.Named("S2") with
                    {
                        ReportsAs = "DIMM 0",
                        ReportsBank = "BANK 0",
                    },
                ],
            },
        };
        var reading = Reading.Nothing with
        {
            Sources = [Source.FirmwareTables],
            Memory = new MemoryReading(
                null,
                null,
                null,
                null,
                [new("DIMM 0", "BANK 0", MemorySize.Gigabytes(8).Bytes), new("DIMM 0", "BANK 2", 0)]
            ),
        };
        Assert.Equal(["empty", "8 GB"], Occupancy.Of(guide, reading).Select(c => c.Spoken));
    }

    private static CheckResult Check(int[] gigabytes, string[] serials, SlotChange[] changes, int rated = 2666) =>
        Make.Check(Tower, Old, Make.Reading(Tower, gigabytes, speed: rated, serials: serials), changes);

    private static (string, string, Verdict) Said(CheckResult check) =>
        (check.Sentence, check.Findings[0].Code, check.Verdict);

    private static Finding One(CheckResult check, string code) => Assert.Single(check.Findings, f => f.Code == code);

    private static MemoryModule Dimm(int gigabytes, string? serial) =>
        new(MemorySize.Gigabytes(gigabytes), "DDR4", "DIMM", 2666, Serial: serial);
}
