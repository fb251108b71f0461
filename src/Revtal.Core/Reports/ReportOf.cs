using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Reports;

/// <summary>An order whose check was accepted to its report.</summary>
public static class ReportOf
{
    /// <param name="guide">The facts of this build.</param>
    /// <param name="kinds">The catalogue lines of the plan's parts.</param>
    /// <param name="people">Everybody of the shop: names stand on it, not ids.</param>
    /// <param name="terms">The money that a later visit is told in.</param>
    /// <param name="zone">The bench's: days are its days.</param>
    /// <exception cref="RefusedException">Nothing was compared yet.</exception>
    public static Report Order(
        Order order,
        Guide guide,
        IReadOnlyList<PartKind> kinds,
        IReadOnlyList<Person> people,
        string shop,
        ShopTerms terms,
        TimeZoneInfo zone,
        DateTimeOffset now
    )
    {
        var check =
            order.Check(guide)
            ?? throw RefusedException.Rule("nothing-to-check", "No reading was taken after the work. Take it first.");
        return new Report(
            shop,
            order.Number,
            order.Head,
            now,
            $"{guide.Model.Maker} {guide.Model.Name}",
            order.Variant ?? guide.Model.Code,
            order.Intake.Serial,
            order.Intake.Customer,
            order.TakenInAt,
            order.HandedBackAt,
            order.Intake.Complaint,
            order.Intake.Goal,
            [.. WorkDone.Of(order, guide)],
            [.. Fitted(order, check, kinds, zone)],
            check.Verdict,
            check.Sentence,
            [.. check.Rows.Select(r => Slot(r, TellsSerials(check)))],
            check.Installed,
            check.Usable,
            [.. check.Drives.Where(IsKnown).Select(Drive)],
            [.. Figures(order)],
            [.. Found(order, check)],
            [.. LetBe(order, guide, check, people)],
            [.. order.CameOut(guide).Select(p => CameOut(order, p))],
            order.Watch is { } watch ? Watched(watch, zone) : null,
            order.Later is { } later ? Later(later, terms, zone) : null
        );
    }

    private static IEnumerable<ReportPart> Fitted(
        Order order,
        CheckResult check,
        IReadOnlyList<PartKind> kinds,
        TimeZoneInfo zone
    )
    {
        foreach (var slot in order.Fitted.Slots.Where(s => s.Use == SlotUse.Fit && order.WasFitted(s.Slot)))
        {
            var row = check.Rows.First(r => r.Slot == slot.Slot);
            var seen = row.Match == SlotMatch.Same && TellsSerials(check) ? row.After.Module : null;
            yield return Part(
                order,
                slot.Slot,
                slot.Module!.ToString(),
                slot.Module.PartNumber,
                seen?.Serial,
                kinds,
                zone
            );
        }

        foreach (var bay in order.Fitted.Bays.Where(b => b.Use == BayUse.Fit && order.WasFitted(b.Bay)))
        {
            var seen = check.Drives.First(r => r.Bay == bay.Bay) is { Match: SlotMatch.Same, After.Drive: var d }
                ? d
                : null;
            var drive = bay.Wish!.Drive;
            yield return Part(order, bay.Bay, drive.ToString(), drive.PartNumber, seen?.Serial, kinds, zone);
        }
    }

    private static ReportPart Part(
        Order order,
        string position,
        string what,
        PartNumber? number,
        string? read,
        IReadOnlyList<PartKind> kinds,
        TimeZoneInfo zone
    )
    {
        var kind = kinds.FirstOrDefault(k => k.Number == number);
        return new ReportPart(
            position,
            kind?.Name ?? what,
            number?.ToString(),
            read ?? order.Booked?.GetValueOrDefault(position),
            kind?.WarrantyMonths,
            kind?.WarrantyMonths is { } months && order.HandedBackAt is { } back
                ? Day(back, zone).AddMonths(months)
                : null
        );
    }

    /// <summary>The slots of a plan before it is carried out: what sits there and what will.</summary>
    public static IReadOnlyList<ReportSlot> Planned(Plan plan) =>
        [
            .. plan.Slots.Select(s => new ReportSlot(
                s.Slot,
                s.Before.Spoken,
                Planned(s.Stays && !s.Before.Known, s.Module),
                "",
                SlotMatch.Unknown,
                s.Stays,
                Bytes(s.Before),
                s.Stays && !s.Before.Known ? null : s.Module?.Size.Bytes ?? 0,
                null,
                null,
                null
            )),
        ];

    private static string Planned(bool kept, MemoryModule? module) =>
        kept ? "as it was" : module?.Size.ToString() ?? "empty";

    private static ReportSlot Slot(CheckRow row, bool tellsSerials)
    {
        var kept = row is { Stays: true, Before.Known: false };
        return new ReportSlot(
            row.Slot,
            row.Before.Spoken,
            Planned(kept, row.Planned),
            row.Match.Spoken(row.After),
            row.Match,
            row.Stays,
            Bytes(row.Before),
            kept ? null : row.Planned?.Size.Bytes ?? 0,
            Bytes(row.After),
            row.After.Module?.PartNumber?.ToString(),
            tellsSerials ? row.After.Module?.Serial : null
        );
    }

    // A machine that gives all of its modules one number names none of them.
    private static bool TellsSerials(CheckResult check) => check.Findings.All(f => f.Code != "serials-repeat");

