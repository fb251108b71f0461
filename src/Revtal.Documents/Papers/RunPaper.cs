using System.Globalization;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Reports;
using SkiaSharp;

namespace Revtal.Documents.Papers;

/// <summary>The run sheet on A4, with boxes to tick and lines to write on.</summary>
public static class RunPaper
{
    private const float Left = Paper.Margin,
        Box = 11,
        Indent = Left + 22,
        CoverWidth = 132;

    /// <param name="guide">The facts of this build.</param>
    /// <returns>PDF 1.4.</returns>
    public static byte[] Write(Order order, Guide guide, RunSheet sheet, Printing printing)
    {
        using var paper = new Paper(
            $"Order {order.Number}, run {order.Run?.Number ?? 1}",
            Paper.Foot(order.Number, printing),
            printing
        );
        Head(paper, order, guide);
        var state = order.RunState;
        RunPart? part = null;
        foreach (var step in sheet.Steps)
        {
            var heading = step.Part == part ? null : step.Part.ToString().ToUpperInvariant();
            var settled = sheet.IsSettled(step, state);
            paper.Together(() => Step(paper, step, heading, state.Confirmed(step.Id), settled, printing));
            part = step.Part;
        }

        Exceptions(paper, guide, state);
        return paper.Finish();
    }

    // What a lead let be and what was found stand at the end, where who signs looks.
    private static void Exceptions(Paper paper, Guide guide, RunState state)
    {
        string[] lines =
        [
            .. state.Waivers.Select(w =>
                $"Waived by {w.By}: {w.Gate.Spoken()}{StepWords.At(w.Step, guide)}. {w.Reason}"
            ),
            .. state.Found.Select(f => Phrases.Sentence($"{f.Told}{StepWords.At(f.Step, guide)}, {f.By}. {f.Text}")),
            .. state
                .Done.Where(d => d.Deviation is not null)
                .Select(d =>
                    $"{StepWords.Title(d.Step, guide)}: {Phrases.Words(d.Deviation!.Value)}, {d.By}. {d.Explanation}"
                ),
        ];
        if (lines.Length == 0)
        {
            return;
        }

        var text = Paper.Text(9.5f);
        paper.Heading("Otherwise than the sheet");
        foreach (var line in lines)
        {
            paper.Y += 3;
            paper.Write(line, Indent, paper.Right - Indent, text, Paper.Ink);
        }
    }

    private static void Head(Paper paper, Order order, Guide guide)
    {
        paper.Code($"revtal:order:{order.Number}", paper.Right - 62, Paper.Margin, 62);
        var large = Paper.Bold(26);
        var text = Paper.Text(10.5f);
        paper.Write($"{order.Number}  {guide.Model.Maker} {guide.Model.Name}", Left, 420, large, Paper.Ink);
        paper.Write(
            string.Join(
                " · ",
                new[] { order.Variant ?? guide.Model.Code, order.Intake.Serial, order.Intake.Customer }.OfType<string>()
            ),
            Left,
            420,
            text,
            Paper.Ink
        );
        paper.Write(order.Intake.Complaint, Left, 420, text, Paper.Grey);
        if (order.Plan is { } plan)
        {
            paper.Write(new PlanSet(plan.Value, null).Line(guide), Left, 420, text, Paper.Ink);
        }

        paper.Y = Math.Max(paper.Y, Paper.Margin + 66);
        SlotRows.Draw(paper, ReportOf.Planned(order.Plan!.Value), named: false);
    }

