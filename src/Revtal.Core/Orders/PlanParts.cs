using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What the catalogue and the shelf say to the wishes of a plan.</summary>
public static class PlanParts
{
    /// <summary>A used part's usual price: this share of what a new one of its size costs at the least.</summary>
    private const decimal UsedShare = 0.5m;

    private const int Cents = 2;

    /// <summary>The part numbers that a wish names.</summary>
    public static PartNumber? Named(SlotChange change) => change.Fit?.PartNumber ?? change.Drive?.Drive.PartNumber;

    /// <summary>Fills in what the catalogue knows of a part that a wish only names.</summary>
    /// <param name="order">The order that is planned.</param>
    /// <param name="kinds">The catalogue lines of the parts that are named.</param>
    /// <param name="items">The parts of those kinds that the shop has.</param>
    /// <exception cref="RefusedException">The catalogue has no such part, or the very one is another
    /// order's.</exception>
    public static SlotChange Complete(
        SlotChange change,
        int order,
        IReadOnlyList<PartKind> kinds,
        IReadOnlyList<PartItem> items
    )
    {
        if (Named(change) is not { } number)
        {
            return change;
        }

        var kind = kinds.FirstOrDefault(k => k.IsCalled(number.ToString()));
        NeedFree(change.Fit?.Serial ?? change.Drive?.Drive.Serial, number, order, kind, items);
        return change switch
        {
            { Fit: { } m } when m.Size == MemorySize.Zero && kind?.Drive is { } drive => change with
            {
                Fit = null,
                Drive = new DriveWish(drive with { Serial = m.Serial }),
            },
            { Fit: { } m } when m.Size == MemorySize.Zero => change with
            {
                Fit = Module(kind, number) with { Serial = m.Serial },
            },
            { Fit: { } m } when kind?.Module is { } known && known.Size == m.Size => change with
            {
                Fit = known with { Serial = m.Serial },
            },
            { Drive: { } d } when d.Drive.Size.Bytes == 0 => change with
            {
                Drive = d with { Drive = Drive(kind, number) with { Serial = d.Drive.Serial } },
            },
            { Drive: { } d } when kind?.Drive is { } known && known.Size == d.Drive.Size => change with
            {
                Drive = d with { Drive = known with { Serial = d.Drive.Serial } },
            },
            _ => change,
        };
    }

    /// <summary>Proves that a kit is planned whole: its pieces are sold together.</summary>
    /// <exception cref="RefusedException">Some of its pieces are missing.</exception>
    public static void NeedWholeKits(IReadOnlyList<SlotChange> changes, IReadOnlyList<PartKind> kinds)
    {
        foreach (var kind in kinds)
        {
            NeedWhole(kind, changes.Count(c => Named(c) is { } n && kind.IsCalled(n.ToString())));
        }
    }

    internal static void NeedWhole(PartKind kind, int pieces)
    {
        if (pieces % kind.Pieces != 0)
        {
            throw RefusedException.Rule(
                "kit-together",
                $"{kind.Number} is a kit of {kind.Pieces}: plan all of its pieces, or split it first."
            );
        }
    }

    /// <summary>A module that a layout only names, as the catalogue has it.</summary>
    /// <exception cref="RefusedException">It has no such module.</exception>
    public static MemoryModule Complete(MemoryModule module, IReadOnlyList<PartKind> kinds) =>
        module.Size != MemorySize.Zero ? module
        : module.PartNumber is { } number
            ? Module(kinds.FirstOrDefault(k => k.IsCalled(number.ToString())), number) with
            {
                Serial = module.Serial,
            }
        : throw RefusedException.Invalid(
            "size-missing",
            "A module wants its size, or the number of a part in the catalogue."
        );

