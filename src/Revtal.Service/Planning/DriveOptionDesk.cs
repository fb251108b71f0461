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

/// <summary>What could be done to the drives: order, catalogue and shelf together, for the core's search.</summary>
public sealed class DriveOptionDesk(OrderShelf shelf, QuoteDesk quotes, PartStore parts, IOptions<ShopOptions> shop)
{
    /// <summary>What is worth offering.</summary>
    /// <param name="growth">What is to come onto the drives; null for half as much again as they hold.</param>
    /// <param name="forLater">For the machine as the order leaves it.</param>
    public async Task<DriveOptionsView> FindAsync(
        int number,
        DriveSize? growth,
        decimal? budget,
        bool forLater,
        CancellationToken cancel
    )
    {
        if (budget is < 0)
        {
            throw RefusedException.Invalid("wanted-impossible", "A budget is 0 or more.");
        }

        var snapshot = await shelf.LoadAsync(number, cancel);
        var (order, guide) = (snapshot.Order, snapshot.Guide);
        var reading = forLater || order.Before is null ? LaterRules.Leaves(order, guide) : order.Before.Value;
        var kinds = (await parts.KindsAsync(cancel)).Where(k => k.Drive is not null).ToArray();
        var answer = DriveOptions.Find(
            guide,
            reading,
            await OffersAsync(kinds, cancel),
            new RoomWanted(growth, shop.Value.NearlyFullPercent, shop.Value.CopyRate, budget),
            forLater ? null : order.Plan?.Value
        );
        var lines = new List<DriveOptionLine>();
        foreach (var option in answer.Options)
        {
            var visit = LaterRules.Visit(order, guide, option.Changes, reading);
            var quote = await quotes.QuoteAsync(visit, guide, kinds, cancel);
            lines.Add(
                new DriveOptionLine(
                    option,
                    option.IsOnShelf,
                    quote.Minutes,
                    quote.Total,
                    PriceElsewhere.Sum(kinds, option.Buys is { } b ? [(b.Number, 1)] : [])
                )
            );
        }

        return new DriveOptionsView(
            [.. DriveRooms.Of(guide, reading).OrderByDescending(r => r.Percent)],
            lines,
            answer.LeftOut,
            answer.Closed
        );
    }

    private async Task<DriveOffer[]> OffersAsync(IReadOnlyList<PartKind> kinds, CancellationToken cancel)
    {
        var free = (await parts.ItemsAsync(state: PartState.InStock, cancel: cancel))
            .CountBy(i => i.Kind)
            .ToDictionary();
        return
        [
            .. kinds.Select(k => new DriveOffer(
                k.Number,
                k.Drive! with
                {
                    PartNumber = k.Number,
                },
                k.Price,
                free.GetValueOrDefault(k.Number)
            )),
        ];
    }
}
