namespace Revtal.Core.Parts;

/// <summary>A part goes back to who sold it.</summary>
/// <param name="Number">The supplier's.</param>
/// <param name="On">The day on which it was raised.</param>
public sealed record Claim(string Number, DateOnly On, string Reason)
{
    /// <summary>“claim R-4711 of 2026-03-04: not seen in any slot”, with its texts cleaned.</summary>
    /// <exception cref="RefusedException">The number or the reason is missing or too long.</exception>
    public string Told() =>
        $"claim {Words.RequiredLine("The claim's number", Number)} of {Phrases.Day(On)}: "
        + Words.RequiredLine("The claim's reason", Reason);
}
