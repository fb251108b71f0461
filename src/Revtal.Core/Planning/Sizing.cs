using Revtal.Core.Captures;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>How much memory a machine should have, and why.</summary>
public sealed record SizeAdvice(MemorySize Target, string Because);

/// <summary>From what is in use to what should be installed.</summary>
public static class Sizing
{
    /// <summary>Room for half as much again as was in use; null where the reading does not tell what was.</summary>
    public static SizeAdvice? Of(Reading before)
    {
        if (before.Memory is not { InUseBytes: { } inUse, UsableBytes: { } usable })
        {
            return null;
        }

        var installed = before.Memory.InstalledBytes ?? usable;
        var target = Made(Math.Max(inUse * 3 / 2, 1L << 30));
        var share = 100 * inUse / usable;
        return new SizeAdvice(
            new MemorySize(Math.Max(target, installed)),
            target <= installed
                ? $"{new MemorySize(inUse)} of {new MemorySize(usable)} were in use ({share} %): memory is not what "
                    + "it lacks."
                : $"{new MemorySize(inUse)} of {new MemorySize(usable)} were in use ({share} %), what was paged out "
                    + $"counted in; half as much again wants {new MemorySize(target)}."
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
