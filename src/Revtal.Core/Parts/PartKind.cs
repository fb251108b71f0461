using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Parts;

/// <summary>One line of the shop's catalogue: what can be had, at which price.</summary>
/// <param name="Number">The part number on its label; unique in the shop.</param>
/// <param name="Module">What a memory part is; one piece of a kit.</param>
/// <param name="Drive">What a drive is.</param>
/// <param name="Pieces">How many come together; 1 for a single part.</param>
/// <param name="Price">For all its pieces, without tax, in the shop's currency; 0 or more.</param>
/// <param name="Least">How many should lie on the shelf.</param>
/// <param name="Barcode">As a scanner reads it, where that is not the number.</param>
/// <param name="Elsewhere">A price to compare with; null where nobody looked.</param>
/// <param name="WarrantyMonths">How long the shop answers for it, from the hand-back on; 1 to 120, null where nobody
/// said.</param>
public sealed record PartKind(
    PartNumber Number,
    string Name,
    MemoryModule? Module,
    Drive? Drive,
    int Pieces,
    decimal Price,
    int Least = 0,
    string? Barcode = null,
    string? Supplier = null,
    PriceElsewhere? Elsewhere = null,
    int? WarrantyMonths = null
)
{
    /// <summary>The highest price of one, in the currency of the shop.</summary>
    public const decimal HighestPrice = 100_000;

    private const int LongestWarranty = 120;

    /// <summary>The most pieces that are sold as one kit.</summary>
    public const int MostPieces = 16;

    /// <summary>The kind as it may be kept.</summary>
    /// <exception cref="RefusedException">Something of it cannot be.</exception>
    public PartKind Checked()
    {
        if (Module is null == Drive is null)
        {
            throw RefusedException.Invalid(
                "part-what",
                $"{Number} is either a memory module or a drive. Give the one or the other."
            );
        }

        if (Price is < 0 or > HighestPrice)
        {
            throw RefusedException.Invalid(
                "price-impossible",
                $"{Price} is no price. Prices are from 0 to {HighestPrice}."
            );
        }

        if (Pieces is < 1 or > MostPieces || Least is < 0 or > 10_000)
        {
            throw RefusedException.Invalid(
                "count-impossible",
                $"A kit has 1 to {MostPieces} pieces, and 0 to 10000 lie on a shelf."
            );
        }

        if (WarrantyMonths is < 1 or > LongestWarranty)
        {
            throw RefusedException.Invalid(
                "warranty-impossible",
                $"A warranty of {WarrantyMonths} months cannot be. Give 1 to {LongestWarranty}, or nothing."
            );
        }

        return Module is { } m && ModuleFit.WhyImpossible(m.Size) is { } why
            ? throw RefusedException.Invalid("size-impossible", why)
            : this with
            {
                Number = new PartNumber(Words.RequiredLine("The part number", Number.ToString())),
                Name = Words.RequiredLine("The name", Name),
                Barcode = Words.Line("The barcode", Barcode),
                Supplier = Words.Line("The supplier", Supplier),
                Elsewhere = Elsewhere?.Checked(),
                Module = Module is null ? null : Module with { PartNumber = Number, Serial = null },
                Drive = Drive is null ? null : Drive with { PartNumber = Number, Serial = null },
            };
    }

    /// <summary>Whether a scan or a typed number means this kind.</summary>
    public bool IsCalled(string text) =>
        Number == new PartNumber(text) || (Barcode is not null && Barcode == text.Trim());
}
