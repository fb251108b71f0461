using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredOwnerNamed(string? Owner = null, string? Word = null);

internal sealed record StoredHandOverRead();

internal sealed record StoredPlaceTold(string? Place = null);

internal sealed record StoredPromised(DateTimeOffset? At = null);

internal static class SharedShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<OwnerNamed, StoredOwnerNamed>(
            "owner-named/1",
            b => new(b.Owner, b.Word),
            s => new(s.Owner, s.Word)
        ),
        EntryKind.Of<HandOverRead, StoredHandOverRead>("hand-over-read/1", _ => new(), _ => new()),
        EntryKind.Of<PlaceTold, StoredPlaceTold>("place-told/1", b => new(b.Place), s => new(s.Place)),
        EntryKind.Of<Promised, StoredPromised>("promised/1", b => new(b.At), s => new(s.At)),
    ];
}
