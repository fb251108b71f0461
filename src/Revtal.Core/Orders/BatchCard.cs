using Revtal.Core.Checks;

namespace Revtal.Core.Orders;

/// <summary>A batch as its one card on the board shows it.</summary>
/// <param name="Stage">Where the card stands: with the machine that has the furthest to go.</param>
/// <param name="Stages">How many of its open machines stand where.</param>
/// <param name="Verdict">The worst among those that are checked; null before one is.</param>
/// <param name="Checked">How many are.</param>
/// <param name="Holds">How many of its machines something holds.</param>
public sealed record BatchCard(
    int Number,
    string Model,
    string Machine,
    string Customer,
    Stage Stage,
    IReadOnlyList<BatchStage> Stages,
    IReadOnlyList<int> Orders,
    Verdict? Verdict,
    int Checked,
    int Holds
)
{
    // From good to bad; what is not known may be either.
    private static readonly Verdict[] FromGood =
    [
        Checks.Verdict.AsPlanned,
        Checks.Verdict.WithRemarks,
        Checks.Verdict.Unknown,
        Checks.Verdict.Short,
        Checks.Verdict.NotSeen,
    ];

    /// <summary>One card a batch, by number.</summary>
    /// <param name="cards">Of open orders; those that are of no batch are passed over.</param>
    public static IReadOnlyList<BatchCard> Of(IEnumerable<OrderCard> cards) =>
        [.. cards.Where(c => c.Batch is not null).GroupBy(c => c.Batch!.Value).OrderBy(g => g.Key).Select(Of)];

    private static BatchCard Of(IGrouping<int, OrderCard> machines)
    {
        var first = machines.First();
        var stages = BatchStanding.Stages(machines.Select(m => m.Stage));
        return new BatchCard(
            machines.Key,
            first.Model,
            first.Machine,
            first.Customer,
            BatchStanding.StandsAt(stages),
            stages,
            [.. machines.Select(m => m.Number)],
            machines
                .Select(m => m.Verdict)
                .OfType<Verdict>()
                .OrderBy(v => Array.IndexOf(FromGood, v))
                .Cast<Verdict?>()
                .LastOrDefault(),
            machines.Count(m => m.Verdict is not null),
            machines.Count(m => m.Holds is { Count: > 0 })
        );
    }
}
