using System.Globalization;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Checks;
using Revtal.Core.Reports;

namespace Revtal.CommandLine.Screens;

/// <summary>Reports and proofs as a terminal shows them.</summary>
internal static class ReportScreen
{
    public static void Show(Report report)
    {
        Screen.Marked(
            $"[bold]{report.Order}[/]  {Screen.Safe(report.Machine)} [grey]{Screen.Safe(report.Model)}"
                + $"{Screen.Safe(Phrases.When(report.Serial, s => $" · {s}"))}[/]  {Screen.Safe(report.Customer)}"
        );
        OrderScreen.Outcome(report.Verdict, report.Sentence);
        Screen.Table(
            ["", "before", "planned", "after", "part", "serial"],
            [
                .. report.Slots.Select(s =>
                    new[] { s.Slot, s.Before, s.Planned, Off(s.Match) + s.After, s.Part ?? "", s.Serial ?? "" }
                ),
                .. report.Drives.Select(d =>
                    new[]
                    {
                        d.Bay,
                        d.Before ?? "empty",
                        d.Planned ?? "empty",
                        Off(d.Match) + (d.After ?? (d.Match == SlotMatch.Unknown ? "not read" : "not seen")),
                        d.Part ?? "",
                        d.Serial ?? "",
                    }
                ),
            ]
        );
        foreach (var drive in report.Drives.Where(d => d.Health is not null))
        {
            OrderScreen.Fact(drive.Bay, drive.Health);
        }

        Fitted(report.Fitted);
        Figures(report.Figures);
        List("done", report.Done);
        List("found", report.Found);
        List("let be", report.LetBe);
        List("came out", report.CameOut);
        OrderScreen.Fact("watched", report.Watched);
        OrderScreen.Fact("next visit", report.Later);
    }

    public static void Made(ReportView view)
    {
        if (view is not { Proof: { } proof, MadeAt: { } at })
        {
            Screen.Marked("[yellow]Not made yet:[/] revtal report make " + view.Report.Order);
            return;
        }

        Screen.Marked($"[grey]proof[/] [bold]{proof}[/] [grey]made {Screen.Time(at)}, {Screen.Safe(view.MadeBy)}[/]");
        if (!view.IsCurrent)
        {
            Screen.Marked("[yellow]More was recorded since:[/] revtal report make " + view.Report.Order);
        }
    }

    public static void Proof(ProofView view)
    {
        if (!view.Genuine)
        {
            return;
        }

        Screen.Marked($"[green]✓[/] {Screen.Safe(view.Sentence)}");
        Screen.Marked(
            $"[grey]proof {view.Id}, {Screen.Time(view.At!.Value)}, key {view.Key}"
                + $"{(view.IsLast == true ? "" : "; a later report took its place")}[/]"
        );
        Show(view.Report!);
    }

    public static void Mark(ProofMark mark)
    {
        Screen.Marked(
            $"[green]✓[/] {Screen.Safe(mark.Shop)} made this proof: order {mark.Order}, {Screen.Safe(mark.Machine)}, "
                + Screen.Time(mark.At)
        );
        OrderScreen.Outcome(mark.Verdict, mark.Sentence);
        if (!mark.IsLast)
        {
            Screen.Marked("[yellow]A later report took its place.[/]");
        }
    }

    private static string Off(SlotMatch match) => match is SlotMatch.Same or SlotMatch.Unknown ? "" : "≠ ";

    private static void Fitted(IReadOnlyList<ReportPart> parts)
    {
        if (parts.Count > 0)
        {
            Screen.Table(
                ["fitted", "part", "serial", "warranty"],
                parts.Select(f =>
                    new[]
                    {
                        f.Position,
                        f.Name,
                        f.Serial ?? "not known",
                        f.WarrantyUntil is { } until ? $"until {Phrases.Day(until)}"
                        : f.WarrantyMonths is { } months ? $"{months} months from the hand-back"
                        : "not told",
                    }
                )
            );
        }
    }

    private static void Figures(IReadOnlyList<ReportFigure> figures)
    {
        if (figures.Count > 0)
        {
            Screen.Table(
                ["figure", "before", "after", "%"],
                figures.Select(f =>
                    new[] { $"{f.Name}, {f.Unit}", Number(f.Before), Number(f.After), Number(f.Percent) }
                )
            );
        }
    }

    private static string Number(decimal? value) => value?.ToString("0.###", CultureInfo.InvariantCulture) ?? "";

    private static void List(string name, IReadOnlyList<string> lines)
    {
        for (var i = 0; i < lines.Count; i++)
        {
            OrderScreen.Fact(i == 0 ? name : "", lines[i]);
        }
    }
}
