using System.Globalization;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What an entry says, in one line of the journal.</summary>
public static class EntryWords
{
    public static string Say(EntryBody body) =>
        body switch
        {
            TakenIn t => $"Taken in from {t.Intake.Customer}: {t.Intake.Complaint}",
            ReadingTaken r => $"{(r.Phase == Phase.During ? "Case-open" : $"{r.Phase}")} reading: "
                + $"{Totals(r)}{(r.Invite is null ? "" : ", sent by the machine")}{Tail(r.Note)}",
            ReadingInvited i => $"A code was made for the {Spoken(i.Phase)} reading, open until {Minute(i.Until)}",
            ScoresTaken s =>
                $"Scores {Spoken(s.Phase)}: {string.Join(", ", s.Scores.Select(x => x.ToString()))}{Tail(s.Note)}",
            SwapTestBegun b => $"Swap test begun: {b.Setup.Modules.Count} modules, {Shown(b.Setup.First)}",
            SwapTried t => "Swap test: "
                + $"{string.Join(", ", t.Trial.Places.Select(p => p.Module == p.Slot ? p.Slot : $"{p.Slot} from {p.Module}"))}; {Shown(t.Trial.Outcome)}",
            SwapTestEnded e =>
                $"{(e.Conclusion is { } c ? $"Swap test: {c.Sentence} {c.Do}" : "Swap test given up")}{Tail(e.Note)}",
            WatchBegun w =>
                $"Watched until {Day(DateOnly.FromDateTime(w.Until.UtcDateTime))}, asked every {w.EveryDays} days: "
                    + $"{w.For}",
            WatchNoted w => $"Watch, {Day(w.On)}: {Spoken(w.Sign)}{Tail(w.Text)}",
            WatchEnded w => $"Watch ended: {Words(w.Outcome.ToString())}{Tail(w.Text)}",
            PlanSet p => "Planned: "
                + $"{string.Join("; ", p.Plan.Slots.Where(s => s.Use != SlotUse.Keep).Select(Say).Concat(p.Plan.Bays.Select(Say)))}{(p.Discount > 0 ? string.Create(CultureInfo.InvariantCulture, $", {p.Discount:0.##} % off") : "")}{(p.Later is { } l ? $"; later: {l.Words}" : "")}{Tail(p.Note)}",
            PlanAgreed a => $"{a.Customer} "
                + $"agreed{(a.ByLink ? " by the link" : "")}"
                + $"{(a.Quote is { } q ? $" to {Amount(q.Total, q.Currency)}" : "")}{Tail(a.Note)}",
            QuoteOffered o =>
                $"Quote of {Amount(o.Quote.Total, o.Quote.Currency)} sent as a link, open until {Minute(o.Until)}",
            QuoteRevoked => "The quote's link was revoked",
            QuoteDeclined d => $"{d.Customer} declined{(d.ByLink ? " by the link" : "")}{Tail(d.Reason)}",
            CopyBegun c => $"Copy of {c.Bay} begun: {c.Source} to {c.Target}, {c.Size}, {c.Method}",
            CopyAdvanced c => $"Copy of {c.Bay}: {c.Done} done",
            CopyVerified v => string.Create(
                CultureInfo.InvariantCulture,
                $"Copy of {v.Bay} compared: {v.FilesTarget} of {v.FilesSource} files, {v.Matched} of {v.Sampled} "
                    + $"sampled hashes alike{(v.IsGood ? "" : ": not good")}"
            ),
            OldPartSettled o => $"What came out of {o.Position}: "
                + $"{Spoken(o.Fate)}"
                + $"{(o.Wipe is { } w ? $", {w.Category.ToString().ToLowerInvariant()} by {w.Method}, verified: {w.Verified}" : "")}{(o.Grade is { } g ? $", grade {g}" : "")}{(o.Tested is { } t ? $", tested: {t}" : "")}{Tail(o.Note)}",
            StepConfirmed s => $"Run {s.Run}: {s.Step}{Confirmed(s)}{Tail(s.Explanation)}{Tail(s.Note)}",
            VariantTold v =>
                $"It is a {v.Variant}{(v.PlanDropped ? "; the plan does not suit it and is to be made anew" : "")}",
            SealTold s => "Warranty seal: "
                + $"{(s.Consent == SealConsent.Given ? "may be broken" : s.Consent == SealConsent.Refused ? "must stay whole" : "none")}, says {s.Customer}",
            CopyTold c => $"{(c.Copy == CopyState.Verified ? "Copy verified" : "Copy waived")}: {c.Text}",
            StepTakenBack t => $"Run {t.Run}: {t.Step} taken back{Tail(t.Reason)}",
            GateWaived w =>
                $"Run {w.Run}: {Spoken(w.Gate)} waived{(w.Step is { } step ? $" at {step}" : "")} – {w.Reason}",
            StepImpossible i => $"Run {i.Run}: {i.Step} cannot be done – {i.Reason}",
            FoundInside f =>
                $"Run {f.Run}: found {Spoken(f.Kind)}{(f.Step is { } step ? $" at {step}" : "")}{Tail(f.Text)}",
            PhotoTaken p => $"Photo{(p.Step is { } step ? $" at {step}" : "")}{Tail(p.Caption)}",
            GuideSuggested g => $"Suggested for the guide: {GuideChanges.Say(g.Change)}",
            ReseatBegun b => $"Reseat of {string.Join(", ", b.Slots)} begun{Tail(b.Reason)}",
            MarkedReady m =>
                $"Ready, {Spoken(m.Verdict)}{(m.Proves is { } size ? $", {size} proved to work" : "")}{Tail(m.Reason)}",
            HandedBack h => $"Handed back to {h.To}{(h.OldParts is { } old ? $". Old parts: {old}" : "")}",
            Parked p => $"Parked: {p.Reason}",
            Resumed => "Resumed",
            Cancelled c => $"Cancelled: {c.Reason}",
            NoteAdded n => n.Step is { } step ? $"{step}: {n.Text}" : n.Text,
            _ => body.GetType().Name,
        };

    public static string Spoken(Checks.Verdict verdict) =>
        verdict switch
        {
            Checks.Verdict.AsPlanned => "as planned",
            Checks.Verdict.WithRemarks => "with remarks",
            Checks.Verdict.NotSeen => "not seen",
            _ => verdict.ToString().ToLowerInvariant(),
        };

    /// <summary>“still cooling”, “seal consent missing”.</summary>
    public static string Spoken(Gate gate) => Words(gate.ToString());

    /// <summary>“swollen battery”.</summary>
    public static string Spoken(FindKind kind) => kind == FindKind.Other ? "something" : Words(kind.ToString());

    /// <summary>“case-open”.</summary>
    public static string Spoken(Phase phase) =>
        phase == Phase.During ? "case-open" : phase.ToString().ToLowerInvariant();

    /// <summary>“nothing”, “restarted”.</summary>
    public static string Spoken(WatchSign sign) =>
        sign switch
        {
            WatchSign.None => "nothing",
            WatchSign.Restart => "restarted",
            WatchSign.Freeze => "froze",
            _ => "something else",
        };

    /// <summary>“12.50 EUR”.</summary>
    public static string Amount(decimal amount, string currency) =>
        string.Create(CultureInfo.InvariantCulture, $"{amount:0.00} {currency}");

    /// <summary>“bought in”.</summary>
    public static string Spoken(PartFate fate) => Words(fate.ToString());

    private static string Words(string name) =>
        string.Concat(
            name.Select(
                (c, i) => i > 0 && char.IsUpper(c) ? $" {char.ToLowerInvariant(c)}" : $"{char.ToLowerInvariant(c)}"
            )
        );

    private static string Shown(SwapOutcome o) =>
        !o.Started ? $"it did not start{(o.Sign is { } sign ? $", {sign}" : "")}"
        : o.Slots is { Count: > 0 } slots ? $"seen in {string.Join(", ", slots)}"
        : o.Seen is { } seen ? $"{seen} seen"
        : "it started";

    /// <summary>“2026-03-02 10:30 UTC”.</summary>
    public static string Minute(DateTimeOffset at) =>
        at.UtcDateTime.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture) + " UTC";

