using Revtal.Core.Checks;
using Revtal.Core.Guides;

namespace Revtal.Tests;

/// <summary>What was done to one simulated machine, how it was read, and what is true of it.</summary>
/// <param name="Codes">The findings on drives that are due: all of them, and no other.</param>
/// <param name="Bay">The bay that the first of them is about; null for none or several.</param>
/// <param name="Worst">What the verdict may say at best.</param>
internal sealed record TruthCase(
    string Model,
    string Done,
    string ReadBy,
    Func<CheckResult> Check,
    string[] Codes,
    string? Bay,
    Verdict Worst
);

/// <summary>How a case came out.</summary>
internal enum TruthOutcome
{
    Right,

    /// <summary>The check left open what it could not know.</summary>
    Unsure,

    /// <summary>The check was sure of something that is not so.</summary>
    Wrong,
}

/// <summary>All that was done to simulated machines, and what the check makes of it.</summary>
internal static class Truths
{
    public static IEnumerable<(TruthCase Case, TruthOutcome Outcome)> Judged(IReadOnlyList<Guide> guides) =>
        [
            .. DriveTruth.Cases(guides).Select(c => (c, DriveTruth.Judge(c))),
            .. MemoryTruth.Cases(guides).Select(c => (c, MemoryTruth.Judge(c))),
        ];

    /// <summary>Whether a verdict promises more than is so.</summary>
    public static bool IsBetter(Verdict said, Verdict worst) => Rank(said) < Rank(worst);

    private static int Rank(Verdict verdict) =>
        verdict switch
        {
            Verdict.AsPlanned => 0,
            Verdict.WithRemarks => 1,
            _ => 2,
        };
}
