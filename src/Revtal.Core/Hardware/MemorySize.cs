using System.Buffers;
using System.Globalization;

namespace Revtal.Core.Hardware;

/// <summary>
/// An amount of memory in bytes, never negative, spoken the trade's way: 1 GB of memory is 2^30 bytes
/// (JEDEC JESD100B.01, "giga" as a prefix to units of semiconductor storage).
/// </summary>
public readonly record struct MemorySize : IComparable<MemorySize>
{
    private const long Kilo = 1L << 10,
        Mega = 1L << 20,
        Giga = 1L << 30,
        Tera = 1L << 40;

    /// <summary>
    /// The most bytes that anybody may write or send: four times what DSP0134 can tell of one device, and sums of it
    /// stay within 64 bits.
    /// </summary>
    public const long MostWritten = 1L << 53;

    private static readonly SearchValues<char> Digits = SearchValues.Create("0123456789.");

    private static readonly (string Unit, long Bytes)[] Units =
    [
        ("TB", Tera),
        ("GB", Giga),
        ("MB", Mega),
        ("KB", Kilo),
        ("B", 1),
    ];

    /// <param name="bytes">0 to 2^63 - 1.</param>
    /// <exception cref="ArgumentOutOfRangeException">The amount is negative.</exception>
    public MemorySize(long bytes)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(bytes);
        Bytes = bytes;
    }

    /// <summary>The amount in bytes.</summary>
    public long Bytes { get; }

    /// <summary>No memory.</summary>
    public static MemorySize Zero => default;

    /// <summary>So many GB of 2^30 bytes.</summary>
    public static MemorySize Gigabytes(long count) => new(checked(count * Giga));

    /// <summary>So many MB of 2^20 bytes.</summary>
    public static MemorySize Megabytes(long count) => new(checked(count * Mega));

    /// <summary>So many KB of 2^10 bytes.</summary>
    public static MemorySize Kilobytes(long count) => new(checked(count * Kilo));

    public static MemorySize operator +(MemorySize a, MemorySize b) => new(checked(a.Bytes + b.Bytes));

    public static bool operator <(MemorySize a, MemorySize b) => a.Bytes < b.Bytes;

    public static bool operator >(MemorySize a, MemorySize b) => a.Bytes > b.Bytes;

    public static bool operator <=(MemorySize a, MemorySize b) => a.Bytes <= b.Bytes;

    public static bool operator >=(MemorySize a, MemorySize b) => a.Bytes >= b.Bytes;

    /// <summary>By bytes.</summary>
    public int CompareTo(MemorySize other) => Bytes.CompareTo(other.Bytes);

    /// <summary>
    /// Reads what people write: <c>16 GB</c>, <c>16GB</c>, <c>512 MB</c>, <c>15.6 GB</c>, <c>16 GiB</c>. A bare
    /// number has no unit and is refused, since 16 may be GB or MB.
    /// </summary>
    public static bool TryParse(string? text, out MemorySize size)
    {
        size = default;
        var s = text.AsSpan().Trim();
        var digits = s.IndexOfAnyExcept(Digits);
        if (
            digits <= 0
            || digits > 18
            || !decimal.TryParse(
                s[..digits],
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
        {
            return false;
        }

        var unit = s[digits..].Trim();
        foreach (var (name, bytes) in Units)
        {
            var binary = unit.Length == 3 && unit[0] == name[0] && unit[1] is 'i' && unit[2] is 'B';
            if (!binary && !unit.Equals(name, StringComparison.OrdinalIgnoreCase))
            {
                continue;
            }

            if (number > MostWritten / bytes)
            {
                return false;
            }

            size = new MemorySize((long)(number * bytes));
            return true;
        }

        return false;
    }

    /// <summary>
    /// As <see cref="TryParse"/>, refusing what it cannot read with a sentence that says what to write.
    /// </summary>
    public static MemorySize Parse(string? text) =>
        TryParse(text, out var size)
            ? size
            : throw RefusedException.Invalid(
                "size-unreadable",
                $"“{text}” is not a memory size. Write a number and its unit, like “16 GB” or “512 MB”."
            );

    /// <summary>The shortest of the trade's forms: <c>16 GB</c>, <c>15.6 GB</c>, <c>512 MB</c>, <c>0 GB</c>.</summary>
    public override string ToString()
    {
        foreach (var (name, bytes) in Units)
        {
            if (Bytes >= bytes)
            {
                return string.Create(
                    CultureInfo.InvariantCulture,
                    $"{Math.Round((decimal)Bytes / bytes, 1):0.#} {name}"
                );
            }
        }

        return "0 GB";
    }
}
