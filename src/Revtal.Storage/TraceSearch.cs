using System.Globalization;
using System.Text.Json;
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
    /// <param name="Match">For the index of words; null where nothing of it is one.</param>
    /// <param name="Piece">For the index of serials; null where it is too short.</param>
    /// <param name="Number">An order's, where it may be one.</param>
    private sealed record Term(string? Match, string? Piece, int Number);

    /// <param name="text">Not blank.</param>
    /// <param name="stage">Null for all.</param>
    public static Page<FoundCard> Find(Prepared db, string text, string? stage, bool later, long? below, int most)
    {
        var terms = text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
            .Take(MostWords)
            .Select(w => Of(db, w))
            .ToArray();
        if (terms.Any(t => t.Match is null))
        {
            return new Page<FoundCard>([], 0, null);
        }

        var values = new List<object?>();
        var ids = string.Join(" INTERSECT ", terms.Select(t => $"SELECT n FROM ({Set(t, values)})"));
        var filter =
            (stage is null ? "" : $""" AND "Stage" = {Parameter(values, stage)}""")
            + (later ? """ AND "Later" IS NOT NULL""" : "");
        var total = db.All(
            filter.Length == 0
                ? $"SELECT count(*) FROM ({ids})"
                : $"""SELECT count(*) FROM orders WHERE "Number" IN ({ids}){filter}""",
            row => row.GetInt32(0),
            [.. values]
        )[0];
        var page = db.All(
            $"""
            SELECT "Number", "Card" FROM orders WHERE "Number" IN ({ids}){filter}
            AND "Number" < {Parameter(values, below ?? long.MaxValue)}
            ORDER BY "Number" DESC LIMIT {Parameter(values, most + 1)}
            """,
            row => (Number: row.GetInt32(0), Card: row.GetString(1)),
            [.. values]
        );
        var words = string.Join(" OR ", terms.Select(t => t.Match).OfType<string>());
        var pieces = string.Join(" OR ", terms.Select(t => t.Piece).OfType<string>());
        return Page.Of(page, most, total, o => $"{o.Number}")
            .Select(o => new FoundCard(o.Card, Where(db, o.Number, words, pieces)));
    }

    // What its card shows anyway is not told.
    private static FoundIn? Where(Prepared db, int order, string words, string pieces) =>
        db.All(
            """
            SELECT t."Kind", f.cut FROM (
                SELECT rowid AS id, snippet(trace_words, 0, '', '', '…', 14) AS cut FROM trace_words
                WHERE trace_words MATCH @p0 AND rowid > @p2 AND rowid < @p3
                UNION ALL
                SELECT rowid, "Text" FROM trace_pieces
                WHERE @p1 <> '' AND trace_pieces MATCH @p1 AND rowid > @p2 AND rowid < @p3
            ) f JOIN traces t ON t."Id" = f.id
            WHERE t."Kind" NOT IN ('Customer', 'Model') ORDER BY f.id LIMIT 1
            """,
            row => new FoundIn(Enum.Parse<TraceKind>(row.GetString(0)), row.GetString(1)),
            words,
            pieces,
            TraceRows.From(order),
            TraceRows.From(order + 1)
        )
            is [var first]
            ? first
            : null;

    private static Term Of(Prepared db, string typed)
    {
        var words = Traces.Words(typed);
        if (words.Count == 0)
        {
            return new Term(null, null, -1);
        }

        var match = Phrase(words);
        var piece = typed.Length >= ShortestPiece ? Quoted(typed) : null;
        var number = int.TryParse(typed, CultureInfo.InvariantCulture, out var n) ? n : -1;
        if (
            Is(db, "trace_words", match)
            || (piece is not null && Is(db, "trace_pieces", piece))
            || (number > 0 && Journal.Exists(db, number))
        )
        {
            return new Term(match, piece, number);
        }

        // Nobody ever wrote that: what a hand meant by it was written.
        var meant = words is [{ Length: >= ShortestMistyped } only] ? Meant(db, only) : [];
        return meant.Count == 0
            ? new Term(match, piece, number)
            : new Term(string.Join(" OR ", meant.Select(m => Phrase([m]))), null, -1);
    }

    private static IReadOnlyList<string> Meant(Prepared db, string word) =>
        db.All(
            """
            SELECT c.value FROM json_each(@p0) c
            WHERE EXISTS (SELECT 1 FROM trace_terms t WHERE t.term >= c.value AND t.term < c.value || @p1)
            LIMIT @p2
            """,
            row => row.GetString(0),
            JsonSerializer.Serialize(Traces.Near(word)),
            "\uffff",
            MostMeant
        );

    private static string Set(Term term, List<object?> values)
    {
        var sets = new List<string>();
        if (term.Match is { } match)
        {
            sets.Add(Rows("trace_words", Parameter(values, match)));
        }

        if (term.Piece is { } piece)
        {
            sets.Add(Rows("trace_pieces", Parameter(values, piece)));
        }

        if (term.Number > 0)
        {
            sets.Add($"""SELECT "Number" AS n FROM orders WHERE "Number" = {Parameter(values, term.Number)}""");
        }

        return string.Join(" UNION ", sets);
    }

    private static string Rows(string table, string match) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"SELECT DISTINCT rowid >> {TraceRows.Bits} AS n FROM {table} WHERE {table} MATCH {match}"
        );

    private static bool Is(Prepared db, string table, string match) =>
        db.All($"SELECT 1 FROM {table} WHERE {table} MATCH @p0 LIMIT 1", _ => true, match).Count > 0;

    private static string Parameter(List<object?> values, object? value)
    {
        values.Add(value);
        return $"@p{values.Count - 1}";
    }

    // The words one after another, the last of them begun.
    private static string Phrase(IEnumerable<string> words) => $"{Quoted(string.Join(' ', words))} *";

    private static string Quoted(string text) => $"\"{text.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}
