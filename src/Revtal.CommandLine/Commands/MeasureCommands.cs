using System.CommandLine;
using System.Globalization;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Commands;

/// <summary>Scores, the trial, the swap test and the watch of an order.</summary>
internal static class MeasureCommands
{
    public static Command Trial()
    {
        var number = Cli.Number();
        var work = new Option<string?>("--work") { Description = "The customer's kind of work" };
        var least = new Option<int?>("--minutes") { Description = "The least that it is to run" };
        var minutes = new Option<int>("--minutes") { Required = true, Description = "How long it ran" };
        var displays = new Option<int?>("--displays");
        var outcome = new Option<TrialOutcome>("--outcome")
        {
            Required = true,
            Description = "as-wished, sluggish or failed",
            CustomParser = r =>
                Enum.GetValues<TrialOutcome>()
                    .Cast<TrialOutcome?>()
                    .FirstOrDefault(o => o!.Value.Spoken().Replace(' ', '-') == r.Tokens[0].Value)
                ?? throw RefusedException.Invalid(
                    "outcome-unknown",
                    "A trial's outcome is as-wished, sluggish or failed."
                ),
        };
        var note = new Option<string?>("--note") { Description = "Wanted where it was not as wished" };
        return Cli.Noun(
            "trial",
            "The customer's own kind of work, run on the machine after the upgrade",
            Cli.Change(
                "ask",
                "The customer wants it tried; without --work no longer",
                "revtal order trial ask 107 --work \"surge model, whole coast\" --minutes 20 --as sanne",
                (p, client, cancel) =>
                    client.AskTrialAsync(
                        p.GetValue(number),
                        new TrialAskRequest(p.GetValue(work), p.GetValue(least)),
                        cancel
                    ),
                number,
                work,
                least
            ),
            Cli.Change(
                "run",
                "It was run: for how long, and what came of it",
                "revtal order trial run 110 --work \"forty voices\" --minutes 25 --outcome as-wished --as pell",
                (p, client, cancel) =>
                    client.RunTrialAsync(
                        p.GetValue(number),
                        new TrialRequest(
                            p.GetValue(minutes),
                            p.GetValue(outcome),
                            p.GetValue(work),
                            p.GetValue(displays),
                            p.GetValue(note)
                        ),
                        cancel
                    ),
                number,
                work,
                minutes,
                displays,
                outcome,
                note
            )
        );
    }

    public static Command Scores()
    {
        var number = Cli.Number();
        var phase = new Option<Phase?>("--phase") { Description = "before or after, to write down" };
        var file = new Option<string?>("--file")
        {
            Description = "CSV or JSON: name, unit, value, better (higher or lower)",
        };
        var score = new Option<string[]>("--score") { Description = "Copy=18200:MB/s:higher" };
        return Cli.Command(
            "scores",
            "Benchmarks and load, before and after; with --phase, write some down",
            "revtal order scores 104 --phase after --score Copy=18200:MB/s:higher --as mara",
            async (p, client, cancel) =>
            {
                var n = p.GetValue(number);
                if (p.GetValue(phase) is { } at)
                {
                    Cli.Show(
                        p,
                        p.GetValue(file) is { } path
                            ? await client.TakeScoresAsync(n, at, Files.Bytes(path, 1 << 20), cancel)
                            : await client.TakeScoresAsync(
                                n,
                                new ScoresRequest(at, [.. p.GetValue(score)!.Select(Score)]),
                                cancel
                            ),
                        OrderScreen.Receipt
                    );
                    return;
                }

                Cli.Show(p, await client.ScoresAsync(n, cancel), MeasureScreen.Scores);
            },
            number,
            phase,
            file,
            score
        );
    }

