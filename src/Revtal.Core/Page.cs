namespace Revtal.Core;

/// <summary>One page of a list that goes on from a key, so that nothing is shown twice while it grows.</summary>
/// <param name="Total">How many there are on all pages.</param>
/// <param name="Next">Asks for the next page, as <c>after</c>; null on the last.</param>
/// <param name="AtLeast">True where it was counted only so far: there are as many as the total says, or more.</param>
public sealed record Page<T>(IReadOnlyList<T> Items, int Total, string? Next, bool AtLeast = false)
{
    /// <summary>The same page with other items.</summary>
    public Page<TOther> Select<TOther>(Func<T, TOther> shown) => new([.. Items.Select(shown)], Total, Next, AtLeast);

    /// <summary>“20 of 1,204”, “50 of 1,000 or more”.</summary>
    /// <param name="shown">How many are shown of all.</param>
    public string Counted(int shown) => $"{shown:N0} of {Total:N0}{(AtLeast ? " or more" : "")}";
}

/// <summary>Cuts pages.</summary>
public static class Page
{
    /// <summary>So many are counted of a list that is long.</summary>
    public const int MostCounted = 1_000;

    /// <param name="rows">One more than fit on the page, where there are more.</param>
    /// <param name="counted">All, or one more than <see cref="MostCounted"/>.</param>
    /// <param name="key">By which the list goes on behind an item.</param>
    public static Page<T> Of<T>(IReadOnlyList<T> rows, int most, int counted, Func<T, string> key) =>
        Of(rows, most, Math.Min(counted, MostCounted), counted > MostCounted, key);

    /// <param name="rows">One more than fit on the page, where there are more.</param>
    /// <param name="atLeast">There may be more than the total.</param>
    /// <param name="key">By which the list goes on behind an item.</param>
    public static Page<T> Of<T>(IReadOnlyList<T> rows, int most, int total, bool atLeast, Func<T, string> key) =>
        rows.Count > most
            ? new([.. rows.Take(most)], total, key(rows[most - 1]), atLeast)
            : new(rows, total, null, atLeast);
}
