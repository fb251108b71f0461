using System.Diagnostics;
using System.Security.Cryptography;
using System.Text;
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
    ) => (await TakeInAllAsync([(request, told)], null, request, sender, cancel))[0];

    /// <summary>Takes machines of one model in as a batch: all of them, or none.</summary>
    public Task<IReadOnlyList<Receipt>> TakeInBatchAsync(
        IReadOnlyList<(TakeInRequest Request, ToldArrival? Told)> machines,
        object request,
        Sender sender,
        CancellationToken cancel
    ) =>
        TakeInAllAsync(
            machines,
            [.. machines.Select((_, i) => new BatchPlace(i + 1, machines.Count))],
            request,
            sender,
            cancel
        );

    private async Task<IReadOnlyList<Receipt>> TakeInAllAsync(
        IReadOnlyList<(TakeInRequest Request, ToldArrival? Told)> machines,
        IReadOnlyList<BatchPlace>? places,
        object request,
        Sender sender,
        CancellationToken cancel
    )
    {
        var taken = await BeginAsync(machines, places, request, sender, cancel);
        var receipts = new List<Receipt>();
        foreach (var (receipt, (_, told), i) in taken.Zip(machines, Enumerable.Range(0, machines.Count)))
        {
            receipts.Add(told is null ? receipt : await ReadArrivalAsync(receipt, told, Nth(sender, i), cancel));
        }

        return receipts;
    }

    private async Task<IReadOnlyList<Receipt>> BeginAsync(
        IReadOnlyList<(TakeInRequest Request, ToldArrival? Told)> machines,
        IReadOnlyList<BatchPlace>? places,
        object asked,
        Sender sender,
        CancellationToken cancel
    )
    {
        var fingerprint = sender.MayBeRetry ? Sender.Fingerprint("take-in", asked) : "";
        if (await EarlierAsync(sender, fingerprint) is not null)
        {
            return await ReplayAllAsync(Ids(), fingerprint);
        }

        for (var tries = 0; tries < MostTries; tries++)
        {
            var (first, firstTold) = machines[0];
            var begun = first.Model is null ? Begun(first.NewModel, firstTold) : null;
            var code = begun?.Guide.Model.Code ?? Words.RequiredLine("The model", first.Model);
            var revision = begun?.Revision ?? guides.Newest(code);
            var guide = begun?.Guide ?? guides.Get(code, revision);
            Append[] appends =
            [
                .. machines.Select(
                    (m, i) =>
                        new Append(
                            null,
                            0,
                            Nth(sender, i).Id,
                            Now(),
                            sender.Person.Id,
                            Body(m.Request, m.Told, guide, revision, places?[i]),
                            fingerprint,
                            entry => ProjectionRows.Project(Order.Fold([entry]), guide.For(m.Request.Variant)),
                            Sketch: i == 0 ? begun : null,
                            Arrival: m.Told?.Row.Id
                        )
                ),
            ];
            switch (await writer.AppendAllAsync(appends))
            {
                case [AppendResult.Recorded, ..] recorded:
                    Wrote(appends[0]);
                    var receipts = new List<Receipt>();
                    foreach (var stored in recorded.Cast<AppendResult.Recorded>().Select(r => r.Stored))
                    {
                        var order = Order.Fold([stored.Entry]);
                        receipts.Add(
                            ReceiptOf(stored, new OrderSnapshot(order, guide, [stored.Entry])) with
                            {
                                OpenToo = await OpenTooAsync(order.Number, order.Intake.Serial, cancel),
                            }
                        );
                    }

                    return receipts;
                case [AppendResult.Already]:
                    return await ReplayAllAsync(Ids(), fingerprint);
                default:
                    continue;
            }
        }

        throw Crowded();

        IEnumerable<Guid> Ids() => machines.Select((_, i) => Nth(sender, i).Id);
    }

    private static TakenIn Body(
        TakeInRequest request,
        ToldArrival? told,
        Guide guide,
        int revision,
        BatchPlace? place
    ) =>
        IntakeRules.TakeIn(
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
                request.Trial,
                place
            ),
            guide,
            revision,
            request.Variant
        );

    // Of what is recorded together each has a key of its own, made of the sender's, so that a retry finds them all.
    private static Sender Nth(Sender sender, int place) => place == 0 ? sender : Derived(sender, $"{place}");

    private static Sender Derived(Sender sender, string of) =>
        sender with
        {
            Id = new Guid(SHA256.HashData([.. sender.Id.ToByteArray(), .. Encoding.UTF8.GetBytes(of)]).AsSpan(0, 16)),
        };

    private async Task<IReadOnlyList<Receipt>> ReplayAllAsync(IEnumerable<Guid> ids, string fingerprint)
    {
        var receipts = new List<Receipt>();
        foreach (var earlier in ids.Select(journal.Find).OfType<Stored>())
        {
            receipts.Add(await ReplayAsync(earlier, fingerprint));
        }

        return receipts;
    }

    // A retry after a lost answer finds its own reading: the key is made of the take-in's.
    private async Task<Receipt> ReadArrivalAsync(
        Receipt taken,
        ToldArrival told,
        Sender sender,
        CancellationToken cancel
    )
    {
        var own = Derived(sender, "arrival") with { MayBeRetry = true, IfMatch = null };
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

    /// <summary>
    /// Records on all machines of a batch what the rule decides of each: on all of them, or on none.
    /// </summary>
    /// <param name="request">What was sent with it, for recognising a retry.</param>
    /// <param name="choose">Those that it is for, of the open ones.</param>
    /// <exception cref="RefusedException">It is for none, or one of them refuses; the message names each.</exception>
    public async Task<IReadOnlyList<Receipt>> RecordBatchAsync(
        int batch,
        OrderAct act,
        object? request,
        Sender sender,
        Func<OrderSnapshot, bool> choose,
        Func<OrderSnapshot, EntryBody> decide,
        CancellationToken cancel
    )
    {
        var fingerprint = sender.MayBeRetry ? Sender.Fingerprint($"batch {batch}/{act}", request) : "";
        for (var tries = 0; tries < MostTries; tries++)
        {
            var members = await MembersAsync(batch, cancel);
            if (await EarlierAsync(sender, fingerprint) is { } earlier)
            {
                return await ReplayBatchAsync(earlier.Order, members);
            }

            OrderSnapshot[] chosen = [.. members.Where(m => m.Order.IsOpen && choose(m))];
            if (chosen.Length == 0)
            {
                throw RefusedException.Rule(
                    "batch-none",
                    $"That is for none of the machines of batch {batch}: "
                        + string.Join(' ', members.Take(1).Select(m => WhyNot(m)))
                );
            }

            var decided = await DecideAllAsync(chosen, act, sender, decide, fingerprint, cancel);
            switch (await writer.AppendAllAsync([.. decided.Select(d => d.Append)]))
            {
                case [AppendResult.Recorded, ..] recorded:
                    foreach (var (after, append) in decided)
                    {
                        Wrote(append);
                        shelf.Keep(after);
                    }

                    return
                    [
                        .. recorded.Cast<AppendResult.Recorded>().Zip(decided, (r, d) => ReceiptOf(r.Stored, d.After)),
                    ];
                case [AppendResult.Already { Stored: var stored }]:
                    return await ReplayBatchAsync((await ReplayAsync(stored, fingerprint)).Order, members);
                default:
                    continue;
            }
        }

        throw Crowded();

        Task<IReadOnlyList<Receipt>> ReplayBatchAsync(int first, IReadOnlyList<OrderSnapshot> members) =>
            ReplayAllAsync(
                members.Select(m => m.Order.Number == first ? sender.Id : Derived(sender, $"{m.Order.Number}").Id),
                fingerprint
            );

        string WhyNot(OrderSnapshot m) =>
            WhenMayWhat.WhyNot(act, m.Order, m.Guide)?.Message ?? $"order {m.Order.Number} is not meant.";
    }

    /// <inheritdoc cref="OrderShelf.LoadAsync"/>
    public Task<OrderSnapshot> LoadAsync(int number, CancellationToken cancel) => shelf.LoadAsync(number, cancel);

    /// <summary>The orders of a batch, closed ones too.</summary>
    /// <exception cref="RefusedException">There is no such batch.</exception>
    public async Task<IReadOnlyList<OrderSnapshot>> MembersAsync(int batch, CancellationToken cancel)
    {
        var members = new List<OrderSnapshot>();
        foreach (var number in journal.OrdersOfBatch(batch))
        {
            members.Add(await shelf.LoadAsync(number, cancel));
        }

        return members.Count > 0 ? members : throw BatchRules.None(batch);
    }

    private async Task<IReadOnlyList<(OrderSnapshot After, Append Append)>> DecideAllAsync(
        IReadOnlyList<OrderSnapshot> chosen,
        OrderAct act,
        Sender sender,
        Func<OrderSnapshot, EntryBody> decide,
        string fingerprint,
        CancellationToken cancel
    )
    {
        var decided = new List<(OrderSnapshot, Append)>();
        var refused = new List<(int Number, RefusedException Why)>();
        var taken = new List<StockMove>();
        foreach (var snapshot in chosen)
        {
            var number = snapshot.Order.Number;
            var own = decided.Count == 0 ? sender : Derived(sender, $"{number}");
            try
            {
                var one = await DecideAsync(snapshot, act, own, decide, fingerprint, null, taken, cancel);
                taken.AddRange(one.Append.Stock ?? []);
                decided.Add(one);
            }
            catch (RefusedException e)
            {
                refused.Add((number, e));
            }
        }

        return refused switch
        {
            [] => decided,
            [var (_, why), ..] when why.Kind == RefusalKind.Role => throw why,
            _ => throw new RefusedException(
                refused[0].Why.Kind,
                refused.Select(r => r.Why.Code).Distinct().ToArray() is [var code] ? code : "batch-refused",
                string.Join(' ', refused.Select(r => FormattableString.Invariant($"{r.Number}: {r.Why.Message}")))
                    + $" Nothing was recorded on any of the {chosen.Count}."
            ),
        };
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
        var entry = new Entry(order.Number, order.Head + 1, sender.Id, Now(), sender.Person.Id, body);
        var after = snapshot.With([entry], guides.Get);
        return (after, await AppendAsync(order, after, entry, fingerprint, capture, taken, cancel));
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
            StockEffects.Concerns(entry.Body) ? await StockAsync(before, entry.Body, taken, cancel) : null,
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
                    StockEffects.Moved(await parts.ItemsAsync(numbers, cancel: cancel), taken),
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
