using System.Globalization;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Screens;

/// <summary>Guides as a terminal shows them.</summary>
internal static class GuideScreen
{
    public static void Signs(SignCounts counts)
    {
        Screen.Line(
            $"{Phrases.Counted(counts.Starts, "start", "starts")} of "
                + $"{Phrases.Counted(counts.Orders, "order", "orders")}"
        );
        Screen.Table(
            ["sign", "means", "told", "then normal", "last", ""],
            counts.Signs.Select(s =>
                new[]
                {
                    Screen.Safe(s.Sees),
                    Screen.Safe(s.Means ?? "?"),
                    s.Times.ToString(CultureInfo.InvariantCulture),
                    s.Passed.ToString(CultureInfo.InvariantCulture),
                    s.Last?.ToString(CultureInfo.InvariantCulture) ?? "–",
                    s.Advice is { } advice ? $"[yellow]{Screen.Safe(advice)}[/]" : "",
                }
            )
        );
    }

    public static void Show(GuideView view, IReadOnlyList<Variant> variants, string? variant)
    {
        var guide = view.Guide;
        var (m, memory) = (guide.Model, guide.Memory);
        var built = Phrases.When(m.Built, b => $", {b.Replace("..", " to ", StringComparison.Ordinal)}");
        Screen.Marked(
            $"[bold]{Screen.Safe($"{m.Maker} {m.Name}")}[/] "
                + $"[grey]{Screen.Safe(variant ?? m.Code)} revision {view.Revision}[/]  {Screen.Safe(m.Kind)}{built}"
                + Phrases.When(guide.IsSketch, "  [yellow]sketch: written at the bench, facts may be missing[/]")
        );
        Fact("tell apart", m.TellApart);
        Fact("reports as", string.Join(", ", m.ReportsAs));
        foreach (var v in variants.Where(v => v.Id != variant))
        {
            Fact("variant", $"{v.Id}: {v.TellApart}");
        }

        Fact("memory", Memory(memory));
        Screen.Table(
            ["slot", "channel", "label", "at most", "what comes off first", "hands"],
            memory.Slots.Select(s =>
                new[]
                {
                    s.Id,
                    s.Channel ?? "",
                    Screen.Safe(s.Label),
                    s.Max?.ToString() ?? "",
                    Screen.Safe(WayIn(guide, s.Id)),
                    Screen.Safe(
                        s.Soldered
                            ? "soldered"
                            : string.Join(
                                ", ",
                                new[]
                                {
                                    s.Below is { } u ? $"under {u}" : null,
                                    s.Angle is { } a ? $"{a}°" : null,
                                    s.Latch,
                                    s.Press == "hold-latches-open" ? s.Press : null,
                                    s.Notch,
                                    s.PadUnder is { } under ? $"pad {under} mm under it" : null,
                                    s.PadOn is { } on ? $"pad {on} mm on it" : null,
                                    s.Seated is { } seated ? $"home when {seated}" : null,
                                }.OfType<string>()
                            )
                    ),
                }
            )
        );
        if (guide.Drives.Count > 0)
        {
            Screen.Table(
                ["bay", "form", "link", "boots", "what comes off first", "hands"],
                guide.Drives.Select(d =>
                    new[]
                    {
                        d.Id,
                        Screen.Safe($"{d.Form}{Phrases.When(d.Key, k => $" key {k}")}"),
                        Screen.Safe(d.Link),
                        d.Boots ? "yes" : "",
                        Screen.Safe(WayIn(guide, d.Id)),
                        Screen.Safe(
                            string.Join(
                                ", ",
                                new[]
                                {
                                    d.Height is { } high ? $"up to {high} mm high" : null,
                                    d.Pad is { } pad ? $"pad {pad} mm" : null,
                                    d.Standoff,
                                    d.Hold,
                                    d.Port is { } port ? $"cable to {port}" : null,
                                }.OfType<string>()
                            )
                        ),
                    }
                )
            );
        }

        foreach (var s in memory.Slots.Where(s => s.ReportsAs is not null))
        {
            Fact("reported", $"{s.Id}: {s.ReportsAs}{Phrases.When(s.ReportsBank, b => $" in {b}")}");
        }

        foreach (var d in guide.Drives.Where(d => d.Path is not null))
        {
            Fact("path", $"{d.Id}: {d.Path}");
        }

        foreach (var i in guide.Isolate)
        {
            Fact("isolate", i.Sentence + Phrases.Added(i.Note));
        }

        var groups = guide.Removals.SelectMany(r => r.Fasteners).ToArray();
        Fact(
            "bits",
            string.Join(
                ", ",
                groups.Select(g => g.Driver).Where(d => d != "hand").Distinct().Order(StringComparer.Ordinal)
            )
        );
        Fact("tools", string.Join(", ", guide.Removals.SelectMany(r => r.Pry).Select(x => x.Tool).Distinct()));
        Screen.Table(
            ["comes off", "after", "min", "fasteners", "mind"],
            guide.Removals.Select(r =>
                new[]
                {
                    Screen.Safe(r.Title),
                    Screen.Safe(string.Join(", ", r.Needs)),
                    $"{r.Minutes}",
                    Screen.Safe(string.Join("; ", r.Fasteners.Select(Fasteners))),
                    Screen.Safe(string.Join(" ", r.Precautions.Select(Warning))),
                }
            )
        );
        foreach (var (what, text) in guide.Removals.SelectMany(Ways))
        {
            Fact(what, text);
        }

        foreach (var sign in guide.FirstStart)
        {
            Fact("at start", $"{sign.Sees}{Lasts(sign)}: {sign.Meaning}{Phrases.When(sign.Do, d => $", {d}")}");
        }

        Fact(
            "firmware",
            guide.Firmware is { } f ? $"{f.Enter}{Phrases.When(f.RatedSpeed, s => $"; rated speed: {s}")}" : null
        );
        Fact("open", guide.MeasureOpen);
        Fact("not open", Phrases.When(guide.NeverMeasureOpen, why => $"never started with the case open: {why}"));
        foreach (var trap in guide.Traps)
        {
            Screen.Marked($"[yellow]{"trap", -12}[/]{Screen.Safe($"{trap.At}  {trap.Text}")}");
        }
    }

