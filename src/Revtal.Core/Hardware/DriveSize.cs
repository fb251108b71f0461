using System.Buffers;
using System.Globalization;

namespace Revtal.Core.Hardware;

/// <summary>What a drive holds, in bytes, spoken the trade's way: 1 TB of a drive is 10^12 bytes.</summary>
public readonly record struct DriveSize : IComparable<DriveSize>
{
    private static readonly SearchValues<char> Digits = SearchValues.Create("0123456789.");

    private static readonly (string Unit, long Bytes)[] Units =
    [
        ("TB", 1_000_000_000_000),
        ("GB", 1_000_000_000),
        ("MB", 1_000_000),
        ("kB", 1_000),
    ];

    /// <param name="bytes">0 to 2^63 - 1.</param>
    /// <exception cref="ArgumentOutOfRangeException">The amount is negative.</exception>
    public DriveSize(long bytes)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(bytes);
        Bytes = bytes;
    }

    /// <summary>Bytes, 0 or more.</summary>
    public long Bytes { get; }

    public static bool operator <(DriveSize a, DriveSize b) => a.Bytes < b.Bytes;

    public static bool operator >(DriveSize a, DriveSize b) => a.Bytes > b.Bytes;

    public static bool operator <=(DriveSize a, DriveSize b) => a.Bytes <= b.Bytes;

    public static bool operator >=(DriveSize a, DriveSize b) => a.Bytes >= b.Bytes;

    /// <summary>
    /// What a drive sold as so many GB holds by the industry's rule (SFF-8447, before it IDEMA LBA1-03): sectors of 512
    /// bytes =
    /// 97,696,368 + 1,953,504 × (GB − 50).
    /// </summary>
    /// <param name="gigabytes">As sold; 50 or more.</param>
    public static DriveSize Sold(int gigabytes)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(gigabytes, 50);
        return new DriveSize((97_696_368L + (1_953_504L * (gigabytes - 50))) * 512);
    }

    // What is sold as one size differs by less than this.
    private const int AsSoldPercent = 2;

    /// <summary>Whether both are sold as the same size.</summary>
    public bool IsSoldAs(DriveSize other) =>
        Math.Abs(Bytes - other.Bytes) <= Math.Max(Bytes, other.Bytes) / 100 * AsSoldPercent;

    /// <summary>By bytes.</summary>
    public int CompareTo(DriveSize other) => Bytes.CompareTo(other.Bytes);

    /// <summary>
    /// Reads <c>1 TB</c>, <c>500GB</c>, <c>256 GB</c>: decimal, as drives are sold. Binary units (GiB) are read as what
    /// they are.
    /// </summary>
    public static bool TryParse(string? text, out DriveSize size)
    {
        size = default;
        var s = text.AsSpan().Trim();
        var digits = s.IndexOfAnyExcept(Digits);
        if (
            digits <= 0
            || digits > 15
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

        var unit = s[digits..].Trim().ToString();
        var scale = unit.ToUpperInvariant() switch
        {
            "TB" => 1_000_000_000_000m,
            "GB" => 1_000_000_000m,
            "MB" => 1_000_000m,
            "KB" => 1_000m,
            "TIB" => 1L << 40,
            "GIB" => 1L << 30,
            "MIB" => 1L << 20,
            "B" => 1m,
            _ => 0m,
        };
        if (scale == 0 || number * scale > MemorySize.MostWritten)
        {
            return false;
        }

        size = new DriveSize((long)(number * scale));
        return true;
    }

    /// <exception cref="RefusedException">It cannot be read.</exception>
    public static DriveSize Parse(string? text) =>
        TryParse(text, out var size)
            ? size
            : throw RefusedException.Invalid(
                "drive-size-unreadable",
                $"“{text}” is not a drive's size. Write a number and its unit, like “1 TB” or “500 GB”."
            );

    /// <summary>As sold, with its binary size beside it: <c>1 TB · 931 GiB</c>.</summary>
    public string WithBinary => string.Create(CultureInfo.InvariantCulture, $"{this} · {Bytes >> 30} GiB");

    /// <summary>As sold where that says all of it, else in bytes: what is read again is the same.</summary>
    public string Exact =>
        TryParse(ToString(), out var read) && read == this
            ? ToString()
            : string.Create(CultureInfo.InvariantCulture, $"{Bytes} B");

    /// <summary>As sold: <c>1 TB</c>, <c>500 GB</c>.</summary>
    public override string ToString()
    {
        foreach (var (unit, bytes) in Units)
        {
            if (Bytes >= bytes)
            {
                // 1,000,204,886,016 bytes are sold as 1 TB.
                return string.Create(
                    CultureInfo.InvariantCulture,
                    $"{Math.Round((decimal)Bytes / bytes, unit == "TB" ? 2 : 0):0.##} {unit}"
                );
            }
        }

        return string.Create(CultureInfo.InvariantCulture, $"{Bytes} B");
    }
}