    private static long? Bytes(SlotContent content) => content.Known ? content.Module?.Size.Bytes ?? 0 : null;

    private static bool IsKnown(DriveRow row) => row is not { Before: null, Planned: null, After: null };

    private static ReportDrive Drive(DriveRow row) =>
        new(
            row.Bay,
            row.Before?.Size.WithBinary,
            row.Planned?.Size.WithBinary,
            row.After?.Drive.Size.WithBinary,
            row.Match,
            row.After?.Drive.PartNumber?.ToString(),
            row.After?.Drive.Serial,
            row.After?.Health?.Told()
        );

    private static IEnumerable<ReportFigure> Figures(Order order)
    {
        foreach (
            var line in ScoreLine.Of(
                order.Scores(Phase.Before),
                order.Scores(Phase.After),
                Array.Empty<decimal>().ToLookup(_ => ("", ""))
            )
        )
        {
            yield return new(line.Name, line.Unit, line.Before, line.After, line.Percent, line.Better);
        }

        var (was, now) = (LastLoad(order, Phase.Before), LastLoad(order, Phase.After));
        if (was is null && now is null)
        {
            yield break;
        }

        // Less in use is no gain by itself: what was to be done may have been less.
        yield return Load("Memory wanted at most", "GB", Gigabytes(was?.WantedBytes), Gigabytes(now?.WantedBytes));
        yield return Load(
            "Moved out of memory at most",
            "GB",
            Gigabytes(was?.PagedOutBytes),
            Gigabytes(now?.PagedOutBytes)
        );
        yield return Load("Processor at most", "%", was?.CpuPercent, now?.CpuPercent);
    }

    private static ReportFigure Load(string name, string unit, decimal? before, decimal? after) =>
        new(name, unit, before, after, null, null);

    private static LoadPeaks? LastLoad(Order order, Phase phase) =>
        order.Loads.LastOrDefault(l => l.Phase == phase)?.Series.Peaks;

    // The trade's GB of memory, in tenths.
    private static decimal? Gigabytes(long? bytes) =>
        bytes is { } b ? Math.Round((decimal)b / MemorySize.Gigabytes(1).Bytes, 1) : null;

    private static IEnumerable<string> Found(Order order, CheckResult check) =>
        check
            // What was still to be done when it was noticed is no matter of a report: what is so is told.
            .Findings.Select(f => f.Severity == Severity.Note ? f.Customer : f.Sentence)
            .Concat(order.Runs.SelectMany(r => r.Found).Where(f => ForCustomer.Contains(f.Kind)).Select(Found))
            .Concat(order.SwapResults.Select(r => r.Conclusion?.Sentence).OfType<string>())
            .Distinct();

    private static string Found(BenchFind find) =>
        Phrases.Sentence($"{find.Told}{Phrases.When(find.Text, t => $": {t}")}.");

    // What is of the machine, and not of the bench's way into it.
    private static readonly HashSet<FindKind> ForCustomer =
    [
        FindKind.MissingFastener,
        FindKind.BrokenClip,
        FindKind.Dust,
        FindKind.SwollenBattery,
        FindKind.LiquidMark,
        FindKind.Other,
        FindKind.LoudFan,
        FindKind.Heat,
        FindKind.Noise,
        FindKind.Freeze,
        FindKind.LeftAlone,
    ];

    private static IEnumerable<string> LetBe(
        Order order,
        Guide guide,
        CheckResult check,
        IReadOnlyList<Person> people
    ) =>
        order
            .Runs.SelectMany(r => r.Waivers)
            .Select(w =>
                $"{Phrases.Sentence(w.Gate.Spoken())}{StepWords.At(w.Step, guide)}, let be: "
                + $"{w.Reason} ({Person.Called(people, w.By)})"
            )
            .Concat(
                Holds
                    .Of(order, guide, check)
                    .Select(h => h.Released)
                    .OfType<ReleasedHold>()
                    .Select(r => $"{r.Sentence} Let be: {r.Reason} ({Person.Called(people, r.By)})")
            );

    private static string CameOut(Order order, LeavingPart part) =>
        $"{Phrases.Sentence(part.Name)}, out of {part.Position}: "
        + (
            order.Settled.FirstOrDefault(s => s.Position == part.Position)?.Words
            ?? "nobody said yet what becomes of it"
        )
        + ".";

    private static string Watched(Watch watch, TimeZoneInfo zone) =>
        $"{watch.For}: watched from {Told(watch.BeganAt, zone)} to {Told(watch.EndedAt ?? watch.Until, zone)}, "
        + watch.Outcome switch
        {
            WatchOutcome.Gone => "it did not come back",
            WatchOutcome.CameBack => "it came back",
            WatchOutcome.Unclear => "it stayed unclear",
            _ => "still watched",
        }
        + $"{Phrases.Added(watch.Text)}.";

    private static string Told(DateTimeOffset at, TimeZoneInfo zone) => Phrases.Day(Day(at, zone));

    private static DateOnly Day(DateTimeOffset at, TimeZoneInfo zone) =>
        DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, zone).DateTime);

    private static string Later(LaterVisit visit, ShopTerms terms, TimeZoneInfo zone) =>
        visit.Words
        + Phrases.When(visit.Price, price => $", {Phrases.Amount(price, terms.Currency)} on {Told(visit.At, zone)}");
}
