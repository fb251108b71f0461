using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Screens;

/// <summary>A run and its steps as a terminal shows them.</summary>
internal static class RunScreen
{
    private static string Work(RunView run) =>
        $", {(run.Mends ? "change" : "reseat")} of {string.Join(", ", run.Reseat)}";

    public static void Show(OrderView order)
    {
        var run = order.Run!;
        Screen.Marked(
            $"[bold]{order.Number}[/]  "
                + $"{Screen.Safe($"{order.Model.Maker} {order.Model.Name}")}"
                + $"{Phrases.When(order.Variant, v => $" [grey]{Screen.Safe(v)}[/]")}  run "
                + $"{run.Number}{Phrases.When(run.Reseat.Count > 0, Work(run))}"
        );
        RunPart? part = null;
        foreach (var view in run.Steps)
        {
            var step = view.Step;
            if (step.Part != part)
            {
                part = step.Part;
                Screen.Marked($"\n[grey]{step.Part.ToString().ToLowerInvariant()}[/]");
            }

            var isNext = step.Id == run.NextStep;
            var mark =
                view.Settled ? "[green]■[/]"
                : isNext ? "[yellow]▶[/]"
                : "□";
            Screen.Marked($" {mark} {step.Id, -28} {Screen.Safe(step.Title)}{Count(view)}{Confirmation(view)}");
            if (isNext)
            {
                Detail(step);
            }
        }

        Screen.Line();
        foreach (var timer in run.Timers)
        {
            Screen.Marked($"[grey]timer[/]       {StepWords.Title(timer.Step, null)}: {Left(timer)}");
        }

        foreach (var sign in run.Signs.Where(s => !s.IsOver))
        {
            Sign(sign, order.Number);
        }

        foreach (var remark in run.Remarks)
        {
            Screen.Marked($"[yellow]remark[/]      {Screen.Safe(remark.Text)} [grey]{Screen.Safe(remark.By)}[/]");
        }

        var t2 = run.Tally;
        Screen.Marked(
            $"[grey]tally[/]       {t2.Out} out, {t2.Back} back{Phrases.When(t2.IsOpen, ", [yellow]open[/]")}"
        );
        if (run.Stop is { } stop)
        {
            Screen.Marked(
                $"[red bold]stopped[/]     {stop.Kind.Spoken()}, found by {Screen.Safe(stop.By)}. A lead decides."
            );
        }

        OrderScreen.Next(order.Next);
    }

    private static void Sign(SignAnswer sign, int order)
    {
        var (mark, colour) = sign.IsNormal ? ("✓", "green") : ("✗", "red");
        var until = Phrases.When(sign.Until, u => $", until {u.ToLocalTime():HH:mm:ss}");
        Screen.Marked(
            $"[{colour}]{mark} {Screen.Safe(sign.Sees)}[/]: {Screen.Safe(sign.Meaning)}{until}"
                + Screen.Safe(Phrases.Added(sign.Do))
        );
        if (sign.Follow is { } follow)
        {
            Screen.Line($"  {follow}");
        }

        if (sign.Reseat.Count > 0)
        {
            Screen.Marked($"  [grey]revtal run reseat {order} {string.Join(' ', sign.Reseat)}[/]");
        }
    }

    /// <summary>One step, as large as a terminal can.</summary>
    public static void Step(RunStep step, RunView run, int index)
    {
        Screen.Line();
        Screen.Marked($"[grey]{step.Part.ToString().ToLowerInvariant()}, step {index + 1} of {run.Steps.Count}[/]");
        foreach (var p in step.Precautions)
        {
            Screen.Marked($"[yellow]{p.Kind}[/]  {Screen.Safe(p.Text)}");
        }

        Screen.Marked($"[bold]{Screen.Safe(step.Title)}[/]");
        Detail(step, withPrecautions: false);
    }

    public static void Stuck(IReadOnlyList<string> causes)
    {
        if (causes.Count == 0)
        {
            Screen.Line(
                "The guide knows nothing that usually holds here. Look for a fastener under a label, a foot or a "
                    + "cover; then ask a lead."
            );
        }

        foreach (var cause in causes)
        {
            Screen.Marked($"  • {Screen.Safe(cause)}");
        }
    }

    public static string Left(RunTimer timer) =>
        timer.Until - DateTimeOffset.UtcNow is { Ticks: > 0 } left
            ? $"{(int)left.TotalMinutes} min {left.Seconds:00} s left"
            : "over";

    private static void Detail(RunStep step, bool withPrecautions = true)
    {
        if (withPrecautions)
        {
            foreach (var p in step.Precautions)
            {
                Screen.Marked($"     [yellow]{p.Kind}[/] {Screen.Safe(p.Text)}");
            }
        }

        foreach (var text in step.Lines)
        {
            Screen.Marked($"     {Screen.Safe(text)}");
        }

        foreach (var trap in step.Traps)
        {
            Screen.Marked($"     [yellow]trap[/] {Screen.Safe(trap)}");
        }

        foreach (var f in step.Fasteners)
        {
            Screen.Marked(
                $"     {f.Count} × {Screen.Safe(f.Group)} "
                    + $"[grey]{f.Driver}{Phrases.When(f.Length, mm => $", {mm} mm")}"
                    + Phrases.When(f.Captive, ", captive")
                    + Phrases.When(f.Seal, ", under the seal")
                    + $"{Phrases.When(f.Hidden, h => $", {Screen.Safe(h)}")}[/]"
            );
        }

        if (step.Records.Count > 0)
        {
            Screen.Marked($"     [grey]positions[/] {Screen.Safe(string.Join(", ", step.Records))}");
        }

        foreach (var (bay, read) in step.Offers)
        {
            Screen.Marked($"     [grey]read before[/] {Screen.Safe($"{bay}={read}")}");
        }
    }

    private static string Count(StepView view) =>
        view.Done?.Fasteners is > 0 and var n ? $" [grey]({n})[/]"
        : view is { Settled: false, Step.LooseFasteners: > 0 } ? $" [grey](count {view.Step.LooseFasteners})[/]"
        : "";

    private static string Confirmation(StepView view) =>
        view switch
        {
            { Done: { } done } => $"  [grey]{Phrases.When(done.Deviation, d => $"{d.ToString().ToLowerInvariant()}, ")}"
                + $"{Screen.Safe(done.By)}, {Screen.Ago(done.At)}[/]{Screen.Safe(Phrases.Added(done.Note))}",
            { Settled: true } => "  [yellow]waived[/]",
            { Blocked: { } blocked } =>
                $"  [red]impossible:[/] {Screen.Safe(blocked.Reason)} [grey]{Screen.Safe(blocked.By)}[/]",
            _ => "",
        };
}
