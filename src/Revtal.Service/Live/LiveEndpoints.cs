using System.Buffers;
using System.Globalization;
using System.IO.Pipelines;
using System.Text;
using System.Threading.Channels;
using Revtal.Contracts;
using Revtal.Storage;

namespace Revtal.Service.Live;

/// <summary>
/// <c>/api/v1/changes</c>: live changes as server-sent events (WHATWG HTML 9.2); an event's id is its position in the
/// journal.
/// </summary>
public static class LiveEndpoints
{
    private static readonly TimeSpan Heartbeat = TimeSpan.FromSeconds(15);

    /// <summary>Every commit of the journal is told to who listens.</summary>
    public static IServiceCollection AddLive(this IServiceCollection services) =>
        services.AddSingleton<LiveFeed>().AddHostedService(s => s.GetRequiredService<LiveFeed>());

    public static void MapLive(this IEndpointRouteBuilder api) =>
        api.MapGet("/changes", StreamAsync)
            .WithTags("live")
            .WithName("streamChanges")
            .Produces<Change>(contentType: "text/event-stream")
            .WithSummary("Live changes; catches up from Last-Event-ID");

    private static async Task StreamAsync(
        HttpContext context,
        Journal journal,
        LiveFeed feed,
        IHostApplicationLifetime lifetime
    )
    {
        using var ended = CancellationTokenSource.CreateLinkedTokenSource(
            context.RequestAborted,
            lifetime.ApplicationStopping
        );
        var cancel = ended.Token;
        var last = journal.LastPosition();
        var position = LastSeen(context) is { } seen ? Math.Min(seen, last) : last;
        context.Response.ContentType = "text/event-stream";
        context.Response.Headers.CacheControl = "no-store";
        var body = context.Response.BodyWriter;
        var channel = feed.Listen();
        try
        {
            Encoding.UTF8.GetBytes(
                string.Create(CultureInfo.InvariantCulture, $"retry: 1000\nid: {position}\n: open\n\n"),
                body
            );
            while (true)
            {
                // What came before it listened, and what it was too slow for.
                while (await feed.AfterAsync(position, cancel) is { } missed)
                {
                    body.Write(missed.Events);
                    await body.FlushAsync(cancel);
                    position = missed.To;
                }

                await body.FlushAsync(cancel);
                position = await FollowAsync(channel.Reader, position, body, cancel);
            }
        }
        catch (OperationCanceledException)
        {
            // The listener left, or the service stops.
        }
        finally
        {
            feed.Leave(channel);
        }
    }

    /// <summary>Sends what is handed over, until something is missing in between or all is quiet.</summary>
    private static async Task<long> FollowAsync(
        ChannelReader<LiveBatch> batches,
        long position,
        PipeWriter body,
        CancellationToken cancel
    )
    {
        while (true)
        {
            using var quiet = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            quiet.CancelAfter(Heartbeat);
            try
            {
                var batch = await batches.ReadAsync(quiet.Token);
                if (batch.To <= position)
                {
                    continue;
                }

                if (batch.After != position)
                {
                    return position;
                }

                body.Write(batch.Events);
                position = batch.To;
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                // Nothing came, or nothing that there was room for: the journal knows.
                body.Write(": quiet\n\n"u8);
                return position;
            }

            await body.FlushAsync(cancel);
        }
    }

    // A browser cannot set the header on its first connection, so a query does the same.
    private static long? LastSeen(HttpContext context)
    {
        var text =
            context.Request.Headers["Last-Event-ID"].FirstOrDefault()
            ?? context.Request.Query["after"].FirstOrDefault();
        return text is null ? null
            : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n
            : throw new BadHttpRequestException(
                "Last-Event-ID wants the id of the last event that was seen: a whole number."
            );
    }
}
