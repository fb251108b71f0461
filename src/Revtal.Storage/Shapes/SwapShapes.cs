using Revtal.Core.Bench;
using Revtal.Core.Orders;
using Riok.Mapperly.Abstractions;

namespace Revtal.Storage.Shapes;

internal sealed record StoredSwapTestBegun(StoredSwapSetup Setup);

internal sealed record StoredSwapTried(
    StoredSwapTrial Trial,
    IReadOnlyList<StoredSwapCount>? Counts = null,
    string? Explanation = null
);

internal sealed record StoredSwapTestEnded(
    StoredSwapConclusion? Conclusion,
    string? Note,
    IReadOnlyList<StoredSwapCount>? Counts = null,
    string? Explanation = null
);

internal sealed record StoredSwapCount(string Removal, int Out, int Back);

internal sealed record StoredSwapWay(
    IReadOnlyList<string> Off,
    IReadOnlyList<string> In,
    IReadOnlyList<string> Out,
    IReadOnlyDictionary<string, int> Fasteners,
    string? StartsOpen
);

internal static partial class StoredMapper
{
    public static partial StoredSwapTestBegun ToStored(SwapTestBegun body);

    public static partial SwapTestBegun ToHeart(StoredSwapTestBegun body);

    public static partial StoredSwapTried ToStored(SwapTried body);

    public static partial SwapTried ToHeart(StoredSwapTried body);

    public static partial StoredSwapTestEnded ToStored(SwapTestEnded body);

    public static partial SwapTestEnded ToHeart(StoredSwapTestEnded body);

    [MapProperty(nameof(SwapSetup.Preferred), nameof(StoredSwapSetup.Allowed))]
    private static partial StoredSwapSetup Setup(SwapSetup setup);

    [MapProperty(nameof(StoredSwapSetup.Allowed), nameof(SwapSetup.Preferred))]
    private static partial SwapSetup Setup(StoredSwapSetup setup);
}

internal static class SwapShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<SwapTestBegun, StoredSwapTestBegun>(
            "swap-test-begun/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<SwapTried, StoredSwapTried>("swap-tried/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<SwapTestEnded, StoredSwapTestEnded>(
            "swap-test-ended/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
    ];
}
