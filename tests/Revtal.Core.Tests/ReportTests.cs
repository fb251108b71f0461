using System.Buffers.Binary;
using System.Text;
using Revtal.Core.Captures;
using Revtal.Core.Captures.Smbios;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>
/// The reports of systems that do not run here, in the shapes that their own documentation gives: the management
/// classes of Windows by their property lists, the report of macOS by its keys. Values are those of the demo's
/// machines.
/// </summary>
public sealed class ReportTests
{
    private static readonly string Windows = Repository.Report("windows.json");

    private static readonly string Mac = Repository.Report("macos.json");

    private static readonly string Soldered = Repository.Report("macos-soldered.json");

    /// <summary>For damaging.</summary>
    public static IReadOnlyList<string> Shapes => [Windows, Mac, Soldered];

    [Fact]
    public void Windows_classes_give_modules_drives_limits_and_load()
    {
        var r = Decode(Windows);
        Assert.Equal(("Pellworm", "PW24", "PW24-7731"), (r.System.Manufacturer, r.System.Product, r.System.Serial));
        Assert.Equal(
            (16L << 30, 16654480L << 10, 64L << 30, 4),
            (r.Memory.InstalledBytes, r.Memory.UsableBytes, r.Memory.MaxCapacityBytes, r.Memory.SlotCount)
        );
        Assert.Equal(
            (490368L << 10, (16654480L - 6000000 + 490368) << 10),
            (r.Memory.PagedOutBytes, r.Memory.InUseBytes)
        );
        Assert.Equal(
            ("ChannelA-DIMM0", "SODIMM", "DDR4", 2666, 2400, "TM-8S"),
            (
                r.Memory.Slots[0].Locator,
                r.Memory.Slots[0].FormFactor,
                r.Memory.Slots[0].Type,
                r.Memory.Slots[0].RatedSpeed,
                r.Memory.Slots[0].RunningSpeed,
                r.Memory.Slots[0].PartNumber
            )
        );
        Assert.Equal(
            ("BS512-7", true, true, "sata", 300_000_000_000L, 2_097_664L),
            (
                r.Drives[0].Drive.Serial,
                r.Drives[0].Boots,
                r.Drives[0].Initialised,
                r.Drives[0].Transport,
                r.Drives[0].UsedBytes,
                r.Drives[0].SpareBytes
            )
        );
        Assert.Equal(
            (true, 9120, 12),
            (r.Drives[0].Health?.Passed, r.Drives[0].Health?.Hours, r.Drives[0].Health?.WearPercent)
        );
        Assert.Equal(
            (false, "nvme", false),
            (r.Drives[1].Initialised, r.Drives[1].Transport, r.Drives[1].Health?.Passed)
        );
        Assert.Equal(
            (true, 5400L, new DateTimeOffset(2026, 3, 2, 12, 0, 0, TimeSpan.Zero)),
            (r.Host?.Is64Bit, r.Host?.UpSeconds, r.Host?.TakenAt)
        );
        Assert.Equal(["the health of the drives: this system does not show it"], r.Missing);
    }

    [Fact]
    public void The_report_of_macos_gives_slots_drives_and_their_link()
    {
        var r = Decode(Mac);
        Assert.Equal(("Dun16,2", "DUN-0042", 16L << 30), (r.System.Product, r.System.Serial, r.Memory.InstalledBytes));
        Assert.Equal(
            ("BANK 0/ChannelA-DIMM0", 8L << 30, 2667, "TM-8S-26", "TAR1"),
            (
                r.Memory.Slots[0].Locator,
                r.Memory.Slots[0].SizeBytes,
                r.Memory.Slots[0].RunningSpeed,
                r.Memory.Slots[0].PartNumber,
                r.Memory.Slots[0].Manufacturer
            )
        );
        Assert.Equal((null, 0L), (r.Memory.Slots[1].Serial, r.Memory.Slots[2].SizeBytes));
        Assert.Equal(
            ("disk0", true, true, "PCIe 3.0 x2", 211_000_000_000L),
            (
                r.Drives[0].Device,
                r.Drives[0].Boots,
                r.Drives[0].Health?.Passed,
                r.Drives[0].Health?.LinkNow,
                r.Drives[0].UsedBytes
            )
        );
        Assert.Equal(
            ("Onboard", 8L << 30, "LPDDR4"),
            (
                Decode(Soldered).Memory.Slots[0].Locator,
                Decode(Soldered).Memory.Slots[0].SizeBytes,
                Decode(Soldered).Memory.Slots[0].Type
            )
        );
    }

