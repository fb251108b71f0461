using System.Text.Json;

namespace Revtal.Core.Captures.Systems;

/// <summary>Looking into JSON that others wrote: what is missing or of another kind is null.</summary>
internal static class JsonLines
{
    private static readonly JsonDocumentOptions Bounded = new() { MaxDepth = 64, AllowTrailingCommas = false };

    /// <summary>Whether the bytes begin as an object or a list does.</summary>
    public static bool IsAt(ReadOnlySpan<byte> bytes) => bytes.TrimStart(" \t\r\n"u8) is [(byte)'{' or (byte)'[', ..];

    /// <exception cref="RefusedException">It is no JSON.</exception>
    public static JsonDocument Parse(ReadOnlyMemory<byte> bytes, string what)
    {
        try
        {
            return JsonDocument.Parse(bytes, Bounded);
        }
        catch (JsonException e)
        {
            throw Broken(what, $"line {(e.LineNumber ?? 0) + 1}");
        }
    }

    public static RefusedException Broken(string what, string where) =>
        RefusedException.Invalid("json-broken", $"{what} is no whole JSON: {where}. Copy it from the machine again.");

    public static JsonElement? Get(this JsonElement? from, string name) =>
        from is { ValueKind: JsonValueKind.Object } o
        && o.TryGetProperty(name, out var value)
        && value.ValueKind != JsonValueKind.Null
            ? value
            : null;

    /// <summary>A text of at most 500 characters, safe to show; null for none.</summary>
    public static string? Text(this JsonElement? from, string name) =>
        from.Get(name) is { ValueKind: JsonValueKind.String } s
        && s.GetString()?.Trim() is { Length: > 0 and <= 500 } text
            ? Words.Plain(text)
            : null;

    /// <summary>A whole number from 0, as number or as text: older tools write all values as text.</summary>
    public static long? Number(this JsonElement? from, string name) =>
        from.Get(name) switch
        {
            { ValueKind: JsonValueKind.Number } n when n.TryGetInt64(out var value) && value >= 0 => value,
            { ValueKind: JsonValueKind.String } s
                when long.TryParse(
                    s.GetString(),
                    System.Globalization.NumberStyles.None,
                    System.Globalization.CultureInfo.InvariantCulture,
                    out var value
                ) => value,
            _ => null,
        };

    public static bool? Flag(this JsonElement? from, string name) =>
        from.Get(name) switch
        {
            { ValueKind: JsonValueKind.True } => true,
            { ValueKind: JsonValueKind.False } => false,
            _ => null,
        };

    /// <summary>A list, or the one thing that stands in its place.</summary>
    public static IEnumerable<JsonElement?> Several(this JsonElement? from, string name) =>
        from.Get(name) switch
        {
            { ValueKind: JsonValueKind.Array } => from.Items(name),
            { } one => [one],
            null => [],
        };

    public static IEnumerable<JsonElement?> Items(this JsonElement? from, string name) =>
        from.Get(name) is { ValueKind: JsonValueKind.Array } list
            ? list.EnumerateArray().Select(e => (JsonElement?)e)
            : [];
}
