using System.Globalization;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;

namespace Revtal.Core.Parts;

/// <summary>What the shop takes for its work.</summary>
/// <param name="Currency">ISO 4217: <c>EUR</c>.</param>
/// <param name="HourRate">Without tax.</param>
/// <param name="TaxPercent">0 to 100.</param>
public sealed record ShopTerms(string Currency, decimal HourRate, decimal TaxPercent);

/// <summary>How long the work takes.</summary>
/// <param name="PastRuns">How many past runs of this model with the same way in it rests on; 0 for the guide's
/// minutes.</param>
public sealed record WorkTime(int Minutes, int PastRuns)
{
    /// <summary>Past runs count from so many on.</summary>
    public const int FewestRuns = 5;

    /// <summary>
    /// The median of past runs where there are enough, else the guide's minutes. Hands are idle while the machine
    /// cools, but it lies on the bench.
    /// </summary>
    /// <param name="past">Minutes of past runs of the same model by the same way in.</param>
    public static WorkTime Of(RunSheet sheet, IReadOnlyList<int> past) =>
        past.Count >= FewestRuns
            ? new WorkTime(past.Order().ElementAt(past.Count / 2), past.Count)
            : new WorkTime(sheet.Steps.Sum(s => s.Minutes), 0);
}

/// <summary>One line of a quote.</summary>
/// <param name="Each">Null where the price is not known.</param>
public sealed record QuoteLine(string Text, int Count, decimal? Each, decimal Sum);

/// <summary>What is told to the customer: the work, its price and its risks. Once agreed it never changes.</summary>
/// <param name="Work">What will be done, a sentence each.</param>
/// <param name="Risks">What is at risk, a sentence each.</param>
/// <param name="DiscountPercent">Of parts and labour.</param>
/// <param name="Unpriced">Parts without a price: the total is not final.</param>
public sealed record Quote(
    IReadOnlyList<string> Work,
    IReadOnlyList<string> Risks,
    IReadOnlyList<QuoteLine> Lines,
    int Minutes,
    int PastRuns,
    decimal DiscountPercent,
    decimal Discount,
    decimal Net,
    decimal TaxPercent,
    decimal Tax,
    decimal Total,
    string Currency,
    IReadOnlyList<string> Unpriced
)
{
    /// <summary>The quote of an order's plan.</summary>
    /// <param name="guide">The facts of this build.</param>
    /// <param name="kinds">The catalogue lines of the plan's parts.</param>
    public static Quote Of(Order order, Guide guide, IReadOnlyList<PartKind> kinds, WorkTime time, ShopTerms terms)
    {
        var plan = order.Plan!.Value;
        var parts = StockEffects
            .Wishes(plan)
            .GroupBy(w => w.Number, StringComparer.OrdinalIgnoreCase)
            .Select(Line)
            .ToArray();
        var labour = Round(terms.HourRate * time.Minutes / 60);
        var discount = Round((parts.Sum(p => p.Sum) + labour) * order.Discount / 100);
        var net = parts.Sum(p => p.Sum) + labour - discount;
        var tax = Round(net * terms.TaxPercent / 100);
        var hour = string.Create(CultureInfo.InvariantCulture, $"Work, about {time.Minutes} min");
        return new Quote(
            [.. Done(plan)],
            [.. AtRisk(order, guide)],
            [.. parts, new QuoteLine(hour, 1, labour, labour)],
            time.Minutes,
            time.PastRuns,
            order.Discount,
            discount,
            net,
            terms.TaxPercent,
            tax,
            net + tax,
            terms.Currency,
            [.. parts.Where(p => p.Each is null).Select(p => p.Text), .. Unnumbered(plan)]
        );

        QuoteLine Line(IGrouping<string, PartWish> group)
        {
            var kind = kinds.FirstOrDefault(k => k.IsCalled(group.Key));
            var count = group.Count() / (kind?.Pieces ?? 1);
            return kind is null
                ? new QuoteLine(group.Key, count, null, 0)
                : new QuoteLine($"{kind.Name} ({kind.Number})", count, kind.Price, kind.Price * count);
        }
    }

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
                SlotUse.Fit => $"{slot.Module!.Size} of memory go into slot "
                    + $"{slot.Slot}"
                    + $"{(slot.Before.Module is { } old && plan.Slots.All(o => o.From != slot.Slot) ? $"; the {old.Size} there come out" : "")}.",
                SlotUse.Move => $"The {slot.Module?.Size} of slot {slot.From} move to slot {slot.Slot}.",
                SlotUse.Empty when plan.Slots.Any(o => o.From == slot.Slot) => $"Slot {slot.Slot} stays empty.",
                SlotUse.Empty => $"The {slot.Before.Spoken} of slot {slot.Slot} come out.",
                SlotUse.Reseat => $"The memory of slot {slot.Slot} is seated anew.",
                _ => $"Slot {slot.Slot} is looked at.",
            };
        }

        foreach (var bay in plan.Bays)
        {
            yield return bay.Use switch
            {
                BayUse.Fit => $"A drive of {bay.Wish!.Drive.Size} goes into bay {bay.Bay}{Path(bay.Wish)}.",
                BayUse.Move => $"The drive of bay {bay.From} moves to bay {bay.Bay}.",
                BayUse.Empty => $"The drive of bay {bay.Bay} comes out.",
                BayUse.Reseat => $"The drive of bay {bay.Bay} is seated anew.",
                _ => $"Bay {bay.Bay} is looked at.",
            };
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

    private static IEnumerable<string> AtRisk(Order order, Guide guide)
    {
        var plan = order.Plan!.Value;
        var reach = Reach.To(guide, plan.Touched, !plan.OnlyLooks);
        if (reach.Any(r => r.Fasteners.Any(f => f.Seal)))
        {
            yield return order.Intake.SealConsent == SealConsent.Given
                ? "A warranty seal is broken on the way in, as you allowed."
                : "A warranty seal is broken on the way in: its maker's warranty may end.";
        }

        yield return order.Intake.Backup switch
        {
            Backup.Made => "Your data is not at risk: you have a backup of it.",
            Backup.Waived => "You go without a backup: if a drive fails on the bench, its data is lost.",
            _ => "Nobody knows of a backup yet: make one before, or say that you go without.",
        };
        foreach (var bay in plan.Bays.Where(b => b.Wish?.Path is DataPath.CleanInstall or DataPath.LeftBehind))
        {
            yield return $"What is on the drive of bay {bay.Bay} is not carried over.";
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

    private static decimal Round(decimal amount) => Math.Round(amount, 2, MidpointRounding.AwayFromZero);
}
