using System.Text;
using System.Text.RegularExpressions;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>
/// How each drive is connected: a line a link of Linux's <c>/dev/disk/by-path</c>, the path and the name that the
/// kernel gave the drive at this start. Names change from start to start, paths do not.
/// </summary>
public static partial class DrivePaths
{
    private const int LongestText = 64 << 10,
        MostLines = 500;

    public static bool IsAt(ReadOnlySpan<byte> bytes)
    {
        var end = bytes.IndexOf((byte)'\n');
        return end is > 0 and < 300 && Link().IsMatch(Encoding.UTF8.GetString(bytes[..end]));
    }

    /// <exception cref="RefusedException">It is longer than any machine writes.</exception>
    public static Reading Decode(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > LongestText)
        {
            throw RefusedException.Invalid(
                "paths-too-long",
                "The list of the drives' paths is longer than any machine writes. Collect again."
            );
        }

        // One connector may have several names: the shortest is the connector's own.
        var drives = Encoding
            .UTF8.GetString(bytes)
            .Split('\n')
            .Take(MostLines)
            .Select(line => Link().Match(line))
            .Where(m => m.Success && !m.Groups[1].Value.Contains("-part", StringComparison.Ordinal))
            .GroupBy(m => m.Groups[2].Value)
            .Select(g => new DriveReading(
                null,
                new Drive(new DriveSize(0)),
                Device: g.Key,
                Path: g.Select(m => m.Groups[1].Value).OrderBy(p => p.Length).First()
            ));
        return Reading.OfDrives([.. drives], []);
    }

    [GeneratedRegex(@"^((?:pci|platform|virtio|acpi)-[\w:.,+-]{1,200}) (\w{1,32})$", RegexOptions.CultureInvariant)]
    private static partial Regex Link();
}
