using System.Diagnostics;
using CsCheck;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Captures.Spd;
using Revtal.Core.Hardware;
using Revtal.Dummies;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>EEPROMs written from the standards, read by our decoder and by Debian's.</summary>
public sealed class SpdDecoderTests
{
    private static readonly DummyModule Ddr3 = new(3, 4, 8, 2, false, 3, 1600, "TM-8S3", 0x00C0FFEE, LowVoltage: true);
    private static readonly DummyModule Ddr4 = new(4, 8, 8, 2, false, 3, 3200, "OS4S-16G32", 0x00D4E5F6);
    private static readonly DummyModule Ddr5 = new(
        5,
        16,
        8,
        1,
        false,
        3,
        5600,
        "OS5S-16G",
        0x12345678,
        25,
        31,
        3,
        0x25
    );

    // Size: die / 8 × bus / chip × ranks; the cases are modules as they are sold.
    public static TheoryData<int, int, int, int, bool, byte, int, int, string> Sold =>
        new()
        {
            { 3, 2, 8, 1, false, 2, 1333, 2, "UDIMM" },
            { 3, 4, 8, 2, true, 2, 1600, 8, "UDIMM" },
            { 3, 8, 4, 2, true, 1, 1866, 32, "RDIMM" },
            { 3, 4, 8, 1, false, 3, 1066, 4, "SO-DIMM" },
            { 4, 8, 8, 1, false, 3, 2666, 8, "SO-DIMM" },
            { 4, 8, 16, 1, false, 3, 2400, 4, "SO-DIMM" },
            { 4, 16, 8, 2, true, 2, 2933, 32, "UDIMM" },
            { 4, 16, 4, 2, true, 1, 3200, 64, "RDIMM" },
        };

    // Debian's decoder does not know this generation yet.
    public static TheoryData<int, int, int, int, bool, byte, int, int, string> Newest =>
        new()
        {
            { 5, 16, 8, 1, false, 3, 4800, 16, "SO-DIMM" },
            { 5, 24, 8, 2, false, 2, 6400, 48, "UDIMM" },
            { 5, 16, 16, 1, false, 3, 5600, 8, "SO-DIMM" },
            { 5, 32, 4, 2, true, 1, 4800, 128, "RDIMM" },
        };

    [Theory]
    [MemberData(nameof(Sold))]
    [MemberData(nameof(Newest))]
    public void A_module_tells_what_it_is(
        int generation,
        int die,
        int chip,
        int ranks,
        bool ecc,
        byte kind,
        int speed,
        int gigabytes,
        string form
    )
    {
        var module = SpdDecoder.Decode(
            ModuleEeprom.Write(new DummyModule(generation, die, chip, ranks, ecc, kind, speed, "PART-1", 0xA1B2C3D4))
        );
        Assert.Equal(
            ($"DDR{generation}", form, MemorySize.Gigabytes(gigabytes).Bytes),
            (module.Type, module.Form!, module.SizeBytes!.Value)
        );
        Assert.Equal(
            (ranks, chip, 64, ecc, kind == 1, speed),
            (
                module.Ranks!.Value,
                module.DeviceWidth!.Value,
                module.BusWidth!.Value,
                module.Ecc,
                module.Registered,
                module.SpeedMTs!.Value
            )
        );
        Assert.Equal(
            ("PART-1", "A1B2C3D4", "2024-W07", 1, 0x4E, true),
            (
                module.PartNumber!,
                module.Serial!,
                module.Made!,
                module.MakerBank!.Value,
                module.MakerCode!.Value,
                module.CrcValid
            )
        );
    }

    [Fact]
    public void Voltage_and_maker_are_told()
    {
        Assert.Equal(
            ("DDR3L", 1.35m),
            (SpdDecoder.Decode(ModuleEeprom.Write(Ddr3)) is var low ? (low.Type, low.Voltage!.Value) : default)
        );
        Assert.Equal(
            ("DDR3", 1.5m),
            (
                SpdDecoder.Decode(ModuleEeprom.Write(Ddr3 with { LowVoltage = false })) is var full
                    ? (full.Type, full.Voltage!.Value)
                    : default
            )
        );
        var five = SpdDecoder.Decode(ModuleEeprom.Write(Ddr5));
        Assert.Equal(
            (1.1m, 3, 0x25, "2025-W31"),
            (five.Voltage!.Value, five.MakerBank!.Value, five.MakerCode!.Value, five.Made!)
        );
        Assert.Equal(MemorySize.Gigabytes(16), five.Module()!.Size);
    }

