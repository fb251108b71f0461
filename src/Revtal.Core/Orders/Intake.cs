namespace Revtal.Core.Orders;

/// <summary>Whether the customer's data is safe elsewhere.</summary>
public enum Backup
{
    Unknown,
    Made,

    /// <summary>The customer goes without and said so.</summary>
    Waived,
}

/// <summary>Whether a warranty seal may be broken.</summary>
public enum SealConsent
{
    NoSeal,
    Given,
    Refused,
}

/// <summary>What the desk wrote down at take-in.</summary>
/// <param name="Trial">The customer's own kind of work that is to be tried after the upgrade; null for none.</param>
/// <param name="Batch">Which of the machines that were taken in together; null for one that came alone.</param>
public sealed record Intake(
    string Customer,
    string? Contact,
    string? Serial,
    string Complaint,
    string? Goal,
    string? Accessories,
    string? Condition,
    Backup Backup,
    SealConsent SealConsent,
    string? Trial = null,
    BatchPlace? Batch = null
);

/// <summary>The customer's word on the seal, as it is said.</summary>
public static class SealWords
{
    /// <summary>“may be broken”.</summary>
    public static string Spoken(this SealConsent consent) =>
        consent switch
        {
            SealConsent.Given => "may be broken",
            SealConsent.Refused => "must stay whole",
            _ => "none",
        };
}
