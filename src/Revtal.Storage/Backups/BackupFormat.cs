namespace Revtal.Storage;

/// <summary>As what the whole store is taken away.</summary>
public enum BackupForm
{
    /// <summary>Gzip over JSON Lines.</summary>
    Lines,

    /// <summary>A ZIP of one CSV for each table, for other programs.</summary>
    Tables,
}

/// <summary>
/// What a backup begins with. The whole of it is gzip (RFC 1952) over JSON Lines, as <c>docs/backup-format.md</c> has
/// it: this line; for each table a line that names it, one for each row and one that proves them; and a last line that
/// proves all before it.
/// </summary>
/// <param name="Format">Always <see cref="Known"/>.</param>
/// <param name="Shop">What the shop was called.</param>
/// <param name="Made">UTC.</param>
/// <param name="Revtal">The version that wrote it.</param>
/// <param name="Position">The last entry of the journal that it has.</param>
public sealed record BackupHead(string Format, string Shop, DateTimeOffset Made, string Revtal, long Position)
{
    public const string Known = "revtal-backup/1";
}

/// <summary>Names a table; its rows follow, each an array in this order.</summary>
internal sealed record BackupTableLine(string Table, IReadOnlyList<string> Columns);

/// <summary>Ends a table: how many rows, and SHA-256 over its lines from the one that names it, in hex.</summary>
internal sealed record BackupTableEnd(long Rows, string Sha256);

/// <summary>Ends a backup: how much it has, and SHA-256 over every line before this one, in hex.</summary>
public sealed record BackupEnd(int Tables, long Rows, string Sha256);
