using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>Takes parked orders up again, at the time or by the event that was named when they were parked.</summary>
internal sealed class AlarmClock(
    Journal journal,
    Changes changes,
    OrderDesk desk,
    OrderShelf shelf,
    TimeProvider clock,
    ILogger<AlarmClock> log
) : BackgroundService
{
    private static readonly Person Shop = new(Notices.Shop, "Revtal", Role.Technician);

    private readonly Bell bell = new(clock, TimeSpan.FromSeconds(15));
    private int since;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        changes.Recorded += Hear;
        changes.Shop += Hear;
        try
        {
            // Not before the first tick or event: a start has no time for it.
            while (!stoppingToken.IsCancellationRequested)
            {
                if (await bell.WaitAsync(stoppingToken))
                {
                    Interlocked.Or(ref since, (int)Happened.Time);
                }

                await LookAsync(stoppingToken);
            }
        }
        finally
        {
            changes.Recorded -= Hear;
            changes.Shop -= Hear;
        }
    }

    private void Hear(IReadOnlyList<Changed> recorded) => Hear(Happened.Orders);

    private void Hear(ShopTopic? topic, Hand? hand)
    {
        if (topic is ShopTopic.Parts or null)
        {
            Hear(Happened.Parts);
        }
    }

    private void Hear(Happened what)
    {
        Interlocked.Or(ref since, (int)what);
        bell.Ring();
    }

    // What a look is for. Time looks at everything: an order that let its parts go is no change of the shelf by itself.
    [Flags]
    private enum Happened
    {
        Orders = 1,
        Parts = 2,
        Time = Orders | Parts,
    }

    private async Task LookAsync(CancellationToken cancel)
    {
        try
        {
            await WakeAsync(cancel);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            // A store that cannot be written now may be written at the next look.
            log.LogWarning("Parked orders were not taken up: {Reason}", e.Message);
        }
    }

    private async Task WakeAsync(CancellationToken cancel)
    {
        var (now, what) = (clock.GetUtcNow(), (Happened)Interlocked.Exchange(ref since, 0));
        var maybe = journal
            .ParkedCards()
            .Select(card => JsonSerializer.Deserialize<OrderCard>(card, RevtalJson.Options)!)
            .Where(card =>
                card.ParkedUntil <= now
                || card.Waiting?.Kind switch
                {
                    WaitKind.Customer => what.HasFlag(Happened.Orders),
                    WaitKind.Parts => what.HasFlag(Happened.Parts),
                    _ => false,
                }
            );
        foreach (var card in maybe)
        {
            var order = (await shelf.LoadAsync(card.Number, cancel)).Order;
            var hasParts = order.Parking?.Wakes == WakeOn.PartsArrive && desk.HasParts(order);
            if (Waking.IsDue(order, now, () => hasParts))
            {
                await WakeAsync(order, now, hasParts, cancel);
            }
        }
    }

    private async Task WakeAsync(Order parked, DateTimeOffset now, bool hasParts, CancellationToken cancel)
    {
        try
        {
            await desk.RecordAsync(
                parked.Number,
                OrderAct.Resume,
                null,
                new Sender(Shop, Guid.CreateVersion7(), MayBeRetry: false, IfMatch: null),
                (order, _) =>
                    Waking.IsDue(order, now, () => hasParts)
                        ? new Resumed()
                        : throw RefusedException.Rule("not-due", "Parked anew."),
                cancel
            );
        }
        catch (RefusedException e)
        {
            log.LogInformation("Order {Order} is not taken up by itself: {Code}", parked.Number, e.Code);
        }
    }
}
