using Revtal.Core.Bench;
using Revtal.Core.Checks;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>What was promised for the machine and is not there yet, though its memory is.</summary>
public static class Promises
{
    // Findings that are remarks to a check, and yet keep the machine here: time or a hand ends them.
    private static readonly string[] Unfinished =
    [
        "array-not-told",
        "array-resync",
        "array-waits",
        "drive-raw",
        "drives-not-read",
    ];

    /// <summary>A sentence each; empty where all is done.</summary>
    public static IReadOnlyList<string> Open(Order order, Guide guide, CheckResult check) =>
        [
            .. order.CopiesOwed.Select(bay => $"The copy of {bay} was promised, and is not verified."),
            .. Loose(order, guide),
            .. check
                .Findings.Where(f => f.Severity == Severity.Remark && Unfinished.Contains(f.Code))
                .Select(f => f.Sentence),
        ];

    // However well it is explained, what did not come back may lie on the board.
    private static IEnumerable<string> Loose(Order order, Guide guide) =>
        order.Sheet(guide) is { } sheet
            ? Tally
                .Of(sheet, order.RunState)
                .Lines.Where(l => l.Out > l.Back)
                .Select(l =>
                    $"{Phrases.Plural(l.Out!.Value - l.Back!.Value, "fastener", "fasteners")} of the {l.Title} did not "
                    + "go back: it may lie in the machine."
                )
            : [];
}
