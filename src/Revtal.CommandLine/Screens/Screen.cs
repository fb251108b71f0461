using Revtal.Core;
using Spectre.Console;
using Spectre.Console.Rendering;

namespace Revtal.CommandLine.Screens;

/// <summary>Output: tables and colour on a terminal, tab-separated lines everywhere else.</summary>
internal static class Screen
{
    public static bool IsTerminal =>
        !Console.IsOutputRedirected || Environment.GetEnvironmentVariable("REVTAL_TERMINAL") is not null;

    /// <summary>Where output is caught but shown as a terminal would, the width is the one it is told.</summary>
    public static void Prepare()
    {
        if (
            Console.IsOutputRedirected
            && IsTerminal
            && int.TryParse(Environment.GetEnvironmentVariable("COLUMNS"), out var columns)
            && columns is >= 40 and <= 400
        )
        {
            AnsiConsole.Profile.Width = columns;
        }
    }

    public static void Complain(string message) => Console.Error.WriteLine($"revtal: {message}");

    public static void Line(string text = "") => Console.WriteLine(Plain(text));

    /// <summary>Text with Spectre's markup, shown plain where colour would not be.</summary>
    public static void Marked(string markup)
    {
        if (IsTerminal)
        {
            AnsiConsole.MarkupLine(markup);
        }
        else
        {
            Line(Markup.Remove(markup));
        }
    }

    /// <summary>Says where an address that was handed out opens nothing.</summary>
    public static void Reach(bool hereOnly)
    {
        if (hereOnly)
        {
            Marked(
                "[yellow]This address opens on the service's own machine alone: name the service as the network does, "
                    + "or start it with --shop:url.[/]"
            );
        }
    }

    public static void Write(IRenderable renderable) => AnsiConsole.Write(renderable);

    public static void Table(string[] headers, IEnumerable<string[]> rows)
    {
        var all = rows.ToArray();
        if (!IsTerminal)
        {
            Line(string.Join('\t', headers));
            foreach (var row in all)
            {
                // A row is a line to whatever reads it.
                Line(
                    string.Join(
                        '\t',
                        row.Select(cell => Markup.Remove(cell).Replace("\n", "; ", StringComparison.Ordinal))
                    )
                );
            }

            return;
        }

        // Where there is room, only the last column wraps: the others are read across.
        var widths = headers
            .Select((h, i) => all.Select(r => Markup.Remove(r[i]).Length).Append(h.Length).Max())
            .ToArray();
        var fits = widths[..^1].Sum() + (3 * headers.Length) + Math.Min(widths[^1], 24) <= AnsiConsole.Profile.Width;
        var table = new Table().Border(TableBorder.Simple).BorderColor(Color.Grey);
        foreach (var header in headers)
        {
            table.AddColumn(
                new TableColumn($"[grey]{Markup.Escape(header)}[/]") { NoWrap = fits && header != headers[^1] }
            );
        }

        foreach (var row in all)
        {
            table.AddRow(row.Select(c => new Markup(c)));
        }

        Write(table);
    }

    /// <summary>Waits, with a spinner once it takes more than a second on a terminal.</summary>
    public static async Task<T> Wait<T>(string what, Task<T> task)
    {
        if (IsTerminal && await Task.WhenAny(task, Task.Delay(TimeSpan.FromSeconds(1))) != task)
        {
            await AnsiConsole.Status().StartAsync(what, _ => task);
        }

        return await task;
    }

    /// <summary>Text as it is read, whatever it holds: no mark-up of ours, and no order to the terminal.</summary>
    public static string Safe(string? text) => Markup.Escape(Plain(text ?? ""));

    // Lines and columns are ours.
    private static string Plain(string text) =>
        string.Join('\n', text.Split('\n').Select(line => string.Join('\t', line.Split('\t').Select(Words.Plain))));

    /// <summary>“50 min”, “3 h 20 min”.</summary>
    public static string Minutes(int minutes) =>
        minutes < 60 ? $"{minutes} min"
        : minutes < 24 * 60 ? $"{minutes / 60} h {minutes % 60} min"
        : $"{minutes / (24 * 60)} d {minutes / 60 % 24} h";

    /// <summary>A moment on this computer's clock.</summary>
    public static string Time(DateTimeOffset at) =>
        at.ToLocalTime().ToString("yyyy-MM-dd HH:mm", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>Relative under a day, else the date.</summary>
    public static string Ago(DateTimeOffset at)
    {
        var ago = DateTimeOffset.UtcNow - at;
        return ago switch
        {
            { TotalMinutes: < 1 } => "now",
            { TotalHours: < 1 } => $"{ago.TotalMinutes:0} min ago",
            { TotalDays: < 1 } => $"{ago.TotalHours:0} h ago",
            _ => at.ToLocalTime().ToString("d MMM HH:mm", System.Globalization.CultureInfo.InvariantCulture),
        };
    }
}
