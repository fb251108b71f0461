using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Fit cases written from the standards and the trade, beside the rules.</summary>
public sealed class FitTests
{
    private static readonly Guide Board = Make.Fjell with
    {
        Memory = Make.Fjell.Memory with
        {
            Ecc = "optional",
            Buffering = "unbuffered",
            StatedMax = MemorySize.Gigabytes(32),
        },
    };

    // Supply voltages: JESD79-3 1.5 V, JESD79-3-1 1.35 V (which also stands 1.5 V).
    [Theory]
    [InlineData("DDR3", 1.5, "DDR3", null, null)]
    [InlineData("DDR3", 1.5, "DDR3L", null, null)]
    [InlineData("DDR3", 1.5, "DDR3", 1.35, null)]
    [InlineData("DDR3", 1.35, "DDR3", null, "voltage-too-low")]
    [InlineData("DDR3L", null, "DDR3", null, "voltage-too-low")]
    [InlineData("DDR3L", null, "DDR3", 1.5, "voltage-too-low")]
    [InlineData("DDR3L", null, "DDR3L", null, null)]
    [InlineData("DDR3L", null, "DDR3", 1.35, null)]
    [InlineData("DDR3", null, "DDR4", null, "wrong-generation")]
    [InlineData("DDR4", null, "DDR3L", null, "wrong-generation")]
    [InlineData("DDR4", null, "DDR5", null, "wrong-generation")]
    [InlineData("DDR5", null, "DDR4", null, "wrong-generation")]
    public void Generation_and_voltage(string board, double? gives, string module, double? needs, string? refusal)
    {
        var guide = Board with { Memory = Board.Memory with { Generation = board, Voltage = (decimal?)gives } };
        Assert.Equal(
            refusal,
            Refusal(guide, new MemoryModule(MemorySize.Gigabytes(8), module, "SO-DIMM", Voltage: (decimal?)needs))
        );
    }

    [Theory]
    [InlineData("SO-DIMM", "SODIMM", null)]
    [InlineData("SO-DIMM", "UDIMM", "wrong-form")]
    [InlineData("SO-DIMM", "RDIMM", "wrong-form")]
    [InlineData("DIMM", "SO-DIMM", "wrong-form")]
    [InlineData("DIMM", "UDIMM", null)]
    [InlineData("SO-DIMM", "DIMM", "wrong-form")]
    public void Form(string board, string module, string? refusal) =>
        Assert.Equal(
            refusal,
            Refusal(
                Board with
                {
                    Memory = Board.Memory with { Module = board },
                },
                new MemoryModule(MemorySize.Gigabytes(8), "DDR4", module)
            )
        );

    [Theory]
    [InlineData("none", "unbuffered", true, false, null, "ecc-unused")]
    [InlineData("required", "unbuffered", false, false, "ecc-missing", null)]
    [InlineData("required", "registered", true, true, null, null)]
    [InlineData("required", "registered", true, false, "wrong-buffering", null)]
    [InlineData("optional", "unbuffered", true, true, "wrong-buffering", null)]
    [InlineData(null, null, true, true, null, null)]
    public void Ecc_and_buffering(
        string? ecc,
        string? buffering,
        bool hasEcc,
        bool registered,
        string? refusal,
        string? remark
    )
    {
        var guide = Board with { Memory = Board.Memory with { Ecc = ecc, Buffering = buffering } };
        var module = new MemoryModule(MemorySize.Gigabytes(8), "DDR4", "SO-DIMM", Ecc: hasEcc, Registered: registered);
        Assert.Equal(refusal, Refusal(guide, module));
        Assert.Equal(remark, Notes(guide, module).FirstOrDefault(n => n.Weight == FitWeight.Remark)?.Code);
    }

    [Theory]
    [InlineData("16 GB", null)]
    [InlineData("12 GB", null)]
    [InlineData("13 GB", "size-impossible")]
    [InlineData("15.6 GB", "size-impossible")]
    [InlineData("5 TB", "size-impossible")]
    [InlineData("32 GB", "too-large-for-slot")]
    public void Sizes(string size, string? refusal) =>
        Assert.Equal(refusal, Refusal(Board, new MemoryModule(MemorySize.Parse(size), "DDR4", "SO-DIMM")));

