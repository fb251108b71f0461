using System.Globalization;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;

namespace Revtal.CommandLine.Screens;

/// <summary>An order, its check and its run as a terminal shows them.</summary>
internal static class OrderScreen
{
    public static void Show(OrderView order)
    {
        var i = order.Intake;
        Screen.Marked(
            $"[bold]{order.Number}[/]  {Screen.Safe($"{order.Model.Maker} {order.Model.Name}")} "
                + $"[grey]{order.Model.Code}[/]  {Screen.Safe(i.Customer)}  [teal]{order.Stage.Spoken()}[/]"
        );
        if (order.Reason is { } reason)
        {
            var until = Phrases.When(order.ParkedUntil, u => $", until {u.ToLocalTime():d MMM HH:mm}");
            Screen.Marked($"[grey]{Screen.Safe(reason)}{until}[/]");
        }

        Screen.Line();
        Shared(order);
        Fact("complaint", i.Complaint);
        Fact("goal", i.Goal);
        Fact("serial", i.Serial);
        Fact("with it", i.Accessories);
        Fact("condition", i.Condition);
        Fact("backup", i.Backup.ToString().ToLowerInvariant());
        Fact(
            "seal",
            i.SealConsent switch
            {
                SealConsent.Given => "may be broken",
                SealConsent.Refused => "must stay whole",
                _ => "none",
            }
        );
        Fact("copy", order.Copy is { } copy ? $"{copy.Copy.ToString().ToLowerInvariant()}: {copy.Text}" : null);
        Fact(
            "variant",
            order.Variant
                ?? (
                    order.Variants.Count > 0
                        ? $"not told yet: {string.Join("; ", order.Variants.Select(v => $"{v.Id}: {v.TellApart}"))}"
                        : null
                )
        );
        Fact("tell apart", order.Model.TellApart);
        Fact(
            "guide",
            "revision "
                + $"{order.Revision}"
                + Phrases.When(
                    order.NewerRevision,
                    n => $"; revision {n} is out: revtal guide compare {order.Model.Code} {order.Revision} {n}"
                )
        );
        foreach (var doubt in order.Doubts)
        {
            Screen.Marked($"[red]doubted[/]     {Screen.Safe(doubt)}");
        }

        Screen.Line();
        PositionDrawing.Draw(order.Positions);
        if (order.Plan is { } plan)
        {
            Expected(plan);
        }

        if (order.Later is { } later)
        {
            var price = Phrases.When(
                later.Price,
                p => string.Create(CultureInfo.InvariantCulture, $", {p:0.00} on {later.At.ToLocalTime():d MMM yyyy}")
            );
            Fact("later", later.Words + price);
        }

        foreach (var full in order.NearlyFull)
        {
            Screen.Marked(
                $"[yellow]nearly full[/] {Screen.Safe(full.Drive.Sentence)} [grey]"
                    + (
                        full.IsNoted
                            ? "A later visit is noted"
                            : $"revtal plan drives {order.Number}, or revtal plan later {order.Number}"
                    )
                    + "[/]"
            );
        }

        Fact(
            "trial",
            order.Trial.Asked is { } asked
                ? asked + Phrases.When(order.Trial.Minutes, m => $", {m} min at least")
                : null
        );
        foreach (var run in order.Trial.Runs)
        {
            Fact("  run", $"{run.Work}, {run.Minutes} min: {run.Outcome.Spoken()}{Phrases.Added(run.Note)}, {run.By}");
        }

        if (order.Check is { } check)
        {
            Screen.Line();
            Check(check);
        }

        if (order.Holds.Count > 0)
        {
            Screen.Line();
            Holds(order.Holds);
        }

        foreach (var r in order.Readings.Where(r => r.Conflicts.Count > 0 || r.Phase == Phase.During))
        {
            var disagree = r.Conflicts.Select(c => $"; sources disagree on the {c.What}: {c.First}, {c.Other}");
            Fact(r.Phase.Spoken(), $"{Size(r.InstalledBytes)} installed, {Screen.Ago(r.At)}{string.Concat(disagree)}");
        }

        foreach (var open in order.Invites.Where(i => i.Until > DateTimeOffset.UtcNow))
        {
            Fact(
                "code",
                $"open for the {open.Phase.Spoken()} reading until {open.Until.ToLocalTime():HH:mm}, by {open.By}"
            );
        }

        if (order.Swap is not null || order.SwapResults.Count > 0)
        {
            MeasureScreen.Swap(order);
        }

        if (order.Watch is { } watch)
        {
            var state = watch.Outcome is { } outcome ? Phrases.Words(outcome) : $"ask on {Phrases.Day(watch.DueOn)}";
            Fact("watch", $"{watch.For}; until {watch.Until.ToLocalTime():d MMM}, {state}");
            foreach (var n in watch.Notes)
            {
                Fact($"  {n.On:MM-dd}", $"{n.Sign.Spoken()}{Phrases.When(n.Text, t => $": {t}")}, {n.By}");
            }
        }

        foreach (var c in order.Copies)
        {
            Fact($"copy {c.Bay}", $"{c.Source} to {c.Target}, {c.Method}: {c.Done} of {c.Size}{CopyState(c)}");
        }

        foreach (var bag in order.ComesOut.Select(o => o.Bag).OfType<BagLabel>())
        {
            Fact(
                $"out of {bag.Position}",
                $"{bag.Part}{Phrases.When(bag.Mark, m => $", {m}")}: "
                    + $"{bag.Fate ?? "nobody said yet what becomes of it"}; bag {bag.Code}"
                    + Phrases.When(bag.Place, p => $", {p}")
            );
        }

        if (order.Agreed is { } agreed)
        {
            Fact("agreed to", Phrases.Amount(agreed.Total, agreed.Currency));
        }
        else if (order.Offered is { } offered)
        {
            Fact(
                "quote",
                $"{Phrases.Amount(offered.Total, offered.Currency)} behind a link, open until "
                    + $"{offered.Until.ToLocalTime():d MMM HH:mm}"
            );
        }

        Next(order.Next);
    }

