using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>Takes parked orders up again at the time that was named when they were parked.</summary>
internal sealed class AlarmClock(Journal journal, OrderDesk desk, TimeProvider clock, ILogger<AlarmClock> log)
    : BackgroundService
{
    private static readonly TimeSpan Look = TimeSpan.FromSeconds(15);
    private static readonly Person Shop = new("revtal", "Revtal", Role.Technician);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Look, clock);
        // Not before the first tick: a start has no time for it.
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await WakeAsync(stoppingToken);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                // A store that cannot be written now may be written at the next look.
                log.LogWarning("Parked orders were not taken up: {Reason}", e.Message);
            }
        }
    }

    private async Task WakeAsync(CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var due = journal
            .ParkedCards()
            .Select(card => JsonSerializer.Deserialize<OrderCard>(card, RevtalJson.Options)!)
            .Where(card => card.ParkedUntil <= now);
        foreach (var card in due)
        {
            await WakeAsync(card, now, cancel);
        }
    }

    private async Task WakeAsync(OrderCard card, DateTimeOffset now, CancellationToken cancel)
    {
        try
        {
            await desk.RecordAsync(
                card.Number,
                OrderAct.Resume,
                null,
                new Sender(Shop, Guid.CreateVersion7(), MayBeRetry: false, IfMatch: null),
                (order, _) =>
                    order.ParkedUntil <= now ? new Resumed() : throw RefusedException.Rule("not-due", "Parked anew."),
                cancel
            );
        }
        catch (RefusedException e)
        {
            log.LogInformation("Order {Order} is not taken up by itself: {Code}", card.Number, e.Code);
        }
    }
}