    [Theory]
    [InlineData(3600, "faster-than-platform")]
    [InlineData(3200, null)]
    [InlineData(2133, "slower-than-platform")]
    public void Speeds_beyond_the_platforms_are_said(int speed, string? remark) =>
        Assert.Equal(
            remark,
            Notes(Board, new MemoryModule(MemorySize.Gigabytes(8), "DDR4", "SO-DIMM", speed)).SingleOrDefault()?.Code
        );

    [Fact]
    public void Every_note_names_both_values_and_their_source() =>
        Assert.All(
            Notes(
                Board,
                new MemoryModule(MemorySize.Gigabytes(64), "DDR5", "UDIMM", 6400, Registered: true, Ecc: true)
            ),
            n =>
                Assert.True(
                    n is { Sentence.Length: > 10, Takes.Length: > 0, Has.Length: > 0, Source.Length: > 0 }
                        && n.Takes != n.Has,
                    n.Code
                )
        );

    [Fact]
    public void The_reading_counts_where_guide_and_reading_disagree()
    {
        // This build came with DDR5 and with more in one slot than the guide knows.
        var slot = Board.Memory.Slots[1];
        var before = new Reading(
            [Source.FirmwareTables],
            SystemIdentity.Unknown,
            FirmwareIdentity.Unknown,
            new MemoryReading(
                null,
                null,
                null,
                2,
                [new SlotReading(slot.ReportsAs, null, MemorySize.Gigabytes(32).Bytes, "SODIMM", "DDR5", 4800, 4800)]
            )
        );
        var platform = Platform.Of(Board, before);
        Assert.Equal(
            ["reading-generation", "reading-slot-max", "reading-speed"],
            platform.Corrections.Select(c => c.Code).Order()
        );
        Assert.All(platform.Corrections, c => Assert.Equal("before reading", c.Source));
        Assert.Equal("wrong-generation", FitRules.Of(platform, Board.Memory.Slots[0], Make.Module(8))[0].Code);
        Assert.DoesNotContain(
            FitRules.Of(platform, slot, new MemoryModule(MemorySize.Gigabytes(32), "DDR5", "SO-DIMM")),
            n => n.Weight == FitWeight.Refusal
        );
    }

    [Theory]
    [InlineData(32, null, null, null)]
    [InlineData(24, null, null, FitWeight.Lead)]
    [InlineData(24, 32, null, FitWeight.Remark)]
    [InlineData(24, null, 32, FitWeight.Remark)]
    [InlineData(16, 24, null, FitWeight.Lead)]
    public void Above_the_stated_maximum(int stated, int? confirmed, int? claimed, FitWeight? weight)
    {
        var guide = Board with
        {
            Memory = Board.Memory with
            {
                StatedMax = MemorySize.Gigabytes(stated),
                ConfirmedMax = confirmed is { } c ? new ConfirmedMax(MemorySize.Gigabytes(c), [7]) : null,
            },
        };
        var before = Make.Reading(guide, [16, 0]);
        before = before with
        {
            Memory = before.Memory with { MaxCapacityBytes = claimed is { } m ? MemorySize.Gigabytes(m).Bytes : null },
        };
        var notes = FitRules.Of(guide, before, Planner.Make(guide, before, [new SlotChange("S2", Make.Module(16))]));
        Assert.Equal(weight, notes.FirstOrDefault(n => n.Code.StartsWith("above", StringComparison.Ordinal))?.Weight);
    }

    [Fact]
    public void Mixtures_are_told_or_refused()
    {
        var wishes = new SlotChange[]
        {
            new("S1", Make.Module(8, speed: 2666) with { Ranks = 1, Ecc = true }),
            new("S2", Make.Module(16, speed: 3200) with { Ranks = 2, Ecc = false }),
        };
        var guide = Board with { Memory = Board.Memory with { Pairing = "alike-throughout" } };
        var before = Make.Reading(guide, [0, 0]);
        var codes = FitRules.Of(guide, before, Planner.Make(guide, before, wishes)).Select(n => n.Code).ToArray();
        Assert.Equal(["mixed-ecc", "mixed-speeds", "not-alike"], codes.Order());
        var refused = Assert.Throws<RefusedException>(() =>
            Planner.Make(
                guide with
                {
                    Memory = guide.Memory with { Buffering = null },
                },
                before,
                [
                    wishes[0] with
                    {
                        Fit = wishes[0].Fit! with { Registered = true },
                    },
                    wishes[1] with
                    {
                        Fit = wishes[1].Fit! with { Registered = false },
                    },
                ]
            )
        );
        Assert.Equal("mixed-buffering", refused.Code);
    }

