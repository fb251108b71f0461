using System.Text.Json;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>
/// What was committed, for whoever keeps something in hand or tells others. Where several instances work on one store,
/// each hears of all commits in their order, its own too, from the store; else whoever commits tells.
/// </summary>
/// <param name="isShared">Whether they are heard from the store.</param>
public sealed class Changes(bool isShared)
{
    /// <summary>Raised with what the journal brought, position after position without a gap.</summary>
    public event Action<IReadOnlyList<Changed>>? Recorded;

    /// <summary>
    /// Raised when something of the shop changed outside its orders, and by whom; no topic where anything may have.
    /// </summary>
    public event Action<ShopTopic?, Hand?>? Shop;

    /// <summary>Whether all is heard; while it is not, nothing that is kept in hand is to be believed.</summary>
    public bool Hears { get; internal set; } = !isShared;

    internal void Tell(IReadOnlyList<Changed> changes)
    {
        if (!isShared && changes.Count > 0)
        {
            Hear(changes);
        }
    }

    internal void Tell(ShopTopic topic, Hand hand)
    {
        if (!isShared)
        {
            Shop?.Invoke(topic, hand);
        }
    }

    internal void Hear(IReadOnlyList<Changed> changes) => Recorded?.Invoke(changes);

    /// <param name="call">As another instance wrote it; null where some may have been missed.</param>
    internal void Hear(string? call)
    {
        var told = call is null ? null : JsonSerializer.Deserialize<Call>(call, RevtalJson.Options);
        Shop?.Invoke(told?.Topic, told is null ? null : new Hand(told.By, told.At, Guid.Empty));
    }

    /// <summary>A change of the shop, as other instances read it.</summary>
    internal static string Written(ShopTopic topic, Hand hand) =>
        JsonSerializer.Serialize(new Call(topic, hand.By, hand.At), RevtalJson.Options);

    private sealed record Call(ShopTopic Topic, string By, DateTimeOffset At);
}
