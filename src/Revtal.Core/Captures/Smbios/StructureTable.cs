using System.Buffers;
using System.Buffers.Binary;
using System.Collections.Frozen;
using System.Text;

namespace Revtal.Core.Captures.Smbios;

/// <summary>
/// One structure of the table: its formatted area and its strings (DSP0134 section 6.1). Borrows the table's bytes.
/// </summary>
internal readonly ref struct Structure(ReadOnlySpan<byte> formatted, ReadOnlySpan<byte> strings)
{
    private const int LongestText = 256;
    private readonly ReadOnlySpan<byte> formatted = formatted;
    private readonly ReadOnlySpan<byte> strings = strings;

    public int Type => formatted[0];

    public int Length => formatted.Length;

    public ushort Handle => BinaryPrimitives.ReadUInt16LittleEndian(formatted[2..]);

    // A field beyond the structure's length belongs to a later version of the standard: it is unknown, not zero.
    public byte? Byte(int at) => at < formatted.Length ? formatted[at] : null;

    public ushort? Word(int at) =>
        at + 2 <= formatted.Length ? BinaryPrimitives.ReadUInt16LittleEndian(formatted[at..]) : null;

    public uint? DWord(int at) =>
        at + 4 <= formatted.Length ? BinaryPrimitives.ReadUInt32LittleEndian(formatted[at..]) : null;

    public ulong? QWord(int at) =>
        at + 8 <= formatted.Length ? BinaryPrimitives.ReadUInt64LittleEndian(formatted[at..]) : null;

    /// <summary>
    /// The text that the byte at this offset numbers, or null when there is none or it is only a filler.
    /// </summary>
    public string? Text(int at)
    {
        if (Byte(at) is not (> 0 and var number))
        {
            return null;
        }

        var rest = strings;
        for (var i = 1; rest.Length > 0; i++)
        {
            var end = rest.IndexOf((byte)0);
            var text = end < 0 ? rest : rest[..end];
            if (i == number)
            {
                return Clean(text);
            }

            rest = end < 0 ? default : rest[(end + 1)..];
        }

        return null;
    }

    private static string? Clean(ReadOnlySpan<byte> raw)
    {
        raw = raw.Trim((byte)' ');
        raw = raw[..Math.Min(raw.Length, LongestText)];
        if (raw.IsEmpty)
        {
            return null;
        }

        var text =
            raw.IndexOfAnyExceptInRange((byte)0x20, (byte)0x7E) < 0
                ? Encoding.Latin1.GetString(raw)
                : string.Create(
                    raw.Length,
                    raw,
                    static (chars, bytes) =>
                    {
                        for (var i = 0; i < chars.Length; i++)
                        {
                            chars[i] = bytes[i] is >= 0x20 and <= 0x7E ? (char)bytes[i] : '?';
                        }
                    }
                );
        return FillerStarts.Contains(raw[0]) && Fillers.Contains(text) ? null : text;
    }

    private static readonly SearchValues<byte> FillerStarts = SearchValues.Create("NUDTES0[nudtes"u8);

    // What firmware writes where it was never told.
    private static readonly FrozenSet<string> Fillers = new[]
    {
        "Not Specified",
        "Unknown",
        "None",
        "N/A",
        "NA",
        "Default string",
        "To Be Filled By O.E.M.",
        "Empty",
        "NO DIMM",
        "Undefined",
        "System Serial Number",
        "System manufacturer",
        "System Product Name",
        "00000000",
        "0x00000000",
        "[Empty]",
        "Not Available",
    }.ToFrozenSet(StringComparer.OrdinalIgnoreCase);
}

/// <summary>Walks the structures of a table in order, proving each one's bounds before it is handed out.</summary>
internal ref struct StructureTable(ReadOnlySpan<byte> table)
{
    private const int Header = 4,
        EndOfTable = 127;
    private readonly ReadOnlySpan<byte> table = table;
    private int at;

    public Structure Current { get; private set; }

    /// <summary>Steps to the next structure; false after the end-of-table structure or the last byte.</summary>
    /// <exception cref="RefusedException">The table ends within a structure, or a structure is shorter than its own
    /// header.</exception>
    public bool MoveNext()
    {
        // Four bytes or fewer after the last structure are padding.
        if (table.Length - at <= Header)
        {
            return false;
        }

        int length = table[at + 1];
        if (length < Header)
        {
            // Zeros up to the end are padding that some firmware leaves behind its last structure.
            return table[at..].IndexOfAnyExcept((byte)0) < 0
                ? false
                : throw Damaged($"the structure at byte {at} says it is {length} bytes long, less than its own header");
        }

        if (at + length > table.Length)
        {
            throw Damaged($"it ends within the structure at byte {at}");
        }

        var formatted = table.Slice(at, length);
        var rest = table[(at + length)..];
        var end = rest.IndexOf("\0\0"u8);
        if (end < 0 && formatted[0] != EndOfTable)
        {
            throw Damaged($"it ends within the texts of the structure at byte {at}");
        }

        Current = new Structure(formatted, end < 0 ? default : rest[..end]);
        at += length + (end < 0 ? rest.Length : end + 2);
        return formatted[0] != EndOfTable;
    }

    public static RefusedException Damaged(string why) =>
        RefusedException.Invalid(
            "tables-damaged",
            $"The firmware tables cannot be read: {why}. Copy the file DMI from the machine again, whole."
        );
}
