namespace Revtal.Core.Parts;

/// <summary>How money changed hands.</summary>
public enum PaymentWay
{
    /// <summary>Over the counter.</summary>
    Cash,

    /// <summary>By a card.</summary>
    Card,

    /// <summary>From account to account.</summary>
    Transfer,

    /// <summary>Any other; the note says how.</summary>
    Other,
}

/// <summary>What an order costs: what was agreed and done, and nothing else. Once made it never changes.</summary>
/// <param name="Customer">As at take-in.</param>
/// <param name="Machine">Maker and name of its model.</param>
/// <param name="Serial">The machine's; null where nobody knows it.</param>
/// <param name="Lines">Of the quote that was agreed, as far as it was done.</param>
/// <param name="Later">Extra work that was agreed beside the quote; no discount is on it.</param>
/// <param name="Uncharged">What was agreed and is not charged, with why, a sentence each.</param>
/// <param name="DiscountPercent">Of the quote's lines.</param>
/// <param name="Net">Of all lines, less the discount.</param>
/// <param name="Tax">Of the net, to the currency's smallest unit.</param>
/// <param name="Currency">ISO 4217.</param>
/// <param name="Credits">What the shop pays for parts that came out and that it keeps.</param>
public sealed record Invoice(
    string Customer,
    string Machine,
    string? Serial,
    IReadOnlyList<QuoteLine> Lines,
    IReadOnlyList<QuoteLine> Later,
    IReadOnlyList<string> Uncharged,
    decimal DiscountPercent,
    decimal Discount,
    decimal Net,
    decimal TaxPercent,
    decimal Tax,
    decimal Total,
    string Currency,
    IReadOnlyList<QuoteLine> Credits
)
{
    /// <summary>The total less the credits; below 0 the shop pays the rest out.</summary>
    public decimal ToPay => Total - Credits.Sum(c => c.Sum);
}
