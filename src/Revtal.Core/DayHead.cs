using System.Globalization;
using System.Text.RegularExpressions;

namespace Revtal.Core;

/// <summary>What was recorded by the end of a day, in one hash, which the shop signed.</summary>
/// <param name="Day">UTC.</param>
/// <param name="Position">The last entry that it counts.</param>
/// <param name="Hash">SHA-256 in hex, over the head before it and the hashes of the entries since.</param>
/// <param name="Key">By which it was signed: the beginning of the hash of its public key, in hex.</param>
public sealed partial record DayHead(string Day, long Position, string Hash, string Key)
{
    /// <summary>As it is kept elsewhere: day, position and hash, a blank between.</summary>
    public string ToLine() => string.Create(CultureInfo.InvariantCulture, $"{Day} {Position} {Hash}");

    /// <summary>Holds heads that were kept elsewhere against those of the store.</summary>
    /// <param name="kept">A line each.</param>
    /// <param name="now">Newest first; what was kept of days before the oldest is not compared.</param>
    /// <returns>How many were compared, all as they were.</returns>
    /// <exception cref="RefusedException">A line is no head, none of them can be compared, or one is another
    /// now.</exception>
    public static int Compare(IReadOnlyList<string> kept, IReadOnlyList<DayHead> now)
    {
        if (kept.FirstOrDefault(l => !Form().IsMatch(l)) is { } none)
        {
            throw RefusedException.Invalid("no-head", $"“{none}” is no day's head, like “2026-03-02 335 …”.");
        }

        var oldest = now.Count > 0 ? now[^1].Day : "";
        string[] compared = [.. kept.Where(l => string.CompareOrdinal(l, oldest) >= 0)];
        if (compared.Length == 0)
        {
            throw RefusedException.Invalid("no-heads", "None of these days is told by the service any more.");
        }

        return compared.Except(now.Select(h => h.ToLine())).Order(StringComparer.Ordinal).FirstOrDefault() is { } other
            ? throw RefusedException.Rule(
                "other-heads",
                $"What was recorded until the end of {other.Split(' ')[0]} is not what it was when its head was kept. "
                    + "Look at a backup for what was."
            )
            : compared.Length;
    }

    [GeneratedRegex(@"^\d{4}-\d\d-\d\d \d+ [0-9a-f]{64}$")]
    private static partial Regex Form();
}
