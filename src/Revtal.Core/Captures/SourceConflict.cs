using Revtal.Core.Hardware;

namespace Revtal.Core.Captures;

/// <summary>Two sources of one reading contradict each other.</summary>
/// <param name="What">“installed memory”, “serial of the machine”, “size in SODIMM 0”.</param>
/// <param name="First">What counts, and who says it.</param>
/// <param name="Other">What the other one says.</param>
public sealed record SourceConflict(string What, string First, string Other);

/// <summary>Finds them.</summary>
internal static class SourceConflicts
{
    // What one source rounds is no contradiction.
    private static readonly long Rounding = MemorySize.Megabytes(512).Bytes;

    /// <summary>Where both tell and differ; what only one of them tells is no conflict.</summary>
    public static IEnumerable<SourceConflict> Between(Reading a, Reading b)
    {
        if (
            a.System.Serial is { } s
            && b.System.Serial is { } t
            && !string.Equals(s, t, StringComparison.OrdinalIgnoreCase)
        )
        {
            yield return new("serial of the machine", Say(s, a), Say(t, b));
        }

        foreach (
            var (what, first, other) in new[]
            {
                ("installed memory", Installed(a), Installed(b)),
                ("usable memory", a.Memory.UsableBytes, b.Memory.UsableBytes),
            }
        )
        {
            if (first is { } x && other is { } y && Math.Abs(x - y) > Rounding)
            {
                yield return new(what, Say($"{new MemorySize(x)}", a), Say($"{new MemorySize(y)}", b));
            }
        }

        foreach (var slot in a.Memory.Slots)
        {
            if (
                slot.SizeBytes is { } size
                && b.Memory.Slots.FirstOrDefault(o =>
                    o.Locator == slot.Locator && o.SizeBytes is not null && o.SizeBytes != size
                )
                    is { } differs
            )
            {
                yield return new(
                    $"size in {slot.Locator}",
                    Say($"{new MemorySize(size)}", a),
                    Say($"{new MemorySize(differs.SizeBytes!.Value)}", b)
                );
            }
        }
    }

    // EEPROMs are fitted modules too: a module that answers there and is not counted is worth knowing.
    private static long? Installed(Reading r) =>
        r.Memory.InstalledBytes
        ?? (
            r.Sources is [Source.ModuleEeprom] && r.Modules.All(m => m.SizeBytes is not null)
                ? r.Modules.Sum(m => m.SizeBytes!.Value)
                : null
        );

    private static string Say(string value, Reading by) =>
        $"{value} ({Phrases.Listed(by.Sources.Select(s => s.Spoken()))})";

    internal static string Spoken(this Source source) =>
        source switch
        {
            Source.FirmwareTables => "firmware tables",
            Source.OperatingSystem => "operating system",
            Source.ModuleEeprom => "module EEPROMs",
            _ => "eyes",
        };
}
