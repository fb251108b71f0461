using System.Globalization;
using SkiaSharp;

namespace Revtal.Documents.Papers;

/// <summary>The sheets that papers are printed on.</summary>
public enum PaperSize
{
    /// <summary>210 × 297 mm (ISO 216).</summary>
    A4,

    /// <summary>8.5 × 11 inches (ANSI/ASME Y14.1).</summary>
    Letter,
}

/// <summary>Whose paper it is, when it is printed and on what.</summary>
/// <param name="Shop">As the shop calls itself.</param>
/// <param name="Zone">The bench's.</param>
public sealed record Printing(string Shop, DateTimeOffset Now, TimeZoneInfo Zone, PaperSize Size = PaperSize.A4)
{
    /// <summary>“2026-03-02 10:30”, as the bench's clock has it.</summary>
    public string Minute(DateTimeOffset at) =>
        TimeZoneInfo.ConvertTime(at, Zone).ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture);

    /// <summary>“2026-03-02”.</summary>
    public string Day(DateTimeOffset at) => Minute(at)[..10];
}

/// <summary>
/// Pages written from top to bottom, in points. Text is wrapped and turns the page by itself; a block that is told to
/// stay together goes on the next page whole.
/// </summary>
internal sealed class Paper : IDisposable
{
    public const float Margin = 42;

    private readonly MemoryStream bytes = new();
    private readonly SKDocument document;
    private readonly string foot;
    private int page;
    private bool measuring;

    /// <param name="foot">Stands under each page.</param>
    public Paper(string title, string foot, Printing printing)
    {
        this.foot = foot;
        (Width, Height) = printing.Size == PaperSize.Letter ? (612, 792) : (595, 842);
        document = SKDocument.CreatePdf(
            bytes,
            new SKDocumentPdfMetadata
            {
                Title = title,
                Author = printing.Shop,
                Subject = foot,
                Creator = "Revtal",
                Creation = printing.Now.UtcDateTime,
                Modified = printing.Now.UtcDateTime,
            }
        );
        Turn();
    }

    public float Width { get; }

    public float Height { get; }

    /// <summary>Where what is written ends; it begins at <see cref="Margin"/>.</summary>
    public float Right => Width - Margin;

    public SKCanvas Canvas { get; private set; } = null!;

    public float Y { get; set; }

    private float Bottom => Height - Margin - 14;

    /// <summary>What stands under the pages of an order's paper.</summary>
    public static string Foot(int order, Printing printing) =>
        $"{printing.Shop} · order {order} · printed {printing.Minute(printing.Now)}";

    public static Style Text(float size) => new(Weight.Text, size);

    public static Style Bold(float size) => new(Weight.Bold, size);

    public static Style Mono(float size) => new(Weight.Mono, size);

    public static SKPaint Ink { get; } = new() { Color = new SKColor(0x1B, 0x24, 0x26), IsAntialias = true };

    public static SKPaint Grey { get; } = new() { Color = new SKColor(0x56, 0x64, 0x6A), IsAntialias = true };

    public static SKPaint Line { get; } =
        new()
        {
            Color = new SKColor(0x1B, 0x24, 0x26),
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            StrokeWidth = 0.9f,
        };

    public static SKPaint Hair { get; } =
        new()
        {
            Color = new SKColor(0xB8, 0xB2, 0xA2),
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            StrokeWidth = 0.6f,
        };

    public static SKPaint Solid { get; } = new() { Color = new SKColor(0x2E, 0x46, 0x44), IsAntialias = true };

    public static SKPaint White { get; } = new() { Color = SKColors.White, IsAntialias = true };

    /// <summary>Around what is not as it should be.</summary>
    public static SKPaint Thick { get; } =
        new()
        {
            Color = new SKColor(0x1B, 0x24, 0x26),
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            StrokeWidth = 2.2f,
        };

    /// <summary>Goes to the next page unless so much room is left on this one.</summary>
    public void Need(float room)
    {
        if (!measuring && Y + room > Bottom)
        {
            Turn();
        }
    }

    /// <summary>
    /// Writes a block whole on one page. It is drawn once beside the page to see how high it is, so nobody guesses;
    /// what is higher than a page flows over the turn.
    /// </summary>
    public void Together(Action write)
    {
        if (measuring)
        {
            write();
            return;
        }

        var (sheet, top) = (Canvas, Y);
        using var recorder = new SKPictureRecorder();
        (Canvas, Y, measuring) = (recorder.BeginRecording(SKRect.Create(Width, float.MaxValue)), 0, true);
        write();
        using var block = recorder.EndRecording();
        var height = Y;
        (Canvas, Y, measuring) = (sheet, top, false);
        if (height > Bottom - Margin)
        {
            write();
            return;
        }

        Need(height);
        Canvas.DrawPicture(block, 0, Y);
        Y += height;
    }

