using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql;

namespace Revtal.Storage;

/// <summary>A shop in a database of its own on a PostgreSQL server, for any number of instances.</summary>
public sealed class PostgresEngine : IStoreEngine
{
    // Enough for two processors' worth of requests at once; three instances are far from a server's usual hundred.
    private const int MostConnections = 24,
        MostPrepared = 200;

    // Seconds. Whoever waits is told so rather than kept.
    private const int Reaches = 5,
        Answers = 30;

    // A server that was not the one that writes is asked again after so long.
    private const int AsksAgain = 2;

    private readonly NpgsqlDataSource source;
    private readonly NpgsqlConnectionStringBuilder settings;

    /// <param name="connection">As Npgsql writes it: <c>Host=db;Database=revtal;Username=revtal</c>.</param>
    /// <exception cref="StoreException">It is not.</exception>
    public PostgresEngine(string connection)
    {
        settings = Read(connection);
        var builder = new NpgsqlDataSourceBuilder(settings.ConnectionString);
        // Of several servers the one that writes now, whichever that is.
        source = settings.Host!.Contains(',', StringComparison.Ordinal)
            ? builder.BuildMultiHost().WithTargetSession(TargetSessionAttributes.Primary)
            : builder.Build();
        Databases = new Databases<PostgresDb>(o => o.UseNpgsql(source));
        Connections = new Connections(source.OpenConnection, new PostgresDialect(), keeps: false);
    }

    public string Place => $"data in {settings.Database} on {Servers}";

    private string Servers => settings.Host!.Contains(':') ? settings.Host : $"{settings.Host}:{settings.Port}";

    public string? Folder => null;

    public IDbContextFactory<RevtalDb> Databases { get; }

    public Connections Connections { get; }

    public bool IsShared => true;

    public long? Room => null;

    /// <summary>One start at a time: who comes second finds it done.</summary>
    public async Task PrepareAsync()
    {
        try
        {
            await using var held = await source.OpenConnectionAsync();
            // However long the first takes over a large shop.
            await DoAsync(held, $"SELECT pg_advisory_lock({PostgresDialect.StartLock})", timeout: 0);
            try
            {
                if (!await IsCurrentAsync())
                {
                    await MigrateAsync();
                }
            }
            finally
            {
                await DoAsync(held, $"SELECT pg_advisory_unlock({PostgresDialect.StartLock})");
            }
        }
        catch (NpgsqlException e)
        {
            throw new StoreException($"{Place}: {StoreException.Of(e)!.Message}", e);
        }
    }

    /// <summary>A connection that only listens for other instances.</summary>
    internal async Task<NpgsqlConnection> ListenAsync(CancellationToken cancel)
    {
        var ear = await source.OpenConnectionAsync(cancel);
        await DoAsync(ear, $"LISTEN {PostgresDialect.Channel}", cancel: cancel);
        return ear;
    }

    public void Dispose()
    {
        Connections.Dispose();
        source.Dispose();
    }

    private static NpgsqlConnectionStringBuilder Read(string connection)
    {
        try
        {
            var given = new NpgsqlConnectionStringBuilder(connection);
            if (given.Host is null or "" || given.Database is null or "")
            {
                throw new ArgumentException("it names no Host or no Database");
            }

            return new NpgsqlConnectionStringBuilder(connection)
            {
                ApplicationName = Given("Application Name") ?? "revtald",
                MaxPoolSize = Given("Maximum Pool Size") is null ? MostConnections : given.MaxPoolSize,
                Timeout = Given("Timeout") is null ? Reaches : given.Timeout,
                CommandTimeout = Given("Command Timeout") is null ? Answers : given.CommandTimeout,
                // The few texts that every request sends are planned once a connection.
                MaxAutoPrepare = MostPrepared,
                AutoPrepareMinUsages = 2,
                // Nothing is set on a connection that the next one at it would mind.
                NoResetOnClose = true,
                // A server that has gone without a word is missed.
                KeepAlive = 10,
                HostRecheckSeconds = AsksAgain,
            };

            string? Given(string key) =>
                given.ContainsKey(key) && given.TryGetValue(key, out var v) ? v?.ToString() : null;
        }
        catch (Exception e) when (e is ArgumentException or FormatException)
        {
            throw new StoreException(
                $"--store cannot be read: {e.Message}. Write it like Host=127.0.0.1;Database=revtal;Username=revtal.",
                e
            );
        }
    }

    private async Task MigrateAsync()
    {
        await using var db = Databases.CreateDbContext();
        await db.Database.MigrateAsync();
        await PartStore.DescribeAsync(db);
        using var own = Connections.Open();
        ChainRows.Fill(own);
    }

    private async Task<bool> IsCurrentAsync()
    {
        await using var db = Databases.CreateDbContext();
        var tables = await db
            .Database.SqlQueryRaw<string>(
                "SELECT tablename::text AS \"Value\" FROM pg_tables WHERE schemaname = current_schema()"
            )
            .ToListAsync();
        if (tables.Count == 0)
        {
            return false;
        }

        if (!tables.Contains(HistoryRepository.DefaultTableName))
        {
            throw new StoreException(
                $"{settings.Database} is a database of another program. Name another one with --store."
            );
        }

        var applied = (await db.Database.GetAppliedMigrationsAsync()).ToHashSet();
        var known = db.Database.GetMigrations().ToHashSet();
        return applied.IsSubsetOf(known)
            ? applied.Count == known.Count
            : throw new StoreException(
                $"{settings.Database} was written by a newer Revtal. Start that one, or a newer one."
            );
    }

    // Seconds; 0 for any.
    private static async Task DoAsync(
        NpgsqlConnection connection,
        string sql,
        int timeout = Answers,
        CancellationToken cancel = default
    )
    {
        await using var command = new NpgsqlCommand(sql, connection) { CommandTimeout = timeout };
        await command.ExecuteNonQueryAsync(cancel);
    }
}