    [Fact]
    public void Crowding_and_ranks_in_one_channel_are_told()
    {
        var tower = Repository.Guide("QT40");
        tower = tower with
        {
            Memory = tower.Memory with { StatedMax = MemorySize.Gigabytes(128), Speeds = [2666, 3200] },
        };
        tower = tower with
        {
            Memory = new MemoryFacts(
                "DDR4",
                "DIMM",
                [2666, 3200],
                tower.Memory.StatedMax,
                null,
                tower.Memory.Slots,
                tower.Memory.Populate,
                "alike-in-pairs",
                null,
                PerChannel: new Dictionary<int, int> { [2] = 2666 }
            ),
        };
        var before = Make.Reading(tower, [0, 0, 0, 0]);
        MemoryModule Stick(int gigabytes, int ranks) =>
            new(MemorySize.Gigabytes(gigabytes), "DDR4", "DIMM", 3200, Ranks: ranks);
        var plan = Planner.Make(
            tower,
            before,
            [new("A1", Stick(16, 1)), new("A2", Stick(16, 2)), new("B1", Stick(16, 1)), new("B2", Stick(8, 2))]
        );
        var codes = FitRules.Of(tower, before, plan).Select(n => n.Code).Distinct().ToArray();
        Assert.Contains("crowded-channel", codes);
        Assert.Contains("mixed-ranks", codes);
        Assert.Contains("pair-not-alike", codes);
        Assert.Equal(2666, Expectation.Of(tower, before, plan).RunningSpeed);
    }

    [Theory]
    [InlineData("M.2 2280", "M", "PCIe 4.0 x4", 2.4, "slower-link")]
    [InlineData("M.2 2280", "M", "PCIe 3.0 x4", 2.4, null)]
    [InlineData("M.2 22110", "M", "PCIe 3.0 x4", 2.4, "drive-too-long")]
    [InlineData("M.2 2242", "M", "PCIe 3.0 x4", 2.4, "drive-shorter")]
    [InlineData("M.2 2280", "B", "PCIe 3.0 x4", 2.4, "wrong-key")]
    [InlineData("M.2 2280", "B+M", "SATA 6 Gb/s", 2.4, "wrong-link")]
    [InlineData("2.5 in", null, "SATA 6 Gb/s", 7.0, "wrong-drive-form")]
    [InlineData("M.2 2280", "M", "PCIe 3.0 x4", 8.0, "drive-too-high")]
    [InlineData("M.2 2280", null, null, null, null)]
    public void Drives_in_the_laptops_bay(string form, string? key, string? link, double? height, string? code)
    {
        var drive = new Drive(DriveSize.Parse("1 TB"), form, key, link, (decimal?)height);
        Assert.Equal(
            code,
            DriveNotes("FJ14", "D1", new DriveWish(drive, DataPath.CleanInstall))
                .OrderByDescending(n => n.Weight)
                .FirstOrDefault()
                ?.Code
        );
    }

    [Theory]
    [InlineData("2.5 in", "drive-narrower")]
    [InlineData("3.5 in", null)]
    [InlineData("M.2 2280", "wrong-drive-form")]
    public void Drives_in_a_large_bay(string form, string? code) =>
        Assert.Equal(
            code,
            DriveNotes(
                    "TB6",
                    "B2",
                    new DriveWish(
                        new Drive(DriveSize.Parse("4 TB"), form, Link: "SATA 6 Gb/s"),
                        DataPath.CleanInstall,
                        ArrayState: "healthy"
                    )
                )
                .FirstOrDefault()
                ?.Code
        );

