using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Parts;

namespace Revtal.Documents.Papers;

/// <summary>The quote on A4, with a line to sign on.</summary>
public static class QuotePaper
{
    private const float Left = Paper.Margin;

    /// <param name="guide">The facts of this build.</param>
    /// <returns>PDF 1.4.</returns>
    public static byte[] Write(Order order, Guide guide, Quote quote, Printing printing)
    {
        using var paper = new Paper($"Quote for order {order.Number}", Paper.Foot(order.Number, printing), printing);
        var prices = new Prices(paper, quote.Currency);
        var large = Paper.Bold(26);
        var text = Paper.Text(10.5f);
        var fine = Paper.Text(9);
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
            prices.Line(line);
        }

        prices.Discount(quote.DiscountPercent, quote.Discount);
        prices.Tax(quote.Net, quote.TaxPercent, quote.Tax);
        paper.Together(() =>
        {
            prices.Total("Total", quote.Total);
            Elsewhere();
            Signature();
        });
        return paper.Finish();

        void Elsewhere()
        {
            foreach (var line in quote.Compared ?? [])
            {
                paper.Y += 7;
                paper.Write(line, Left, prices.Column - Left, fine, Paper.Grey);
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
    }
}
