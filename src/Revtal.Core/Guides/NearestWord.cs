namespace Revtal.Core.Guides;

/// <summary>The known word that somebody probably meant.</summary>
public static class NearestWord
{
    // More letters than this changed is another word.
    private const int MostChanges = 3;

    /// <summary>“; DDR4 is meant, perhaps”, or nothing where no known word is like it.</summary>
    public static string Hint(string word, IReadOnlyCollection<string> known) =>
        Of(word, known) is { } nearest ? $"; {nearest} is meant, perhaps" : "";

    /// <summary>Null where none is like it. Case, blanks and hyphens are no difference.</summary>
    public static string? Of(string word, IReadOnlyCollection<string> known)
    {
        var plain = Plain(word);
        var (nearest, changes) = known
            .Select(k => (Word: k, Changes: Distance(plain, Plain(k))))
            .OrderBy(k => k.Changes)
            .FirstOrDefault();
        return nearest is not null && changes <= Math.Min(MostChanges, plain.Length / 2) ? nearest : null;
    }

    private static string Plain(string word) => string.Concat(word.Where(char.IsLetterOrDigit)).ToUpperInvariant();

    // How many letters must be changed, put in or left out (Levenshtein).
    private static int Distance(string a, string b)
    {
        var row = Enumerable.Range(0, b.Length + 1).ToArray();
        for (var i = 1; i <= a.Length; i++)
        {
            var diagonal = row[0];
            row[0] = i;
            for (var j = 1; j <= b.Length; j++)
            {
                var changed = diagonal + (a[i - 1] == b[j - 1] ? 0 : 1);
                diagonal = row[j];
                row[j] = Math.Min(changed, Math.Min(row[j], row[j - 1]) + 1);
            }
        }

        return row[^1];
    }
}
