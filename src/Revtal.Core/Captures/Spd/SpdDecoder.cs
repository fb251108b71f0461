using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Spd;

/// <summary>
/// Module EEPROMs: DDR3 (JESD21-C 4.1.2.11), DDR4 (JESD21-C 4.1.2.L) and DDR5 (JESD400-5). Any bytes give a module or a
/// clear error.
/// </summary>
public static class SpdDecoder
{
    private const byte Ddr3 = 0x0B,
        Ddr4 = 0x0C,
        Ddr5 = 0x12;

    private static readonly string?[] Ddr3Forms =
    [
        null,
        "RDIMM",
        "UDIMM",
        "SO-DIMM",
        "Micro-DIMM",
        "Mini-RDIMM",
        "Mini-UDIMM",
        "Mini-CDIMM",
        "SO-UDIMM",
        "SO-RDIMM",
        "SO-CDIMM",
        "LRDIMM",
    ];
    private static readonly string?[] Ddr4Forms =
    [
        null,
        "RDIMM",
        "UDIMM",
        "SO-DIMM",
        "LRDIMM",
        "Mini-RDIMM",
        "Mini-UDIMM",
        null,
        "SO-RDIMM",
        "SO-UDIMM",
        null,
        null,
        "SO-DIMM",
        "SO-DIMM",
    ];
    private static readonly string?[] Ddr5Forms =
    [
        null,
        "RDIMM",
        "UDIMM",
        "SO-DIMM",
        "LRDIMM",
        "CUDIMM",
        "CSO-DIMM",
        "MRDIMM",
        "CAMM2",
    ];

    // Megabits of one die, by the code that stands for it.
    private static readonly int[] Ddr3Dies = [256, 512, 1024, 2048, 4096, 8192, 16384];
    private static readonly int[] Ddr4Dies = [256, 512, 1024, 2048, 4096, 8192, 16384, 32768, 12288, 24576];
    private static readonly int[] Ddr5Dies = [0, 4096, 8192, 12288, 16384, 24576, 32768, 49152, 65536];
    private static readonly int[] Ddr5Stack = [1, 2, 2, 4, 8, 16];

    /// <summary>
    /// Whether the bytes are an EEPROM of one of these generations: its length, its key byte, and a plausible first
    /// byte.
    /// </summary>
    public static bool IsAt(ReadOnlySpan<byte> bytes) =>
        bytes.Length is 256 or 512 or 1024
        && bytes[2] switch
        {
            Ddr3 => (bytes[0] & 0x0F) is 1 or 2 or 3,
            Ddr4 => bytes.Length >= 512 && (bytes[0] & 0x0F) is >= 1 and <= 4,
            Ddr5 => bytes.Length == 1024 && (bytes[0] & 0x8F) == 0,
            _ => false,
        };

    /// <exception cref="RefusedException">The bytes are no EEPROM of a known generation.</exception>
    public static SpdModule Decode(ReadOnlySpan<byte> bytes) =>
        !IsAt(bytes)
            ? throw RefusedException.Invalid(
                "spd-unknown",
                "The bytes are no module EEPROM of DDR3, DDR4 or DDR5 (256, 512 or 1024 bytes, with the generation's "
                    + "key). Copy the whole file again."
            )
            : bytes[2] switch
            {
                Ddr3 => OfDdr3(new SpdBytes(bytes)),
                Ddr4 => OfDdr4(new SpdBytes(bytes)),
                _ => OfDdr5(new SpdBytes(bytes)),
            };

    private static SpdModule OfDdr3(SpdBytes s)
    {
        var (ranks, device, bus) = (Ranks3(s.Bits(7, 3, 3)), Width(s.Bits(7, 0, 3)), 8 << s.Bits(8, 0, 3));
        // Byte 6: bit 0 stands when 1.5 V does not do.
        var voltage =
            s.Bits(6, 2, 1) == 1 ? 1.25m
            : s.Bits(6, 1, 1) == 1 ? 1.35m
            : 1.5m;
        var (bank, code) = s.Maker(117);
        return new SpdModule(
            voltage < 1.5m ? "DDR3L" : "DDR3",
            At(Ddr3Forms, s.Bits(3, 0, 4)),
            Size(At(Ddr3Dies, s.Bits(4, 0, 4)), bus, device, ranks),
            ranks,
            device,
            bus,
            s.Bits(8, 3, 2) == 1,
            s.Bits(3, 0, 4) is 1 or 5 or 9 or 11,
            // The medium timebase is a fraction of a nanosecond that the bytes themselves name.
            s[11] == 0
                ? null
                : Grade('3', (s[12] * 1000m * s[10] / s[11]) + (s.Signed(34) * Fine3(s[9]))),
            voltage,
            s.Text(128, 18),
            s.Serial(122),
            s.Made(120),
            bank,
            code,
            s.CrcHolds(s.Bits(0, 7, 1) == 1 ? 117 : 126, 126)
        );
    }

