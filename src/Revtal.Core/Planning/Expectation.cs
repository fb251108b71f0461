using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>What the readings after the plan should say, computed before anything is opened.</summary>
/// <param name="Installed">What firmware should count; null when a slot's content is unknown and no total was read
/// before.</param>
/// <param name="UsableLow">The least that the system should be able to use.</param>
/// <param name="UsableHigh">The most.</param>
/// <param name="RunningSpeed">In MT/s: the slowest of the modules and the platform's top grade; null when no module's
/// speed is known.</param>
/// <param name="InterleavedBytes">How much of it interleaves across the channels.</param>
public sealed record Expectation(
    MemorySize? Installed,
    MemorySize? UsableLow,
    MemorySize? UsableHigh,
    int? RunningSpeed,
    ChannelBalance Balance,
    long InterleavedBytes
)
{
    /// <summary>How its channels share it, in words.</summary>
    public string Channels => Balance.Spoken(InterleavedBytes, Installed);

    // Linux keeps one 64-byte page descriptor for each 4 KB page: 1/64 of all that is added.
    private const int PageDescriptorShare = 64;

    // What a system keeps back differs from start to start: a fiftieth of all, and never less than the least.
    private const int SlackShare = 50;
    private static readonly MemorySize LeastSlack = MemorySize.Megabytes(128);

    /// <summary>Computes it from what was read before, what the guide knows, and the plan.</summary>
    public static Expectation Of(Guide guide, Reading before, Plan plan)
    {
        var installed = TotalAfter(before, plan);
        var (low, high) = Usable(guide, before.Memory, installed);
        var share = Shares(guide, plan);
        return new Expectation(installed, low, high, Speed(guide, before, plan), share.Balance, share.Interleaved);
    }

    private static MemorySize? TotalAfter(Reading before, Plan plan)
    {
        var changed = plan.Slots.Where(s => !s.Stays).ToArray();
        if (changed.Any(s => !s.Before.Known && s.Use == SlotUse.Empty))
        {
            return null;
        }

        var change = changed.Sum(s => (s.Module?.Size.Bytes ?? 0) - (s.Before.Module?.Size.Bytes ?? 0));
        var start =
            before.Memory.InstalledBytes
            ?? (
                plan.Slots.All(s => s.Before.Known)
                    ? plan.Slots.Sum(s => s.Before.Module?.Size.Bytes ?? 0)
                    : null as long?
            );
        return start + change is >= 0 and var total ? new MemorySize(total) : null;
    }

    // What was kept back before is kept back again, and the system's own bookkeeping grows with the memory. Without a
    // reading by the system before, only the guide's shared graphics and the usual share are known.
    private static (MemorySize? Low, MemorySize? High) Usable(Guide guide, MemoryReading before, MemorySize? installed)
    {
        if (installed is not { } total)
        {
            return (null, null);
        }

        var kept = before.InstalledBytes - before.UsableBytes is >= 0 and var k
            ? k
            : guide.Memory.SharedGraphics?.Bytes ?? 0;
        var grown = Math.Max(0, total.Bytes - (before.InstalledBytes ?? 0)) / PageDescriptorShare;
        var slack = Math.Max(LeastSlack.Bytes, total.Bytes / SlackShare);
        var middle = total.Bytes - kept - grown;
        return (
            new MemorySize(Math.Max(0, middle - slack)),
            new MemorySize(Math.Clamp(middle + slack, 0, total.Bytes))
        );
    }

    private static int? Speed(Guide guide, Reading before, Plan plan)
    {
        var seated = guide.Memory.Slots.Zip(plan.Slots).Where(p => p.Second.Module is not null).ToArray();
        if (seated.All(p => p.Second.Module!.RatedSpeed is null))
        {
            return null;
        }

        var slowest = seated.Min(p => p.Second.Module!.RatedSpeed ?? int.MaxValue);
        var fullest = seated.GroupBy(p => p.First.Channel).Max(g => g.Key is null ? 1 : g.Count());
        return Math.Min(slowest, Platform.Of(guide, before).TopSpeed(fullest) ?? int.MaxValue);
    }

    private static ChannelShare Shares(Guide guide, Plan plan) =>
        ChannelShare.Of(guide.Memory.Slots.Zip(plan.Slots, (s, p) => (s.Channel, p.Module?.Size.Bytes ?? 0)));
}
