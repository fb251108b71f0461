using System.Security.Cryptography;
using System.Text;
using Revtal.Core;
using Revtal.Service.Http;
using Revtal.Service.Shop;

namespace Revtal.Service.Collect;

/// <summary>
/// A one-time code: what it is for, and a secret; written <c>104-7K3F-9Q2M</c> or <c>NEW-7K3F-9Q2M</c>.
/// </summary>
/// <param name="For">An order's number, or <see cref="Arrival"/>.</param>
public sealed record CollectorCode(string For, string Secret)
{
    /// <summary>Of a machine for which there is no order yet.</summary>
    public const string Arrival = "NEW";

    // No I, L, O and U: none is taken for another when it is read aloud or typed.
    private const string Letters = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
    private const int SecretLetters = 8,
        LongestTyped = 40;

    /// <summary>As it is typed.</summary>
    public string Text => $"{For}-{Secret[..4]}-{Secret[4..]}";

    /// <summary>SHA-256 of the secret, bound to what it is for; hexadecimal.</summary>
    public string Hash => Convert.ToHexStringLower(SHA256.HashData(Encoding.ASCII.GetBytes($"{For}-{Secret}")));

    /// <summary>A fresh one.</summary>
    public static CollectorCode New(string what) => new(what, RandomNumberGenerator.GetString(Letters, SecretLetters));

    /// <summary>Understands what was typed; null for what can be no code.</summary>
    public static CollectorCode? Parse(string typed) =>
        Canonical(typed).Split('-', 2) is [{ Length: > 0 } what, { } secret]
            ? new CollectorCode(what, secret.Replace("-", "", StringComparison.Ordinal))
            : null;

    /// <summary>As it was meant, whatever letters were mistaken.</summary>
    public static string Canonical(string typed) =>
        new([
            .. typed
                .ToUpperInvariant()
                .Replace('O', '0')
                .Replace('I', '1')
                .Replace('L', '1')
                .Where(c => c == '-' || Letters.Contains(c, StringComparison.Ordinal))
                .Take(LongestTyped),
        ]);

    /// <summary>Where machines reach the collector.</summary>
    public static string Address(HttpContext context, IConfiguration settings, ShopOptions shop) =>
        settings["Collect:Address"]?.TrimEnd('/') ?? PublicAddress.Of(shop, context);

    /// <summary>What is typed on the machine, by system.</summary>
    /// <param name="address">Where it reaches the collector.</param>
    /// <param name="watch">So many minutes the machine watches before it sends; null for none.</param>
    public static IReadOnlyDictionary<string, string> Lines(string code, string address, int? watch = null)
    {
        var at = $"{address}{CollectEndpoints.Root}/{code}";
        var wait = Phrases.When(watch, m => $" -s -- --for {m}m");
        return new Dictionary<string, string>
        {
            ["linux"] = $"curl -sS {at} | sudo sh{wait}",
            ["windows"] = watch is { } minutes
                ? $"& ([scriptblock]::Create((irm {at}/windows))) -For {minutes}m"
                : $"irm {at}/windows | iex",
            ["macos"] = $"curl -sS {at}/macos | sh{wait}",
        };
    }

    /// <summary>A retry is answered with what was recorded first, and that code's secret is kept nowhere.</summary>
    public static RefusedException ShownOnce() =>
        RefusedException.Rule(
            "code-shown-once",
            "This code was made before, and it is shown once. Make another; it closes the first."
        );
}
