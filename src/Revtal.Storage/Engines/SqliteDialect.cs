using System.Data.Common;
using System.Globalization;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>SQLite: one writer at a time by itself, words and pieces of serials by FTS5.</summary>
internal sealed class SqliteDialect : IDialect
{
    private const string Words = "trace_words",
        Pieces = "trace_pieces";

    private const int MostBegun = 32;

    // Of which lengths the index has beginnings of their own.
    private static readonly int[] Prefixes = [2, 3];

    public string? Pen => null;

    public string? Call => null;

    // Statements of one row each: before one that may have to be taken back in part, as those of triggers are, the
    // indices write all that they have to the file.
    public void Add(Prepared db, DbTransaction transaction, long id, Trace trace)
    {
        db.Command(
                """INSERT INTO traces ("Id", "Kind", "Text", "Words") VALUES (@p0, @p1, @p2, @p3)""",
                transaction,
                id,
                trace.Kind.ToString(),
                trace.Text,
                trace.Words
            )
            .ExecuteNonQuery();
        foreach (var (index, column, text) in Indices(trace))
        {
            db.Command($"""INSERT INTO {index} (rowid, "{column}") VALUES (@p0, @p1)""", transaction, id, text)
                .ExecuteNonQuery();
        }
    }

    public void Unindex(Prepared db, DbTransaction transaction, long id, Trace trace)
    {
        foreach (var (index, column, text) in Indices(trace))
        {
            db.Command(
                    $"""INSERT INTO {index} ({index}, rowid, "{column}") VALUES ('delete', @p0, @p1)""",
                    transaction,
                    id,
                    text
                )
                .ExecuteNonQuery();
        }
    }

    public void Unindex(Prepared db, DbTransaction transaction)
    {
        foreach (var index in new[] { Words, Pieces })
        {
            db.Command($"INSERT INTO {index} ({index}) VALUES ('delete-all')", transaction).ExecuteNonQuery();
        }
    }

    public int[] WithPhrase(Prepared db, IReadOnlyList<IReadOnlyList<string>> phrases, Numbers among)
    {
        var match = string.Join(" OR ", phrases.SelectMany(p => Written(db, [.. p.Select(Traces.Plain)])));
        return match.Length == 0 ? [] : Orders(db, Words, match, among);
    }

    // A beginning is looked for in all that it has, however few orders are wanted; whole words are not.
    private static IEnumerable<string> Written(Prepared db, string[] phrase)
    {
        var (before, begun) = (string.Concat(phrase[..^1].Select(w => $"{w} ")), phrase[^1]);
        var words = Prefixes.Contains(begun.Length) ? null : Begun(db, begun);
        return words is null ? [$"{Quoted(before + begun)} *"] : words.Select(w => Quoted(before + w));
    }

    // The words that begin so; null where they are many.
    private static IReadOnlyList<string>? Begun(Prepared db, string begun)
    {
        var words = db.All(
            """SELECT "Term" FROM terms WHERE "Term" >= @p0 AND "Term" < @p0 || @p1 LIMIT @p2""",
            row => row.GetString(0),
            begun,
            TraceRows.AfterAll,
            MostBegun + 1
        );
        return words.Count <= MostBegun ? words : null;
    }

    public int[] WithPiece(Prepared db, string piece, Numbers among) => Orders(db, Pieces, Quoted(piece), among);

    public IReadOnlyList<string> Written(Prepared db, IReadOnlyList<string> beginnings, int most) =>
        db.All(
            """
            SELECT c.value FROM json_each(@p0) c
            WHERE EXISTS (SELECT 1 FROM terms t WHERE t."Term" >= c.value AND t."Term" < c.value || @p1)
            LIMIT @p2
            """,
            row => row.GetString(0),
            JsonSerializer.Serialize(beginnings),
            TraceRows.AfterAll,
            most
        );

    public IReadOnlyList<string> Damage(Prepared db) =>
        [.. db.All("PRAGMA integrity_check(20)", row => row.GetString(0)).Where(l => l != "ok")];

    // Deferred: it holds up nobody who writes. What it sees is what there is at its first look, which is now.
    public DbTransaction Still(DbConnection connection)
    {
        var still = ((SqliteConnection)connection).BeginTransaction(deferred: true);
        using var look = connection.CreateCommand();
        (look.CommandText, look.Transaction) = ("SELECT count(*) FROM readers", still);
        look.ExecuteScalar();
        return still;
    }

    public async Task PourAsync(
        DbTransaction transaction,
        string table,
        IReadOnlyList<BackupColumn> columns,
        IAsyncEnumerable<object?[]> rows
    )
    {
        using var put = transaction.Connection!.CreateCommand();
        put.Transaction = transaction;
        put.CommandText = $"""
            INSERT INTO "{table}" ({BackupTable.Listed(columns.Select(c => c.Name))})
            VALUES ({string.Join(", ", columns.Select((_, i) => $"@p{i}"))})
            """;
        foreach (var i in Enumerable.Range(0, columns.Count))
        {
            var parameter = put.CreateParameter();
            parameter.ParameterName = $"@p{i}";
            put.Parameters.Add(parameter);
        }

        await foreach (var row in rows)
        {
            for (var i = 0; i < row.Length; i++)
            {
                put.Parameters[i].Value = row[i] switch
                {
                    null => DBNull.Value,
                    // The driver would take the last zeros off a price.
                    decimal price => price.ToString(CultureInfo.InvariantCulture),
                    var value => value,
                };
            }

            put.ExecuteNonQuery();
        }
    }

    // A number of its own is one more than the largest that a table ever had.
    public void GoOn(Prepared db, DbTransaction transaction, string table, string column) { }

    private static IReadOnlyList<(string Index, string Column, string Text)> Indices(Trace trace) =>
        trace.IsNumber
            ? [(Words, "Words", trace.Words), (Pieces, "Text", trace.Text)]
            : [(Words, "Words", trace.Words)];

    // One text of all numbers: rows are read one by one, and a word may stand in ten thousands.
    private static int[] Orders(Prepared db, string table, string match, Numbers among)
    {
        var all = db.Command(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"""
                    SELECT group_concat(rowid >> {TraceRows.Bits}) FROM {table}
                    WHERE {table} MATCH @p0 AND rowid > @p1 AND rowid < @p2
                    """
                ),
                null,
                match,
                TraceRows.From(among.First),
                TraceRows.From(among.Last + 1)
            )
            .ExecuteScalar();
        if (all is not string numbers)
        {
            return [];
        }

        var orders = new List<int>();
        foreach (var range in numbers.AsSpan().Split(','))
        {
            // The index tells an order's traces one after another.
            var order = int.Parse(numbers.AsSpan(range), CultureInfo.InvariantCulture);
            if (orders.Count == 0 || orders[^1] != order)
            {
                orders.Add(order);
            }
        }

        return [.. orders];
    }

    private static string Quoted(string text) => $"\"{text.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}
