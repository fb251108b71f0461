using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>The check held to machines of known state, counted by model and way of reading.</summary>
internal static class TruthTable
{
    /// <returns>0 where nothing was said that is not so.</returns>
    public static int Print()
    {
        var judged = Truths.Judged([.. Repository.Models.Select(Repository.Guide)]).ToArray();
        Console.WriteLine($"{"model", -8}{"read by", -24}{"cases", 8}{"wrong", 8}{"unsure", 8}");
        foreach (var group in judged.GroupBy(j => (j.Case.Model, j.Case.ReadBy)).Append(null))
        {
            var of = group?.ToArray() ?? judged;
            Console.WriteLine(
                $"{group?.Key.Model ?? "all", -8}{group?.Key.ReadBy, -24}{of.Length, 8}"
                    + $"{of.Count(j => j.Outcome == TruthOutcome.Wrong), 8}"
                    + $"{of.Count(j => j.Outcome == TruthOutcome.Unsure), 8}"
            );
        }

        foreach (var (truth, outcome) in judged.Where(j => j.Outcome != TruthOutcome.Right))
        {
            var check = truth.Check();
            var told = string.Join(' ', check.Findings.Select(f => f.Code));
            Console.WriteLine(
                $"{outcome.ToString().ToLowerInvariant()}: {truth.Model}, {truth.ReadBy}, {truth.Done}: "
                    + $"{check.Verdict}, {told}; due {string.Join(' ', truth.Codes)}"
            );
        }

        return judged.Any(j => j.Outcome == TruthOutcome.Wrong) ? 1 : 0;
    }
}
