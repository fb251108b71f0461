using System.Globalization;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Core.Parts;

namespace Revtal.CommandLine.Screens;

/// <summary>Invoices as a terminal shows them.</summary>
internal static class InvoiceScreen
{
    public static void Show(int order, InvoiceView view)
    {
        var invoice = view.Invoice;
        Screen.Marked(
            view is { Number: { } number, MadeAt: { } at }
                ? $"Invoice [bold]{number}[/], made {Screen.Ago(at)}, {Screen.Safe(view.MadeBy)}"
                : $"[yellow]Not made yet:[/] revtal order charge {order}"
        );
        Screen.Table(
            ["what", "count", "each", invoice.Currency],
            [
                .. invoice.Lines.Concat(invoice.Later).Select(Line),
                .. PlanScreen.Row(
                    invoice.Discount > 0,
                    string.Create(CultureInfo.InvariantCulture, $"discount {invoice.DiscountPercent:0.##} %"),
                    -invoice.Discount
                ),
                .. PlanScreen.Row(
                    invoice.TaxPercent > 0,
                    string.Create(CultureInfo.InvariantCulture, $"tax {invoice.TaxPercent:0.##} %"),
                    invoice.Tax
                ),
                .. PlanScreen.Row(true, "total", invoice.Total),
                .. invoice.Credits.SelectMany(c => PlanScreen.Row(true, Screen.Safe(c.Text), -c.Sum)),
                .. view.Payments.SelectMany(p => PlanScreen.Row(true, Told(p), -p.Amount)),
                .. PlanScreen.Row(true, Left(view), Math.Abs(view.Open)),
            ]
        );
        foreach (var line in invoice.Uncharged)
        {
            Screen.Marked($"[grey]not charged: {Screen.Safe(line)}[/]");
        }

        foreach (var extra in view.Extras)
        {
            OrderScreen.Fact($"extra {extra.Sequence}", $"{extra.Text}, {extra.Customer}");
        }

        foreach (var gone in view.Reversed)
        {
            OrderScreen.Fact($"invoice {gone.Number}", $"reversed by {gone.By}: {gone.Reason}");
        }
    }

    private static string Left(InvoiceView view) =>
        (view.Number, view.Open) switch
        {
            (null, < 0) => "the shop would owe",
            (null, _) => "would be left to pay",
            (_, < 0) => "the shop owes",
            _ => "still to pay",
        };

    public static void List(Page<InvoiceLine> page)
    {
        Screen.Table(
            ["no.", "order", "when", "customer", "net", "tax", "to pay", "paid", ""],
            page.Items.Select(i =>
                new[]
                {
                    $"{i.Number}",
                    $"{i.Order}",
                    Screen.Ago(i.At),
                    Screen.Safe(i.Customer),
                    PlanScreen.Number(i.Net),
                    PlanScreen.Number(i.Tax),
                    PlanScreen.Number(i.ToPay),
                    PlanScreen.Number(i.Paid),
                    i.Reverses is { } taken ? $"takes {taken} back"
                    : i.ReversedBy is { } by ? $"taken back by {by}"
                    : "",
                }
            )
        );
        if (page.Next is { } next)
        {
            Screen.Marked($"[grey]{page.Counted(page.Items.Count)}; more: revtal shop invoices --after {next}[/]");
        }
    }

    private static string[] Line(QuoteLine line) =>
        [Screen.Safe(line.Text), $"{line.Count}", PlanScreen.Number(line.Each ?? 0), PlanScreen.Number(line.Sum)];

    private static string Told(Payment payment) =>
        $"{(payment.Amount < 0 ? "paid out" : "paid")}, {Phrases.Words(payment.Way)}"
        + Screen.Safe(Phrases.When(payment.Note, n => $": {n}"));
}
