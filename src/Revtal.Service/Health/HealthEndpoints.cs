using Microsoft.EntityFrameworkCore;
using Revtal.Storage;

namespace Revtal.Service.Health;

/// <summary><c>/healthz</c>: the process answers. <c>/readyz</c>: the store is reachable and migrated.</summary>
public static class HealthEndpoints
{
    public static void MapHealth(this IEndpointRouteBuilder app)
    {
        app.MapGet("/healthz", () => "alive\n").ExcludeFromDescription();
        app.MapGet(
                "/readyz",
                async (IDbContextFactory<RevtalDb> databases, CancellationToken cancel) =>
                {
                    try
                    {
                        await using var db = await databases.CreateDbContextAsync(cancel);
                        var pending = await db.Database.GetPendingMigrationsAsync(cancel);
                        return pending.Any() ? Not("The store is not migrated yet.") : Results.Text("ready\n");
                    }
                    catch (Exception e) when (e is not OperationCanceledException)
                    {
                        return Not($"The store cannot be reached: {e.Message}");
                    }
                }
            )
            .ExcludeFromDescription();
    }

    private static IResult Not(string why) =>
        Results.Problem(why, statusCode: StatusCodes.Status503ServiceUnavailable, title: "Not ready");
}