    /// <summary>The text on one line, cut where it is wider.</summary>
    public static string Cut(string text, Style style, float width) =>
        new TextLine(text, style).Width <= width
            ? text
            : $"{Fitting(text, style, width - new TextLine("…", style).Width)}…";

    /// <summary>Writes wrapped text and moves down behind it.</summary>
    public void Write(string text, float x, float width, Style style, SKPaint paint)
    {
        foreach (var line in Wrap(text, style, width))
        {
            Need(style.Line);
            Y += style.Line;
            line.Draw(Canvas, x, Y - (style.Size * 0.28f), paint);
        }
    }

    /// <summary>Writes one line beside what was written, at a height of its own.</summary>
    /// <param name="y">The line that its letters stand on.</param>
    public void Beside(string text, float x, float y, Style style, SKPaint paint) =>
        new TextLine(text, style).Draw(Canvas, x, y, paint);

    /// <inheritdoc cref="Beside"/>
    /// <param name="right">Where it ends.</param>
    public void BesideRight(string text, float right, float y, Style style, SKPaint paint)
    {
        var line = new TextLine(text, style);
        line.Draw(Canvas, right - line.Width, y, paint);
    }

    /// <summary>A heading of a part; never the last line of a page.</summary>
    public void Heading(string title)
    {
        Need(44);
        Y += 14;
        Write(title.ToUpperInvariant(), Margin, Right - Margin, Bold(9), Grey);
        Y += 2;
    }

    /// <summary>A row of a table: each cell wrapped in its column, the next row under the highest.</summary>
    /// <param name="columns">Left edges, and the right edge of the last.</param>
    /// <param name="cells">One a column at most.</param>
    public void Row(IReadOnlyList<float> columns, IReadOnlyList<string> cells, Style style, SKPaint paint) =>
        Together(() =>
        {
            var (top, bottom) = (Y, Y);
            for (var i = 0; i < cells.Count; i++)
            {
                Y = top;
                Write(cells[i], columns[i], columns[i + 1] - columns[i] - 8, style, paint);
                bottom = Math.Max(bottom, Y);
            }

            Y = bottom + 2;
        });

    /// <summary>Draws a QR code (ISO/IEC 18004), error correction M.</summary>
    /// <param name="x">Its left edge.</param>
    /// <param name="y">Its upper edge.</param>
    /// <param name="size">Of a side.</param>
    public void Code(string text, float x, float y, float size) => QrPicture.Draw(Canvas, text, x, y, size);

    public byte[] Finish()
    {
        document.EndPage();
        document.Close();
        return bytes.ToArray();
    }

    public void Dispose()
    {
        document.Dispose();
        bytes.Dispose();
    }

    private static List<TextLine> Wrap(string text, Style style, float width)
    {
        var lines = new List<string>();
        var (line, filled) = ("", 0f);
        var blank = new TextLine(" ", style).Width;
        foreach (var word in text.Split(' ', '\n').SelectMany(w => Pieces(w, style, width)))
        {
            var wide = new TextLine(word, style).Width;
            if (line.Length > 0 && filled + blank + wide > width)
            {
                lines.Add(line);
                (line, filled) = (word, wide);
            }
            else
            {
                (line, filled) = line.Length == 0 ? (word, wide) : ($"{line} {word}", filled + blank + wide);
            }
        }

        lines.Add(line);
        return [.. lines.Select(l => new TextLine(l, style))];
    }

    // A word that no line holds is broken where it must be.
    private static IEnumerable<string> Pieces(string word, Style style, float width)
    {
        while (new TextLine(word, style).Width > width)
        {
            var fits = Fitting(word, style, width);
            yield return fits;
            word = word[fits.Length..];
        }

        yield return word;
    }

    // As many letters as fit, and one at least; marks stay with their letter.
    private static string Fitting(string text, Style style, float width)
    {
        var starts = StringInfo.ParseCombiningCharacters(text);
        var (fits, over) = (1, starts.Length);
        while (over - fits > 1)
        {
            var middle = (fits + over) / 2;
            (fits, over) = new TextLine(text[..starts[middle]], style).Width <= width ? (middle, over) : (fits, middle);
        }

        return fits < starts.Length ? text[..starts[fits]] : text;
    }

    private void Turn()
    {
        if (page > 0)
        {
            document.EndPage();
        }

        Canvas = document.BeginPage(Width, Height);
        Y = Margin;
        page++;
        var style = Text(8);
        Beside(Cut(foot, style, Right - Margin - 60), Margin, Height - Margin + 12, style, Grey);
        BesideRight($"page {page}", Right, Height - Margin + 12, style, Grey);
    }
}
