using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>The second stage of an upgrade, for the machine's next visit.</summary>
/// <param name="Part">The part number.</param>
public sealed record LaterStage(PartNumber Part, int Count, decimal Price, string Words);