    private static void Step(
        Paper paper,
        RunStep step,
        string? heading,
        StepConfirmation? done,
        bool settled,
        Printing printing
    )
    {
        var title = Paper.Bold(11.5f);
        var text = Paper.Text(9.5f);
        var mono = Paper.Mono(9);
        var drawn = step.Fasteners.Any(f => f.At.Count > 0);
        var width = paper.Right - Indent - (drawn ? CoverWidth + 14 : 0);
        var warnings = step
            .Precautions.Select(p => $"{p.Kind.ToUpperInvariant()}  {p.Text}")
            .Concat(step.Traps.Select(t => $"TRAP  {t}"))
            .ToArray();
        if (heading is not null)
        {
            var small = Paper.Bold(9);
            paper.Y += 12;
            paper.Write(heading, Left, 200, small, Paper.Grey);
        }

        paper.Y += 6;
        var top = paper.Y;
        paper.Canvas.DrawRect(Left, top + 2.5f, Box, Box, Paper.Line);
        if (settled)
        {
            paper.Canvas.DrawLine(Left + 2, top + 8, Left + 5, top + 11.5f, Paper.Line);
            paper.Canvas.DrawLine(Left + 5, top + 11.5f, Left + 10, top + 4, Paper.Line);
        }

        paper.Write(step.Title, Indent, width, title, Paper.Ink);
        foreach (var warning in warnings)
        {
            var from = paper.Y + 2;
            paper.Y += 3;
            paper.Write(warning, Indent + 8, width - 8, text, Paper.Ink);
            // From the top of the page where the text turned it.
            var bar = Math.Min(from, paper.Y - 12);
            using var ink = new SKPaint { Color = Paper.Ink.Color };
            paper.Canvas.DrawRect(Indent, bar, 3, paper.Y - bar + 1, ink);
            paper.Y += 2;
        }

        foreach (var detail in step.Lines)
        {
            paper.Write(detail, Indent, width, text, Paper.Ink);
        }

        foreach (var group in step.Fasteners)
        {
            var told = done?.Groups?.GetValueOrDefault(group.Group).ToString(CultureInfo.InvariantCulture) ?? "____";
            var size = group.Length is { } mm ? string.Create(CultureInfo.InvariantCulture, $" {mm} mm") : "";
            var count = group.Captive ? "stay in" : $"{told} {(step.Part == RunPart.Open ? "out" : "back")}";
            paper.Y += 3;
            paper.Write(
                $"{group.Count} × {group.Group}, {group.Driver}{size}: "
                    + $"{count}{Phrases.When(group.Hidden, h => $"  ({h})")}",
                Indent,
                width,
                mono,
                Paper.Ink
            );
        }

        foreach (var position in step.Records)
        {
            paper.Y += 4;
            paper.Write(
                $"{position}  {done?.Occupants?.GetValueOrDefault(position) ?? "________________________________"}",
                Indent,
                width,
                mono,
                Paper.Ink
            );
        }

        if (done is not null)
        {
            paper.Write(
                $"{done.By}, {printing.Minute(done.At)}{Phrases.When(done.Explanation, why => $": {why}")}",
                Indent,
                width,
                text,
                Paper.Grey
            );
        }

        if (drawn)
        {
            Cover(paper, step, paper.Right - CoverWidth, top + 4);
            paper.Y = Math.Max(paper.Y, top + 96);
        }
    }

    // Groups differ by shape as on the screen, so that a black printer tells them apart.
    private static void Cover(Paper paper, RunStep step, float x, float y)
    {
        var canvas = paper.Canvas;
        const float Height = CoverWidth * 2 / 3;
        canvas.DrawRoundRect(x, y, CoverWidth, Height, 4, 4, Paper.Line);
        var loose = 0;
        foreach (var (group, k) in step.Fasteners.Select((g, k) => (g, k)))
        {
            foreach (var at in group.At)
            {
                var (cx, cy) = (x + 8 + (float)(at.X * (CoverWidth - 16)), y + 8 + (float)(at.Y * (Height - 16)));
                using var path = ShapePaths.Of(step.Shapes[k], 5.2f);
                canvas.Save();
                canvas.Translate(cx, cy);
                canvas.DrawPath(path, Paper.Line);
                canvas.Restore();
                loose++;
            }
        }

        var font = Paper.Text(7.5f);
        var face = loose > 0 ? Paper.Cut(step.Face ?? "", font, CoverWidth) : "";
        paper.Beside(face, x + 3, y + Height + 8, font, Paper.Grey);
    }
}
