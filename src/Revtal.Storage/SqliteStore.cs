using System.Data.Common;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Revtal.Storage;

/// <summary>SQLite as the bench uses it: write-ahead log, and no commit answered before it is on disk.</summary>
public static class SqliteStore
{
    public const string FileName = "revtal.db";

    /// <summary>Points the options at the file <c>revtal.db</c> in a folder.</summary>
    public static void Use(DbContextOptionsBuilder options, string folder)
    {
        var connection = new SqliteConnectionStringBuilder { DataSource = Path.Combine(folder, FileName), Pooling = true, DefaultTimeout = 10 };
        options.UseSqlite(connection.ConnectionString).AddInterceptors(Pragmas.Instance);
    }

    // Both settings are per connection, so every opened one is told.
    private sealed class Pragmas : DbConnectionInterceptor
    {
        public static readonly Pragmas Instance = new();

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData) => Tell(connection);

        public override Task ConnectionOpenedAsync(DbConnection connection, ConnectionEndEventData eventData, CancellationToken cancellationToken = default)
        {
            Tell(connection);
            return Task.CompletedTask;
        }

        private static void Tell(DbConnection connection)
        {
            using var command = connection.CreateCommand();
            command.CommandText = "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;";
            command.ExecuteNonQuery();
        }
    }
}

/// <summary>Lets the migration tool build the model without the service.</summary>
internal sealed class DesignTimeFactory : IDesignTimeDbContextFactory<RevtalDb>
{
    public RevtalDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<RevtalDb>();
        SqliteStore.Use(options, Path.GetTempPath());
        return new RevtalDb(options.Options);
    }
}
