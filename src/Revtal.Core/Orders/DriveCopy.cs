using System.Collections.Immutable;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>What became of the boot drive's data before the drive may leave.</summary>
public enum CopyState
{
    Verified,

    /// <summary>The customer goes without and said so.</summary>
    Waived,
}

/// <summary>The copy of one drive's data onto another.</summary>
/// <param name="Bay">The bay whose drive is replaced.</param>
/// <param name="Size">What is to be copied.</param>
/// <param name="Points">How much was copied when; the start with nothing first.</param>
/// <param name="Verified">Null while nobody has compared.</param>
public sealed record DriveCopy(
    string Bay,
    string Source,
    string Target,
    string Method,
    DriveSize Size,
    ImmutableList<CopyPoint> Points,
    CopyVerified? Verified,
    DateTimeOffset? VerifiedAt
)
{
    /// <summary>When it will be done, from the rate so far; null before anything was copied.</summary>
    public DateTimeOffset? EstimatedEnd
    {
        get
        {
            var (first, last) = (Points[0], Points[^1]);
            var left = Size.Bytes - last.Done.Bytes;
            return last.Done.Bytes == 0 || last.At <= first.At
                ? null
                : last.At
                    + TimeSpan.FromSeconds(Math.Max(0, left) * (last.At - first.At).TotalSeconds / last.Done.Bytes);
        }
    }
}

/// <summary>So much was copied at that time.</summary>
public sealed record CopyPoint(DriveSize Done, DateTimeOffset At);

/// <summary>
/// Two lists of hashes laid beside each other, as <c>sha256sum</c> and its like write them: a hash, blanks, a path a
/// line.
/// </summary>
public static class HashLists
{
    /// <summary>The most lines of hashes that are compared.</summary>
    public const int MostLines = 200_000;

    /// <summary>
    /// How many files were sampled, and how many of them are alike on both sides; the paths are compared below their
    /// own roots.
    /// </summary>
    /// <exception cref="RefusedException">A line is no hash with a path, or a list is empty.</exception>
    public static (int Sampled, int Matched, IReadOnlyList<string> Differ) Compare(string source, string target)
    {
        var (a, b) = (Read("source", source), Read("target", target));
        var differ = a.Where(p => b.GetValueOrDefault(p.Key) != p.Value).Select(p => p.Key).Take(20).ToArray();
        return (a.Count, a.Count(p => b.GetValueOrDefault(p.Key) == p.Value), differ);
    }

    private static Dictionary<string, string> Read(string side, string text)
    {
        var hashes = new Dictionary<string, string>();
        var lines = text.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (lines.Length is 0 or > MostLines)
        {
            throw RefusedException.Invalid(
                "hashes-count",
                $"The {side}'s list of hashes has {lines.Length} lines; 1 to {MostLines} are read."
            );
        }

        for (var i = 0; i < lines.Length; i++)
        {
            var parts = lines[i].Split(' ', 2, StringSplitOptions.TrimEntries);
            if (
                parts is not [{ Length: >= 32 and <= 128 } hash, { Length: > 1 } path]
                || !hash.All(char.IsAsciiHexDigit)
            )
            {
                throw RefusedException.Invalid(
                    "hashes-unreadable",
                    $"Line {i + 1} of the {side}'s list is no hash with a path behind it. Write it with: cd THE "
                        + "DRIVE; sha256sum FILES."
                );
            }

            hashes[path.TrimStart('*').Trim()] = hash.ToLowerInvariant();
        }

        return hashes;
    }
}
