using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>A drive that hardly takes anything more, as the order leaves it.</summary>
/// <param name="IsNoted">What is noted for a later visit brings another drive, or changes its bay.</param>
public sealed record NearlyFull(DriveRoom Drive, bool IsNoted)
{
    /// <summary>
    /// The drives of an order's machine, fullest first, as they were read last; where that was before the work, as the
    /// plan leaves them. One whose system went to another is full of what is kept there: nothing is said of it.
    /// </summary>
    public static IReadOnlyList<NearlyFull> Of(Order order, Guide guide)
    {
        if (order.Before is not { } before)
        {
            return [];
        }

        var read = order.After is { } after ? DriveRooms.Of(guide, after.Value) : [];
        var rooms = read.Count > 0 ? read : AfterPlan.Rooms(guide, before.Value, order.Plan?.Value);
        return
        [
            .. rooms
                .Where(r => r.Bay is null || order.Plan?.Value.Bays.Any(b => b.Wish?.SystemFrom == r.Bay) != true)
                .OrderByDescending(r => r.Percent)
                .Select(r => new NearlyFull(
                    r,
                    order.Later?.Changes.Any(c => c.Drive is not null || c.Slot == r.Bay) == true
                )),
        ];
    }

    /// <summary>Those of them that are as full as the shop speaks of.</summary>
    /// <param name="percent">0 to 100.</param>
    public static IReadOnlyList<NearlyFull> Of(Order order, Guide guide, int percent) =>
        [.. Of(order, guide).Where(d => d.Drive.Percent >= percent)];

    /// <summary>The same as remarks on the order's plan.</summary>
    /// <inheritdoc cref="Of(Order, Guide, int)" path="/param"/>
    public static IEnumerable<FitNote> Notes(Order order, Guide guide, int percent) =>
        Of(order, guide, percent).Where(d => !d.IsNoted).Select(d => DriveRooms.Note(d.Drive, percent));
}
