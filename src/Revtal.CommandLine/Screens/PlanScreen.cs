using System.Globalization;
using Revtal.Contracts;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.CommandLine.Screens;

/// <summary>Options, layouts and quotes as a terminal shows them.</summary>
internal static class PlanScreen
{
    public static void Notes(IReadOnlyList<FitNote> notes)
    {
        foreach (var n in notes)
        {
            var (word, colour) = n.Weight switch
            {
                FitWeight.Refusal => ("does not fit", "red"),
                FitWeight.Lead => ("a lead's", "red"),
                _ => ("remark", "yellow"),
            };
            Screen.Marked(
                $"[{colour}]{word, -12}[/]{Screen.Safe(n.Sentence)} "
                    + $"[grey]{Screen.Safe(n.Takes == n.Has ? n.Source : $"{n.Takes} against {n.Has}, {n.Source}")}[/]"
            );
        }
    }

    public static void Options(OptionsView view, string currency)
    {
        Screen.Marked($"[bold]{view.Target}[/]  [grey]{Screen.Safe(view.Because)}[/]");
        if (view.Why is { } why)
        {
            Screen.Line(why);
            return;
        }

        Screen.Table(
            [
                "",
                "gets",
                $"parts {currency}",
                $"total {currency}",
                "min",
                "bandwidth",
                "speed",
                "comes out",
                "shelf",
                "what",
            ],
            view.Options.Select(
                (o, i) =>
                    new[]
                    {
                        (i + 1).ToString(CultureInfo.InvariantCulture),
                        Sizes(o),
                        Number(o.Option.Price),
                        Number(o.Total),
                        o.Minutes.ToString(CultureInfo.InvariantCulture),
                        o.BandwidthShare.ToString("P0", CultureInfo.InvariantCulture),
                        o.Option.Expectation?.RunningSpeed is { } s ? $"{s}" : "?",
                        o.Option.Thrown > 0 ? Number(o.Option.Thrown) : "–",
                        o.OnShelf ? "yes" : "order",
                        Screen.Safe(o.Option.Words),
                    }
            )
        );
        Shared(view.Options.SelectMany((o, i) => Elsewhere(i, o.Option.Price, o.Elsewhere, currency)), "grey");
        Shared(view.Options.SelectMany((o, i) => o.Option.Notes.Select(n => (i + 1, n.Sentence))), "yellow");

        foreach (var left in view.LeftOut)
        {
            Screen.Marked(
                $"[grey]left out: {Screen.Safe(left.Words)} ({left.Capacity}, {Number(left.Price)}), beaten by "
                    + $"{left.By}[/]"
            );
        }
    }

    public static void Drives(DriveOptionsView view, string currency)
    {
        foreach (var room in view.Rooms)
        {
            Screen.Line(room.Sentence);
        }

        if (view.Options.Count > 0)
        {
            Screen.Table(
                ["", "way", "gain", "system free", "link", $"total {currency}", "min", "copying", "shelf", "what"],
                view.Options.Select(
                    (o, i) =>
                        new[]
                        {
                            (i + 1).ToString(CultureInfo.InvariantCulture),
                            Core.Phrases.Words(o.Option.Way),
                            o.Option.Gain.Bytes > 0 ? $"{o.Option.Gain}" : "–",
                            o.Option.SystemFree?.ToString() ?? "?",
                            o.Option.SystemRate is { } rate
                                ? string.Create(CultureInfo.InvariantCulture, $"{rate:N0} MB/s")
                                : "?",
                            Number(o.Total),
                            o.Minutes.ToString(CultureInfo.InvariantCulture),
                            o.Option.CopyMinutes > 0 ? $"{o.Option.CopyMinutes} min" : "–",
                            o.OnShelf ? "yes" : "order",
                            Screen.Safe(o.Option.Words),
                        }
                )
            );
        }

        Shared(view.Options.SelectMany((o, i) => Told(o.Option).Select(t => (i + 1, t))), "grey");
        Shared(view.Options.SelectMany((o, i) => Elsewhere(i, o.Option.Price, o.Elsewhere, currency)), "grey");
        Shared(view.Options.SelectMany((o, i) => o.Option.Notes.Select(n => (i + 1, n.Sentence))), "yellow");
        foreach (var closed in view.Closed)
        {
            Screen.Marked($"[grey]{Screen.Safe(closed)}[/]");
        }

        if (view.LeftOut > 0)
        {
            Screen.Marked($"[grey]{view.LeftOut} more fit, and are beaten by these[/]");
        }
    }

