using System.Globalization;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>A found order: its card, and where the words stand.</summary>
/// <param name="Card">JSON.</param>
/// <param name="Where">Null where that is the order's number, its customer or its model.</param>
public sealed record FoundCard(string Card, FoundIn? Where);

/// <summary>Orders by their numbers, both ends with them.</summary>
internal readonly record struct Numbers(int First, int Last);

/// <summary>Finds orders by words that people type, as they type them.</summary>
internal static class TraceSearch
{
    private const int MostWords = 6;
    private const int ShortestPiece = 3;
    private const int ShortestMistyped = 4;

    // More of what a hand may have meant than this is no answer.
    private const int MostMeant = 8;

    // So many of the newest orders are looked through first, and then so many times more: what is sought is mostly
    // among them.
    private const int Newest = 4096;
    private const int Further = 16;

    /// <summary>One word as it was typed.</summary>
    /// <param name="Phrases">The words of it; or what a hand may have meant by it.</param>
    /// <param name="Piece">Of a serial; null for a word that is too short.</param>
    /// <param name="Says">What is looked for in a text to show where it stands.</param>
    private sealed record Term(
        IReadOnlyList<IReadOnlyList<string>> Phrases,
        string? Piece,
        int? Number,
        IReadOnlyList<string> Says
    )
    {
        /// <summary>Whether no order that was looked at has it.</summary>
        public bool IsNowhere { get; set; } = true;

        /// <summary>Orders that have it, each once, growing.</summary>
        public int[] Orders(Prepared db, Numbers among)
        {
            var orders = Phrases.Count == 0 ? [] : db.Dialect.WithPhrase(db, Phrases, among);
            if (Piece is not null)
            {
                orders = With(orders, db.Dialect.WithPiece(db, Piece, among));
            }

            if (Number is { } n && n >= among.First && n <= among.Last)
            {
                orders = With(orders, [n]);
            }

            IsNowhere &= orders.Length == 0;
            return orders;
        }
    }

    /// <param name="text">Not blank.</param>
    /// <param name="stage">Null for all.</param>
    public static Page<FoundCard> Find(Prepared db, string text, string? stage, bool later, long? below, int most)
    {
        Term[] terms =
        [
            .. text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Take(MostWords).Select(w => Of(db, w)),
        ];
        var (found, isAll) = Find(db, terms, stage, later, below, most);
        // Nobody ever wrote that: what a hand meant by it was written.
        if (terms.Any(t => t.IsNowhere))
        {
            terms = [.. terms.Select(t => t.IsNowhere ? Meant(db, t) : t)];
            (found, isAll) = Find(db, terms, stage, later, below, most);
        }

        string[] says = [.. terms.SelectMany(t => t.Says)];
        var older = found.Where(n => below is null || n < below).Take(most + 1).ToArray();
        return Page.Of(older, most, found.Count, !isAll, n => $"{n}")
            .Select(n => new FoundCard(Card(db, n), Traces.Where(TraceRows.Of(db, n), says)));
    }

    // Newest first, until there are enough for the page.
    private static (IReadOnlyList<int> Found, bool IsAll) Find(
        Prepared db,
        Term[] terms,
        string? stage,
        bool later,
        long? below,
        int most
    )
    {
        var found = new List<int>();
        var (last, oldest) = ((int)(db.Number("""SELECT max("Number") FROM orders""", null) ?? 0), 1);
        for (var many = (long)Newest; last >= oldest; many *= Further)
        {
            var among = new Numbers((int)Math.Max(oldest, last - many + 1), last);
            // Each word is looked for, that it be known whether anybody ever wrote it.
            var orders = terms.Select(t => t.Orders(db, among)).ToArray().OrderBy(o => o.Length).Aggregate(Common);
            if (orders.Length > 0 && (stage is not null || later))
            {
                orders = Common(orders, Those(db, stage, later, among));
            }

            found.AddRange(orders.Reverse());
            last = among.First - 1;
            if (found.Count(n => below is null || n < below) > most)
            {
                break;
            }
        }

        return (found, last < oldest);
    }

    private static int[] Common(int[] few, int[] many) => [.. few.Where(n => Array.BinarySearch(many, n) >= 0)];

    private static int[] Those(Prepared db, string? stage, bool later, Numbers among) =>
        [
            .. db.All(
                """
                SELECT "Number" FROM orders
                WHERE "Number" BETWEEN @p2 AND @p3
                    AND (CAST(@p0 AS TEXT) IS NULL OR "Stage" = @p0) AND (@p1 = 0 OR "Later" IS NOT NULL)
                ORDER BY "Number"
                """,
                row => row.GetInt32(0),
                stage,
                later ? 1 : 0,
                among.First,
                among.Last
            ),
        ];

    private static string Card(Prepared db, int order) =>
        db.All("""SELECT "Card" FROM orders WHERE "Number" = @p0""", row => row.GetString(0), order)[0];

    private static Term Of(Prepared db, string typed)
    {
        var words = Traces.Words(typed);
        return words.Count == 0
            ? new Term([], null, null, [])
            : new Term(
                [words],
                typed.Length >= ShortestPiece ? typed : null,
                int.TryParse(typed, CultureInfo.InvariantCulture, out var number) && Journal.Exists(db, number)
                    ? number
                    : null,
                [typed, .. words]
            );
    }

    private static Term Meant(Prepared db, Term typed)
    {
        string[] meant = typed.Phrases is [[{ Length: >= ShortestMistyped } only]]
            ? [.. db.Dialect.Written(db, Traces.Near(only), MostMeant)]
            : [];
        return new Term([.. meant.Select(m => new[] { m })], null, null, meant);
    }

    private static int[] With(int[] some, int[] more) =>
        more.Length == 0 ? some
        : some.Length == 0 ? more
        : [.. some.Union(more).Order()];
}
