using System.Security.Cryptography;
using Revtal.Core;
using SkiaSharp;

namespace Revtal.Documents;

/// <summary>A picture made ready to keep: JPEG, upright, without what the camera wrote into it.</summary>
/// <param name="Hash">SHA-256 of <paramref name="Content"/>, lower-case hexadecimal.</param>
/// <param name="Small">At most 480 pixels on its longer side.</param>
public sealed record Picture(string Hash, byte[] Content, byte[] Small, int Width, int Height);

/// <summary>Takes photos in: JPEG, PNG or WebP.</summary>
public static class Pictures
{
    /// <summary>The largest file, in bytes.</summary>
    public const int Largest = 12 << 20;

    // A small file can unfold to a huge picture; the header tells before anything is unfolded.
    private const long MostPixels = 60_000_000;
    private const int LongestSide = 2048,
        SmallSide = 480,
        Quality = 82;

    /// <summary>
    /// Decodes, turns upright, bounds the size and encodes anew; position and camera data do not survive that.
    /// </summary>
    /// <exception cref="RefusedException">Too large, no picture, cut off, or too many pixels.</exception>
    public static Picture Make(byte[] file)
    {
        if (file.Length > Largest)
        {
            throw RefusedException.Invalid("picture-too-large", "The picture is larger than 12 MB. Send it smaller.");
        }

        using var data = SKData.CreateCopy(file);
        using var codec = SKCodec.Create(data);
        if (
            codec?.EncodedFormat
            is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png or SKEncodedImageFormat.Webp)
        )
        {
            throw RefusedException.Invalid("picture-unreadable", "This is no JPEG, PNG or WebP picture.");
        }

        if ((long)codec.Info.Width * codec.Info.Height is > MostPixels or <= 0)
        {
            throw RefusedException.Invalid(
                "picture-too-many-pixels",
                $"The picture has {codec.Info.Width} × {codec.Info.Height} pixels; at most 60 million are taken. Send "
                    + "it smaller."
            );
        }

        using var raw = new SKBitmap(codec.Info.WithColorType(SKColorType.Rgba8888).WithAlphaType(SKAlphaType.Premul));
        if (codec.GetPixels(raw.Info, raw.GetPixels()) != SKCodecResult.Success)
        {
            throw RefusedException.Invalid("picture-cut-off", "The picture is damaged or cut off. Take it again.");
        }

        using var image = SKImage.FromBitmap(raw);
        var content = Encode(image, codec.EncodedOrigin, LongestSide, out var size);
        return new Picture(
            HashOf(content),
            content,
            Encode(image, codec.EncodedOrigin, SmallSide, out _),
            size.Width,
            size.Height
        );
    }

    /// <summary>By which guides and photos name it: SHA-256, lower-case hexadecimal.</summary>
    public static string HashOf(byte[] jpeg) => Convert.ToHexStringLower(SHA256.HashData(jpeg));

    private static byte[] Encode(SKImage image, SKEncodedOrigin origin, int longest, out SKSizeI size)
    {
        var turned =
            origin
            is SKEncodedOrigin.LeftTop
                or SKEncodedOrigin.RightTop
                or SKEncodedOrigin.RightBottom
                or SKEncodedOrigin.LeftBottom;
        var scale = Math.Min(1f, (float)longest / Math.Max(image.Width, image.Height));
        var (w, h) = (
            Math.Max(1, (int)Math.Round(image.Width * scale)),
            Math.Max(1, (int)Math.Round(image.Height * scale))
        );
        size = turned ? new SKSizeI(h, w) : new SKSizeI(w, h);
        using var surface = SKSurface.Create(new SKImageInfo(size.Width, size.Height));
        surface.Canvas.Clear(SKColors.White);
        surface.Canvas.Concat(Upright(origin, w, h));
        surface.Canvas.DrawImage(
            image,
            new SKRect(0, 0, w, h),
            new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)
        );
        using var drawn = surface.Snapshot();
        return drawn.Encode(SKEncodedImageFormat.Jpeg, Quality).ToArray();
    }

    // Exif 2.32, tag 0x0112: where the first row and column of the stored picture lie.
    private static SKMatrix Upright(SKEncodedOrigin origin, float w, float h) =>
        origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
            SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
            _ => SKMatrix.Identity,
        };
}
