using System.Security.Cryptography;
using System.Text;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Service.Arrivals;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

// Machines come in, one or many together.
public sealed partial class OrderDesk
{
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
}
