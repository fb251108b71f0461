namespace Revtal.Core.Planning;

/// <summary>A plan as the wishes that make it.</summary>
public static class PlanWishes
{
    /// <summary>
    /// The wishes by which another machine is planned alike. The very parts of this one stay its own: their serials
    /// are left out.
    /// </summary>
    public static IReadOnlyList<SlotChange> Of(Plan plan) =>
        [.. plan.Slots.Where(s => s.Use != SlotUse.Keep).Select(Of), .. plan.Bays.Select(Of)];

    private static SlotChange Of(PlannedSlot slot) =>
        slot.Use switch
        {
            SlotUse.Fit => new(slot.Slot, Fit: slot.Module! with { Serial = null }),
            SlotUse.Move => new(slot.Slot, From: slot.From),
            SlotUse.Reseat => new(slot.Slot, Reseat: true),
            SlotUse.Inspect => new(slot.Slot, Inspect: true),
            _ => new(slot.Slot, Empty: true),
        };

    private static SlotChange Of(PlannedBay bay) =>
        bay.Use switch
        {
            BayUse.Fit => new(bay.Bay, Drive: bay.Wish! with { Drive = bay.Wish.Drive with { Serial = null } }),
            BayUse.Move => new(bay.Bay, From: bay.From),
            BayUse.Reseat => new(bay.Bay, Reseat: true),
            BayUse.Inspect => new(bay.Bay, Inspect: true),
            _ => new(bay.Bay, Empty: true),
        };
}
