namespace Revtal.Core.Guides;

/// <summary>What a machine showed at a start that was not normal.</summary>
/// <param name="Sees">“3 short beeps”, as it was told.</param>
/// <param name="Known">What the guide knows of it; null where it knows nothing.</param>
public sealed record StartSign(string Sees, FirstStartSign? Known)
{
    /// <summary>The guide says that nothing is wrong.</summary>
    public bool IsNormal => Known?.IsNormal == true;

    /// <summary>“At its start it showed: 3 short beeps (not seated).”</summary>
    public string Sentence =>
        $"At its start it showed: {Sees} ({(Known is { } known ? known.Meaning : "not in the guide")}).";

    /// <summary>What ends it.</summary>
    public string Ends => $"{Does} Start it again, and record a normal start.";

    private string Does =>
        Known?.Do is { } act ? Phrases.Sentence(act)
        : Known?.Follow is SignFollow.Reseat or SignFollow.ReseatDrives ? "Seat what was fitted anew."
        : "Find out what it means.";

    /// <summary>What was seen, with what the guide knows of it.</summary>
    public static StartSign Of(Guide guide, string sees) =>
        new(
            sees,
            guide.FirstStart.FirstOrDefault(s => string.Equals(s.Sees, sees, StringComparison.OrdinalIgnoreCase))
        );
}
