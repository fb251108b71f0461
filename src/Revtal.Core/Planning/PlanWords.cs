namespace Revtal.Core.Planning;

/// <summary>What a plan does to one position, in a few words.</summary>
public static class PlanWords
{
    /// <summary>All that a plan does: “16 GB into S2; 1 TB into D2, copied first”.</summary>
    public static string Short(Plan plan) =>
        string.Join("; ", plan.Slots.Where(s => s.Use != SlotUse.Keep).Select(Short).Concat(plan.Bays.Select(Short)))
        + Phrases.When(plan.Cleans, "; cleaned inside");

    /// <summary>“16 GB into S2”.</summary>
    public static string Short(PlannedSlot slot) =>
        slot.Use switch
        {
            SlotUse.Fit => $"{slot.Module!.Size} into {slot.Slot}",
            SlotUse.Reseat => $"{slot.Slot} reseated",
            SlotUse.Inspect => $"{slot.Slot} looked at",
            SlotUse.Move => $"{slot.Module?.Size.ToString() ?? "module"} from {slot.From} to {slot.Slot}",
            SlotUse.Keep => $"{slot.Slot} stays",
            _ => $"{slot.Slot} left empty",
        };

    /// <summary>“1 TB into D2, copied first”.</summary>
    public static string Short(PlannedBay bay) =>
        bay.Use switch
        {
            BayUse.Fit => $"{bay.Wish!.Drive.Size} into {bay.Bay}"
                + Phrases.When(bay.Wish.SystemFrom, f => $" for the system of {f}")
                + Phrases.When(bay.Wish.Path, p => $", {Spoken(p)}"),
            BayUse.Move => $"drive from {bay.From} to {bay.Bay}",
            BayUse.Reseat => $"{bay.Bay} reseated",
            BayUse.Inspect => $"{bay.Bay} looked at",
            _ => $"{bay.Bay} left empty",
        };

    /// <summary>“copied first”.</summary>
    public static string Spoken(this DataPath path) =>
        path switch
        {
            DataPath.CopyFirst => "copied first",
            DataPath.CleanInstall => "set up anew",
            _ => "left behind",
        };
}
