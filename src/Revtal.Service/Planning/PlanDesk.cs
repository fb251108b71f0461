using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Revtal.Service.Orders;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Planning;

/// <summary>
/// What a plan costs, and what could be planned: orders, catalogue, shelf and past runs brought together for the core.
/// </summary>
public sealed class PlanDesk(OrderShelf shelf, Journal journal, PartStore parts, IOptions<ShopOptions> shop)
{
    /// <summary>What a plan would lead to; nothing is recorded.</summary>
    public async Task<PlanPreview> PreviewAsync(int number, PlanRequest request, Role role, CancellationToken cancel)
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var (order, guide) = (snapshot.Order, snapshot.Guide);
        var body = PlanRules.SetPlan(
            order,
            guide,
            request.Changes ?? [],
            request.Note,
            role,
            request.Discount,
            request.Later
        );
        var planned = order.Apply(
            new Entry(number, order.Head + 1, Guid.Empty, order.ChangedAt, order.ChangedBy, body)
        );
        var kinds = await parts.KindsAsync(Numbers(planned), cancel);
        var view = new PlanView(
            body.Plan,
            Expectation.Of(guide, order.Before!.Value, body.Plan),
            await NotesAsync(planned, guide, kinds, cancel),
            body.Discount,
            body.Later
        );
        return new PlanPreview(
            view,
            Quote.Of(planned, guide, kinds, await TimeAsync(planned, guide, cancel), shop.Value.Terms),
            [.. Core.Guides.Reach.To(guide, body.Plan.Touched, !body.Plan.OnlyLooks).Select(r => r.Title)]
        );
    }

    /// <summary>The quote of the plan as it stands, at today's prices.</summary>
    public async Task<Quote> QuoteAsync(Order order, Core.Guides.Guide guide, CancellationToken cancel)
    {
        if (order.Plan is null)
        {
            throw RefusedException.Rule("no-plan", $"Order {order.Number} has no plan to quote yet.");
        }

        var kinds = await parts.KindsAsync(Numbers(order), cancel);
        return Quote.Of(order, guide, kinds, await TimeAsync(order, guide, cancel), shop.Value.Terms);
    }

    /// <summary>What is worth offering.</summary>
    /// <param name="target">Null for what the reading suggests.</param>
    public async Task<OptionsView> OptionsAsync(
        int number,
        MemorySize? target,
        string? workload,
        decimal? budget,
        int stages,
        IReadOnlyList<string>? giveUp,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var (order, guide) = (snapshot.Order, snapshot.Guide);
        var before =
            order.Before?.Value
            ?? throw RefusedException.Rule(
                "no-reading",
                $"Order {number} has no before reading yet: what stays is not known. Take one first."
            );
        if (stages is < 1 or > 2 || budget is < 0)
        {
            throw RefusedException.Invalid("wanted-impossible", "A budget is 0 or more, and there are 1 or 2 stages.");
        }

        var advice = Advice(target, workload, before);
        var present = Occupancy
            .Of(guide, before)
            .Where(o => o.Module is not null && !guide.NeedSlot(o.Slot).Soldered)
            .ToArray();
        foreach (var slot in giveUp ?? [])
        {
            guide.NeedSlot(slot);
        }

        var kinds = await parts.KindsAsync(cancel);
        var free = (await parts.ItemsAsync(state: PartState.InStock, cancel: cancel))
            .GroupBy(i => i.Kind)
            .ToDictionary(g => g.Key, g => g.Count());
        var offers = kinds
            .Where(k => k.Module is not null)
            .Select(k => new Offer(k.Number, k.Module!, k.Pieces, k.Price, free.GetValueOrDefault(k.Number) / k.Pieces))
            .ToArray();
        // What leaves is worth what a new one of its size costs at the least, halved: a used part's usual price.
        var keepable = present
            .Where(p => giveUp?.Contains(p.Slot) != true)
            .Select(p => new Keepable(p.Slot, Worth(p.Module!, offers)))
            .ToArray();
        var answer = Core.Planning.Options.Find(
            guide,
            before,
            keepable,
            offers,
            new Wanted(advice.Target, budget, stages)
        );
        var lines = new List<OptionLine>();
        var past = new Dictionary<string, IReadOnlyList<int>>();
        foreach (var option in answer.Options)
        {
            var later = option.Later is { } l
                ? new LaterStage(
                    l.Offer.Number,
                    l.Count,
                    l.Price,
                    $"{l.Modules} × {l.Offer.Module.Size}, {l.Offer.Number}"
                )
                : null;
            var planned = order.Apply(
                new Entry(
                    number,
                    order.Head + 1,
                    Guid.Empty,
                    order.ChangedAt,
                    order.ChangedBy,
                    new PlanSet(Planner.Make(guide, before, option.Changes), null, 0, later)
                )
            );
            // Most options share their way in.
            var way = ProjectionRows.Way(planned, guide);
            var minutes = past.TryGetValue(way, out var known)
                ? known
                : past[way] = await journal.RunMinutesAsync(order.Model, way, cancel);
            var quote = Quote.Of(planned, guide, kinds, WorkTime.Of(planned.Sheet(guide)!, minutes), shop.Value.Terms);
            lines.Add(
                new OptionLine(option, option.InterleavedShare, option.IsOnShelf, quote.Minutes, quote.Total, later)
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
        var before =
            snapshot.Order.Before?.Value
            ?? throw RefusedException.Rule(
                "no-reading",
                $"Order {number} has no before reading yet: what stays is not known. Take one first."
            );
        var present = Occupancy.Of(snapshot.Guide, before);
        var kinds = await parts.KindsAsync(
            [.. (request.Parts ?? []).Select(p => p.PartNumber).OfType<string>()],
            cancel
        );
        MemoryModule[] added =
        [
            .. (request.Parts ?? []).Select(p =>
                p.Size == MemorySize.Zero
                    ? kinds.FirstOrDefault(k => p.PartNumber is { } called && k.IsCalled(called))?.Module
                        ?? throw Unknown(p.PartNumber)
                    : p
            ),
        ];
        var kept = request.Kept ?? [.. present.Where(p => p.Module is not null).Select(p => p.Slot)];
        var answer = Layouts.Best(snapshot.Guide, before, kept, added);
        return new LayoutView(answer, answer.Best.Changes(present));
    }

    /// <summary>
    /// Fills in what the catalogue knows of parts that a wish only names, and proves that a part named by its serial is
    /// free.
    /// </summary>
    public async Task<PlanRequest> CompleteAsync(int number, PlanRequest request, CancellationToken cancel)
    {
        var changes = request.Changes ?? [];
        string[] named =
        [
            .. changes.Select(c => c.Fit?.PartNumber ?? c.Drive?.Drive.PartNumber).OfType<string>().Distinct(),
        ];
        if (named.Length == 0)
        {
            return request;
        }

        var kinds = await parts.KindsAsync(named, cancel);
        var items = await parts.ItemsAsync([.. kinds.Select(k => k.Number)], cancel: cancel);
        return request with { Changes = [.. changes.Select(Complete)] };

        SlotChange Complete(SlotChange change)
        {
            var (text, serial) = (
                change.Fit?.PartNumber ?? change.Drive?.Drive.PartNumber,
                change.Fit?.Serial ?? change.Drive?.Drive.Serial
            );
            if (text is null)
            {
                return change;
            }

            var kind = kinds.FirstOrDefault(k => k.IsCalled(text));
            if (
                items.FirstOrDefault(i => i.Kind == kind?.Number && serial is not null && i.Serial == serial)
                    is { State: PartState.Reserved or PartState.Fitted, Order: { } other }
                && other != number
            )
            {
                throw RefusedException.Rule(
                    "part-reserved",
                    $"{text} with the serial {serial} is reserved for order {other}. Plan another one."
                );
            }

            return change switch
            {
                { Fit: { } m } when m.Size == MemorySize.Zero => change with
                {
                    Fit = (kind?.Module ?? throw Unknown(text)) with { Serial = m.Serial },
                },
                { Fit: { } m } when kind?.Module is { } known && known.Size == m.Size => change with
                {
                    Fit = known with { Serial = m.Serial },
                },
                { Drive: { } d } when d.Drive.Size.Bytes == 0 => change with
                {
                    Drive = d with { Drive = (kind?.Drive ?? throw Unknown(text)) with { Serial = d.Drive.Serial } },
                },
                { Drive: { } d } when kind?.Drive is { } known && known.Size == d.Drive.Size => change with
                {
                    Drive = d with { Drive = known with { Serial = d.Drive.Serial } },
                },
                _ => change,
            };
        }
    }

    // What the plan wants beyond the shelf is told beside what fits.
    private async Task<IReadOnlyList<FitNote>> NotesAsync(
        Order planned,
        Core.Guides.Guide guide,
        IReadOnlyList<PartKind> kinds,
        CancellationToken cancel
    )
    {
        var plan = planned.Plan!.Value;
        var numbers = Numbers(planned);
        var items = numbers.Length == 0 ? [] : await parts.ItemsAsync(numbers, cancel: cancel);
        var missing = StockEffects
            .Of(
                planned,
                new PlanAgreed("", null),
                [],
                [
                    .. items.Select(i =>
                        i.Order == planned.Number && i.State == PartState.Reserved
                            ? i with
                            {
                                State = PartState.InStock,
                            }
                            : i
                    ),
                ],
                kinds
            )
            .Missing;
        return
        [
            .. FitRules.Of(guide, planned.Before!.Value, plan),
            .. numbers
                .Except(kinds.Select(k => k.Number))
                .Select(n => new FitNote(
                    "part-unknown",
                    FitWeight.Remark,
                    null,
                    $"The catalogue has no {n}: no price is known, nothing can be set aside.",
                    "catalogue",
                    n,
                    "catalogue"
                )),
            .. missing
                .Where(m => kinds.Any(k => k.Number == m.Number))
                .GroupBy(m => m.Number)
                .Select(g => new FitNote(
                    "to-order",
                    FitWeight.Remark,
                    string.Join(", ", g.Select(w => w.Position)),
                    $"{g.Count()} × {g.Key} are not on the shelf: order {(g.Count() == 1 ? "it" : "them")}.",
                    "on the shelf",
                    "missing",
                    "stock"
                )),
        ];
    }

    private async Task<WorkTime> TimeAsync(Order order, Core.Guides.Guide guide, CancellationToken cancel) =>
        WorkTime.Of(
            order.Sheet(guide)!,
            await journal.RunMinutesAsync(order.Model, ProjectionRows.Way(order, guide), cancel)
        );

    private SizeAdvice Advice(MemorySize? target, string? workload, Core.Captures.Reading before)
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

        return Sizing.Of(before)
            ?? throw RefusedException.Invalid(
                "target-missing",
                "The reading does not tell how much was in use. Give a target like 32 GB, or a workload."
            );
    }

    private static decimal Worth(MemoryModule module, IReadOnlyList<Offer> offers) =>
        Math.Round(
            offers
                .Where(o =>
                    o.Module.Size == module.Size
                    && (module.Generation is null || MemoryModule.SameTerm(o.Module.Generation, module.Generation))
                )
                .Select(o => o.Price / o.Pieces)
                .DefaultIfEmpty(0)
                .Min() / 2,
            2
        );

    private static string[] Numbers(Order order) =>
        [.. StockEffects.Wishes(order.Plan!.Value).Select(w => w.Number).Distinct()];

    private static RefusedException Unknown(string? part) =>
        RefusedException.NotFound(
            "no-such-part",
            $"The catalogue has no part “{part}”. Give its size too, or add it with: revtal part add."
        );
}
