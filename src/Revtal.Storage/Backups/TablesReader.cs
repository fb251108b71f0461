using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using CsvHelper;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>Makes a backup of tables again, so that there is one way in.</summary>
public static class TablesReader
{
    private const int SentAtOnce = 128 << 10;

    /// <summary>Whether a file is a ZIP (APPNOTE 4.3.7): no backup, but it may be tables.</summary>
    public static bool IsZip(Stream file)
    {
        var first = new byte[4];
        var read = file.ReadAtLeast(first, first.Length, throwOnEndOfStream: false);
        file.Position = 0;
        return read == first.Length && first.AsSpan().SequenceEqual("PK\u0003\u0004"u8);
    }

    /// <param name="from">A ZIP, of which any place can be read.</param>
    /// <param name="name">What the file is called.</param>
    /// <param name="to">Where the backup is written.</param>
    /// <exception cref="StoreException">They are no tables of a shop, damaged, cut off or changed.</exception>
    public static async Task ConvertAsync(Stream from, string name, Stream to, CancellationToken cancel = default)
    {
        try
        {
            await using var zip = await ZipArchive.CreateAsync(
                from,
                ZipArchiveMode.Read,
                leaveOpen: true,
                null,
                cancel
            );
            await ConvertAsync(zip, name, to, cancel);
        }
        catch (Exception e)
            when (e
                    is InvalidDataException
                        or JsonException
                        or CsvHelperException
                        or FormatException
                        or OverflowException
                        or DecoderFallbackException
            )
        {
            throw new StoreException($"{name} is damaged: {e.Message} Take it out again.", e);
        }
    }

    private static async Task ConvertAsync(ZipArchive zip, string name, Stream to, CancellationToken cancel)
    {
        var head = await ReadAsync<BackupHead>(zip, TablesFormat.Head, cancel);
        if (head.Format != TablesFormat.Known)
        {
            throw new StoreException($"{name} has tables of a newer Revtal. Restore it with that one.");
        }

        var proof = await ReadAsync<TablesProof>(zip, TablesFormat.Proof, cancel);
        var tables = BackupTables.Known();
        if (proof.Sha256.Keys.Except(tables.Select(t => t.Name)).FirstOrDefault() is { } strange)
        {
            throw new StoreException(
                $"{name} has something that this Revtal does not know ({strange}): a newer one made it. Restore it "
                    + "with that one."
            );
        }

        await using var gzip = new GZipStream(to, CompressionLevel.Fastest, leaveOpen: true);
        using var lines = new BackupLines(gzip);
        lines.Add(head with { Format = BackupHead.Known });
        var (rows, some) = (0L, tables.Where(t => proof.Sha256.ContainsKey(t.Name)).ToArray());
        foreach (var table in some)
        {
            rows += await ConvertAsync(zip, table, proof.Sha256[table.Name], name, lines, cancel);
        }

        if (rows != proof.Rows)
        {
            throw new InvalidDataException($"it has {rows:N0} rows of {proof.Rows:N0}.");
        }

        lines.Add(new BackupEnd(some.Length, rows, lines.HashOfAll()));
        await lines.SendAsync(cancel);
    }

    private static async Task<long> ConvertAsync(
        ZipArchive zip,
        BackupTable table,
        string proof,
        string name,
        BackupLines lines,
        CancellationToken cancel
    )
    {
        await using var entry = await Need(zip, TablesFormat.FileOf(table.Name)).OpenAsync(cancel);
        using var hash = SHA256.Create();
        await using var hashed = new CryptoStream(entry, hash, CryptoStreamMode.Read);
        using var text = new StreamReader(hashed, new UTF8Encoding(false, throwOnInvalidBytes: true));
        using var csv = new CsvParser(text, TablesFormat.Csv);
        await csv.ReadAsync();
        BackupColumn[] columns =
        [
            .. (csv.Record ?? []).Select(c =>
                table.Columns.FirstOrDefault(k => k.Name == c)
                ?? throw new StoreException(
                    $"{name} has something that this Revtal does not know ({table.Name}, {c}): a newer one made it. "
                        + "Restore it with that one."
                )
            ),
        ];
        lines.Begin();
        lines.Add(new BackupTableLine(table.Name, [.. columns.Select(c => c.Name)]));
        var count = 0L;
        for (; await csv.ReadAsync(); count++)
        {
            var fields = csv.Record!;
            if (fields.Length != columns.Length)
            {
                throw new InvalidDataException($"row {count + 1:N0} of {table.Name} has another number of fields.");
            }

            lines.Add(json =>
            {
                json.WriteStartArray();
                for (var i = 0; i < columns.Length; i++)
                {
                    columns[i].Write(json, fields[i]);
                }

                json.WriteEndArray();
            });
            if (lines.Waiting >= SentAtOnce)
            {
                await lines.SendAsync(cancel);
            }
        }

        if (Convert.ToHexStringLower(hash.Hash!) != proof)
        {
            throw new InvalidDataException($"{table.Name} is not as it was written.");
        }

        lines.Add(new BackupTableEnd(count, lines.HashOfTable()));
        return count;
    }

    private static ZipArchiveEntry Need(ZipArchive zip, string file) =>
        zip.GetEntry(file) ?? throw new InvalidDataException($"it has no {file}.");

    private static async Task<T> ReadAsync<T>(ZipArchive zip, string file, CancellationToken cancel)
    {
        await using var entry = await Need(zip, file).OpenAsync(cancel);
        return await JsonSerializer.DeserializeAsync<T>(entry, RevtalJson.Options, cancel)
            ?? throw new InvalidDataException($"{file} says nothing.");
    }
}
