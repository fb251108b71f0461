using System.Globalization;
using Revtal.Core.Parts;

namespace Revtal.Documents.Papers;

/// <summary>What things cost, a line each, the amounts under each other at the right edge.</summary>
internal sealed class Prices(Paper paper, string currency)
{
    private const float Amounts = 90;

    private static readonly Style Plain = Paper.Text(10.5f);
    private static readonly Style Strong = Paper.Bold(12);
    private static readonly Style Figures = Paper.Mono(10.5f);

    /// <summary>Where what is written beside the amounts ends.</summary>
    public float Column => paper.Right - Amounts;

    /// <summary>“12.50”: the currency stands at the total.</summary>
    public string Number(decimal amount) =>
        amount.ToString($"F{Currency.Decimals(currency)}", CultureInfo.InvariantCulture);

    public void Line(QuoteLine line) =>
        Amount(
            line.Count == 1 ? line.Text : $"{line.Count} × {line.Text}",
            line.Each is null ? "to be told" : Number(line.Sum)
        );

    public void Discount(decimal percent, decimal discount)
    {
        if (discount > 0)
        {
            Amount(string.Create(CultureInfo.InvariantCulture, $"Discount, {percent:0.##} %"), Less(discount));
        }
    }

    public void Tax(decimal net, decimal percent, decimal tax)
    {
        if (percent > 0)
        {
            Amount("Net", Number(net));
            Amount(string.Create(CultureInfo.InvariantCulture, $"Tax, {percent:0.##} %"), Number(tax));
        }
    }

    /// <summary>Under a line, larger than the rest.</summary>
    public void Total(string what, decimal amount)
    {
        paper.Canvas.DrawLine(Paper.Margin, paper.Y + 5, paper.Right, paper.Y + 5, Paper.Line);
        paper.Y += 8 + (Strong.Size * 1.3f);
        paper.Beside($"{what} in {currency}", Paper.Margin, paper.Y, Strong, Paper.Ink);
        paper.BesideRight(Number(amount), paper.Right, paper.Y, Strong, Paper.Ink);
    }

    public void Amount(string what, string amount) =>
        paper.Together(() =>
        {
            paper.Y += 2;
            paper.Write(what, Paper.Margin, Column - Paper.Margin, Plain, Paper.Ink);
            paper.BesideRight(amount, paper.Right, paper.Y - 3, Figures, Paper.Ink);
        });

    /// <summary>What is taken off.</summary>
    public string Less(decimal amount) => $"−{Number(amount)}";
}
