using Revtal.Core.Guides;
using Revtal.Core.Parts;

namespace Revtal.Core.Orders;

/// <summary>The customer agreed to extra work beside the quote.</summary>
/// <param name="Price">Without tax, in the quote's currency.</param>
/// <param name="Customer">Who agreed.</param>
public sealed record ExtraAgreed(string Text, decimal Price, string Customer) : EntryBody
{
    public override OrderAct Act => OrderAct.AgreeExtra;

    public override string Line(Guide? guide) => $"{Customer} agreed to extra work: {Text}, {Phrases.Sum(Price)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Extras = order.Extras.Add(new Extra(entry.Sequence, Text, Price, Customer, entry.At)),
        };
}

/// <summary>Extra work that is not charged after all.</summary>
/// <param name="Extra">The sequence of the entry that told it.</param>
/// <param name="Text">As it was told.</param>
public sealed record ExtraDropped(int Extra, string Text) : EntryBody
{
    public override OrderAct Act => OrderAct.DropExtra;

    public override string Line(Guide? guide) => $"Extra work is not charged: {Text}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Extras = order.Extras.RemoveAll(e => e.Sequence == Extra),
        };
}

/// <summary>What takes a number of the shop's invoices.</summary>
public abstract record InvoiceEntry : EntryBody
{
    /// <summary>From 1, without gaps; whoever writes the journal gives it.</summary>
    public int Number { get; init; }
}

/// <summary>The invoice as it was made.</summary>
public sealed record InvoiceMade(Invoice Invoice) : InvoiceEntry
{
    public override OrderAct Act => OrderAct.MakeInvoice;

    public override string Line(Guide? guide) =>
        $"Invoice {Number} made: {Phrases.Amount(Invoice.ToPay, Invoice.Currency)} to pay";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Invoices = order.Invoices.Add(new MadeInvoice(Number, Invoice, entry.Sequence, entry.At, entry.By)),
        };
}

/// <summary>An invoice was taken back as a whole.</summary>
/// <param name="Of">The number of that invoice.</param>
public sealed record InvoiceReversed(int Of, string Reason) : InvoiceEntry
{
    public override OrderAct Act => OrderAct.ReverseInvoice;

    public override string Line(Guide? guide) => $"Invoice {Of} reversed by {Number}: {Reason}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Invoices =
            [
                .. order.Invoices.Select(i =>
                    i.Number == Of ? i with { Reversed = new ReversedInvoice(Number, Reason, entry.At, entry.By) } : i
                ),
            ],
        };
}

/// <summary>Money changed hands.</summary>
/// <param name="Amount">Above 0 what the customer paid, below 0 what the shop paid out.</param>
public sealed record PaymentTaken(decimal Amount, PaymentWay Way, string? Note) : EntryBody
{
    public override OrderAct Act => OrderAct.TakePayment;

    public override string Line(Guide? guide) =>
        $"{(Amount < 0 ? "Paid out" : "Paid")} {Phrases.Sum(Math.Abs(Amount))}, {Phrases.Words(Way)}"
        + Phrases.Added(Note);

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Payments = order.Payments.Add(new Payment(Amount, Way, Note, entry.At, entry.By)),
        };
}

/// <summary>Extra work, invoices and payments. Each rule gives the entry to append, or refuses.</summary>
public static class InvoiceRules
{
    /// <summary>Extra work that the customer agreed to.</summary>
    public static ExtraAgreed Agree(Order order, string? text, decimal price, string? customer)
    {
        var currency = order.Agreed!.Quote!.Currency;
        if (price is <= 0 or > PartKind.HighestPrice || Currency.Round(price, currency) != price)
        {
            throw RefusedException.Invalid(
                "price-impossible",
                $"A price is above 0, {PartKind.HighestPrice} at most, to the smallest unit of {currency}."
            );
        }

        return new ExtraAgreed(
            Words.RequiredLine("What is done", text),
            price,
            Words.RequiredLine("Who agreed", customer)
        );
    }

    /// <summary>Extra work that is not charged after all.</summary>
    /// <param name="extra">The sequence of the entry that told it.</param>
    public static ExtraDropped Drop(Order order, int extra) =>
        order.Extras.Find(e => e.Sequence == extra) is { } told
            ? new ExtraDropped(extra, told.Text)
            : throw RefusedException.NotFound(
                "no-such-extra",
                $"Order {order.Number} has no such extra work: its invoice lists what there is."
            );

    /// <summary>The invoice that stands is taken back.</summary>
    public static InvoiceReversed Reverse(Order order, string? reason) =>
        new(order.Invoice!.Number, Words.RequiredLine("The reason", reason));

    /// <summary>Money changed hands: what is open or a part of it.</summary>
    /// <param name="amount">Above 0 from the customer, below 0 to the customer.</param>
    public static PaymentTaken Pay(Order order, decimal amount, PaymentWay way, string? note)
    {
        var open = Invoices.Open(order);
        var currency = order.Invoices[^1].Invoice.Currency;
        if (amount == 0 || Currency.Round(amount, currency) != amount)
        {
            throw RefusedException.Invalid(
                "amount-impossible",
                $"An amount is not 0, and goes to the smallest unit of {currency}."
            );
        }

        if (amount > 0 ? amount > open : amount < open)
        {
            throw RefusedException.Rule(
                "more-than-open",
                open switch
                {
                    0 => "All is paid.",
                    < 0 => $"The shop owes {Phrases.Amount(-open, currency)}: pay that out, or a part of it.",
                    _ => $"{Phrases.Amount(open, currency)} is open: take that, or a part of it.",
                }
            );
        }

        return new PaymentTaken(amount, way, Words.Line("The note", note));
    }
}
