using Revtal.Core.Captures;
using Revtal.Core.Orders;
using Riok.Mapperly.Abstractions;

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

internal sealed record StoredLoadWatched(string Phase, StoredLoadSeries Series, string? Capture, string? Note);

internal sealed record StoredTrialAsked(string? Work, int? Minutes);

internal sealed record StoredTrialDone(
    string Work,
    int Minutes,
    int? Displays,
    string Outcome,
    string? Note,
    int? Load = null
);

internal static partial class StoredMapper
{
    [MapperIgnoreSource(nameof(LoadSeries.Peaks))]
    private static partial StoredLoadSeries ToStored(LoadSeries series);

    public static partial StoredLoadWatched ToStored(LoadWatched body);

    public static partial LoadWatched ToHeart(StoredLoadWatched body);

    public static partial StoredTrialAsked ToStored(TrialAsked body);

    public static partial TrialAsked ToHeart(StoredTrialAsked body);

    public static partial StoredTrialDone ToStored(TrialDone body);

    public static partial TrialDone ToHeart(StoredTrialDone body);

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
        EntryKind.Of<LoadWatched, StoredLoadWatched>("load-watched/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<TrialAsked, StoredTrialAsked>("trial-asked/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<TrialDone, StoredTrialDone>("trial-done/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<ScoresTaken, StoredScoresTaken>("scores-taken/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];
}
