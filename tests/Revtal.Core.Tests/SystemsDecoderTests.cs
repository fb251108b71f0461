using System.Diagnostics;
using System.Text;
using CsCheck;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Captures.Systems;
using Revtal.Core.Hardware;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What operating systems report, in the shapes in which their commands write it.</summary>
public sealed class SystemsDecoderTests
{
    private static readonly string Laptop = Repository.Report("lsblk.json");

    private static readonly string Ata = Repository.Report("health-ata.json");

    private static readonly string Nvme = Repository.Report("health-nvme.json");

    // As md(4) writes it while one drive of six is rebuilt, with a mirror that rests.
    private static readonly string Arrays = Repository.Report("mdstat.txt");

    [Fact]
    public void Drives_are_listed_with_what_is_used_and_which_one_boots()
    {
        var drives = Decode(("lsblk.json", Laptop)).Drives;
        Assert.Equal(["nvme0n1", "sda"], drives.Select(d => d.Device!));
        Assert.Equal(
            (500_107_862_016, 212_006_000_000, true, "nvme", true, "Basaltine BN-500", 512),
            (
                drives[0].Drive.Size.Bytes,
                drives[0].UsedBytes!.Value,
                drives[0].Boots!.Value,
                drives[0].Transport!,
                drives[0].Initialised!.Value,
                drives[0].Drive.PartNumber.ToString()!,
                drives[0].Drive.SectorSize!.Value
            )
        );
        // Raw: no table, no file system, nothing mounted. Older tools write numbers as text.
        Assert.Equal(
            (DriveSize.Sold(1000).Bytes, null, null, false),
            (drives[1].Drive.Size.Bytes, drives[1].UsedBytes, drives[1].Boots, drives[1].Initialised!.Value)
        );
    }

    [Theory]
    [InlineData("\\u001b]0;owned\\u0007", "?]0;owned?")]
    [InlineData("BN\\u202e005-\\u202c", "BN?005-?")]
    [InlineData("two\\u2028lines", "two?lines")]
    public void What_a_drive_calls_itself_gives_no_orders_to_whatever_shows_it(string model, string shown)
    {
        var drives = Decode(("lsblk.json", Laptop.Replace("Basaltine BN-500", model, StringComparison.Ordinal))).Drives;
        Assert.Equal(shown, drives[0].Drive.PartNumber.ToString());
    }

    [Fact]
    public void An_ATA_drive_tells_its_health_and_its_link()
    {
        var drive = Decode(("smartctl-sda.json", Ata)).Drives.Single();
        Assert.Equal(
            ("BS1T-004", "2.5 in", "SATA 6 Gb/s", "sda"),
            (drive.Drive.Serial!, drive.Drive.Form!, drive.Drive.Link!, drive.Device!)
        );
        Assert.Equal(
            new DriveHealth(true, 17_520, null, null, 34, 8, 2, 0, "SATA 3 Gb/s", "SATA 6 Gb/s"),
            drive.Health
        );
    }

    [Fact]
    public void An_NVMe_drive_tells_its_wear() =>
        Assert.Equal(
            new DriveHealth(false, 2_100, 103, 4, 41, null, 17, null, null, null),
            Decode(("smartctl-nvme.json", Nvme)).Drives.Single().Health
        );

    [Fact]
    public void List_and_health_of_one_drive_are_one_drive_and_eyes_add_its_bay()
    {
        var reading = Decode(("lsblk.json", Laptop), ("a.json", Ata), ("n.json", Nvme));
        Assert.Equal(["BN500-771", "BS1T-004"], reading.Drives.Select(d => d.Drive.Serial!));
        Assert.Equal((103, "nvme"), (reading.Drives[0].Health!.WearPercent!.Value, reading.Drives[0].Transport!));
        var eyes = EyeReading.Make(
            null,
            null,
            [],
            null,
            [new SeenDrive("D1", new Drive(DriveSize.Parse("500 GB"), "M.2 2280", "M", Serial: "BN500-771"))]
        );
        var joined = Reading.Join(reading, eyes);
        Assert.Equal((2, "D1", "M.2 2280"), (joined.Drives.Count, joined.Drives[0].Bay!, joined.Drives[0].Drive.Form!));
        Assert.Equal([Source.OperatingSystem, Source.Eyes], joined.Sources);
    }

