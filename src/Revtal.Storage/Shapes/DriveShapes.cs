using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredCopyTold(string Copy, string Text, int? Sampled = null);

internal sealed record StoredCopyBegun(string Bay, string Source, string Target, string Method, long Size);

internal sealed record StoredCopyAdvanced(string Bay, long Done);

internal sealed record StoredCopyVerified(string Bay, int FilesSource, int FilesTarget, int Sampled, int Matched);

internal sealed record StoredOldPartSettled(
    string Position,
    string Fate,
    StoredWipe? Wipe,
    string? Note,
    string? Grade = null,
    string? Tested = null,
    decimal? Price = null,
    StoredClaim? Claim = null,
    int? UsedIn = null
);

internal sealed record StoredOldPartBagged(string Position, string Place);

internal sealed record StoredClaim(string Number, DateOnly On, string Reason);

internal static partial class StoredMapper
{
    public static partial StoredCopyTold ToStored(CopyTold body);

    public static partial CopyTold ToHeart(StoredCopyTold body);

    public static partial StoredCopyBegun ToStored(CopyBegun body);

    public static partial CopyBegun ToHeart(StoredCopyBegun body);

    public static partial StoredCopyAdvanced ToStored(CopyAdvanced body);

    public static partial CopyAdvanced ToHeart(StoredCopyAdvanced body);

    public static partial StoredCopyVerified ToStored(CopyVerified body);

    public static partial CopyVerified ToHeart(StoredCopyVerified body);

    public static partial StoredOldPartSettled ToStored(OldPartSettled body);

    public static partial OldPartSettled ToHeart(StoredOldPartSettled body);
}

internal static class DriveShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<CopyTold, StoredCopyTold>("copy-told/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<CopyBegun, StoredCopyBegun>("copy-begun/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<CopyAdvanced, StoredCopyAdvanced>("copy-advanced/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<CopyVerified, StoredCopyVerified>("copy-verified/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<OldPartSettled, StoredOldPartSettled>(
            "old-part-settled/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<OldPartBagged, StoredOldPartBagged>(
            "old-part-bagged/1",
            b => new(b.Position, b.Place),
            s => new(s.Position, s.Place)
        ),
    ];
}
