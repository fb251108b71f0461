using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;

namespace Revtal.Documents.Papers;

/// <summary>Labels for the bags of what came out: framed on A4, to be cut out or slipped in.</summary>
public static class BagPaper
{
    private const float Left = Paper.Margin,
        LabelWidth = 300,
        LabelHeight = 118,
        Inset = 12,
        CodeSize = 84;
    private const float TextWidth = LabelWidth - CodeSize - (3 * Inset);

    /// <param name="labels">At least one.</param>
    /// <returns>PDF 1.4.</returns>
    public static byte[] Write(Order order, Guide guide, IReadOnlyList<BagLabel> labels, Printing printing)
    {
        using var paper = new Paper($"Bags of order {order.Number}", Paper.Foot(order.Number, printing), printing);
        var machine = $"{guide.Model.Maker} {guide.Model.Name}{Phrases.When(order.Intake.Serial, s => $", {s}")}";
        foreach (var label in labels)
        {
            paper.Together(() => Label(paper, label, [machine, order.Intake.Customer, Told(label, printing)]));
            paper.Y += 14;
        }

        return paper.Finish();
    }

    private static string Told(BagLabel label, Printing printing) =>
        $"out {printing.Day(label.OutAt)}, {label.OutBy}: {label.Fate ?? "nobody said yet what becomes of it"}";

    private static void Label(Paper paper, BagLabel label, IReadOnlyList<string> below)
    {
        var large = Paper.Bold(22);
        var bold = Paper.Bold(10.5f);
        var mono = Paper.Mono(9);
        var text = Paper.Text(9);
        var top = paper.Y;
        paper.Code(label.Scan, Left + LabelWidth - CodeSize - Inset, top + Inset, CodeSize);
        paper.Y = top + 8;
        Write(label.Code, large);
        Write(label.Part, bold);
        if (label.Mark is { } mark)
        {
            Write(mark, mono);
        }

        foreach (var line in below)
        {
            Write(line, text);
        }

        paper.Y = Math.Max(top + LabelHeight, paper.Y + 8);
        paper.Canvas.DrawRect(Left, top, LabelWidth, paper.Y - top, Paper.Line);

        void Write(string line, Style style) => paper.Write(line, Left + Inset, TextWidth, style, Paper.Ink);
    }
}
