using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Revtal.Service.Orders;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Planning;

/// <summary>A plan before it is set: completed from the catalogue, and what it would lead to.</summary>
public sealed class PlanDesk(OrderShelf shelf, QuoteDesk quotes, PartStore parts, IOptions<ShopOptions> shop)
{
    /// <summary>What a plan would lead to; nothing is recorded.</summary>
    public async Task<PlanPreview> PreviewAsync(int number, PlanRequest request, Role role, CancellationToken cancel)
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var (order, guide) = (snapshot.Order, snapshot.Guide);
        WhenMayWhat.Need(OrderAct.SetPlan, order, guide);
        var set = PlanRules.SetPlan(
            order,
            guide,
            request.Changes ?? [],
            request.Note,
            role,
            request.Discount,
            request.Later,
            request.Cleans
        );
        var planned = order.With(set);
        var kinds = quotes.Kinds(planned);
        var view = new PlanView(
            set.Plan,
            Expectation.Of(guide, order.Before!.Value, set.Plan),
            Notes(planned, guide, kinds),
            set.Discount,
            set.Later
        );
        var removals = Reach.To(guide, set.Plan.Touched, !set.Plan.OnlyLooks);
        return new PlanPreview(
            view,
            await quotes.QuoteAsync(planned, guide, kinds, cancel),
            [.. removals.Select(r => r.Title)]
        );
    }

    /// <summary>
    /// Fills in what the catalogue knows of parts that a wish only names, and proves that a part named by its serial is
    /// free. What the shop does not offer is refused.
    /// </summary>
    public PlanRequest Complete(int number, PlanRequest request)
    {
        shop.Value.Terms.Need(request.Cleans);
        var changes = request.Changes ?? [];
        PartNumber[] named = [.. changes.Select(PlanParts.Named).OfType<PartNumber>().Distinct()];
        if (named.Length == 0)
        {
            return request;
        }

        var kinds = parts.Kinds(named);
        var items = parts.Here([.. kinds.Select(k => k.Number)]);
        PlanParts.NeedWholeKits(changes, kinds);
        return request with { Changes = [.. changes.Select(c => PlanParts.Complete(c, number, kinds, items))] };
    }

    /// <summary>What a later visit would cost today, with work and tax; null where a part has no price.</summary>
    /// <param name="changes">Completed from the catalogue.</param>
    /// <exception cref="RefusedException">It cannot be done to this machine.</exception>
    public async Task<decimal?> PriceLaterAsync(int number, IReadOnlyList<SlotChange> changes, CancellationToken cancel)
    {
        if (changes.Count == 0)
        {
            return null;
        }

        var snapshot = await shelf.LoadAsync(number, cancel);
        var visit = LaterRules.Visit(snapshot.Order, snapshot.Guide, changes);
        var quote = await quotes.QuoteAsync(visit, snapshot.Guide, cancel);
        return quote.Unpriced.Count == 0 ? quote.Total : null;
    }

    // What the plan wants beyond the shelf is told beside what fits.
    private IReadOnlyList<FitNote> Notes(Order planned, Guide guide, IReadOnlyList<PartKind> kinds)
    {
        var plan = planned.Plan!.Value;
        var items = parts.Here([.. kinds.Select(k => k.Number)]);
        return
        [
            .. PlanRules.Sealed(planned, guide, plan) is { } seal ? [seal] : Array.Empty<FitNote>(),
            .. FitRules.Of(guide, planned.Before!.Value, plan),
            .. PlanParts.Notes(planned, items, kinds),
            .. NearlyFull.Notes(planned, guide, shop.Value.NearlyFullPercent),
        ];
    }
}
