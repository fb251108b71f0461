using System.Globalization;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using SkiaSharp;

namespace Revtal.Documents;

/// <summary>The quote on A4, with a line to sign on.</summary>
public static class QuotePaper
{
    private const float Left = Paper.Margin,
        Right = Paper.Width - Paper.Margin,
        Column = Right - 90;

    /// <param name="guide">The facts of this build.</param>
    /// <param name="zone">The bench's.</param>
    /// <returns>PDF 1.4.</returns>
    public static byte[] Write(
        Order order,
        Guide guide,
        Quote quote,
        string shop,
        DateTimeOffset now,
        TimeZoneInfo zone
    )
    {
        using var paper = new Paper(
            $"Quote for order {order.Number}",
            $"{shop} · order {order.Number} · printed "
                + $"{TimeZoneInfo.ConvertTime(now, zone).ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture)}"
        );
        using var large = Paper.Bold(26);
        using var text = Paper.Text(10.5f);
        using var small = Paper.Bold(9);
        using var fine = Paper.Text(9);
        using var bold = Paper.Bold(12);
        using var mono = Paper.Mono(10.5f);
        paper.Write(order.AgreedBy is null ? "Quote" : "Agreed quote", Left, 420, large, Paper.Ink);
        paper.Write(
            $"Order {order.Number} · {guide.Model.Maker} "
                + $"{guide.Model.Name}{Phrases.When(order.Intake.Serial, s => $" · {s}")} · {order.Intake.Customer}",
            Left,
            500,
            text,
            Paper.Ink
        );
        List("WHAT WILL BE DONE", quote.Work);
        List("WHAT IS AT RISK", quote.Risks);
        Heading("PRICE");
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
            paper.Canvas.DrawLine(Left, paper.Y + 5, Right, paper.Y + 5, Paper.Line);
            paper.Y += 8;
            paper.Y += bold.Size * 1.3f;
            paper.Canvas.DrawText($"Total in {quote.Currency}", Left, paper.Y, bold, Paper.Ink);
            paper.Canvas.DrawText(Number(quote.Total), Right, paper.Y, SKTextAlign.Right, bold, Paper.Ink);
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
                paper.Write(line, Left, Column - Left, fine, Paper.Grey);
            }
        }

        void Signature()
        {
            var agreed = order.Agreed is { } a ? $"agreed: {a.Customer}" : "I agree: name";
            paper.Y += 60;
            paper.Canvas.DrawLine(Left, paper.Y, Left + 240, paper.Y, Paper.Line);
            paper.Canvas.DrawLine(Left + 280, paper.Y, Right, paper.Y, Paper.Line);
            paper.Y += 3;
            paper.Canvas.DrawText("date", Left + 280, paper.Y + text.Size, text, Paper.Grey);
            paper.Write(agreed, Left, 240, text, Paper.Grey);
        }

        void Heading(string title)
        {
            // Not the last line of a page.
            paper.Need(44);
            paper.Y += 16;
            paper.Write(title, Left, 300, small, Paper.Grey);
            paper.Y += 2;
        }

        void List(string title, IReadOnlyList<string> lines)
        {
            if (lines.Count == 0)
            {
                return;
            }

            Heading(title);
            foreach (var line in lines)
            {
                paper.Y += 2;
                paper.Write(line, Left, Right - Left, text, Paper.Ink);
            }
        }

        void Amount(string what, string amount) =>
            paper.Together(() =>
            {
                paper.Y += 2;
                paper.Write(what, Left, Column - Left, text, Paper.Ink);
                paper.Canvas.DrawText(amount, Right, paper.Y - 3, SKTextAlign.Right, mono, Paper.Ink);
            });
    }

    private static string Number(decimal amount) => amount.ToString("0.00", CultureInfo.InvariantCulture);
}
