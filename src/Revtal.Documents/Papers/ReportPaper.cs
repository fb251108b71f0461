using System.Globalization;
using Revtal.Core;
using Revtal.Core.Checks;
using Revtal.Core.Hardware;
using Revtal.Core.Reports;

namespace Revtal.Documents.Papers;

/// <summary>The report that the customer takes home, written from the facts that were signed alone.</summary>
public static class ReportPaper
{
    private const float Left = Paper.Margin,
        CodeSize = 74;

    private static readonly Style Words = Paper.Text(10);

    /// <param name="proof">The id of its proof; null for one that was not made yet, which says so.</param>
    /// <param name="address">Where the proof is checked, and its QR code leads; null where customers reach no page of
    /// the shop: the code is the id then.</param>
    /// <returns>PDF 1.4.</returns>
    public static byte[] Write(Report report, string? proof, string? address, Printing printing)
    {
        using var paper = new Paper(
            $"Report of order {report.Order}",
            $"{printing.Shop} · order {report.Order} · "
                + $"{(proof is null ? "not made yet" : $"proof {proof}")} · {printing.Minute(report.At)}",
            printing
        );
        Head(paper, report, proof, address, printing);
        Verdict(paper, report);
        if (report.Slots.Count > 0)
        {
            paper.Heading("Memory");
            SlotRows.Draw(paper, report.Slots, named: true);
            Total(paper, "Installed", report.Installed);
            Total(paper, "For the system to use", report.Usable);
        }

        Drives(paper, report);
        List(paper, "What was done", report.Done);
        Fitted(paper, report);
        Figures(paper, report);
        List(paper, "What was found", report.Found);
        List(paper, "What was let be", report.LetBe);
        List(paper, "What came out", report.CameOut);
        List(paper, "What was watched", report.Watched is { } watched ? [watched] : []);
        List(paper, "For the next visit", report.Later is { } later ? [later] : []);
        Proof(paper, proof, address);
        return paper.Finish();
    }

    private static void Head(Paper paper, Report report, string? proof, string? address, Printing printing)
    {
        var width = paper.Right - Left - CodeSize - 16;
        if (proof is not null)
        {
            paper.Code(address ?? proof, paper.Right - CodeSize, Paper.Margin - 6, CodeSize);
        }

        paper.Write(report.Shop, Left, width, Paper.Text(10), Paper.Grey);
        paper.Write(report.Machine, Left, width, Paper.Bold(22), Paper.Ink);
        paper.Write(
            $"Order {report.Order} · {report.Model}{Phrases.When(report.Serial, s => $" · {s}")} · {report.Customer}",
            Left,
            width,
            Words,
            Paper.Ink
        );
        paper.Write(
            $"taken in {printing.Day(report.TakenInAt)}"
                + Phrases.When(report.HandedBackAt, at => $", handed back {printing.Day(at)}"),
            Left,
            width,
            Words,
            Paper.Grey
        );
        paper.Y = Math.Max(paper.Y, Paper.Margin + CodeSize - 8);
        paper.Y += 4;
        string?[] words = [$"You asked: {report.Complaint}", report.Goal is { } goal ? $"You wished: {goal}" : null];
        foreach (var line in words.OfType<string>())
        {
            paper.Write(line, Left, paper.Right - Left, Words, Paper.Ink);
        }
    }

    private static void Verdict(Paper paper, Report report)
    {
        paper.Y += 8;
        var mark = report.Verdict switch
        {
            Core.Checks.Verdict.AsPlanned => "✓",
            Core.Checks.Verdict.WithRemarks => "✓",
            Core.Checks.Verdict.Unknown => "?",
            _ => "!",
        };
        paper.Together(() =>
        {
            var top = paper.Y;
            paper.Y += 5;
            paper.Write(
                $"{mark} {Phrases.Sentence(report.Verdict.Spoken())}. {report.Sentence}",
                Left + 12,
                paper.Right - Left - 24,
                Paper.Bold(13),
                Paper.Ink
            );
            paper.Y += 6;
            paper.Canvas.DrawRoundRect(Left, top, paper.Right - Left, paper.Y - top, 4, 4, Paper.Line);
        });
    }

    private static void Total(Paper paper, string name, CheckTotal total)
    {
        if (total.After is null && total.Before is null)
        {
            return;
        }

        paper.Write(
            $"{name}: {Size(total.Before)} before, {Planned(total)} planned, {Size(total.After)} measured.",
            Left,
            paper.Right - Left,
            Words,
            Paper.Ink
        );
    }

