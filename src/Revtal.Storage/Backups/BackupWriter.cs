using System.Data.Common;
using System.IO.Compression;

namespace Revtal.Storage;

/// <summary>
/// Writes the whole store out as it stands at one moment, beside whoever goes on writing; nothing of it is held in
/// memory but a few rows.
/// </summary>
public sealed class BackupWriter(IStoreEngine engine)
{
    private const int SentAtOnce = 128 << 10;

    /// <param name="shop">What the shop is called.</param>
    /// <param name="made">Now.</param>
    /// <param name="version">Of this program.</param>
    /// <param name="progress">How many rows are written, from time to time.</param>
    /// <returns>What stands at its end.</returns>
    /// <exception cref="DbException">The store cannot be read.</exception>
    /// <exception cref="IOException">It cannot be written there.</exception>
    public async Task<BackupEnd> WriteAsync(
        Stream to,
        string shop,
        DateTimeOffset made,
        string version,
        Action<long>? progress = null,
        CancellationToken cancel = default
    )
    {
        var tables = BackupTables.Of(engine.Databases);
        using var db = engine.Connections.Open();
        using var still = db.Still();
        await using var gzip = new GZipStream(to, CompressionLevel.Fastest, leaveOpen: true);
        using var lines = new BackupLines(gzip);
        var head = new BackupHead(BackupHead.Known, shop, made, version, Journal.LastPosition(db, still));
        lines.Add(head);
        var rows = 0L;
        foreach (var table in tables)
        {
            var before = rows;
            rows += await WriteAsync(table, db, still, lines, own => progress?.Invoke(before + own), cancel);
        }

        var end = new BackupEnd(tables.Count, rows, lines.HashOfAll());
        lines.Add(end);
        await lines.SendAsync(cancel);
        return end;
    }

    private static async Task<long> WriteAsync(
        BackupTable table,
        Prepared db,
        DbTransaction still,
        BackupLines lines,
        Action<long> progress,
        CancellationToken cancel
    )
    {
        lines.Begin();
        lines.Add(new BackupTableLine(table.Name, [.. table.Columns.Select(c => c.Name)]));
        var count = 0L;
        await using var rows = await db.Command(table.Select, still).ExecuteReaderAsync(cancel);
        for (; await rows.ReadAsync(cancel); count++)
        {
            lines.Add(json =>
            {
                json.WriteStartArray();
                for (var i = 0; i < table.Columns.Count; i++)
                {
                    table.Columns[i].Write(json, rows, i);
                }

                json.WriteEndArray();
            });
            if (lines.Waiting >= SentAtOnce)
            {
                await lines.SendAsync(cancel);
                progress(count);
            }
        }

        lines.Add(new BackupTableEnd(count, lines.HashOfTable()));
        return count;
    }
}
