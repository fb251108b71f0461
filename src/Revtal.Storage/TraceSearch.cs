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
    /// <param name="Says">What is looked for in a text to show where it stands.</param>
    private sealed record Term(string? Match, string? Piece, int Number, IReadOnlyList<string> Says);

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

        var found = terms
            .Select(t => Orders(db, t))
            .OrderBy(o => o.Count)
            .Aggregate((all, more) => all.Where(more.Contains).ToHashSet());
        if (stage is not null || later)
        {
            found.IntersectWith(Those(db, stage, later));
        }

        string[] says = [.. terms.SelectMany(t => t.Says)];
        return Page.Of(
                [.. found.Where(n => below is null || n < below).OrderDescending().Take(most + 1)],
                most,
                found.Count,
                n => $"{n}"
            )
            .Select(n => new FoundCard(Card(db, n), Traces.Where(TraceRows.Of(db, n), says)));
    }

    private static HashSet<int> Orders(Prepared db, Term term)
    {
        HashSet<int> all = [.. Rows(db, "trace_words", term.Match!)];
        if (term.Piece is { } piece)
        {
            all.UnionWith(Rows(db, "trace_pieces", piece));
        }

        if (term.Number > 0 && Journal.Exists(db, term.Number))
        {
            all.Add(term.Number);
        }

        return all;
    }

    private static IReadOnlyList<int> Those(Prepared db, string? stage, bool later) =>
        db.All(
            """
            SELECT "Number" FROM orders
            WHERE (@p0 IS NULL OR "Stage" = @p0) AND (@p1 = 0 OR "Later" IS NOT NULL)
            """,
            row => row.GetInt32(0),
            stage,
            later ? 1 : 0
        );

    private static string Card(Prepared db, int order) =>
        db.All("""SELECT "Card" FROM orders WHERE "Number" = @p0""", row => row.GetString(0), order)[0];

    private static Term Of(Prepared db, string typed)
    {
        var words = Traces.Words(typed);
        if (words.Count == 0)
        {
            return new Term(null, null, -1, []);
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
            return new Term(match, piece, number, [typed, .. words]);
        }

        // Nobody ever wrote that: what a hand meant by it was written.
        var meant = words is [{ Length: >= ShortestMistyped } only] ? Meant(db, only) : [];
        return meant.Count == 0
            ? new Term(match, piece, number, words)
            : new Term(string.Join(" OR ", meant.Select(m => Phrase([m]))), null, -1, meant);
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

    private static IReadOnlyList<int> Rows(Prepared db, string table, string match) =>
        db.All(
            string.Create(
                CultureInfo.InvariantCulture,
                $"SELECT DISTINCT rowid >> {TraceRows.Bits} FROM {table} WHERE {table} MATCH @p0"
            ),
            row => row.GetInt32(0),
            match
        );

    private static bool Is(Prepared db, string table, string match) =>
        db.All($"SELECT 1 FROM {table} WHERE {table} MATCH @p0 LIMIT 1", _ => true, match).Count > 0;

    // The words one after another, the last of them begun.
    private static string Phrase(IEnumerable<string> words) => $"{Quoted(string.Join(' ', words))} *";

    private static string Quoted(string text) => $"\"{text.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}
