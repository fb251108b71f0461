namespace Revtal.Core.Orders;

/// <summary>What becomes of a part that came out.</summary>
public enum PartFate
{
    /// <summary>The customer keeps it.</summary>
    Kept,

    /// <summary>Back to who sold it.</summary>
    Returned,

    /// <summary>Cleared of its data, then the customer keeps it.</summary>
    Wiped,
    Recycled,

    /// <summary>The shop takes it as used stock.</summary>
    BoughtIn,
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
            _ => "the shop buys it",
        };

    /// <summary>
    /// Whether a drive must be cleared of its data first: it leaves its owner's hands, or was to be wiped.
    /// </summary>
    public static bool WantsWipe(this PartFate fate) =>
        fate is PartFate.Wiped or PartFate.Recycled or PartFate.BoughtIn;

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
