using System.Text.Json;
using Microsoft.Extensions.Caching.Memory;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>An order folded at one head, with its guide. Immutable, so it can be shared and kept.</summary>
/// <param name="model">The guide's revision that the order keeps, with its variants.</param>
public sealed class OrderSnapshot(Order order, Guide model, IReadOnlyList<Entry> entries)
{
    private (int? Newer, byte[] Bytes)? json;

    public Order Order { get; } = order;

    public Guide Model { get; } = model;

    /// <summary>The facts of this very build.</summary>
    public Guide Guide { get; } = model.For(order.Variant);

    public IReadOnlyList<Entry> Entries { get; } = entries;

    public OrderSnapshot With(IReadOnlyList<Entry> more) =>
        new(more.Aggregate(Order, (order, entry) => order.Apply(entry)), Model, [.. Entries, .. more]);

    /// <summary>The order page's JSON, written once a head and newest revision.</summary>
    public ReadOnlyMemory<byte> Json(int? newer)
    {
        if (json is not { } known || known.Newer != newer)
        {
            json = known = (newer, JsonSerializer.SerializeToUtf8Bytes(View(newer), RevtalJson.Options));
        }

        return known.Bytes;
    }

    /// <param name="newer">The guide's newest revision, if it is newer than the order's.</param>
    public OrderView View(int? newer)
    {
        var a = Assessment.Of(Order, Guide);
        var state = Order.RunState;
        var before = Order.Before is { } b ? Occupancy.Of(Guide, b.Value) : null;
        var after = Order.Checked is { } c ? Occupancy.Of(Guide, c.Value) : null;
        return new OrderView(
            Order.Number,
            Order.Head,
            Order.Stage,
            Order.Intake,
            Guide.Model,
            Order.Revision,
            newer,
            Order.Variant,
            [.. Model.Variants.Select(v => new VariantLine(v.Id, v.TellApart))],
            Order.Copy,
            Order.Photos,
            Order.TakenInAt,
            Order.ChangedAt,
            Order.Reason,
            Order.AgreedBy,
            Order.Agreed?.Quote,
            Order.Offered is { } o ? new OfferedView(o.Quote.Total, o.Quote.Currency, o.Until) : null,
            Order.Declined,
            [.. Order.Copies.Select(CopyView.Of)],
            Order.Settled,
            [
                .. Guide.Memory.Slots.Select(
                    (s, i) =>
                        new PositionView(s, before?[i], Order.Plan?.Value.Slots[i], after?[i], a.Check?.Rows[i].Match)
                ),
            ],
            Guide.Drives,
            Order.Before is { } read ? Sizing.Of(read.Value) : null,
            Reading(Order.Before),
            Reading(Order.Checked),
            Order.Plan is { } plan
                ? new PlanView(plan.Value, a.Expectation!, a.Notes, Order.Discount, Order.Later)
                : null,
            a.Sheet is { } sheet
                ? new RunView(
                    Order.Run?.Number ?? 1,
                    Order.Run?.Reseat ?? [],
                    [
                        .. sheet.Steps.Select(s => new StepView(
                            s,
                            state.Confirmed(s.Id),
                            sheet.IsSettled(s, state),
                            state.Blocked.FirstOrDefault(b => b.Step == s.Id)
                        )),
                    ],
                    a.NextStep?.Id,
                    a.Tally!,
                    sheet.Timers(state),
                    state.Stop,
                    state.Found,
                    state.Waivers
                )
                : null,
            a.Check,
            [.. Entries.Where(e => e.Body is ReadingTaken).Select(e => Line(e, (ReadingTaken)e.Body))],
            [.. Order.Invites.Select(i => new InviteLine(i.Phase, i.Until, i.By))],
            Order.Swap is { } swap ? new SwapView(swap.Setup, swap.Trials, swap.State) : null,
            Order.SwapResults,
            Order.Watch,
            a.Next,
            [
                .. Entries.Select(e => new JournalLine(
                    e.Sequence,
                    e.At,
                    e.By,
                    EntryKinds.NameOf(e.Body),
                    EntryWords.Say(e.Body)
                )),
            ]
        );
    }

    private static ReadingLine Line(Entry entry, ReadingTaken taken) =>
        new(
            entry.Sequence,
            taken.Phase,
            entry.At,
            entry.By,
            taken.Reading.Sources,
            taken.Reading.Memory.InstalledBytes,
            taken.Reading.Memory.UsableBytes,
            taken.Reading.Conflicts,
            taken.Reading.Missing,
            taken.Photo,
            taken.Invite is not null,
            taken.Note
        );

    private ReadingView? Reading(Recorded<Reading>? recorded) =>
        recorded is { Sequence: var s, Value: var reading } && Entries[s - 1] is { Body: ReadingTaken taken } entry
            ? new ReadingView(s, entry.At, entry.By, taken.Capture, reading)
            : null;
}

/// <summary>
/// Snapshots of orders lately used. Each is trusted only after the journal confirmed its head, so instances cannot
/// disagree.
/// </summary>
public sealed class OrderShelf(Journal journal, GuideShelf guides) : IDisposable
{
    private const int MostKept = 400;
    private readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>The order as the journal has it now.</summary>
    /// <exception cref="RefusedException">There is no such order.</exception>
    public async Task<OrderSnapshot> LoadAsync(int number, CancellationToken cancel = default)
    {
        var head =
            journal.Head(number)
            ?? throw RefusedException.NotFound(
                "no-such-order",
                $"There is no order {number}. Search with: revtal order list TEXT."
            );
        if (kept.TryGetValue(number, out OrderSnapshot? known) && known!.Order.Head == head)
        {
            return known;
        }

        var snapshot =
            known is not null && known.Order.Head < head
                ? known.With(
                    (await journal.EntriesAsync(number, known.Order.Head, cancel: cancel))
                        .Select(s => s.Entry)
                        .ToArray()
                )
                : await ReadAsync(number, cancel);
        Keep(snapshot);
        return snapshot;
    }

    public void Keep(OrderSnapshot snapshot) =>
        kept.Set(snapshot.Order.Number, snapshot, new MemoryCacheEntryOptions { Size = 1 });

    public void Dispose() => kept.Dispose();

    private async Task<OrderSnapshot> ReadAsync(int number, CancellationToken cancel)
    {
        var entries = (await journal.EntriesAsync(number, cancel: cancel)).Select(s => s.Entry).ToArray();
        var begin = (TakenIn)entries[0].Body;
        return new OrderSnapshot(
            Order.Fold(entries),
            await guides.GetAsync(begin.Model, begin.Revision, cancel),
            entries
        );
    }
}
