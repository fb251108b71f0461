using System.Globalization;
using CsvHelper.Configuration;

namespace Revtal.Storage;

/// <summary>
/// The same as a backup in another form, for other programs: a ZIP of one CSV (RFC 4180) for each table, as
/// <c>docs/backup-format.md</c> has it.
/// </summary>
internal static class TablesFormat
{
    public const string Known = "revtal-tables/1";

    /// <summary>What it is, first.</summary>
    public const string Head = "shop.json";

    /// <summary>What proves it, last.</summary>
    public const string Proof = "proof.json";

    public static readonly CsvConfiguration Csv = new(CultureInfo.InvariantCulture)
    {
        HasHeaderRecord = false,
        IgnoreBlankLines = false,
        // Texts may have any sign; those that would end a field stand in quotes.
        DetectColumnCountChanges = true,
    };

    public static string FileOf(string table) => $"{table}.csv";
}

/// <summary>SHA-256 of each table's file, in hex, and how many rows they have.</summary>
internal sealed record TablesProof(long Rows, IReadOnlyDictionary<string, string> Sha256);
