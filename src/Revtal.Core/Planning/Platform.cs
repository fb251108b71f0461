using System.Globalization;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>
/// What this very machine takes: the guide's facts, corrected by what the before reading found. Where they disagree
/// the reading counts, and <see cref="Corrections"/> says so.
/// </summary>
/// <param name="Generation">Null where neither tells.</param>
/// <param name="FirmwareMax">The most that the firmware's own table claims (DSP0134 type 16); a claim, not a
/// proof.</param>
/// <param name="SlotMax">The largest module a slot takes, by slot; without an entry there is no limit known.</param>
public sealed record Platform(
    Guide Guide,
    string? Generation,
    IReadOnlyList<int> Speeds,
    MemorySize? FirmwareMax,
    IReadOnlyDictionary<string, MemorySize> SlotMax,
    IReadOnlyList<FitNote> Corrections
)
{
    private const string FromReading = "before reading";

    /// <summary>
    /// The top grade in MT/s with so many modules in the fullest channel; null where no grade is known.
    /// </summary>
    public int? TopSpeed(int modulesInChannel)
    {
        var crowded = Guide
            .Memory.PerChannel.Where(p => p.Key <= modulesInChannel)
            .OrderByDescending(p => p.Key)
            .Select(p => (int?)p.Value)
            .FirstOrDefault();
        int? top = Speeds.Count > 0 ? Speeds[^1] : null;
        return crowded is { } c && top is { } t ? Math.Min(c, t) : crowded ?? top;
    }

    /// <summary>From the guide, and from what was read where the guide is silent.</summary>
    public static Platform Of(Guide guide, Reading before)
    {
        var notes = new List<FitNote>();
        var memory = guide.Memory;
        var present = Occupancy.Of(guide, before);
        var found = present.Where(p => p.Module is not null).ToArray();

        var generation = memory.Generation;
        if (
            found.Select(p => p.Module!.Generation).OfType<string>().Where(IsDdr).Distinct().ToArray() is [var seen]
            && !ModuleFit.SameGeneration(seen, generation)
        )
        {
            if (generation is not null)
            {
                notes.Add(
                    new FitNote(
                        "reading-generation",
                        FitWeight.Remark,
                        null,
                        $"The guide says {generation}, the reading found {seen}: the reading counts. Is it another "
                            + "build?",
                        seen,
                        generation,
                        FromReading
                    )
                );
            }

            generation = seen;
        }

        var speeds = memory.Speeds;
        if (found.Max(p => p.RunningSpeed) is { } runs && speeds.Count > 0 && runs > speeds[^1])
        {
            notes.Add(
                new FitNote(
                    "reading-speed",
                    FitWeight.Remark,
                    null,
                    $"The guide's top grade is {speeds[^1]} MT/s, the reading found {runs} running: the reading "
                        + "counts.",
                    $"{runs} MT/s",
                    $"{speeds[^1]} MT/s",
                    FromReading
                )
            );
            speeds = [.. speeds, runs];
        }

        var limits = memory.Slots.Where(s => s.Max is not null).ToDictionary(s => s.Id, s => s.Max!.Value);
        foreach (var p in found.Where(p => limits.TryGetValue(p.Slot, out var max) && p.Module!.Size > max))
        {
            notes.Add(
                new FitNote(
                    "reading-slot-max",
                    FitWeight.Remark,
                    p.Slot,
                    $"The guide gives {p.Slot} up to {limits[p.Slot]}, the reading found {p.Module!.Size} in it: the "
                        + "reading counts.",
                    $"{p.Module.Size}",
                    $"{limits[p.Slot]}",
                    FromReading
                )
            );
            limits[p.Slot] = p.Module.Size;
        }

        // A machine that reports more positions than its guide knows is another build, or the guide is wrong.
        if (before.Memory.Slots.Count > memory.Slots.Count)
        {
            notes.Add(
                new FitNote(
                    "reading-slots",
                    FitWeight.Remark,
                    null,
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"The firmware lists {before.Memory.Slots.Count} slots, the guide knows {memory.Slots.Count}: "
                            + $"look which build it is."
                    ),
                    $"{before.Memory.Slots.Count} slots",
                    $"{memory.Slots.Count} slots",
                    FromReading
                )
            );
        }

        return new Platform(
            guide,
            generation,
            speeds,
            before.Memory.MaxCapacityBytes is > 0 and { } claim ? new MemorySize(claim) : null,
            limits,
            notes
        );
    }

    internal static bool IsDdr(string? generation) =>
        generation?.StartsWith("DDR", StringComparison.OrdinalIgnoreCase) == true;
}
