using QRCoder;

namespace Revtal.Documents;

/// <summary>A QR code (ISO/IEC 18004) by itself, to be shown or printed.</summary>
public static class QrPicture
{
    private const int DotPixels = 6;

    /// <summary>A PNG with the quiet zone of four modules, error correction M.</summary>
    public static byte[] Png(string text)
    {
        using var generator = new QRCodeGenerator();
        using var code = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M);
        using var picture = new PngByteQRCode(code);
        return picture.GetGraphic(DotPixels);
    }
}
