using System.CommandLine.Parsing;
using System.Text.Json;

namespace Revtal.CommandLine;

/// <summary>What was typed wrongly, in people's words: no type of the program's is named.</summary>
internal static class UsageErrors
{
    /// <summary>One sentence.</summary>
    public static string Sentence(ParseError error)
    {
        var (name, type) = error.SymbolResult switch
        {
            ArgumentResult a => (a.Argument.Name, a.Argument.ValueType),
            OptionResult o => (o.Option.Name, o.Option.ValueType),
            _ => ("", null),
        };
        var typed = error.SymbolResult?.Tokens is [.., var last] ? last.Value : null;
        return
            type is not null && typed is not null && error.Message.Contains("expected type", StringComparison.Ordinal)
            ? $"“{typed}” is no {name.TrimStart('-')}: write {Wanted(Nullable.GetUnderlyingType(type) ?? type)}."
            : error.Message.ReplaceLineEndings(" ").Replace("\t", "", StringComparison.Ordinal);
    }

    private static string Wanted(Type type) =>
        type switch
        {
            { IsEnum: true } =>
                $"one of {string.Join(", ", Enum.GetNames(type).Select(JsonNamingPolicy.KebabCaseLower.ConvertName))}",
            _ when type == typeof(int) || type == typeof(long) => "a whole number, like 104",
            _ when type == typeof(decimal) || type == typeof(double) => "a number, like 12.50",
            _ when type == typeof(DateOnly) => "a day, like 2026-03-02",
            _ => "it as the help shows",
        };
}
