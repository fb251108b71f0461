using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>
/// Which of the machines of a batch one was at take-in. They get numbers that follow each other, and the batch is
/// called by the first of them.
/// </summary>
/// <param name="Place">From 1.</param>
/// <param name="Of">How many were taken in together.</param>
public sealed record BatchPlace(int Place, int Of)
{
    /// <summary>What the batch is called.</summary>
    /// <param name="order">The number of the machine at this place.</param>
    public int Batch(int order) => order - Place + 1;
}

/// <summary>One machine of a batch, as it is scanned or written in a list.</summary>
/// <param name="Serial">What tells it from its like.</param>
/// <param name="Variant">Which build, where that is known.</param>
/// <param name="Arrival">The machine that told of itself before.</param>
public sealed record BatchMachine(
    string Serial,
    string? Variant = null,
    string? Accessories = null,
    string? Condition = null,
    string? Arrival = null
);

/// <summary>One line of a list of machines that cannot be taken in as it stands.</summary>
/// <param name="Line">From 1.</param>
public sealed record BatchTrouble(int Line, string Serial, string Why);

/// <summary>What holds for machines that are taken in together.</summary>
public static class BatchRules
{
    /// <summary>How many a batch has at most.</summary>
    public const int Most = 500;

    private const int MostTold = 10;

    /// <summary>What is wrong with a list: a machine without a serial, or one that stands there twice.</summary>
    public static IReadOnlyList<BatchTrouble> Troubles(IReadOnlyList<BatchMachine> machines)
    {
        var first = new Dictionary<string, int>();
        var troubles = new List<BatchTrouble>();
        for (var i = 0; i < machines.Count; i++)
        {
            var (line, serial) = (i + 1, machines[i].Serial);
            if (SerialNumber.Plain(serial) is not { } plain)
            {
                troubles.Add(new(line, serial, "It has no serial, and nothing else tells it from its like."));
            }
            else if (!first.TryAdd(plain, line))
            {
                troubles.Add(new(line, serial, $"It stands on line {first[plain]} already."));
            }
        }

        return troubles;
    }

    /// <summary>Proves that a list can be taken in: all of it, or nothing.</summary>
    /// <exception cref="RefusedException">It is empty or too long, or a line cannot be taken in.</exception>
    public static void NeedSound(IReadOnlyList<BatchMachine> machines)
    {
        if (machines.Count is 0 or > Most)
        {
            throw RefusedException.Invalid(
                "batch-size",
                $"A batch has 1 to {Most} machines; this list has {machines.Count}. Nothing was taken in."
            );
        }

        if (Troubles(machines) is { Count: > 0 } troubles)
        {
            throw RefusedException.Invalid(
                "batch-list",
                string.Join(' ', troubles.Take(MostTold).Select(t => $"Line {t.Line}, “{t.Serial}”: {t.Why}"))
                    + Phrases.When(troubles.Count > MostTold, $" And {troubles.Count - MostTold} more.")
                    + " Nothing was taken in: mend the list and send it again."
            );
        }
    }

    /// <summary>A machine goes its own way.</summary>
    /// <exception cref="RefusedException">No reason is told.</exception>
    public static BatchLeft Leave(Order order, string? reason) =>
        new(order.Batch!.Value, Words.RequiredText("The reason", reason));

    /// <summary>A machine comes to a batch that is there.</summary>
    /// <param name="machines">The batch's open machines.</param>
    /// <exception cref="RefusedException">There is no such batch, or the machine is not of its model or
    /// customer.</exception>
    public static BatchJoined Join(Order order, int batch, IReadOnlyList<Order> machines)
    {
        var alike = machines.FirstOrDefault(m => m.Number != order.Number) ?? throw None(batch);
        return (alike.Model, alike.Intake.Customer) == (order.Model, order.Intake.Customer)
            ? new BatchJoined(batch)
            : throw RefusedException.Rule(
                "batch-not-alike",
                $"Batch {batch} is {alike.Model} of {alike.Intake.Customer}, and order {order.Number} is {order.Model} "
                    + $"of {order.Intake.Customer}: one plan and one quote cannot hold for both."
            );
    }

    /// <summary>There is no such batch.</summary>
    public static RefusedException None(int batch) =>
        RefusedException.NotFound("no-such-batch", $"There is no batch {batch}. A batch is called by its first order.");

    /// <summary>Machines given out in turn, so that nobody gets two more than another.</summary>
    /// <param name="orders">In their order.</param>
    /// <param name="hands">Ids, in their order.</param>
    public static IReadOnlyDictionary<int, string> Spread(IReadOnlyList<int> orders, IReadOnlyList<string> hands)
    {
        // Neighbours go to one person: they lie together.
        return orders
            .Select((order, i) => (order, hands[(int)((long)i * hands.Count / orders.Count)]))
            .ToDictionary(o => o.order, o => o.Item2);
    }
}
