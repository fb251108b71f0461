using System.Buffers;
using System.Data.Common;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Encodings.Web;
using System.Text.Json;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>
/// Writes the whole store out as it stands at one moment, beside whoever goes on writing; nothing of it is held in
/// memory but a few rows.
/// </summary>
public sealed class BackupWriter(IStoreEngine engine)
{
    private const int SentAtOnce = 128 << 10;

    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

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
        using var lines = new Lines(gzip);
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
        Lines lines,
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

    // Each line goes into both hashes as it is made.
    private sealed class Lines(Stream to) : IDisposable
    {
        private readonly ArrayBufferWriter<byte> buffer = new();
        private readonly IncrementalHash all = IncrementalHash.CreateHash(HashAlgorithmName.SHA256),
            table = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);

        public int Waiting => buffer.WrittenCount;

        public void Begin() => table.GetHashAndReset();

        public string HashOfTable() => Convert.ToHexStringLower(table.GetCurrentHash());

        public string HashOfAll() => Convert.ToHexStringLower(all.GetCurrentHash());

        public void Add<T>(T line) => Add(json => JsonSerializer.Serialize(json, line, RevtalJson.Options));

        public void Add(Action<Utf8JsonWriter> write)
        {
            var from = buffer.WrittenCount;
            using (var json = new Utf8JsonWriter(buffer, Plain))
            {
                write(json);
            }

            buffer.Write("\n"u8);
            var line = buffer.WrittenSpan[from..];
            all.AppendData(line);
            table.AppendData(line);
        }

        public async Task SendAsync(CancellationToken cancel)
        {
            await to.WriteAsync(buffer.WrittenMemory, cancel);
            buffer.ResetWrittenCount();
        }

        public void Dispose()
        {
            all.Dispose();
            table.Dispose();
        }
    }
}
