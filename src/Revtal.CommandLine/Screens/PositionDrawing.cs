using Revtal.Contracts;
using Revtal.Core.Checks;

namespace Revtal.CommandLine.Screens;

/// <summary>
/// The positions as three rows under one another: before hollow, planned hatched, after solid. What stayed is joined
/// by a line, and where planned and after disagree the slot is marked.
/// </summary>
internal static class PositionDrawing
{
    private const int Width = 14,
        Gap = 2,
        Margin = 12;

    public static void Draw(IReadOnlyList<PositionView> positions)
    {
        // As many columns as fit; more slots go below.
        var perRow = Math.Max(
            1,
            (Math.Max(60, Screen.IsTerminal ? Spectre.Console.AnsiConsole.Profile.Width : 100) - Margin) / (Width + Gap)
        );
        foreach (var chunk in positions.Chunk(perRow))
        {
            Row("", chunk, p => Center(p.Slot.Id + (p.Slot.Channel is { } c ? $" · {c}" : ""), ' '), _ => "grey");
            Row("before", chunk, p => Cell(p.Before?.Spoken, ' ', '│'), _ => "default");
            Row(
                "",
                chunk,
                p => p.Planned is { Stays: true, Module: not null } ? Center("│", ' ') : Center("", ' '),
                _ => "grey"
            );
            Row("planned", chunk, p => Cell(Planned(p), '░', '░'), _ => "teal");
            Row(
                "",
                chunk,
                p =>
                    p.After is not null && p.Planned is { Stays: true, Module: not null } && p.Match == SlotMatch.Same
                        ? Center("│", ' ')
                        : Center(IsOff(p) ? "≠" : "", ' '),
                p => IsOff(p) ? "red bold" : "grey"
            );
            Row("after", chunk, p => Cell(After(p), '█', '█'), p => IsOff(p) ? "red bold" : "default");
            Screen.Line();
        }
    }

    private static bool IsOff(PositionView p) =>
        p.Match is SlotMatch.Missing or SlotMatch.Different or SlotMatch.Unplanned;

    private static string? After(PositionView p) => p.After is { } after ? (p.Match ?? default).Spoken(after) : null;

    private static string? Planned(PositionView p) =>
        p.Planned switch
        {
            null => null,
            { Module: { } module } => module.Size.ToString(),
            { Stays: true, Before.Known: false } => "unknown",
            _ => "empty",
        };

    private static string Cell(string? label, char fill, char edge) =>
        label switch
        {
            null => Center("·", ' '),
            "empty" or "unknown" or "not seen" => '│' + Center(label, ' ', Width - 2) + '│',
            _ => edge + Center($" {label} ", fill, Width - 2) + edge,
        };

    private static string Center(string text, char fill, int width = Width)
    {
        var left = Math.Max(0, (width - text.Length) / 2);
        return new string(fill, left) + text + new string(fill, Math.Max(0, width - text.Length - left));
    }

    private static void Row(
        string name,
        IEnumerable<PositionView> chunk,
        Func<PositionView, string> cell,
        Func<PositionView, string> style
    )
    {
        var cells = chunk.Select(p => $"[{style(p)}]{Screen.Safe(cell(p))}[/]");
        Screen.Marked($"[grey]{name.PadRight(Margin)}[/]{string.Join(new string(' ', Gap), cells)}");
    }
}
