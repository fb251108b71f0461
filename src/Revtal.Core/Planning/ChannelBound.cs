using System.Numerics;

namespace Revtal.Core.Planning;

/// <summary>
/// The most that channels can still share, once some modules sit and others are to come. What remains, poured into
/// the emptiest channels, spreads as evenly as can be; the sum over all pairs is the sum, for every j but all, of
/// what the j emptiest hold together; and those hold no more than their ceiling.
/// </summary>
internal sealed class ChannelBound
{
    private readonly long[] remaining;
    private readonly long[] ceiling;
    private readonly long[] sorted;
    private readonly long grain;

    /// <param name="modules">In bytes, largest first.</param>
    /// <param name="soldered">What each channel holds in any case, in bytes.</param>
    /// <param name="room">The most slots of one channel.</param>
    public ChannelBound(long[] modules, long[] soldered, int room)
    {
        sorted = new long[soldered.Length];
        remaining = new long[modules.Length + 1];
        for (var i = modules.Length - 1; i >= 0; i--)
        {
            remaining[i] = remaining[i + 1] + modules[i];
        }

        // A channel holds whole modules: its sum is a multiple of what they have in common.
        grain = Math.Max(
            1,
            modules.Concat(soldered).Aggregate(0L, (a, b) => (long)BigInteger.GreatestCommonDivisor(a, b))
        );
        ceiling = Ceilings(modules, soldered, room);
    }

    /// <summary>In bytes; exact when no module is left.</summary>
    /// <param name="load">What each channel holds now.</param>
    /// <param name="level">How many modules sit already.</param>
    public long Of(long[] load, int level)
    {
        load.CopyTo(sorted, 0);
        Array.Sort(sorted);
        Pour(remaining[level]);
        long sum = 0,
            prefix = 0;
        for (var j = 0; j < sorted.Length - 1; j++)
        {
            prefix += sorted[j];
            sum += Math.Min(prefix, ceiling[j]);
        }

        return sum;
    }

    private void Pour(long rest)
    {
        for (var together = 1; together <= sorted.Length && rest > 0; together++)
        {
            var gap = together < sorted.Length ? sorted[together] - sorted[0] : long.MaxValue;
            var pour = together < sorted.Length && rest >= gap * together ? gap : rest / together / grain * grain;
            for (var i = 0; i < together; i++)
            {
                sorted[i] += pour;
            }

            rest -= pour * together;
            if (pour < gap)
            {
                // Less than a grain for each: some of them get one.
                for (var i = together - 1; rest > 0; i--, rest -= grain)
                {
                    sorted[i] += grain;
                }
            }
        }
    }

    // Of so many channels the first few largest modules reach only as many; the others share what is smaller, in no
    // more slots than they have. The j emptiest hold no more than j times their average.
    private static long[] Ceilings(long[] modules, long[] soldered, int room)
    {
        var lowest = Enumerable.Repeat(long.MaxValue, Math.Max(1, soldered.Length)).ToArray();
        for (var large = 0; large < Math.Min(soldered.Length, modules.Length) && soldered.All(s => s == 0); large++)
        {
            var others = soldered.Length - large;
            var most = modules.Skip(large).Take(others * room).Sum();
            for (var j = 1; j <= others; j++)
            {
                lowest[j - 1] = Math.Min(lowest[j - 1], (long)((Int128)most * j / others));
            }
        }

        return lowest;
    }
}
