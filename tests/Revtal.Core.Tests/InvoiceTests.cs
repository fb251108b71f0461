using CsCheck;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What an order costs, held against what was agreed and what hands really did.</summary>
public sealed class InvoiceTests
{
    private const string Modules = "16 GB module (OS-16)";

    private static readonly PartKind Sixteen = new(
        new PartNumber("OS-16"),
        "16 GB module",
        Make.Module(16),
        null,
        1,
        36m
    );

    [Fact]
    public void What_was_agreed_and_done_is_charged_at_the_price_that_was_agreed()
    {
        // Dearer by now: that is not what was agreed.
        var invoice = Of(Ready(Agreed()), Sixteen with { Price = 99m });
        Assert.Equal([(Modules, 2, 72m), ("Work, about 30 min", 1, 30m)], Told(invoice.Lines));
        // 102 less a tenth, and a fifth of tax on the rest.
        Assert.Equal((10.2m, 91.8m, 18.36m, 110.16m), (invoice.Discount, invoice.Net, invoice.Tax, invoice.Total));
        Assert.Equal(110.16m, invoice.ToPay);
        Assert.Empty(invoice.Uncharged);
        Assert.Equal(("Choir's archive", "Norrland Fjell 14"), (invoice.Customer, invoice.Machine));
    }

    [Fact]
    public void A_module_that_was_never_fitted_is_not_charged_and_the_invoice_says_so()
    {
        var one = Of(Ready(Agreed(), skipped: "fit.S1"));
        Assert.Equal([(Modules, 1, 36m), ("Work, about 30 min", 1, 30m)], Told(one.Lines));
        Assert.Equal([$"{Modules}: 1 of 2 fitted."], one.Uncharged);
        Assert.Equal(59.4m, one.Net);

        var none = Of(Ready(Agreed(), "fit.S1", "fit.S2"));
        Assert.Equal([("Work, about 30 min", 1, 30m)], Told(none.Lines));
        Assert.Equal([$"{Modules}: not done."], none.Uncharged);
    }

    [Fact]
    public void A_kit_that_was_begun_is_paid_whole()
    {
        var kit = Sixteen with { Pieces = 2 };
        var begun = Of(Ready(Agreed(count: 1), skipped: "fit.S1"), kit);
        Assert.Equal((1, 36m), (begun.Lines[0].Count, begun.Lines[0].Sum));
        Assert.Empty(begun.Uncharged);
        Assert.Equal([$"{Modules}: not done."], Of(Ready(Agreed(count: 1), "fit.S1", "fit.S2"), kit).Uncharged);
    }

    [Fact]
    public void Before_the_work_is_done_all_that_was_agreed_is_expected()
    {
        var invoice = Of(Agreed());
        Assert.Equal(110.16m, invoice.Total);
        Assert.Empty(invoice.Uncharged);
    }

    [Fact]
    public void What_never_had_a_price_is_not_charged_and_named()
    {
        var invoice = Of(Ready(Agreed(unpriced: new QuoteLine("X-1", 1, null, 0))));
        Assert.Equal(["X-1: no price was agreed."], invoice.Uncharged);
        Assert.Equal(110.16m, invoice.Total);
    }

    [Fact]
    public void Extra_work_has_no_discount_and_the_same_tax_and_may_be_let_go()
    {
        var bench = Ready(Agreed());
        bench.Add(InvoiceRules.Agree(bench.Order, " New rubber feet ", 8.5m, "M. Alto"));
        var invoice = Of(bench);
        Assert.Equal([("New rubber feet, agreed 2026-03-02 by M. Alto", 1, 8.5m)], Told(invoice.Later));
        Assert.Equal((91.8m + 8.5m, 20.06m), (invoice.Net, invoice.Tax));

        Assert.Equal("no-such-extra", Refused(() => InvoiceRules.Drop(bench.Order, 1)));
        bench.Add(InvoiceRules.Drop(bench.Order, bench.Order.Extras[0].Sequence));
        Assert.Equal(110.16m, Of(bench).Total);
        Assert.Equal("no-extra", bench.WhyNot(OrderAct.DropExtra));
        foreach (var price in (decimal[])[0, -1, 1.005m, 100_000.01m])
        {
            Assert.Equal("price-impossible", Refused(() => InvoiceRules.Agree(bench.Order, "x", price, "y")));
        }
    }

    [Fact]
    public void What_the_shop_buys_in_lowers_what_is_paid_and_no_price()
    {
        var order = Ready(Agreed()).Order with
        {
            Settled = [new OldPartSettled("S2", PartFate.BoughtIn, null, null, "A", "memory test", 12.50m)],
        };
        var invoice = Invoices.Of(order, Make.Fjell, [Sixteen], TimeZoneInfo.Utc);
        Assert.Equal((110.16m, 97.66m), (invoice.Total, invoice.ToPay));
        Assert.Equal([("Bought in: the part out of S2", 1, 12.5m)], Told(invoice.Credits));
    }