    public static void Expected(PlanView plan)
    {
        var e = plan.Expectation;
        Fact(
            "expected",
            $"{e.Installed?.ToString() ?? "unknown"} installed, "
                + (e.UsableLow is { } low ? $"{low} to {e.UsableHigh} usable" : "usable unknown")
                + $"{Phrases.When(e.RunningSpeed, s => $", {s} MT/s")}, {Channels(e)}"
        );
        foreach (var bay in plan.Plan.Bays.Where(b => b.Wish is not null))
        {
            Fact(bay.Bay, $"{bay.Wish!.Drive}{Phrases.When(bay.Wish.Path, path => $", {Words(path)}")}");
        }

        PlanScreen.Notes(plan.Notes);
    }

    public static void Outcome(Verdict verdict, string sentence) =>
        Screen.Marked($"[bold {Colour(verdict)}]{Mark(verdict)} {verdict.Spoken()}[/]  {Screen.Safe(sentence)}");

    public static void Check(CheckResult check)
    {
        Outcome(check.Verdict, check.Sentence);
        Screen.Table(
            ["", "before", "planned", "after"],
            [
                .. check.Rows.Select(r =>
                    new[]
                    {
                        r.Slot,
                        r.Before.Spoken,
                        r.Planned?.Size.ToString() ?? "empty",
                        (r.Match is SlotMatch.Same or SlotMatch.Unknown ? "" : "≠ ") + r.Match.Spoken(r.After),
                    }
                ),
                .. check
                    .Drives.Where(d => d.Match != SlotMatch.Unknown || d.Use is not null)
                    .Select(d =>
                        new[]
                        {
                            d.Bay,
                            d.Before?.Size.ToString() ?? "–",
                            d.Planned?.Size.WithBinary ?? "empty",
                            (d.Match is SlotMatch.Same or SlotMatch.Unknown ? "" : "≠ ")
                                + (
                                    d.After?.Drive.Size.WithBinary
                                    ?? (d.Match == SlotMatch.Unknown ? "not read" : "not listed")
                                ),
                        }
                    ),
                [
                    "installed",
                    Size(check.Installed.Before),
                    Size(check.Installed.PlannedLow),
                    Size(check.Installed.After),
                ],
                [
                    "usable",
                    Size(check.Usable.Before),
                    $"{Size(check.Usable.PlannedLow)} to {Size(check.Usable.PlannedHigh)}",
                    Size(check.Usable.After),
                ],
            ]
        );
        foreach (var f in check.Findings)
        {
            Screen.Marked(
                $"[{(f.Severity == Severity.Short ? "red" : f.Severity == Severity.Remark ? "yellow" : "grey")}"
                    + $"]{f.Severity.ToString().ToLowerInvariant(), -7}[/] {Screen.Safe(f.Sentence)}"
            );
            if (f.Severity != Severity.Note)
            {
                Screen.Marked($"        [grey]likely:[/] {Screen.Safe(string.Join(" ", f.Causes))}");
                Screen.Marked($"        [grey]do:[/] {Screen.Safe(f.Action.Text)}");
            }
        }
    }

