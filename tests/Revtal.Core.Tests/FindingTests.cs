using System.Text.RegularExpressions;
using Revtal.Core.Captures;
using Revtal.Core.Captures.Systems;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>One case a finding: what the bench would see, and what it is told.</summary>
public sealed partial class FindingTests
{
    private static readonly Guide Tower = Repository.Guide("QT40"),
        Box = Repository.Guide("TB6");
    private static readonly DateTimeOffset Noon = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);

    private static readonly DriveWish OneTerabyte = new(
        new Drive(DriveSize.Sold(1000), PartNumber: new PartNumber("BN-1T"), Serial: "NEW", Link: "PCIe 3.0 x4"),
        DataPath.CleanInstall,
        Setup: new DriveSetup(true, "GPT", "NTFS", "Spectra")
    );

    [Fact]
    public void Two_modules_that_are_both_unseen_suggest_that_the_board_does_not_take_them()
    {
        var finding = Check(
            Make.Kliff,
            [4, 0, 4, 0],
            [0, 0, 0, 4],
            new("S1", Make.Module(16)),
            new("S3", Make.Module(16)),
            new("S4", From: "S3")
        ).Findings[0];
        Assert.Equal("new-modules-not-seen", finding.Code);
        Assert.Equal(
            "The board does not take these modules.",
            finding.Causes.First(c => !c.StartsWith("With", StringComparison.Ordinal))
        );
    }

    [Fact]
    public void A_slot_filled_out_of_the_board_s_order_is_the_first_cause() =>
        Assert.Equal(
            "The board wants 1 module in A2.",
            Check(Tower, [0, 8, 0, 0], [0, 0, 0, 0], new SlotChange("A1", From: "A2")).Findings[0].Causes[0]
        );

    [Fact]
    public void The_right_total_in_one_channel_is_balance_lost()
    {
        var finding = One(Check(Tower, [0, 8, 0, 0], [8, 8, 0, 0], new SlotChange("B2", Dimm(8))), "balance-lost");
        Assert.Equal("0 GB of 16 GB interleave, not 16 GB.", finding.Sentence);
        Assert.Contains("A2 and B2", finding.Action.Text, StringComparison.Ordinal);
    }

    [Fact]
    public void A_low_speed_names_the_setting_of_this_very_firmware()
    {
        var before = Make.Reading(Tower, [0, 8, 0, 0], speed: 3200);
        var finding = One(
            Make.Check(
                Tower,
                before,
                Make.Reading(Tower, [0, 8, 0, 8], speed: 2400, rated: 3200),
                new SlotChange("B2", Dimm(8, 3200))
            ),
            "speed-below-rated"
        );
        Assert.Equal(
            "Turn the profile on: Del while the sign shows, then Memory, Speed profile: rated.",
            finding.Action.Text
        );
    }

    [Theory]
    [InlineData(3200, 3200, "with so many modules a channel the board goes no faster", 8, 8, 8, 8)]
    [InlineData(3200, 2666, "as the slowest module does", 0, 8, 0, 8)]
    public void Speed_that_is_right_but_below_a_rating_is_explained(
        int rated,
        int slow,
        string says,
        params int[] after
    )
    {
        var running = Math.Min(slow, after.All(g => g > 0) ? 2933 : 3200);
        var was = after.Select((g, i) => i == 3 ? 0 : g).ToArray();
        var before = Make.Reading(Tower, was, speed: rated);
        var check = Make.Check(
            Tower,
            before,
            Make.Reading(Tower, after, speed: running),
            new SlotChange("B2", Dimm(8, slow))
        );
        Assert.Contains(says, One(check, "speed-explained").Sentence, StringComparison.Ordinal);
        Assert.DoesNotContain(check.Findings, f => f.Code == "speed-below-rated");
    }

    [Fact]
    public void A_limit_that_the_system_was_started_with_is_named()
    {
        var after = Make.Reading(Make.Fjell, [8, 8], usableGigabytes: 3.9) with
        {
            Host = new HostReading("Linux", true, 4L << 30, "mem=4G"),
        };
        var finding = One(
            Make.Check(
                Make.Fjell,
                Make.Reading(Make.Fjell, [0, 8], usableGigabytes: 7.7),
                after,
                new SlotChange("S1", Make.Module(8))
            ),
            "system-below-firmware"
        );
        Assert.Equal(
            ("It was started with a limit: mem=4G.", "Take “mem=4G” out of the start settings."),
            (finding.Causes[0], finding.Action.Text)
        );
    }

    [Fact]
    public void A_reservation_that_grew_is_explained_by_the_graphics()
    {
        var after = Make.Reading(Make.Fjell, [8, 8], usableGigabytes: 13) with
        {
            Host = new HostReading("Linux", true),
        };
        var check = Make.Check(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8], usableGigabytes: 7.7),
            after,
            new SlotChange("S1", Make.Module(8))
        );
        Assert.Equal(
            "3 GB is kept back, 307.2 MB before: the reservation grew by 2.7 GB.",
            One(check, "reservation-grown").Sentence
        );
        Assert.Equal(Verdict.WithRemarks, check.Verdict);
    }

    [Fact]
    public void What_firmware_counts_but_does_not_map_is_told()
    {
        var after = Make.Reading(Make.Fjell, [8, 8]);
        after = after with { Memory = after.Memory with { MappedBytes = 8L << 30 } };
        Assert.Equal(
            "Firmware counts 16 GB and maps 8 GB of it.",
            One(
                Make.Check(Make.Fjell, Make.Reading(Make.Fjell, [0, 8]), after, new SlotChange("S1", Make.Module(8))),
                "mapped-below-installed"
            ).Sentence
        );
    }

    [Theory]
    [InlineData(-30, 60, "older than the change")]
    [InlineData(30, 7200, "runs since 2026-03-02 10:30 UTC, before the change")]
    public void A_reading_of_before_the_change_gives_no_verdict(int minutes, int up, string says)
    {
        var after = Make.Reading(Make.Fjell, [8, 8]) with
        {
            Host = new HostReading(TakenAt: Noon.AddMinutes(minutes), UpSeconds: up),
        };
        var check = Checked(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8]),
            after,
            new CheckHistory(Noon, [], []),
            new SlotChange("S1", Make.Module(8))
        );
        Assert.Equal(Verdict.Unknown, check.Verdict);
        Assert.Contains(says, check.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void Sources_that_contradict_each_other_are_shown_with_both_their_words()
    {
        var after = Reading.Join(
            Make.Reading(Make.Fjell, [8, 8]),
            EyeReading.Make(MemorySize.Gigabytes(12), null, [], null)
        );
        Assert.Equal(
            "Two sources disagree on the installed memory: 16 GB (firmware tables), 12 GB (eyes).",
            One(
                Make.Check(Make.Fjell, Make.Reading(Make.Fjell, [0, 8]), after, new SlotChange("S1", Make.Module(8))),
                "sources-disagree"
            ).Sentence
        );
    }

    [Fact]
    public void Seated_anew_and_still_unseen_asks_for_the_swap_test()
    {
        var check = Checked(
            Make.Kliff,
            Make.Reading(Make.Kliff, [4, 0, 4, 0]),
            Make.Reading(Make.Kliff, [16, 0, 0, 0]),
            new CheckHistory(null, [], ["S3"]),
            new("S1", Make.Module(16)),
            new("S3", Make.Module(16))
        );
        Assert.Equal(
            (ActionKind.SwapTest, "S3 was seated anew already: begin the swap test."),
            (check.Findings[0].Action.Kind, check.Findings[0].Action.Text)
        );
    }

    // The drive of FJ14's D1 replaced by 1 TB; what the after reading says of it, and what follows.
    public static TheoryData<string, DriveReading[], string, Verdict> Drives =>
        new()
        {
            {
                "drive-missing",
                [new(null, new Drive(DriveSize.Sold(64)), Transport: "usb")],
                "1 TB in D1 not listed.",
                Verdict.Short
            },
            { "drive-raw", [New with { Initialised = false }], "1 TB in D1 is listed, but raw.", Verdict.WithRemarks },
            {
                "drive-space-unused",
                [New with { SpareBytes = 538_000_000_000 }],
                "538 GB of 1 TB in D1 not in use.",
                Verdict.WithRemarks
            },
            {
                "drive-smaller",
                [New with { Drive = new Drive(DriveSize.Sold(500), Serial: "OTHER") }],
                "500 GB in D1, not 1 TB.",
                Verdict.Short
            },
            {
                "drive-other",
                [New with { Drive = New.Drive with { Serial = "OTHER", PartNumber = null } }],
                "D1 holds another drive than planned.",
                Verdict.WithRemarks
            },
            {
                "link-slower",
                [New with { Health = Healthy with { LinkNow = "PCIe 3.0 x2", LinkMost = "PCIe 3.0 x4" } }],
                "D1 runs at PCIe 3.0 x2, not PCIe 3.0 x4.",
                Verdict.WithRemarks
            },
            {
                "drive-poor",
                [New with { Health = Healthy with { Hours = 41_200, WearPercent = 91, Reallocated = 1 } }],
                "The new drive in D1 is not in good health: 1 sector replaced, 91 % worn, 41200 hours on.",
                Verdict.Short
            },
            {
                "boots-old",
                [
                    New with
                    {
                        Boots = false,
                    },
                    new(null, new Drive(DriveSize.Sold(500), Serial: "OLD"), Boots: true, Device: "sdb"),
                ],
                "It still starts from another drive: 500 GB sdb.",
                Verdict.Short
            },
            { "drives-not-read", [], "No drive was read after the work.", Verdict.WithRemarks },
            {
                "drive-size-explained",
                [New],
                "D1 has its full 1 TB; systems that count in binary show 932 GiB of it.",
                Verdict.AsPlanned
            },
        };

    private static DriveHealth Healthy => new(true, 3, 0, 100, 34, 0, 0, 0, null, null);

    private static DriveReading New =>
        new(
            null,
            new Drive(DriveSize.Sold(1000), PartNumber: new PartNumber("BN-1T"), Serial: "NEW"),
            212_000_000_000,
            true,
            "nvme0n1",
            "nvme",
            true,
            Healthy,
            4_000_000_000
        );

    [Theory]
    [MemberData(nameof(Drives))]
    public void A_replaced_drive_is_told_by_what_the_system_says_of_it(
        string code,
        DriveReading[] seen,
        string sentence,
        Verdict verdict
    )
    {
        var before = Make.Reading(Make.Fjell, [0, 8]) with
        {
            Drives = [new("D1", new Drive(DriveSize.Sold(500), Serial: "OLD"), 212_000_000_000, true)],
        };
        var after = Make.Reading(Make.Fjell, [0, 8]) with { Drives = seen };
        var check = Make.Check(Make.Fjell, before, after, new SlotChange("D1", Drive: OneTerabyte));
        Assert.Equal(sentence, One(check, code).Sentence);
        Assert.Equal(verdict, check.Verdict);
    }

    // What lsblk tells of the partition of the new drive, against a plan of label Spectra, mounted as /srv.
    [Theory]
    [InlineData("""{ "label": "Spectra", "mountpoint": "/srv" }""", null)]
    [InlineData("""{ "label": "-", "mountpoint": "/elsewhere" }""", null)]
    [InlineData("""{ "fstype": "ext4" }""", null)]
    [InlineData(
        """{ "label": null, "mountpoint": "/srv/" }""",
        "The file system in D1 has no label; “Spectra” was planned."
    )]
    [InlineData(
        """{ "label": "Backup", "mountpoint": "/srv" }""",
        "The file system in D1 is labelled “Backup”, not “Spectra”."
    )]
    [InlineData("""{ "label": "SPECTRA", "mountpoint": null }""", "The drive in D1 is not mounted; /srv was planned.")]
    [InlineData("""{ "label": "Spectra", "mountpoint": "/mnt" }""", "The drive in D1 is mounted as /mnt, not as /srv.")]
    public void A_drive_is_held_against_the_label_and_the_place_that_were_sold(string partition, string? sentence)
    {
        var told = CaptureDecoder.Decode([
            new(
                "lsblk.json",
                System.Text.Encoding.UTF8.GetBytes(
                    $$"""
                    {"blockdevices": [{"name": "nvme0n1", "type": "disk", "size": 1000204886016, "serial": "NEW",
                      "pttype": "gpt", "children": [{{partition.Replace(
                        "{",
                        "{ \"name\": \"p1\", \"type\": \"part\", \"size\": 1000000000000,"
                    )}}]}]}
                    """
                )
            ),
        ]);
        var before = Make.Reading(Make.Fjell, [0, 8]) with
        {
            Drives = [new("D1", new Drive(DriveSize.Sold(500), Serial: "OLD"), 212_000_000_000, true)],
        };
        var check = Make.Check(
            Make.Fjell,
            before,
            Make.Reading(Make.Fjell, [0, 8]) with
            {
                Drives = told.Drives,
            },
            new SlotChange(
                "D1",
                Drive: new DriveWish(
                    new Drive(DriveSize.Sold(1000)),
                    DataPath.CleanInstall,
                    Setup: new DriveSetup(Initialise: true, Label: "Spectra", Mount: "/srv")
                )
            )
        );
        Assert.Equal(sentence, check.Findings.FirstOrDefault(f => f.Severity == Severity.Remark)?.Sentence);
        Assert.Equal(sentence is null ? Verdict.AsPlanned : Verdict.WithRemarks, check.Verdict);
    }

    // One of the new ones is seen: the board takes this kind, so the others are not called unfit for it.
    [Fact]
    public void Two_of_three_new_modules_that_are_unseen_are_no_word_against_their_kind()
    {
        var finding = Check(
            Make.Kliff,
            [8, 0, 0, 0],
            [8, 8, 0, 0],
            new("S2", Make.Module(8)),
            new("S3", Make.Module(8)),
            new("S4", Make.Module(8))
        ).Findings[0];
        Assert.Equal("modules-not-seen", finding.Code);
        Assert.DoesNotContain("The board does not take these modules.", finding.Causes);
    }

    // The guide has two bays for it, and somebody saw one of them empty.
    [Fact]
    public void A_drive_sits_where_it_alone_can_once_a_bay_is_seen_empty()
    {
        var skarv = Repository.Guide("NS13");
        var listed = Make.Reading(skarv, [8, 8]) with
        {
            Drives = [new(null, new Drive(DriveSize.Sold(500), Serial: "ONE"), Transport: "nvme")],
        };
        Assert.Null(Assert.Single(DrivePlaces.Of(skarv, listed)).Bay);
        Assert.Equal("D2", Assert.Single(DrivePlaces.Of(skarv, listed with { EmptyBays = ["D1"] })).Bay);
    }

    // Firmware that does not know its own maximum writes 0: that is no limit.
    [Fact]
    public void A_maximum_of_nothing_is_no_maximum()
    {
        var read = Make.Reading(Make.Fjell, [0, 8]);
        Assert.Null(
            Platform.Of(Make.Fjell, read with { Memory = read.Memory with { MaxCapacityBytes = 0 } }).FirmwareMax
        );
    }

    [Fact]
    public void What_is_free_is_told_of_the_drives_that_tell_what_is_used()
    {
        var reading = Make.Reading(Make.Fjell, [0, 8]) with
        {
            Drives =
            [
                new("D1", new Drive(new DriveSize(1_000)), UsedBytes: 400),
                new(null, new Drive(new DriveSize(500)), UsedBytes: 700),
                new(null, new Drive(new DriveSize(9_000))),
            ],
        };
        Assert.Equal(600, LoadReading.Of(reading)!.StorageFreeBytes);
    }

    [Fact]
    public void What_is_to_be_set_up_on_a_raw_drive_is_the_plan_s_own_wish() =>
        Assert.Equal(
            "Initialise D1: GPT, NTFS, label Spectra.",
            One(
                Make.Check(
                    Make.Fjell,
                    Make.Reading(Make.Fjell, [0, 8]),
                    Make.Reading(Make.Fjell, [0, 8]) with
                    {
                        Drives = [New with { Initialised = false }],
                    },
                    new SlotChange("D1", Drive: OneTerabyte)
                ),
                "drive-raw"
            ).Action.Text
        );

    [Fact]
    public void A_drive_that_stayed_and_fails_is_told_without_spoiling_the_order()
    {
        var drive = new DriveReading(
            "D1",
            new Drive(DriveSize.Sold(500), Serial: "OLD"),
            Health: Healthy with
            {
                Pending = 8,
            }
        );
        var check = Make.Check(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8]) with
            {
                Drives = [drive],
            },
            Make.Reading(Make.Fjell, [8, 8]) with
            {
                Drives = [drive],
            },
            new SlotChange("S1", Make.Module(8))
        );
        Assert.Equal(
            "The drive in D1 reports trouble: 8 sectors wait to be replaced.",
            One(check, "drive-failing").Sentence
        );
    }

    [Fact]
    public void Drives_in_each_other_s_bays_are_noticed_before_the_array_rebuilds()
    {
        var check = BoxCheck(
            [.. Six().Select(d => d.Bay is "B2" or "B5" ? d with { Bay = d.Bay == "B2" ? "B5" : "B2" } : d)],
            []
        );
        Assert.Equal(
            "The drives of B2 and B5 sit in other bays than before.",
            One(check, "bay-order-changed").Sentence
        );
        Assert.DoesNotContain(check.Findings, f => f.Code is "drive-missing" or "drive-other");
    }

    [Fact]
    public void An_array_that_rebuilds_tells_when_it_is_done_from_two_readings()
    {
        var first = Array(20);
        var check = BoxCheck(
            Six(),
            [new(7, Phase.After, Noon, first), new(9, Phase.After, Noon.AddMinutes(60), Array(40))],
            Array(40).Arrays
        );
        Assert.Equal(
            "Array md0: recovery at 40 % when it was read, about 3 h left then.",
            One(check, "array-resync").Sentence
        );
        Assert.Equal(Noon.AddHours(4), One(check, "array-resync").Until);
        Assert.Equal(
            "Array md0: recovery at 40 % when it was read, about 5 h left then.",
            One(BoxCheck(Six(), [], Array(40).Arrays), "array-resync").Sentence
        );
    }

    [Fact]
    public void A_degraded_array_that_rests_is_not_done() =>
        Assert.Equal(
            "Array md0 has 5 of 6 drives, and does not rebuild.",
            One(BoxCheck(Six(), [], [new("md0", "raid6", true, 6, 5, null, null, null)]), "array-degraded").Sentence
        );

    // Short, exact, no blame: what a customer or a colleague reads.
    [Fact]
    public void Every_finding_has_its_words_for_the_customer_and_none_of_them_blames()
    {
        var source = string.Concat(
            Directory
                .GetFiles(Repository.At("src", "Revtal.Core", "Checks"), "*.cs")
                .Where(f => !f.EndsWith("CustomerSentences.cs", StringComparison.Ordinal))
                .Select(File.ReadAllText)
        );
        // All that stands where a finding's code stands: up to its severity.
        var codes = Findings()
            .Matches(source)
            .SelectMany(m => Codes().Matches(m.Groups[1].Value))
            .Select(m => m.Groups[1].Value)
            .Distinct()
            .ToArray();
        Assert.Equal(CustomerSentences.Codes.Order(), codes.Order());
        Assert.All(
            CustomerSentences.Codes,
            code =>
            {
                var words = CustomerSentences.Of(code);
                Assert.InRange(words.Length, 20, 120);
                Assert.EndsWith(".", words, StringComparison.Ordinal);
                Assert.DoesNotMatch(Blame(), words);
            }
        );
        Assert.All(
            Quoted().Matches(source).Select(m => m.Groups[1].Value),
            sentence => Assert.DoesNotMatch(Blame(), sentence)
        );
    }

    private static CheckResult BoxCheck(
        IReadOnlyList<DriveReading> after,
        IReadOnlyList<TimedReading> history,
        IReadOnlyList<ArrayReading>? arrays = null
    )
    {
        var before = Make.Reading(Box, [4, 4]) with { Drives = Six() };
        var now = Make.Reading(Box, [16, 4]);
        return Checked(
            Box,
            before,
            new Reading(now.Sources, now.System, now.Firmware, now.Memory, null, after, null, arrays),
            new CheckHistory(null, history, []),
            new SlotChange("M1", Make.Module(16))
        );
    }

    private static DriveReading[] Six() =>
        [
            .. Enumerable
                .Range(1, 6)
                .Select(i => new DriveReading($"B{i}", new Drive(DriveSize.Sold(8000), Serial: $"BH8T-{i}"))),
        ];

    private static Reading Array(decimal percent) =>
        Reading.OfDrives([], [new("md0", "raid6", true, 6, 5, "recovery", percent, 300)]);

    private static CheckResult Check(Guide guide, int[] before, int[] after, params SlotChange[] changes) =>
        Make.Check(guide, Make.Reading(guide, before), Make.Reading(guide, after), changes);

    private static CheckResult Checked(
        Guide guide,
        Reading before,
        Reading after,
        CheckHistory history,
        params SlotChange[] changes
    ) => Checker.Check(guide, new(before, 2), new(Planner.Make(guide, before, changes), 3), new(after, 9), history);

    private static MemoryModule Dimm(int gigabytes, int? speed = null) =>
        new(MemorySize.Gigabytes(gigabytes), "DDR4", "DIMM", speed);

    private static Finding One(CheckResult check, string code) => Assert.Single(check.Findings, f => f.Code == code);

    [GeneratedRegex(@"\.Finding\(\s*(.*?),\s*(?:\w+ \? )?Severity\.", RegexOptions.Singleline)]
    private static partial Regex Findings();

    [GeneratedRegex("\"([a-z]+(?:-[a-z]+)*)\"")]
    private static partial Regex Codes();

    [GeneratedRegex("\\$?\"([A-Z][^\"]{12,})\"")]
    private static partial Regex Quoted();

    [GeneratedRegex(
        "!|\\byou(r)?\\b|\\bfault "
            + "of\\b|\\bwrongly\\b|\\bcareless|\\bforgot|\\bplease\\b|\\bsuccessfully\\b|\\bunfortunately\\b",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Blame();
}
