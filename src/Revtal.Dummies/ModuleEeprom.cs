using System.Buffers.Binary;
using System.Text;

namespace Revtal.Dummies;

/// <summary>A simulated module, as its maker would programme it.</summary>
/// <param name="Generation">3, 4 or 5.</param>
/// <param name="DieGigabits">Of one chip.</param>
/// <param name="ChipWidth">4, 8 or 16 bits.</param>
/// <param name="KindCode">The standard's module type code: 1 registered, 2 unbuffered, 3 small outline.</param>
/// <param name="Speed">In MT/s, a grade of the generation.</param>
public sealed record DummyModule(
    int Generation,
    int DieGigabits,
    int ChipWidth,
    int Ranks,
    bool Ecc,
    byte KindCode,
    int Speed,
    string PartNumber,
    uint Serial,
    int Year = 24,
    int Week = 7,
    byte MakerBank = 1,
    byte MakerCode = 0x4E,
    bool LowVoltage = false
);

/// <summary>
/// Programmes EEPROMs of simulated modules from JESD21-C 4.1.2.11 (DDR3), 4.1.2.L (DDR4) and JESD400-5 (DDR5). It
/// shares no code with the decoder, so that each can prove the other.
/// </summary>
public static class ModuleEeprom
{
    // Least cycle time in medium steps of 125 ps and in fine steps of 1 ps, as the standards' tables have them.
    private static readonly Dictionary<(int Generation, int Speed), (byte Medium, sbyte Fine)> Cycle = new()
    {
        [(3, 1066)] = (15, 0),
        [(3, 1333)] = (12, 0),
        [(3, 1600)] = (10, 0),
        [(3, 1866)] = (9, -54),
        [(3, 2133)] = (8, -62),
        [(4, 1600)] = (10, 0),
        [(4, 1866)] = (9, -54),
        [(4, 2133)] = (8, -62),
        [(4, 2400)] = (7, -42),
        [(4, 2666)] = (6, 0),
        [(4, 2933)] = (6, -68),
        [(4, 3200)] = (5, 0),
    };

    public static byte[] Write(DummyModule module) =>
        module.Generation switch
        {
            3 => Ddr3(module),
            4 => Ddr4(module),
            5 => Ddr5(module),
            _ => throw new ArgumentOutOfRangeException(
                nameof(module),
                module.Generation,
                "Generations 3 to 5 are known."
            ),
        };

    private static byte[] Ddr3(DummyModule m)
    {
        var rom = new byte[256];
        (rom[0], rom[1], rom[2], rom[3]) = (0x92, 0x13, 0x0B, m.KindCode);
        rom[4] = (byte)(
            m.DieGigabits switch
            {
                1 => 2,
                2 => 3,
                4 => 4,
                8 => 5,
                _ => throw Unknown(m),
            }
        );
        rom[5] = 0x19;
        rom[6] = (byte)(m.LowVoltage ? 2 : 0);
        rom[7] = (byte)(((m.Ranks - 1) << 3) | ChipCode(m));
        rom[8] = (byte)(m.Ecc ? 0x0B : 0x03);
        (rom[9], rom[10], rom[11]) = (0x11, 1, 8);
        var (medium, fine) = Cycle[(3, m.Speed)];
        (rom[12], rom[34]) = (medium, (byte)fine);
        rom[16] = 0x69;
        Label(rom.AsSpan(117), m, 2, 18);
        Checksum(rom, 0, 117, 126);
        return rom;
    }

    private static byte[] Ddr4(DummyModule m)
    {
        var rom = new byte[512];
        (rom[0], rom[1], rom[2], rom[3]) = (0x23, 0x11, 0x0C, m.KindCode);
        rom[4] = (byte)(
            0x80
            | m.DieGigabits switch
            {
                4 => 4,
                8 => 5,
                16 => 6,
                32 => 7,
                _ => throw Unknown(m),
            }
        );
        rom[5] = 0x21;
        rom[11] = 3;
        rom[12] = (byte)(((m.Ranks - 1) << 3) | ChipCode(m));
        rom[13] = (byte)(m.Ecc ? 0x0B : 0x03);
        var (medium, fine) = Cycle[(4, m.Speed)];
        (rom[18], rom[125]) = (medium, (byte)fine);
        (rom[19], rom[24]) = (0x0D, 0x6E);
        Label(rom.AsSpan(320), m, 0, 20);
        Checksum(rom, 0, 126, 126);
        Checksum(rom, 128, 126, 254);
        return rom;
    }

    private static byte[] Ddr5(DummyModule m)
    {
        var rom = new byte[1024];
        (rom[0], rom[1], rom[2], rom[3]) = (0x30, 0x10, 0x12, m.KindCode);
        rom[4] = (byte)(
            m.DieGigabits switch
            {
                8 => 2,
                16 => 4,
                24 => 5,
                32 => 6,
                _ => throw Unknown(m),
            }
        );
        rom[6] = (byte)(ChipCode(m) << 5);
        BinaryPrimitives.WriteUInt16LittleEndian(rom.AsSpan(20), (ushort)(2_000_000 / m.Speed));
        rom[234] = (byte)((m.Ranks - 1) << 3);
        // Two sub-channels of 32 bits, each with 8 more where errors are corrected.
        rom[235] = (byte)(0x20 | (m.Ecc ? 0x10 : 0) | 0x02);
        Checksum(rom, 0, 510, 510);
        Label(rom.AsSpan(512), m, 0, 30);
        return rom;
    }

    // Maker, place, date and serial stand one after another in all generations; DDR3 has its checksum before the name.
    private static void Label(Span<byte> rom, DummyModule m, int gap, int length)
    {
        rom[0] = Odd((byte)(m.MakerBank - 1));
        rom[1] = Odd(m.MakerCode);
        rom[2] = 1;
        rom[3] = Bcd(m.Year);
        rom[4] = Bcd(m.Week);
        BinaryPrimitives.WriteUInt32BigEndian(rom[5..], m.Serial);
        var name = rom.Slice(9 + gap, length);
        name.Fill((byte)' ');
        Encoding.ASCII.GetBytes(m.PartNumber).CopyTo(name);
    }

    // The quotient's way of a CRC-16: bit by bit over a message with sixteen zero bits behind it.
    private static void Checksum(byte[] rom, int from, int count, int at)
    {
        uint register = 0;
        foreach (
            var bit in rom.AsSpan(from, count)
                .ToArray()
                .Concat(new byte[2])
                .SelectMany(b => Enumerable.Range(0, 8).Select(i => (uint)(b >> (7 - i)) & 1))
        )
        {
            register = (register << 1) | bit;
            if ((register & 0x10000) != 0)
            {
                register ^= 0x11021;
            }
        }

        BinaryPrimitives.WriteUInt16LittleEndian(rom.AsSpan(at), (ushort)register);
    }

    private static int ChipCode(DummyModule m) =>
        m.ChipWidth switch
        {
            4 => 0,
            8 => 1,
            16 => 2,
            _ => throw Unknown(m),
        };

    private static byte Odd(byte value) => (byte)(int.PopCount(value) % 2 == 0 ? value | 0x80 : value);

    private static byte Bcd(int value) => (byte)((value / 10 * 16) + (value % 10));

    private static ArgumentOutOfRangeException Unknown(DummyModule m) => new(nameof(m), m, "No such chip is made.");
}