    [Fact]
    public void The_collector_s_notes_tell_limits_links_and_what_was_left_out()
    {
        var notes = """
            revtal-notes/1
            system: Linux 6.1 x86_64
            bits: 32
            limit: mem=3G
            up: 61
            load: 0.42
            link: nvme0n1 8.0 2 16.0 4
            link: nvme9n1 7.9 2 16.0 4
            missing: firmware tables: only the administrator may read them
            color: blue
            """;
        var drives = """{"blockdevices":[{"name":"nvme0n1","type":"disk","size":1000204886016,"pttype":null}]}""";
        var r = CaptureDecoder.Decode([
            new("notes.txt", Encoding.UTF8.GetBytes(notes)),
            new("lsblk.json", Encoding.UTF8.GetBytes(drives)),
        ]);
        Assert.Equal(
            (false, "mem=3G", 3L << 30, 61L, 0.42m),
            (r.Host?.Is64Bit, r.Host?.Limit, r.Host?.LimitBytes, r.Host?.UpSeconds, r.Host?.Load)
        );
        var drive = Assert.Single(r.Drives);
        Assert.Equal(
            (1000204886016L, "PCIe 3.0 x2", "PCIe 4.0 x4"),
            (drive.Drive.Size.Bytes, drive.Health?.LinkNow, drive.Health?.LinkMost)
        );
        Assert.Equal(["firmware tables: only the administrator may read them"], r.Missing);
    }

    // DSP0134 7.5, 7.20 and 7.21: a processor without 64 bits, a mapped array, and a device's own range.
    [Fact]
    public void Processor_and_mapped_ranges_are_read()
    {
        byte[] Structure(byte type, ushort handle, int length, Action<byte[]> fill)
        {
            var s = new byte[length];
            (s[0], s[1]) = (type, (byte)length);
            BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(2), handle);
            fill(s);
            return [.. s, 0, 0];
        }

        byte[] table =
        [
            .. Structure(4, 0x400, 0x30, s => s[0x26] = 0x08),
            .. Structure(17, 0x1100, 0x28, s => BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(0x0C), 8192)),
            .. Structure(19, 0x1300, 0x1F, s => BinaryPrimitives.WriteUInt32LittleEndian(s.AsSpan(8), (4u << 20) - 1)),
            .. Structure(
                20,
                0x1400,
                0x23,
                s =>
                {
                    BinaryPrimitives.WriteUInt32LittleEndian(s.AsSpan(4), 0xFFFF_FFFF);
                    BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(0x0C), 0x1100);
                    BinaryPrimitives.WriteUInt64LittleEndian(s.AsSpan(0x1B), (4UL << 30) - 1);
                }
            ),
        ];
        var r = SmbiosDecoder.Decode(table);
        Assert.Equal(
            (false, 8L << 30, 4L << 30, 4L << 30),
            (r.Host?.Is64Bit, r.Memory.InstalledBytes, r.Memory.MappedBytes, r.Memory.Slots[0].MappedBytes)
        );
    }

    [Theory]
    [InlineData(
        """
            {"format":"revtal-windows/1","disk":{"Number":0,"Size":-5},
            "physicalMemory":{"Capacity":9223372036854775807}}
            """
    )]
    [InlineData("{\"SPMemoryDataType\":[{\"_items\":[{\"dimm_size\":\"99999999999 TB\"}]}]}")]
    public void Impossible_numbers_are_unknown(string json) =>
        Assert.All(Decode(json).Drives, d => Assert.True(d.Drive.Size.Bytes >= 0));

    private static Reading Decode(string json) =>
        CaptureDecoder.Decode([new CaptureFile("report.json", Encoding.UTF8.GetBytes(json))]);
}
