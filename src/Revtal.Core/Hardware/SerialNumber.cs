namespace Revtal.Core.Hardware;

/// <summary>Serial numbers as people and systems write them, made comparable.</summary>
public static class SerialNumber
{
    /// <summary>
    /// Whether two serials are of one thing; null where that cannot be told. Padding and letter case make no other
    /// serial, nor do letters changed over in pairs, as some systems hand over the words of an ATA identity (ACS-4
    /// 7.13.7.2). An NVMe namespace's identifier, four hexadecimal digits a group and a dot at the end, is no serial:
    /// it is compared with its own kind only.
    /// </summary>
    public static bool? Same(string? a, string? b)
    {
        var (x, y) = (Plain(a), Plain(b));
        return x is null || y is null || IsIdentifier(x) != IsIdentifier(y)
            ? null
            : x == y || Swapped(x).Contains(y) || Swapped(y).Contains(x);
    }

    /// <summary>Without padding, in capitals; null where there is none, or one that a maker left blank.</summary>
    public static string? Plain(string? serial) =>
        serial?.Trim().ToUpperInvariant() is { Length: > 0 } text && text.Any(c => c is not ('0' or '-' or ' ' or '.'))
            ? text
            : null;

    private static bool IsIdentifier(string serial) =>
        serial.EndsWith('.') && serial[..^1].Split('_') is { Length: > 1 } groups && groups.All(IsGroup);

    private static bool IsGroup(string group) => group.Length == 4 && group.All(char.IsAsciiHexDigitUpper);

    // Where the padding was, nobody sees any more: it may have stood before or behind.
    private static string[] Swapped(string serial) =>
        [
            Swap(serial.Length % 2 == 0 ? serial : serial + ' '),
            Swap(' ' + serial + (serial.Length % 2 == 0 ? " " : "")),
        ];

    private static string Swap(string even) =>
        string.Create(
                even.Length,
                even,
                static (to, from) =>
                {
                    for (var i = 0; i < from.Length; i += 2)
                    {
                        (to[i], to[i + 1]) = (from[i + 1], from[i]);
                    }
                }
            )
            .Trim();
}
