namespace Revtal.Storage;

/// <summary>Patterns of SQL's LIKE for what people type.</summary>
internal static class Like
{
    public const string Escape = "\\";

    /// <summary>Finds the text anywhere; a percent sign or an underscore in it means itself.</summary>
    public static string Containing(string text) =>
        $"%{text.Trim().Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal)}%";
}
