using Revtal.Core.Hardware;

namespace Revtal.Core.Parts;

/// <summary>A line of the catalogue with what lies on the shelf.</summary>
/// <param name="Free">In stock and not reserved; of kits, whole ones.</param>
/// <param name="Wanted">Planned on open orders and not set aside yet.</param>
public sealed record PartLine(PartKind Kind, int Free, int Reserved, int Wanted)
{
    /// <summary>How many to order so that plans and the shelf's least are met; 0 for none.</summary>
    public int Short => Math.Max(0, Wanted + Kind.Least - Free);

    /// <summary>The whole catalogue with its shelf.</summary>
    /// <param name="items">Parts in the shop or in a machine on its bench.</param>
    /// <param name="wanted">The part numbers that each open order's plan takes, one for each piece.</param>
    public static IReadOnlyList<PartLine> Of(
        IReadOnlyList<PartKind> kinds,
        IReadOnlyList<PartItem> items,
        IReadOnlyList<(int Order, IReadOnlyList<PartNumber> Numbers)> wanted
    )
    {
        var byKind = items.ToLookup(i => i.Kind);
        var missing = wanted.SelectMany(w => Missing(w.Order, w.Numbers, byKind)).ToLookup(m => m.Number, m => m.Count);
        return
        [
            .. kinds.Select(k => new PartLine(
                k,
                byKind[k.Number].Count(i => i.State == PartState.InStock) / k.Pieces,
                byKind[k.Number].Count(i => i.State == PartState.Reserved) / k.Pieces,
                missing[k.Number].Sum() / k.Pieces
            )),
        ];
    }

    /// <summary>All that a search for a part looks through, in small letters: whatever its line says.</summary>
    public static string Words(PartKind kind) =>
        $"{kind.Number} {kind.Name} {kind.Module} {kind.Drive} {kind.Supplier} {kind.Barcode}".ToLowerInvariant();

    /// <summary>Whether a search finds it.</summary>
    /// <param name="text">Anything that the line says; empty for all.</param>
    public bool Matches(string? text) =>
        string.IsNullOrWhiteSpace(text)
        || Words(Kind).Contains(text.Trim().ToLowerInvariant(), StringComparison.Ordinal);

    // What an order set aside or fitted already it does not want any more.
    private static IEnumerable<(PartNumber Number, int Count)> Missing(
        int order,
        IReadOnlyList<PartNumber> numbers,
        ILookup<PartNumber, PartItem> byKind
    ) =>
        numbers
            .CountBy(n => n)
            .Select(n => (n.Key, n.Value - byKind[n.Key].Count(i => i.Order == order && i.State.IsHeld())))
            .Where(n => n.Item2 > 0);
}
