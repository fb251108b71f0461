using System.Diagnostics;
using System.Security.Cryptography;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Revtal.Service.Arrivals;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>The one road that every change of an order travels: load, decide, append, answer.</summary>
public sealed class OrderDesk(
    OrderShelf shelf,
    Journal journal,
    JournalWriter writer,
    GuideShelf guides,
    PartStore parts,
    TimeProvider clock
)
{
    // Each try reloads; who loses this often stands in a crowd that no bench has.
    private const int MostTries = 20;

    /// <summary>
    /// Takes a machine in under the newest revision of its guide, or of a model that nobody knows under a new sketch;
    /// what it told of itself before becomes its before reading.
    /// </summary>
    /// <param name="told">What it told; null where it told nothing.</param>
    public async Task<Receipt> TakeInAsync(
        TakeInRequest request,
        ToldArrival? told,
        Sender sender,
        CancellationToken cancel
    )
    {
        var taken = await BeginAsync(request, told, sender, cancel);
        return told is null ? taken : await ReadArrivalAsync(taken, told, sender, cancel);
    }

    private async Task<Receipt> BeginAsync(
        TakeInRequest request,
        ToldArrival? told,
        Sender sender,
        CancellationToken cancel
    )
    {
        var fingerprint = sender.MayBeRetry ? Sender.Fingerprint("take-in", request) : "";
        if (await EarlierAsync(sender, fingerprint) is { } earlier)
        {
            return earlier;
        }

        for (var tries = 0; tries < MostTries; tries++)
        {
            var begun = request.Model is null ? Begun(request.NewModel, told) : null;
            var code = begun?.Guide.Model.Code ?? Words.RequiredLine("The model", request.Model);
            var revision = begun?.Revision ?? guides.Newest(code);
            var guide = begun?.Guide ?? guides.Get(code, revision);
            var body = IntakeRules.TakeIn(
                new Intake(
                    request.Customer,
                    request.Contact,
                    request.Serial ?? ReadingDoubts.Told(told?.Reading.System.Serial),
                    request.Complaint,
                    request.Goal,
                    request.Accessories,
                    request.Condition,
                    request.Backup,
                    request.SealConsent,
                    request.Trial
                ),
                guide,
                revision,
                request.Variant
            );
            var append = new Append(
                null,
                0,
                sender.Id,
                Now(),
                sender.Person.Id,
                body,
                fingerprint,
                entry => ProjectionRows.Project(Order.Fold([entry]), guide.For(request.Variant)),
                Sketch: begun,
                Arrival: told?.Row.Id
            );
            switch (await writer.AppendAsync(append))
            {
                case AppendResult.Recorded { Stored: var stored }:
                    Wrote(append);
                    return ReceiptOf(stored, new OrderSnapshot(Order.Fold([stored.Entry]), guide, [stored.Entry])) with
                    {
                        OpenToo = await OpenTooAsync(stored.Entry.Order, body.Intake.Serial, cancel),
                    };
                case AppendResult.Already { Stored: var stored }:
                    return await ReplayAsync(stored, fingerprint);
                default:
                    continue;
            }
        }

        throw Crowded();
    }

    // A retry after a lost answer finds its own reading: the key is made of the take-in's.
    private async Task<Receipt> ReadArrivalAsync(
        Receipt taken,
        ToldArrival told,
        Sender sender,
        CancellationToken cancel
    )
    {
        var own = sender with
        {
            Id = new Guid(SHA256.HashData([.. sender.Id.ToByteArray(), .. "arrival"u8]).AsSpan(0, 16)),
            MayBeRetry = true,
            IfMatch = null,
        };
        var read = await RecordAsync(
            taken.Order,
            OrderAct.ReadBefore,
            new { told.Row.Capture },
            own,
            (o, g) => MeasureRules.TakeReading(o, g, Phase.Before, told.Reading, told.Row.Capture, null),
            cancel
        );
        return read with { OpenToo = taken.OpenToo };
    }

    private SketchRevision Begun(NewModel? model, ToldArrival? told)
    {
        if (model is null)
        {
            throw RefusedException.Invalid(
                "text-missing",
                "The model is missing. Name one of the shop's, or say what it is: maker, name and kind."
            );
        }

        var sketch = SketchRules.Begin(
            model.Maker,
            model.Name,
            model.Kind,
            ReadingDoubts.Told(told?.Reading.System.Product) is { } product ? [product] : [],
            guides.Has
        );
        return new SketchRevision(sketch, 1, guides.Write(sketch));
    }

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
                WhenMayWhat.NeedRole(act, snapshot.Order, sender.Person.Role);
                WhenMayWhat.Need(act, snapshot.Order, snapshot.Guide);
                var body = decide(snapshot);
                Debug.Assert(body.Act == act, "The rule records what was asked.");
                var entry = new Entry(number, snapshot.Order.Head + 1, sender.Id, Now(), sender.Person.Id, body);
                after = snapshot.With([entry], guides.Get);
                append = await AppendAsync(snapshot.Order, after, entry, fingerprint, capture, cancel);
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
                    shelf.Keep(after);
                    return ReceiptOf(stored, after);
                case AppendResult.Already { Stored: var stored }:
                    return await ReplayAsync(stored, fingerprint);
                default:
                    continue;
            }
        }

        throw Crowded();
    }

    private static void NeedSeen(OrderSnapshot snapshot, Sender sender)
    {
        if (sender.IfMatch is { } seen && seen != snapshot.Order.Head)
        {
            throw new StaleException(snapshot, seen);
        }
    }

    private async Task<Append> AppendAsync(
        Order before,
        OrderSnapshot after,
        Entry entry,
        string fingerprint,
        CaptureRow? capture,
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
            StockEffects.Concerns(entry.Body) ? await StockAsync(before, entry.Body, cancel) : null,
            entry.Body is OldPartSettled { Fate: PartFate.BoughtIn } settled ? BuyIn.Of(before, settled) : null,
            after.Model.IsSketch && SketchWork.Concludes(entry.Body) ? NextSketch(after.Order) : null
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
            guides.Wrote(sketch, new Hand(append.By, append.At, append.Id));
        }
    }

    // Who was overtaken by another order's reservation looks again.
    private async Task<IReadOnlyList<StockMove>> StockAsync(Order order, EntryBody body, CancellationToken cancel)
    {
        var held = await parts.ItemsAsync(order: order.Number, cancel: cancel);
        if (body is ReadingTaken)
        {
            return held.Count == 0 ? [] : StockEffects.Of(order, body, held, await ShelfAsync(held, cancel), []).Moves;
        }

        if (body is not (PlanAgreed or PlanMended or SwapTestEnded))
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
                .Of(
                    order,
                    body,
                    held,
                    await parts.ItemsAsync(numbers, cancel: cancel),
                    await parts.KindsAsync(numbers, cancel)
                )
                .Moves;
    }

    // Two open orders of one machine are a mistake of one of them, or a machine that lies here already.
    private async Task<IReadOnlyList<int>?> OpenTooAsync(int number, string? serial, CancellationToken cancel)
    {
        var open = new List<int>();
        foreach (var other in serial is null ? [] : await journal.OrdersOfAsync(serial, cancel))
        {
            if (other != number && (await shelf.LoadAsync(other, cancel)).Order.IsOpen)
            {
                open.Add(other);
            }
        }

        return open.Count > 0 ? open : null;
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
    private DateTimeOffset Now() => DateTimeOffset.FromUnixTimeMilliseconds(clock.GetUtcNow().ToUnixTimeMilliseconds());

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