    public static Command Swap()
    {
        var tries = Cli.Number();
        var isolated = new Option<bool>("--isolated") { Description = "Power was off the board before hands went in" };
        var places = new Option<string[]>("--place")
        {
            Description = "Another arrangement than asked for: S1=S2 puts the module of S2 into S1",
        };
        var defaults = new Option<bool?>("--defaults")
        {
            Description = "The firmware's settings were put to their defaults",
        };
        var (tried, began) = (Shown(), Shown());
        var (back, backAtEnd) = (Back(), Back());
        var (explain, explainAtEnd) = (Explain(), Explain());
        var (show, begin, end, reason) = (
            Cli.Number(),
            Cli.Number(),
            Cli.Number(),
            new Option<string?>("--reason") { Description = "Why it is given up" }
        );
        return Cli.Noun(
            "swap",
            "The swap test: find what is at fault in few restarts",
            Cli.Command(
                "show",
                "Where it stands, and what to try next",
                "revtal order swap show 103",
                async (p, client, cancel) =>
                    Cli.Show(p, await client.OrderAsync(p.GetValue(show), cancel), MeasureScreen.Swap),
                show
            ),
            Cli.Command(
                "begin",
                "Begin it, from the last reading or from what is said here",
                "revtal order swap begin 103 --as juno",
                async (p, client, cancel) =>
                    await Then(
                        p,
                        client,
                        p.GetValue(begin),
                        client.BeginSwapTestAsync(p.GetValue(begin), new SwapBeginRequest(began.Of(p)), cancel),
                        cancel
                    ),
                [begin, .. began.Options]
            ),
            Cli.Command(
                "try",
                "Tell what the arrangement showed",
                "revtal order swap try 103 --isolated --seen S1,S3 --as juno",
                async (p, client, cancel) =>
                    await Then(
                        p,
                        client,
                        p.GetValue(tries),
                        client.TrySwapAsync(
                            p.GetValue(tries),
                            new SwapTryRequest(
                                tried.Of(p)
                                    ?? throw RefusedException.Invalid(
                                        "shown-missing",
                                        "Say what it showed: --seen S1,S2, --total 24GB, or --no-start."
                                    ),
                                p.GetValue(isolated),
                                p.GetValue(places) is { Length: > 0 } put ? [.. put.Select(Place)] : null,
                                p.GetValue(defaults),
                                Counts(p.GetValue(back)),
                                p.GetValue(explain)
                            ),
                            cancel
                        ),
                        cancel
                    ),
                [tries, isolated, places, defaults, back, explain, .. tried.Options]
            ),
            Cli.Change(
                "end",
                "End it: with its conclusion, or given up with a reason",
                "revtal order swap end 103 --as juno",
                (p, client, cancel) =>
                    client.EndSwapTestAsync(
                        p.GetValue(end),
                        new SwapEndRequest(p.GetValue(reason), Counts(p.GetValue(backAtEnd)), p.GetValue(explainAtEnd)),
                        cancel
                    ),
                end,
                reason,
                backAtEnd,
                explainAtEnd
            )
        );
    }

    public static Command Watch()
    {
        var (begin, note, end) = (Cli.Number(), Cli.Number(), Cli.Number());
        var days = new Option<int>("--days") { DefaultValueFactory = _ => 14 };
        var every = new Option<int>("--every") { Description = "Ask every so many days", DefaultValueFactory = _ => 3 };
        var what = new Option<string?>("--for") { Description = "The fault; without it, the complaint" };
        var sign = new Argument<WatchSign>("SIGN") { Description = "none, restart, freeze or other" };
        var on = new Option<string?>("--on") { Description = "The day, as 2026-03-02; without it, today" };
        var (text, last) = (new Option<string?>("--text"), new Option<string?>("--text"));
        var outcome = new Argument<string>("OUTCOME") { Description = "gone, came-back or unclear" };
        outcome.AcceptOnlyFromAmong("gone", "came-back", "unclear");
        return Cli.Noun(
            "watch",
            "See whether a fault comes back",
            Cli.Change(
                "begin",
                "Watch it for some days",
                "revtal order watch begin 112 --days 14 --every 3 --as tobi",
                (p, client, cancel) =>
                    client.BeginWatchAsync(
                        p.GetValue(begin),
                        new WatchRequest(p.GetValue(days), p.GetValue(every), p.GetValue(what)),
                        cancel
                    ),
                begin,
                days,
                every,
                what
            ),
            Cli.Change(
                "note",
                "Note what was seen on a day",
                "revtal order watch note 112 none --as sanne",
                (p, client, cancel) =>
                    client.NoteWatchAsync(
                        p.GetValue(note),
                        new WatchNoteRequest(p.GetValue(sign), Day(p.GetValue(on)), p.GetValue(text)),
                        cancel
                    ),
                note,
                sign,
                on,
                text
            ),
            Cli.Change(
                "end",
                "End it with its outcome",
                "revtal order watch end 112 gone --as tobi",
                (p, client, cancel) =>
                    client.EndWatchAsync(
                        p.GetValue(end),
                        new WatchEndRequest(
                            p.GetValue(outcome) switch
                            {
                                "gone" => WatchOutcome.Gone,
                                "came-back" => WatchOutcome.CameBack,
                                _ => WatchOutcome.Unclear,
                            },
                            p.GetValue(last)
                        ),
                        cancel
                    ),
                end,
                outcome,
                last
            )
        );
    }

