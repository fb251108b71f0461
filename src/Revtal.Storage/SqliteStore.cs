using System.Data;
using System.Data.Common;
using System.Reflection;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Revtal.Storage;

/// <summary>SQLite as the bench uses it: write-ahead log, and no commit answered before it is on disk.</summary>
public static class SqliteStore
{
    public const string FileName = "revtal.db";

    // 32 MB of log before it is copied into the file: the same few pages are written again and again, and are then
    // copied once.
    private const int PagesInLog = 8_000;

    /// <summary>Points the options at the file <c>revtal.db</c> in a folder.</summary>
    public static void Use(DbContextOptionsBuilder options, string folder) =>
        options.UseSqlite(ConnectionString(folder));

    /// <summary>Opens a connection of its own to that file.</summary>
    public static DbConnection Open(string folder)
    {
        var connection = new SqliteConnection(ConnectionString(folder));
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = $"PRAGMA synchronous=FULL; PRAGMA wal_autocheckpoint={PagesInLog}";
        command.ExecuteNonQuery();
        return connection;
    }

    /// <summary>Brings the store to this version's shape and proves that it can be read.</summary>
    /// <exception cref="StoreException">It is damaged, of another program, of a newer version, or cannot be
    /// written.</exception>
    public static async Task PrepareAsync(StoreFolder folder)
    {
        folder.Begin();
        try
        {
            if (!IsCurrent(folder.Path))
            {
                await MigrateAsync(folder.Path);
            }

            using var connection = Open(folder.Path);
            using var read = connection.CreateCommand();
            read.CommandText = """SELECT "Card" FROM orders WHERE "Open" LIMIT 1""";
            read.ExecuteScalar();
            read.CommandText = """SELECT coalesce(max("Position"), 0) FROM entries""";
            folder.NeedMarked((long)read.ExecuteScalar()!);
        }
        catch (SqliteException e)
        {
            throw new StoreException($"{Path.Combine(folder.Path, FileName)}: {StoreException.Of(e)!.Message}", e);
        }

        folder.Settle();
    }

    private static async Task MigrateAsync(string folder)
    {
        var options = new DbContextOptionsBuilder<RevtalDb>();
        Use(options, folder);
        await using var db = new RevtalDb(options.Options);
        await db.Database.MigrateAsync();
        await PartStore.DescribeAsync(db);
        using (var own = new Prepared(Open(folder), new SqliteDialect()))
        {
            ChainRows.Fill(own);
        }

        // Kept in the file from then on.
        await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode=WAL");
    }

    // The entity model takes longer than the rest of a start, and most starts have nothing for it to do.
    private static bool IsCurrent(string folder)
    {
        var file = Path.Combine(folder, FileName);
        using var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder { DataSource = file, Pooling = false }.ConnectionString
        );
        connection.Open();
        var tables = Texts(connection, "SELECT name FROM sqlite_master WHERE type = 'table'");
        if (tables.Count == 0)
        {
            return false;
        }

        NeedWhole(connection, file);

        // Whoever held it was killed: the folder is in nobody's hand but ours.
        if (tables.Remove("__EFMigrationsLock"))
        {
            using var free = connection.CreateCommand();
            free.CommandText = "DELETE FROM \"__EFMigrationsLock\"";
            free.ExecuteNonQuery();
        }

        // A first start may have been killed before there was more than the lock.
        if (tables.Count == 0)
        {
            return false;
        }

        if (!tables.Contains("__EFMigrationsHistory"))
        {
            throw new StoreException($"{file} is a database of another program. Choose another folder with --data.");
        }

        var applied = Texts(connection, "SELECT MigrationId FROM __EFMigrationsHistory");
        var known = typeof(RevtalDb)
            .Assembly.GetTypes()
            .Where(t => t.GetCustomAttribute<DbContextAttribute>()?.ContextType == typeof(RevtalDb))
            .Select(t => t.GetCustomAttribute<MigrationAttribute>()?.Id)
            .OfType<string>()
            .ToHashSet();
        return applied.IsSubsetOf(known)
            ? applied.Count == known.Count && IsFilledIn(connection)
            : throw new StoreException($"{file} was written by a newer Revtal. Start that one, or a newer one.");
    }

    // A start may have been killed between the last migration and what only this program can fill in.
    private static bool IsFilledIn(SqliteConnection connection)
    {
        using var command = connection.CreateCommand();
        command.CommandText = """
            SELECT 1 WHERE EXISTS (SELECT 1 FROM part_kinds WHERE Search = '')
                OR EXISTS (SELECT 1 FROM orders WHERE Hash IS NULL)
            """;
        return command.ExecuteScalar() is null;
    }

    // A file that was cut off still opens; it fails when somebody asks for what is no longer there.
    private static void NeedWhole(SqliteConnection connection, string file)
    {
        using var command = connection.CreateCommand();
        command.CommandText =
            "SELECT (SELECT page_count FROM pragma_page_count) * (SELECT page_size FROM pragma_page_size)";
        var wanted = (long)command.ExecuteScalar()!;
        var there = new FileInfo(file).Length;
        var log = new FileInfo($"{file}-wal");
        if (there < wanted && (!log.Exists || log.Length == 0))
        {
            throw new StoreException(
                $"{file} is damaged: {wanted - there:N0} of its {wanted:N0} bytes are missing. "
                    + "Restore a backup into another folder: revtald --restore FILE."
            );
        }
    }

    private static HashSet<string> Texts(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var rows = command.ExecuteReader();
        return [.. rows.Cast<IDataRecord>().Select(r => r.GetString(0))];
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
