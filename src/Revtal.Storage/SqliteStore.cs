using System.Data;
using System.Data.Common;
using System.Reflection;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Revtal.Storage;

/// <summary>SQLite as the bench uses it: write-ahead log, and no commit answered before it is on disk.</summary>
public static class SqliteStore
{
    public const string FileName = "revtal.db";

    /// <summary>Points the options at the file <c>revtal.db</c> in a folder.</summary>
    public static void Use(DbContextOptionsBuilder options, string folder) =>
        options.UseSqlite(ConnectionString(folder));

    /// <summary>Opens a connection of its own to that file.</summary>
    public static DbConnection Open(string folder)
    {
        var connection = new SqliteConnection(ConnectionString(folder));
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "PRAGMA synchronous=FULL";
        command.ExecuteNonQuery();
        return connection;
    }

    /// <summary>Brings the store to this version's shape and proves that it can be read.</summary>
    public static async Task PrepareAsync(string folder)
    {
        var options = new DbContextOptionsBuilder<RevtalDb>();
        Use(options, folder);
        await using var db = new RevtalDb(options.Options);
        if (!IsCurrent(folder))
        {
            await db.Database.MigrateAsync();

            // Kept in the file from then on.
            await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode=WAL");
        }

        await db.Orders.Where(o => o.Open).OrderBy(o => o.Number).Select(o => o.Card).FirstOrDefaultAsync();
    }

    // Warming up the migrator takes longer than the rest of a start, and most starts have nothing for it to do.
    private static bool IsCurrent(string folder)
    {
        var file = Path.Combine(folder, FileName);
        if (!File.Exists(file))
        {
            return false;
        }

        using var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder { DataSource = file, Pooling = false }.ConnectionString
        );
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT count(*) FROM sqlite_master WHERE name = '__EFMigrationsHistory'";
        if (command.ExecuteScalar() is not > 0L)
        {
            return false;
        }

        command.CommandText = "SELECT MigrationId FROM __EFMigrationsHistory";
        using var rows = command.ExecuteReader();
        var applied = rows.Cast<IDataRecord>().Select(r => r.GetString(0)).ToHashSet();
        return applied.SetEquals(
            typeof(RevtalDb)
                .Assembly.GetTypes()
                .Select(t => t.GetCustomAttribute<MigrationAttribute>()?.Id)
                .OfType<string>()
        );
    }

    private static string ConnectionString(string folder) =>
        new SqliteConnectionStringBuilder
        {
            DataSource = Path.Combine(folder, FileName),
            Pooling = true,
            DefaultTimeout = 10,
        }.ConnectionString;
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