    /// <summary>What stands between the order and its hand-back; a released one with its reason.</summary>
    public static void Holds(IReadOnlyList<Hold> holds)
    {
        if (holds.Count == 0)
        {
            Screen.Line("Nothing holds it.");
        }

        foreach (var hold in holds)
        {
            var until = Phrases.When(hold.Until, u => $" [grey]until about {u.ToLocalTime():d MMM HH:mm}[/]");
            Screen.Marked(
                $"[{(hold.IsOpen ? "red" : "grey")}]held[/]    [bold]{Screen.Safe(hold.Key)}[/]  "
                    + $"{Screen.Safe(hold.Sentence)}{until}"
            );
            Screen.Marked(
                hold.Released is { } released
                    ? $"        [grey]released by {Screen.Safe(released.By)}:[/] {Screen.Safe(released.Reason)}"
                    : $"        [grey]ends:[/] {Screen.Safe(hold.Ends)}"
            );
        }
    }

    private static string CopyState(CopyView copy) =>
        copy switch
        {
            { Verified: { } v } => $", {v.Counts}{Phrases.When(!v.IsGood, ": not good")}",
            { EstimatedEnd: { } end } => $", done about {end.ToLocalTime():HH:mm}",
            _ => "",
        };

    public static void Receipt(Receipt receipt)
    {
        if (receipt.OpenToo is { } others)
        {
            Screen.Marked(
                $"[yellow]![/] This serial has another order open: {string.Join(", ", others)}. One of them may be a "
                    + "mistake."
            );
        }

        Screen.Marked(
            $"[green]■[/] order [bold]{receipt.Order}[/] is "
                + $"{receipt.Stage.Spoken()}"
                + Phrases.When(
                    receipt.Next.Kind != NextKind.None,
                    $". [yellow]Next:[/] {Screen.Safe(receipt.Next.Text)}"
                )
        );
    }

    /// <summary>What the last compare of a bay's copy showed.</summary>
    public static void Compared(OrderView order, string bay)
    {
        var copy = order.Copies.FirstOrDefault(c => string.Equals(c.Bay, bay, StringComparison.OrdinalIgnoreCase));
        if (copy?.Verified is { } verified)
        {
            Screen.Marked(
                verified.IsGood
                    ? $"[green]✓[/] {Screen.Safe(verified.Counts)}"
                    : $"[red]✕ The copy is not good:[/] {Screen.Safe(verified.Counts)}. The old drive stays as it is."
            );
        }
    }

    private static void Shared(OrderView order)
    {
        Fact("in hand", order.Owner);
        Fact("lies at", order.Place);
        Fact("promised", order.PromisedAt is { } at ? $"{at.ToLocalTime():d MMM HH:mm}" : null);
        Fact("waits for", order.Waiting is { } w ? $"{w.On}, since {w.Since.ToLocalTime():d MMM HH:mm}" : null);
        if (order.HandOver is { } over)
        {
            Screen.Marked(
                $"[yellow]read first[/]  {Screen.Safe(over.Word)} [grey]{Screen.Safe(over.By)}; "
                    + $"revtal order owner-read {order.Number}[/]"
            );
        }
    }

    /// <param name="board">What it tells beside the cards; null where nobody asked.</param>
    public static void Cards(IEnumerable<OrderCard> cards, BoardView? board = null) =>
        Screen.Table(
            ["order", "stage", "model", "customer", "slots", "verdict", "changed", "waits for"],
            cards.Select(c =>
                new[]
                {
                    c.Number.ToString(System.Globalization.CultureInfo.InvariantCulture),
                    c.Stage.Spoken(),
                    Screen.Safe(c.Model),
                    string.Join(
                        '\n',
                        new[]
                        {
                            Screen.Safe(c.Customer),
                            InHand(c, board?.Late),
                            Screen.Safe(c.Found?.Told ?? ""),
                        }.Where(l => l.Length > 0)
                    ),
                    Miniature(c),
                    string.Join('\n', Held(c, board?.NearlyFullPercent)),
                    Screen.Ago(c.ChangedAt),
                    Screen.Safe(Waits(c, board?.PartsOwed)),
                }
            )
        );

