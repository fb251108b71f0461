using Revtal.Core.Hardware;

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
    PartNumber Kind,
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
    private const int MostAtOnce = 1000;

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

    /// <summary>Whether the shop has it no more.</summary>
    public static bool IsGone(this PartState state) =>
        state is PartState.Sold or PartState.Returned or PartState.Scrapped;

    /// <summary>Whether an order holds it: set aside for it, or fitted by it.</summary>
    public static bool IsHeld(this PartState state) => state is PartState.Reserved or PartState.Fitted;

    /// <summary>
    /// What it may become by hand. Reserving and fitting are the orders' own; what one holds is its own too.
    /// </summary>
    public static IReadOnlyList<PartState> ByHand(PartState from) =>
        from.IsHeld() ? [] : [.. Ways[from].Where(w => !w.IsHeld())];

    /// <summary>A move made by hand.</summary>
    /// <exception cref="RefusedException">The part cannot go there from where it is.</exception>
    /// <param name="claim">The supplier's: a faulty part goes back under one.</param>
    public static StockMove Move(PartItem item, PartState to, string? note, Claim? claim = null)
    {
        if (item.State.IsHeld())
        {
            throw RefusedException.Rule(
                "part-reserved",
                $"Part {item.Id} is {item.State.Spoken()} for order {item.Order}. Change that order's plan first."
            );
        }

        var ways = ByHand(item.State);
        if (ways.Contains(to))
        {
            if (to == PartState.Returned && item.State == PartState.Faulty && claim is null)
            {
                throw RefusedException.Invalid(
                    "claim-missing",
                    $"Part {item.Id} is faulty: say under which claim it goes back, with its number, day and reason."
                );
            }

            return to == PartState.Returned || claim is null
                ? new StockMove(item.Id, item.State, to, null, null, Noted(claim?.Told(), Words.Line("The note", note)))
                : throw RefusedException.Invalid(
                    "claim-elsewhere",
                    $"A claim goes with a part that is returned, not with one that becomes {to.Spoken()}."
                );
        }

        var could = ways.Count > 0 ? Phrases.Either(ways.Select(Spoken)) : "nothing else any more";
        throw RefusedException.Rule(
            "part-way",
            $"Part {item.Id} is {item.State.Spoken()} and cannot become {to.Spoken()}. It can become {could}."
        );
    }

    private static string? Noted(params string?[] texts) =>
        string.Join("; ", texts.OfType<string>()) is { Length: > 0 } all ? all : null;

    /// <summary>Parts that come in.</summary>
    /// <param name="count">How many; of kits, how many kits. Not looked at where there are serials.</param>
    /// <param name="serials">One a piece.</param>
    /// <param name="one">All else of each.</param>
    /// <exception cref="RefusedException">The count, the cost or the grade cannot be.</exception>
    public static IReadOnlyList<PartItem> Receive(
        PartKind kind,
        int? count,
        IReadOnlyList<string> serials,
        PartItem one
    )
    {
        var pieces = serials.Count > 0 ? serials.Count : (count ?? 1) * kind.Pieces;
        var isCount = pieces is >= 1 and <= MostAtOnce && pieces % kind.Pieces == 0;
        var isCost = one.Cost is null or (>= 0 and <= PartKind.HighestPrice);
        if (!isCount || !isCost || one.Grade is not (null or "A" or "B" or "C"))
        {
            var kit = Phrases.When(
                kind.Pieces > 1,
                $"{kind.Number} is a kit of {kind.Pieces}: serials come {kind.Pieces} a kit. "
            );
            throw RefusedException.Invalid(
                "receive-impossible",
                $"{kit}1 to {MostAtOnce} pieces come in at once; a cost is 0 or more, a grade A, B or C."
            );
        }

        return [.. Enumerable.Range(0, pieces).Select(i => one with { Serial = serials.ElementAtOrDefault(i) })];
    }

    /// <summary>Whether the ledger ever allows this step.</summary>
    public static bool IsWay(PartState? from, PartState to) =>
        from is null ? to is PartState.InStock or PartState.Pulled : Ways[from.Value].Contains(to);
}
