using Revtal.Core;

namespace Revtal.Service.People;

/// <summary>
/// Which passwords are taken, by NIST SP 800-63B-4, 3.1.1.2: long, on no list of common ones, nothing about the person
/// or the shop; no rule about kinds of characters, and no change is ever forced.
/// </summary>
internal static class Passwords
{
    /// <summary>For a password that is the only proof.</summary>
    public const int Least = 15;

    public const int Most = 200;

    // What common passwords of this length are made of.
    private static readonly string[] Common =
    [
        "password",
        "passwort",
        "motdepasse",
        "qwertyuiop",
        "qwertyuio",
        "qwerty",
        "qwertz",
        "azerty",
        "asdfghjkl",
        "asdfgh",
        "zxcvbnm",
        "yxcvbnm",
        "1qaz2wsx",
        "1q2w3e4r",
        "q1w2e3r4",
        "letmein",
        "iloveyou",
        "welcome",
        "willkommen",
        "administrator",
        "admin",
        "changeme",
        "secret",
        "monkey",
        "dragon",
        "sunshine",
        "princess",
        "football",
        "baseball",
        "superman",
        "trustno1",
        "abc",
        "correcthorsebatterystaple",
        "thequickbrownfox",
        "jumpsoverthelazydog",
        "revtal",
    ];

    private const string Rows = "abcdefghijklmnopqrstuvwxyzabc 01234567890123456789 qwertyuiop asdfghjkl zxcvbnm";

    /// <summary>What is wrong with it; null for nothing.</summary>
    /// <param name="about">Words that a stranger would try: the person's names, the shop's.</param>
    public static RefusedException? Problem(string password, params IReadOnlyList<string> about)
    {
        var length = new System.Globalization.StringInfo(password).LengthInTextElements;
        return length < Least
                ? RefusedException.Invalid(
                    "password-short",
                    $"A password has at least {Least} characters; four words that do not belong together are easy to "
                        + $"keep in mind. This one has {length}."
                )
            : password.Length > Most
                ? RefusedException.Invalid("password-long", $"A password has at most {Most} characters.")
            : IsGuessed(password, about)
                ? RefusedException.Invalid(
                    "password-common",
                    "This password would be guessed soon: it is made of common ones, of a row of keys, or of the name "
                        + "of the person or the shop. Take words that do not belong together."
                )
            : null;
    }

    // What is left once all that is guessed is taken out would have to be guessed itself.
    private static bool IsGuessed(string password, IReadOnlyList<string> about)
    {
        const int leftAtLeast = 8;
        var left = new string([.. password.ToLowerInvariant().Where(char.IsLetterOrDigit)]);
        foreach (
            var word in about
                .SelectMany(a => a.ToLowerInvariant().Split(' ').Append(a.ToLowerInvariant().Replace(" ", "")))
                .Concat(Common)
                .Where(w => w.Length > 2)
                .OrderByDescending(w => w.Length)
        )
        {
            left = left.Replace(word, "", StringComparison.Ordinal);
        }

        return WithoutRows(left).Distinct().Count() < leftAtLeast / 2 || Unrepeated(WithoutRows(left)) < leftAtLeast;
    }

    // Runs of three and more along the alphabet, the digits or a row of keys.
    private static string WithoutRows(string text)
    {
        var kept = new System.Text.StringBuilder();
        for (var i = 0; i < text.Length; )
        {
            var run = 1;
            while (i + run < text.Length && Rows.Contains(text[i..(i + run + 1)], StringComparison.Ordinal))
            {
                run++;
            }

            if (run < 3)
            {
                kept.Append(text, i, run);
            }

            i += run;
        }

        return kept.ToString();
    }

    // The length of the shortest text that repeated gives this one.
    private static int Unrepeated(string text) =>
        Enumerable
            .Range(1, text.Length)
            .FirstOrDefault(n => text.Where((c, i) => c != text[i % n]).Any() is false, text.Length);
}
