using System.Globalization;
using System.Text.Json;
using CsvHelper;
using CsvHelper.Configuration;
using Revtal.Core;
using Revtal.Core.Checks;

namespace Revtal.Documents;

/// <summary>
/// Scores of a benchmark from a file: CSV with the columns name, unit, value, better (higher or lower), or a JSON list
/// of the same.
/// </summary>
public static class ScoreFiles
{
    private const int MostLines = 1000;
    private static readonly string[] Columns = ["name", "unit", "value", "better"];

    /// <exception cref="RefusedException">It is neither, or a line cannot be read; the message names it.</exception>
    public static IReadOnlyList<Score> Read(string text) =>
        text.AsSpan().TrimStart() is ['[' or '{', ..] ? OfJson(text) : OfCsv(text);

    private static List<Score> OfCsv(string text)
    {
        using var csv = new CsvReader(
            new StringReader(text.TrimStart('\uFEFF')),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                PrepareHeaderForMatch = a => a.Header.Trim().ToLowerInvariant(),
                MissingFieldFound = null,
                BadDataFound = null,
                TrimOptions = TrimOptions.Trim,
            }
        );
        var scores = new List<Score>();
        if (
            !csv.Read()
            || !csv.ReadHeader()
            || csv.HeaderRecord is not { } columns
            || Columns.Except(columns.Select(c => c.Trim().ToLowerInvariant())).ToArray() is { Length: > 0 }
        )
        {
            throw RefusedException.Invalid(
                "scores-columns",
                "Scores want the columns name, unit, value and better (higher or lower)."
            );
        }

        while (csv.Read() && scores.Count < MostLines)
        {
            scores.Add(
                Line(
                    csv.Parser.Row,
                    csv.GetField("name"),
                    csv.GetField("unit"),
                    csv.GetField("value"),
                    csv.GetField("better")
                )
            );
        }

        return scores;
    }

    private static List<Score> OfJson(string text)
    {
        try
        {
            using var json = JsonDocument.Parse(text);
            return
            [
                .. json
                    .RootElement.EnumerateArray()
                    .Take(MostLines)
                    .Select(
                        (e, i) =>
                            Line(
                                i + 1,
                                Text(e, "name"),
                                Text(e, "unit"),
                                e.TryGetProperty("value", out var v) ? v.ToString() : null,
                                Text(e, "better")
                            )
                    ),
            ];
        }
        catch (Exception e) when (e is JsonException or InvalidOperationException)
        {
            throw RefusedException.Invalid(
                "scores-json",
                "Scores as JSON are a list: [{\"name\": \"Copy\", \"unit\": \"MB/s\", \"value\": 18200, \"better\": "
                    + "\"higher\"}]."
            );
        }
    }

    private static string? Text(JsonElement e, string name) => e.TryGetProperty(name, out var v) ? v.ToString() : null;

    private static Score Line(int line, string? name, string? unit, string? value, string? better) =>
        !string.IsNullOrWhiteSpace(name)
        && decimal.TryParse(
            value,
            NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
            CultureInfo.InvariantCulture,
            out var number
        )
        && better?.Trim().ToLowerInvariant() is "higher" or "lower"
            ? new Score(
                name.Trim(),
                unit?.Trim() ?? "",
                number,
                better!.Trim().Equals("higher", StringComparison.OrdinalIgnoreCase)
            )
            : throw RefusedException.Invalid(
                "score-line",
                $"Line {line} is no score: it wants a name, a number with a point, and “higher” or “lower”."
            );
}
