using System.Globalization;
using Revtal.Core.Guides;
using Revtal.Core.Parts;

namespace Revtal.Core.Orders;

/// <summary>Extra work that the customer agreed to beside the quote.</summary>
/// <param name="Sequence">Of the entry that told it.</param>
/// <param name="Price">Without tax.</param>
/// <param name="Customer">Who agreed.</param>
public sealed record Extra(int Sequence, string Text, decimal Price, string Customer, DateTimeOffset At);

/// <summary>An invoice that was made.</summary>
/// <param name="Number">The shop's, from 1, without gaps.</param>
/// <param name="Sequence">Of the entry that made it.</param>
/// <param name="By">Who made it, by id.</param>
/// <param name="Reversed">What took it back; null while it stands.</param>
public sealed record MadeInvoice(
    int Number,
    Invoice Invoice,
    int Sequence,
    DateTimeOffset At,
    string By,
    ReversedInvoice? Reversed = null
);

/// <summary>What took an invoice back as a whole.</summary>
/// <param name="Number">Its own, of the same row of numbers.</param>
public sealed record ReversedInvoice(int Number, string Reason, DateTimeOffset At, string By);

/// <summary>Money that changed hands.</summary>
/// <param name="Amount">Above 0 what the customer paid, below 0 what the shop paid out.</param>
public sealed record Payment(decimal Amount, PaymentWay Way, string? Note, DateTimeOffset At, string By);

/// <summary>An order to its invoice.</summary>
public static class Invoices
{
    /// <summary>What the order costs as it stands.</summary>
    /// <param name="order">One whose price was agreed.</param>
    /// <param name="guide">The facts of this build.</param>
    /// <param name="kinds">The catalogue lines of the plan's parts.</param>
    /// <param name="zone">The shop's, for the day on which extra work was agreed.</param>
    public static Invoice Of(Order order, Guide guide, IReadOnlyList<PartKind> kinds, TimeZoneInfo zone)
    {
        var quote = order.Agreed!.Quote!;
        var charged = Charged(order, quote.Lines, kinds).ToArray();
        QuoteLine[] lines = [.. charged.Select(c => c.Done).OfType<QuoteLine>()];
        QuoteLine[] later = [.. order.Extras.Select(e => Line(e, zone))];
        var discount = Currency.Round(lines.Sum(l => l.Sum) * quote.DiscountPercent / 100, quote.Currency);
        var net = lines.Sum(l => l.Sum) - discount + later.Sum(l => l.Sum);
        var tax = Currency.Round(net * quote.TaxPercent / 100, quote.Currency);
        return new Invoice(
            order.Intake.Customer,
            $"{guide.Model.Maker} {guide.Model.Name}",
            order.Intake.Serial,
            lines,
            later,
            [.. charged.Where(c => c.Done != c.Agreed).Select(c => Why(c.Agreed, c.Done))],
            quote.DiscountPercent,
            discount,
            net,
            quote.TaxPercent,
            tax,
            net + tax,
            quote.Currency,
            [
                .. order
                    .Settled.Where(s => s.Fate == PartFate.BoughtIn)
                    .Select(s => new QuoteLine($"Bought in: the part out of {s.Position}", 1, s.Price, s.Price ?? 0)),
            ]
        );
    }

    /// <summary>What is still to be paid; below 0 what the shop owes.</summary>
    public static decimal Open(Order order) => (order.Invoice?.Invoice.ToPay ?? 0) - order.Payments.Sum(p => p.Amount);

    // Each line as far as it was done, null for not at all. Until the work is done nobody knows, and all is expected.
    private static IEnumerable<(QuoteLine Agreed, QuoteLine? Done)> Charged(
        Order order,
        IReadOnlyList<QuoteLine> lines,
        IReadOnlyList<PartKind> kinds
    )
    {
        var wishes = StockEffects.Wishes(order.Fitted);
        // Fitted for its like, at the price of what it stands for.
        var likes = new Queue<PartWish>(wishes.Where(w => !lines.Any(l => Quotes.IsOf(l, w.Number))));
        foreach (var line in lines)
        {
            yield return (line, line.Each is null ? null : Done(line));
        }

        QuoteLine? Done(QuoteLine line)
        {
            if (order.WorkStage < Stage.Ready || Quotes.IsWork(line))
            {
                return line;
            }

            if (Quotes.IsCleaning(line))
            {
                return order.OwesCleaning ? null : line;
            }

            var kind = kinds.FirstOrDefault(k => Quotes.IsOf(line, k.Number));
            var own = wishes.Where(w => Quotes.IsOf(line, w.Number)).ToList();
            while (own.Count < line.Count * (kind?.Pieces ?? 1) && likes.TryDequeue(out var like))
            {
                own.Add(like);
            }

            var fitted = own.Count(w => order.WasFitted(w.Position));
            var count = fitted > 0 && fitted == own.Count ? line.Count : Quotes.Packages(kind, fitted);
            return count == 0 ? null
                : count >= line.Count ? line
                : line with { Count = count, Sum = line.Each!.Value * count };
        }
    }

    private static string Why(QuoteLine agreed, QuoteLine? done) =>
        agreed.Each is null ? $"{agreed.Text}: no price was agreed."
        : done is null ? $"{agreed.Text}: not done."
        : string.Create(CultureInfo.InvariantCulture, $"{agreed.Text}: {done.Count} of {agreed.Count} fitted.");

    private static QuoteLine Line(Extra extra, TimeZoneInfo zone)
    {
        var day = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(extra.At, zone).DateTime);
        return new($"{extra.Text}, agreed {Phrases.Day(day)} by {extra.Customer}", 1, extra.Price, extra.Price);
    }
}
