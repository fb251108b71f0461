using Npgsql;
using OpenTelemetry.Logs;
using OpenTelemetry.Metrics;
using OpenTelemetry.Resources;
using OpenTelemetry.Trace;
using Revtal.Core.Orders;
using Revtal.Service.People;
using Revtal.Storage;

namespace Revtal.Service.Telemetry;

/// <summary>
/// Traces, metrics and logs by OpenTelemetry, where somebody wants them: pushed by OTLP, or fetched from
/// <c>/metrics</c> in the text form of Prometheus. Nothing that customers said is in them, and nothing that opens
/// anything.
/// </summary>
internal static class TelemetryServices
{
    // What stands in these paths opens something by itself.
    private static readonly string[] Secret = ["/c", "/quote", "/api/v1/quotes", "/api/v1/session/set-up"];

    public static void AddTelemetry(this IServiceCollection services, ILoggingBuilder logs, TelemetryOptions options)
    {
        if (options is { Endpoint: null, Metrics: false })
        {
            return;
        }

        services.AddSingleton<ShopMeter>();
        var telemetry = services
            .AddOpenTelemetry()
            .ConfigureResource(r => Named(r))
            .WithMetrics(m =>
            {
                m.AddMeter(StoreMeter.Name, "Microsoft.AspNetCore.Hosting", "Microsoft.AspNetCore.Server.Kestrel")
                    .AddMeter("System.Runtime", "Npgsql");
                if (options.Metrics)
                {
                    m.AddPrometheusExporter();
                }

                if (options.Endpoint is { } endpoint)
                {
                    m.AddOtlpExporter(o => o.Endpoint = new Uri(endpoint));
                }
            });
        if (options.Endpoint is { } to)
        {
            telemetry.WithTracing(t =>
                t.AddAspNetCoreInstrumentation(o =>
                        o.Filter = c => !Secret.Any(s => c.Request.Path.StartsWithSegments(s))
                    )
                    .AddNpgsql()
                    .AddSource(StoreMeter.Name)
                    .AddOtlpExporter(o => o.Endpoint = new Uri(to))
            );
            logs.AddFilter<OpenTelemetryLoggerProvider>(SetUp.Category, LogLevel.None);
            logs.AddOpenTelemetry(l =>
            {
                l.SetResourceBuilder(Named(ResourceBuilder.CreateDefault()));
                l.AddOtlpExporter(o => o.Endpoint = new Uri(to));
            });
        }
    }

    public static void MapMetrics(this WebApplication app, TelemetryOptions options)
    {
        if (options is { Endpoint: null, Metrics: false })
        {
            return;
        }

        // Its gauges are there from the start on.
        app.Services.GetRequiredService<ShopMeter>();
        if (options.Metrics)
        {
            // Whoever is signed in may look, by a token too: as much as the board tells.
            app.MapPrometheusScrapingEndpoint("/metrics").WithMetadata(WhoMayWhat.Of("getBoard"));
        }
    }

    private static ResourceBuilder Named(ResourceBuilder resource) =>
        resource.AddService("revtald", serviceVersion: BuildVersion.Text, serviceInstanceId: Environment.MachineName);
}
