using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>How capacity spreads over the channels.</summary>
public enum ChannelBalance
{
    /// <summary>Too little is known to say.</summary>
    Unknown,

    /// <summary>One channel holds it all.</summary>
    SingleChannel,

    /// <summary>More than one channel, not alike: part of it interleaves.</summary>
    Uneven,

    /// <summary>Every channel holds the same: all of it interleaves.</summary>
    Equal,
}

/// <summary>What the readings after the plan should say, computed before anything is opened.</summary>
/// <param name="Installed">What firmware should count; null when a slot's content is unknown and no total was read before.</param>
/// <param name="UsableLow">The least that the system should be able to use.</param>
/// <param name="UsableHigh">The most.</param>
/// <param name="RunningSpeed">In MT/s: the slowest of the modules and the platform's top grade; null when no module's speed is known.</param>
/// <param name="InterleavedBytes">How much of it interleaves across the channels.</param>
public sealed record Expectation(
    MemorySize? Installed,
    MemorySize? UsableLow,
    MemorySize? UsableHigh,
    int? RunningSpeed,
    ChannelBalance Balance,
    long InterleavedBytes)
{
    // Linux keeps one 64-byte page descriptor for each 4 KB page: 1/64 of all that is added.
    private const int PageDescriptorShare = 64;
    private static readonly MemorySize LeastSlack = MemorySize.Megabytes(128);

    /// <summary>Computes it from what was read before, what the guide knows, and the plan.</summary>
    public static Expectation Of(Guide guide, Reading before, Plan plan)
    {
        var installed = TotalAfter(before, plan);
        var (low, high) = Usable(guide, before.Memory, installed);
        var (balance, interleaved) = Channels(guide, plan);
        return new Expectation(installed, low, high, Speed(guide, plan), balance, interleaved);
    }

    private static MemorySize? TotalAfter(Reading before, Plan plan)
    {
        var changed = plan.Slots.Where(s => !s.Stays).ToArray();
        if (changed.Any(s => !s.Before.Known && s.Use == SlotUse.Empty))
        {
            return null;
        }

        var change = changed.Sum(s => (s.Module?.Size.Bytes ?? 0) - (s.Before.Module?.Size.Bytes ?? 0));
        var start = before.Memory.InstalledBytes
            ?? (plan.Slots.All(s => s.Before.Known) ? plan.Slots.Sum(s => s.Before.Module?.Size.Bytes ?? 0) : null as long?);
        return start + change is >= 0 and var total ? new MemorySize(total) : null;
    }

    // What was kept back before is kept back again, and the system's own bookkeeping grows with the memory. Without a reading by the
    // system before, only the guide's shared graphics and the usual share are known.
    private static (MemorySize? Low, MemorySize? High) Usable(Guide guide, MemoryReading before, MemorySize? installed)
    {
        if (installed is not { } total)
        {
            return (null, null);
        }

        var kept = before.InstalledBytes - before.UsableBytes is >= 0 and var k ? k : guide.Memory.SharedGraphics?.Bytes ?? 0;
        var grown = Math.Max(0, total.Bytes - (before.InstalledBytes ?? 0)) / PageDescriptorShare;
        var slack = Math.Max(LeastSlack.Bytes, total.Bytes / 50);
        var middle = total.Bytes - kept - grown;
        return (new MemorySize(Math.Max(0, middle - slack)), new MemorySize(Math.Clamp(middle + slack, 0, total.Bytes)));
    }

    private static int? Speed(Guide guide, Plan plan)
    {
        var modules = plan.Slots.Select(s => s.Module).OfType<MemoryModule>().ToArray();
        if (modules.Length == 0 || modules.All(m => m.RatedSpeed is null))
        {
            return null;
        }

        var slowest = modules.Min(m => m.RatedSpeed ?? int.MaxValue);
        return guide.Memory.Speeds.Count > 0 ? Math.Min(slowest, guide.Memory.Speeds[^1]) : slowest;
    }

    private static (ChannelBalance Balance, long Interleaved) Channels(Guide guide, Plan plan)
    {
        var byChannel = guide.Memory.Slots.Zip(plan.Slots)
            .Where(p => p.First.Channel is not null)
            .GroupBy(p => p.First.Channel!, p => p.Second.Module?.Size.Bytes ?? 0)
            .Select(g => g.Sum())
            .ToArray();
        if (byChannel.Length == 0 || byChannel.All(b => b == 0))
        {
            return (ChannelBalance.Unknown, 0);
        }

        var filled = byChannel.Where(b => b > 0).ToArray();
        var interleaved = filled.Length > 1 ? filled.Min() * filled.Length : 0;
        var balance = filled.Length == 1 ? ChannelBalance.SingleChannel : filled.Length == byChannel.Length && filled.Distinct().Count() == 1 ? ChannelBalance.Equal : ChannelBalance.Uneven;
        return (balance, interleaved);
    }
}
