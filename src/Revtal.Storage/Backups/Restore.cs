using System.Data.Common;
using System.Runtime.CompilerServices;
using System.Text.Json;

namespace Revtal.Storage;

/// <summary>
/// Fills an empty store from a backup, whichever engine it was made on: all of it or nothing. What is made from the
/// journal is made anew.
/// </summary>
public sealed class Restore(IStoreEngine engine)
{
    private const int WordsAtOnce = 10_000;

    // Where any of these has a row, there is a shop.
    private static readonly string[] Shop = ["entries", "people", "guides", "part_kinds", "dummies"];

    /// <param name="from">Compressed; proved before, so that nothing is begun with one that is damaged.</param>
    /// <param name="name">What the file is called.</param>
    /// <returns>What it said at its end.</returns>
    /// <exception cref="StoreException">The store has a shop already, or the backup cannot be restored; then nothing
    /// was changed.</exception>
    public async Task<BackupEnd> RunAsync(Stream from, string name, CancellationToken cancel = default)
    {
        var tables = BackupTables.Of(engine.Databases);
        await using var reader = new BackupReader(from, name);
        await reader.HeadAsync(cancel);
        using var db = engine.Connections.Open();
        using (var transaction = db.Begin())
        {
            Empty(db, transaction, tables);
            while (await reader.NextAsync(cancel) is { } line)
            {
                var (table, columns) = Known(tables, line, name);
                await db.Dialect.PourAsync(transaction, table.Name, columns, RowsAsync(reader, table, columns, cancel));
            }

            foreach (var (table, given) in tables.SelectMany(t => t.Columns.Where(c => c.IsGiven).Select(c => (t, c))))
            {
                db.Dialect.GoOn(db, transaction, table.Name, given.Name);
            }

            TraceRows.Forget(db, transaction);
            transaction.Commit();
        }

        engine.Connections.Mark(Journal.LastPosition(db, null));
        ChainRows.Fill(db);
        for (var more = true; more; )
        {
            using var transaction = db.Begin();
            more = TraceRows.ReadOn(db, transaction, WordsAtOnce);
            transaction.Commit();
        }

        return reader.End!;
    }

    private void Empty(Prepared db, DbTransaction transaction, IReadOnlyList<BackupTable> tables)
    {
        if (Shop.Any(t => db.Number($"SELECT 1 FROM {t} LIMIT 1", transaction) is not null))
        {
            throw new StoreException(
                $"There is a shop already: {engine.Place}. A backup is restored into an empty folder (--data) or an "
                    + "empty database (--store)."
            );
        }

        foreach (var table in tables)
        {
            db.Command($"DELETE FROM \"{table.Name}\"", transaction).ExecuteNonQuery();
        }
    }

    private static (BackupTable, IReadOnlyList<BackupColumn>) Known(
        IReadOnlyList<BackupTable> tables,
        BackupTableLine line,
        string name
    )
    {
        var table = tables.FirstOrDefault(t => t.Name == line.Table);
        var columns = line.Columns.Select(c => table?.Columns.FirstOrDefault(k => k.Name == c)).OfType<BackupColumn>();
        return table is not null && columns.Count() == line.Columns.Count
            ? (table, [.. columns])
            : throw new StoreException(
                $"{name} has something that this Revtal does not know ({line.Table}): a newer one made it. Restore it "
                    + "with that one."
            );
    }

    private static async IAsyncEnumerable<object?[]> RowsAsync(
        BackupReader reader,
        BackupTable table,
        IReadOnlyList<BackupColumn> columns,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        await foreach (var row in reader.RowsAsync(cancel))
        {
            yield return Values(reader, table, columns, row);
        }
    }

    private static object?[] Values(
        BackupReader reader,
        BackupTable table,
        IReadOnlyList<BackupColumn> columns,
        JsonElement row
    )
    {
        try
        {
            return row.GetArrayLength() == columns.Count
                ? [.. columns.Select((c, i) => c.Read(row[i]))]
                : throw new FormatException("it has another number of values");
        }
        catch (Exception e) when (e is InvalidOperationException or FormatException)
        {
            throw reader.Damaged($"no row of {table.Name}: {e.Message}", e);
        }
    }
}
