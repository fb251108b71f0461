using Revtal.Core;

namespace Revtal.Service.Machines;

/// <summary><c>/api/v1/machines</c>: one machine over all of its visits.</summary>
public static class MachineEndpoints
{
    public static void MapMachines(this IEndpointRouteBuilder api) =>
        api.MapGet(
                "/machines/{serial}",
                async (string serial, MachineDesk machines, CancellationToken cancel) =>
                    await machines.FindAsync(serial, cancel)
                    ?? throw RefusedException.NotFound(
                        "no-such-machine",
                        $"No machine with the serial “{serial}” was here."
                    )
            )
            .WithTags("machines")
            .WithName("getMachine")
            .WithSummary("A machine over all of its visits, and what was noted for the next");
}
