using Revtal.Core.Checks;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>The check held to machines of known state: it may be unsure, and is never sure of what is not so.</summary>
public sealed class TruthTests
{
    [Fact]
    public void Of_no_machine_is_anything_said_that_is_not_so()
    {
        var judged = Truths.Judged([.. Repository.Models.Select(Repository.Guide)]).ToArray();
        Assert.True(judged.Length > 700, $"{judged.Length}");
        Assert.Equal(
            [],
            judged
                .Where(j => j.Outcome == TruthOutcome.Wrong)
                .Select(j => $"{j.Case.Model}, {j.Case.ReadBy}, {j.Case.Done}: {Told(j.Case)}")
        );
        // Where the machine itself was asked with all that it has, being unsure is the exception.
        Assert.InRange(
            judged.Count(j => j is { Outcome: TruthOutcome.Unsure, Case.ReadBy: "capture" }),
            0,
            judged.Count(j => j.Case.ReadBy == "capture") / 20
        );
    }

    private static string Told(TruthCase truth)
    {
        var check = truth.Check();
        var codes = check.Findings.Where(f => f.Severity != Severity.Note).Select(f => f.Code);
        return $"{check.Verdict} {string.Join(' ', codes)}, not {string.Join(' ', truth.Codes)}";
    }
}
