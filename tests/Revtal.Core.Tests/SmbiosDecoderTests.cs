using System.Buffers.Binary;
using System.Diagnostics;
using CsCheck;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Captures.Smbios;
using Revtal.Core.Hardware;
using Revtal.Dummies;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class SmbiosDecoderTests
{
    private const long Gigabyte = 1L << 30;

    [Fact]
    public void Reads_the_real_capture_before()
    {
        var reading = CaptureDecoder.Decode(Repository.Capture("vm-before-4g"));

        Assert.Equal([Source.FirmwareTables, Source.OperatingSystem], reading.Sources);
        Assert.Equal(new SystemIdentity("Norrland", "FJ14", "NF14-0417"), reading.System);
        Assert.Null(reading.Board);
        Assert.Equal(4 * Gigabyte, reading.Memory.InstalledBytes);
        Assert.Equal(4_009_404L * 1024, reading.Memory.UsableBytes);
        var slot = Assert.Single(reading.Memory.Slots);
        Assert.Equal(("SODIMM 0", "CHANNEL", 4 * Gigabyte), (slot.Locator, slot.Bank, slot.SizeBytes!.Value));
        Assert.Equal(
            ("RAM", "DIMM", 2666, 2666),
            (slot.Type, slot.FormFactor, slot.RatedSpeed!.Value, slot.RunningSpeed!.Value)
        );
        Assert.Equal(("Ostrava", "00A1B2C3", "OS4S-4G26"), (slot.Manufacturer, slot.Serial, slot.PartNumber));
        Assert.Null(slot.TotalWidth);
        Assert.Null(slot.DataWidth);
    }

    [Fact]
    public void Reads_the_real_capture_after()
    {
        var memory = CaptureDecoder.Decode(Repository.Capture("vm-after-20g")).Memory;

        Assert.Equal(20 * Gigabyte, memory.InstalledBytes);
        Assert.Equal(20 * Gigabyte, memory.MaxCapacityBytes);
        Assert.Equal(2, memory.SlotCount);
        Assert.Equal([16 * Gigabyte, 4 * Gigabyte], memory.Slots.Select(s => s.SizeBytes!.Value));
    }

    [Fact]
    public void Reads_the_table_alone_without_its_entry_point()
    {
        var file = Repository.Capture("vm-after-20g").Single(f => f.Name == "DMI");
        Assert.Equal(20 * Gigabyte, CaptureDecoder.Decode([file]).Memory.InstalledBytes);
    }

    [Fact]
    public void Reads_a_dump_that_holds_both()
    {
        var board = new DummyBoard(
            "Norrland",
            "NS13",
            "X1",
            "1.2",
            64 * 1024,
            [new("DIMM A", "BANK 0", 8192, 4800, 4400, "Tarnmoor", "AA", "TM-8S", 0x22), new("DIMM B", "BANK 1", 0)]
        );
        var reading = CaptureDecoder.Decode([new CaptureFile("dump.bin", FirmwareTables.Dump(board))]);

        Assert.Equal(
            (8 * Gigabyte, 64 * Gigabyte, 2),
            (
                reading.Memory.InstalledBytes!.Value,
                reading.Memory.MaxCapacityBytes!.Value,
                reading.Memory.SlotCount!.Value
            )
        );
        Assert.Equal(
            ("DDR5", "SODIMM", 4800, 4400, 64),
            (
                reading.Memory.Slots[0].Type,
                reading.Memory.Slots[0].FormFactor,
                reading.Memory.Slots[0].RatedSpeed!.Value,
                reading.Memory.Slots[0].RunningSpeed!.Value,
                reading.Memory.Slots[0].DataWidth!.Value
            )
        );
        Assert.Equal(0, reading.Memory.Slots[1].SizeBytes);
        Assert.Null(reading.Memory.Slots[1].Serial);
    }

    [Theory]
    [InlineData(0x0000, 0u, 0L)]
    [InlineData(0xFFFF, 0u, null)]
    [InlineData(0x4000, 0u, 16 * Gigabyte)]
    [InlineData(0x8400, 0u, 1L << 20)]
    [InlineData(0x7FFF, 0x8000u, 32 * Gigabyte)]
    [InlineData(0x7FFF, 0x8000_8000u, 32 * Gigabyte)]
    public void Reads_every_form_of_size(int word, uint extended, long? bytes) =>
        Assert.Equal(
            bytes,
            OneSlot(s =>
            {
                BinaryPrimitives.WriteUInt16LittleEndian(s[0x0C..], (ushort)word);
                BinaryPrimitives.WriteUInt32LittleEndian(s[0x1C..], extended);
            }).SizeBytes
        );

    [Theory]
    [InlineData(0x0000, 0u, null)]
    [InlineData(0x0C80, 0u, 3200)]
    [InlineData(0xFFFF, 70_000u, 70_000)]
    public void Reads_every_form_of_speed(int word, uint extended, int? speed) =>
        Assert.Equal(
            speed,
            OneSlot(
                s =>
                {
                    BinaryPrimitives.WriteUInt16LittleEndian(s[0x15..], (ushort)word);
                    BinaryPrimitives.WriteUInt32LittleEndian(s[0x54..], extended);
                },
                length: 0x5C
            ).RatedSpeed
        );

    [Fact]
    public void A_field_beyond_an_old_structure_is_unknown_not_zero()
    {
        // DSP0134 2.1: the structure ends before any speed.
        var slot = OneSlot(_ => { }, length: 0x15);
        Assert.Null(slot.RatedSpeed);
        Assert.Null(slot.RunningSpeed);
        Assert.Null(slot.Manufacturer);
    }

    [Fact]
    public void The_first_board_is_the_main_one_and_fillers_are_unknown()
    {
        byte[] main = [2, 8, 0, 2, 1, 2, 0, 3, .. "Quillon\0QB-4\0Not Specified\0\0"u8];
        byte[] riser = [2, 8, 1, 2, 1, 0, 0, 0, .. "Riser\0\0"u8];
        var reading = SmbiosDecoder.Decode([.. main, .. riser]);
        Assert.Equal(new BoardIdentity("Quillon", "QB-4", null), reading.Board);
        Assert.Null(reading.Memory.InstalledBytes);
    }

    [Fact]
    public void Memory_that_is_not_the_systems_is_left_out()
    {
        byte[] flashArray = [16, 15, 0, 0x20, 3, 5, 3, 0, 0x40, 0, 0, 0xFE, 0xFF, 1, 0, 0, 0];
        byte[] flash = Device(s =>
        {
            BinaryPrimitives.WriteUInt16LittleEndian(s[4..], 0x2000);
            BinaryPrimitives.WriteUInt16LittleEndian(s[0x0C..], 16);
        });
        var table = (byte[])
            [.. flashArray, .. flash, .. Repository.Capture("vm-before-4g").Single(f => f.Name == "DMI").Content.Span];
        var memory = SmbiosDecoder.Decode(table).Memory;
        Assert.Equal(4 * Gigabyte, memory.InstalledBytes);
        Assert.Single(memory.Slots);
    }

    [Fact]
    public void A_cut_table_is_told_not_half_read()
    {
        var capture = Repository.Capture("vm-after-20g");
        var entry = EntryPoint.Read(capture.Single(f => f.Name == "smbios_entry_point").Content.Span);
        var table = capture.Single(f => f.Name == "DMI").Content;
        for (var length = 0; length < table.Length; length += 7)
        {
            Assert.Equal(
                "tables-damaged",
                Assert.Throws<RefusedException>(() => SmbiosDecoder.Decode(table.Span[..length], entry)).Code
            );
        }
    }

    [Fact]
    public void Every_flipped_bit_of_an_entry_point_is_noticed()
    {
        var entry = Repository.Capture("vm-after-20g").Single(f => f.Name == "smbios_entry_point").Content.ToArray();
        foreach (var bit in Enumerable.Range(0, entry.Length * 8))
        {
            var broken = entry.ToArray();
            broken[bit / 8] ^= (byte)(1 << (bit % 8));
            Assert.Throws<RefusedException>(() => EntryPoint.Read(broken));
        }
    }

    [Fact]
    public void Any_mutation_of_real_tables_gives_a_reading_or_a_refusal_and_little_allocation()
    {
        byte[][] tables =
        [
            .. new[] { "vm-before-4g", "vm-after-20g" }.Select(n =>
                Repository.Capture(n).Single(f => f.Name == "DMI").Content.ToArray()
            ),
        ];
        Gen.Select(Gen.Int[0, 1], Gen.Int[0, 500].Array[1, 12], Gen.Byte.Array[12], Gen.Int[0, 519])
            .Sample(
                (which, places, values, cut) =>
                {
                    var bytes = tables[which].ToArray();
                    for (var i = 0; i < places.Length; i++)
                    {
                        bytes[places[i] % bytes.Length] = values[i];
                    }

                    return StaysSmall(bytes.AsSpan(0, Math.Min(bytes.Length, Math.Max(1, cut))).ToArray());
                },
                iter: 4_000,
                seed: "0N0XIzNsQ0O2"
            );
    }

    [Theory]
    [InlineData("zeros")]
    [InlineData("slots")]
    [InlineData("texts")]
    [InlineData("noise")]
    public void A_hostile_megabyte_stays_small_and_quick(string kind)
    {
        var bytes = new byte[1 << 20];
        switch (kind)
        {
            case "slots":
                var slot = Device(_ => { });
                for (var at = 0; at + slot.Length <= bytes.Length; at += slot.Length)
                {
                    slot.CopyTo(bytes, at);
                }

                break;
            case "texts":
                Device(s => s[0x10..0x1B].Fill(1)).AsSpan(0, 0x28).CopyTo(bytes);
                bytes.AsSpan(0x28).Fill((byte)'x');
                bytes[^1] = bytes[^2] = 0;
                break;
            case "noise":
                new Random(7).NextBytes(bytes);
                break;
        }

        Assert.True(StaysSmall(bytes));
    }

    [Fact]
    public void A_capture_larger_than_16_MB_is_refused() =>
        Assert.Equal(
            "capture-too-large",
            Assert
                .Throws<RefusedException>(() =>
                    CaptureDecoder.Decode([new CaptureFile("DMI", new byte[(16 << 20) + 1])])
                )
                .Code
        );

    [Fact]
    public void An_entry_point_alone_asks_for_its_table()
    {
        var entry = Repository.Capture("vm-after-20g").Single(f => f.Name == "smbios_entry_point");
        Assert.Equal("tables-missing", Assert.Throws<RefusedException>(() => CaptureDecoder.Decode([entry])).Code);
    }

    [Fact]
    public void Debians_table_decoder_reads_the_same_from_our_dummies()
    {
        var board = new DummyBoard(
            "Quillon",
            "QW80",
            "QW80-0305",
            "2.0",
            512 * 1024,
            [
                .. Enumerable
                    .Range(0, 8)
                    .Select(i => new DummySlot(
                        $"DIMM {i}",
                        $"BANK {i}",
                        i % 3 == 0 ? 0 : 8192L << (i % 4),
                        3200,
                        2933,
                        "Ostrava",
                        $"{i:X8}",
                        $"OS-{i}",
                        0x1A,
                        0x09
                    )),
            ]
        );
        var path = Path.GetTempFileName();
        File.WriteAllBytes(path, FirmwareTables.Dump(board));
        var theirs = Oracle("--from-dump", path, "-t", "17");
        var ours = CaptureDecoder.Decode(Documents.CaptureFolder.Read(path)).Memory.Slots;
        File.Delete(path);

        Assert.Equal(8, theirs.Count);
        foreach (var (t, o) in theirs.Zip(ours))
        {
            Assert.Equal(t["Locator"], o.Locator);
            Assert.Equal(t["Size"] == "No Module Installed" ? 0 : MemorySize.Parse(t["Size"]).Bytes, o.SizeBytes);
            if (o.SizeBytes > 0)
            {
                Assert.Equal(
                    (t["Serial Number"], t["Part Number"], t["Speed"], t["Configured Memory Speed"]),
                    (o.Serial, o.PartNumber, $"{o.RatedSpeed} MT/s", $"{o.RunningSpeed} MT/s")
                );
                Assert.Equal((t["Type"], t["Form Factor"]), (o.Type, o.FormFactor));
            }
        }
    }

    private static List<Dictionary<string, string>> Oracle(params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo("/usr/sbin/dmidecode", arguments) { RedirectStandardOutput = true }
        )!;
        var devices = new List<Dictionary<string, string>>();
        foreach (var line in process.StandardOutput.ReadToEnd().Split('\n'))
        {
            if (line == "Memory Device")
            {
                devices.Add([]);
            }
            else if (line.StartsWith('\t') && line.Split(": ", 2) is [var key, var value] && devices.Count > 0)
            {
                devices[^1][key.Trim()] = value.Trim();
            }
        }

        return devices;
    }

    private static bool StaysSmall(byte[] bytes)
    {
        var before = GC.GetAllocatedBytesForCurrentThread();
        try
        {
            SmbiosDecoder.Decode(bytes);
        }
        catch (RefusedException e)
        {
            Assert.NotEmpty(e.Message);
        }

        return GC.GetAllocatedBytesForCurrentThread() - before < 16 << 20;
    }

    private static SlotReading OneSlot(Set fill, int length = 0x28) =>
        Assert.Single(SmbiosDecoder.Decode(Device(fill, length)).Memory.Slots);

    private static byte[] Device(Set fill, int length = 0x28)
    {
        var s = new byte[Math.Max(length, 0x5C)];
        s[0] = 17;
        s[1] = (byte)length;
        fill(s);
        return [.. s[..length], (byte)'A', 0, 0];
    }

    private delegate void Set(Span<byte> structure);
}
