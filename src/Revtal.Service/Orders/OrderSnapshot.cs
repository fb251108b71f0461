using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.Extensions.Caching.Memory;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>
/// An order folded at one head, with its guide. Nothing of it changes but what it remembers of itself, so it can be
/// shared.
/// </summary>
/// <param name="model">The guide's revision that the order keeps, with its variants.</param>
/// <param name="proved">The most that the model is known to take by now, maybe by a later revision.</param>
public sealed class OrderSnapshot(Order order, Guide model, ImmutableList<Entry> entries, ConfirmedMax? proved = null)
{
    private Written? json;
    private Assessment? assessment;

    public Order Order { get; } = order;

    public Guide Model { get; } = model;

    public ConfirmedMax? Proved { get; } = proved;

    /// <summary>The facts of this very build.</summary>
    public Guide Guide { get; } = SketchWork.Drawn(model.For(order.Variant).Proving(proved), order);

    public ImmutableList<Entry> Entries { get; } = entries;

    /// <summary>What follows from it; found out once.</summary>
    public Assessment Assessment => assessment ??= Assessment.Of(Order, Guide);

    /// <param name="revision">Gives the guide's revision that the order keeps after them.</param>
    public OrderSnapshot With(IReadOnlyList<Entry> more, Func<string, int, Guide> revision)
    {
        var after = more.Aggregate(Order, (order, entry) => order.Apply(entry));
        return new(
            after,
            after.Revision == Order.Revision ? Model : revision(after.Model, after.Revision),
            Entries.AddRange(more),
            Proved
        );
    }

    /// <summary>The order page's JSON, written once a head and newest revision.</summary>
    /// <inheritdoc cref="OrderViews.Of" path="/param"/>
    public ReadOnlyMemory<byte> Json(int? newer, int nearlyFull, IReadOnlyList<Person> people)
    {
        var known = json;
        if (known is null || known.Newer != newer || known.People != people)
        {
            var view = OrderViews.Of(this, newer, nearlyFull, people);
            var bytes = JsonSerializer.SerializeToUtf8Bytes(view, RevtalJson.Options);
            json = known = new Written(newer, people, bytes);
        }

        return known.Bytes;
    }

    // Put in its place as one, so that no reader sees half of it.
    private sealed record Written(int? Newer, IReadOnlyList<Person> People, byte[] Bytes);
}

/// <summary>
/// Snapshots of orders lately used. Each is trusted only after the journal confirmed its head, so instances cannot
/// disagree.
/// </summary>
public sealed class OrderShelf(Journal journal, GuideShelf guides) : IDisposable
{
    private const int MostKept = 400,
        // A power of two.
        MostAsked = 4096;

    // Numbers lately asked for, each at its own place. What is asked for once is not kept: of a large shop read through
    // at random all would be kept for a moment, too long for the collector's first look and never to any use.
    private readonly int[] asked = new int[MostAsked];
    private readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>The order as the journal has it now.</summary>
    /// <exception cref="RefusedException">There is no such order.</exception>
    public async Task<OrderSnapshot> LoadAsync(int number, CancellationToken cancel = default)
    {
        var head =
            journal.Head(number) ?? throw RefusedException.NotFound("no-such-order", $"There is no order {number}.");
        if (
            kept.TryGetValue(number, out OrderSnapshot? known)
            && known!.Order.Head == head
            && known.Proved == guides.Proved(known.Order.Model)
        )
        {
            return known;
        }

        var snapshot =
            known is not null && known.Order.Head < head && known.Proved == guides.Proved(known.Order.Model)
                ? known.With([.. journal.Entries(number, known.Order.Head).Select(s => s.Entry)], guides.Get)
                : await ReadAsync(number, cancel);
        if (known is not null || WasAsked(number))
        {
            Keep(snapshot);
        }

        return snapshot;
    }

    private bool WasAsked(int number)
    {
        var place = number & (MostAsked - 1);
        return Interlocked.Exchange(ref asked[place], number) == number;
    }

    /// <summary>The order as it was last known here, maybe behind; null where it is not kept.</summary>
    public OrderSnapshot? Kept(int number) => kept.Get<OrderSnapshot>(number);

    public void Keep(OrderSnapshot snapshot) =>
        kept.Set(snapshot.Order.Number, snapshot, new MemoryCacheEntryOptions { Size = 1 });

    public void Dispose() => kept.Dispose();

    private async Task<OrderSnapshot> ReadAsync(int number, CancellationToken cancel)
    {
        var entries = (journal.Entries(number)).Select(s => s.Entry).ToArray();
        var order = Order.Fold(entries);
        return new OrderSnapshot(
            order,
            guides.Get(order.Model, order.Revision),
            [.. entries],
            guides.Proved(order.Model)
        );
    }
}
