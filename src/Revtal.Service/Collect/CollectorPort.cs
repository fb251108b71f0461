namespace Revtal.Service.Collect;

/// <summary>
/// The address at which the bench's network reaches the collector, where the shop sets one; the console and the API
/// stay on this machine.
/// </summary>
internal static class CollectorPort
{
    /// <summary>The port of one http address; null where it is none.</summary>
    public static int? Of(string url) =>
        !url.Contains(';', StringComparison.Ordinal)
        && Uri.TryCreate(
            url.Replace("//*", "//0.0.0.0", StringComparison.Ordinal)
                .Replace("//+", "//0.0.0.0", StringComparison.Ordinal),
            UriKind.Absolute,
            out var uri
        )
        && uri.Scheme == "http"
        // The system would choose one, and nobody here would know it for the collector's.
        && uri.Port > 0
            ? uri.Port
            : null;

    /// <summary>
    /// Answers only the collector's paths on its port; on the others anything but these only to the shop's own names.
    /// </summary>
    /// <param name="hosts">The shop's own names.</param>
    public static void UseCollectorPort(this WebApplication app, int? port, IReadOnlyList<string> hosts)
    {
        // The framework's own filter knows no path that answers to any name.
        var known = hosts.ToHashSet(StringComparer.OrdinalIgnoreCase);
        app.Use(
            (context, next) =>
            {
                if (
                    context.Connection.LocalPort == port
                    || context.Request.Path.StartsWithSegments(CollectEndpoints.Root)
                    || known.Contains(context.Request.Host.Host)
                )
                {
                    return next(context);
                }

                context.Response.StatusCode = StatusCodes.Status400BadRequest;
                return context.Response.WriteAsync(
                    "The service is not called by this name. Whoever runs it may add it with --hosts.\n"
                );
            }
        );
        app.Use(
            (context, next) =>
            {
                if (
                    context.Connection.LocalPort == port
                    && !context.Request.Path.StartsWithSegments(CollectEndpoints.Root)
                )
                {
                    context.Response.StatusCode = StatusCodes.Status404NotFound;
                    return Task.CompletedTask;
                }

                return next(context);
            }
        );
    }
}
