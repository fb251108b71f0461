using System.Globalization;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>An order's plan to what is told to the customer.</summary>
public static class Quotes
{
    private const string Cleaned = "Cleaning inside",
        Worked = "Work, about ";

    /// <summary>The quote of an order's plan.</summary>
    /// <param name="guide">The facts of this build.</param>
    /// <param name="kinds">The catalogue lines of the plan's parts.</param>
    public static Quote Of(Order order, Guide guide, IReadOnlyList<PartKind> kinds, WorkTime time, ShopTerms terms)
    {
        var plan = order.Plan!.Value;
        var parts = StockEffects.Wishes(plan).GroupBy(w => w.Number).Select(Line).ToArray();
        var labour = Currency.Round(terms.HourRate * time.Minutes / 60, terms.Currency);
        QuoteLine[] lines = [.. parts, Work(), .. Cleaning()];
        var discount = Currency.Round(lines.Sum(l => l.Sum) * order.Discount / 100, terms.Currency);
        var net = lines.Sum(l => l.Sum) - discount;
        var tax = Currency.Round(net * terms.TaxPercent / 100, terms.Currency);
        return new Quote(
            [.. Done(plan)],
            [.. AtRisk(order, guide)],
            lines,
            time.Minutes,
            time.PastRuns,
            order.Discount,
            discount,
            net,
            terms.TaxPercent,
            tax,
            net + tax,
            terms.Currency,
            [.. lines.Where(p => p.Each is null).Select(p => p.Text), .. Unnumbered(plan)],
            Compared()
        );

        QuoteLine Work() =>
            new(string.Create(CultureInfo.InvariantCulture, $"{Worked}{time.Minutes} min"), 1, labour, labour);

        QuoteLine[] Cleaning() => plan.Cleans ? [new(Cleaned, 1, terms.CleaningPrice, terms.CleaningPrice ?? 0)] : [];

        string[]? Compared() =>
            StockEffects
                .Wishes(plan)
                .GroupBy(w => w.Number)
                .Select(g =>
                    kinds.FirstOrDefault(k => k.Number == g.Key) is { Elsewhere: { } price } kind
                        ? price.Told(kind, Packages(kind, g.Count()), terms.Currency)
                        : null
                )
                .OfType<string>()
                .ToArray()
                is { Length: > 0 } told
                ? told
                : null;

        QuoteLine Line(IGrouping<PartNumber, PartWish> group)
        {
            var kind = kinds.FirstOrDefault(k => k.Number == group.Key);
            var count = Packages(kind, group.Count());
            return kind is null
                ? new QuoteLine(group.Key.ToString(), count, null, 0)
                : new QuoteLine($"{kind.Name} ({kind.Number})", count, kind.Price, kind.Price * count);
        }
    }

    /// <summary>A kit that is begun is paid whole.</summary>
    internal static int Packages(PartKind? kind, int modules)
    {
        var pieces = kind?.Pieces ?? 1;
        return (modules + pieces - 1) / pieces;
    }

    /// <summary>Whether a line is the cleaning's.</summary>
    internal static bool IsCleaning(QuoteLine line) => line.Text == Cleaned;

    /// <summary>Whether a line is the labour's.</summary>
    internal static bool IsWork(QuoteLine line) => line.Text.StartsWith(Worked, StringComparison.Ordinal);

    /// <summary>Whether a line is of parts of this number.</summary>
    internal static bool IsOf(QuoteLine line, PartNumber number) =>
        line.Text == $"{number}" || line.Text.EndsWith($" ({number})", StringComparison.Ordinal);

    private static IEnumerable<string> Unnumbered(Plan plan) =>
        [
            .. plan
                .Slots.Where(s => s is { Use: SlotUse.Fit, Module.PartNumber: null })
                .Select(s => $"{s.Module!.Size} for {s.Slot}"),
            .. plan
                .Bays.Where(b => b.Wish is { Drive.PartNumber: null })
                .Select(b => $"{b.Wish!.Drive.Size} for {b.Bay}"),
        ];

    private static IEnumerable<string> Done(Plan plan)
    {
        foreach (var slot in plan.Slots.Where(s => s.Use != SlotUse.Keep))
        {
            yield return slot.Use switch
            {
                SlotUse.Fit => $"{slot.Module!.Size} of memory goes into slot {slot.Slot}{Leaves(plan, slot)}.",
                SlotUse.Move => $"The module of slot {slot.From} moves to slot {slot.Slot}.",
                SlotUse.Empty when plan.Slots.Any(o => o.From == slot.Slot) => $"Slot {slot.Slot} stays empty.",
                SlotUse.Empty when slot.Before is { Known: true, Module: null } => $"Slot {slot.Slot} stays empty.",
                SlotUse.Empty => $"The module of slot {slot.Slot} comes out.",
                SlotUse.Reseat => $"The memory of slot {slot.Slot} is seated anew.",
                _ => $"Slot {slot.Slot} is looked at.",
            };
        }

        foreach (var bay in plan.Bays)
        {
            yield return bay.Use switch
            {
                BayUse.Fit when bay.Wish!.SystemFrom is { } from =>
                    $"A drive of {bay.Wish.Drive.Size} goes into bay {bay.Bay} and takes over the system of "
                        + $"{from}{Path(bay.Wish)}.",
                BayUse.Fit => $"A drive of {bay.Wish!.Drive.Size} goes into bay {bay.Bay}{Path(bay.Wish)}.",
                BayUse.Move => $"The drive of bay {bay.From} moves to bay {bay.Bay}.",
                BayUse.Empty => $"The drive of bay {bay.Bay} comes out.",
                BayUse.Reseat => $"The drive of bay {bay.Bay} is seated anew.",
                _ => $"Bay {bay.Bay} is looked at.",
            };
        }

        if (plan.Cleans)
        {
            yield return "It is cleaned inside while it is open.";
        }

        static string Path(DriveWish wish) =>
            wish.Path switch
            {
                DataPath.CopyFirst => "; your data is copied to it and verified first",
                DataPath.CleanInstall => "; the system is set up anew on it",
                DataPath.LeftBehind => "; your data stays on the old drive",
                _ => "",
            };
    }

    private static string Leaves(Plan plan, PlannedSlot slot) =>
        slot.Before.Module is { } old && plan.Slots.All(o => o.From != slot.Slot)
            ? $"; the {old.Size} there comes out"
            : "";

    private static IEnumerable<string> AtRisk(Order order, Guide guide)
    {
        var plan = order.Plan!.Value;
        var reach = Reach.To(guide, plan.Touched, !plan.OnlyLooks);
        if (reach.Any(r => r.IsSealed))
        {
            yield return order.Intake.SealConsent == SealConsent.Given
                ? "A warranty seal is broken on the way in, as you allowed."
                : "A warranty seal is broken on the way in: its maker's warranty may end.";
        }

        yield return order.Intake.Backup switch
        {
            Backup.Made =>
                "You have a backup: should a drive fail on the bench, what is in the backup is what remains.",
            Backup.Waived => "You go without a backup: if a drive fails on the bench, its data is lost.",
            _ => "Nobody knows of a backup yet: make one before, or say that you go without.",
        };
        foreach (var bay in plan.Bays.Where(b => b.Wish?.Path is DataPath.CleanInstall or DataPath.LeftBehind))
        {
            yield return $"What is on the drive of bay {bay.Wish!.DataFrom(bay.Bay)} is not carried over.";
        }

        foreach (
            var note in FitRules
                .Of(guide, order.Before!.Value, plan)
                .Where(n => n.Code is "above-stated" or "above-all-maxima")
        )
        {
            yield return note.Sentence;
        }
    }
}
