using System.Globalization;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;

namespace Revtal.CommandLine.Screens;

/// <summary>Scores, load and the swap test as a terminal shows them.</summary>
internal static class MeasureScreen
{
    /// <summary>A one-time code, and what is typed on the machine.</summary>
    public static void Code(string code, DateTimeOffset until, IReadOnlyDictionary<string, string> lines, bool hereOnly)
    {
        Screen.Marked($"[bold]{Screen.Safe(code)}[/]  [grey]once, until {until.ToLocalTime():HH:mm}[/]");
        foreach (var (system, line) in lines)
        {
            Screen.Marked($"[grey]{system, -8}[/] {Screen.Safe(line)}");
        }

        Screen.Reach(hereOnly);
    }

    // Eight steps from nothing to the most that the line shows.
    private const string Steps = "▁▂▃▄▅▆▇█";
    private const int Columns = 60;

    private static void Watched(WatchedView watched)
    {
        var (load, peaks) = (watched.Load, watched.Peaks);
        Screen.Marked(
            $"[bold]load {load.Phase.Spoken()}[/]  {peaks.Minutes} min, {Memory(watched.InstalledBytes)} installed, "
                + $"{Screen.Ago(load.At)}{Screen.Safe(Phrases.Added(load.Note))}"
        );
        var most = Math.Max(watched.InstalledBytes ?? 0, peaks.InUseBytes ?? 0);
        Line("in use", load.Series.InUseBytes, most, peaks.InUseBytes is { } used ? $"{new MemorySize(used)}" : null);
        Line(
            "paged out",
            load.Series.PagedOutBytes,
            Math.Max(1, peaks.PagedOutBytes ?? 0),
            peaks.PagedOutBytes is { } paged ? $"{new MemorySize(paged)}" : null
        );
        Line(
            "processor",
            [.. load.Series.CpuPercent.Select(c => (long?)c)],
            100,
            peaks.CpuPercent is { } cpu ? $"{cpu} %" : null
        );
        Line(
            "drives",
            load.Series.DiskBytes,
            Math.Max(1, peaks.DiskBytes ?? 0),
            peaks.DiskBytes is { } disk ? Rate(disk) : null
        );
        Line(
            "network",
            load.Series.NetBytes,
            Math.Max(1, peaks.NetBytes ?? 0),
            peaks.NetBytes is { } net ? Rate(net) : null
        );
    }

    private static string Rate(long bytes) =>
        string.Create(CultureInfo.InvariantCulture, $"{bytes / 1_000_000m:0.#} MB/s");

    // No more columns than a terminal has room for; each shows the highest of its samples.
    private static void Line(string name, IReadOnlyList<long?> values, long most, string? peak)
    {
        if (peak is null)
        {
            return;
        }

        var line = string.Concat(
            values
                .Chunk((values.Count + Columns - 1) / Columns)
                .Select(c => c.Max() is { } v ? Steps[(int)Math.Min(7, 8m * v / Math.Max(1, most))] : ' ')
        );
        Screen.Line($"  {name, -10} {line}  at most {peak}");
    }

