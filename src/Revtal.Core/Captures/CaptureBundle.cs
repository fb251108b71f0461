namespace Revtal.Core.Captures;

/// <summary>One file inside a bundle.</summary>
/// <param name="Content">Base64 in the JSON.</param>
public sealed record BundleFile(string Name, byte[] Content);

/// <summary>A capture in one JSON document (<c>format: revtal-capture/1</c>, see docs/capture-format.md).</summary>
public sealed record CaptureBundle(string Format, IReadOnlyList<BundleFile> Files)
{
    /// <summary>The format that this version writes.</summary>
    public const string CurrentFormat = "revtal-capture/1";

    /// <summary>
    /// The largest document, in bytes, by whichever way it comes: base64 is a third more than its files.
    /// </summary>
    public const long Largest = CaptureDecoder.LargestCapture * 3L / 2;

    /// <summary>The files as one bundle, base64 inside.</summary>
    public static CaptureBundle Of(IEnumerable<CaptureFile> files) =>
        new(CurrentFormat, [.. files.Select(f => new BundleFile(f.Name, f.Content.ToArray()))]);

    /// <exception cref="RefusedException">It is not such a document.</exception>
    public IReadOnlyList<CaptureFile> ToFiles() =>
        Format == CurrentFormat
            ? [.. (Files ?? []).Select(f => new CaptureFile(f.Name ?? "file", f.Content ?? []))]
            : throw RefusedException.Invalid(
                "bundle-unknown",
                $"The bundle's format is “{Format}”; {CurrentFormat} is read."
            );
}