    private static IEnumerable<(int, string)> Elsewhere(int i, decimal here, decimal? there, string currency) =>
        there is { } asked
            ?
            [
                (
                    i + 1,
                    $"parts {Core.Phrases.Amount(here, currency)} here, {Core.Phrases.Amount(asked, currency)} "
                        + "elsewhere, without tax"
                ),
            ]
            : [];

    private static IEnumerable<string> Told(DriveOption option)
    {
        if (option.DataWords is { } data)
        {
            yield return data;
        }

        if (option.ExtraMinutes is { } extra)
        {
            yield return extra == 0 ? "Shares the opening of the plan." : $"{extra} min of opening beside the plan's.";
        }
    }

    // What is to be known of several lines is said once.
    private static void Shared(IEnumerable<(int Line, string Sentence)> told, string colour)
    {
        foreach (var lines in told.GroupBy(t => t.Sentence, t => t.Line))
        {
            Screen.Marked($"[{colour}]{string.Join(", ", lines)}: {Screen.Safe(lines.Key)}[/]");
        }
    }

    public static void Layout(LayoutView view)
    {
        var (best, next) = (view.Answer.Best, view.Answer.RunnerUp);
        Screen.Table(
            ["slot", "module", ""],
            best.Seats.Select(s =>
                new[]
                {
                    Screen.Safe(s.Slot),
                    Screen.Safe(s.Module.ToString()),
                    s.Stays ? "stays"
                    : s.From is { } from ? $"from {from}"
                    : "[yellow]comes[/]",
                }
            )
        );
        OrderScreen.Fact(
            "channels",
            $"{best.Share.Bandwidth.ToString("P0", CultureInfo.InvariantCulture)} of the bandwidth; "
                + $"{string.Join(", ", best.Share.Loads.Select(l => $"{l.Channel} {new MemorySize(l.Bytes)}"))}"
        );
        OrderScreen.Fact(
            "opens",
            best.Removals.Count == 0 ? "nothing" : $"{string.Join(", ", best.Removals)}, {best.Worth.OpenMinutes} min"
        );
        OrderScreen.Fact("because", view.Answer.Because);
        OrderScreen.Fact(
            "next best",
            next is null ? null : string.Join(", ", next.Seats.Select(s => $"{s.Slot} {s.Module.Size}"))
        );
        if (!view.Answer.IsProved)
        {
            OrderScreen.Fact(
                "bound",
                $"not proved: {100.0 * best.Worth.Shared / Math.Max(1, view.Answer.Bound):0} % of what no layout can "
                    + "exceed"
            );
        }
    }

    public static void Quote(Quote quote)
    {
        foreach (var line in quote.Work)
        {
            Screen.Marked($"[teal]·[/] {Screen.Safe(line)}");
        }

        if (quote.Risks.Count > 0)
        {
            Screen.Marked("What is at risk:");
        }

        foreach (var line in quote.Risks)
        {
            Screen.Marked($"[yellow]·[/] {Screen.Safe(line)}");
        }

        Screen.Table(
            ["what", "count", "each", quote.Currency],
            [
                .. quote.Lines.Select(l =>
                    new[]
                    {
                        Screen.Safe(l.Text),
                        $"{l.Count}",
                        l.Each is { } e ? Number(e) : "to be told",
                        l.Each is null ? "" : Number(l.Sum),
                    }
                ),
                .. Row(
                    quote.Discount > 0,
                    string.Create(CultureInfo.InvariantCulture, $"discount {quote.DiscountPercent:0.##} %"),
                    -quote.Discount
                ),
                .. Row(
                    quote.TaxPercent > 0,
                    string.Create(CultureInfo.InvariantCulture, $"tax {quote.TaxPercent:0.##} %"),
                    quote.Tax
                ),
                .. Row(true, "total", quote.Total),
            ]
        );
        foreach (var line in quote.Compared ?? [])
        {
            Screen.Marked($"[grey]{Screen.Safe(line)}[/]");
        }

        Screen.Marked(
            $"[grey]{quote.Minutes} min {(quote.PastRuns > 0 ? $"by {quote.PastRuns} past runs" : "by the guide")}[/]"
        );
    }

    public static string Number(decimal amount) => amount.ToString("0.00", CultureInfo.InvariantCulture);

    /// <summary>A row with nothing but its amount; none where it is not shown.</summary>
    public static string[][] Row(bool shown, string what, decimal amount) =>
        shown
            ?
            [
                [what, "", "", Number(amount)],
            ]
            : [];

    private static string Sizes(OptionLine o) =>
        o.Option.CapacityLater == o.Option.Capacity
            ? o.Option.Capacity.ToString()
            : $"{o.Option.Capacity}, then {o.Option.CapacityLater}";
}
