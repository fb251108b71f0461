using System.Data.Common;
using System.Globalization;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>SQLite: one writer at a time by itself, words and pieces of serials by FTS5.</summary>
internal sealed class SqliteDialect : IDialect
{
    public string? Pen => null;

    public string? Call => null;

    public bool Add(Prepared db, DbTransaction transaction, int order, Trace trace) =>
        db.Command(
                """
                INSERT INTO traces ("Id", "Kind", "Text")
                SELECT (SELECT coalesce(max("Id"), @p0) + 1 FROM traces WHERE "Id" > @p0 AND "Id" < @p1), @p2, @p3
                WHERE NOT EXISTS (
                    SELECT 1 FROM traces WHERE "Id" > @p0 AND "Id" < @p1 AND "Kind" = @p2 AND "Text" = @p3)
                """,
                transaction,
                TraceRows.From(order),
                TraceRows.From(order + 1),
                trace.Kind.ToString(),
                trace.Text
            )
            .ExecuteNonQuery() == 1;

    public int[] WithPhrase(Prepared db, IReadOnlyList<IReadOnlyList<string>> phrases) =>
        Orders(db, "trace_words", string.Join(" OR ", phrases.Select(p => $"{Quoted(string.Join(' ', p))} *")));

    public int[] WithPiece(Prepared db, string piece) => Orders(db, "trace_pieces", Quoted(piece));

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

    // One text of all numbers: rows are read one by one, and a word may stand in ten thousands.
    private static int[] Orders(Prepared db, string table, string match)
    {
        var all = db.Command(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"SELECT group_concat(rowid >> {TraceRows.Bits}) FROM {table} WHERE {table} MATCH @p0"
                ),
                null,
                match
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