    public static void Scores(ScoresView view)
    {
        if (view.Scores.Count == 0 && view.Load is null && view.Watched.Count == 0)
        {
            Screen.Line("Nothing was measured yet. Write some down: --phase before --score Copy=18200:MB/s:higher");
            return;
        }

        Screen.Table(
            ["score", "before", "after", "change", "among its like"],
            view.Scores.Select(s =>
                new[]
                {
                    Screen.Safe(s.Name),
                    Amount(s.Before, s.Unit),
                    Amount(s.After, s.Unit),
                    s.Percent is { } p
                        ? $"[{(s.Better == false ? "red" : "green")}]{p:+0.#;-0.#;0} % "
                            + $"{(s.Better == true ? "better" : s.Better == false ? "worse" : "the same")}[/]"
                        : "",
                    s.Among is { } b
                        ? $"{Phrases.When(s.Place, place => $"place {place} of {b.Count + 1}, ")}{b.Lower:0.##} – "
                            + $"{b.Median:0.##} – {b.Upper:0.##}"
                        : "",
                }
            )
        );
        if (view.Takes.Count > 1)
        {
            foreach (var take in view.Takes)
            {
                Screen.Marked(
                    $"[grey]{take.Phase.Spoken()}: {Screen.Safe(string.Join(", ", take.Scores))}"
                        + $"{Screen.Safe(Phrases.Added(take.Note))}[/]"
                );
            }
        }

        foreach (var watched in view.Watched)
        {
            Watched(watched);
        }

        if (view.Load is { } load)
        {
            Screen.Table(
                ["load", "before", "after"],
                [
                    [
                        "in use",
                        Memory(load.Before?.InUseBytes, load.Before?.InUseShare),
                        Memory(load.After?.InUseBytes, load.After?.InUseShare),
                    ],
                    ["paged out", Memory(load.Before?.PagedOutBytes), Memory(load.After?.PagedOutBytes)],
                    ["storage free", Drive(load.Before?.StorageFreeBytes), Drive(load.After?.StorageFreeBytes)],
                ]
            );
            if (load.Unlike is { } unlike)
            {
                Screen.Marked($"[yellow]![/] {Screen.Safe(unlike)}");
            }
        }
    }

    public static void Swap(OrderView order)
    {
        foreach (var r in order.SwapResults)
        {
            Screen.Marked(
                $"[grey]ended[/]       {Screen.Safe(r.Conclusion?.Sentence ?? $"given up: {r.Note}")} "
                    + $"[grey]{r.Restarts} restarts[/]"
            );
        }

        if (order.Swap is not { State: var state } swap)
        {
            if (order.SwapResults.Count == 0)
            {
                Screen.Line($"No swap test runs on order {order.Number}.");
            }

            return;
        }

        Screen.Table(
            ["suspect", "chance"],
            state
                .Suspects.Take(8)
                .Select(s =>
                    new[]
                    {
                        Screen.Safe(s.Spoken),
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{s.Chance * 100:0} % {new string('▒', (int)Math.Round(s.Chance * 20))}"
                        ),
                    }
                )
        );
        if (state.Conclusion is { } end)
        {
            Screen.Marked($"[bold]{Screen.Safe(end.Sentence)}[/] {Screen.Safe(end.Do)}");
            foreach (var word in state.Words)
            {
                Screen.Line($"  {word}");
            }

            Screen.Line($"End it: revtal order swap end {order.Number}{Back(state.Counts)}");
            return;
        }

        Screen.Marked(
            $"[yellow]try {swap.Trials.Count + 1}[/]  [grey]about "
                + $"{state.Restarts.ToString("0.#", CultureInfo.InvariantCulture)} restarts to go[/]"
        );
        foreach (var word in state.Words)
        {
            Screen.Line($"  {word}");
        }

        Screen.Line(
            $"Then: revtal order swap try {order.Number}{Phrases.When(state.HandsIn, " --isolated")}"
                + $"{Back(state.Counts)} --seen "
                + $"{string.Join(',', state.Next!.Select(p => p.Slot))}   (or --total 24GB, or --no-start)"
        );
    }

    private static string Back(IReadOnlyDictionary<string, int> counts) =>
        string.Concat(counts.Keys.Select(removal => $" --back {removal}=COUNT"));

    private static string Amount(decimal? value, string unit) =>
        value is { } v ? string.Create(CultureInfo.InvariantCulture, $"{v:0.##} {Screen.Safe(unit)}") : "–";

    private static string Memory(long? bytes, decimal? share = null) =>
        bytes is { } b ? $"{new MemorySize(b)}{Phrases.When(share, s => $", {s:0} %")}" : "–";

    private static string Drive(long? bytes) => bytes is { } b ? new DriveSize(b).ToString() : "–";
}
