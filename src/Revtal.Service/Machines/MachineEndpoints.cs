using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Orders;
using Revtal.Storage;

namespace Revtal.Service.Machines;

/// <summary><c>/api/v1/machines</c>: one machine over all of its visits.</summary>
public static class MachineEndpoints
{
    public static void MapMachines(this IEndpointRouteBuilder api) =>
        api.MapGet("/machines/{serial}", GetAsync)
            .WithTags("machines")
            .WithName("getMachine")
            .WithSummary("A machine over all of its visits, and what was noted for the next");

    private static async Task<MachineView> GetAsync(
        string serial,
        Journal journal,
        OrderShelf shelf,
        CancellationToken cancel
    )
    {
        var visits = new List<OrderSnapshot>();
        foreach (var number in await journal.OrdersOfAsync(serial, cancel))
        {
            visits.Add(await shelf.LoadAsync(number, cancel));
        }

        if (visits.Count == 0)
        {
            throw RefusedException.NotFound("no-such-machine", $"No machine with the serial “{serial}” was here.");
        }

        var history = MachineHistory.Of([.. visits.Select(v => v.Order)]);
        return new MachineView(
            serial,
            [.. visits.Select(v => OrderCard.Of(v.Order, v.Guide, v.Assessment))],
            history.Noted,
            history.Marks
        );
    }
}
