using System.Text;

namespace Revtal.Core;

/// <summary>Text that people type, made safe to keep and to show.</summary>
public static class Words
{
    public const int LongestLine = 200,
        LongestText = 2_000;

    /// <summary>One line, trimmed; null for nothing.</summary>
    /// <exception cref="RefusedException">Too long, or it holds control characters.</exception>
    public static string? Line(string field, string? text) => Clean(field, text, LongestLine, lines: false);

    /// <summary>One line that must be there.</summary>
    public static string RequiredLine(string field, string? text) =>
        Line(field, text) ?? throw RefusedException.Invalid("text-missing", $"{field} is missing. Write it.");

    /// <summary>Several lines, trimmed; null for nothing.</summary>
    public static string? Text(string field, string? text) => Clean(field, text, LongestText, lines: true);

    /// <summary>Several lines that must be there.</summary>
    public static string RequiredText(string field, string? text) =>
        Text(field, text) ?? throw RefusedException.Invalid("text-missing", $"{field} is missing. Write it.");

    /// <summary>
    /// What a machine says of itself, made safe to show: what could ring a bell, move the cursor or turn the direction
    /// of text stands as a question mark.
    /// </summary>
    public static string Plain(string text) => text.Any(IsUnsafe) ? string.Create(text.Length, text, Blank) : text;

    private static void Blank(Span<char> plain, string text)
    {
        for (var i = 0; i < plain.Length; i++)
        {
            plain[i] = IsUnsafe(text[i]) ? '?' : text[i];
        }
    }

    /// <summary>Whether this is no sign to be read, but an order to whatever shows it.</summary>
    public static bool IsUnsafe(char c) => char.IsControl(c) || c is '\u2028' or '\u2029' || IsBidiControl(c);

    private static string? Clean(string field, string? text, int longest, bool lines)
    {
        var trimmed = text?.Trim();
        if (string.IsNullOrEmpty(trimmed))
        {
            return null;
        }

        if (trimmed.Length > longest)
        {
            throw RefusedException.Invalid(
                "text-too-long",
                $"{field} has {trimmed.Length} characters; it may have {longest}."
            );
        }

        return
            trimmed.Any(c => IsUnsafe(c) && !(lines && c is '\n' or '\t' or '\r'))
            // An unpaired surrogate enumerates as the replacement character.
            || trimmed.EnumerateRunes().Contains(Rune.ReplacementChar)
            ? throw RefusedException.Invalid(
                "text-control",
                $"{field} holds control characters. Write it without them."
            )
            : trimmed;
    }

    // Marks that turn the direction of text can make a serial read as another one.
    private static bool IsBidiControl(char c) => c is (>= '\u202A' and <= '\u202E') or (>= '\u2066' and <= '\u2069');
}