    /// <summary>
    /// What should be known of a plan's parts beyond whether they fit: unknown to the catalogue, or to be ordered.
    /// </summary>
    /// <param name="planned">The order with the plan on it.</param>
    /// <param name="items">The parts of the plan's kinds that the shop has.</param>
    /// <param name="kinds">Their catalogue lines.</param>
    public static IReadOnlyList<FitNote> Notes(
        Order planned,
        IReadOnlyList<PartItem> items,
        IReadOnlyList<PartKind> kinds
    )
    {
        var wishes = StockEffects.Wishes(planned.Plan!.Value);
        // What this order set aside already is free for it.
        var shelf = items.Select(i => IsSetAsideFor(planned, i) ? i with { State = PartState.InStock } : i);
        var missing = StockEffects.Of(planned, new PlanAgreed("", null), [], [.. shelf], kinds).Missing;
        return
        [
            .. wishes.Select(w => w.Number).Distinct().Except(kinds.Select(k => k.Number)).Select(Unknown),
            .. missing.Where(m => kinds.Any(k => k.Number == m.Number)).GroupBy(m => m.Number).Select(ToOrder),
        ];
    }

    /// <summary>What is thrown away with a module that leaves, in the shop's currency.</summary>
    public static decimal Worth(MemoryModule module, IReadOnlyList<Offer> offers)
    {
        var alike = offers.Where(o =>
            o.Module.Size == module.Size
            && (module.Generation is null || MemoryModule.SameTerm(o.Module.Generation, module.Generation))
        );
        return Math.Round(alike.Select(o => o.Price / o.Pieces).DefaultIfEmpty(0).Min() * UsedShare, Cents);
    }

    /// <summary>Why a part of the catalogue suits nothing of this machine; null where it goes somewhere.</summary>
    /// <param name="guide">The facts of this build.</param>
    /// <param name="before">What was read of this very machine; null before anybody did.</param>
    public static string? WhyUnsuited(PartKind kind, Guide guide, Reading? before)
    {
        var platform = Platform.Of(guide, before ?? Reading.Nothing);
        var reasons = kind.Module is { } module
            ? guide.Memory.Slots.Select(s => FitRules.WhyNot(platform, s, module))
            : guide.Drives.Select(b => FitRules.WhyNot(b, kind.Drive!));
        var all = reasons.ToArray();
        return all.Any(r => r is null)
            ? null
            : all.FirstOrDefault()?.Sentence ?? $"{guide.Model.Code} has no drive bay.";
    }

    private static bool IsSetAsideFor(Order order, PartItem item) =>
        item.Order == order.Number && item.State == PartState.Reserved;

    private static FitNote Unknown(PartNumber number) =>
        new(
            "part-unknown",
            FitWeight.Remark,
            null,
            $"The catalogue has no {number}: no price is known, nothing can be set aside.",
            "catalogue",
            number.ToString(),
            "catalogue"
        );

    private static FitNote ToOrder(IGrouping<PartNumber, PartWish> group)
    {
        var count = group.Count();
        return new(
            "to-order",
            FitWeight.Remark,
            string.Join(", ", group.Select(w => w.Position)),
            count == 1
                ? $"{group.Key} is not on the shelf: order it."
                : $"{count} × {group.Key} are not on the shelf: order them.",
            "on the shelf",
            "missing",
            "stock"
        );
    }

    private static void NeedFree(
        string? serial,
        PartNumber number,
        int order,
        PartKind? kind,
        IReadOnlyList<PartItem> items
    )
    {
        var item = serial is null ? null : items.FirstOrDefault(i => i.Kind == kind?.Number && i.Serial == serial);
        if (item is { State: PartState.Reserved or PartState.Fitted, Order: { } other } && other != order)
        {
            throw RefusedException.Rule(
                "part-reserved",
                $"{number} with the serial {serial} is reserved for order {other}. Plan another one."
            );
        }
    }

    private static MemoryModule Module(PartKind? kind, PartNumber number) =>
        kind?.Module ?? throw NotSuch(kind, number, "memory module");

    private static Drive Drive(PartKind? kind, PartNumber number) =>
        kind?.Drive ?? throw NotSuch(kind, number, "drive");

    private static RefusedException NotSuch(PartKind? kind, PartNumber number, string wanted) =>
        kind is null
            ? RefusedException.NotFound(
                "no-such-part",
                $"The catalogue has no part “{number}”. Give its size too, or add it to the catalogue."
            )
            : RefusedException.Invalid("part-what", $"{kind.Number} is no {wanted}: it is {kind.Name}.");
}
