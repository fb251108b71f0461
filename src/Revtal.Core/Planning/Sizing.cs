using Revtal.Core.Captures;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>How much memory a machine should have, and why.</summary>
public sealed record SizeAdvice(MemorySize Target, string Because);

/// <summary>From what is in use to what should be installed.</summary>
public static class Sizing
{
    /// <summary>
    /// Room for half as much again as was in use, at the peak where the machine was watched; null where nothing tells
    /// what was.
    /// </summary>
    /// <param name="watched">Loads before the upgrade.</param>
    public static SizeAdvice? Of(Reading before, IEnumerable<LoadSeries>? watched = null)
    {
        var peaks = (watched ?? []).Select(w => w.Peaks).MaxBy(p => p.WantedBytes ?? 0);
        if (
            before.Memory.UsableBytes is not { } usable
            || (before.Memory.InUseBytes ?? peaks?.WantedBytes) is not { } read
        )
        {
            return null;
        }

        var inUse = Math.Max(read, peaks?.WantedBytes ?? 0);
        var when = inUse == read ? "" : $" at the peak of {peaks!.Minutes} min";

        var installed = before.Memory.InstalledBytes ?? usable;
        var target = Made(Math.Max(inUse * 3 / 2, 1L << 30));
        var share = 100 * inUse / usable;
        var told = $"{new MemorySize(inUse)} of {new MemorySize(usable)} were in use{when} ({share} %)";
        return new SizeAdvice(
            new MemorySize(Math.Max(target, installed)),
            target <= installed
                ? $"{told}: memory is not what it lacks."
                : $"{told}, what was paged out counted in; half as much again wants {new MemorySize(target)}."
        );
    }

    // The next total that modules come to: 2^n or 3·2^n.
    private static long Made(long bytes)
    {
        for (long size = 1L << 30; ; size *= 2)
        {
            if (size >= bytes)
            {
                return size;
            }

            if (size + (size / 2) >= bytes)
            {
                return size + (size / 2);
            }
        }
    }
}
