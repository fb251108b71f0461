using Revtal.Core.Orders;
using Revtal.Core.Parts;

namespace Revtal.Contracts;

/// <summary>An order's invoice as the bench sees it.</summary>
/// <param name="Invoice">The one that stands, else as it would be made now.</param>
/// <param name="Number">Of the one that stands; null where none was made.</param>
/// <param name="MadeBy">As the bench calls them.</param>
/// <param name="Open">What is still to be paid of it, or would be; below 0 what the shop owes.</param>
/// <param name="Payments">Oldest first.</param>
/// <param name="Extras">Extra work that was agreed beside the quote, oldest first.</param>
/// <param name="Reversed">Earlier invoices that were taken back, oldest first.</param>
public sealed record InvoiceView(
    Invoice Invoice,
    int? Number,
    DateTimeOffset? MadeAt,
    string? MadeBy,
    decimal Open,
    IReadOnlyList<Payment> Payments,
    IReadOnlyList<Extra> Extras,
    IReadOnlyList<ReversedView> Reversed
);

/// <summary>An invoice that was taken back.</summary>
/// <param name="By">The number that took it back.</param>
/// <param name="ToPay">What it had asked for.</param>
public sealed record ReversedView(int Number, int By, string Reason, DateTimeOffset At, decimal ToPay);

/// <summary>One number of the shop's invoices, for its book-keeping.</summary>
/// <param name="At">When it was made.</param>
/// <param name="By">Who made it, by id.</param>
/// <param name="Net">Without tax; below 0 where it takes an invoice back, and so with the other sums.</param>
/// <param name="Credit">What the shop pays for parts that it keeps.</param>
/// <param name="ToPay">The total less the credit.</param>
/// <param name="Paid">What was paid of it so far; 0 where it was taken back.</param>
/// <param name="Reverses">The invoice that it takes back; null where it is one itself.</param>
/// <param name="ReversedBy">The number that took it back; null while it stands.</param>
/// <param name="Reason">Why it takes another back.</param>
/// <param name="Invoice">Its lines; of the invoice that it takes back, where it does.</param>
public sealed record InvoiceLine(
    int Number,
    int Order,
    DateTimeOffset At,
    string By,
    string Customer,
    decimal Net,
    decimal Tax,
    decimal Total,
    decimal Credit,
    decimal ToPay,
    decimal Paid,
    string Currency,
    int? Reverses,
    int? ReversedBy,
    string? Reason,
    Invoice Invoice
);

/// <param name="Price">Without tax, in the quote's currency.</param>
/// <param name="Customer">Who agreed to it.</param>
[Example("""{"text": "New rubber feet", "price": 8.5, "customer": "M. Alto"}""")]
public sealed record ExtraRequest(string Text, decimal Price, string Customer);

[Example("""{"reason": "the discount was forgotten"}""")]
public sealed record ReverseRequest(string Reason);

/// <param name="Amount">Above 0 what the customer paid, below 0 what the shop paid out.</param>
[Example("""{"amount": 142.5, "way": "card"}""")]
public sealed record PaymentRequest(decimal Amount, PaymentWay Way, string? Note = null);