    private static string Planned(CheckTotal total) =>
        total.PlannedLow == total.PlannedHigh
            ? Size(total.PlannedLow)
            : $"{Size(total.PlannedLow)} to {Size(total.PlannedHigh)}";

    private static string Size(long? bytes) => bytes is { } b ? new MemorySize(b).ToString() : "unknown";

    private static void Drives(Paper paper, Report report)
    {
        if (report.Drives.Count == 0)
        {
            return;
        }

        paper.Heading("Drives");
        float[] columns = [Left, Left + 44, Left + 140, Left + 236, Left + 332, paper.Right + 8];
        paper.Row(columns, ["", "before", "planned", "measured", "model, serial"], Paper.Text(8), Paper.Grey);
        foreach (var drive in report.Drives)
        {
            paper.Row(
                columns,
                [
                    drive.Bay,
                    drive.Before ?? "empty",
                    drive.Planned ?? "empty",
                    drive.Match switch
                    {
                        SlotMatch.Missing => "! not seen",
                        SlotMatch.Unknown when drive.After is null => "not read",
                        SlotMatch.Different or SlotMatch.Unplanned => $"! {drive.After}",
                        _ => drive.After ?? "empty",
                    },
                    string.Join(", ", new[] { drive.Part, drive.Serial }.OfType<string>()),
                ],
                Paper.Text(9.5f),
                Paper.Ink
            );
            if (drive.Health is { } health)
            {
                paper.Y -= 2;
                paper.Write(health, columns[1], paper.Right - columns[1], Paper.Text(8.5f), Paper.Grey);
                paper.Y += 2;
            }
        }
    }

    private static void Fitted(Paper paper, Report report)
    {
        if (report.Fitted.Count == 0)
        {
            return;
        }

        paper.Heading("What was fitted");
        float[] columns = [Left, Left + 44, Left + 250, Left + 380, paper.Right + 8];
        paper.Row(columns, ["", "part", "serial", "warranty"], Paper.Text(8), Paper.Grey);
        foreach (var part in report.Fitted)
        {
            paper.Row(
                columns,
                [
                    part.Position,
                    part.Number is { } number && !part.Name.Contains(number, StringComparison.Ordinal)
                        ? $"{part.Name} ({number})"
                        : part.Name,
                    part.Serial ?? "not known",
                    part.WarrantyUntil is { } until ? $"until {Phrases.Day(until)}"
                    : part.WarrantyMonths is { } months
                        ? string.Create(CultureInfo.InvariantCulture, $"{months} months from the hand-back")
                    : "not told",
                ],
                Paper.Text(9.5f),
                Paper.Ink
            );
        }
    }

    private static void Figures(Paper paper, Report report)
    {
        if (report.Figures.Count == 0)
        {
            return;
        }

        paper.Heading("What was measured besides");
        float[] columns = [Left, Left + 230, Left + 310, Left + 390, paper.Right + 8];
        paper.Row(columns, ["", "before", "after", "difference"], Paper.Text(8), Paper.Grey);
        foreach (var figure in report.Figures)
        {
            paper.Row(
                columns,
                [$"{figure.Name}, {figure.Unit}", Number(figure.Before), Number(figure.After), Change(figure)],
                Paper.Text(9.5f),
                Paper.Ink
            );
        }
    }

    private static string Number(decimal? value) =>
        value is { } v ? v.ToString("0.###", CultureInfo.InvariantCulture) : "not measured";

    private static string Change(ReportFigure figure) =>
        figure.Percent is { } percent
            ? string.Create(CultureInfo.InvariantCulture, $"{(percent > 0 ? "+" : "−")}{Math.Abs(percent):0.#} %")
                + figure.Better switch
                {
                    true => ", better",
                    false => ", worse",
                    null => "",
                }
            : "";

    private static void List(Paper paper, string title, IReadOnlyList<string> lines)
    {
        if (lines.Count == 0)
        {
            return;
        }

        paper.Heading(title);
        foreach (var line in lines)
        {
            paper.Write(line, Left, paper.Right - Left, Words, Paper.Ink);
            paper.Y += 1;
        }
    }

    private static void Proof(Paper paper, string? proof, string? address) =>
        paper.Together(() =>
        {
            paper.Y += 14;
            paper.Write(
                (proof, address) switch
                {
                    (null, _) => "This report was not made yet: nothing vouches for it.",
                    (_, null) => $"What stands here was signed by the shop as {proof}. Ask it whether it is unchanged.",
                    _ => $"What stands here was signed by the shop. Whether it is unchanged is told at {address}, "
                        + $"without an account, by its id {proof} or by the proof's file.",
                },
                Left,
                paper.Right - Left,
                Paper.Text(8.5f),
                Paper.Grey
            );
        });
}