    [Fact]
    public void Arrays_tell_what_is_missing_and_how_far_they_are()
    {
        var arrays = Decode(("mdstat", Arrays)).Arrays;
        Assert.Equal(["md1", "md0", "md127"], arrays.Select(a => a.Name));
        Assert.Equal(
            ("raid5", 6, 5, true, "recovery", 12.6m, 612.5m),
            (
                arrays[0].Level!,
                arrays[0].Wanted!.Value,
                arrays[0].Present!.Value,
                arrays[0].IsDegraded,
                arrays[0].Doing!,
                arrays[0].Percent!.Value,
                arrays[0].MinutesLeft!.Value
            )
        );
        Assert.Equal(
            (false, null, true, false),
            (arrays[1].IsDegraded, arrays[1].Doing, arrays[1].Active, arrays[2].Active)
        );
        Assert.Empty(Decode(("mdstat", "Personalities : \nunused devices: <none>\n")).Arrays);
    }

    [Theory]
    [InlineData("resync=PENDING", "resync", ArrayWait.Pending)]
    [InlineData("  recovery=DELAYED", "recovery", ArrayWait.Delayed)]
    public void An_array_that_has_yet_to_begin_says_why(string line, string doing, ArrayWait why)
    {
        var array = Assert.Single(
            Decode(
                (
                    "mdstat",
                    "Personalities : [raid1]\nmd0 : active (auto-read-only) raid1 sdb1[1](S) sda1[0]\n"
                        + $"      976630464 blocks super 1.2 [2/2] [UU]\n      {line}\n"
                )
            ).Arrays
        );
        Assert.Equal((doing, why, null), (array.Doing, array.Waits!.Value, array.Percent));
        Assert.Equal([new ArrayMember("sdb1", IsSpare: true), new ArrayMember("sda1")], array.Members);
    }

    // Sizes as text or null, the boot areas of flash, one NVMe drive in two namespaces.
    [Fact]
    public void What_a_list_says_otherwise_is_read_or_told_and_never_dropped()
    {
        var reading = Decode(
            (
                "lsblk.json",
                """
                {"blockdevices": [
                  {"name": "nvme0n1", "type": "disk", "size": "500107862016", "serial": "BN-1", "tran": "nvme"},
                  {"name": "nvme0n2", "type": "disk", "size": 500107862016, "serial": "BN-1", "tran": "nvme"},
                  {"name": "mmcblk0", "type": "disk", "size": 62537072640},
                  {"name": "mmcblk0boot0", "type": "disk", "size": 4194304},
                  {"name": "sdb", "type": "disk", "size": null, "serial": "BH-2"}
                ]}
                """
            )
        );
        Assert.Equal(
            [("nvme0n1", 1_000_215_724_032), ("mmcblk0", 62_537_072_640)],
            reading.Drives.Select(d => (d.Device!, d.Drive.Size.Bytes))
        );
        Assert.Equal(["the size of sdb: the system gives none"], reading.Missing);
    }

    [Fact]
    public void A_health_report_without_a_drive_does_not_cost_the_capture()
    {
        var reading = Decode(
            ("lsblk.json", Laptop),
            ("health-sdz.json", """{"smartctl":{"messages":[{"string":"Permission denied"}]}}""")
        );
        Assert.Equal(2, reading.Drives.Count);
        Assert.Contains("Permission denied", Assert.Single(reading.Missing), StringComparison.Ordinal);
    }

    // The raw value of 48 bits carries more than the count; what the tool prints begins with the count.
    [Theory]
    [InlineData("""{"value": 70000, "string": "70000"}""", 70_000)]
    [InlineData("""{"value": 64424509448, "string": "8 (0 15)"}""", 8)]
    public void Counts_of_a_health_report_are_not_cut(string raw, int count)
    {
        var report = $$"""
            {"smartctl": {}, "user_capacity": {"bytes": 1000204886016},
             "ata_smart_attributes": {"table": [{"id": 5, "raw": {{raw}} } ] } }
            """;
        Assert.Equal(count, Assert.Single(Decode(("x.json", report)).Drives).Health!.Reallocated);
    }

