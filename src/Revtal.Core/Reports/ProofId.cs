using System.Globalization;

namespace Revtal.Core.Reports;

/// <summary>
/// The name of a proof, short enough to be typed from paper: the order's number and twelve signs that nobody guesses,
/// <c>107-7K3M-Q9ZT-W2XB</c>.
/// </summary>
/// <param name="Order">The order's number.</param>
/// <param name="Signs">60 bits in Crockford's base 32, which has no I, L, O and U.</param>
public readonly record struct ProofId(int Order, string Signs)
{
    private const string Alphabet = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
    private const int Length = 12;

    /// <summary>How many bytes make one.</summary>
    public const int Bytes = Length;

    /// <param name="drawn">Nobody can guess them; as many as <see cref="Bytes"/>; five bits of each are used.</param>
    public static ProofId Of(int order, ReadOnlySpan<byte> drawn)
    {
        var signs = new char[Length];
        for (var i = 0; i < Length; i++)
        {
            signs[i] = Alphabet[drawn[i] & 31];
        }

        return new ProofId(order, new string(signs));
    }

    /// <summary>Reads it as people type it: in any case, with or without its dashes, O for 0, I and L for 1.</summary>
    public static bool TryParse(string? text, out ProofId id)
    {
        id = default;
        var parts = (text ?? "").Trim().ToUpperInvariant().Split('-', 2);
        var signs = parts.Length < 2 ? "" : string.Concat(parts[1].Where(c => c is not ('-' or ' ')).Select(Plain));
        if (
            !int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var order)
            || signs.Length != Length
            || !signs.All(Alphabet.Contains)
        )
        {
            return false;
        }

        id = new ProofId(order, signs);
        return true;
    }

    public override string ToString() =>
        string.Create(CultureInfo.InvariantCulture, $"{Order}-{Signs[..4]}-{Signs[4..8]}-{Signs[8..]}");

    private static char Plain(char c) =>
        c switch
        {
            'O' => '0',
            'I' or 'L' => '1',
            _ => c,
        };
}
