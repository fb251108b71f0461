using System.Text;
using Revtal.Core;
using Revtal.Documents;
using SkiaSharp;
using Xunit;

namespace Revtal.Tests.Documents;

public sealed class PicturesTests
{
    [Theory]
    [InlineData(SKEncodedImageFormat.Jpeg)]
    [InlineData(SKEncodedImageFormat.Png)]
    [InlineData(SKEncodedImageFormat.Webp)]
    public void Each_format_becomes_a_bounded_jpeg(SKEncodedImageFormat format)
    {
        var picture = Pictures.Make(Draw(3000, 1500, format));
        Assert.Equal((2048, 1024), (picture.Width, picture.Height));
        using var content = SKCodec.Create(new MemoryStream(picture.Content));
        using var small = SKCodec.Create(new MemoryStream(picture.Small));
        Assert.Equal(
            (SKEncodedImageFormat.Jpeg, 2048, 480),
            (content.EncodedFormat, content.Info.Width, small.Info.Width)
        );
    }

    // Exif 2.32: 6 is a camera held upright, 8 the other way, 3 upside down. The red corner must end up where it was
    // seen.
    [Theory]
    [InlineData(1, 0, 0)]
    [InlineData(3, 1, 1)]
    [InlineData(6, 1, 0)]
    [InlineData(8, 0, 1)]
    public void A_photo_stands_upright_and_its_place_is_gone(byte orientation, int right, int bottom)
    {
        var file = WithExif(Draw(400, 200, SKEncodedImageFormat.Jpeg), orientation);
        Assert.Contains("GPS-54.1N", Encoding.Latin1.GetString(file), StringComparison.Ordinal);
        var picture = Pictures.Make(file);
        Assert.Equal(orientation is 6 or 8 ? (200, 400) : (400, 200), (picture.Width, picture.Height));
        Assert.DoesNotContain("GPS", Encoding.Latin1.GetString(picture.Content), StringComparison.Ordinal);
        Assert.DoesNotContain("Exif", Encoding.Latin1.GetString(picture.Content), StringComparison.Ordinal);
        using var shown = SKBitmap.Decode(picture.Content);
        var corner = shown.GetPixel(right == 1 ? shown.Width - 10 : 10, bottom == 1 ? shown.Height - 10 : 10);
        Assert.True(corner is { Red: > 200, Blue: < 90 }, $"the corner is {corner}");
    }

    [Fact]
    public void What_is_no_picture_or_a_bomb_is_refused()
    {
        Assert.Equal("picture-unreadable", Code("GIF89a but not really"u8.ToArray()));
        Assert.Equal("picture-unreadable", Code([]));
        Assert.Equal("picture-too-large", Code(new byte[Pictures.Largest + 1]));
        Assert.Equal("picture-cut-off", Code(Draw(400, 200, SKEncodedImageFormat.Png)[..300]));

        // A PNG whose header claims 60,000 × 60,000: 14 GB unfolded.
        var bomb = Draw(8, 8, SKEncodedImageFormat.Png);
        (bomb[16], bomb[17], bomb[18], bomb[19]) = (0, 0, 0xEA, 0x60);
        (bomb[20], bomb[21], bomb[22], bomb[23]) = (0, 0, 0xEA, 0x60);
        FixCrc(bomb);
        Assert.Equal("picture-too-many-pixels", Code(bomb));
    }

    [Fact]
    public async Task A_library_is_read_whole_or_not_at_all()
    {
        var picture = Pictures.Make(Draw(40, 20, SKEncodedImageFormat.Png));
        var zip = await Library(
            GuideLibrary.Guide("FJ14", "a: 1"),
            GuideLibrary.Picture(picture.Hash, picture.Content)
        );
        var read = GuideLibrary.Read(new MemoryStream(zip));
        Assert.Equal(
            ("guides/FJ14.yaml", "a: 1", picture.Hash),
            (read.Guides[0].Name, read.Guides[0].Yaml, read.Pictures[0].Hash)
        );
        var misnamed = await Library(GuideLibrary.Picture(new string('0', 64), picture.Content));
        Assert.Equal("library-unreadable", Refused(() => GuideLibrary.Read(new MemoryStream([1, 2, 3]))));
        Assert.Equal("library-file", Refused(() => GuideLibrary.Read(new MemoryStream(Zip("../etc/x.yaml", "a")))));
        Assert.Equal("library-picture", Refused(() => GuideLibrary.Read(new MemoryStream(misnamed))));
        Assert.Equal(
            "library-too-large",
            Refused(() => GuideLibrary.Read(new MemoryStream(Zip("guides/X.yaml", new string('a', 8 << 20)))))
        );
    }

    private static string Code(byte[] file) => Refused(() => Pictures.Make(file));

    private static string Refused(Func<object> action) => Assert.Throws<RefusedException>(action).Code;

    private static async Task<byte[]> Library(params (string, byte[])[] files)
    {
        var bytes = new MemoryStream();
        await GuideLibrary.WriteAsync(bytes, files.ToAsyncEnumerable());
        return bytes.ToArray();
    }

    private static byte[] Zip(string name, string text)
    {
        var bytes = new MemoryStream();
        using (
            var archive = new System.IO.Compression.ZipArchive(
                bytes,
                System.IO.Compression.ZipArchiveMode.Create,
                leaveOpen: true
            )
        )
        {
            using var entry = new StreamWriter(archive.CreateEntry(name).Open());
            entry.Write(text);
        }

        return bytes.ToArray();
    }

    // Blue, with its upper left corner red.
    private static byte[] Draw(int width, int height, SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(width, height);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.Blue);
        using var red = new SKPaint { Color = SKColors.Red };
        canvas.DrawRect(0, 0, width / 4f, height / 4f, red);
        return bitmap.Encode(format, 95).ToArray();
    }

    // An APP1 segment: a big-endian TIFF header with the orientation tag, and text as a camera writes it.
    private static byte[] WithExif(byte[] jpeg, byte orientation)
    {
        byte[] exif =
        [
            .. "Exif\0\0"u8,
            .. "MM\0*\0\0\0\x08"u8,
            0,
            1,
            0x01,
            0x12,
            0,
            3,
            0,
            0,
            0,
            1,
            0,
            orientation,
            0,
            0,
            0,
            0,
            0,
            0,
            .. "GPS-54.1N"u8,
        ];
        var length = exif.Length + 2;
        return [.. jpeg[..2], 0xFF, 0xE1, (byte)(length >> 8), (byte)length, .. exif, .. jpeg[2..]];
    }

    private static void FixCrc(byte[] png)
    {
        // CRC-32 as PNG has it (ISO 3309), over the chunk's type and data.
        var crc = ~png.AsSpan(12, 17)
            .ToArray()
            .Aggregate(
                0xFFFFFFFFu,
                (sum, b) =>
                    Enumerable.Range(0, 8).Aggregate(sum ^ b, (c, _) => (c & 1) != 0 ? 0xEDB88320u ^ (c >> 1) : c >> 1)
            );
        System.Buffers.Binary.BinaryPrimitives.WriteUInt32BigEndian(png.AsSpan(29), crc);
    }
}