    // One set: the bay was seen, the rest was captured; and where no drive of that size is, both are kept.
    [Fact]
    public void A_bay_that_was_seen_and_a_drive_that_was_listed_are_one_where_only_one_is_meant()
    {
        var listed = Decode(("lsblk.json", Laptop));
        var seen = EyeReading.Make(null, null, [], null, [new SeenDrive("D1", new Drive(DriveSize.Parse("500 GB")))]);
        var joined = Reading.Join(seen, listed);
        var drive = Assert.Single(joined.Drives, d => d.Bay == "D1");
        Assert.Equal(("nvme0n1", 500_107_862_016), (drive.Device!, drive.Drive.Size.Bytes));
        var other = EyeReading.Make(null, null, [], null, [new SeenDrive("D1", new Drive(DriveSize.Parse("4 TB")))]);
        Assert.Equal(3, Reading.Join(other, listed).Drives.Count);
    }

    [Theory]
    [InlineData("{\"blockdevices\": [", "json-broken")]
    [InlineData("{\"something\": 1}", "json-unknown")]
    [InlineData("[1, 2]", "json-unknown")]
    [InlineData("""{"smartctl":{"exit_status":2,"messages":[{"string":"Permission denied"}]}}""", "health-empty")]
    public void What_cannot_be_used_says_so(string text, string code) =>
        Assert.Equal(code, Assert.Throws<RefusedException>(() => Decode(("x.json", text))).Code);

    [Fact]
    public async Task This_machines_own_list_is_read()
    {
        using var process = Process.Start(
            new ProcessStartInfo(
                "lsblk",
                ["--json", "--bytes", "-o", "NAME,TYPE,SIZE,MODEL,SERIAL,TRAN,LOG-SEC,PTTYPE,FSTYPE,FSUSED,MOUNTPOINTS"]
            )
            {
                RedirectStandardOutput = true,
            }
        )!;
        var text = await process.StandardOutput.ReadToEndAsync();
        Assert.All(
            Decode(("lsblk.json", text)).Drives,
            d => Assert.True(d is { Device.Length: > 0, Drive.Size.Bytes: > 0 })
        );
    }

    [Fact]
    public void Mutilated_text_gives_a_reading_or_a_clear_error() =>
        Gen.Select(
                Gen.Int[0, 3].Select(i => new[] { Laptop, Ata, Nvme, Arrays }[i]),
                Gen.Select(Gen.Int[0, 5_000], Gen.Char[' ', '~']).Array[0, 12],
                Gen.Int[0, 5_000]
            )
            .Sample(
                (text, changes, cut) =>
                {
                    var chars = text.ToCharArray();
                    foreach (var (at, c) in changes)
                    {
                        chars[at % chars.Length] = c;
                    }

                    try
                    {
                        var reading = Decode(("x", new string(chars, 0, Math.Min(chars.Length, cut + 20))));
                        Assert.True(reading.Drives.Count <= 256 && reading.Arrays.Count <= 64);
                    }
                    catch (RefusedException e)
                    {
                        Assert.NotEmpty(e.Message);
                    }
                },
                iter: 3_000,
                threads: 1
            );

    [Fact]
    public void Hostile_depth_and_width_are_bounded()
    {
        Assert.Equal(
            "json-broken",
            Assert
                .Throws<RefusedException>(() => Decode(("deep.json", string.Concat(Enumerable.Repeat("[", 100_000)))))
                .Code
        );
        var wide = $$"""{"blockdevices":[{{Repeated("""{"name":"sda","type":"disk","size":1000}""", 1_000)}}]}""";
        Assert.Equal("drives-too-many", Assert.Throws<RefusedException>(() => Decode(("wide.json", wide))).Code);
        var huge = """
            {"blockdevices":[{"name":"sda","type":"disk","size":9223372036854775807,"fsused":9223372036854775807,
            "children":[{"fsused":9223372036854775807}]}]}
            """;
        Assert.Equal(long.MaxValue, Decode(("huge.json", huge)).Drives.Single().UsedBytes);
    }

    private static Reading Decode(params (string Name, string Text)[] files) =>
        CaptureDecoder.Decode([.. files.Select(f => new CaptureFile(f.Name, Encoding.UTF8.GetBytes(f.Text)))]);

    private static string Repeated(string item, int times) => string.Join(',', Enumerable.Repeat(item, times));
}
