using QRCoder;
using SkiaSharp;

namespace Revtal.Documents.Papers;

/// <summary>A QR code (ISO/IEC 18004), error correction M.</summary>
public static class QrPicture
{
    private const int DotPixels = 6;

    /// <summary>A PNG with the quiet zone of four modules, to be shown or printed by itself.</summary>
    public static byte[] Png(string text)
    {
        using var generator = new QRCodeGenerator();
        using var code = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M);
        using var picture = new PngByteQRCode(code);
        return picture.GetGraphic(DotPixels);
    }

    internal static void Draw(SKCanvas canvas, string text, float x, float y, float size)
    {
        using var generator = new QRCodeGenerator();
        using var code = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M);
        var modules = code.ModuleMatrix;
        var dot = size / modules.Count;
        using var black = new SKPaint { Color = SKColors.Black };
        for (var row = 0; row < modules.Count; row++)
        {
            for (var column = 0; column < modules.Count; column++)
            {
                if (modules[row][column])
                {
                    canvas.DrawRect(x + (column * dot), y + (row * dot), dot + 0.05f, dot + 0.05f, black);
                }
            }
        }
    }
}
