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
/// <param name="Waits">Why it does not do yet what it has to; null where it does, or has nothing to.</param>
/// <param name="Members">The drives that it knows of, by the system's names.</param>
/// <param name="SizeBytes">What it holds, in bytes.</param>
/// <param name="UsedBytes">What its file systems hold, in bytes.</param>
public sealed record ArrayReading(
    string Name,
    string? Level,
    bool Active,
    int? Wanted,
    int? Present,
    string? Doing,
    decimal? Percent,
    decimal? MinutesLeft,
    ArrayWait? Waits = null,
    IReadOnlyList<ArrayMember>? Members = null,
    long? SizeBytes = null,
    long? UsedBytes = null
)
{
    /// <summary>Empty where no source names them.</summary>
    public IReadOnlyList<ArrayMember> Members { get; } = Members ?? [];

    /// <summary>Whether a drive is missing.</summary>
    public bool IsDegraded => Present < Wanted;

    /// <summary>How many more drives it can lose and keep its data; null where its level does not tell.</summary>
    public int? Spared =>
        Wanted is { } wanted && Present is { } present && Tolerates(wanted) is { } may
            ? may - (wanted - present)
            : null;

    /// <summary>Whether it reads itself through, with nothing amiss.</summary>
    public bool OnlyChecks => Doing == "check" && !IsDegraded;

    /// <summary>What two sources say of the arrays, by name.</summary>
    internal static IReadOnlyList<ArrayReading> Join(IReadOnlyList<ArrayReading> a, IReadOnlyList<ArrayReading> b) =>
        [
            .. a.Select(x => b.FirstOrDefault(y => y.Name == x.Name) is { } y ? x.With(y) : x),
            .. b.Where(y => a.All(x => x.Name != y.Name)),
        ];

    private ArrayReading With(ArrayReading o) =>
        new(
            Name,
            Level ?? o.Level,
            Active || o.Active,
            Wanted ?? o.Wanted,
            Present ?? o.Present,
            Doing ?? o.Doing,
            Percent ?? o.Percent,
            MinutesLeft ?? o.MinutesLeft,
            Waits ?? o.Waits,
            Members.Count > 0 ? Members : o.Members,
            SizeBytes ?? o.SizeBytes,
            UsedBytes ?? o.UsedBytes
        );

    private int? Tolerates(int wanted) =>
        Level switch
        {
            "raid0" or "linear" => 0,
            "raid1" => wanted - 1,
            "raid4" or "raid5" => 1,
            "raid6" => 2,
            _ => null,
        };
}

/// <summary>One drive of an array, or a part of one.</summary>
/// <param name="Device">The system's name of it: <c>sdb</c>, <c>sdb2</c>.</param>
/// <param name="IsSpare">It waits to be needed.</param>
/// <param name="IsFaulty">The array took it out.</param>
public sealed record ArrayMember(string Device, bool IsSpare = false, bool IsFaulty = false);

/// <summary>Why an array does not do yet what it has to.</summary>
public enum ArrayWait
{
    /// <summary>It begins with the first write.</summary>
    Pending,

    /// <summary>Another array on the same drives is first.</summary>
    Delayed,
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
                        null,
                        Members: [.. Member().Matches(line).Select(Read)]
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
            else if (arrays.Count > 0 && Waiting().Match(line) is { Success: true } waits)
            {
                arrays[^1] = arrays[^1] with
                {
                    Doing = waits.Groups[1].Value,
                    Waits = waits.Groups[2].Value == "PENDING" ? ArrayWait.Pending : ArrayWait.Delayed,
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

        return Reading.OfDrives([], arrays, arraysTold: true);
    }

    private static ArrayMember Read(Match m) =>
        new(
            m.Groups[1].Value,
            m.Groups[2].Value.Contains("(S)", StringComparison.Ordinal),
            m.Groups[2].Value.Contains("(F)", StringComparison.Ordinal)
        );

    private static int? Whole(string text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;

    private static decimal? Number(string text) =>
        decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) ? n : null;

    [GeneratedRegex(
        @"^(md[\w-]{1,32}) : (active|inactive)(?: \([\w-]+\))?(?: (raid\d+|linear|multipath))?",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Head();

    [GeneratedRegex(@"\b([a-z][a-z0-9]{1,31})\[\d{1,4}\]((?:\([A-Z]\))*)", RegexOptions.CultureInvariant)]
    private static partial Regex Member();

    [GeneratedRegex(@"(recovery|resync|reshape|check) *= *(PENDING|DELAYED)", RegexOptions.CultureInvariant)]
    private static partial Regex Waiting();

    [GeneratedRegex(@"\[(\d{1,4})/(\d{1,4})\] \[[U_]+\]", RegexOptions.CultureInvariant)]
    private static partial Regex Counts();

    [GeneratedRegex(
        @"(recovery|resync|reshape|check) *= *(\d{1,3}(?:\.\d{1,3})?)%(?:.* finish=(\d{1,9}(?:\.\d{1,3})?)min)?",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Progress();
}
