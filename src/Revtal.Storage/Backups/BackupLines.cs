using System.Buffers;
using System.Security.Cryptography;
using System.Text.Encodings.Web;
using System.Text.Json;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>The lines of a backup; each goes into both hashes as it is made.</summary>
internal sealed class BackupLines(Stream to) : IDisposable
{
    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    private readonly ArrayBufferWriter<byte> buffer = new();
    private readonly IncrementalHash all = IncrementalHash.CreateHash(HashAlgorithmName.SHA256),
        table = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);

    /// <summary>Bytes that were not sent yet.</summary>
    public int Waiting => buffer.WrittenCount;

    /// <summary>A table begins.</summary>
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
