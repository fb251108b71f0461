using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Revtal.Service.Orders;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Planning;

/// <summary>What could be planned: orders, catalogue and shelf brought together for the core's searches.</summary>
public sealed class OptionDesk(OrderShelf shelf, QuoteDesk quotes, PartStore parts, IOptions<ShopOptions> shop)
{
    /// <summary>What is worth offering.</summary>
    /// <param name="target">Null for what the reading suggests.</param>
    /// <param name="giveUp">Slots whose modules are to leave.</param>
    /// <param name="forLater">For the machine as the order leaves it.</param>
    public async Task<OptionsView> OptionsAsync(
        int number,
        MemorySize? target,
        string? workload,
        decimal? budget,
        int stages,
        IReadOnlyList<string>? giveUp,
        bool forLater,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var (order, guide) = (snapshot.Order, snapshot.Guide);
        var before = forLater ? LaterRules.Leaves(order, guide) : Before(order);
        if (stages is < 1 or > 2 || budget is < 0)
        {
            throw RefusedException.Invalid("wanted-impossible", "A budget is 0 or more, and there are 1 or 2 stages.");
        }

        foreach (var slot in giveUp ?? [])
        {
            guide.NeedSlot(slot);
        }

        var advice = Advice(target, workload, order);
        var kinds = await parts.KindsAsync(cancel);
        var offers = await OffersAsync(kinds, cancel);
        var keepable = Occupancy
            .Of(guide, before)
            .Where(o => o.Module is not null && !guide.NeedSlot(o.Slot).Soldered && giveUp?.Contains(o.Slot) != true)
            .Select(o => new Keepable(o.Slot, PlanParts.Worth(o.Module!, offers)))
            .ToArray();
        var answer = UpgradeOptions.Find(guide, before, keepable, offers, new Wanted(advice.Target, budget, stages));
        var lines = new List<OptionLine>();
        foreach (var option in answer.Options)
        {
            var later = option.Later is { } l
                ? new LaterStage(
                    l.Offer.Number,
                    l.Count,
                    l.Price,
                    $"{l.Modules} × {l.Offer.Module.Size}, {l.Offer.Number}",
                    Second(guide, before, option.Changes, l)
                )
                : null;
            var planned = LaterRules.Visit(order, guide, option.Changes, before);
            var quote = await quotes.QuoteAsync(planned, guide, kinds, cancel);
            lines.Add(
                new OptionLine(
                    option,
                    option.BandwidthShare,
                    option.IsOnShelf,
                    quote.Minutes,
                    quote.Total,
                    later,
                    PriceElsewhere.Sum(kinds, [.. option.Buys.Select(b => (b.Offer.Number, b.Count))])
                )
            );
        }

        return new OptionsView(
            advice.Target,
            advice.Because,
            lines,
            [.. answer.LeftOut.Select(b => new LeftOut(b.Option.Words, b.Option.Capacity, b.Option.Price, b.By + 1))],
            answer.Why
        );
    }

    /// <summary>The best layout of what is there and what comes.</summary>
    public async Task<LayoutView> LayoutAsync(int number, LayoutRequest request, CancellationToken cancel)
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var before = Before(snapshot.Order);
        var present = Occupancy.Of(snapshot.Guide, before);
        var wanted = request.Parts ?? [];
        var kinds = parts.Kinds([.. wanted.Select(p => p.PartNumber).OfType<PartNumber>()]);
        var kept = request.Kept ?? [.. present.Where(p => p.Module is not null).Select(p => p.Slot)];
        var added = wanted
            .Select(p => new NewModule(
                PlanParts.Complete(p, kinds),
                kinds.FirstOrDefault(k => p.PartNumber is { } n && k.IsCalled($"{n}"))?.Pieces ?? 1
            ))
            .ToArray();
        var answer = Layouts.Best(snapshot.Guide, before, kept, added);
        return new LayoutView(answer, answer.Best.Changes(snapshot.Guide, present));
    }

    /// <summary>The catalogue with its shelf, and what of it suits this very machine.</summary>
    /// <param name="text">Found in number, barcode, name or what it is; null for all.</param>
    public async Task<IReadOnlyList<ShelfLine>> ShelfAsync(int number, string? text, CancellationToken cancel)
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var before = snapshot.Order.Before?.Value;
        return
        [
            .. (await parts.LinesAsync(cancel: cancel))
                .Where(l => l.Matches(text))
                .Select(l => new ShelfLine(l, PlanParts.WhyUnsuited(l.Kind, snapshot.Guide, before))),
        ];
    }

    // Where the second stage goes, once the first is done.
    private static IReadOnlyList<SlotChange> Second(
        Guide guide,
        Reading before,
        IReadOnlyList<SlotChange> first,
        Bought later
    )
    {
        var then = AfterPlan.Of(guide, before, Planner.Make(guide, before, first));
        var present = Occupancy.Of(guide, then);
        var added = Enumerable.Repeat(new NewModule(later.Offer.Module, later.Offer.Pieces), later.Modules).ToArray();
        return Layouts
            .Best(guide, then, [.. present.Where(p => p.Module is not null).Select(p => p.Slot)], added)
            .Best.Changes(guide, present);
    }

    private static Reading Before(Order order) =>
        order.Before?.Value
        ?? throw RefusedException.Rule(
            "no-reading",
            $"Order {order.Number} has no before reading yet: what stays is not known. Take one first."
        );

    private async Task<Offer[]> OffersAsync(IReadOnlyList<PartKind> kinds, CancellationToken cancel)
    {
        var free = (await parts.ItemsAsync(state: PartState.InStock, cancel: cancel))
            .CountBy(i => i.Kind)
            .ToDictionary();
        return
        [
            .. kinds
                .Where(k => k.Module is not null)
                .Select(k => new Offer(
                    k.Number,
                    k.Module!,
                    k.Pieces,
                    k.Price,
                    free.GetValueOrDefault(k.Number) / k.Pieces
                )),
        ];
    }

    private SizeAdvice Advice(MemorySize? target, string? workload, Order order)
    {
        if (target is { } asked)
        {
            return new SizeAdvice(asked, "Asked for.");
        }

        if (workload is not null)
        {
            var table = shop.Value.Table;
            return table.FirstOrDefault(w => w.Name.Equals(workload, StringComparison.OrdinalIgnoreCase)) is { } line
                ? new SizeAdvice(line.Size, $"What the shop advises for {line.Name}.")
                : throw RefusedException.Invalid(
                    "no-such-workload",
                    $"The shop's table has no workload “{workload}”. It has "
                        + $"{string.Join(", ", table.Select(w => w.Name))}."
                );
        }

        return order.Advice
            ?? throw RefusedException.Invalid(
                "target-missing",
                "The reading does not tell how much was in use. Give a target like 32 GB, or a workload."
            );
    }
}
