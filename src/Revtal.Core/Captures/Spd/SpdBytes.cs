using System.Buffers.Binary;
using System.Globalization;

namespace Revtal.Core.Captures.Spd;

/// <summary>The parts that all generations write alike, at other places.</summary>
internal readonly ref struct SpdBytes(ReadOnlySpan<byte> bytes)
{
    private readonly ReadOnlySpan<byte> bytes = bytes;

    public int Length => bytes.Length;

    public byte this[int at] => bytes[at];

    /// <summary>Some bits of a byte, from the lowest.</summary>
    public int Bits(int at, int from, int count) => (bytes[at] >> from) & ((1 << count) - 1);

    public sbyte Signed(int at) => (sbyte)bytes[at];

    public ushort Word(int at) => BinaryPrimitives.ReadUInt16LittleEndian(bytes[at..]);

    /// <summary>
    /// CRC-16 with polynomial x^16 + x^12 + x^5 + 1 and no start value, highest bit first (JESD21-C 4.1.2.L,
    /// JESD400-5).
    /// </summary>
    public bool CrcHolds(int covered, int at)
    {
        var crc = 0;
        foreach (var b in bytes[..covered])
        {
            crc ^= b << 8;
            for (var i = 0; i < 8; i++)
            {
                crc = (crc & 0x8000) != 0 ? (crc << 1) ^ 0x1021 : crc << 1;
            }
        }

        return (crc & 0xFFFF) == Word(at);
    }

    /// <summary>As <see cref="CrcHolds(int, int)"/>, of a block that does not begin at the start.</summary>
    public bool CrcHolds(int from, int covered, int at) => new SpdBytes(bytes[from..]).CrcHolds(covered, at - from);

    /// <summary>Printable ASCII without its padding; null for none.</summary>
    public string? Text(int at, int length)
    {
        var text = bytes.Slice(at, length);
        var end = text.IndexOfAny((byte)0, (byte)0xFF);
        var kept = string.Concat(
                (end < 0 ? text : text[..end]).ToArray().Where(b => b is >= 0x20 and < 0x7F).Select(b => (char)b)
            )
            .Trim();
        return kept.Length > 0 ? kept : null;
    }

    /// <summary>Four bytes as hexadecimal; null where none is written.</summary>
    public string? Serial(int at) =>
        bytes.Slice(at, 4) is var s && s.IndexOfAnyExcept((byte)0) >= 0 && s.IndexOfAnyExcept((byte)0xFF) >= 0
            ? Convert.ToHexString(s)
            : null;

    /// <summary>Year and week in BCD.</summary>
    public string? Made(int at) =>
        Bcd(bytes[at]) is { } year && Bcd(bytes[at + 1]) is >= 1 and <= 53 and { } week
            ? string.Create(CultureInfo.InvariantCulture, $"{2000 + year}-W{week:00}")
            : null;

    /// <summary>JEP106: continuation codes count the bank; the highest bit of each byte is parity.</summary>
    public (int? Bank, int? Code) Maker(int at) =>
        bytes[at + 1] is 0 or 0xFF ? (null, null) : ((bytes[at] & 0x7F) + 1, bytes[at + 1] & 0x7F);

    private static int? Bcd(byte value) =>
        value >> 4 <= 9 && (value & 15) <= 9 ? (10 * (value >> 4)) + (value & 15) : null;
}
