using Xunit;

namespace Revtal.Tests.Core;

/// <summary>The check held to machines of known state: it may be unsure, and is never sure of what is not so.</summary>
public sealed class TruthTests
{
    [Fact]
    public void Of_no_machine_is_anything_said_of_its_drives_that_is_not_so()
    {
        var cases = DriveTruth.Cases(Repository.Models.Select(Repository.Guide)).ToArray();
        Assert.True(cases.Length > 150, $"{cases.Length}");
        Assert.Equal(
            [],
            cases
                .Where(c => DriveTruth.Judge(c) == TruthOutcome.Wrong)
                .Select(c => $"{c.Model}, {c.ReadBy}, {c.Done}: {Told(c)}, not {string.Join(' ', c.Codes)}")
        );
    }

    private static string Told(TruthCase truth)
    {
        var check = truth.Check();
        return $"{check.Verdict} {string.Join(' ', check.Findings.Select(f => f.Code))}";
    }
}
