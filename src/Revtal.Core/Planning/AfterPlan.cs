using Revtal.Core.Captures;
using Revtal.Core.Guides;

namespace Revtal.Core.Planning;

/// <summary>The machine as a plan leaves it, as a reading: what comes later is planned from that.</summary>
public static class AfterPlan
{
    /// <summary>
    /// The before reading with the plan carried out; the reading itself where there is none. Nothing is known in it
    /// that the reading or the plan does not tell.
    /// </summary>
    public static Reading Of(Guide guide, Reading before, Plan? plan)
    {
        if (plan is null)
        {
            return before;
        }

        var installed = Expectation.Of(guide, before, plan).Installed;
        return before with
        {
            Memory = before.Memory with
            {
                InstalledBytes = installed?.Bytes,
                UsableBytes =
                    before.Memory.InstalledBytes is { } had && installed is { } has
                        ? before.Memory.UsableBytes + has.Bytes - had
                        : null,
                Slots = [.. guide.Memory.Slots.Zip(plan.Slots, Slot)],
            },
            Drives = Drives(guide, before, plan),
            EmptyBays =
            [
                .. before
                    .EmptyBays.Where(b => plan.Bay(b) is not { Changes: true })
                    .Union(plan.Bays.Where(b => b.Use == BayUse.Empty).Select(b => b.Bay)),
            ],
        };
    }

    /// <summary>
    /// How full the drives are once the plan is carried out: what is copied is counted on the new drive; of an empty
    /// one nothing is said.
    /// </summary>
    public static IReadOnlyList<DriveRoom> Rooms(Guide guide, Reading before, Plan? plan) =>
        before.Drives.All(d => d.UsedBytes is null)
            ? []
            : [.. Drives(guide, before, plan).Select(DriveRooms.Of).OfType<DriveRoom>()];

    private static IReadOnlyList<DriveReading> Drives(Guide guide, Reading before, Plan? plan)
    {
        var placed = DrivePlaces.Of(guide, before);
        return plan is null
            ? placed
            :
            [
                .. placed.Where(d => d.Bay is null || Stays(plan, d.Bay)),
                .. plan.Bays.Select(b => Arrived(b, placed)).OfType<DriveReading>(),
            ];
    }

    private static bool Stays(Plan plan, string bay) =>
        plan.Bay(bay) is not { Changes: true } && plan.Bays.All(b => b.From != bay);

    private static DriveReading? Arrived(PlannedBay bay, IReadOnlyList<DriveReading> placed) =>
        bay switch
        {
            { Use: BayUse.Fit, Wish: { } wish } => new DriveReading(
                bay.Bay,
                wish.Drive,
                wish.Path == DataPath.CopyFirst
                    ? placed.FirstOrDefault(d => d.Bay == wish.DataFrom(bay.Bay))?.UsedBytes
                    : null,
                bay.StartsHere ? true : null,
                Initialised: true
            ),
            { Use: BayUse.Move, From: { } from } => placed.FirstOrDefault(d => d.Bay == from) is { } moved
                ? moved with
                {
                    Bay = bay.Bay,
                    Path = null,
                }
                : null,
            _ => null,
        };

    private static SlotReading Slot(MemorySlot slot, PlannedSlot planned) =>
        planned switch
        {
            { Module: { } m } => new SlotReading(
                slot.ReportsAs ?? slot.Id,
                slot.ReportsBank,
                m.Size.Bytes,
                m.Form,
                m.Generation,
                m.RatedSpeed,
                null,
                m.Maker,
                m.Serial,
                m.PartNumber?.ToString()
            ),
            { Stays: true, Before.Known: false } => new SlotReading(slot.ReportsAs ?? slot.Id, slot.ReportsBank, null),
            _ => new SlotReading(slot.ReportsAs ?? slot.Id, slot.ReportsBank, 0),
        };
}
