namespace Revtal.Core.Orders;

/// <summary>What becomes of a part that came out.</summary>
public enum PartFate
{
    /// <summary>The customer keeps it.</summary>
    Kept,

    /// <summary>Back to who sold it, under a claim.</summary>
    Returned,

    /// <summary>Cleared of its data, then the customer keeps it.</summary>
    Wiped,
    Recycled,

    /// <summary>The shop takes it as used stock.</summary>
    BoughtIn,

    /// <summary>In the bag that is kept for this machine.</summary>
    ForLater,

    /// <summary>Into another machine on the bench, with its owner's word.</summary>
    OtherOrder,
    Sold,
}

/// <summary>What may become of a part, in words.</summary>
public static class PartFates
{
    /// <summary>“the customer keeps it”: the same in every face.</summary>
    public static string Spoken(this PartFate fate) =>
        fate switch
        {
            PartFate.Kept => "the customer keeps it",
            PartFate.Returned => "back to who sold it",
            PartFate.Wiped => "wiped, then the customer keeps it",
            PartFate.Recycled => "recycled",
            PartFate.ForLater => "kept in this machine's bag for a later visit",
            PartFate.OtherOrder => "used in another order",
            PartFate.Sold => "sold",
            _ => "the shop buys it",
        };

    /// <summary>
    /// Whether a drive must be cleared of its data first: it leaves its owner's hands, or was to be wiped.
    /// </summary>
    public static bool WantsWipe(this PartFate fate) =>
        fate is PartFate.Wiped or PartFate.Recycled or PartFate.BoughtIn or PartFate.OtherOrder or PartFate.Sold;

    /// <summary>Whether the supplier's claim is told with it.</summary>
    public static bool WantsClaim(this PartFate fate) => fate == PartFate.Returned;

    /// <summary>Whether the order that uses it is told with it.</summary>
    public static bool WantsOrder(this PartFate fate) => fate == PartFate.OtherOrder;

    /// <summary>All of them, as a choice in a sentence.</summary>
    public static string Choices { get; } = Phrases.Either(Enum.GetValues<PartFate>().Select(Spoken));
}

/// <summary>How thoroughly a drive was cleared (NIST SP 800-88 Rev. 1, section 2.5).</summary>
public enum WipeCategory
{
    Clear,
    Purge,
    Destroy,
}

/// <summary>A drive cleared of its data.</summary>
/// <param name="Method">The command or tool.</param>
/// <param name="Verified">How it was seen that nothing is left.</param>
public sealed record Wipe(WipeCategory Category, string Method, string Verified);
