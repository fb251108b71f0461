using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Documents.Papers;

/// <summary>An invoice, or what takes one back, with what is paid of it.</summary>
public static class InvoicePaper
{
    private const float Left = Paper.Margin;

    /// <param name="order">Whose it is.</param>
    /// <param name="number">Of an invoice of the order, or of what took one back.</param>
    /// <returns>PDF 1.4.</returns>
    public static byte[] Write(Order order, int number, Printing printing)
    {
        var made = order.Invoices.First(i => i.Number == number || i.Reversed?.Number == number);
        var back = made.Number == number ? null : made.Reversed;
        var invoice = made.Invoice;
        var title = back is null ? $"Invoice {number}" : $"Reversal {number}";
        using var paper = new Paper($"{title}, order {order.Number}", Paper.Foot(order.Number, printing), printing);
        var text = Paper.Text(10.5f);
        var fine = Paper.Text(9);
        paper.Write(title, Left, 420, Paper.Bold(26), Paper.Ink);
        paper.Write(
            $"{printing.Shop} · {printing.Day(back?.At ?? made.At)} · order {order.Number}",
            Left,
            500,
            text,
            Paper.Grey
        );
        paper.Y += 10;
        paper.Write(invoice.Customer, Left, 420, Paper.Bold(12), Paper.Ink);
        paper.Write(
            $"{invoice.Machine}{Phrases.When(invoice.Serial, s => $" · {s}")}",
            Left,
            paper.Right - Left,
            text,
            Paper.Ink
        );
        if (back is not null)
        {
            paper.Y += 10;
            Tell($"This takes invoice {made.Number} of {printing.Day(made.At)} back as a whole: {back.Reason}");
        }
        else if (made.Reversed is { } gone)
        {
            paper.Y += 10;
            Tell($"Taken back as a whole by {gone.Number} on {printing.Day(gone.At)}: {gone.Reason}");
        }

        paper.Heading(back is null ? "What it costs" : "What is taken back");
        var prices = new Prices(paper, invoice.Currency);
        foreach (var line in invoice.Lines)
        {
            prices.Line(line);
        }

        prices.Discount(invoice.DiscountPercent, invoice.Discount);
        foreach (var line in invoice.Later)
        {
            prices.Line(line);
        }

        prices.Tax(invoice.Net, invoice.TaxPercent, invoice.Tax);
        paper.Together(() => Sums(paper, prices, order, made, back is not null, printing));
        if (invoice.Uncharged.Count > 0)
        {
            paper.Heading("Agreed, and not charged");
            foreach (var line in invoice.Uncharged)
            {
                paper.Write(line, Left, paper.Right - Left, fine, Paper.Grey);
            }
        }

        return paper.Finish();

        void Tell(string sentence) => paper.Write(sentence, Left, paper.Right - Left, text, Paper.Ink);
    }

    private static void Sums(Paper paper, Prices prices, Order order, MadeInvoice made, bool isBack, Printing printing)
    {
        var invoice = made.Invoice;
        if (isBack)
        {
            prices.Total("Taken back", invoice.ToPay);
            return;
        }

        prices.Total("Total", invoice.Total);
        foreach (var credit in invoice.Credits)
        {
            prices.Amount(credit.Text, prices.Less(credit.Sum));
        }

        // What was paid counts for the one that stands.
        if (made.Reversed is not null)
        {
            return;
        }

        foreach (var payment in order.Payments)
        {
            prices.Amount(Told(payment), Signed(payment.Amount));
        }

        if (invoice.Credits.Count > 0 || order.Payments.Count > 0)
        {
            var open = Invoices.Open(order);
            prices.Total(open < 0 ? "We owe you" : "Still to pay", Math.Abs(open));
        }

        string Told(Payment payment) =>
            $"{(payment.Amount < 0 ? "Paid out" : "Paid")} {printing.Day(payment.At)}, {Phrases.Words(payment.Way)}"
            + Phrases.When(payment.Note, n => $": {n}");

        string Signed(decimal paid) => paid < 0 ? prices.Number(-paid) : prices.Less(paid);
    }
}
