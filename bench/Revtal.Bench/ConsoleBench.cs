using System.IO.Compression;
using System.Text.RegularExpressions;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>What a browser loads of script and style before the first page shows, compressed.</summary>
internal static partial class ConsoleBench
{
    public static void Run(Report report)
    {
        var root = Repository.At("console", "dist");
        var files = Asset()
            .Matches(File.ReadAllText(Path.Combine(root, "index.html")))
            .Select(m => m.Groups[1].Value)
            .Distinct();
        var bytes = files.Sum(f => Compressed(Path.Combine(root, "assets", f)));
        report.Tell(
            "console's first load, script and style",
            $"{bytes / 1024} KB compressed",
            "under 250 KB",
            bytes < 250 * 1024
        );
    }

    private static long Compressed(string file)
    {
        using var memory = new MemoryStream();
        using (var gzip = new GZipStream(memory, CompressionLevel.Optimal, leaveOpen: true))
        {
            gzip.Write(File.ReadAllBytes(file));
        }

        return memory.Length;
    }

    [GeneratedRegex("/assets/([^\"]+\\.(?:js|css))\"")]
    private static partial Regex Asset();
}
