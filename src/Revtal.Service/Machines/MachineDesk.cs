using Revtal.Contracts;
using Revtal.Core.Orders;
using Revtal.Service.Orders;
using Revtal.Storage;

namespace Revtal.Service.Machines;

/// <summary>A machine over all of its visits.</summary>
public sealed class MachineDesk(Journal journal, OrderShelf shelf)
{
    /// <summary>Null where no machine of this serial was here.</summary>
    public async Task<MachineView?> FindAsync(string serial, CancellationToken cancel)
    {
        var visits = new List<OrderSnapshot>();
        foreach (var number in await journal.OrdersOfAsync(serial, cancel))
        {
            visits.Add(await shelf.LoadAsync(number, cancel));
        }

        if (visits.Count == 0)
        {
            return null;
        }

        var history = MachineHistory.Of([.. visits.Select(v => (v.Order, v.Guide))]);
        return new MachineView(
            serial,
            [.. visits.Select(v => OrderCard.Of(v.Order, v.Guide, v.Assessment))],
            history.Noted,
            history.Marks,
            history.SealBroken
        );
    }
}
