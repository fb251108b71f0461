using System.Buffers.Binary;
using System.IO.Compression;
using SkiaSharp;

namespace Revtal.Documents.Papers;

/// <summary>
/// Fonts as the web has them (W3C, WOFF File Format 1.0) to fonts as shapers read them (ISO/IEC 14496-22): the same
/// tables, unpacked.
/// </summary>
internal static class Woff
{
    private const int Header = 44,
        Entry = 20,
        SfntHeader = 12,
        SfntEntry = 16;

    /// <summary>Null where the file holds no font.</summary>
    public static SKTypeface? Open(string file)
    {
        using var data = SKData.CreateCopy(Unpacked(File.ReadAllBytes(file)));
        return SKTypeface.FromData(data);
    }

    private static byte[] Unpacked(byte[] woff)
    {
        var count = Two(woff, 12);
        var tables = Enumerable.Range(0, count).Select(i => Header + (i * Entry)).ToArray();
        var sfnt = new byte[SfntHeader + (count * SfntEntry) + tables.Sum(at => Padded(Four(woff, at + 12)))];
        woff.AsSpan(4, 4).CopyTo(sfnt);
        Write(sfnt, 4, count);
        // How a reader searches the tables: the largest power of two, its logarithm, and what is left.
        var power = (int)System.Numerics.BitOperations.RoundUpToPowerOf2((uint)count + 1) / 2;
        Write(sfnt, 6, power * SfntEntry);
        Write(sfnt, 8, System.Numerics.BitOperations.Log2((uint)power));
        Write(sfnt, 10, (count - power) * SfntEntry);
        var place = SfntHeader + (count * SfntEntry);
        for (var i = 0; i < count; i++)
        {
            var (at, entry) = (tables[i], SfntHeader + (i * SfntEntry));
            var (from, packed, length) = (Four(woff, at + 4), Four(woff, at + 8), Four(woff, at + 12));
            woff.AsSpan(at, 4).CopyTo(sfnt.AsSpan(entry));
            woff.AsSpan(at + 16, 4).CopyTo(sfnt.AsSpan(entry + 4));
            BinaryPrimitives.WriteInt32BigEndian(sfnt.AsSpan(entry + 8), place);
            BinaryPrimitives.WriteInt32BigEndian(sfnt.AsSpan(entry + 12), length);
            var table = sfnt.AsSpan(place, length);
            if (packed == length)
            {
                woff.AsSpan(from, length).CopyTo(table);
            }
            else
            {
                using var inflated = new ZLibStream(new MemoryStream(woff, from, packed), CompressionMode.Decompress);
                inflated.ReadExactly(table);
            }

            place += Padded(length);
        }

        return sfnt;
    }

    private static int Two(byte[] bytes, int at) => BinaryPrimitives.ReadUInt16BigEndian(bytes.AsSpan(at));

    private static int Four(byte[] bytes, int at) => BinaryPrimitives.ReadInt32BigEndian(bytes.AsSpan(at));

    private static void Write(byte[] bytes, int at, int value) =>
        BinaryPrimitives.WriteUInt16BigEndian(bytes.AsSpan(at), (ushort)value);

    private static int Padded(int length) => (length + 3) & ~3;
}
