namespace Revtal.Core;

/// <summary>One page of a list that goes on from a key, so that nothing is shown twice while it grows.</summary>
/// <param name="Total">How many there are on all pages.</param>
/// <param name="Next">Asks for the next page, as <c>after</c>; null on the last.</param>
public sealed record Page<T>(IReadOnlyList<T> Items, int Total, string? Next)
{
    /// <summary>The same page with other items.</summary>
    public Page<TOther> Select<TOther>(Func<T, TOther> shown) => new([.. Items.Select(shown)], Total, Next);
}

/// <summary>Cuts pages.</summary>
public static class Page
{
    /// <param name="rows">One more than fit on the page, where there are more.</param>
    /// <param name="key">By which the list goes on behind an item.</param>
    public static Page<T> Of<T>(IReadOnlyList<T> rows, int most, int total, Func<T, string> key) =>
        rows.Count > most ? new([.. rows.Take(most)], total, key(rows[most - 1])) : new(rows, total, null);
}
