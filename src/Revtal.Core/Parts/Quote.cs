using Revtal.Core.Bench;

namespace Revtal.Core.Parts;

/// <summary>What the shop takes for its work.</summary>
/// <param name="Currency">ISO 4217: <c>EUR</c>.</param>
/// <param name="HourRate">Without tax.</param>
/// <param name="TaxPercent">0 to 100.</param>
/// <param name="CleaningPrice">For cleaning a machine inside while it is open, without tax; null where the shop does
/// not offer it.</param>
public sealed record ShopTerms(string Currency, decimal HourRate, decimal TaxPercent, decimal? CleaningPrice = null)
{
    /// <summary>Proves that the shop offers what a plan wishes.</summary>
    /// <exception cref="RefusedException">A cleaning has no price here.</exception>
    public void Need(bool cleans)
    {
        if (cleans && CleaningPrice is null)
        {
            throw RefusedException.Rule(
                "no-cleaning-price",
                "The shop has no price for a cleaning. Whoever runs the service sets Shop:CleaningPrice; until then "
                    + "plan without it."
            );
        }
    }
}

/// <summary>How long the work takes.</summary>
/// <param name="PastRuns">How many past runs of this model with the same way in it rests on; 0 for the guide's
/// minutes.</param>
public sealed record WorkTime(int Minutes, int PastRuns)
{
    /// <summary>Past runs count from so many on.</summary>
    public const int FewestRuns = 5;

    /// <summary>
    /// The median of past runs where there are enough, else the guide's minutes. Hands are idle while the machine
    /// cools, but it lies on the bench. A cleaning has a price of its own, and is no part of it.
    /// </summary>
    /// <param name="past">Minutes of past runs of the same model by the same way in.</param>
    public static WorkTime Of(RunSheet sheet, IReadOnlyList<int> past) =>
        past.Count >= FewestRuns
            ? new WorkTime(past.Order().ElementAt(past.Count / 2), past.Count)
            : new WorkTime(sheet.WorkMinutes, 0);
}

/// <summary>One line of a quote.</summary>
/// <param name="Each">Null where the price is not known.</param>
public sealed record QuoteLine(string Text, int Count, decimal? Each, decimal Sum);

/// <summary>What is told to the customer: the work, its price and its risks. Once agreed it never changes.</summary>
/// <param name="Work">What will be done, a sentence each.</param>
/// <param name="Risks">What is at risk, a sentence each.</param>
/// <param name="DiscountPercent">Of parts and labour.</param>
/// <param name="Unpriced">Parts without a price: the total is not final.</param>
/// <param name="Compared">What others ask for the same parts, a sentence each; null where nothing was compared.</param>
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
    IReadOnlyList<string> Unpriced,
    IReadOnlyList<string>? Compared = null
);
