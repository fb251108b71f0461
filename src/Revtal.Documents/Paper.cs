using SkiaSharp;

namespace Revtal.Documents;

/// <summary>A4 pages written from top to bottom, in points. What does not fit goes on the next page whole.</summary>
internal sealed class Paper : IDisposable
{
    public const float Width = 595,
        Height = 842,
        Margin = 42;

    private static readonly SKTypeface TextFace = Face("text"),
        BoldFace = Face("bold"),
        MonoFace = Face("mono");

    private readonly MemoryStream bytes = new();
    private readonly SKDocument document;
    private readonly string foot;
    private int page;

    public Paper(string title, string foot)
    {
        this.foot = foot;
        document = SKDocument.CreatePdf(bytes, new SKDocumentPdfMetadata { Title = title, Creator = "Revtal" });
        Turn();
    }

    public SKCanvas Canvas { get; private set; } = null!;

    public float Y { get; set; }

    public static SKFont Text(float size) => Font(TextFace, size);

    public static SKFont Bold(float size) => Font(BoldFace, size);

    public static SKFont Mono(float size) => Font(MonoFace, size);

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

    /// <summary>Goes to the next page unless so much room is left on this one.</summary>
    public void Need(float room)
    {
        if (Y + room > Height - Margin - 14)
        {
            Turn();
        }
    }

    /// <summary>The text in lines no wider than asked.</summary>
    public static List<string> Wrap(string text, SKFont font, float width)
    {
        var lines = new List<string>();
        var line = "";
        foreach (var word in text.Split(' ', '\n'))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (line.Length > 0 && font.MeasureText(longer) > width)
            {
                lines.Add(line);
                line = word;
            }
            else
            {
                line = longer;
            }
        }

        lines.Add(line);
        return lines;
    }

    /// <summary>Writes wrapped text and moves down behind it.</summary>
    public void Write(string text, float x, float width, SKFont font, SKPaint paint)
    {
        foreach (var line in Wrap(text, font, width))
        {
            Y += font.Size * 1.28f;
            Canvas.DrawText(line, x, Y - (font.Size * 0.28f), font, paint);
        }
    }

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

    private void Turn()
    {
        if (page > 0)
        {
            document.EndPage();
        }

        Canvas = document.BeginPage(Width, Height);
        Y = Margin;
        page++;
        using var font = Text(8);
        Canvas.DrawText(foot, Margin, Height - Margin + 12, font, Grey);
        Canvas.DrawText($"page {page}", Width - Margin, Height - Margin + 12, SKTextAlign.Right, font, Grey);
    }

    // A page has no pixels that letters should snap to.
    private static SKFont Font(SKTypeface face, float size) =>
        new(face, size)
        {
            Hinting = SKFontHinting.None,
            LinearMetrics = true,
            Subpixel = true,
        };

    private static SKTypeface Face(string name) =>
        SKTypeface.FromFile(Path.Combine(AppContext.BaseDirectory, "fonts", $"{name}.woff")) ?? SKTypeface.Default;
}
