using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using Revtal.Core;
using Revtal.Core.Checks;
using Revtal.Core.Orders;

namespace Revtal.Documents;

/// <summary>One line of a batch's closing list.</summary>
/// <param name="Before">Memory in bytes; null where it was not measured.</param>
/// <param name="Total">Agreed, with tax; null before that.</param>
public sealed record BatchLine(
    int Order,
    string? Serial,
    string Stage,
    long? Before,
    long? After,
    Verdict? Verdict,
    string Says,
    string Fitted,
    int? Minutes,
    decimal? Total
);

/// <summary>The machines of a batch as a list: what is scanned at take-in, and what is handed out at the end.</summary>
public static class BatchTable
{
    private static readonly string[] Columns = ["serial", "build", "accessories", "condition"];

    /// <summary>
    /// Reads machines: one a line, its serial first, as a scanner types them; or a CSV whose first line names columns,
    /// one of them <c>serial</c>. Empty lines are passed over.
    /// </summary>
    /// <exception cref="RefusedException">A column is not known, or a line cannot be read.</exception>
    public static IReadOnlyList<BatchMachine> Read(string text)
    {
        using var csv = new CsvReader(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                HasHeaderRecord = false,
                TrimOptions = TrimOptions.Trim,
                BadDataFound = null,
                MissingFieldFound = null,
                DetectDelimiter = true,
                DetectDelimiterValues = [",", ";", "\t"],
            }
        );
        string[]? columns = null;
        var machines = new List<BatchMachine>();
        try
        {
            while (csv.Read())
            {
                var fields = csv.Parser.Record ?? [];
                if (columns is null)
                {
                    columns = Named(fields);
                    if (columns is not null)
                    {
                        continue;
                    }

                    columns = ["serial"];
                }

                if (fields.Any(f => f.Length > 0))
                {
                    machines.Add(new(Field("serial") ?? "", Field("build"), Field("accessories"), Field("condition")));
                }

                string? Field(string name) =>
                    Array.IndexOf(columns, name) is >= 0 and var i && i < fields.Length && fields[i].Length > 0
                        ? Csv.Unescaped(fields[i])
                        : null;
            }
        }
        catch (CsvHelperException e)
        {
            throw RefusedException.Invalid(
                "csv-unreadable",
                $"Line {e.Context?.Parser?.RawRow ?? 1} of the list cannot be read. Write one serial a line."
            );
        }

        return machines;
    }

    // A first line that names no serial is a machine already.
    private static string[]? Named(string[] fields)
    {
        string[] columns = [.. fields.Select(f => f.ToLowerInvariant())];
        if (!columns.Contains("serial"))
        {
            return null;
        }

        return columns.Except(Columns).ToArray() is [] && columns.Distinct().Count() == columns.Length
            ? columns
            : throw RefusedException.Invalid(
                "csv-columns",
                $"The columns are {string.Join(", ", Columns)}, each once; here: {string.Join(", ", columns.Take(20))}."
            );
    }

    /// <summary>What became of each machine, as CSV.</summary>
    public static byte[] Write(IEnumerable<BatchLine> lines) =>
        Csv.Write(
            [
                "order",
                "serial",
                "stage",
                "memory before",
                "memory after",
                "verdict",
                "says",
                "fitted",
                "minutes",
                "total",
            ],
            lines.Select(l =>
                new object?[]
                {
                    l.Order,
                    l.Serial,
                    l.Stage,
                    l.Before,
                    l.After,
                    l.Verdict is { } v ? v.Spoken() : null,
                    l.Says,
                    l.Fitted,
                    l.Minutes,
                    l.Total,
                }
            )
        );
}
