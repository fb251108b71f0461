using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>The second stage of an upgrade, for the machine's next visit.</summary>
/// <param name="Part">The part number.</param>
/// <param name="Changes">The wishes that make it, on the machine as the first stage leaves it; null in early
/// records.</param>
public sealed record LaterStage(
    PartNumber Part,
    int Count,
    decimal Price,
    string Words,
    IReadOnlyList<SlotChange>? Changes = null
);

/// <summary>What an order leaves for the machine's next visit.</summary>
/// <param name="Changes">The wishes that make it, on the machine as this order leaves it; empty where only words were
/// noted.</param>
/// <param name="Words">As the bench says it.</param>
/// <param name="Price">What it would have cost on the day it was noted, in the shop's currency; null where that is not
/// known. A plan's second stage counts parts alone.</param>
/// <param name="At">When it was noted.</param>
/// <param name="Stage">Where it came with the plan, as the second of two stages.</param>
public sealed record LaterVisit(
    IReadOnlyList<SlotChange> Changes,
    string Words,
    decimal? Price,
    DateTimeOffset At,
    LaterStage? Stage = null
);
