using System.Diagnostics;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>The one road that every change of an order travels: load, decide, append, answer.</summary>
public sealed partial class OrderDesk(
    OrderShelf shelf,
    Journal journal,
    JournalWriter writer,
    GuideShelf guides,
    PartStore parts,
    PeopleStore people,
    TimeProvider clock
)
{
    // Each try reloads; who loses this often stands in a crowd that no bench has.
    private const int MostTries = 20;

    /// <summary>Records what the rule decides on the order as it stands.</summary>
    /// <param name="act">What is asked; the table of stages is asked before the rule.</param>
    /// <param name="request">What was sent with it, for recognising a retry.</param>
    /// <param name="decide">A rule of the core, on the facts of this build.</param>
    public Task<Receipt> RecordAsync(
        int number,
        OrderAct act,
        object? request,
        Sender sender,
        Func<Order, Guide, EntryBody> decide,
        CancellationToken cancel,
        CaptureRow? capture = null
    ) => RecordAsync(number, act, request, sender, snapshot => decide(snapshot.Order, snapshot.Guide), cancel, capture);

    /// <inheritdoc cref="RecordAsync(int, OrderAct, object?, Sender, Func{Order, Guide, EntryBody}, CancellationToken,
    /// CaptureRow?)"/>
    public async Task<Receipt> RecordAsync(
        int number,
        OrderAct act,
        object? request,
        Sender sender,
        Func<OrderSnapshot, EntryBody> decide,
        CancellationToken cancel,
        CaptureRow? capture = null
    )
    {
        var fingerprint = sender.MayBeRetry ? Sender.Fingerprint($"{number}/{act}", request) : "";
        for (var tries = 0; tries < MostTries; tries++)
        {
            // What is kept may be behind: the journal's keys find that out, and nothing is refused because of it.
            var kept = tries == 0 ? shelf.Kept(number) : null;
            OrderSnapshot after;
            Append append;
            try
            {
                var snapshot = kept ?? await shelf.LoadAsync(number, cancel);
                NeedSeen(snapshot, sender);
                (after, append) = await DecideAsync(snapshot, act, sender, decide, fingerprint, capture, [], cancel);
            }
            catch (Exception e) when (e is RefusedException or StaleException)
            {
                if (await EarlierAsync(sender, fingerprint) is { } earlier)
                {
                    return earlier;
                }

                if (kept is null)
                {
                    throw;
                }

                continue;
            }

            switch (await writer.AppendAsync(append))
            {
                case AppendResult.Recorded { Stored: var stored }:
                    Wrote(append);
                    if (stored.Entry.Body is not InvoiceEntry)
                    {
                        // Its number was given on the way: who wants it reads it.
                        shelf.Keep(after);
                    }

                    return ReceiptOf(stored, after);
                case AppendResult.Already { Stored: var stored }:
                    return await ReplayAsync(stored, fingerprint);
                default:
                    continue;
            }
        }

        throw Crowded();
    }

    /// <param name="taken">What others that are recorded with it take from the shelf.</param>
    private async Task<(OrderSnapshot After, Append Append)> DecideAsync(
        OrderSnapshot snapshot,
        OrderAct act,
        Sender sender,
        Func<OrderSnapshot, EntryBody> decide,
        string fingerprint,
        CaptureRow? capture,
        IReadOnlyList<StockMove> taken,
        CancellationToken cancel
    )
    {
        var order = snapshot.Order;
        WhenMayWhat.NeedRole(act, order, sender.Person.Role);
        WhenMayWhat.Need(act, order, snapshot.Guide);
        var body = decide(snapshot);
        Debug.Assert(body.Act == act, "The rule records what was asked.");
        var now = Now();
        var entry = new Entry(
            order.Number,
            order.Head + 1,
            sender.Id,
            now,
            sender.Person.Id,
            body,
            sender.Said(now, order.TakenInAt) is { } said ? said with { At = Whole(said.At) } : null
        );
        var after = snapshot.With([entry], guides.Get);
        return (after, await AppendAsync(order, after, entry, fingerprint, capture, taken, cancel));
    }

    private void NeedSeen(OrderSnapshot snapshot, Sender sender)
    {
        if (sender.IfMatch is { } seen && seen != snapshot.Order.Head)
        {
            throw new StaleException(snapshot, seen, people.List());
        }
    }

    private async Task<Append> AppendAsync(
        Order before,
        OrderSnapshot after,
        Entry entry,
        string fingerprint,
        CaptureRow? capture,
        IReadOnlyList<StockMove> taken,
        CancellationToken cancel
    )
    {
        var projection = ProjectionRows.Project(after.Order, after.Guide, after.Assessment);
        return new Append(
            before.Number,
            before.Head,
            entry.Id,
            entry.At,
            entry.By,
            entry.Body,
            fingerprint,
            _ => projection,
            capture,
            StockEffects.Concerns(before, entry.Body) ? await StockAsync(before, entry.Body, taken, cancel) : null,
            entry.Body is OldPartSettled { Fate: PartFate.BoughtIn } settled ? BuyIn.Of(before, settled) : null,
            after.Model.IsSketch && SketchWork.Concludes(entry.Body) ? NextSketch(after.Order) : null,
            Notices: Notices.Of(before, after.Order, entry, after.Guide, people.List()),
            Said: entry.Said
        );
    }

    // What was done is the sketch's next revision; null where it taught nothing.
    private SketchRevision? NextSketch(Order order)
    {
        var newest = guides.Newest(order.Model);
        var known = guides.Get(order.Model, newest);
        var learnt = SketchWork.Revised(known, order);
        var yaml = guides.Write(learnt);
        return yaml == guides.Write(known) ? null : new SketchRevision(learnt, newest + 1, yaml);
    }

    private void Wrote(Append append)
    {
        if (append.Sketch is { } sketch)
        {
            guides.Wrote(sketch);
        }
    }

    // Who was overtaken by another order's reservation looks again.
    private async Task<IReadOnlyList<StockMove>> StockAsync(
        Order order,
        EntryBody body,
        IReadOnlyList<StockMove> taken,
        CancellationToken cancel
    )
    {
        var held = await parts.ItemsAsync(order: order.Number, cancel: cancel);
        if (body is ReadingTaken)
        {
            return held.Count == 0 ? [] : StockEffects.Of(order, body, held, await ShelfAsync(held, cancel), []).Moves;
        }

        if (body is not (PlanAgreed or PlanMended or SwapTestEnded or Resumed))
        {
            return held.Count == 0 ? [] : StockEffects.Of(order, body, held, [], []).Moves;
        }

        var numbers =
            body is SwapTestEnded
                ? held.Select(i => i.Kind).Distinct().ToArray()
                :
                [
                    .. StockEffects
                        .Wishes(body is PlanMended mended ? mended.Plan : order.Plan!.Value)
                        .Select(w => w.Number)
                        .Distinct(),
                ];
        return numbers.Length == 0 && body is not PlanMended
            ? []
            : StockEffects
                .Of(order, body, held, StockEffects.Moved(parts.Here(numbers), taken), parts.Kinds(numbers))
                .Moves;
    }

    /// <summary>Agreed orders whose parts are neither set aside for them nor free on the shelf, by number.</summary>
    public async Task<IReadOnlyList<PartsOwed>> PartsOwedAsync(CancellationToken cancel)
    {
        var orders = new List<Order>();
        foreach (var number in parts.Unserved())
        {
            orders.Add((await shelf.LoadAsync(number, cancel)).Order);
        }

        return [.. Lacks(orders).Select(l => PartsOwed.Of(l.Order, l.Lacks)).OfType<PartsOwed>()];
    }

    /// <summary>Whether all parts of its plan are set aside for it or lie free on the shelf.</summary>
    public bool HasParts(Order order) => Lacks([order])[0].Lacks.Count == 0;

    private IReadOnlyList<(Order Order, IReadOnlyList<PartWish> Lacks)> Lacks(IReadOnlyList<Order> orders)
    {
        PartNumber[] numbers = [.. orders.SelectMany(o => o.PartsWanted).Select(w => w.Number).Distinct()];
        var here = parts.Here(numbers);
        var kinds = parts.Kinds(numbers);
        return
        [
            .. orders.Select(o => (o, StockEffects.Lacks(o, [.. here.Where(i => i.Order == o.Number)], here, kinds))),
        ];
    }

    /// <summary>
    /// Serials of the stock items that are set aside for an order or fitted, by position; the other piece of a kind
    /// that this reading shows is booked with it.
    /// </summary>
    public async Task<IReadOnlyDictionary<string, string>> BookedAsync(
        int number,
        Reading reading,
        CancellationToken cancel
    )
    {
        var held = await parts.ItemsAsync(order: number, cancel: cancel);
        var shelf = held.Count == 0 ? [] : await ShelfAsync(held, cancel);
        var moves = StockEffects.Rebooked(number, held, shelf, reading);
        return held.Where(i => moves.All(m => m.Item != i.Id))
            .Concat(
                shelf.SelectMany(i =>
                    moves
                        .Where(m => m.Item == i.Id && m.To == PartState.Fitted)
                        .Select(m => i with { State = m.To, Position = m.Position })
                )
            )
            .Where(i => i is { Serial: not null, Position: not null, State: PartState.Reserved or PartState.Fitted })
            .GroupBy(i => i.Position!)
            .ToDictionary(g => g.Key, g => g.Last().Serial!);
    }

    // What else of these kinds lies there: a shop keeps what it ever sold.
    private Task<IReadOnlyList<PartItem>> ShelfAsync(IReadOnlyList<PartItem> held, CancellationToken cancel) =>
        parts.ItemsAsync([.. held.Select(i => i.Kind).Distinct()], state: PartState.InStock, cancel: cancel);

    // The journal keeps milliseconds; what is answered now must equal what is read later.
    private DateTimeOffset Now() => Whole(clock.GetUtcNow());

    private static DateTimeOffset Whole(DateTimeOffset moment) =>
        DateTimeOffset.FromUnixTimeMilliseconds(moment.ToUnixTimeMilliseconds());

    private async Task<Receipt?> EarlierAsync(Sender sender, string fingerprint) =>
        sender.MayBeRetry && journal.Find(sender.Id) is { } earlier ? await ReplayAsync(earlier, fingerprint) : null;

    private async Task<Receipt> ReplayAsync(Stored earlier, string fingerprint) =>
        earlier.Print == fingerprint
            ? ReceiptOf(earlier, await shelf.LoadAsync(earlier.Entry.Order))
            : throw RefusedException.Invalid(
                "key-reused",
                "This Idempotency-Key has recorded something else. Make a new one for each change."
            );

    private static Receipt ReceiptOf(Stored stored, OrderSnapshot snapshot) =>
        new(stored.Entry.Order, stored.Entry.Sequence, stored.Position, snapshot.Order.Stage, snapshot.Assessment.Next);

    private static RefusedException Crowded() =>
        new(RefusalKind.Conflict, "crowded", "Too many changes of this order at once. Try again.");
}
