using QRCoder;
using SkiaSharp;

namespace Revtal.Documents;

/// <summary>
/// A4 pages written from top to bottom, in points. Text is wrapped and turns the page by itself; a block that is told
/// to stay together goes on the next page whole.
/// </summary>
internal sealed class Paper : IDisposable
{
    public const float Width = 595,
        Height = 842,
        Margin = 42;
    private const float Foot = Height - Margin - 14;

    private static readonly SKTypeface TextFace = Face("text"),
        BoldFace = Face("bold"),
        MonoFace = Face("mono");

    private readonly MemoryStream bytes = new();
    private readonly SKDocument document;
    private readonly string foot;
    private int page;
    private bool measuring;

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
        if (!measuring && Y + room > Foot)
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
        if (height > Foot - Margin)
        {
            write();
            return;
        }

        Need(height);
        Canvas.DrawPicture(block, 0, Y);
        Y += height;
    }

    /// <summary>The text on one line, cut where it is wider.</summary>
    public static string Cut(string text, SKFont font, float width) =>
        font.MeasureText(text) <= width ? text : $"{text[..font.BreakText(text, width - font.MeasureText("…"))]}…";

    private static List<string> Wrap(string text, SKFont font, float width)
    {
        var lines = new List<string>();
        var line = "";
        foreach (var word in text.Split(' ', '\n').SelectMany(w => Pieces(w, font, width)))
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

    // A word that no line holds is broken where it must be.
    private static IEnumerable<string> Pieces(string word, SKFont font, float width)
    {
        while (font.MeasureText(word) > width)
        {
            var fits = Math.Max(1, font.BreakText(word, width));
            var cut = char.IsHighSurrogate(word[fits - 1]) && fits < word.Length ? fits + 1 : fits;
            yield return word[..cut];
            word = word[cut..];
        }

        yield return word;
    }

    /// <summary>Writes wrapped text and moves down behind it.</summary>
    public void Write(string text, float x, float width, SKFont font, SKPaint paint)
    {
        foreach (var line in Wrap(text, font, width))
        {
            Need(font.Size * 1.28f);
            Y += font.Size * 1.28f;
            Canvas.DrawText(line, x, Y - (font.Size * 0.28f), font, paint);
        }
    }

    /// <summary>Draws a QR code (ISO/IEC 18004), error correction M.</summary>
    /// <param name="x">Its left edge.</param>
    /// <param name="y">Its upper edge.</param>
    /// <param name="size">Of a side.</param>
    public void Code(string text, float x, float y, float size)
    {
        using var generator = new QRCodeGenerator();
        var modules = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M).ModuleMatrix;
        var dot = size / modules.Count;
        using var black = new SKPaint { Color = SKColors.Black };
        for (var row = 0; row < modules.Count; row++)
        {
            for (var column = 0; column < modules.Count; column++)
            {
                if (modules[row][column])
                {
                    Canvas.DrawRect(x + (column * dot), y + (row * dot), dot + 0.05f, dot + 0.05f, black);
                }
            }
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
        var room = Width - Margin - Margin - 60;
        Canvas.DrawText(Cut(foot, font, room), Margin, Height - Margin + 12, font, Grey);
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
