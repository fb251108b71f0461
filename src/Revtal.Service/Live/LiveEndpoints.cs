using System.Buffers;
using System.Globalization;
using System.IO.Pipelines;
using System.Text;
using System.Threading.Channels;
using Revtal.Contracts;
using Revtal.Service.People;
using Revtal.Storage;

namespace Revtal.Service.Live;

/// <summary>
/// <c>/api/v1/changes</c>: live changes as server-sent events (WHATWG HTML 9.2); an event's id is its position in the
/// journal. What changes outside the orders is told too, as events of the type <c>shop</c>.
/// </summary>
public static class LiveEndpoints
{
    private static readonly TimeSpan Heartbeat = TimeSpan.FromSeconds(15),
        BetweenLooks = TimeSpan.FromSeconds(5);

    /// <summary>Every commit of the journal is told to who listens.</summary>
    public static IServiceCollection AddLive(this IServiceCollection services) =>
        services
            .AddSingleton<Presence>()
            .AddSingleton<LiveFeed>()
            .AddHostedService(s => s.GetRequiredService<LiveFeed>())
            .AddHostedService<Ear>();

    public static void MapLive(this IEndpointRouteBuilder api) =>
        api.MapGet("/changes", StreamAsync)
            .WithTags("live")
            .WithName("streamChanges")
            .Produces<Change>(contentType: "text/event-stream")
            .WithSummary("Live changes; those of orders catch up from Last-Event-ID")
            .WithDescription(
                "Server-sent events. An event without a type is a change of an order; its id is its position. An event "
                    + "of the type `shop` is a ShopChange, one of the type `here` a HereView; they have no id: who was "
                    + "away asks anew."
            );

    private static async Task StreamAsync(
        HttpContext context,
        Journal journal,
        LiveFeed feed,
        TimeProvider clock,
        IHostApplicationLifetime lifetime
    )
    {
        var last = journal.LastPosition();
        var position = LastSeen(context) is { } seen ? Math.Min(seen, last) : last;
        if (feed.Listen(Door.Need(context).Session.Id) is not { } listener)
        {
            context.Response.StatusCode = StatusCodes.Status429TooManyRequests;
            context.Response.Headers.RetryAfter = "30";
            return;
        }

        using var ended = CancellationTokenSource.CreateLinkedTokenSource(
            context.RequestAborted,
            lifetime.ApplicationStopping
        );
        var cancel = ended.Token;
        _ = EndWithSessionAsync(context, ended, cancel);
        context.Response.ContentType = "text/event-stream";
        context.Response.Headers.CacheControl = "no-store";
        var body = context.Response.BodyWriter;
        try
        {
            Encoding.UTF8.GetBytes(
                string.Create(CultureInfo.InvariantCulture, $"retry: 1000\nid: {position}\n: open\n\n"),
                body
            );
            while (true)
            {
                if (listener.HasMissed())
                {
                    body.Write(LiveFeed.Written(new ShopChange(null, clock.GetUtcNow(), null)));
                }

                // What came before it listened, and what it was too slow for.
                while (await feed.AfterAsync(position, cancel) is { } missed)
                {
                    body.Write(missed.Events);
                    await body.FlushAsync(cancel);
                    position = missed.To;
                }

                await body.FlushAsync(cancel);
                position = await FollowAsync(listener.Batches, position, body, cancel);
            }
        }
        catch (OperationCanceledException)
        {
            // The listener left, or the service stops.
        }
        finally
        {
            feed.Leave(listener);
        }
    }

    // Who is signed out is told nothing more, however long the answer already runs.
    private static async Task EndWithSessionAsync(
        HttpContext context,
        CancellationTokenSource ended,
        CancellationToken cancel
    )
    {
        using var looks = new PeriodicTimer(BetweenLooks);
        try
        {
            while (await looks.WaitForNextTickAsync(cancel))
            {
                if (!Door.IsStill(context))
                {
                    await ended.CancelAsync();
                }
            }
        }
        catch (OperationCanceledException)
        {
            // The listener left.
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
                if (batch.After is { } after)
                {
                    if (batch.To <= position)
                    {
                        continue;
                    }

                    if (after != position)
                    {
                        return position;
                    }

                    position = batch.To;
                }

                body.Write(batch.Events);
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
