using System.Collections.Concurrent;
using System.Data;
using System.Data.Common;
using System.Diagnostics;
using Microsoft.Data.Sqlite;
using Npgsql;

namespace Revtal.Bench;

/// <summary>
/// The floor for recording: the smallest HTTP service that may say “recorded”. One endpoint inserts one row and answers
/// its position; what waits at the same moment shares a commit that is on disk before anyone is answered.
/// </summary>
internal sealed class SmallestService : IDisposable
{
    private const int MostTogether = 128;
    private readonly ConcurrentQueue<(string Body, TaskCompletionSource<long> Answer)> queue = new();
    private readonly Lock writing = new();
    private readonly DbConnection connection;
    private readonly DbCommand insert;

    // A file, or a database of PostgreSQL.
    private SmallestService(string store)
    {
        var isServer = store.StartsWith("Host=", StringComparison.Ordinal);
        connection = isServer
            ? new NpgsqlConnection(store)
            : new SqliteConnection($"Data Source={store};Pooling=False");
        connection.Open();
        using var settings = connection.CreateCommand();
        settings.CommandText = isServer
            ? "CREATE TABLE rows(id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, body text)"
            : "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; CREATE TABLE rows(id INTEGER PRIMARY KEY, body TEXT)";
        settings.ExecuteNonQuery();
        insert = connection.CreateCommand();
        insert.CommandText = "INSERT INTO rows(body) VALUES (@body) RETURNING id";
        var body = insert.CreateParameter();
        (body.ParameterName, body.DbType) = ("@body", DbType.String);
        insert.Parameters.Add(body);
        if (isServer)
        {
            insert.Prepare();
        }
    }

    private sealed record Row(string Text);

    private sealed record Answer(long Position);

    public static async Task RunAsync(string url, string to)
    {
        using var store = new SmallestService(to);
        var builder = WebApplication.CreateSlimBuilder();
        builder.WebHost.UseUrls(url);
        builder.Logging.ClearProviders();
        await using var app = builder.Build();
        app.MapPost("/rows", async (Row row) => new Answer(await store.InsertAsync(row.Text)));
        await app.RunAsync();
    }

    public static Process Start(Uri address, string store) =>
        Process.Start(
            new ProcessStartInfo(Environment.ProcessPath!, ["smallest", address.ToString(), store])
            {
                RedirectStandardOutput = true,
            }
        )!;

    public void Dispose()
    {
        insert.Dispose();
        connection.Dispose();
    }

    private Task<long> InsertAsync(string body)
    {
        var answer = new TaskCompletionSource<long>(TaskCreationOptions.RunContinuationsAsynchronously);
        queue.Enqueue((body, answer));
        Write();
        return answer.Task;
    }

    private void Write()
    {
        if (!writing.TryEnter())
        {
            return;
        }

        try
        {
            Round();
        }
        finally
        {
            writing.Exit();
        }

        if (!queue.IsEmpty)
        {
            ThreadPool.UnsafeQueueUserWorkItem(static s => s.Write(), this, preferLocal: false);
        }
    }

    private void Round()
    {
        var together = new List<(TaskCompletionSource<long> Answer, long Position)>();
        using (var transaction = connection.BeginTransaction())
        {
            insert.Transaction = transaction;
            while (together.Count < MostTogether && queue.TryDequeue(out var next))
            {
                insert.Parameters[0].Value = next.Body;
                together.Add((next.Answer, (long)insert.ExecuteScalar()!));
            }

            transaction.Commit();
        }

        foreach (var (answer, position) in together)
        {
            answer.SetResult(position);
        }
    }
}