    // Of what is ready the promise is kept.
    private static string InHand(OrderCard card, IReadOnlyList<Late>? late)
    {
        var lies = Screen.Safe(string.Join(", ", new[] { card.Owner, card.Place }.OfType<string>()));
        if (card.PromisedAt is not { } at || card.Stage == Stage.Ready)
        {
            return lies;
        }

        var promised = late?.FirstOrDefault(l => l.Number == card.Number) is { } broken
            ? $"[red]{(broken.IsLate ? "late" : "will be late")} by {Screen.Minutes(broken.Minutes)}[/]"
            : $"promised {at.ToLocalTime():d MMM HH:mm}";
        return lies.Length > 0 ? $"{lies}\n{promised}" : promised;
    }

    private static string Waits(OrderCard card, IReadOnlyList<PartsOwed>? owed) =>
        owed?.FirstOrDefault(o => o.Number == card.Number) is { } lacks ? $"parts: {string.Join(", ", lacks.Parts)}"
        : card.Waiting is { Kind: not (WaitKind.Parked or WaitKind.Watch) } w
            ? $"{w.On}, since {Screen.Ago(w.Since)}: {card.WaitsFor}"
        : card.WaitsFor;

    // The verdict says by itself that it is short.
    private static IEnumerable<string> Held(OrderCard card, int? nearlyFull) =>
        [
            .. card.Verdict is { } v ? [Told(v)] : Array.Empty<string>(),
            .. (card.Holds ?? [])
                .Where(h => h.Kind is not (HoldKind.Short or HoldKind.Watched))
                .Select(h => $"held: {h.Word}{Phrases.When(h.Until, u => $" until {u.ToLocalTime():d MMM HH:mm}")}"),
            .. card.Fullest is { } full && full.Percent >= nearlyFull
                ? [$"{Screen.Safe(full.Bay ?? "drive")} {full.Percent} % full"]
                : Array.Empty<string>(),
        ];

    /// <summary>Mark, colour and word.</summary>
    public static string Told(Verdict verdict) => $"[{Colour(verdict)}]{Mark(verdict)} {verdict.Spoken()}[/]";

    public static string Miniature(OrderCard card)
    {
        var row =
            card.Slots.Any(s => s.After is not null) ? card.Slots.Select(s => (s.After, '█'))
            : card.Slots.Any(s => s.Planned is not null) ? card.Slots.Select(s => (s.Planned, '▒'))
            : card.Slots.Select(s => (s.Before, '□'));
        return string.Concat(row.Select(s => s.Item1 is > 0 ? s.Item2 : '·'));
    }

    public static void Next(NextThing next)
    {
        if (next.Kind != NextKind.None)
        {
            Screen.Marked($"[yellow]next[/]        {Screen.Safe(next.Text)}");
        }
    }

    private static string Words(DataPath path) =>
        path switch
        {
            DataPath.CopyFirst => "copied first",
            DataPath.CleanInstall => "set up anew",
            _ => "data left behind",
        };

    internal static void Fact(string name, string? text)
    {
        if (text is not null)
        {
            Screen.Marked($"[grey]{name, -12}[/]{Screen.Safe(text)}");
        }
    }

    private static string Channels(Expectation e) =>
        e.Balance == ChannelBalance.Unknown ? "channels unknown" : e.Channels;

    private static string Size(long? bytes) => bytes is { } b ? new MemorySize(b).ToString() : "–";

    private static string Colour(Verdict verdict) =>
        verdict switch
        {
            Verdict.AsPlanned => "green",
            Verdict.WithRemarks => "yellow",
            Verdict.Unknown => "grey",
            _ => "red",
        };

    private static string Mark(Verdict verdict) =>
        verdict switch
        {
            Verdict.AsPlanned => "✓",
            Verdict.WithRemarks => "!",
            Verdict.Unknown => "?",
            _ => "✗",
        };
}
