using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Documents.Papers;
using Xunit;

namespace Revtal.Tests.Documents;

/// <summary>Invoices on paper, read back by Debian's PDF tools.</summary>
public sealed class InvoicePaperTests
{
    private static readonly DateTimeOffset Day = new(2026, 3, 2, 9, 30, 0, TimeSpan.Zero);
    private static readonly Printing Printing = new("Saltmarsh Road", Day, TimeZoneInfo.Utc);

    private static readonly Invoice Invoice = new(
        "Δημήτρης, Choir's archive",
        "Norrland Fjell 14",
        "NF14-0417",
        [new QuoteLine("16 GB module (OS-16)", 2, 36m, 72m), new QuoteLine("Work, about 30 min", 1, 30m, 30m)],
        [new QuoteLine("New rubber feet, agreed 2026-03-01 by M. Alto", 1, 8.5m, 8.5m)],
        ["Cleaning inside: not done."],
        10m,
        10.2m,
        100.3m,
        20m,
        20.06m,
        120.36m,
        "EUR",
        [new QuoteLine("Bought in: the part out of S2", 1, 12.5m, 12.5m)]
    );

    [Fact]
    public void An_invoice_tells_each_line_what_is_paid_and_what_is_left()
    {
        var text = Text(Order(new PaymentTaken(50m, PaymentWay.Card, "slip 7")), 12);
        Assert.Equal(
            [
                "Invoice 12",
                "Δημήτρης, Choir's archive",
                "2 × 16 GB module (OS-16) 72.00",
                "Work, about 30 min 30.00",
                "Discount, 10 % −10.20",
                "New rubber feet, agreed 2026-03-01 by M. Alto 8.50",
                "Net 100.30",
                "Tax, 20 % 20.06",
                "Total in EUR 120.36",
                "Bought in: the part out of S2 −12.50",
                "Paid 2026-03-02, card: slip 7 −50.00",
                "Still to pay in EUR 57.86",
                "Cleaning inside: not done.",
            ],
            text.Where(l => !l.StartsWith("Saltmarsh", StringComparison.Ordinal))
                .Except(["Norrland Fjell 14 · NF14-0417", "WHAT IT COSTS", "AGREED, AND NOT CHARGED"])
        );
    }

    [Fact]
    public void What_took_it_back_says_of_which_and_why_and_the_first_says_that_it_is_gone()
    {
        var order = Order(new InvoiceReversed(12, "the discount was forgotten") { Number = 13 });
        var back = Text(order, 13);
        Assert.Contains("Reversal 13", back);
        Assert.Contains("This takes invoice 12 of 2026-03-02 back as a whole: the discount was forgotten", back);
        Assert.Contains("Taken back in EUR 107.86", back);
        var first = Text(order, 12);
        Assert.Contains("Taken back as a whole by 13 on 2026-03-02: the discount was forgotten", first);
        Assert.DoesNotContain(first, l => l.StartsWith("Still to pay", StringComparison.Ordinal));
    }

    private static Order Order(EntryBody last) =>
        Revtal.Core.Orders.Order.Fold(
            new EntryBody[]
            {
                new TakenIn(
                    new Intake(
                        "Choir's archive",
                        null,
                        null,
                        "slow",
                        null,
                        null,
                        null,
                        Backup.Made,
                        SealConsent.NoSeal
                    ),
                    "FJ14",
                    1
                ),
                new InvoiceMade(Invoice) { Number = 12 },
                last,
            }.Select((b, i) => new Entry(101, i + 1, Guid.Empty, Day, "sanne", b))
        );

    // Line by line, as it is laid out.
    private static string[] Text(Order order, int number) =>
        [
            .. Pdf.Read(InvoicePaper.Write(order, number, Printing), "-layout")
                .Split('\n')
                .Select(l => string.Join(' ', l.Split(' ', StringSplitOptions.RemoveEmptyEntries)).Trim())
                .Where(l => l.Length > 0),
        ];
}
