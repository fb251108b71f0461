namespace Revtal.Core.Planning;

/// <summary>How heavy a note on the fit weighs.</summary>
public enum FitWeight
{
    /// <summary>It works; this should be known before.</summary>
    Remark,

    /// <summary>It may work; a lead decides.</summary>
    Lead,

    /// <summary>It does not work.</summary>
    Refusal,
}

/// <summary>One thing noticed about what is planned for a position, or for the whole machine.</summary>
/// <param name="Code">Stable, for scripts: <c>wrong-generation</c>.</param>
/// <param name="Position">The slot or bay; null for the machine.</param>
/// <param name="Takes">What the machine has or wants.</param>
/// <param name="Has">What the part is.</param>
/// <param name="Source">Where the first value comes from: guide, reading, or the standard.</param>
public sealed record FitNote(
    string Code,
    FitWeight Weight,
    string? Position,
    string Sentence,
    string Takes,
    string Has,
    string Source
)
{
    /// <summary>The same sentence said of several positions at once; null where it names none.</summary>
    internal Func<string, string>? OfSeveral { get; init; }

    /// <summary>One note for all of these, which say the same of different positions.</summary>
    internal static FitNote Joined(IReadOnlyList<FitNote> alike)
    {
        var first = alike[0];
        var positions = alike.Select(n => n.Position).OfType<string>().ToArray();
        return alike.Count == 1
            ? first
            : first with
            {
                Position = string.Join(", ", positions),
                Sentence = first.OfSeveral?.Invoke(Phrases.Listed(positions)) ?? first.Sentence,
            };
    }

    internal RefusedException Refuse() => RefusedException.Invalid(Code, Sentence);
}
