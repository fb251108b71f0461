using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace Revtal.Documents;

/// <summary>Tables as CSV (RFC 4180): comma, UTF-8, the first line names the columns.</summary>
internal static class Csv
{
    public static byte[] Write(IReadOnlyList<string> columns, IEnumerable<object?[]> lines)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\n" }))
        {
            foreach (var line in lines.Prepend([.. columns]))
            {
                foreach (var value in line)
                {
                    csv.WriteField(value is int or long or decimal ? value : Escaped(value?.ToString()));
                }

                csv.NextRecord();
            }
        }

        return Encoding.UTF8.GetBytes(text.ToString());
    }

    // A table program takes what begins so for a formula; with an apostrophe before it, it is text. An apostrophe of
    // its own gets another, so that reading can take one away.
    private static bool IsFormula(string? text) => text is ['=' or '+' or '-' or '@' or '\t' or '\r' or '\'', ..];

    private static string? Escaped(string? text) => IsFormula(text) ? $"'{text}" : text;

    public static string Unescaped(string text) => text is ['\'', .. var rest] && IsFormula(rest) ? rest : text;
}
