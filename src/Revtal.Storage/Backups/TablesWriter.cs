using System.Data.Common;
using System.IO.Compression;
using System.IO.Pipelines;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using CsvHelper;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>Writes the whole store out as tables, as it stands at one moment, beside whoever goes on writing.</summary>
public sealed class TablesWriter(IStoreEngine engine)
{
    private const int ToldEach = 10_000;

    /// <param name="shop">What the shop is called.</param>
    /// <param name="made">Now.</param>
    /// <param name="version">Of this program.</param>
    /// <param name="progress">How many rows are written, from time to time.</param>
    /// <returns>How many tables and rows, and SHA-256 of what proves them, in hex.</returns>
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
        // What packs writes its last bytes of a file at once, which a connection does not take.
        var pipe = new Pipe();
        var sending = SendAsync(pipe.Reader, to, cancel);
        try
        {
            var end = await PackAsync(pipe.Writer.AsStream(leaveOpen: true), shop, made, version, progress, cancel);
            await pipe.Writer.CompleteAsync();
            return end;
        }
        catch (Exception e)
        {
            await pipe.Writer.CompleteAsync(e);
            throw;
        }
        finally
        {
            await sending;
        }
    }

    private static async Task SendAsync(PipeReader from, Stream to, CancellationToken cancel)
    {
        Exception? failed = null;
        try
        {
            await from.CopyToAsync(to, cancel);
        }
        catch (Exception e)
        {
            failed = e;
            throw;
        }
        finally
        {
            await from.CompleteAsync(failed);
        }
    }

    private async Task<BackupEnd> PackAsync(
        Stream to,
        string shop,
        DateTimeOffset made,
        string version,
        Action<long>? progress,
        CancellationToken cancel
    )
    {
        var tables = BackupTables.Of(engine.Databases);
        using var db = engine.Connections.Open();
        using var still = db.Still();
        await using var zip = await ZipArchive.CreateAsync(to, ZipArchiveMode.Create, leaveOpen: true, null, cancel);
        var head = new BackupHead(TablesFormat.Known, shop, made, version, Journal.LastPosition(db, still));
        await AddAsync(zip, TablesFormat.Head, head, cancel);
        var (rows, hashes) = (0L, new Dictionary<string, string>());
        foreach (var table in tables)
        {
            var before = rows;
            await using var entry = await zip.CreateEntry(TablesFormat.FileOf(table.Name), CompressionLevel.Fastest)
                .OpenAsync(cancel);
            using var hash = SHA256.Create();
            await using (var hashed = new CryptoStream(entry, hash, CryptoStreamMode.Write, leaveOpen: true))
            {
                rows += await WriteAsync(table, db, still, hashed, own => progress?.Invoke(before + own), cancel);
            }

            hashes[table.Name] = Convert.ToHexStringLower(hash.Hash!);
        }

        var proof = await AddAsync(zip, TablesFormat.Proof, new TablesProof(rows, hashes), cancel);
        return new BackupEnd(tables.Count, rows, Convert.ToHexStringLower(SHA256.HashData(proof)));
    }

    private static async Task<byte[]> AddAsync<T>(ZipArchive zip, string name, T what, CancellationToken cancel)
    {
        var json = JsonSerializer.SerializeToUtf8Bytes(what, RevtalJson.Options);
        await using var entry = await zip.CreateEntry(name).OpenAsync(cancel);
        await entry.WriteAsync(json, cancel);
        return json;
    }

    private static async Task<long> WriteAsync(
        BackupTable table,
        Prepared db,
        DbTransaction still,
        Stream to,
        Action<long> progress,
        CancellationToken cancel
    )
    {
        await using var text = new StreamWriter(to, new UTF8Encoding(false), leaveOpen: true);
        await using var csv = new CsvWriter(text, TablesFormat.Csv, leaveOpen: true);
        await LineAsync(table.Columns.Select(c => c.Name));
        var count = 0L;
        await using var rows = await db.Command(table.Select, still).ExecuteReaderAsync(cancel);
        for (; await rows.ReadAsync(cancel); count++)
        {
            await LineAsync(table.Columns.Select((c, i) => c.Field(rows, i)));
            if (count % ToldEach == 0)
            {
                progress(count);
            }
        }

        return count;

        async Task LineAsync(IEnumerable<string> fields)
        {
            foreach (var field in fields)
            {
                csv.WriteField(field);
            }

            await csv.NextRecordAsync();
        }
    }
}
