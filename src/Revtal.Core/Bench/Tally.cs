namespace Revtal.Core.Bench;

/// <summary>Fasteners of one removal: how many the guide counts, how many came out, how many are back.</summary>
/// <param name="Out">Null before the part is off.</param>
/// <param name="Back">Null before it is on again.</param>
public sealed record TallyLine(string Removal, int Guide, int? Out, int? Back, string? Explanation);

/// <summary>Fasteners out against fasteners back over a whole run.</summary>
public sealed record Tally(IReadOnlyList<TallyLine> Lines)
{
    public int Out => Lines.Sum(l => l.Out ?? 0);

    public int Back => Lines.Sum(l => l.Back ?? 0);

    /// <summary>Whether something that was taken off is not back yet.</summary>
    public bool IsOpen => Lines.Any(l => l.Out is not null && l.Back is null);

    public static Tally Of(RunSheet sheet, IReadOnlyList<StepConfirmation> done)
    {
        return new Tally([.. sheet.Steps.Where(s => s.Part == RunPart.Open).Select(Line)]);

        TallyLine Line(RunStep open)
        {
            var off = done.FirstOrDefault(d => d.Step == open.Id);
            var on = done.FirstOrDefault(d => d.Step == $"close.{open.Removal}");
            return new TallyLine(open.Removal!, open.LooseFasteners, off?.Fasteners, on?.Fasteners, on?.Explanation ?? off?.Explanation);
        }
    }
}