    private static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static string Word(bool looks) => looks ? "looked at" : "reseated";

    private static string Confirmed(StepConfirmed s) =>
        string.Join(
            "",
            new[]
            {
                s.Deviation is { } d ? $" {d.ToString().ToLowerInvariant()}" : null,
                s.Fasteners is > 0 and var n ? string.Create(CultureInfo.InvariantCulture, $", {n} fasteners") : null,
                s.Occupants is { Count: > 0 } o ? $", {string.Join(", ", o.Select(p => $"{p.Key} {p.Value}"))}" : null,
                s.Seen is { } seen ? $", {seen} seen" : null,
            }
        );

    private static string Say(PlannedBay bay) =>
        bay.Use switch
        {
            BayUse.Fit => $"{bay.Wish!.Drive.Size} into "
                + $"{bay.Bay}{(bay.Wish.Path is { } path ? $", {Words(path.ToString())}" : "")}",
            BayUse.Move => $"drive from {bay.From} to {bay.Bay}",
            BayUse.Empty => $"{bay.Bay} left empty",
            _ => $"{bay.Bay} {Word(bay.Use == BayUse.Inspect)}",
        };

    private static string Say(PlannedSlot slot) =>
        slot.Use switch
        {
            SlotUse.Fit => $"{slot.Module!.Size} into {slot.Slot}",
            SlotUse.Reseat or SlotUse.Inspect => $"{slot.Slot} {Word(slot.Use == SlotUse.Inspect)}",
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
        return (text.Length > 0 ? text : $"{memory.Slots.Count} slots")
            + (r.Reading.Sources.Contains(Captures.Source.Eyes) ? ", by eye" : "");
    }

    private static string Tail(string? text) => text is null ? "" : $" – {text}";
}
