using System.Globalization;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>A found order: its card, and where the words stand.</summary>
/// <param name="Card">JSON.</param>
/// <param name="Where">Null where that is the order's number, its customer or its model.</param>
public sealed record FoundCard(string Card, FoundIn? Where);

/// <summary>Finds orders by words that people type, as they type them.</summary>
internal static class TraceSearch
{
    private const int MostWords = 6;
    private const int ShortestPiece = 3;
    private const int ShortestMistyped = 4;

    // More of what a hand may have meant than this is no answer.
    private const int MostMeant = 8;

    /// <summary>One word as it was typed.</summary>
    /// <param name="Orders">That have it, each once, growing.</param>
    /// <param name="Says">What is looked for in a text to show where it stands.</param>
    private sealed record Term(int[] Orders, IReadOnlyList<string> Says);

    /// <param name="text">Not blank.</param>
    /// <param name="stage">Null for all.</param>
    public static Page<FoundCard> Find(Prepared db, string text, string? stage, bool later, long? below, int most)
    {
        var terms = text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
            .Take(MostWords)
            .Select(w => Of(db, w))
            .ToArray();
        var found = terms.Select(t => t.Orders).OrderBy(o => o.Length).Aggregate(Common);
        if (stage is not null || later)
        {
            found = Common(found, Those(db, stage, later));
        }

        string[] says = [.. terms.SelectMany(t => t.Says)];
        var from = below is { } b ? found.AsSpan().IndexOfAnyInRange((int)Math.Min(b, int.MaxValue), int.MaxValue) : -1;
        var older = from < 0 ? found : found[..from];
        return Page.Of([.. older.TakeLast(most + 1).Reverse()], most, found.Length, n => $"{n}")
            .Select(n => new FoundCard(Card(db, n), Traces.Where(TraceRows.Of(db, n), says)));
    }

    private static int[] Common(int[] few, int[] many) => [.. few.Where(n => Array.BinarySearch(many, n) >= 0)];

    private static int[] Those(Prepared db, string? stage, bool later) =>
        [
            .. db.All(
                """
                SELECT "Number" FROM orders
                WHERE (CAST(@p0 AS TEXT) IS NULL OR "Stage" = @p0) AND (@p1 = 0 OR "Later" IS NOT NULL)
                ORDER BY "Number"
                """,
                row => row.GetInt32(0),
                stage,
                later ? 1 : 0
            ),
        ];

    private static string Card(Prepared db, int order) =>
        db.All("""SELECT "Card" FROM orders WHERE "Number" = @p0""", row => row.GetString(0), order)[0];

    private static Term Of(Prepared db, string typed)
    {
        var words = Traces.Words(typed);
        if (words.Count == 0)
        {
            return new Term([], []);
        }

        var orders = db.Dialect.WithPhrase(db, [words]);
        if (typed.Length >= ShortestPiece)
        {
            orders = With(orders, db.Dialect.WithPiece(db, typed));
        }

        if (int.TryParse(typed, CultureInfo.InvariantCulture, out var number) && Journal.Exists(db, number))
        {
            orders = With(orders, [number]);
        }

        if (orders.Length > 0 || words is not [{ Length: >= ShortestMistyped } only])
        {
            return new Term(orders, [typed, .. words]);
        }

        // Nobody ever wrote that: what a hand meant by it was written.
        var meant = db.Dialect.Written(db, Traces.Near(only), MostMeant);
        return meant.Count == 0
            ? new Term([], [])
            : new Term(db.Dialect.WithPhrase(db, [.. meant.Select(m => new[] { m })]), meant);
    }

    private static int[] With(int[] some, int[] more) =>
        more.Length == 0 ? some
        : some.Length == 0 ? more
        : [.. some.Union(more).Order()];
}
