using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>A memory part that can be had: from the shelf, or to be ordered.</summary>
/// <param name="Number">The shop's own part number.</param>
/// <param name="Pieces">Modules that come together and stay together; 1 for a single one.</param>
/// <param name="Price">For all its pieces, in the shop's currency.</param>
/// <param name="OnShelf">How many of it lie in stock, free.</param>
public sealed record Offer(PartNumber Number, MemoryModule Module, int Pieces, decimal Price, int OnShelf);

/// <summary>A module of the machine that may stay, or be given up at its value.</summary>
/// <param name="Value">What is thrown away with it, in the shop's currency.</param>
public sealed record Keepable(string Slot, decimal Value);

/// <summary>What is wanted.</summary>
/// <param name="Target">The least that must be installed afterwards.</param>
/// <param name="Budget">The most that the parts may cost now; null for no limit.</param>
/// <param name="Stages">1, or 2 where the rest may come at the next visit.</param>
public sealed record Wanted(MemorySize Target, decimal? Budget = null, int Stages = 1);

/// <summary>So many of one offer.</summary>
public sealed record Bought(Offer Offer, int Count)
{
    /// <summary>Of all of them, in the currency of the shop.</summary>
    public decimal Price => Offer.Price * Count;

    /// <summary>Modules, not packages.</summary>
    public int Modules => Offer.Pieces * Count;
}

/// <summary>One upgrade worth offering.</summary>
/// <param name="Kept">Slots whose modules stay in the machine.</param>
/// <param name="Buys">What is bought now.</param>
/// <param name="Later">What the next visit adds; null for an upgrade in one stage.</param>
/// <param name="Thrown">The value of what leaves, in the shop's currency.</param>
/// <param name="Layout">After this stage.</param>
/// <param name="Changes">The wishes that make it; empty for one that was left out.</param>
/// <param name="Expectation">Null for one that was left out.</param>
/// <param name="Words">“Add 2 × 16 GB (OS4-K32, a kit) in A1 and B1”, as the bench says it.</param>
/// <param name="Notes">What is to be known of it before it is taken; empty for one that was left out.</param>
public sealed record UpgradeOption(
    IReadOnlyList<string> Kept,
    IReadOnlyList<Bought> Buys,
    Bought? Later,
    MemorySize Capacity,
    MemorySize CapacityLater,
    decimal Price,
    decimal PriceLater,
    decimal Thrown,
    Layout Layout,
    IReadOnlyList<SlotChange> Changes,
    Expectation? Expectation,
    string Words,
    IReadOnlyList<FitNote> Notes
)
{
    /// <summary>How much of what its channels can do together, from 0 to 1.</summary>
    public double BandwidthShare => Layout.Share.Bandwidth;

    /// <summary>Whether all that is bought lies on the shelf.</summary>
    public bool IsOnShelf => Buys.All(b => b.Offer.OnShelf >= b.Count);

    /// <summary>Whether it is as good in everything and better in something.</summary>
    public bool Beats(UpgradeOption other) => IsAsGoodAs(other) && !other.IsAsGoodAs(this);

    private bool IsAsGoodAs(UpgradeOption other) =>
        CapacityLater >= other.CapacityLater
        && Capacity >= other.Capacity
        && Price <= other.Price
        && Price + PriceLater <= other.Price + other.PriceLater
        && BandwidthShare >= other.BandwidthShare
        && (Layout.Worth.Speed ?? 0) >= (other.Layout.Worth.Speed ?? 0)
        && Layout.Worth.OpenMinutes <= other.Layout.Worth.OpenMinutes
        && Thrown <= other.Thrown;
}

/// <summary>An option that was left out, and the one that beats it.</summary>
/// <param name="By">The place of the better one in the list, from 0.</param>
public sealed record Beaten(UpgradeOption Option, int By);

/// <summary>What is worth offering.</summary>
/// <param name="Options">None of them is beaten by another; cheapest first.</param>
/// <param name="LeftOut">Some that were beaten, nearest first.</param>
/// <param name="Why">Where there is nothing to offer: why.</param>
public sealed record OptionsAnswer(IReadOnlyList<UpgradeOption> Options, IReadOnlyList<Beaten> LeftOut, string? Why);
