using Revtal.Core.Hardware;

namespace Revtal.Core.Parts;

/// <summary>What somebody else asks for the same thing, as it was seen there.</summary>
/// <param name="Price">For all pieces of the kind, without tax, in the shop's currency; 0 or more.</param>
/// <param name="Whose">Who asks it: “the maker's list”.</param>
/// <param name="Seen">The day on which it was seen.</param>
public sealed record PriceElsewhere(decimal Price, string Whose, DateOnly Seen)
{
    /// <summary>As it may be kept.</summary>
    /// <exception cref="RefusedException">It is no price, or nobody asks it.</exception>
    public PriceElsewhere Checked() =>
        Price is < 0 or > PartKind.HighestPrice
            ? throw RefusedException.Invalid(
                "price-impossible",
                $"{Price} is no price to compare with. Prices are from 0 to {PartKind.HighestPrice}."
            )
            : this with
            {
                Whose = Words.RequiredLine("Whose price it is", Whose),
            };

    /// <summary>What these cost elsewhere; null unless it is known of each, or where nothing is bought.</summary>
    /// <param name="bought">Numbers, and how many packages of each.</param>
    public static decimal? Sum(IReadOnlyList<PartKind> kinds, IReadOnlyList<(PartNumber Number, int Count)> bought)
    {
        var prices = bought.Select(b => kinds.FirstOrDefault(k => k.Number == b.Number)?.Elsewhere?.Price * b.Count);
        return bought.Count > 0 && prices.All(p => p is not null) ? prices.Sum() : null;
    }

    /// <summary>
    /// “The maker's list asked 128.00 EUR for 2 × 16 GB module on 2026-11-20; here it is 72.00 EUR, both without tax.”
    /// </summary>
    /// <param name="count">How many of the kind.</param>
    internal string Told(PartKind kind, int count, string currency)
    {
        var many = Phrases.When(count > 1, $"{count} × ");
        return $"{Phrases.Sentence(Whose)} asked {Phrases.Amount(Price * count, currency)} for "
            + $"{many}{kind.Name} on {Phrases.Day(Seen)}; here it is {Phrases.Amount(kind.Price * count, currency)}, "
            + "both without tax.";
    }
}
