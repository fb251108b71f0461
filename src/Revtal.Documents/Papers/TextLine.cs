using System.Collections.Concurrent;
using System.Globalization;
using System.Text;
using SkiaSharp;
using SkiaSharp.HarfBuzz;

namespace Revtal.Documents.Papers;

/// <summary>How a text is written.</summary>
/// <param name="Size">In points.</param>
internal readonly record struct Style(Weight Weight, float Size)
{
    /// <summary>From one line to the next, in points.</summary>
    public float Line => Size * 1.28f;
}

/// <summary>
/// A text on one line: cut into stretches of one face and one direction, each shaped by HarfBuzz, set side by side as
/// they are read. The line runs from left to right; what is written from right to left (UAX #9, classes R and AL)
/// keeps its order within it, and numbers in there keep theirs.
/// </summary>
internal sealed class TextLine
{
    private static readonly ConcurrentDictionary<SKTypeface, SKShaper> Shapers = new();

    private readonly Style style;
    private readonly List<(SKTypeface Face, SKShaper.Result Shape)> stretches = [];

    public TextLine(string text, Style style)
    {
        this.style = style;
        foreach (var (part, face) in Ordered(Cut(text, style.Weight)))
        {
            using var font = Font(face, style.Size);
            var shape = Shape(face, part, font);
            stretches.Add((face, shape));
            Width += shape.Width;
        }
    }

    /// <summary>In points.</summary>
    public float Width { get; }

    /// <param name="x">Its left edge.</param>
    /// <param name="y">The line that its letters stand on.</param>
    public void Draw(SKCanvas canvas, float x, float y, SKPaint paint)
    {
        foreach (var (face, shape) in stretches)
        {
            using var font = Font(face, style.Size);
            using var builder = new SKTextBlobBuilder();
            builder.AddPositionedRun([.. shape.Codepoints.Select(g => (ushort)g)], font, shape.Points);
            using var blob = builder.Build();
            if (blob is not null)
            {
                canvas.DrawText(blob, x, y, paint);
            }

            x += shape.Width;
        }
    }

    // HarfBuzz's own objects are not for two at once.
    private static SKShaper.Result Shape(SKTypeface face, string text, SKFont font)
    {
        var shaper = Shapers.GetOrAdd(face, f => new SKShaper(f));
        lock (shaper)
        {
            return shaper.Shape(text, font);
        }
    }

    private enum Way
    {
        /// <summary>Letters from left to right, or what takes no side where no side is taken.</summary>
        Right,

        /// <summary>Letters from right to left.</summary>
        Left,

        /// <summary>Digits, which run rightwards wherever they stand.</summary>
        Digits,

        /// <summary>Blanks and marks, which go with their neighbours.</summary>
        Either,
    }

    private static List<(string Text, SKTypeface Face, Way Way)> Cut(string text, Weight weight)
    {
        var cut = new List<(string Text, SKTypeface Face, Way Way)>();
        var runsLeft = false;
        var elements = StringInfo.GetTextElementEnumerator(text);
        while (elements.MoveNext())
        {
            var element = elements.GetTextElement();
            var rune = Rune.TryGetRuneAt(element, 0, out var first) ? first : Rune.ReplacementChar;
            var last = cut.Count > 0 ? cut[^1] : default;
            var way = WayOf(rune, last.Way, text.AsSpan(elements.ElementIndex + element.Length));
            // Digits go with letters that run rightwards (W7).
            runsLeft = way == Way.Left || (runsLeft && way != Way.Right);
            way = way == Way.Digits && !runsLeft ? Way.Right : way;
            // A blank changes no face: words of one script are shaped together.
            var face =
                way == Way.Either && last.Face?.ContainsGlyph(rune.Value) == true
                    ? last.Face
                    : Faces.Of(rune, weight, text);
            if (cut.Count > 0 && last.Face == face && (last.Way == way || (last.Way, way) is (Way.Right, Way.Either)))
            {
                cut[^1] = (last.Text + element, face, last.Way);
            }
            else
            {
                cut.Add((element, face, way));
            }
        }

        return cut;
    }

    // What lies between two stretches to the left is of them, and all of it is read from its right end.
    private static IEnumerable<(string Text, SKTypeface Face)> Ordered(
        List<(string Text, SKTypeface Face, Way Way)> cut
    )
    {
        for (var i = 0; i < cut.Count; i++)
        {
            if (cut[i].Way != Way.Left)
            {
                yield return (cut[i].Text, cut[i].Face);
                continue;
            }

            var end = i;
            for (var j = i + 1; j < cut.Count && cut[j].Way != Way.Right; j++)
            {
                end = cut[j].Way is Way.Left or Way.Digits ? j : end;
            }

            for (var j = end; j >= i; j--)
            {
                yield return (cut[j].Text, cut[j].Face);
            }

            i = end;
        }
    }

    private static Way WayOf(Rune rune, Way last, ReadOnlySpan<char> next) =>
        rune.Value is (>= 0x0590 and <= 0x08FF) or (>= 0xFB1D and <= 0xFDFF) or (>= 0xFE70 and <= 0xFEFF)
            ? (Rune.IsDigit(rune) ? Way.Digits : Way.Left)
        : Rune.IsDigit(rune) ? Way.Digits
        : Rune.IsLetter(rune) ? Way.Right
        // A mark between two digits is of the number (W4).
        : last == Way.Digits && rune.Value is ('.' or ',' or ':' or '/') && next is [>= '0' and <= '9', ..] ? Way.Digits
        : Way.Either;

    // A page has no pixels that letters should snap to.
    private static SKFont Font(SKTypeface face, float size) =>
        new(face, size)
        {
            Hinting = SKFontHinting.None,
            LinearMetrics = true,
            Subpixel = true,
        };
}
