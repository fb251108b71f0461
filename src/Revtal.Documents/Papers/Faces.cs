using System.Collections.Concurrent;
using System.Globalization;
using System.Text;
using System.Text.Json;
using SkiaSharp;

namespace Revtal.Documents.Papers;

/// <summary>How heavy a text is, and whether its letters stand in columns.</summary>
internal enum Weight
{
    Text,
    Bold,
    Mono,
}

/// <summary>
/// The faces that papers are written in: the shop's own, and Noto's for the letters that those lack. Noto comes cut
/// into files by ranges of Unicode, of which one is opened when a text first needs it.
/// </summary>
internal static class Faces
{
    private const string Japanese = "noto-sans-jp",
        Korean = "noto-sans-kr",
        Chinese = "noto-sans-sc";

    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "fonts");

    private static readonly ConcurrentDictionary<string, SKTypeface?> Opened = new();

    private static readonly Dictionary<string, Lazy<Piece[]>> Families = new[]
    {
        "noto-sans",
        "noto-sans-hebrew",
        "noto-sans-arabic",
        Chinese,
        Japanese,
        Korean,
    }.ToDictionary(f => f, f => new Lazy<Piece[]>(() => Pieces(f)));

    /// <summary>A file of a family, and the code points that it is for.</summary>
    private sealed record Piece(string Name, IReadOnlyList<(int From, int To)> Ranges)
    {
        public bool Holds(int point) => Ranges.Any(r => r.From <= point && point <= r.To);
    }

    /// <summary>The shop's own face.</summary>
    public static SKTypeface Own(Weight weight) => Open(weight.ToString().ToLowerInvariant()) ?? SKTypeface.Default;

    /// <summary>A face that has this letter; the shop's own where none has, which shows a box.</summary>
    /// <param name="text">The whole text: which of its East Asian forms a sign takes is seen by its neighbours.</param>
    public static SKTypeface Of(Rune rune, Weight weight, string text)
    {
        var own = Own(weight);
        return own.ContainsGlyph(rune.Value)
            ? own
            : Order(text).Select(f => Holding(f, rune.Value, weight)).FirstOrDefault(t => t is not null) ?? own;
    }

    // One code point is written otherwise in Chinese, Japanese and Korean.
    private static IEnumerable<string> Order(string text)
    {
        var first =
            text.Any(c => c is >= '\u3040' and <= '\u30FF') ? Japanese
            : text.Any(c => c is >= '\uAC00' and <= '\uD7A3' or >= '\u1100' and <= '\u11FF') ? Korean
            : Chinese;
        return Families.Keys.OrderBy(f => f is Chinese or Japanese or Korean ? (f == first ? 1 : 2) : 0);
    }

    private static SKTypeface? Holding(string family, int point, Weight weight) =>
        Families[family]
            .Value.Where(p => p.Holds(point))
            .SelectMany(p => Heavier(weight).Select(w => $"{family}/files/{p.Name}-{w}-normal"))
            .Select(Open)
            .FirstOrDefault(t => t?.ContainsGlyph(point) == true);

    // Of East Asian letters only the plain ones are there.
    private static int[] Heavier(Weight weight) => weight == Weight.Bold ? [700, 400] : [400];

    private static SKTypeface? Open(string name) =>
        Opened.GetOrAdd(
            name,
            n => Path.Combine(Folder, $"{n}.woff") is var file && File.Exists(file) ? Woff.Open(file) : null
        );

    // “latin” is a file of that name, “[12]” is number 12.
    private static Piece[] Pieces(string family)
    {
        var file = Path.Combine(Folder, family, "unicode.json");
        if (!File.Exists(file))
        {
            return [];
        }

        using var ranges = JsonDocument.Parse(File.ReadAllBytes(file));
        return
        [
            .. ranges
                .RootElement.EnumerateObject()
                .Select(p => new Piece(
                    $"{family}-{p.Name.Trim('[', ']')}",
                    [.. p.Value.GetString()!.Split(',').Select(Range)]
                )),
        ];
    }

    // “U+25CC”, “U+0590-05FF”.
    private static (int From, int To) Range(string text)
    {
        var ends = text.Trim()[2..].Split('-');
        return (Hex(ends[0]), Hex(ends[^1]));

        static int Hex(string digits) => int.Parse(digits, NumberStyles.HexNumber, CultureInfo.InvariantCulture);
    }
}
