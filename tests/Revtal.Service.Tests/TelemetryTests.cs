using System.Collections.Concurrent;
using System.Net;
using System.Text;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.Extensions.Logging;
using Revtal.Contracts;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>What whoever watches the service sees, and what they never do.</summary>
public sealed class TelemetryTests
{
    [Fact]
    public async Task Metrics_are_told_to_whoever_is_signed_in_and_count_what_happened()
    {
        await using var service = await ServiceProcess.StartAsync(arguments: ["--metrics", "true"]);
        var order = (await service.As("sanne").TakeInAsync(Story.TakeIn)).Order;
        await service.As("mara").NoteAsync(order, new NoteRequest("counted"));
        using (var nobody = new HttpClient { BaseAddress = service.Address })
        {
            Assert.Equal(HttpStatusCode.Unauthorized, (await nobody.GetAsync("metrics")).StatusCode);
        }

        var text = await service.Http.GetStringAsync("metrics");
        Assert.Equal(2, Value(text, "revtal_journal_append_duration_seconds_count"));
        Assert.Equal(0, Value(text, "revtal_journal_waiting"));
        Assert.Equal(0, Value(text, "revtal_webhook_dead"));
        Assert.Contains("http_server_request_duration_seconds_bucket", text, StringComparison.Ordinal);
        Assert.Contains("http_route=\"/api/v1/orders/{number:int}/notes\"", text, StringComparison.Ordinal);
        // Nothing is a good backup's age where there is none.
        Assert.DoesNotContain("revtal_backup_age_seconds{", text, StringComparison.Ordinal);
        await service.As("ines").FetchBackupAsync(Stream.Null);
        await Task.Delay(500);
        Assert.InRange(Value(await service.Http.GetStringAsync("metrics"), "revtal_backup_age_seconds"), 0, 20);
    }

    [Fact]
    public async Task Without_the_setting_there_are_none()
    {
        await using var service = await ServiceProcess.StartAsync();
        // What is no page of the service's is the console's.
        Assert.StartsWith("<!doctype html>", await service.Http.GetStringAsync("metrics"));
    }

    [Fact]
    public async Task A_collector_gets_traces_metrics_and_logs_and_nothing_that_a_customer_said_or_that_opens_anything()
    {
        await using var collector = await Collector.StartAsync();
        await using var service = await ServiceProcess.StartAsync(
            arguments: ["--otlp:endpoint", collector.Address, "--rate", "0"]
        );
        const string said = "the surge of last Tuesday";
        var order = (await service.As("sanne").TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", said))).Order;
        await service.As("mara").NoteAsync(order, new NoteRequest(said));
        await service.Http.GetAsync($"api/v1/orders?text={Uri.EscapeDataString(said)}");
        await service.Http.GetAsync("api/v1/quotes/0123456789abcdef");
        await service.StopAsync();

        var came = collector.Came.ToLookup(c => c.Path, c => c.Body);
        Assert.Contains(
            came["/opentelemetry.proto.collector.trace.v1.TraceService/Export"],
            b => Has(b, "journal.commit")
        );
        Assert.Contains(
            came["/opentelemetry.proto.collector.trace.v1.TraceService/Export"],
            b => Has(b, "/api/v1/orders")
        );
        Assert.Contains(
            came["/opentelemetry.proto.collector.metrics.v1.MetricsService/Export"],
            b => Has(b, "revtal.live.listeners")
        );
        Assert.Contains(came["/opentelemetry.proto.collector.logs.v1.LogsService/Export"], b => Has(b, "listens on"));
        Assert.All(
            collector.Came,
            c =>
                Assert.All(
                    [said, "Tuesday", "0123456789abcdef", "Choir", service.Token("mara")],
                    t => Assert.False(Has(c.Body, t))
                )
        );
    }

    private static bool Has(byte[] body, string text) =>
        Encoding.Latin1.GetString(body).Contains(text, StringComparison.Ordinal);

    private static double Value(string metrics, string name) =>
        metrics
            .Split('\n')
            .Where(l =>
                l.StartsWith(name + "{", StringComparison.Ordinal) || l.StartsWith(name + " ", StringComparison.Ordinal)
            )
            .Sum(l => double.Parse(l.Split(' ')[1], System.Globalization.CultureInfo.InvariantCulture));

    // As much of OTLP over gRPC as taking in needs.
    private sealed class Collector : IAsyncDisposable
    {
        private readonly WebApplication app;

        private Collector(WebApplication app) => this.app = app;

        public ConcurrentQueue<(string Path, byte[] Body)> Came { get; } = [];

        public string Address => app.Urls.First();

        public static async Task<Collector> StartAsync()
        {
            var builder = WebApplication.CreateSlimBuilder();
            builder.Logging.ClearProviders();
            builder.WebHost.ConfigureKestrel(k =>
                k.Listen(IPAddress.Loopback, 0, l => l.Protocols = HttpProtocols.Http2)
            );
            var made = new Collector(builder.Build());
            made.app.Run(async context =>
            {
                var body = new MemoryStream();
                await context.Request.Body.CopyToAsync(body);
                made.Came.Enqueue((context.Request.Path, body.ToArray()));
                context.Response.ContentType = "application/grpc";
                context.Response.AppendTrailer("grpc-status", "0");
                await context.Response.Body.WriteAsync(new byte[5]);
            });
            await made.app.StartAsync();
            return made;
        }

        public ValueTask DisposeAsync() => app.DisposeAsync();
    }
}
