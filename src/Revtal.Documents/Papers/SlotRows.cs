using Revtal.Core.Checks;
using Revtal.Core.Reports;
using SkiaSharp;

namespace Revtal.Documents.Papers;

/// <summary>
/// Slots in three rows, as on every screen: before hollow, planned hatched, after solid; a line joins what stayed.
/// </summary>
internal static class SlotRows
{
    private const float Label = 52,
        Widest = 92,
        Narrowest = 62,
        Cell = 20,
        Gap = 6;

    private static readonly string[] Rows = ["before", "planned", "after"];

    private enum Fill
    {
        Hollow,
        Hatched,
        Solid,
    }

    /// <summary>Draws them below what was written, as many beside each other as the page is wide.</summary>
    /// <param name="named">Whether part number and serial of what was read stand under each.</param>
    public static void Draw(Paper paper, IReadOnlyList<ReportSlot> slots, bool named)
    {
        var room = paper.Right - Paper.Margin - Label;
        var lines = (slots.Count + (int)(room / Narrowest) - 1) / (int)(room / Narrowest);
        // As many in each line.
        var across = (slots.Count + lines - 1) / Math.Max(1, lines);
        // Before the work there is nothing to draw of after it.
        var rows = slots.Any(s => s.After.Length > 0) ? Rows : Rows[..^1];
        foreach (var line in slots.Chunk(Math.Max(1, across)))
        {
            paper.Together(() => Line(paper, line, rows, Math.Min(Widest, room / across), named));
        }
    }

    private static void Line(Paper paper, ReportSlot[] slots, string[] rows, float width, bool named)
    {
        var (small, mono) = (Paper.Text(8), Paper.Mono(7.5f));
        var top = paper.Y + 4;
        for (var row = 0; row < rows.Length; row++)
        {
            paper.Beside(rows[row], Paper.Margin, RowTop(top, row) + 13, small, Paper.Grey);
        }

        for (var i = 0; i < slots.Length; i++)
        {
            var (slot, x) = (slots[i], Paper.Margin + Label + (i * width));
            paper.Beside(slot.Slot, x, top + 8, Paper.Bold(9), Paper.Ink);
            Box(paper, slot.Before, slot.BeforeBytes, x, RowTop(top, 0), width - 8, Fill.Hollow);
            Box(paper, slot.Planned, slot.PlannedBytes, x, RowTop(top, 1), width - 8, Fill.Hatched);
            if (rows.Length == Rows.Length)
            {
                After(paper, slot, x, RowTop(top, 2), width - 8);
            }

            if (slot is { Stays: true, BeforeBytes: > 0 } && !IsWrong(slot))
            {
                Joined(paper, x + width - 14, top, rows.Length);
            }

            if (named)
            {
                var below = RowTop(top, rows.Length) + 6;
                Told(paper, slot.Part, x, below, width, mono);
                Told(paper, slot.Serial, x, below + 9, width, mono);
            }
        }

        paper.Y = RowTop(top, rows.Length) + (named ? 20 : 4);
    }

    private static bool IsWrong(ReportSlot slot) =>
        slot.Match is SlotMatch.Missing or SlotMatch.Different or SlotMatch.Unplanned;

    // What is not as planned is the loudest on the page.
    private static void After(Paper paper, ReportSlot slot, float x, float y, float width)
    {
        var wrong = IsWrong(slot);
        Box(paper, wrong ? $"! {slot.After}" : slot.After, wrong ? null : slot.AfterBytes, x, y, width, Fill.Solid);
        if (wrong)
        {
            paper.Canvas.DrawRect(x, y, width, Cell, Paper.Thick);
        }
    }

    private static float RowTop(float top, int row) => top + 13 + (row * (Cell + Gap));

    // What is empty or unknown has no fill, whichever row it is in.
    private static void Box(Paper paper, string text, long? bytes, float x, float y, float width, Fill fill)
    {
        var style = Paper.Text(9.5f);
        var said = new TextLine(Paper.Cut(text, style, width - 8), style);
        var isFilled = bytes > 0;
        if (isFilled && fill == Fill.Solid)
        {
            paper.Canvas.DrawRect(x, y, width, Cell, Paper.Solid);
        }
        else if (isFilled && fill == Fill.Hatched)
        {
            Hatch(paper.Canvas, SKRect.Create(x, y, width, Cell));
            // Letters stand free of the hatching.
            paper.Canvas.DrawRect(x + 2.5f, y + 4, said.Width + 4, Cell - 8, Paper.White);
        }

        paper.Canvas.DrawRect(x, y, width, Cell, isFilled ? Paper.Line : Paper.Hair);
        said.Draw(paper.Canvas, x + 4, y + 13.5f, isFilled && fill == Fill.Solid ? Paper.White : Paper.Ink);
    }

    private static void Hatch(SKCanvas canvas, SKRect box)
    {
        canvas.Save();
        canvas.ClipRect(box);
        for (var x = box.Left - box.Height; x < box.Right; x += 4)
        {
            canvas.DrawLine(x, box.Bottom, x + box.Height, box.Top, Paper.Hair);
        }

        canvas.Restore();
    }

    private static void Joined(Paper paper, float x, float top, int rows)
    {
        for (var row = 0; row < rows - 1; row++)
        {
            paper.Canvas.DrawLine(x, RowTop(top, row) + Cell, x, RowTop(top, row + 1), Paper.Line);
        }
    }

    private static void Told(Paper paper, string? text, float x, float y, float width, Style style)
    {
        if (text is not null)
        {
            paper.Beside(Paper.Cut(text, style, width - 4), x, y, style, Paper.Grey);
        }
    }
}
