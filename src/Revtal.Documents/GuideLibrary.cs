using System.IO.Compression;
using System.Text;
using Revtal.Core;

namespace Revtal.Documents;

/// <summary>
/// All guides in one ZIP file: <c>guides/CODE.yaml</c> and <c>pictures/HASH.jpg</c>. Read whole before anything is done
/// with it.
/// </summary>
/// <param name="Pictures">Files as they came, under the hash by which the guides name them.</param>
public sealed record GuideLibrary(
    IReadOnlyList<(string Name, string Yaml)> Guides,
    IReadOnlyList<(string Hash, byte[] File)> Pictures
)
{
    /// <summary>The largest library, in bytes as it is sent.</summary>
    public const int Largest = 64 << 20;

    // What it may unfold to, whatever its directory claims.
    private const long MostBytes = 256L << 20;
    private const int MostFiles = 2_000;

    /// <exception cref="RefusedException">No ZIP file, too much in it, or a file that belongs to no
    /// library.</exception>
    public static GuideLibrary Read(Stream zip)
    {
        try
        {
            using var archive = new ZipArchive(zip, ZipArchiveMode.Read);
            var files = archive.Entries.Where(e => !e.FullName.EndsWith('/')).ToArray();
            if (files.Length > MostFiles)
            {
                throw RefusedException.Invalid(
                    "library-too-large",
                    $"The library has {files.Length} files; it may have {MostFiles}."
                );
            }

            var left = MostBytes;
            var guides = new List<(string, string)>();
            var pictures = new List<(string, byte[])>();
            foreach (var file in files)
            {
                switch (Path.GetDirectoryName(file.FullName), Path.GetExtension(file.Name))
                {
                    case ("guides", ".yaml"):
                        guides.Add(
                            (file.FullName, Encoding.UTF8.GetString(Unfold(file, GuideYaml.Longest * 4L, ref left)))
                        );
                        break;
                    case ("pictures", ".jpg"):
                        pictures.Add(Proved(file, Unfold(file, Documents.Pictures.Largest, ref left)));
                        break;
                    default:
                        throw RefusedException.Invalid(
                            "library-file",
                            $"“{file.FullName}” belongs to no library. It holds guides/CODE.yaml and "
                                + "pictures/HASH.jpg alone."
                        );
                }
            }

            return new GuideLibrary(guides, pictures);
        }
        catch (InvalidDataException)
        {
            throw RefusedException.Invalid("library-unreadable", "This is no ZIP file, or a damaged one.");
        }
    }

    /// <summary>A guide as a file of a library.</summary>
    public static (string Path, byte[] Content) Guide(string code, string yaml) =>
        ($"guides/{code}.yaml", Encoding.UTF8.GetBytes(yaml));

    /// <summary>A picture as a file of a library.</summary>
    public static (string Path, byte[] Content) Picture(string hash, byte[] jpeg) => ($"pictures/{hash}.jpg", jpeg);

    /// <summary>Writes a library, a file at a time.</summary>
    public static async Task WriteAsync(
        Stream to,
        IAsyncEnumerable<(string Path, byte[] Content)> files,
        CancellationToken cancel = default
    )
    {
        await using var archive = await ZipArchive.CreateAsync(
            to,
            ZipArchiveMode.Create,
            leaveOpen: true,
            null,
            cancel
        );
        await foreach (var (path, content) in files.WithCancellation(cancel))
        {
            // A JPEG does not get smaller.
            var level = path.EndsWith(".jpg", StringComparison.Ordinal)
                ? CompressionLevel.NoCompression
                : CompressionLevel.Optimal;
            await using var entry = await archive.CreateEntry(path, level).OpenAsync(cancel);
            await entry.WriteAsync(content, cancel);
        }
    }

    private static (string, byte[]) Proved(ZipArchiveEntry file, byte[] bytes) =>
        Documents.Pictures.HashOf(bytes) is var hash && hash == Path.GetFileNameWithoutExtension(file.Name)
            ? (hash, bytes)
            : throw RefusedException.Invalid(
                "library-picture",
                $"“{file.FullName}” is not the picture that its name says."
            );

    private static byte[] Unfold(ZipArchiveEntry file, long most, ref long left)
    {
        using var stream = file.Open();
        var bytes = new MemoryStream();
        var buffer = new byte[81_920];
        for (int read; (read = stream.Read(buffer)) > 0; )
        {
            left -= read;
            if (bytes.Length + read > most || left < 0)
            {
                throw RefusedException.Invalid("library-too-large", $"“{file.FullName}” is larger than is taken.");
            }

            bytes.Write(buffer, 0, read);
        }

        return bytes.ToArray();
    }
}
