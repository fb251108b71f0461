using System.Buffers;
using System.IO.Compression;
using System.IO.Pipelines;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text.Json;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>Reads a backup table by table, and proves each of them and the whole by its hashes on the way.</summary>
public sealed class BackupReader : IAsyncDisposable
{
    // A picture at its largest, in base 64, is far less.
    private const int LongestLine = 256 << 20;

    private readonly string name;
    private readonly PipeReader lines;
    private readonly IncrementalHash all = IncrementalHash.CreateHash(HashAlgorithmName.SHA256),
        table = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
    private long line,
        rows;
    private int tables;

    /// <param name="from">Compressed.</param>
    /// <param name="name">What the file is called, for what is said of it.</param>
    public BackupReader(Stream from, string name)
    {
        this.name = name;
        lines = PipeReader.Create(
            new GZipStream(from, CompressionMode.Decompress, leaveOpen: true),
            new StreamPipeReaderOptions(bufferSize: 128 << 10)
        );
    }

    /// <summary>Rows read so far.</summary>
    public long Rows => rows;

    /// <summary>What its last line says; null before it was read.</summary>
    public BackupEnd? End { get; private set; }

    /// <exception cref="StoreException">It is no backup, or one that only a newer Revtal reads.</exception>
    public async Task<BackupHead> HeadAsync(CancellationToken cancel = default)
    {
        try
        {
            var head = Parse<BackupHead>(Counted(await NeedAsync(cancel)));
            return head.Format == BackupHead.Known
                ? head
                : throw new StoreException($"{name} is a backup of a newer Revtal. Restore it with that one.");
        }
        catch (StoreException e) when (e.InnerException is InvalidDataException or JsonException)
        {
            throw new StoreException($"{name} is no backup of Revtal.", e.InnerException);
        }
    }

    /// <summary>The next table; null at the end, once all is proved. Its rows are read to their end first.</summary>
    /// <exception cref="StoreException">It is damaged, cut off or changed.</exception>
    internal async Task<BackupTableLine?> NextAsync(CancellationToken cancel)
    {
        var next = await NeedAsync(cancel);
        if (next.AsSpan().StartsWith("{\"table\":"u8))
        {
            tables++;
            table.GetHashAndReset();
            return Parse<BackupTableLine>(Counted(next)) is { Table: not null, Columns: not null } named
                ? named
                : throw Damaged("no table is named");
        }

        var end = Parse<BackupEnd>(next);
        if (end != new BackupEnd(tables, rows, Convert.ToHexStringLower(all.GetCurrentHash())))
        {
            throw Damaged("what its last line says is not what stands before it");
        }

        if (await LineAsync(cancel) is not null)
        {
            throw Damaged("something follows its end");
        }

        End = end;
        return null;
    }

    /// <summary>The rows of the table whose line was read last.</summary>
    /// <exception cref="StoreException">They are damaged, cut off or changed.</exception>
    internal async IAsyncEnumerable<JsonElement> RowsAsync([EnumeratorCancellation] CancellationToken cancel = default)
    {
        for (var own = 0L; ; own++, rows++)
        {
            var next = await NeedAsync(cancel);
            if (next[0] == '[')
            {
                yield return Parse<JsonElement>(Counted(next));
                continue;
            }

            var proof = new BackupTableEnd(own, Convert.ToHexStringLower(table.GetCurrentHash()));
            if (Parse<BackupTableEnd>(Counted(next)) != proof)
            {
                throw Damaged("the table that ends here is not as it was written");
            }

            yield break;
        }
    }

    internal StoreException Damaged(string why, Exception? inner = null) =>
        new($"{name} is damaged at line {line:N0}: {why}. Take another backup.", inner);

    public async ValueTask DisposeAsync()
    {
        await lines.CompleteAsync();
        all.Dispose();
        table.Dispose();
    }

    private T Parse<T>(byte[] json)
    {
        try
        {
            return JsonSerializer.Deserialize<T>(json, RevtalJson.Options) ?? throw Damaged("nothing stands there");
        }
        catch (JsonException e)
        {
            throw Damaged("it is no JSON", e);
        }
    }

    // Into both hashes, by which what comes after it is proved.
    private byte[] Counted(byte[] whole)
    {
        all.AppendData(whole);
        table.AppendData(whole);
        return whole;
    }

    private async Task<byte[]> NeedAsync(CancellationToken cancel) =>
        await LineAsync(cancel) ?? throw new StoreException($"{name} was cut off after line {line:N0}. Take another.");

    // Null at the end.
    private async Task<byte[]?> LineAsync(CancellationToken cancel)
    {
        try
        {
            while (true)
            {
                var read = await lines.ReadAsync(cancel);
                if (read.Buffer.PositionOf((byte)'\n') is { } end)
                {
                    var whole = read.Buffer.Slice(0, read.Buffer.GetPosition(1, end)).ToArray();
                    lines.AdvanceTo(read.Buffer.GetPosition(1, end));
                    line++;
                    return whole;
                }

                var (left, isEnd) = (read.Buffer.Length, read.IsCompleted);
                lines.AdvanceTo(read.Buffer.Start, read.Buffer.End);
                if (isEnd)
                {
                    return left == 0 ? null : throw Damaged("its last line has no end");
                }

                if (left > LongestLine)
                {
                    throw Damaged("a line has no end");
                }
            }
        }
        catch (InvalidDataException e)
        {
            throw Damaged("it cannot be unpacked", e);
        }
    }
}
