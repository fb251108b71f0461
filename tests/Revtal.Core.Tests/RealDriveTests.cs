using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>
/// Captures of machines whose drives were really taken out, put in and changed over between two starts. What must be
/// said of each is written from what was done to it.
/// </summary>
public sealed class RealDriveTests
{
    private static readonly Guide Box = Repository.Guide("TB6"),
        Tower = Repository.Guide("QT40");

    // Nothing but memory was planned: every drive was to stay where it was.
    [Theory]
    [InlineData("box", "after-good", "", "")]
    [InlineData("box", "after-good-check-running", "array-checks", "reads itself through")]
    [InlineData(
        "box",
        "after-trays-2-5-changed-over",
        "bay-order-changed",
        "The drives of B2 and B5 sit in other bays"
    )]
    [InlineData("box", "after-bay3-out-degraded", "drive-gone array-degraded", "4 TB TB6-S3 of B3 is not listed")]
    [InlineData(
        "box",
        "after-bay3-new-rebuilding",
        "drive-foreign array-resync",
        "4 TB TB6-S3 of B3 is gone; 4 TB Basaltine BH-4T TB6-NEW is in its place."
    )]
    [InlineData("tower", "after-good", "", "")]
    [InlineData("tower", "after-data-cable-off", "drive-gone", "8 TB DATA-1 of D2 is not listed any more")]
    [InlineData("tower", "after-new-drive-set-up", "drive-stranger", "NEW-1T")]
    public void Drives_that_were_to_stay_are_told_truly(string machine, string after, string codes, string sentence)
    {
        var check = Check(machine, after);
        var told = check.Findings.Where(f => f.Code.Split('-')[0] is "drive" or "bay" or "array").ToArray();
        Assert.Equal(codes.Split(' ', StringSplitOptions.RemoveEmptyEntries).Order(), told.Select(f => f.Code).Order());
        Assert.True(
            sentence == "" || told.Any(f => f.Sentence.Contains(sentence, StringComparison.Ordinal)),
            string.Join(" | ", told.Select(f => f.Sentence))
        );
        Assert.Equal(codes is "" or "array-checks", check.Verdict == Verdict.AsPlanned);
    }

    // A drive of the array was to be replaced, by a new one of the same size in the same bay.
    [Theory]
    [InlineData("after-bay3-new-rebuilding", "array-resync drive-size-explained", "")]
    [InlineData("after-bay3-out-degraded", "array-degraded drive-missing", "4 TB in B3 not listed.")]
    [InlineData(
        "after-good",
        "drive-missing drive-not-changed",
        "4 TB Basaltine BH-4T TB6-S3 was to leave B3, and is still in the machine."
    )]
    [InlineData(
        "after-trays-2-5-changed-over",
        "bay-order-changed drive-missing drive-not-changed",
        "The drives of B2 and B5 sit in other bays than before."
    )]
    public void A_drive_that_was_to_be_replaced_is_told_truly(string after, string codes, string sentence)
    {
        var check = Check(
            "box",
            after,
            new SlotChange(
                "B3",
                Drive: new DriveWish(
                    new Drive(DriveSize.Sold(4000), PartNumber: PartNumber.Of("BH-4T")),
                    DataPath.LeftBehind,
                    "the array has it twice",
                    ArrayState: "clean, 6 of 6"
                )
            )
        );
        var told = check.Findings.Where(f => f.Code.Split('-')[0] is "drive" or "bay" or "array").ToArray();
        Assert.Equal(codes.Split(' '), told.Select(f => f.Code).Order());
        Assert.True(
            sentence == "" || told.Any(f => f.Sentence.Contains(sentence, StringComparison.Ordinal)),
            string.Join(" | ", told.Select(f => f.Sentence))
        );
    }

    [Fact]
    public void A_new_drive_beside_the_others_is_found_by_its_set_up()
    {
        // The cage of the tower's second bay was given a new drive, says this plan; the data drive was to stay.
        var (before, after) = (Read("tower", "before"), Read("tower", "after-new-drive-set-up"));
        Assert.Equal(["DATA-1", "QT-NV1"], before.Drives.Select(d => d.Drive.Serial).Order());
        var added = Assert.Single(after.Drives, d => d.Drive.Serial == "NEW-1T");
        Assert.True(added.Initialised);
        Assert.Equal("pci-0000:00:1f.2-ata-2", added.Path);
    }

    [Fact]
    public void What_lies_on_an_array_lies_on_no_one_of_its_drives()
    {
        var reading = Read("box", "before");
        Assert.All(reading.Drives, d => Assert.Null(d.UsedBytes));
        var array = Assert.Single(reading.Arrays);
        Assert.Equal(("md0", 6, 6, 28672L), (array.Name, array.Wanted, array.Present, array.UsedBytes));
        Assert.Equal(["sda", "sdb", "sdc", "sdd", "sde", "sdf"], array.Members.Select(m => m.Device).Order());
    }

    [Fact]
    public void A_64_bit_system_is_not_taken_for_less_by_firmware_that_does_not_know() =>
        Assert.True(Read("box", "before").Host!.Is64Bit);

    private static CheckResult Check(string machine, string after, params SlotChange[] drives)
    {
        var guide = machine == "box" ? Box : Tower;
        var slot = guide.Memory.Slots[0].Id;
        var few = guide.Memory.Slots.Select((_, i) => i == 1 ? 8 : 0).ToArray();
        int[] more = [8, .. few[1..]];
        return Make.Check(
            guide,
            Of(machine, "before", Make.Reading(guide, few)),
            Of(machine, after, Make.Reading(guide, more)),
            [new SlotChange(slot, new MemoryModule(MemorySize.Gigabytes(8), "DDR4", guide.Memory.Module)), .. drives]
        );
    }

    // The memory is another matter: it is as planned here.
    private static Reading Of(string machine, string folder, Reading memory)
    {
        var read = Read(machine, folder);
        return memory with { Drives = read.Drives, Arrays = read.Arrays, ArraysTold = read.ArraysTold };
    }

    private static Reading Read(string machine, string folder) =>
        CaptureDecoder.Decode([
            .. Directory
                .GetFiles(Repository.At("tests", "data", "drives", machine, folder))
                .Select(f => new CaptureFile(Path.GetFileName(f), File.ReadAllBytes(f))),
        ]);
}
