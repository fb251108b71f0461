using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredMarkedReady(
    string Verdict,
    string? Reason,
    long? Proves = null,
    IReadOnlyList<string>? Holds = null
);

internal sealed record StoredHandedBack(string To, string? OldParts);

internal sealed record StoredParked(string Reason, DateTimeOffset? Until = null, string? Wakes = null);

internal sealed record StoredHoldReleased(string Key, string Sentence, string Reason);

internal sealed record StoredResumed();

internal sealed record StoredCancelled(string Reason);

internal static partial class StoredMapper
{
    public static partial StoredMarkedReady ToStored(MarkedReady body);

    public static partial MarkedReady ToHeart(StoredMarkedReady body);

    public static partial StoredHandedBack ToStored(HandedBack body);

    public static partial HandedBack ToHeart(StoredHandedBack body);

    public static partial StoredParked ToStored(Parked body);

    public static partial Parked ToHeart(StoredParked body);

    public static partial StoredHoldReleased ToStored(HoldReleased body);

    public static partial HoldReleased ToHeart(StoredHoldReleased body);

    public static partial StoredCancelled ToStored(Cancelled body);

    public static partial Cancelled ToHeart(StoredCancelled body);
}

internal static class CloseShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<MarkedReady, StoredMarkedReady>("marked-ready/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<HoldReleased, StoredHoldReleased>("hold-released/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<HandedBack, StoredHandedBack>("handed-back/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<Parked, StoredParked>("parked/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<Resumed, StoredResumed>("resumed/1", _ => new(), _ => new()),
        EntryKind.Of<Cancelled, StoredCancelled>("cancelled/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];
}
