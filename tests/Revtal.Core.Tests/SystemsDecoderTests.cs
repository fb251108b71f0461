using System.Diagnostics;
using System.Text;
using CsCheck;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What operating systems report, in the shapes in which their commands write it.</summary>
public sealed class SystemsDecoderTests
{
    private const string Laptop = """
        {"blockdevices": [
          {"name":"zram0","type":"disk","size":8000000000,"model":null,"serial":null,"tran":null,"log-sec":4096,
            "pttype":null,"fsused":null,"mountpoints":["[SWAP]"]},
          {"name":"nvme0n1","type":"disk","size":500107862016,"model":"Basaltine BN-500 ","serial":"BN500-771",
            "tran":"nvme","log-sec":512,"pttype":"gpt","fsused":null,"mountpoints":[null],
           "children":[
             {"name":"nvme0n1p1","type":"part","size":536870912,"fsused":6000000,"mountpoints":["/boot/efi"]},
             {"name":"nvme0n1p2","type":"part","size":499000000000,"fsused":null,"mountpoints":[null],
              "children":[{"name":"crypt","type":"crypt","size":499000000000,"fsused":212000000000,"mountpoints":["/","/home"]}]}]},
          {"name":"sda","type":"disk","size":"1000204886016","model":"Basaltine BS-1T","serial":"BS1T-004",
            "tran":"sata","log-sec":512,"pttype":null,"fsused":null,"mountpoints":[null]},
          {"name":"sr0","type":"rom","size":1000,"model":"x","serial":"y"}
        ]}
        """;

    private const string Ata = """
        {"json_format_version":[1,0],"smartctl":{"version":[7,3],"exit_status":0},"device":{"name":"/dev/sda",
          "type":"sat","protocol":"ATA"},
         "model_name":"Basaltine BS-1T","serial_number":"BS1T-004","user_capacity":{"blocks":1953525168,"bytes":1000204886016},"logical_block_size":512,
         "form_factor":{"ata_value":3,"name":"2.5 inches"},"interface_speed":{"max":{"sata_value":14,"string":"6.0 Gb/s"},"current":{"sata_value":2,"string":"3.0 Gb/s"}},
         "smart_status":{"passed":true},"power_on_time":{"hours":17520},"temperature":{"current":34},
         "ata_smart_attributes":{"table":[
           {"id":5,"name":"Reallocated_Sector_Ct","raw":{"value":8,"string":"8"}},{"id":187,
             "name":"Reported_Uncorrect","raw":{"value":281474976710658,"string":"2"}},
           {"id":197,"name":"Current_Pending_Sector","raw":{"value":0,"string":"0"}}]}}
        """;

    private const string Nvme = """
        {"smartctl":{"version":[7,3],"exit_status":0},"device":{"name":"/dev/nvme0n1","type":"nvme",
          "protocol":"NVMe"},"model_name":"Basaltine BN-500","serial_number":"BN500-771",
         "user_capacity":{"bytes":500107862016},"logical_block_size":512,"smart_status":{"passed":false},"temperature":{"current":41},"power_on_time":{"hours":2100},
         "nvme_smart_health_information_log":{"critical_warning":1,"available_spare":4,"percentage_used":103,"media_errors":17}}
        """;

    // As md(4) writes it while one drive of six is rebuilt, with a mirror that rests.
    private const string Arrays = """
        Personalities : [raid1] [raid6] [raid5] [raid4]
        md1 : active raid5 sdf1[6] sda1[0] sdb1[1] sdd1[3] sde1[4] sdc1[5]
              39065219840 blocks super 1.2 level 5, 512k chunk, algorithm 2 [6/5] [UU_UUU]
              [==>..................]  recovery = 12.6% (984512000/7813043968) finish=612.5min speed=185803K/sec
              bitmap: 4/59 pages [16KB], 65536KB chunk

        md0 : active raid1 sdg1[0] sdh1[1]
              976630464 blocks super 1.2 [2/2] [UU]

        md127 : inactive sdi1[0](S)
              976630464 blocks super 1.2

        unused devices: <none>
        """;

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
                drives[0].Drive.PartNumber!,
                drives[0].Drive.SectorSize!.Value
            )
        );
        // Raw: no table, no file system, nothing mounted. Older tools write numbers as text.
        Assert.Equal(
            (DriveSize.Sold(1000).Bytes, null, null, false),
            (drives[1].Drive.Size.Bytes, drives[1].UsedBytes, drives[1].Boots, drives[1].Initialised!.Value)
        );
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
        var wide =
            $$"""{"blockdevices":[{{string.Join(',', Enumerable.Repeat("""{"name":"sda","type":"disk","size":1000}""", 1_000))}}]}""";
        Assert.Equal("drives-too-many", Assert.Throws<RefusedException>(() => Decode(("wide.json", wide))).Code);
        var huge =
            """{"blockdevices":[{"name":"sda","type":"disk","size":9223372036854775807,"fsused":9223372036854775807,"children":[{"fsused":9223372036854775807}]}]}""";
        Assert.Equal(long.MaxValue, Decode(("huge.json", huge)).Drives.Single().UsedBytes);
    }

    private static Reading Decode(params (string Name, string Text)[] files) =>
        CaptureDecoder.Decode([.. files.Select(f => new CaptureFile(f.Name, Encoding.UTF8.GetBytes(f.Text)))]);
}