    // Debian's own decoder reads the same bytes and must say the same.
    [Theory]
    [MemberData(nameof(Sold))]
    public async Task Debians_decoder_agrees(
        int generation,
        int die,
        int chip,
        int ranks,
        bool ecc,
        byte kind,
        int speed,
        int gigabytes,
        string form
    )
    {
        _ = form;
        var path = Path.GetTempFileName();
        var rom = ModuleEeprom.Write(
            new DummyModule(generation, die, chip, ranks, ecc, kind, speed, "PART-1", 0xA1B2C3D4)
        );
        await File.WriteAllTextAsync(
            path,
            string.Concat(
                rom.Chunk(16).Select((row, i) => $"{i * 16:x8}  {string.Join(' ', row.Select(b => $"{b:x2}"))}\n")
            )
        );
        using var process = Process.Start(
            new ProcessStartInfo("decode-dimms", ["-x", path])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var told = await process.StandardOutput.ReadToEndAsync();
        File.Delete(path);
        Assert.Contains($"DDR{generation}", told, StringComparison.Ordinal);
        Assert.Matches($@"Size +{gigabytes * 1024} MB", told);
        Assert.Contains("OK (0x", told, StringComparison.Ordinal);
        Assert.Matches(@"Part Number +PART-1", told);
        Assert.Matches($@"Ranks +{ranks}", told);
        Assert.Matches($@"SDRAM Device Width +{chip} bits", told);
        Assert.Matches($@"Maximum module speed +{speed} MT/s", told);
    }

    [Fact]
    public void A_flipped_bit_is_found_by_the_checksum()
    {
        foreach (var module in new[] { Ddr3, Ddr4, Ddr5 })
        {
            Gen.Int[4, 100]
                .Select(Gen.Int[0, 7])
                .Sample(
                    (at, bit) =>
                    {
                        var rom = ModuleEeprom.Write(module);
                        rom[at] ^= (byte)(1 << bit);
                        Assert.False(SpdDecoder.Decode(rom).CrcValid);
                    },
                    iter: 200,
                    threads: 1
                );
        }
    }

    [Fact]
    public void Any_bytes_give_a_module_or_a_clear_error() =>
        Gen.Select(
                Gen.Int[0, 2].Select(i => new[] { Ddr3, Ddr4, Ddr5 }[i]),
                Gen.Select(Gen.Int[0, 1023], Gen.Byte).Array[0, 40]
            )
            .Sample(
                (module, changes) =>
                {
                    var rom = ModuleEeprom.Write(module);
                    foreach (var (at, value) in changes)
                    {
                        rom[at % rom.Length] = value;
                    }

                    try
                    {
                        var read = SpdDecoder.Decode(rom);
                        Assert.True(read.SizeBytes is null or > 0 and < 1L << 50);
                        _ = read.Module();
                    }
                    catch (RefusedException e)
                    {
                        Assert.Equal("spd-unknown", e.Code);
                    }
                },
                iter: 5_000,
                threads: 1
            );

    [Fact]
    public void EEPROMs_are_part_of_a_capture()
    {
        var files = Repository
            .Capture("vm-before-4g")
            .Append(new CaptureFile("spd-0", ModuleEeprom.Write(Ddr4)))
            .ToArray();
        var reading = CaptureDecoder.Decode(files);
        Assert.Equal([Source.FirmwareTables, Source.OperatingSystem, Source.ModuleEeprom], reading.Sources);
        Assert.Equal("OS4S-16G32", reading.Modules.Single().PartNumber);
        var two = CaptureDecoder.Decode([new("a", ModuleEeprom.Write(Ddr4)), new("b", ModuleEeprom.Write(Ddr5))]);
        Assert.Equal(["DDR4", "DDR5"], two.Modules.Select(m => m.Type));
        Assert.Equal("spd-unknown", Assert.Throws<RefusedException>(() => SpdDecoder.Decode(new byte[256])).Code);
    }
}