    public static void Problems(string file, IReadOnlyList<GuideProblem> problems)
    {
        if (problems.Count == 0)
        {
            Screen.Line($"{file}: all well");
        }

        foreach (var problem in problems)
        {
            Screen.Line($"{file}:{problem.Line}: {problem.Message}");
        }
    }

    /// <summary>What another shop's guide tells otherwise.</summary>
    public static void Exchanged(ExchangeView view)
    {
        Screen.Line(
            $"{view.Code} of {view.Shop}: "
                + (
                    view.Ours is null ? "the model is new here"
                    : view.Common is { } common ? $"in common revision {common}, ours is {view.Ours}"
                    : $"nothing in common with ours, revision {view.Ours}"
                )
        );
        if (view.Facts.Count > 0)
        {
            Screen.Table(
                ["what", "in common", "ours", "theirs", "changed by"],
                view.Facts.Select(f =>
                    new[]
                    {
                        Screen.Safe(f.Path),
                        Screen.Safe(f.Common ?? "–"),
                        Screen.Safe(f.Ours ?? "–"),
                        Screen.Safe(f.Theirs ?? "–"),
                        f.Changed switch
                        {
                            MergeSide.Theirs => "them: taken",
                            MergeSide.Ours => "us: stays",
                            _ => "[red]both: decide[/]",
                        },
                    }
                )
            );
        }
        else if (view.Ours is not null)
        {
            Screen.Line("Both say the same.");
        }

        Fact("runs", Phrases.When(view.Evidence.Runs > 0, $"{view.Evidence.Runs} are through there"));
        foreach (var way in view.Evidence.Ways)
        {
            Fact("way in", $"{way.Way}: {way.Runs} runs, {way.Median} min in the middle");
        }

        foreach (var sign in view.Evidence.Signs.Where(s => s.Times > 0))
        {
            Fact("sign", $"{sign.Sees}: {sign.Times} times, {sign.Passed} passed");
        }

        Fact(
            "proved",
            Phrases.When(view.Evidence.Proved, s => $"{s} by {view.Evidence.ProvedBy} of their orders; not of ours")
        );
    }

    public static void Published(GuidePublished done) =>
        Screen.Line($"{done.Code} revision {done.Revision} {(done.IsNew ? "published" : "is this file already")}");

    public static void Compared(GuideCompared c)
    {
        if (c.Differences.Count == 0)
        {
            Screen.Line($"{c.Code} {c.From} and {c.To} say the same.");
            return;
        }

        Screen.Table(
            ["what", c.From, c.To],
            c.Differences.Select(d =>
                new[] { Screen.Safe(d.Path), Screen.Safe(d.Before ?? "–"), Screen.Safe(d.After ?? "–") }
            )
        );
    }

