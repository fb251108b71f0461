using System.Diagnostics.CodeAnalysis;
using System.Text.Json;

namespace Revtal.Service.Http;

/// <summary>One of an enum's words in an address, as JSON has them: <c>in-stock</c>.</summary>
public readonly record struct Word<T>(T Value) : IParsable<Word<T>>
    where T : struct, Enum
{
    /// <inheritdoc/>
    public static Word<T> Parse(string s, IFormatProvider? provider) =>
        TryParse(s, provider, out var word) ? word : throw new FormatException($"“{s}” is no {typeof(T).Name}.");

    /// <inheritdoc/>
    public static bool TryParse([NotNullWhen(true)] string? s, IFormatProvider? provider, out Word<T> result)
    {
        foreach (var value in Enum.GetValues<T>())
        {
            if (Word.Of(value) == s)
            {
                result = new Word<T>(value);
                return true;
            }
        }

        result = default;
        return false;
    }
}

/// <summary>Enums' words.</summary>
internal static class Word
{
    public static string Of(Enum value) => JsonNamingPolicy.KebabCaseLower.ConvertName(value.ToString());

    /// <summary>The words of a type, be it null or not; null where it is no <see cref="Word{T}"/>.</summary>
    public static IReadOnlyList<string>? All(Type type) =>
        (Nullable.GetUnderlyingType(type) ?? type) is { IsGenericType: true } t
        && t.GetGenericTypeDefinition() == typeof(Word<>)
            ? [.. Enum.GetValues(t.GenericTypeArguments[0]).Cast<Enum>().Select(Of)]
            : null;
}
