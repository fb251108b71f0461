using Revtal.Core.Bench;

namespace Revtal.Core.Parts;

/// <summary>What the shop takes for its work.</summary>
/// <param name="Currency">ISO 4217: <c>EUR</c>.</param>
/// <param name="HourRate">Without tax.</param>
/// <param name="TaxPercent">0 to 100.</param>
public sealed record ShopTerms(string Currency, decimal HourRate, decimal TaxPercent);

/// <summary>How long the work takes.</summary>
/// <param name="PastRuns">How many past runs of this model with the same way in it rests on; 0 for the guide's
/// minutes.</param>
public sealed record WorkTime(int Minutes, int PastRuns)
{
    /// <summary>Past runs count from so many on.</summary>
    public const int FewestRuns = 5;

    /// <summary>
    /// The median of past runs where there are enough, else the guide's minutes. Hands are idle while the machine
    /// cools, but it lies on the bench.
    /// </summary>
    /// <param name="past">Minutes of past runs of the same model by the same way in.</param>
    public static WorkTime Of(RunSheet sheet, IReadOnlyList<int> past) =>
        past.Count >= FewestRuns
            ? new WorkTime(past.Order().ElementAt(past.Count / 2), past.Count)
            : new WorkTime(sheet.Steps.Sum(s => s.Minutes), 0);
}

/// <summary>One line of a quote.</summary>
/// <param name="Each">Null where the price is not known.</param>
public sealed record QuoteLine(string Text, int Count, decimal? Each, decimal Sum);

/// <summary>What is told to the customer: the work, its price and its risks. Once agreed it never changes.</summary>
/// <param name="Work">What will be done, a sentence each.</param>
/// <param name="Risks">What is at risk, a sentence each.</param>
/// <param name="DiscountPercent">Of parts and labour.</param>
/// <param name="Unpriced">Parts without a price: the total is not final.</param>
public sealed record Quote(
    IReadOnlyList<string> Work,
    IReadOnlyList<string> Risks,
    IReadOnlyList<QuoteLine> Lines,
    int Minutes,
    int PastRuns,
    decimal DiscountPercent,
    decimal Discount,
    decimal Net,
    decimal TaxPercent,
    decimal Tax,
    decimal Total,
    string Currency,
    IReadOnlyList<string> Unpriced
)
{
    /// <summary>
    /// What the shop pays for parts that came out and that it keeps: it lowers what is paid, not the price.
    /// </summary>
    public required IReadOnlyList<QuoteLine> Credits { get; init; }

    /// <summary>The total less the credits; below 0 the shop pays the rest out.</summary>
    public decimal ToPay => Total - Credits.Sum(c => c.Sum);
}