    private static SpdModule OfDdr4(SpdBytes s)
    {
        var (ranks, device, bus) = (s.Bits(12, 3, 3) + 1, Width(s.Bits(12, 0, 3)), 8 << s.Bits(13, 0, 3));
        // Stacked with a single load, each die is a rank of its own.
        var dies = s.Bits(6, 7, 1) == 1 && s.Bits(6, 0, 2) == 2 ? s.Bits(6, 4, 3) + 1 : 1;
        var (bank, code) = s.Maker(320);
        return new SpdModule(
            "DDR4",
            At(Ddr4Forms, s.Bits(3, 0, 4)),
            Size(At(Ddr4Dies, s.Bits(4, 0, 4)), bus, device, ranks * dies),
            ranks,
            device,
            bus,
            s.Bits(13, 3, 2) == 1,
            s.Bits(3, 0, 4) is 1 or 4 or 5 or 8,
            Grade('4', (s[18] * 125m) + s.Signed(125)),
            1.2m,
            s.Text(329, 20),
            s.Serial(325),
            s.Made(323),
            bank,
            code,
            s.CrcHolds(126, 126) && s.CrcHolds(128, 126, 254)
        );
    }

    private static SpdModule OfDdr5(SpdBytes s)
    {
        var (ranks, device, sub) = (s.Bits(234, 3, 3) + 1, Width(s.Bits(6, 5, 3)), 8 << s.Bits(235, 0, 3));
        var channels = 1 << s.Bits(235, 5, 2);
        // Two dies in one package widen it (DDP); in a 3DS stack each is a rank of its own. Either way each adds its
        // size.
        var dies = At(Ddr5Stack, s.Bits(4, 5, 3));
        var (bank, code) = s.Maker(512);
        return new SpdModule(
            "DDR5",
            At(Ddr5Forms, s.Bits(3, 0, 4)),
            Size(At(Ddr5Dies, s.Bits(4, 0, 5)), sub * channels, device, ranks * (dies > 0 ? dies : 1)),
            ranks,
            device,
            sub * channels,
            s.Bits(235, 3, 2) is 1 or 2,
            s.Bits(3, 0, 4) is 1 or 4 or 7,
            Grade('5', s.Word(20)),
            1.1m,
            s.Text(521, 30),
            s.Serial(517),
            s.Made(515),
            bank,
            code,
            s.CrcHolds(510, 510)
        );
    }

    private static long? Size(int megabits, int bus, int? device, int? ranks) =>
        megabits > 0 && device is > 0 and { } d && ranks is > 0 and { } r && bus >= d
            ? (long)megabits * (1 << 20) / 8 * bus / d * r
            : null;

    private static int? Width(int code) => code <= 3 ? 4 << code : null;

    private static int? Ranks3(int code) =>
        code switch
        {
            <= 3 => code + 1,
            4 => 8,
            _ => null,
        };

    private static decimal Fine3(byte base9) => (base9 & 15) == 0 ? 0 : (decimal)(base9 >> 4) / (base9 & 15);

    private static T? At<T>(T[] table, int index) => index < table.Length ? table[index] : default;

    // Cycle times are rounded, so a grade reads a little off; the grades of one generation lie further apart than this.
    private const decimal CycleRounding = 0.02m;

    // The standards' grade whose cycle time this is, to the rounding that they allow; the number itself where no grade
    // is near.
    private static int? Grade(char generation, decimal picoseconds)
    {
        if (picoseconds is <= 50 or > 10_000)
        {
            return null;
        }

        var exact = 2_000_000m / picoseconds;
        var near = MemoryGrade.Standard[generation].MinBy(g => Math.Abs(g - exact));
        return Math.Abs(near - exact) <= near * CycleRounding ? near : (int)exact;
    }
}
