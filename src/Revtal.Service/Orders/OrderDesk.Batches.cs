using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

// One change of many orders: on all of them, or on none.
public sealed partial class OrderDesk
{
    /// <summary>
    /// Records on all machines of a batch what the rule decides of each: on all of them, or on none.
    /// </summary>
    /// <param name="request">What was sent with it, for recognising a retry.</param>
    /// <param name="choose">Those that it is for; a closed one among them refuses.</param>
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

            OrderSnapshot[] chosen = [.. members.Where(choose)];
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
                // A sketch has one next revision: the first that taught it something writes it.
                var taught = decided.Any(d => d.Item2.Sketch is not null);
                decided.Add(taught ? (one.After, one.Append with { Sketch = null }) : one);
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
}