    [Fact]
    public void An_invoice_stands_until_it_is_taken_back_and_payments_stay_with_the_order()
    {
        var bench = Ready(Agreed());
        Assert.Equal(("no-invoice", "no-invoice"), (Why(OrderAct.ReverseInvoice), Why(OrderAct.TakePayment)));
        bench.Add(new InvoiceMade(Of(bench)) { Number = 7 });
        Assert.Equal(
            ("invoice-stands", "invoice-stands", "invoice-stands"),
            (Why(OrderAct.MakeInvoice), Why(OrderAct.AgreeExtra), Why(OrderAct.DropExtra))
        );

        Assert.Equal("more-than-open", Refused(() => InvoiceRules.Pay(bench.Order, 110.17m, PaymentWay.Cash, null)));
        Assert.Equal("more-than-open", Refused(() => InvoiceRules.Pay(bench.Order, -1, PaymentWay.Cash, null)));
        Assert.Equal("amount-impossible", Refused(() => InvoiceRules.Pay(bench.Order, 0, PaymentWay.Cash, null)));
        Assert.Equal("amount-impossible", Refused(() => InvoiceRules.Pay(bench.Order, 0.001m, PaymentWay.Cash, null)));
        bench.Add(InvoiceRules.Pay(bench.Order, 100m, PaymentWay.Card, null));
        Assert.Equal(10.16m, Invoices.Open(bench.Order));

        // Taken back, the shop owes what was paid; another that costs less leaves the rest owed.
        bench.Add(InvoiceRules.Reverse(bench.Order, "a module too many") with { Number = 8 });
        Assert.Equal(-100m, Invoices.Open(bench.Order));
        Assert.Null(bench.Order.Invoice);
        bench.Add(new InvoiceMade(Of(bench) with { Total = 60m }) { Number = 9 });
        Assert.Equal((9, -40m), (bench.Order.Invoice!.Number, Invoices.Open(bench.Order)));
        bench.Add(InvoiceRules.Pay(bench.Order, -40m, PaymentWay.Transfer, "back"));
        Assert.Equal("more-than-open", Refused(() => InvoiceRules.Pay(bench.Order, 0.01m, PaymentWay.Cash, null)));

        string? Why(OrderAct act) => bench.WhyNot(act);
    }

    [Fact]
    public void Without_an_agreed_price_there_is_nothing_to_charge() =>
        Assert.Equal("nothing-agreed", Ready(new Bench("FJ14", [8, 8], Both)).WhyNot(OrderAct.MakeInvoice));

    [Fact]
    public void Net_tax_and_total_always_add_up_to_the_smallest_unit()
    {
        var bench = Agreed();
        Gen.Select(Gen.Int[0, 999_999], Gen.Int[0, 999_999], Gen.Int[0, 10_000], Gen.Int[0, 10_000])
            .Sample(
                (part, extra, discount, tax) =>
                {
                    var order = bench.Order;
                    var quote = order.Agreed!.Quote! with
                    {
                        Lines = [new QuoteLine(Modules, 1, part / 100m, part / 100m)],
                        DiscountPercent = discount / 100m,
                        TaxPercent = tax / 100m,
                    };
                    var invoice = Invoices.Of(
                        order with
                        {
                            Agreed = order.Agreed with { Quote = quote },
                            Extras = [new Extra(9, "x", extra / 100m, "y", default)],
                        },
                        Make.Fjell,
                        [Sixteen],
                        TimeZoneInfo.Utc
                    );
                    return invoice.Net + invoice.Tax == invoice.Total
                        && invoice.Net == ((part + extra) / 100m) - invoice.Discount
                        && invoice.Total * 100 % 1 == 0
                        && Math.Abs(invoice.Tax - (invoice.Net * tax / 10_000m)) <= 0.005m;
                }
            );
    }

    private static readonly SlotChange[] Both =
    [
        new("S1", Make.Module(16, part: "OS-16")),
        new("S2", Make.Module(16, part: "OS-16")),
    ];

    // Two modules and the work, a tenth less, a fifth of tax.
    private static Bench Agreed(int count = 2, QuoteLine? unpriced = null)
    {
        QuoteLine[] lines =
        [
            new(Modules, count, 36m, 36m * count),
            new("Work, about 30 min", 1, 30m, 30m),
            .. unpriced is null ? Array.Empty<QuoteLine>() : [unpriced],
        ];
        var bench = new Bench("FJ14", [8, 8], Both);
        return bench.Add(
            PlanRules.Agree(
                "M. Alto",
                null,
                new Quote([], [], lines, 30, 0, 10m, 10.2m, 91.8m, 20m, 18.36m, 110.16m, "EUR", [])
            )
        );
    }

    // Through the run, and accepted by a lead whatever came of it.
    private static Bench Ready(Bench bench, params string[] skipped)
    {
        foreach (var step in skipped)
        {
            bench.Until(step).Confirm(step, w => w with { Deviation = Deviation.Skipped, Explanation = "not wanted" });
        }

        bench.Until("none");
        var read = Make.Reading(
            bench.Guide,
            [skipped.Contains("fit.S1") ? 0 : 16, skipped.Contains("fit.S2") ? 0 : 16]
        );
        bench.Add(MeasureRules.TakeReading(bench.Order, bench.Guide, Phase.After, read, null, null));
        return bench.Add(new MarkedReady(Revtal.Core.Checks.Verdict.Short, "as the customer wished"));
    }

    private static Invoice Of(Bench bench, PartKind? kind = null) =>
        Invoices.Of(bench.Order, bench.Guide, [kind ?? Sixteen], TimeZoneInfo.Utc);

    private static IEnumerable<(string, int, decimal)> Told(IEnumerable<QuoteLine> lines) =>
        lines.Select(l => (l.Text, l.Count, l.Sum));

    private static string Refused(Func<EntryBody> act) => Assert.Throws<RefusedException>(act).Code;
}
