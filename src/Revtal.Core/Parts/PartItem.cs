namespace Revtal.Core.Parts;

/// <summary>Where one physical part stands.</summary>
public enum PartState
{
    InStock,

    /// <summary>Set aside for an order whose customer agreed.</summary>
    Reserved,
    Fitted,

    /// <summary>Taken out of a machine; not yet decided about.</summary>
    Pulled,

    /// <summary>Gone back to who it came from.</summary>
    Returned,
    Faulty,
    Sold,
    Scrapped,
}

/// <summary>One physical part.</summary>
/// <param name="Id">The shop's own number of it, from 1.</param>
/// <param name="Kind">Its part number in the catalogue.</param>
/// <param name="Cost">What the shop paid for it.</param>
/// <param name="Place">Where it lies.</param>
/// <param name="Order">The order it is set aside for, or was fitted by.</param>
/// <param name="Position">The slot or bay there.</param>
/// <param name="Kit">Shared by the pieces of a kit that is still together.</param>
/// <param name="Grade">Of a used part: A, B or C.</param>
/// <param name="Tested">How a used part was tested, and what came out.</param>
public sealed record PartItem(
    long Id,
    string Kind,
    string? Serial,
    PartState State,
    decimal? Cost = null,
    string? Supplier = null,
    string? Place = null,
    int? Order = null,
    string? Position = null,
    long? Kit = null,
    string? Grade = null,
    string? Tested = null
);

/// <summary>One line of the stock's ledger. The state of a part is where its last line left it.</summary>
/// <param name="From">Null for a part that came new.</param>
public sealed record StockMove(
    long Item,
    PartState? From,
    PartState To,
    int? Order = null,
    string? Position = null,
    string? Note = null
);

/// <summary>What may become of a part.</summary>
public static class StockRules
{
    private static readonly Dictionary<PartState, PartState[]> Ways = new()
    {
        [PartState.InStock] =
        [
            PartState.Reserved,
            PartState.Returned,
            PartState.Faulty,
            PartState.Sold,
            PartState.Scrapped,
        ],
        [PartState.Reserved] = [PartState.InStock, PartState.Fitted, PartState.Faulty],
        [PartState.Fitted] = [PartState.Reserved, PartState.Pulled, PartState.Faulty, PartState.Sold],
        [PartState.Pulled] = [PartState.InStock, PartState.Returned, PartState.Faulty, PartState.Scrapped],
        [PartState.Faulty] = [PartState.Returned, PartState.Scrapped, PartState.InStock],
        [PartState.Sold] = [PartState.Pulled, PartState.Returned],
        [PartState.Returned] = [],
        [PartState.Scrapped] = [],
    };

    /// <summary>“in stock”.</summary>
    public static string Spoken(this PartState state) =>
        state == PartState.InStock ? "in stock" : state.ToString().ToLowerInvariant();

    /// <summary>A move made by hand. Reserving and fitting are the orders' own.</summary>
    /// <exception cref="RefusedException">The part cannot go there from where it is.</exception>
    public static StockMove Move(PartItem item, PartState to, string? note)
    {
        if (item.State is PartState.Reserved or PartState.Fitted)
        {
            throw RefusedException.Rule(
                "part-reserved",
                $"Part {item.Id} is {item.State.Spoken()} for order {item.Order}. Change that order's plan first."
            );
        }

        return to is not (PartState.Reserved or PartState.Fitted) && Ways[item.State].Contains(to)
            ? new StockMove(item.Id, item.State, to, null, null, Orders.Words.Line("The note", note))
            : throw RefusedException.Rule(
                "part-way",
                $"Part {item.Id} is {item.State.Spoken()} and cannot become {to.Spoken()}. It can become {(
                Ways[item.State].Where(w => w is not (PartState.Reserved or PartState.Fitted)).Select(Spoken).ToArray() is { Length: > 0 } ways ? string.Join(", ", ways) : "nothing else any more")}."
            );
    }

    /// <summary>Whether the ledger ever allows this step.</summary>
    public static bool IsWay(PartState? from, PartState to) =>
        from is null ? to is PartState.InStock or PartState.Pulled : Ways[from.Value].Contains(to);
}
