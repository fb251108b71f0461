using System.Security.Cryptography;
using System.Text;

namespace Revtal.Core.Orders;

/// <summary>Another program that is told what is recorded on orders.</summary>
/// <param name="Name">What the shop knows it by.</param>
/// <param name="Address">Where it listens.</param>
/// <param name="Kinds">Of which kinds of entries it is told: <c>plan-agreed</c>; empty for all.</param>
/// <param name="InWords">Whether it is also told the journal's line; else only that there is an entry.</param>
/// <param name="Active">Whether it is told at all.</param>
/// <param name="Waiting">Messages that are still to be taken.</param>
/// <param name="Dead">Messages that were given up.</param>
/// <param name="DeliveredAt">When it last took one; null for never.</param>
public sealed record Webhook(
    string Id,
    string Name,
    string Address,
    IReadOnlyList<string> Kinds,
    bool InWords,
    bool Active,
    int Waiting,
    int Dead,
    DateTimeOffset MadeAt,
    DateTimeOffset? DeliveredAt
)
{
    /// <summary>Whether it is told of entries of this kind.</summary>
    public bool Wants(string kind) => Kinds.Count == 0 || Kinds.Contains(kind);
}

/// <summary>Where a message to another program stands.</summary>
public enum MessageState
{
    /// <summary>It is sent, again where it was not taken.</summary>
    Waiting,

    /// <summary>The other program took it.</summary>
    Delivered,

    /// <summary>It was not taken in all its tries.</summary>
    Dead,
}

/// <summary>One message to another program.</summary>
/// <param name="Position">Grows with time.</param>
/// <param name="Id">The same at every try, so that a message that comes twice is known.</param>
/// <param name="Type">What happened: <c>order.plan-agreed</c>.</param>
/// <param name="Body">JSON, the same bytes at every try.</param>
/// <param name="Tries">How often it was sent; 0 or more.</param>
/// <param name="NextAt">When it is sent next, where it waits.</param>
/// <param name="TriedAt">When it was sent last; null for never.</param>
/// <param name="Answer">What came of the last try; null before.</param>
public sealed record WebhookMessage(
    long Position,
    string Id,
    string Type,
    string Body,
    MessageState State,
    int Tries,
    DateTimeOffset At,
    DateTimeOffset NextAt,
    DateTimeOffset? TriedAt,
    string? Answer
);

/// <summary>How other programs are told: Standard Webhooks 1.0.</summary>
public static class Webhooks
{
    /// <summary>How the secret is written: this, then base 64 of 24 to 64 bytes.</summary>
    public const string SecretPrefix = "whsec_";

    // The specification's own list, section "Deliverability and reliability".
    private static readonly TimeSpan[] Waits =
    [
        TimeSpan.FromSeconds(5),
        TimeSpan.FromMinutes(5),
        TimeSpan.FromMinutes(30),
        TimeSpan.FromHours(2),
        TimeSpan.FromHours(5),
        TimeSpan.FromHours(10),
        TimeSpan.FromHours(14),
        TimeSpan.FromHours(20),
        TimeSpan.FromHours(24),
    ];

    /// <summary>A kind without its version: <c>plan-agreed/2</c> is <c>plan-agreed</c>.</summary>
    public static string KindOf(string name) => name.Split('/')[0];

    /// <summary>How long after a try that failed the next one comes.</summary>
    /// <param name="tries">How many were made, from 1.</param>
    /// <returns>Null where it was the last.</returns>
    public static TimeSpan? WaitAfter(int tries) => tries <= Waits.Length ? Waits[tries - 1] : null;

    /// <summary>A new secret of 32 random bytes.</summary>
    public static string NewSecret() => SecretPrefix + Convert.ToBase64String(RandomNumberGenerator.GetBytes(32));

    /// <summary>What proves that a message is from here: HMAC-SHA-256 over id, moment and body.</summary>
    /// <param name="secret">As <see cref="NewSecret"/> writes it.</param>
    /// <param name="at">When it is sent, in whole seconds since 1970.</param>
    /// <returns>The header's text: <c>v1,</c> and base 64.</returns>
    /// <exception cref="FormatException">The secret is none.</exception>
    public static string Signature(string secret, string id, long at, string body)
    {
        var key = Convert.FromBase64String(
            secret.StartsWith(SecretPrefix, StringComparison.Ordinal)
                ? secret[SecretPrefix.Length..]
                : throw new FormatException("A webhook's secret begins with whsec_.")
        );
        return $"v1,{Convert.ToBase64String(HMACSHA256.HashData(key, Encoding.UTF8.GetBytes($"{id}.{at}.{body}")))}";
    }
}
