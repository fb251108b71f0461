using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>A part that a plan wants from the shelf.</summary>
/// <param name="Serial">The very one, where the plan names it.</param>
public sealed record PartWish(string Position, PartNumber Number, string? Serial);

/// <summary>What an entry on an order does to the stock.</summary>
/// <param name="Missing">Wishes that the shelf cannot meet: to be ordered.</param>
public sealed record StockEffect(IReadOnlyList<StockMove> Moves, IReadOnlyList<PartWish> Missing)
{
    /// <summary>Nothing moves.</summary>
    public static StockEffect None { get; } = new([], []);
}

/// <summary>
/// Orders move the stock: who agrees reserves, who cancels or plans anew releases, who fits takes, who hands back
/// sells.
/// </summary>
public static class StockEffects
{
    /// <summary>Whether an entry may move parts at all.</summary>
    /// <param name="order">Before the entry.</param>
    public static bool Concerns(Order order, EntryBody body) =>
        body
            is PlanAgreed
                or PlanSet
                or PlanMended
                or VariantTold { PlanDropped: true }
                or Cancelled
                or HandedBack
                or SwapTestEnded { Conclusion: not null }
                or ReadingTaken { Phase: Phase.After }
        || body is Resumed && order.WorkStage == Stage.Agreed
        || (body is StepConfirmed { Step: var done } && (IsFit(done) || done.Verb == StepVerb.Pull))
        || (body is StepTakenBack { Step: var undone } && (IsFit(undone) || undone.Verb == StepVerb.Pull));

    /// <summary>What of its plan is neither set aside for it nor free on the shelf.</summary>
    /// <param name="held">What is reserved for this order or was fitted by it.</param>
    /// <param name="shelf">Parts of the plan's kinds that the shop has; those that are gone do not matter.</param>
    /// <param name="kinds">Their catalogue lines.</param>
    public static IReadOnlyList<PartWish> Lacks(
        Order order,
        IReadOnlyList<PartItem> held,
        IReadOnlyList<PartItem> shelf,
        IReadOnlyList<PartKind> kinds
    ) => order.Plan is { } plan ? Reserve(order, Lacking(plan.Value, null, held), shelf, kinds).Missing : [];

    /// <summary>The parts that a plan takes from the catalogue.</summary>
    public static IReadOnlyList<PartWish> Wishes(Plan plan) =>
        [
            .. plan
                .Slots.Where(s => s is { Use: SlotUse.Fit, Module.PartNumber: not null })
                .Select(s => new PartWish(s.Slot, s.Module!.PartNumber!.Value, s.Module.Serial)),
            .. plan
                .Bays.Where(b => b.Wish?.Drive.PartNumber is not null)
                .Select(b => new PartWish(b.Bay, b.Wish!.Drive.PartNumber!.Value, b.Wish.Drive.Serial)),
        ];