    private static string WayIn(Guide guide, string position) =>
        Reach.NotKnown(guide, [position]).Count > 0
            ? "not known yet"
            : string.Join(
                ", ",
                Reach
                    .To(guide, [position], handsIn: guide.Slot(position) is not { Soldered: true })
                    .Select(r => r.Title)
            );

    private static void Fact(string name, string? text)
    {
        if (!string.IsNullOrEmpty(text))
        {
            Screen.Marked($"[grey]{name, -12}[/]{Screen.Safe(text)}");
        }
    }

    private static string Memory(MemoryFacts memory)
    {
        var speeds = string.Join(", ", memory.Speeds);
        var confirmed = Phrases.When(
            memory.ConfirmedMax,
            c => $", confirmed {c.Size} by order {string.Join(", ", c.Orders)}"
        );
        var pairing = memory.Pairing is { } p and not "any" ? $", {p.Replace('-', ' ')}" : "";
        return (
                memory is { Generation: null, Module: null }
                    ? "generation and form not known"
                    : $"{memory.Generation ?? "generation not known"} {memory.Module ?? "form not known"}"
            )
            + Phrases.When(speeds.Length > 0, $", {speeds} MT/s")
            + (memory.StatedMax is { } most ? $", stated at most {most}" : ", maximum not known")
            + confirmed
            + Phrases.When(
                memory.SupportedTotals.Count > 0,
                $", listed {string.Join(", ", memory.SupportedTotals.Order())}"
            )
            + Phrases.When(memory.SharedGraphics, g => $", {g} kept by graphics")
            + Phrases.When(memory.Ecc, e => $", error correction {e}")
            + Phrases.When(memory.Buffering, b => $", {b}")
            + Phrases.When(memory.Voltage, v => FormattableString.Invariant($", {v} V"))
            + string.Concat(memory.PerChannel.Select(p => $", {p.Key} in a channel {p.Value} MT/s"))
            + Fill(memory)
            + Phrases.When(memory.NeverEmpty.Count > 0, $", never empty {string.Join(' ', memory.NeverEmpty)}")
            + pairing;
    }

    private static string Fill(MemoryFacts memory) =>
        memory.Populate.Any
            ? ", filled in any order"
            : string.Concat(memory.Populate.Lines.Select(l => $", {l.Key}: {string.Join(' ', l.Value)}"));

    // What stands in no column of the table.
    private static IEnumerable<(string What, string? Text)> Ways(Removal r) =>
        [
            ("off", Of(r, r.Open)),
            ("off", Of(r, r.Isolates ? "only then is the board without power" : null)),
            ("off", Of(r, r.TakesOut.Count > 0 ? $"takes out {Phrases.Listed(r.TakesOut)}" : null)),
            .. r.Fasteners.Where(f => f.Hidden is not null).Select(f => ("hidden", Of(r, $"{f.Group}, {f.Hidden}"))),
            .. r.Fasteners.Where(f => f.Order is not null).Select(f => ("order", Of(r, $"{f.Group}, {f.Order}"))),
            .. r.Clips.Select(c =>
                (
                    "clips",
                    Of(r, $"{c.Count}{Phrases.When(c.Text, t => $", {t}")}{Phrases.When(c.Order, o => $"; {o}")}")
                )
            ),
            .. r.Pry.Select(p => ("pry", Of(r, $"{p.Tool}{Phrases.When(p.Text, t => $", {t}")}"))),
            .. r.Cables.Select(c => ("cable", Of(r, c))),
            ("pads", Of(r, r.PadsStay)),
            (
                "pictures",
                Of(
                    r,
                    r.Pictures.Open.Count + r.Pictures.Close.Count is > 0 and var count
                        ? Phrases.Counted(count, "picture", "pictures")
                        : null
                )
            ),
            ("back", Of(r, r.Close)),
            ("back", Of(r, r.Orient)),
            ("back", Of(r, Phrases.When(r.SitsRight, s => $"it sits right when {s}"))),
        ];

    private static string? Of(Removal r, string? text) => string.IsNullOrEmpty(text) ? null : $"{r.Title}: {text}";

    private static string Warning(Precaution p) => p.AtOpening ? p.Text : $"Closing: {p.Text}";

    private static string Fasteners(FastenerGroup f) =>
        $"{f.Count} × {f.Driver}{Phrases.When(f.Length, mm => $" {mm} mm")}{Phrases.When(f.Captive, " captive")}"
        + Phrases.When(f.Seal, " sealed")
        + Phrases.When(f.ByHand, " by hand")
        + Phrases.When(f.ExactFit, " exact bit");

    private static string Lasts(FirstStartSign sign) => Phrases.When(sign.Lasts, l => $", up to {Durations.Text(l)}");
}