    private static async Task Then(
        ParseResult p,
        Client.RevtalClient client,
        int number,
        Task<Receipt> change,
        CancellationToken cancel
    )
    {
        var receipt = await change;
        if (p.GetValue(Cli.Json))
        {
            Cli.Show(p, receipt, OrderScreen.Receipt);
            return;
        }

        MeasureScreen.Swap(await client.OrderAsync(number, cancel));
    }

    private static ShownOptions Shown() =>
        new(
            new Option<string?>("--seen") { Description = "The slots whose modules were seen: S1,S3" },
            new Option<string?>("--total") { Description = "What was seen in all: 24GB" },
            new Option<bool>("--no-start") { Description = "It did not start" },
            new Option<string?>("--sign") { Description = "Beeps or lights" }
        );

    private sealed record ShownOptions(
        Option<string?> Seen,
        Option<string?> Total,
        Option<bool> NoStart,
        Option<string?> Sign
    )
    {
        public IEnumerable<Symbol> Options => [Seen, Total, NoStart, Sign];

        public StartShown? Of(ParseResult p) =>
            p.GetValue(NoStart) ? new StartShown(false, Sign: p.GetValue(Sign))
            : p.GetValue(Seen) is { } seen
                ? new StartShown(
                    true,
                    seen.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries),
                    null,
                    p.GetValue(Sign)
                )
            : p.GetValue(Total) is { } total ? new StartShown(true, null, MemorySize.Parse(total), p.GetValue(Sign))
            : null;
    }

    private static Option<string[]> Back() =>
        new("--back")
        {
            Description = "How many fasteners went back: REMOVAL=2 for each part that was off",
            AllowMultipleArgumentsPerToken = true,
        };

    private static Option<string?> Explain() => new("--explain") { Description = "Why fewer went back than came out" };

    private static Dictionary<string, int>? Counts(string[]? told) =>
        told is { Length: > 0 }
            ? told.Select(t => t.Split('=', 2))
                .ToDictionary(
                    t => t[0],
                    t =>
                        t.Length == 2 && int.TryParse(t[1], NumberStyles.None, CultureInfo.InvariantCulture, out var n)
                            ? n
                            : throw RefusedException.Invalid("count-form", "--back wants REMOVAL=2.")
                )
            : null;

    private static SwapPlace Place(string text) =>
        text.Split('=') is [var slot, var module]
            ? new(slot, module)
            : throw RefusedException.Invalid("place-form", $"“{text}” is not like S1=S2: the module of S2 into S1.");

    private static Score Score(string text) =>
        text.Split('=', 2) is [var name, var rest]
        && rest.Split(':') is [var value, var unit, "higher" or "lower"] parts
        && decimal.TryParse(value, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
            ? new(name, unit, number, parts[2] == "higher")
            : throw RefusedException.Invalid("score-form", $"“{text}” is not like Copy=18200:MB/s:higher.");

    private static DateOnly Day(string? text) =>
        text is null ? DateOnly.FromDateTime(DateTime.Now)
        : DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day
        : throw RefusedException.Invalid("day-form", $"“{text}” is no day: write 2026-03-02.");
}