    /// <param name="order">Before the entry.</param>
    /// <param name="held">What is reserved for this order or was fitted by it.</param>
    /// <param name="shelf">Parts of the plan's kinds that the shop has; those that are gone do not matter.</param>
    /// <param name="kinds">Their catalogue lines.</param>
    /// <exception cref="RefusedException">A part named by its serial is another order's, or a kit would be
    /// torn.</exception>
    public static StockEffect Of(
        Order order,
        EntryBody body,
        IReadOnlyList<PartItem> held,
        IReadOnlyList<PartItem> shelf,
        IReadOnlyList<PartKind> kinds
    ) =>
        body switch
        {
            PlanAgreed => Reserve(
                order,
                Lacking(order.Plan!.Value, order.Run is { Mends: true } r ? r.Reseat : null, held),
                shelf,
                kinds
            ),
            PlanMended m => Mend(order, m, held, shelf, kinds),
            // What came meanwhile is set aside for it; one named by its serial was when the customer agreed.
            Resumed when order.Plan is { } plan => Reserve(
                order,
                [.. Lacking(plan.Value, null, held).Where(w => w.Serial is null)],
                shelf,
                kinds
            ),
            PlanSet or VariantTold or Cancelled => new(
                [.. held.Where(i => i.State is PartState.Reserved or PartState.Pulled).Select(Shelved)],
                []
            ),
            StepConfirmed { Deviation: not Deviation.Skipped } s when IsFit(s.Step) => Shift(
                held,
                s.Step,
                PartState.Reserved,
                PartState.Fitted
            ),
            // What a mended plan takes out again goes back to the shelf once the run is done; what was at fault is set
            // aside already.
            StepConfirmed { Deviation: not Deviation.Skipped } s
                when s.Step.Verb == StepVerb.Pull
                    && order.Run is { Mends: true } run
                    && run.Reseat.Contains(s.Step.Subject) => Shift(held, s.Step, PartState.Fitted, PartState.Pulled),
            StepTakenBack { Step.Verb: StepVerb.Pull } t => Shift(held, t.Step, PartState.Pulled, PartState.Fitted),
            ReadingTaken { Phase: Phase.After } r => new(
                [
                    .. held.Where(i => i.State == PartState.Pulled).Select(Shelved),
                    .. Rebooked(order.Number, held, shelf, r.Reading),
                ],
                []
            ),
            StepTakenBack t when IsFit(t.Step) => Shift(held, t.Step, PartState.Fitted, PartState.Reserved),
            SwapTestEnded
            {
                Conclusion.Suspects: [
                    { Kind: SuspectKind.Module or SuspectKind.Make or SuspectKind.Two, Modules: var homes },
                ]
            } => Replace(order, [.. held.Where(i => i.State == PartState.Fitted && homes.Contains(i.Position))], shelf),
            HandedBack => new(
                [
                    .. held.Where(i => i.State == PartState.Fitted)
                        .Select(i => new StockMove(i.Id, i.State, PartState.Sold, order.Number, i.Position)),
                    .. held.Where(i => i.State == PartState.Pulled).Select(Shelved),
                ],
                []
            ),
            _ => StockEffect.None,
        };

    // What is at fault is set aside, and the same from the shelf reserved in its place.
    private static StockEffect Replace(Order order, IReadOnlyList<PartItem> faulty, IReadOnlyList<PartItem> shelf)
    {
        var moves = faulty
            .Select(i => new StockMove(i.Id, i.State, PartState.Faulty, order.Number, i.Position, "by a swap test"))
            .ToList();
        var missing = new List<PartWish>();
        foreach (var item in faulty)
        {
            if (
                shelf.FirstOrDefault(s =>
                    s is { State: PartState.InStock, Kit: null }
                    && s.Kind == item.Kind
                    && moves.All(m => m.Item != s.Id)
                ) is
                { } other
            )
            {
                moves.Add(new(other.Id, other.State, PartState.Reserved, order.Number, item.Position));
            }
            else
            {
                missing.Add(new(item.Position!, item.Kind, null));
            }
        }

        return new(moves, missing);
    }

    /// <summary>
    /// Another piece of the same kind was taken from the shelf: the machine itself says which, and the stock follows.
    /// Only where one is gone and one has come; else somebody looks.
    /// </summary>
    /// <param name="held">What the order fitted.</param>
    /// <param name="shelf">Parts of these kinds.</param>
    public static IReadOnlyList<StockMove> Rebooked(
        int order,
        IReadOnlyList<PartItem> held,
        IReadOnlyList<PartItem> shelf,
        Reading reading
    )
    {
        string[] seen =
        [
            .. reading
                .Memory.Slots.Select(s => s.Serial)
                .Concat(reading.Drives.Select(d => d.Drive.Serial))
                .OfType<string>(),
        ];
        return
        [
            .. held.Where(i => i.State == PartState.Fitted)
                .GroupBy(i => i.Kind)
                .SelectMany(kind =>
                {
                    var gone = kind.Where(i => i.Serial is not null && !IsSeen(i)).ToArray();
                    var come = shelf
                        .Where(i => i is { State: PartState.InStock, Kit: null } && i.Kind == kind.Key && IsSeen(i))
                        .ToArray();
                    return (gone, come) is ([var old], [var other])
                        ?
                        [
                            new StockMove(
                                old.Id,
                                old.State,
                                PartState.InStock,
                                null,
                                null,
                                "not the one in the machine"
                            ),
                            new StockMove(
                                other.Id,
                                other.State,
                                PartState.Fitted,
                                order,
                                old.Position,
                                "the machine tells its serial"
                            ),
                        ]
                        : Array.Empty<StockMove>();
                }),
        ];

        bool IsSeen(PartItem item) => seen.Any(s => SerialNumber.Same(s, item.Serial) is true);
    }

