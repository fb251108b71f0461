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
                                new[] { d.Pad is { } pad ? $"pad {pad} mm" : null, d.Standoff, d.Hold }.OfType<string>()
                            )
                        ),
                    }
                )
            );
        }

        Fact("isolate", string.Join("; ", guide.Isolate.Select(i => i.Sentence)));
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
        foreach (var sign in guide.FirstStart)
        {
            Fact("at start", $"{sign.Sees}{Lasts(sign)}: {sign.Meaning}{Phrases.When(sign.Do, d => $", {d}")}");
        }

        Fact(
            "firmware",
            guide.Firmware is { } f ? $"{f.Enter}{Phrases.When(f.RatedSpeed, s => $"; rated speed: {s}")}" : null
        );
        Fact("open", guide.MeasureOpen);
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
            + pairing;
    }

    private static string Warning(Precaution p) => p.AtOpening ? p.Text : $"Closing: {p.Text}";

    private static string Fasteners(FastenerGroup f) =>
        $"{f.Count} × {f.Driver}{Phrases.When(f.Length, mm => $" {mm} mm")}{Phrases.When(f.Captive, " captive")}"
        + Phrases.When(f.Seal, " sealed");

    private static string Lasts(FirstStartSign sign) => Phrases.When(sign.Lasts, l => $", up to {Durations.Text(l)}");
}
