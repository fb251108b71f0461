using Revtal.Core.Guides;

namespace Revtal.Core.Bench;

/// <summary>Fasteners of one group: how many the guide counts, how many came out, how many are back.</summary>
/// <param name="Group">Null where a removal has no loose fasteners.</param>
/// <param name="Length">Under the head, in mm.</param>
/// <param name="Out">Null before the part is off.</param>
/// <param name="Back">Null before it is on again.</param>
public sealed record TallyLine(
    string Removal,
    string Title,
    string? Group,
    string? Driver,
    decimal? Length,
    int Guide,
    int? Out,
    int? Back,
    string? Explanation
);

/// <summary>Fasteners out against fasteners back over a whole run.</summary>
public sealed record Tally(IReadOnlyList<TallyLine> Lines)
{
    /// <summary>Fasteners that came out, over all removals.</summary>
    public int Out => Lines.Sum(l => l.Out ?? 0);

    /// <summary>Fasteners that went back.</summary>
    public int Back => Lines.Sum(l => l.Back ?? 0);

    /// <summary>Whether something that was taken off is not back yet.</summary>
    public bool IsOpen => Lines.Any(l => l.Out is not null && l.Back is null);

    /// <summary>Counted from what was confirmed.</summary>
    public static Tally Of(RunSheet sheet, RunState state)
    {
        return new Tally([
            .. sheet
                .Steps.Where(s => s.Part == RunPart.Open && s.Removal is not null && s.Id.Verb == StepVerb.Open)
                .SelectMany(Of),
        ]);

        IEnumerable<TallyLine> Of(RunStep open)
        {
            var off = state.Confirmed(open.Id);
            var on = state.Confirmed(StepId.Close(open.Removal!));
            var why = on?.Explanation ?? off?.Explanation;
            return open.Loose.Any()
                ? open.Loose.Select(
                    (g, i) =>
                        new TallyLine(
                            open.Removal!,
                            open.RemovalTitle!,
                            g.Group,
                            g.Driver,
                            g.Length,
                            g.Count,
                            Counted(off, g.Group, i),
                            Counted(on, g.Group, i),
                            why
                        )
                )
                :
                [
                    new TallyLine(
                        open.Removal!,
                        open.RemovalTitle!,
                        null,
                        null,
                        null,
                        0,
                        off is null ? null : 0,
                        on is null ? null : 0,
                        why
                    ),
                ];
        }
    }

    // Early records tell one number a removal: it stands with the first group.
    private static int? Counted(StepConfirmation? said, string group, int index) =>
        said is null ? null : said.Groups?.GetValueOrDefault(group) ?? (index == 0 ? said.Fasteners ?? 0 : 0);
}
