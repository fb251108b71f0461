using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredReadingTaken(
    string Phase,
    StoredReading Reading,
    string? Capture,
    string? Note,
    string? Photo = null,
    int? Invite = null,
    IReadOnlyDictionary<string, string>? Booked = null
);

internal sealed record StoredReadingVouched(int Reading, string Reason);

internal sealed record StoredReadingInvited(string Phase, string CodeHash, DateTimeOffset Until);

internal sealed record StoredScoresTaken(string Phase, IReadOnlyList<StoredScore> Scores, string? Note);

internal static partial class StoredMapper
{
    public static partial StoredReadingTaken ToStored(ReadingTaken body);

    public static partial ReadingTaken ToHeart(StoredReadingTaken body);

    public static partial StoredReadingVouched ToStored(ReadingVouched body);

    public static partial ReadingVouched ToHeart(StoredReadingVouched body);

    public static partial StoredReadingInvited ToStored(ReadingInvited body);

    public static partial ReadingInvited ToHeart(StoredReadingInvited body);

    public static partial StoredScoresTaken ToStored(ScoresTaken body);

    public static partial ScoresTaken ToHeart(StoredScoresTaken body);
}

internal static class MeasureShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<ReadingTaken, StoredReadingTaken>("reading-taken/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<ReadingVouched, StoredReadingVouched>(
            "reading-vouched/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<ReadingInvited, StoredReadingInvited>(
            "reading-invited/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<ScoresTaken, StoredScoresTaken>("scores-taken/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];
}
