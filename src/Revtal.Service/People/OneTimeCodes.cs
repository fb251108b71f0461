using System.Security.Cryptography;
using OtpNet;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>One-time codes by time (RFC 6238: SHA-1, 30 s, 6 digits), and codes on paper in their place.</summary>
internal static class OneTimeCodes
{
    private const int OnPaper = 10,
        Digits = 6;

    // A clock may be one step off, and a finger slow (RFC 6238, 5.2).
    private static readonly VerificationWindow Window = new(previous: 1, future: 1);

    /// <summary>160 random bits (RFC 4226, 4), in base 32.</summary>
    public static string NewKey() => Base32Encoding.ToString(RandomNumberGenerator.GetBytes(20));

    /// <summary>What a program that makes codes reads.</summary>
    public static string Address(string shop, string person, string key) =>
        new OtpUri(OtpType.Totp, key, person, shop).ToString();

    /// <summary>Whether it is the code of now and was not taken before; if so it counts as taken.</summary>
    public static bool TakesMade(AccountRow account, string code, DateTimeOffset now)
    {
        var given = code.Replace(" ", "", StringComparison.Ordinal);
        if (
            account.CodeKey is null
            || given.Length != Digits
            || !new Totp(Base32Encoding.ToBytes(account.CodeKey)).VerifyTotp(
                now.UtcDateTime,
                given,
                out var step,
                Window
            )
            || step <= account.LastStep
        )
        {
            return false;
        }

        account.LastStep = step;
        return true;
    }

    /// <summary>The same, or one of those on paper.</summary>
    public static bool Takes(AccountRow account, string code, DateTimeOffset now) =>
        TakesMade(account, code, now) || TakesFromPaper(account, code);

    private static bool TakesFromPaper(AccountRow account, string code)
    {
        var hash = SignInStore.HashOf(Plain(code));
        var left = Hashes(account);
        if (!left.Contains(hash))
        {
            return false;
        }

        account.Recovery = string.Join('\n', left.Where(h => h != hash));
        return true;
    }

    /// <summary>New codes on paper; those before open nothing any more.</summary>
    public static IReadOnlyList<string> NewPaper(AccountRow account)
    {
        // 80 bits each: nobody tries through them, so a plain hash keeps them.
        var codes = Enumerable
            .Range(0, OnPaper)
            .Select(_ => Base32Encoding.ToString(RandomNumberGenerator.GetBytes(10)).ToLowerInvariant())
            .ToList();
        account.Recovery = string.Join('\n', codes.Select(SignInStore.HashOf));
        return [.. codes.Select(c => string.Join('-', c.Chunk(4).Select(part => new string(part))))];
    }

    /// <summary>How many of the codes on paper are left.</summary>
    public static int Left(AccountRow account) => Hashes(account).Length;

    private static string[] Hashes(AccountRow account) =>
        account.Recovery?.Split('\n', StringSplitOptions.RemoveEmptyEntries) ?? [];

    private static string Plain(string code) => new string([.. code.Where(char.IsLetterOrDigit)]).ToLowerInvariant();
}
