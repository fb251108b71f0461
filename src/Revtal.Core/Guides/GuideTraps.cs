namespace Revtal.Core.Guides;

/// <summary>A guide's traps where they happen.</summary>
public static class GuideTraps
{
    /// <summary>The texts by the step as it is written, and by each kind of step; only places that have one.</summary>
    public static IReadOnlyDictionary<string, string[]> ByPlace(Guide guide)
    {
        var steps = guide
            .Removals.SelectMany(r => (StepId[])[StepId.Open(r.Id), StepId.Close(r.Id)])
            .Concat(guide.Positions.SelectMany(p => (StepId[])[StepId.Pull(p), StepId.Fit(p)]));
        var places = new Dictionary<string, string[]>();
        foreach (var step in steps)
        {
            Put(step.ToString(), t => t.StandsAt(step));
        }

        foreach (var verb in Enum.GetValues<StepVerb>())
        {
            Put(StepId.Word(verb), t => t.StandsAt(verb));
        }

        return places;

        void Put(string place, Func<Trap, bool> stands)
        {
            if (guide.Traps.Where(stands).Select(t => t.Text).ToArray() is { Length: > 0 } texts)
            {
                places[place] = texts;
            }
        }
    }
}
