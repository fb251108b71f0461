using Microsoft.Extensions.Options;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Planning;

/// <summary>What a plan costs: catalogue, past runs and the shop's terms brought together for the core.</summary>
public sealed class QuoteDesk(Journal journal, PartStore parts, IOptions<ShopOptions> shop)
{
    /// <summary>The quote of the plan as it stands, at today's prices.</summary>
    /// <exception cref="RefusedException">There is no plan.</exception>
    public async Task<Quote> QuoteAsync(Order order, Guide guide, CancellationToken cancel)
    {
        if (order.Plan is null)
        {
            throw RefusedException.Rule("no-plan", $"Order {order.Number} has no plan to quote yet.");
        }

        return await QuoteAsync(order, guide, Kinds(order), cancel);
    }

    /// <param name="kinds">The catalogue lines of the plan's parts, or more.</param>
    internal async Task<Quote> QuoteAsync(
        Order planned,
        Guide guide,
        IReadOnlyList<PartKind> kinds,
        CancellationToken cancel
    )
    {
        // Most of what could be planned shares its way in with past runs.
        var past = await journal.RunMinutesAsync(planned.Model, planned.WayIn(guide), cancel);
        return Quotes.Of(planned, guide, kinds, WorkTime.Of(planned.Sheet(guide)!, past), shop.Value.Terms);
    }

    /// <summary>The catalogue lines of a plan's parts.</summary>
    internal IReadOnlyList<PartKind> Kinds(Order planned) =>
        parts.Kinds([.. StockEffects.Wishes(planned.Plan!.Value).Select(w => w.Number).Distinct()]);
}
