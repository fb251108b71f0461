using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>A drive that can be had: from the shelf, or to be ordered.</summary>
/// <param name="Number">The shop's own part number.</param>
/// <param name="Price">In the shop's currency.</param>
/// <param name="OnShelf">How many of it lie in stock, free.</param>
public sealed record DriveOffer(PartNumber Number, Drive Drive, decimal Price, int OnShelf);

/// <summary>What is wanted of the drives.</summary>
/// <param name="Growth">What is to come onto them; null for half as much again as they hold.</param>
/// <param name="MostPercent">How full a drive may be with that, in percent: 1 to 100.</param>
/// <param name="CopyRate">The most that the shop's way of copying carries, in MB/s of 10^6 bytes.</param>
/// <param name="Budget">The most that the part may cost; null for no limit.</param>
public sealed record RoomWanted(DriveSize? Growth, int MostPercent, int CopyRate, decimal? Budget = null);

/// <summary>What is done to get room, or speed.</summary>
public enum DriveWay
{
    /// <summary>A larger drive takes the place of one that is there, with its data.</summary>
    Replace,

    /// <summary>A drive comes beside those that are there.</summary>
    Add,

    /// <summary>A new drive in another bay takes over the system; the old one stays.</summary>
    MoveSystem,

    /// <summary>A drive of the machine goes to a bay with a faster link; nothing is bought.</summary>
    Move,
}

/// <summary>One change of the drives that is worth offering.</summary>
/// <param name="Bay">The bay that gets a drive.</param>
/// <param name="From">The bay that its data, its system or the drive itself comes from; null for none.</param>
/// <param name="Changes">The wishes that make it.</param>
/// <param name="Total">All drives of the machine afterwards.</param>
/// <param name="Gain">How much more they hold together than before.</param>
/// <param name="SystemFree">What is free on the drive that the machine starts from, afterwards; null where it was not
/// read.</param>
/// <param name="SystemRate">The most that this drive's link carries, in MB/s of 10^6 bytes; null where it is not
/// known.</param>
/// <param name="Copied">What is copied, at the most; null for nothing.</param>
/// <param name="CopyMinutes">How long that takes, estimated; 0 for nothing.</param>
/// <param name="OpenMinutes">To open what must be opened, by the guide.</param>
/// <param name="ExtraMinutes">What that adds to the opening of the plan as it stands; null where there is none.</param>
/// <param name="Thrown">What the drive that leaves holds; 0 where none does.</param>
/// <param name="Removals">What comes off for it, by title, in order.</param>
/// <param name="Words">“1 TB (BN-1T) replaces 500 GB in D1”, as the bench says it.</param>
/// <param name="DataWords">How the data comes over, in one sentence; null where none moves.</param>
/// <param name="Notes">What is to be known of it before it is taken.</param>
public sealed record DriveOption(
    DriveWay Way,
    string Bay,
    string? From,
    DriveOffer? Buys,
    IReadOnlyList<SlotChange> Changes,
    DriveSize Total,
    DriveSize Gain,
    DriveSize? SystemFree,
    int? SystemRate,
    DriveSize? Copied,
    int CopyMinutes,
    int OpenMinutes,
    int? ExtraMinutes,
    DriveSize Thrown,
    IReadOnlyList<string> Removals,
    string Words,
    string? DataWords,
    IReadOnlyList<FitNote> Notes
)
{
    /// <summary>Of what is bought, in the shop's currency.</summary>
    public decimal Price => Buys?.Price ?? 0;

    /// <summary>Whether it lies on the shelf, or nothing is bought.</summary>
    public bool IsOnShelf => Buys is null or { OnShelf: > 0 };

    /// <summary>Whether it is as good in everything and better in something.</summary>
    public bool Beats(DriveOption other) => IsAsGoodAs(other) && !other.IsAsGoodAs(this);

    private bool IsAsGoodAs(DriveOption other) =>
        Price <= other.Price
        && Gain >= other.Gain
        && (SystemFree ?? default) >= (other.SystemFree ?? default)
        && (SystemRate ?? 0) >= (other.SystemRate ?? 0)
        && CopyMinutes <= other.CopyMinutes
        && OpenMinutes <= other.OpenMinutes
        && Thrown <= other.Thrown;
}

/// <summary>What is worth offering for the drives.</summary>
/// <param name="Options">None of them is beaten by another; cheapest first.</param>
/// <param name="LeftOut">How many more fit and were beaten.</param>
/// <param name="Closed">Why a bay has no offer, a sentence each.</param>
public sealed record DriveOptionsAnswer(IReadOnlyList<DriveOption> Options, int LeftOut, IReadOnlyList<string> Closed);
