using System.Globalization;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;

namespace Revtal.Core.Reports;

/// <summary>What hands did at the machine, a sentence each: what was confirmed, never what was only planned.</summary>
internal static class WorkDone
{
    /// <param name="guide">The facts of this build.</param>
    public static IEnumerable<string> Of(Order order, Guide guide) =>
        [
            .. order.Fitted.Slots.Where(s => s.Use != SlotUse.Keep).Select(s => Slot(order, guide, s)),
            .. order.Fitted.Bays.Select(b => Bay(order, guide, b)),
            .. order
                .Runs.Where(r => !r.Mends)
                .Select(r => (Slots: Seated(r), r.Reason))
                .Where(r => r.Slots.Length > 0)
                .Select(r => $"{Phrases.Listed(r.Slots)} seated anew{Phrases.When(r.Reason, why => $": {why}")}."),
            .. Steps(order)
                .Where(d => d.Step.Verb == StepVerb.SetUp || d.Step == StepId.StartOrder)
                .Select(d => $"{StepWords.Done(d.Step, guide)}.")
                .Distinct(),
            .. Steps(order).Any(d => d.Step == StepId.Clean) ? ["It was cleaned inside."] : Array.Empty<string>(),
            .. order.Trial.Runs.Select(Tried),
        ];

    private static string Slot(Order order, Guide guide, PlannedSlot slot)
    {
        var (fitted, pulled) = (order.WasFitted(slot.Slot), order.TakenOut(guide, slot.Slot) is not null);
        return slot.Use switch
        {
            SlotUse.Fit when fitted =>
                $"{slot.Module!.Size} of memory went into slot {slot.Slot}{(pulled ? Left(order, slot) : "")}.",
            SlotUse.Move when fitted => $"The module of slot {slot.From} moved to slot {slot.Slot}.",
            SlotUse.Reseat when fitted => $"The memory of slot {slot.Slot} was seated anew.",
            SlotUse.Empty when !slot.Pulls => $"Slot {slot.Slot} stayed empty.",
            SlotUse.Empty when order.Fitted.Slots.Any(o => o.From == slot.Slot && order.WasFitted(o.Slot)) =>
                $"Slot {slot.Slot} is empty now.",
            SlotUse.Empty when pulled => $"The module of slot {slot.Slot} came out.",
            SlotUse.Inspect when Did(order, StepId.Look(slot.Slot)) => $"Slot {slot.Slot} was looked at.",
            _ => $"Slot {slot.Slot} was left as it was.",
        };
    }

    // What a run that only seats anew was begun for, and did.
    private static string[] Seated(Run run) =>
        [.. run.Reseat.Where(s => run.Done.Any(d => d.Step == StepId.Fit(s) && d.Deviation != Deviation.Skipped))];

    private static string Left(Order order, PlannedSlot slot) =>
        slot.Before.Module is { } old && order.Fitted.Slots.All(o => o.From != slot.Slot)
            ? $"; the {old.Size} there came out"
            : "";

    private static string Bay(Order order, Guide guide, PlannedBay bay)
    {
        var fitted = order.WasFitted(bay.Bay);
        return bay.Use switch
        {
            BayUse.Fit when fitted => $"A drive of {bay.Wish!.Drive.Size} went into bay {bay.Bay}{Data(order, bay)}.",
            BayUse.Move when fitted => $"The drive of bay {bay.From} moved to bay {bay.Bay}.",
            BayUse.Reseat when fitted => $"The drive of bay {bay.Bay} was seated anew.",
            BayUse.Empty when order.TakenOut(guide, bay.Bay) is not null => $"The drive of bay {bay.Bay} came out.",
            BayUse.Inspect when Did(order, StepId.Look(bay.Bay)) => $"Bay {bay.Bay} was looked at.",
            _ => $"Bay {bay.Bay} was left as it was.",
        };
    }

    private static string Data(Order order, PlannedBay bay) =>
        bay.Wish!.Path switch
        {
            DataPath.CopyFirst when order.Copies.LastOrDefault(c => c.Bay == bay.Bay)?.Verified is { IsGood: true } v =>
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"; your data was copied to it, and {v.Matched} of {v.Sampled} files compared were alike"
                ),
            DataPath.CopyFirst when order.CopiesOwed.Contains(bay.Bay) => "; its copy is not verified",
            DataPath.CopyFirst when order.Copy?.Copy == CopyState.Waived => "; you went without a copy of your data",
            DataPath.CopyFirst => "; your data was copied to it, and the copy verified",
            DataPath.CleanInstall => "; nothing was carried over to it",
            DataPath.LeftBehind => "; your data stayed on the old drive",
            _ => "",
        };

    private static string Tried(TrialRun run) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"Tried {run.Work} for {run.Minutes} min: {run.Outcome.Spoken()}{Phrases.Added(run.Note)}."
        );

    private static bool Did(Order order, StepId step) => Steps(order).Any(d => d.Step == step);

    private static IEnumerable<StepConfirmation> Steps(Order order) =>
        order.Runs.SelectMany(r => r.Done).Where(d => d.Deviation != Deviation.Skipped);
}
