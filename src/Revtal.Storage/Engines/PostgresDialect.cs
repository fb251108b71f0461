using System.Data;
using System.Data.Common;
using Npgsql;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>
/// PostgreSQL: a lock of its own lets one writer in at a time, words by its text search (12.9: GIN over tsvector),
/// pieces of serials by its trigrams (F.33: pg_trgm).
/// </summary>
internal sealed class PostgresDialect : IDialect
{
    /// <summary>On which other instances hear of commits.</summary>
    public const string Channel = "revtal";

    /// <summary>By which writers wait for each other; any number that no other program takes.</summary>
    public const long PenLock = 0x5265_7674_616C_01;

    /// <summary>By which starts wait for each other.</summary>
    public const long StartLock = 0x5265_7674_616C_02;

    public string Pen => $"SELECT pg_advisory_xact_lock({PenLock})";

    public string Call => $"SELECT pg_notify('{Channel}', @p0)";

    // What a machine told of itself may have a sign that no text here keeps.
    public void Add(Prepared db, DbTransaction transaction, long id, Trace trace) =>
        db.Command(
                """INSERT INTO traces ("Id", "Kind", "Text", "Words") VALUES (@p0, @p1, @p2, @p3)""",
                transaction,
                id,
                trace.Kind.ToString(),
                trace.Text,
                trace.Words
            )
            .ExecuteNonQuery();

    public void Unindex(Prepared db, DbTransaction transaction, long id, Trace trace) { }

    public void Unindex(Prepared db, DbTransaction transaction) { }

    // The words together by the index, then one after another by the text itself.
    public int[] WithPhrase(Prepared db, IReadOnlyList<IReadOnlyList<string>> phrases, Numbers among) =>
        [
            .. phrases
                .SelectMany(p =>
                {
                    string[] words = [.. p.Select(Traces.Plain)];
                    return Orders(
                        db,
                        among,
                        """
                        array_to_tsvector(string_to_array("Words", ' ')) @@ @p2::tsquery AND ' ' || "Words" LIKE @p3
                        """,
                        string.Join(" & ", words.Select((w, i) => i < words.Length - 1 ? $"'{w}'" : $"'{w}':*")),
                        $"% {string.Join(' ', words)}%"
                    );
                })
                .Distinct()
                .Order(),
        ];

    public int[] WithPiece(Prepared db, string piece, Numbers among) =>
        Orders(
            db,
            among,
            """
            "Kind" IN ('Machine', 'Module', 'Drive', 'Part') AND lower("Text") LIKE @p2
            """,
            Like.Containing(piece.ToLowerInvariant())
        );

    public IReadOnlyList<string> Written(Prepared db, IReadOnlyList<string> beginnings, int most) =>
        db.All(
            """
            SELECT c FROM unnest(@p0) c
            WHERE EXISTS (SELECT 1 FROM terms t WHERE t."Term" >= c AND t."Term" < c || @p1)
            LIMIT @p2
            """,
            row => row.GetString(0),
            beginnings.ToArray(),
            TraceRows.AfterAll,
            most
        );

    // Pages have checksums of the server's own, which it proves when it reads them.
    public IReadOnlyList<string> Damage(Prepared db) => [];

    public DbTransaction Still(DbConnection connection) => connection.BeginTransaction(IsolationLevel.RepeatableRead);

    public async Task PourAsync(
        DbTransaction transaction,
        string table,
        IReadOnlyList<BackupColumn> columns,
        IAsyncEnumerable<object?[]> rows
    )
    {
        var connection = (NpgsqlConnection)transaction.Connection!;
        await using var into = await connection.BeginBinaryImportAsync(
            $"COPY \"{table}\" ({BackupTable.Listed(columns.Select(c => c.Name))}) FROM STDIN (FORMAT BINARY)"
        );
        await foreach (var row in rows)
        {
            await into.StartRowAsync();
            foreach (var value in row)
            {
                await (value is null ? into.WriteNullAsync() : into.WriteAsync(value));
            }
        }

        await into.CompleteAsync();
    }

    public void GoOn(Prepared db, DbTransaction transaction, string table, string column) =>
        db.Command(
                $"""
                SELECT setval(pg_get_serial_sequence('"{table}"', '{column}'), coalesce(max("{column}"), 0) + 1, false)
                FROM "{table}"
                """,
                transaction
            )
            .ExecuteScalar();

    private static int[] Orders(Prepared db, Numbers among, string where, params ReadOnlySpan<object?> values) =>
        [
            .. db.All(
                $"""
                SELECT DISTINCT ("Id" >> {TraceRows.Bits})::int AS number FROM traces
                WHERE "Id" > @p0 AND "Id" < @p1 AND {where} ORDER BY number
                """,
                row => row.GetInt32(0),
                [TraceRows.From(among.First), TraceRows.From(among.Last + 1), .. values]
            ),
        ];
}
