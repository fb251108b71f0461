using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Revtal.Storage;

/// <summary>
/// Each entry carries the hash of the one before it in its order, and the order carries that of its last: what was
/// changed, taken out or put in afterwards no longer fits what follows it. <c>docs/journal-format.md</c> fixes the form
/// that is hashed.
/// </summary>
public static class EntryChain
{
    private const string Form = "revtal-entry/1";

    /// <summary>What the first entry of an order carries: 32 bytes of zero.</summary>
    public static byte[] None { get; } = new byte[SHA256.HashSizeInBytes];

    /// <summary>SHA-256 over an entry's canonical form, 32 bytes.</summary>
    /// <param name="row">As it is kept; its <see cref="EntryRow.Before"/> is there.</param>
    public static byte[] HashOf(EntryRow row) => SHA256.HashData(Encoding.UTF8.GetBytes(Canonical(row)));

    /// <summary>
    /// A line each for all that an entry says of itself, and its body as the rest. No value but the body may hold a
    /// line break, so that no two entries have one form.
    /// </summary>
    public static string Canonical(EntryRow row) =>
        string.Join(
            '\n',
            Form,
            Convert.ToHexStringLower(row.Before!),
            Text(row.Order),
            Text(row.Sequence),
            row.Id.ToString(),
            Text(row.At),
            row.By,
            row.Kind,
            Text(row.SaidAt),
            Text(row.ClockOff is { } off ? Convert.ToInt64(off) : null),
            row.Print,
            row.Body
        );

    private static string Text(long? number) => number?.ToString(CultureInfo.InvariantCulture) ?? "-";
}
