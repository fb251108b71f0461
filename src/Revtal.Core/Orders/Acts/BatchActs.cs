using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>A machine goes its own way from here on.</summary>
/// <param name="Batch">The one that it was of.</param>
public sealed record BatchLeft(int Batch, string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.LeaveBatch;

    public override string Line(Guide? guide) => $"Left batch {Batch}{Phrases.Added(Reason)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Batch = null,
            // One link offered it with the others.
            Offered = order.Offered is { With: not null } ? null : order.Offered,
        };
}

/// <summary>A machine is planned, agreed and handed back with others from here on.</summary>
public sealed record BatchJoined(int Batch) : EntryBody
{
    public override OrderAct Act => OrderAct.JoinBatch;

    public override string Line(Guide? guide) => $"Joined batch {Batch}";

    internal override Order Apply(Order order, Entry entry) => order with { Batch = Batch };
}