    [Theory]
    [InlineData(1.0, 2.4, null)]
    [InlineData(2.0, 2.4, "pad-too-thick")]
    [InlineData(1.5, 1.8, null)]
    [InlineData(0.5, 2.4, "pad-too-thin")]
    public void A_pad_goes_between_drive_and_cover(double pad, double height, string? code) =>
        Assert.Equal(
            code,
            DriveNotes(
                    "FJ14",
                    "D1",
                    new DriveWish(
                        new Drive(DriveSize.Parse("1 TB"), Height: (decimal)height),
                        DataPath.CleanInstall,
                        Pad: (decimal)pad
                    )
                )
                .FirstOrDefault()
                ?.Code
        );

    [Fact]
    public void A_drive_takes_over_what_is_used_and_sectors_are_looked_at()
    {
        var old = new DriveReading("D1", new Drive(DriveSize.Parse("500 GB"), SectorSize: 512), 300_000_000_000, true);
        Assert.Equal(
            "drive-too-small",
            DriveNotes("FJ14", "D1", new DriveWish(new Drive(DriveSize.Parse("256 GB")), DataPath.CopyFirst), old)
                .Single()
                .Code
        );
        Assert.Empty(
            DriveNotes("FJ14", "D1", new DriveWish(new Drive(DriveSize.Parse("256 GB")), DataPath.CleanInstall), old)
        );
        Assert.Equal(
            "sector-size",
            DriveNotes(
                    "FJ14",
                    "D1",
                    new DriveWish(new Drive(DriveSize.Parse("1 TB"), SectorSize: 4096), DataPath.CopyFirst),
                    old
                )
                .Single()
                .Code
        );
    }

    private static string? Refusal(Guide guide, MemoryModule module) =>
        Notes(guide, module).FirstOrDefault(n => n.Weight == FitWeight.Refusal)?.Code;

    private static IReadOnlyList<FitNote> Notes(Guide guide, MemoryModule module) =>
        FitRules.Of(Platform.Of(guide, Make.Reading(guide, [0, 0])), guide.Memory.Slots[1], module);

    private static FitNote[] DriveNotes(string model, string bay, DriveWish wish, DriveReading? old = null)
    {
        var guide = Repository.Guide(model);
        var before = new Reading(
            [Source.Eyes],
            SystemIdentity.Unknown,
            FirmwareIdentity.Unknown,
            new MemoryReading(null, null, null, null, []),
            null,
            old is null ? null : [old]
        );
        return
        [
            .. FitRules.Of(
                guide,
                before,
                new Plan(
                    [.. Occupancy.Of(guide, before).Select(o => new PlannedSlot(o.Slot, SlotUse.Keep, o, null, null))],
                    [new PlannedBay(bay, BayUse.Fit, old?.Drive, false, wish)]
                )
            ),
        ];
    }

    [Theory]
    [InlineData(8, 8, false)]
    [InlineData(4, 8, true)]
    [InlineData(4, 4, false)]
    public void A_total_that_the_maker_does_not_list_is_told_and_forbids_nothing(int s1, int s2, bool told)
    {
        var guide = Make.Fjell with
        {
            Memory = new MemoryFacts(
                Make.Fjell.Memory.Generation,
                Make.Fjell.Memory.Module,
                Make.Fjell.Memory.Speeds,
                Make.Fjell.Memory.StatedMax,
                null,
                Make.Fjell.Memory.Slots,
                Make.Fjell.Memory.Populate,
                "any",
                null,
                SupportedTotals: [MemorySize.Gigabytes(16), MemorySize.Gigabytes(8)]
            ),
        };
        var before = Make.Reading(guide, [s1, 0]);
        var plan = Planner.Make(guide, before, [new SlotChange("S2", Fit: Make.Module(s2))]);
        var note = FitRules.Of(guide, before, plan).SingleOrDefault(n => n.Code == "total-not-listed");
        Assert.Equal(told, note is not null);
        if (note is not null)
        {
            Assert.Equal(FitWeight.Remark, note.Weight);
            Assert.Contains("lists for FJ14: 8 GB and 16 GB", note.Sentence, StringComparison.Ordinal);
        }
    }
}
