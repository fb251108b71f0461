using System.Text.RegularExpressions;
using Revtal.Core.Captures;
using Revtal.Core.Guides;

namespace Revtal.Core.Planning;

/// <summary>What a reading of the machine itself knows of its model, for a sketch that does not know it yet.</summary>
public static partial class SketchFacts
{
    private const int LongestName = 32;

    // As a board is lettered: A1, DIMM2, S1. Anything longer is the firmware's own, and the bench counts instead.
    [GeneratedRegex("^[A-Z]{1,4}[0-9]{1,2}$")]
    private static partial Regex BenchName();

    /// <summary>The sketch with what it left open filled in; what it knows stays, and so does a guide.</summary>
    public static Guide Fill(Guide sketch, Reading reading)
    {
        if (!sketch.IsSketch)
        {
            return sketch;
        }

        var memory = sketch.Memory;
        return sketch with
        {
            Memory = memory with
            {
                Generation = memory.Generation ?? Generation(reading),
                Module = memory.Module ?? Form(reading),
                Slots = memory.Slots.Count > 0 ? memory.Slots : Slots(reading),
            },
            Drives = sketch.Drives.Count > 0 ? sketch.Drives : Bays(reading),
        };
    }

    private static string? Generation(Reading reading) =>
        reading
            .Memory.Slots.Select(s => s.Module()?.Generation)
            .OfType<string>()
            .Where(IsGeneration)
            .Distinct()
            .ToArray()
            is [var only]
            ? only
            : null;

    private static bool IsGeneration(string type) => type.Contains("DDR", StringComparison.Ordinal);

    // “DIMM” is said of small modules too, so only the small form and chips on the board are taken for known.
    private static string? Form(Reading reading) =>
        reading.Memory.Slots.Select(s => s.FormFactor).OfType<string>().Distinct().ToArray() switch
        {
            ["SODIMM"] => "SO-DIMM",
            ["Row of chips"] => "soldered",
            _ => null,
        };

    private static IReadOnlyList<MemorySlot> Slots(Reading reading)
    {
        var listed = reading.Memory.Slots;
        var byEye = reading.Sources.Contains(Source.Eyes);
        string[] names = [.. listed.Select(l => l.Locator?.Trim().ToUpperInvariant() ?? "")];
        var speak = names.All(n => BenchName().IsMatch(n)) && names.Distinct().Count() == names.Length;
        var alike = listed.GroupBy(l => l.Locator).Where(g => g.Count() > 1).Select(g => g.Key).ToHashSet();
        return
        [
            .. listed.Select(
                (l, i) =>
                    Sketch.NewSlot(
                        byEye && Plain(l.Locator) is { Length: > 0 } own ? own
                        : speak ? names[i]
                        : $"S{i + 1}"
                    ) with
                    {
                        ReportsAs = byEye ? null : l.Locator,
                        ReportsBank = alike.Contains(l.Locator) ? l.Bank : null,
                        Soldered = l.FormFactor == "Row of chips",
                    }
            ),
        ];
    }

    // As a guide names its slots.
    private static string Plain(string? locator) =>
        string.Concat((locator ?? "").Where(c => char.IsAsciiLetterOrDigit(c) || c == '-').Take(LongestName)).Trim('-');

    // What hangs on a cord outside is no bay.
    private static IReadOnlyList<DriveBay> Bays(Reading reading) =>
        [
            .. reading
                .Drives.Where(d => d.Transport != "usb")
                .Select(
                    (d, i) =>
                        Sketch.NewBay(d.Bay ?? $"D{i + 1}") with
                        {
                            Form = d.Drive.Form,
                            Key = d.Drive.Key,
                            Link = d.Drive.Link,
                            Boots = d.Boots == true,
                            Path = d.Path,
                        }
                ),
            .. reading.EmptyBays.Select(Sketch.NewBay),
        ];
}
