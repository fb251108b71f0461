using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredBatchLeft(int Batch, string Reason);

internal sealed record StoredBatchJoined(int Batch);

internal static class BatchShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<BatchLeft, StoredBatchLeft>(
            "batch-left/1",
            b => new(b.Batch, b.Reason),
            s => new(s.Batch, s.Reason)
        ),
        EntryKind.Of<BatchJoined, StoredBatchJoined>("batch-joined/1", b => new(b.Batch), s => new(s.Batch)),
    ];
}
