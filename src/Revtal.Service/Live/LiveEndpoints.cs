using System.Buffers;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Storage;

namespace Revtal.Service.Live;

/// <summary>
/// <c>/api/v1/changes</c>: live changes as server-sent events (WHATWG HTML 9.2); an event's id is its position in the
/// journal.
/// </summary>
public static class LiveEndpoints
{
    private const int Page = 200;
    private static readonly TimeSpan Heartbeat = TimeSpan.FromSeconds(15);

    /// <summary>Every commit of the journal wakes who listens.</summary>
    public static IServiceCollection AddLive(this IServiceCollection services) =>
        services.AddSingleton(s =>
        {
            var signal = new ChangeSignal();
            s.GetRequiredService<JournalWriter>().Committed += _ => signal.Raise();
            return signal;
        });

    public static void MapLive(this IEndpointRouteBuilder api) =>
        api.MapGet("/changes", StreamAsync)
            .WithTags("live")
            .WithName("streamChanges")
            .Produces<Change>(contentType: "text/event-stream")
            .WithSummary("Live changes; catches up from Last-Event-ID");

    private static async Task StreamAsync(
        HttpContext context,
        Journal journal,
        ChangeSignal signal,
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
        try
        {
            Encoding.UTF8.GetBytes(
                string.Create(CultureInfo.InvariantCulture, $"retry: 1000\nid: {position}\n: open\n\n"),
                body
            );
            await body.FlushAsync(cancel);
            while (true)
            {
                var next = signal.Next;
                IReadOnlyList<Changed> changes;
                do
                {
                    changes = await journal.ChangesAsync(position, Page, cancel);
                    foreach (var c in changes)
                    {
                        var change = new Change(c.Position, c.Order, c.Sequence, c.Kind, c.At, c.By);
                        Encoding.UTF8.GetBytes(
                            string.Create(
                                CultureInfo.InvariantCulture,
                                $"id: {c.Position}\ndata: {JsonSerializer.Serialize(change, RevtalJson.Options)}\n\n"
                            ),
                            body
                        );
                        position = c.Position;
                    }

                    await body.FlushAsync(cancel);
                } while (changes.Count == Page);

                if (await Task.WhenAny(next, Task.Delay(Heartbeat, cancel)) != next)
                {
                    cancel.ThrowIfCancellationRequested();
                    body.Write(": quiet\n\n"u8);
                    await body.FlushAsync(cancel);
                }
            }
        }
        catch (OperationCanceledException)
        {
            // The listener left, or the service stops.
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
