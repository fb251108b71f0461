using System.Buffers.Text;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Revtal.Service.Http;

/// <summary>A link that the customer opens without an account: an order's number, and a secret kept nowhere.</summary>
internal sealed record CustomerLink(byte[] Secret, DateTimeOffset Now, DateTimeOffset Until)
{
    private const int SecretBytes = 32;

    // Further off than any rule allows: it is the rule's to say so.
    private const int TooMany = 1_000;

    public static CustomerLink New(DateTimeOffset now, int days) =>
        new(RandomNumberGenerator.GetBytes(SecretBytes), now, now.AddDays(Math.Clamp(days, 0, TooMany)));

    /// <summary>As it is kept.</summary>
    public string Hash { get; } = HashOf(Secret);

    /// <summary>As it stands in an address.</summary>
    public string Of(int order) =>
        string.Create(CultureInfo.InvariantCulture, $"{order}-{Base64Url.EncodeToString(Secret)}");

    /// <returns>Whose it would be and the hash of its secret; null where it has not the form of one.</returns>
    public static (int Order, string Hash)? Read(string link)
    {
        var parts = link.Split('-', 2);
        var secret = new byte[SecretBytes];
        return
            parts.Length == 2
            && int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            && Base64Url.IsValid(parts[1], out var length)
            && length == SecretBytes
            && Base64Url.TryDecodeFromChars(parts[1], secret, out _)
            ? (number, HashOf(secret))
            : null;
    }

    /// <summary>Whether what was sent opens what is kept, found out in the same time either way.</summary>
    public static bool Opens(string hash, string kept) =>
        CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(hash), Encoding.ASCII.GetBytes(kept));

    private static string HashOf(byte[] secret) => Convert.ToHexStringLower(SHA256.HashData(secret));
}
