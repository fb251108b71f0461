using System.Data.Common;
using Microsoft.Data.Sqlite;
using Npgsql;

namespace Revtal.Storage;

/// <summary>The store cannot be used; the message says what it is, and what to do.</summary>
public sealed class StoreException(string message, Exception? inner = null) : Exception(message, inner)
{
    /// <summary>What the store's own failure means, in words; null for what is none.</summary>
    public static StoreException? Of(Exception? e) =>
        e switch
        {
            null => null,
            StoreException known => known,
            SqliteException s => new StoreException(Meaning(s.SqliteErrorCode), s),
            PostgresException p => new StoreException(Meaning(p.SqlState), p),
            NpgsqlException n => new StoreException(Lost, n),
            _ => Of(e.InnerException),
        };

    /// <summary>Whether there is no room left.</summary>
    public bool IsFull =>
        InnerException
            is SqliteException { SqliteErrorCode: Full }
                or PostgresException { SqlState: PostgresErrorCodes.DiskFull };

    /// <summary>Whether a unique key was violated: the one failure that means that somebody else was first.</summary>
    public static bool IsTaken(Exception e) =>
        (e as DbException ?? e.InnerException as DbException) switch
        {
            SqliteException s => s.SqliteExtendedErrorCode is SqliteUnique or SqlitePrimaryKey,
            PostgresException p => p.SqlState == PostgresErrorCodes.UniqueViolation,
            _ => false,
        };

    // SQLITE_CONSTRAINT_UNIQUE and SQLITE_CONSTRAINT_PRIMARYKEY, https://sqlite.org/rescode.html
    private const int SqliteUnique = 2067,
        SqlitePrimaryKey = 1555;

    // A commit may have reached the server before it was lost: nothing is said of that.
    private const string Lost =
        "The database does not answer now. Ask again in a moment; with the same key nothing is recorded twice.";

    // Result codes of https://sqlite.org/rescode.html
    private const int Busy = 5,
        Locked = 6,
        ReadOnly = 8,
        InputOutput = 10,
        Corrupt = 11,
        Full = 13,
        CannotOpen = 14,
        NotADatabase = 26;

    // https://www.postgresql.org/docs/current/errcodes-appendix.html
    private static string Meaning(string state) =>
        state switch
        {
            PostgresErrorCodes.DiskFull => "The database's disk is full: nothing was recorded. Make room, then try "
                + "again.",
            PostgresErrorCodes.ReadOnlySqlTransaction => "The database takes nothing: it is a standby, or read-only. "
                + "Point --store at the one that writes.",
            PostgresErrorCodes.InvalidPassword or PostgresErrorCodes.InvalidAuthorizationSpecification =>
                "The database does not let the service in. Look at Username and Password of --store.",
            PostgresErrorCodes.InvalidCatalogName => "There is no such database. Make it, or name another with "
                + "--store.",
            PostgresErrorCodes.InsufficientPrivilege => "The service's user may not do that in the database. Make it "
                + "the database's owner.",
            PostgresErrorCodes.TooManyConnections => "The database has no connection free. Try again in a moment.",
            PostgresErrorCodes.CharacterNotInRepertoire =>
                "A text holds the sign U+0000, which PostgreSQL does not keep. "
                    + "Such a shop stays in a folder (--data).",
            PostgresErrorCodes.QueryCanceled => "The database took too long and was stopped. Try again.",
            PostgresErrorCodes.DataCorrupted or PostgresErrorCodes.IndexCorrupted =>
                "The database is damaged. Stop the service and restore a backup elsewhere: revtald --restore FILE.",
            _ when state.StartsWith("57P", StringComparison.Ordinal) => Lost,
            _ => $"The database failed ({state}). Look in its log for the reason.",
        };

    private static string Meaning(int code) =>
        code switch
        {
            Full => "The disk is full: nothing was recorded. Make room, then try again.",
            ReadOnly =>
                "The store cannot be written to. Give the service's user the right to write in the data folder.",
            Corrupt => "The store is damaged. Stop the service and restore a backup elsewhere: revtald --restore FILE.",
            NotADatabase =>
                "The file revtal.db is no database. Restore a backup into another folder: revtald --restore FILE.",
            CannotOpen => "The store cannot be opened. Look whether the data folder is there and may be read.",
            InputOutput => "The disk failed while the store was read or written. Look at the disk before going on.",
            Busy or Locked => "Another program holds the store. End it, then try again.",
            _ => "The store failed. Look in the service's log for the reason.",
        };
}
