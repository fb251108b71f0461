using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredWatchBegun(string For, DateTimeOffset Until, int EveryDays);

internal sealed record StoredWatchNoted(string Sign, DateOnly On, string? Text);

internal sealed record StoredWatchEnded(string Outcome, string? Text);

internal static partial class StoredMapper
{
    public static partial StoredWatchBegun ToStored(WatchBegun body);

    public static partial WatchBegun ToHeart(StoredWatchBegun body);

    public static partial StoredWatchNoted ToStored(WatchNoted body);

    public static partial WatchNoted ToHeart(StoredWatchNoted body);

    public static partial StoredWatchEnded ToStored(WatchEnded body);

    public static partial WatchEnded ToHeart(StoredWatchEnded body);
}

internal static class WatchShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<WatchBegun, StoredWatchBegun>("watch-begun/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<WatchNoted, StoredWatchNoted>("watch-noted/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<WatchEnded, StoredWatchEnded>("watch-ended/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];
}
