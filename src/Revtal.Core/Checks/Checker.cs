using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>A value with the sequence of the entry that recorded it.</summary>
public sealed record Recorded<T>(T Value, int Sequence);

/// <summary>Compares what was read after the work with what the plan led to expect.</summary>
public static class Checker
{
    /// <summary>The verdict and its findings. Pure: the same readings give the same words.</summary>
    public static CheckResult Check(
        Guide guide,
        Recorded<Reading> before,
        Recorded<Plan> plan,
        Recorded<Reading> after,
        CheckHistory? history = null
    )
    {
        var expectation = Expectation.Of(guide, before.Value, plan.Value);
        var contents = Occupancy.Of(guide, after.Value);
        var rows = plan.Value.Slots.Zip(contents, Row).ToArray();
        history ??= CheckHistory.None;
        var drives = DriveComparison.Of(guide, before.Value, plan.Value, after.Value, history.Placed);
        var facts = new CheckFacts(
            guide,
            before.Value,
            plan.Value,
            after.Value,
            expectation,
            rows,
            drives,
            history,
            [before.Sequence, plan.Sequence, after.Sequence]
        );
        var findings = Findings(facts).OrderByDescending(f => f.Severity).ToArray();
        var verdict = Judge(facts, findings);
        return new CheckResult(
            verdict,
            Sentence(facts, verdict, findings),
            rows,
            drives.Rows,
            new CheckTotal(
                before.Value.Memory.InstalledBytes,
                expectation.Installed?.Bytes,
                expectation.Installed?.Bytes,
                facts.Installed
            ),
            new CheckTotal(
                before.Value.Memory.UsableBytes,
                expectation.UsableLow?.Bytes,
                expectation.UsableHigh?.Bytes,
                after.Value.Memory.UsableBytes
            ),
            findings
        );
    }

    private static IEnumerable<Finding> Findings(CheckFacts facts)
    {
        if (IdentityFindings.WrongMachine(facts) is { } wrong)
        {
            yield return wrong;
        }

        if (ReadingFindings.Older(facts) is { } older)
        {
            yield return older;
        }

        foreach (
            var finding in CapacityFindings
                .Of(facts)
                .Concat(UsableFindings.Of(facts))
                .Concat(IdentityFindings.Of(facts))
                .Concat(SpeedFindings.Of(facts))
                .Concat(DriveFindings.Of(facts))
                .Concat(ArrayFindings.Of(facts))
                .Concat(ReadingFindings.Of(facts))
                .Concat(OrderFindings.Of(facts))
        )
        {
            yield return finding;
        }
    }

    private static CheckRow Row(PlannedSlot planned, SlotContent after) =>
        new(planned.Slot, planned.Before, planned.Module, planned.Use, after, Match(planned, after));

    private static SlotMatch Match(PlannedSlot planned, SlotContent after) =>
        (planned.Module, after.Module) switch
        {
            _ when !after.Known => SlotMatch.Unknown,
            (null, _) when planned.Stays && !planned.Before.Known => SlotMatch.Unknown,
            (null, null) => SlotMatch.Same,
            (null, _) => SlotMatch.Unplanned,
            (_, null) => SlotMatch.Missing,
            ({ } p, { } a) => p.Size == a.Size ? SlotMatch.Same : SlotMatch.Different,
        };

    private static Verdict Judge(CheckFacts facts, IReadOnlyList<Finding> findings) =>
        findings.Any(f => f.Effect == FindingEffect.ProvesNothing) ? Verdict.Unknown
        : findings.Any(f => f.Effect == FindingEffect.NothingSeen) ? Verdict.NotSeen
        : findings.Any(f => f.Severity == Severity.Short) ? Verdict.Short
        : facts.Installed is null && facts.After.Memory.UsableBytes is null ? Verdict.Unknown
        : facts.Expectation.Installed is null ? Verdict.Unknown
        : findings.Any(f => f.Severity == Severity.Remark) ? Verdict.WithRemarks
        : Verdict.AsPlanned;

    private static string Sentence(CheckFacts facts, Verdict verdict, IReadOnlyList<Finding> findings)
    {
        var has =
            facts.Installed is { } bytes ? $"{new MemorySize(bytes)} installed"
            : facts.After.Memory.UsableBytes is { } usable ? $"{new MemorySize(usable)} usable"
            : "No capacity read";
        return verdict switch
        {
            Verdict.AsPlanned => facts.Rows.All(r => r.After.Known || !r.Before.Known)
                ? $"{has}, as planned."
                : $"{has}, as planned; the slots were not read.",
            Verdict.WithRemarks => $"{has}. {findings.First(f => f.Severity == Severity.Remark).Sentence}",
            Verdict.Short or Verdict.NotSeen => findings.First(f => f.Severity == Severity.Short).Sentence,
            _ => findings.Count > 0 ? findings[0].Sentence : $"{has}. The readings do not say enough to compare.",
        };
    }
}
