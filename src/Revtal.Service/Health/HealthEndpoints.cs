using Revtal.Storage;

namespace Revtal.Service.Health;

/// <summary><c>/healthz</c>: the process answers. <c>/readyz</c>: the store can be read and written.</summary>
public static class HealthEndpoints
{
    // Bytes; a day of a busy bench takes less.
    private const long LeastRoom = 32 << 20;

    public static void MapHealth(this IEndpointRouteBuilder app)
    {
        app.MapGet("/healthz", () => "alive\n").ExcludeFromDescription();
        app.MapGet(
                "/readyz",
                (
                    Connections connections,
                    IStoreEngine engine,
                    Journal journal,
                    JournalWriter writer,
                    IHostApplicationLifetime lifetime
                ) =>
                {
                    try
                    {
                        if (lifetime.ApplicationStopping.IsCancellationRequested)
                        {
                            return Not("It ends now, once what it was asked is answered.");
                        }

                        connections.Prove();
                        if (engine.Room < LeastRoom)
                        {
                            return Not("The disk is all but full. Make room.");
                        }

                        if (writer.WhyNotWritable() is { } failure)
                        {
                            return Not(StoreException.Of(failure)?.Message ?? "The last entry could not be written.");
                        }

                        // The tables have their shape from the start on, or nobody is listened to.
                        journal.LastPosition();
                        return Results.Text("ready\n");
                    }
                    catch (Exception e)
                    {
                        return Not(StoreException.Of(e)?.Message ?? $"The store cannot be reached: {e.Message}");
                    }
                }
            )
            .ExcludeFromDescription();
    }

    private static IResult Not(string why) =>
        Results.Problem(why, statusCode: StatusCodes.Status503ServiceUnavailable, title: "Not ready");
}
