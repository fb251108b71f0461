using System.Globalization;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Parts;

namespace Revtal.Documents.Papers;

/// <summary>The quote on A4, with a line to sign on.</summary>
public static class QuotePaper
{
    private const float Left = Paper.Margin,
        Amounts = 90;

    /// <param name="guide">The facts of this build.</param>
    /// <returns>PDF 1.4.</returns>
    public static byte[] Write(Order order, Guide guide, Quote quote, Printing printing)
    {
        using var paper = new Paper($"Quote for order {order.Number}", Paper.Foot(order.Number, printing), printing);
        var column = paper.Right - Amounts;
        var large = Paper.Bold(26);
        var text = Paper.Text(10.5f);
        var fine = Paper.Text(9);
        var bold = Paper.Bold(12);
        var mono = Paper.Mono(10.5f);
        paper.Write(order.AgreedBy is null ? "Quote" : "Agreed quote", Left, 420, large, Paper.Ink);
        paper.Write(
            $"Order {order.Number} · {guide.Model.Maker} "
                + $"{guide.Model.Name}{Phrases.When(order.Intake.Serial, s => $" · {s}")} · {order.Intake.Customer}",
            Left,
            500,
            text,
            Paper.Ink
        );
        List("What will be done", quote.Work);
        List("What is at risk", quote.Risks);
        paper.Heading("Price");
        foreach (var line in quote.Lines)
        {
            Amount(
                line.Count == 1 ? line.Text : $"{line.Count} × {line.Text}",
                line.Each is null ? "to be told" : Number(line.Sum)
            );
        }

        if (quote.Discount > 0)
        {
            Amount(
                string.Create(CultureInfo.InvariantCulture, $"Discount, {quote.DiscountPercent:0.##} %"),
                $"−{Number(quote.Discount)}"
            );
        }

        if (quote.TaxPercent > 0)
        {
            Amount("Net", Number(quote.Net));
            Amount(string.Create(CultureInfo.InvariantCulture, $"Tax, {quote.TaxPercent:0.##} %"), Number(quote.Tax));
        }

        paper.Together(() =>
        {
            paper.Canvas.DrawLine(Left, paper.Y + 5, paper.Right, paper.Y + 5, Paper.Line);
            paper.Y += 8;
            paper.Y += bold.Size * 1.3f;
            paper.Beside($"Total in {quote.Currency}", Left, paper.Y, bold, Paper.Ink);
            paper.BesideRight(Number(quote.Total), paper.Right, paper.Y, bold, Paper.Ink);
            Credits();
            Elsewhere();
            Signature();
        });
        return paper.Finish();

        void Credits()
        {
            foreach (var credit in quote.Credits)
            {
                Amount(credit.Text, $"−{Number(credit.Sum)}");
            }

            if (quote.Credits.Count > 0)
            {
                Amount("To pay", Number(quote.ToPay));
            }
        }

        void Elsewhere()
        {
            foreach (var line in quote.Compared ?? [])
            {
                paper.Y += 7;
                paper.Write(line, Left, column - Left, fine, Paper.Grey);
            }
        }

        void Signature()
        {
            var agreed = order.Agreed is { } a ? $"agreed: {a.Customer}" : "I agree: name";
            paper.Y += 60;
            paper.Canvas.DrawLine(Left, paper.Y, Left + 240, paper.Y, Paper.Line);
            paper.Canvas.DrawLine(Left + 280, paper.Y, paper.Right, paper.Y, Paper.Line);
            paper.Y += 3;
            paper.Beside("date", Left + 280, paper.Y + text.Size, text, Paper.Grey);
            paper.Write(agreed, Left, 240, text, Paper.Grey);
        }

        void List(string title, IReadOnlyList<string> lines)
        {
            if (lines.Count == 0)
            {
                return;
            }

            paper.Heading(title);
            foreach (var line in lines)
            {
                paper.Y += 2;
                paper.Write(line, Left, paper.Right - Left, text, Paper.Ink);
            }
        }

        void Amount(string what, string amount) =>
            paper.Together(() =>
            {
                paper.Y += 2;
                paper.Write(what, Left, column - Left, text, Paper.Ink);
                paper.BesideRight(amount, paper.Right, paper.Y - 3, mono, Paper.Ink);
            });
    }

    private static string Number(decimal amount) => amount.ToString("0.00", CultureInfo.InvariantCulture);
}
