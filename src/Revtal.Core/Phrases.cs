using System.Globalization;

namespace Revtal.Core;

/// <summary>Small turns of phrase, said the same way everywhere.</summary>
public static class Phrases
{
    /// <summary>“A”, “A and B”, “A, B and C”; empty for none.</summary>
    public static string Listed(IEnumerable<string> items) => Strung(items, "and");

    /// <summary>“A”, “A or B”, “A, B or C”; empty for none.</summary>
    public static string Either(IEnumerable<string> items) => Strung(items, "or");

    /// <summary>“1 step”, “3 steps”.</summary>
    public static string Counted(int count, string one, string many) =>
        string.Create(CultureInfo.InvariantCulture, $"{count} {(count == 1 ? one : many)}");

    /// <summary>The one word for one, the other for none or many: “was”, “were”.</summary>
    public static string Plural(long count, string one, string many) => count == 1 ? one : many;

    /// <summary>The text where the condition holds, else nothing.</summary>
    public static string When(bool condition, string text) => condition ? text : "";

    /// <summary>What is said of a value where there is one, else nothing.</summary>
    public static string When<T>(T? value, Func<T, string> say)
        where T : class => value is null ? "" : say(value);

    /// <inheritdoc cref="When{T}(T?, Func{T, string})"/>
    public static string When<T>(T? value, Func<T, string> say)
        where T : struct => value is { } known ? say(known) : "";

    /// <summary>“ – text” for what somebody added, else nothing.</summary>
    public static string Added(string? text) => When(text, t => $" – {t}");

    /// <summary>A name of the code in words: <c>BoughtIn</c> is “bought in”.</summary>
    public static string Words<T>(T value)
        where T : struct, Enum => Words(value.ToString());

    /// <inheritdoc cref="Words{T}(T)"/>
    public static string Words(string name) =>
        string.Concat(
            name.Select(
                (c, i) => i > 0 && char.IsUpper(c) ? $" {char.ToLowerInvariant(c)}" : $"{char.ToLowerInvariant(c)}"
            )
        );

    /// <summary>With a capital at its beginning.</summary>
    public static string Sentence(string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];

    /// <summary>“2026-03-02 10:30 UTC”.</summary>
    public static string Minute(DateTimeOffset at) =>
        at.UtcDateTime.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture) + " UTC";

    /// <summary>“2026-03-02”.</summary>
    public static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>“12.50 EUR”.</summary>
    public static string Amount(decimal amount, string currency) =>
        amount.ToString($"F{Parts.Currency.Decimals(currency)}", CultureInfo.InvariantCulture) + $" {currency}";

    /// <summary>“12.50”, where everybody knows in what: as many decimals as it has.</summary>
    public static string Sum(decimal amount) => amount.ToString("0.00#", CultureInfo.InvariantCulture);

    private static string Strung(IEnumerable<string> items, string last)
    {
        var all = items.ToArray();
        return all.Length < 2 ? string.Concat(all) : $"{string.Join(", ", all[..^1])} {last} {all[^1]}";
    }
}
