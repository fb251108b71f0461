using Revtal.Core.Checks;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>All that still stands between an order and its hand-back: the one place that says so.</summary>
public static class Holds
{
    // Remarks to a check that keep the machine here all the same: time or a hand ends them.
    private static readonly Dictionary<string, HoldKind> Unfinished = new()
    {
        ["array-not-told"] = HoldKind.Array,
        ["array-resync"] = HoldKind.Array,
        ["array-waits"] = HoldKind.Array,
        ["came-back"] = HoldKind.CameBack,
        ["drive-not-mounted"] = HoldKind.NotSetUp,
        ["drive-raw"] = HoldKind.NotSetUp,
        ["drive-unlabelled"] = HoldKind.NotSetUp,
        ["drives-not-read"] = HoldKind.Short,
        ["trial-failed"] = HoldKind.TrialOwed,
        ["trial-owed"] = HoldKind.TrialOwed,
        ["metal-loose"] = HoldKind.LooseMetal,
        ["start-sign"] = HoldKind.Sign,
        ["kept-module-gone"] = HoldKind.OtherPart,
        ["module-not-booked"] = HoldKind.OtherPart,
        ["module-slower"] = HoldKind.OtherPart,
        ["drive-other"] = HoldKind.OtherPart,
    };

    /// <summary>From the agreement on until the hand-back, heaviest first; those that were released too.</summary>
    public static IReadOnlyList<Hold> Of(Order order, Guide guide, CheckResult? check) =>
        order.WorkStage is Stage.TakenIn or Stage.Measured or Stage.Planned || order.WorkStage == Stage.Cancelled
            ? []
            :
            [
                .. Found(order, guide, check)
                    .OrderBy(h => h.Kind)
                    .Select(h => h with { Released = Release(order, h) })
                    // What went home is held by nothing; what was let be then stays told.
                    .Where(h => order.IsOpen || !h.IsOpen),
            ];

    /// <summary>Those of an order that still hold.</summary>
    public static IReadOnlyList<Hold> Open(Order order, Guide guide) =>
        [.. Of(order, guide, order.Check(guide)).Where(h => h.IsOpen)];

    private static IEnumerable<Hold> Found(Order order, Guide guide, CheckResult? check) =>
        [
            .. order.CopiesOwed.Select(bay => new Hold(
                $"copy-owed.{bay}",
                HoldKind.CopyOwed,
                $"The copy of {bay} was promised, and is not verified.",
                "Copy it and compare files by hash, or record that the customer goes without."
            )),
            .. check is null ? BeforeCheck(order, guide) : check.Findings.Select(Of).OfType<Hold>(),
            .. Unproved(check),
            .. order.WorkStage < Stage.Checking
                ? []
                : order
                    .SetUpLeft(guide)
                    .Select(step => new Hold(
                        $"not-set-up.{step.Id.Subject}.{step.Id.Work}",
                        HoldKind.NotSetUp,
                        $"{step.Title}: promised, and not confirmed.",
                        "Do it and confirm the step, then take the after reading again."
                    )),
            .. order.OwesCleaning && order.WorkStage >= Stage.Checking ? [CleaningOwed] : Array.Empty<Hold>(),
            .. order is { Watches: true, Watch: { } watch } ? [Watched(watch)] : Array.Empty<Hold>(),
            .. order
                .FatesOpen(guide)
                .Select(part => new Hold(
                    $"fate-open.{part.Position}",
                    HoldKind.FateOpen,
                    $"Nobody said what becomes of {part.Name}, out of {part.Position}.",
                    "Say it: to its owner, kept, used, sold, returned, bought in, or recycled."
                )),
        ];

    // What the bench told counts from the moment at which it was told, not from the reading on.
    private static IEnumerable<Hold> BeforeCheck(Order order, Guide guide)
    {
        if (order.RunState.Loose.Select(l => guide.TitleOf(l.Removal)).Distinct().ToArray() is { Length: > 0 } from)
        {
            yield return new Hold(
                "loose-metal",
                HoldKind.LooseMetal,
                $"A fastener of the {Phrases.Listed(from)} did not go back: it may lie in the machine.",
                "Record it as found, or a lead says that it is out of the machine."
            );
        }

        if (order.SignOpen(guide) is { } sign)
        {
            yield return new Hold("start-sign", HoldKind.Sign, sign.Sentence, sign.Ends);
        }
    }

    private static Hold? Of(Finding finding) =>
        finding.Severity == Severity.Short ? Of(finding, HoldKind.Short)
        : finding.Severity == Severity.Remark && Unfinished.TryGetValue(finding.Code, out var kind) ? Of(finding, kind)
        : null;

    private static Hold Of(Finding finding, HoldKind kind)
    {
        var about = finding.About ?? string.Join('-', finding.Action.Slots);
        var code = kind == HoldKind.LooseMetal ? "loose-metal" : finding.Code;
        return new Hold(
            about.Length > 0 ? $"{code}.{about}" : code,
            kind,
            finding.Sentence,
            finding.Action.Text,
            finding.Until
        );
    }

    private static IEnumerable<Hold> Unproved(CheckResult? check) =>
        check is { Verdict: Verdict.Unknown } && check.Findings.All(f => f.Severity != Severity.Short)
            ?
            [
                new Hold(
                    "not-proved",
                    HoldKind.Short,
                    check.Sentence,
                    "Take the after reading again, with every source."
                ),
            ]
            : [];

    private static readonly Hold CleaningOwed = new(
        "cleaning-owed",
        HoldKind.CleaningOwed,
        "A cleaning was agreed, and is not done.",
        "Open it again and clean it; or a lead releases it, and the customer does not pay for it."
    );

    private static Hold Watched(Watch watch) =>
        new("watched", HoldKind.Watched, $"It is watched: {watch.For}", "End the watch with its outcome.", watch.Until);

    // A release is of what was known then: more that falls short since is held anew.
    private static ReleasedHold? Release(Order order, Hold hold) =>
        order.Released.LastOrDefault(r =>
            r.Key == hold.Key && (hold.Kind != HoldKind.Short || r.Sentence == hold.Sentence)
        )
        ?? (
            hold.StopsReady
            && order.Accepted is { Reason: { } reason } accepted
            && accepted.Holds?.Contains(hold.Key) != false
                ? new ReleasedHold(hold.Key, hold.Sentence, reason, accepted.By, accepted.At)
                : null
        );
}
