using Revtal.Core.Guides;

namespace Revtal.Dummies;

/// <summary>What somebody before the machine sees and hears when it is switched on.</summary>
/// <param name="Started">It came as far as a picture.</param>
/// <param name="Sign">Beeps or a light, in the guide's words; null for none.</param>
/// <param name="Notices">What the firmware shows, in the guide's words.</param>
/// <param name="FirmwareShows">The total that the firmware shows, in bytes; null where there is no picture.</param>
/// <param name="SlotsSeen">The slots that the firmware lists as filled.</param>
/// <param name="SystemRuns">A drive to start from was found.</param>
public sealed record DummyShown(
    bool Started,
    string? Sign,
    IReadOnlyList<string> Notices,
    long? FirmwareShows,
    IReadOnlyList<string> SlotsSeen,
    bool SystemRuns
);

/// <summary>Switching a simulated machine on.</summary>
public static class DummyStart
{
    /// <summary>The machine after the start, and what it showed.</summary>
    public static (DummyMachine Machine, DummyShown Shown) Of(Guide guide, DummyMachine m, DateTimeOffset now)
    {
        var seen = Seen(guide, m);
        if (seen.Count == 0 || m.Slots.Values.Any(f => f.Seat == DummySeat.Askew || f.Fault == PartFault.Stops))
        {
            var sign = guide.FirstStart.FirstOrDefault(s => s.Means == "not-seated" && s.Kind is "beeps" or "light");
            return (m with { StartedAt = null }, new(false, sign?.Sees, [], null, [], false));
        }

        var total = seen.Sum(s => Bytes(m.Slots[s].Module));
        var system = guide.Drives.Count == 0 || StartDrive(guide, m) is not null;
        var notices = guide
            .FirstStart.Where(s => s.Kind is "notice" or "restart" or "slow-start")
            .Where(s => s.Means == "normal" ? total != m.SeenLast : !system && s.Means is "ribbon-off")
            .Select(s => s.Sees);
        return (m with { StartedAt = now, SeenLast = total }, new(true, null, [.. notices], total, seen, system));
    }

    /// <summary>The slots whose modules the firmware finds, in the guide's order.</summary>
    public static IReadOnlyList<string> Seen(Guide guide, DummyMachine m) =>
        [
            .. guide
                .Memory.Slots.Select(s => s.Id)
                .Where(id =>
                    m.Slots.TryGetValue(id, out var f)
                    && f is { Seat: DummySeat.Home, Fault: PartFault.None }
                    && !m.FaultySlots.Contains(id)
                ),
        ];

    /// <summary>The bay that the system starts from; null where none is found.</summary>
    public static string? StartDrive(Guide guide, DummyMachine m) =>
        (
            m.StartsFrom is { } set ? [set] : guide.Drives.OrderByDescending(d => d.Boots).Select(d => d.Id)
        ).FirstOrDefault(b => m.Bays.TryGetValue(b, out var d) && d is { Seat: DummySeat.Home, PartitionBytes: > 0 });

    /// <summary>What a module holds: chips of its die side by side over its 64 bits, in ranks.</summary>
    public static long Bytes(DummyModule m) => m.DieGigabits * (1L << 30) / 8 * (64 / m.ChipWidth) * m.Ranks;
}
