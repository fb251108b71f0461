using System.Globalization;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What an entry says, in one line of the journal.</summary>
public static class EntryWords
{
    public static string Say(EntryBody body) => body switch
    {
        TakenIn t => $"Taken in from {t.Intake.Customer}: {t.Intake.Complaint}",
        ReadingTaken r => $"{(r.Phase == Phase.Before ? "Before" : "After")} reading: {Totals(r)}{Tail(r.Note)}",
        PlanSet p => $"Planned: {string.Join("; ", p.Plan.Slots.Where(s => s.Use != SlotUse.Keep).Select(Say))}{Tail(p.Note)}",
        PlanAgreed a => $"{a.Customer} agreed{Tail(a.Note)}",
        StepConfirmed s => $"Run {s.Run}: {s.Step}{(s.Fasteners is > 0 and var n ? string.Create(CultureInfo.InvariantCulture, $", {n} fasteners") : "")}{Tail(s.Explanation)}{Tail(s.Note)}",
        ReseatBegun b => $"Reseat of {string.Join(", ", b.Slots)} begun{Tail(b.Reason)}",
        MarkedReady m => $"Ready, {Spoken(m.Verdict)}{Tail(m.Reason)}",
        HandedBack h => $"Handed back to {h.To}{(h.OldParts is { } old ? $". Old parts: {old}" : "")}",
        Parked p => $"Parked: {p.Reason}",
        Resumed => "Resumed",
        Cancelled c => $"Cancelled: {c.Reason}",
        NoteAdded n => n.Text,
        _ => body.GetType().Name,
    };

    public static string Spoken(Checks.Verdict verdict) => verdict switch
    {
        Checks.Verdict.AsPlanned => "as planned",
        Checks.Verdict.WithRemarks => "with remarks",
        Checks.Verdict.NotSeen => "not seen",
        _ => verdict.ToString().ToLowerInvariant(),
    };

    private static string Say(PlannedSlot slot) => slot.Use switch
    {
        SlotUse.Fit => $"{slot.Module!.Size} into {slot.Slot}",
        SlotUse.Move => $"{slot.Module?.Size.ToString() ?? "module"} from {slot.From} to {slot.Slot}",
        _ => $"{slot.Slot} left empty",
    };

    private static string Totals(ReadingTaken r)
    {
        var memory = r.Reading.Memory;
        var parts = new[]
        {
            memory.InstalledBytes is { } i ? $"{new MemorySize(i)} installed" : null,
            memory.UsableBytes is { } u ? $"{new MemorySize(u)} usable" : null,
        };
        var text = string.Join(", ", parts.OfType<string>());
        return (text.Length > 0 ? text : $"{memory.Slots.Count} slots") + (r.Reading.Sources.Contains(Captures.Source.Eyes) ? ", by eye" : "");
    }

    private static string Tail(string? text) => text is null ? "" : $" – {text}";
}
