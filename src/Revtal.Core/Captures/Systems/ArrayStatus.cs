using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Revtal.Core.Captures.Systems;

/// <summary>One array of drives at one time.</summary>
/// <param name="Level">As the system names it: <c>raid1</c>, <c>raid5</c>.</param>
/// <param name="Wanted">How many drives it is made of.</param>
/// <param name="Present">How many of them work.</param>
/// <param name="Doing"><c>recovery</c>, <c>resync</c>, <c>reshape</c>, <c>check</c>; null when it rests.</param>
/// <param name="Percent">How far it is with that, 0 to 100.</param>
/// <param name="MinutesLeft">By the system's own estimate.</param>
public sealed record ArrayReading(
    string Name,
    string? Level,
    bool Active,
    int? Wanted,
    int? Present,
    string? Doing,
    decimal? Percent,
    decimal? MinutesLeft
)
{
    /// <summary>Whether a drive is missing.</summary>
    public bool IsDegraded => Present < Wanted;
}

/// <summary>The status text of Linux software RAID, <c>/proc/mdstat</c> (md(4)).</summary>
public static partial class ArrayStatus
{
    private const int LongestText = 1 << 20,
        MostArrays = 64;

    public static bool IsAt(ReadOnlySpan<byte> bytes) => bytes.StartsWith("Personalities :"u8);

    /// <exception cref="RefusedException">It is longer than any machine writes.</exception>
    public static Reading Decode(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > LongestText)
        {
            throw RefusedException.Invalid(
                "mdstat-too-long",
                "The array status is longer than any machine writes. Copy /proc/mdstat again."
            );
        }

        var arrays = new List<ArrayReading>();
        foreach (var line in Encoding.UTF8.GetString(bytes).Split('\n'))
        {
            if (Head().Match(line) is { Success: true } head && arrays.Count < MostArrays)
            {
                arrays.Add(
                    new ArrayReading(
                        head.Groups[1].Value,
                        head.Groups[3].Success ? head.Groups[3].Value : null,
                        head.Groups[2].Value == "active",
                        null,
                        null,
                        null,
                        null,
                        null
                    )
                );
            }
            else if (arrays.Count > 0 && Counts().Match(line) is { Success: true } counts)
            {
                arrays[^1] = arrays[^1] with
                {
                    Wanted = Whole(counts.Groups[1].Value),
                    Present = Whole(counts.Groups[2].Value),
                };
            }
            else if (arrays.Count > 0 && Progress().Match(line) is { Success: true } progress)
            {
                arrays[^1] = arrays[^1] with
                {
                    Doing = progress.Groups[1].Value,
                    Percent = Number(progress.Groups[2].Value),
                    MinutesLeft = progress.Groups[3].Success ? Number(progress.Groups[3].Value) : null,
                };
            }
        }

        return Reading.OfDrives([], arrays);
    }

    private static int? Whole(string text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;

    private static decimal? Number(string text) =>
        decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) ? n : null;

    [GeneratedRegex(
        @"^(md[\w-]{1,32}) : (active|inactive)(?: \([\w-]+\))?(?: (raid\d+|linear|multipath))?",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Head();

    [GeneratedRegex(@"\[(\d{1,4})/(\d{1,4})\] \[[U_]+\]", RegexOptions.CultureInvariant)]
    private static partial Regex Counts();

    [GeneratedRegex(
        @"(recovery|resync|reshape|check) *= *(\d{1,3}(?:\.\d{1,3})?)%(?:.* finish=(\d{1,9}(?:\.\d{1,3})?)min)?",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Progress();
}