    /// <summary>Parts as they stand after these moves.</summary>
    public static IReadOnlyList<PartItem> Moved(IReadOnlyList<PartItem> items, IReadOnlyList<StockMove> moves)
    {
        if (moves.Count == 0)
        {
            return items;
        }

        var moved = moves.ToDictionary(m => m.Item);
        return
        [
            .. items.Select(i =>
                moved.TryGetValue(i.Id, out var m) ? i with { State = m.To, Order = m.Order, Position = m.Position } : i
            ),
        ];
    }

    private static StockMove Shelved(PartItem item) => new(item.Id, item.State, PartState.InStock);

    private static bool IsFit(StepId step) => step.Verb == StepVerb.Fit;

    // What is not wanted any more is let go; what the customer agreed to already is set aside at once.
    private static StockEffect Mend(
        Order order,
        PlanMended mended,
        IReadOnlyList<PartItem> held,
        IReadOnlyList<PartItem> shelf,
        IReadOnlyList<PartKind> kinds
    )
    {
        var wishes = Wishes(mended.Plan);
        var free = held.Where(i =>
                i.State == PartState.Reserved && !wishes.Any(w => w.Position == i.Position && w.Number == i.Kind)
            )
            .ToArray();
        var set = mended.Agreed
            ? Reserve(order, Lacking(mended.Plan, mended.Slots, [.. held.Except(free)]), shelf, kinds)
            : StockEffect.None;
        return set with { Moves = [.. free.Select(Shelved), .. set.Moves] };
    }

    // What is not set aside already; of a plan that was mended only what goes into the slots that are worked at anew.
    private static IReadOnlyList<PartWish> Lacking(
        Plan plan,
        IReadOnlyList<string>? slots,
        IReadOnlyList<PartItem> held
    ) =>
        [
            .. Wishes(plan)
                .Where(w => slots?.Contains(w.Position) != false)
                .Where(w =>
                    !held.Any(i => i.State == PartState.Reserved && i.Position == w.Position && i.Kind == w.Number)
                ),
        ];

    private static StockEffect Reserve(
        Order order,
        IReadOnlyList<PartWish> wanted,
        IReadOnlyList<PartItem> shelf,
        IReadOnlyList<PartKind> kinds
    )
    {
        var moves = new List<StockMove>();
        var missing = new List<PartWish>();
        foreach (var group in wanted.GroupBy(w => w.Number))
        {
            var wishes = group.ToList();
            var all = shelf.Where(i => i.Kind == group.Key).ToArray();
            foreach (var wish in wishes.Where(w => w.Serial is not null).ToArray())
            {
                var named = all.FirstOrDefault(i => i.Serial == wish.Serial);
                if (named is { State: PartState.Reserved, Order: { } other })
                {
                    throw RefusedException.Rule(
                        "part-reserved",
                        $"{wish.Number} with the serial {wish.Serial} is reserved for order {other}. Plan another one."
                    );
                }

                if (named is { State: PartState.InStock, Kit: null })
                {
                    moves.Add(Take(named, wish.Position));
                    wishes.Remove(wish);
                }
            }

            var kind = kinds.FirstOrDefault(k => k.Number == group.Key);
            var pieces = kind?.Pieces ?? 1;
            if (kind is not null)
            {
                PlanParts.NeedWhole(kind, wishes.Count);
            }

            var free = all.Where(i => i.State == PartState.InStock && moves.All(m => m.Item != i.Id))
                .OrderBy(i => i.Id)
                .ToArray();
            var ready =
                pieces == 1
                    ? free.Where(i => i.Kit is null)
                    : free.Where(i => i.Kit is not null)
                        .GroupBy(i => i.Kit)
                        .Where(g => g.Count() == pieces)
                        .SelectMany(g => g);
            var enough = ready.Take(wishes.Count).ToArray();
            var whole = enough.Length - (enough.Length % pieces);
            moves.AddRange(enough.Take(whole).Zip(wishes, (item, wish) => Take(item, wish.Position)));
            missing.AddRange(wishes.Skip(whole));
        }

        return new(moves, missing);

        StockMove Take(PartItem item, string position) =>
            new(item.Id, item.State, PartState.Reserved, order.Number, position);
    }

    private static StockEffect Shift(IReadOnlyList<PartItem> held, StepId step, PartState from, PartState to) =>
        new(
            [
                .. held.Where(i => i.State == from && i.Position == step.Subject)
                    .Select(i => new StockMove(i.Id, from, to, i.Order, i.Position)),
            ],
            []
        );
}
