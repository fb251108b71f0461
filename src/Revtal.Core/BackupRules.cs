namespace Revtal.Core;

/// <summary>How backups are made by the service itself.</summary>
/// <param name="EveryHours">How far apart, 1 to 720.</param>
/// <param name="Keep">How many stay, 1 to 1000.</param>
public sealed record BackupPlan(int EveryHours, int Keep);

/// <summary>One backup, while it is made and after it.</summary>
/// <param name="BeganAt">UTC; what was recorded after it is not in it.</param>
/// <param name="By">Who asked for it, by id; null where its time had come.</param>
/// <param name="EndedAt">UTC; null while it is made.</param>
/// <param name="File">Where it lies, for a file of the service's own; null where it was fetched.</param>
/// <param name="Bytes">Its size; 0 where it is not known yet.</param>
/// <param name="Rows">That it has.</param>
/// <param name="Orders">Whose entries were proved by their hashes when it was read back; null where nobody read it
/// back.</param>
/// <param name="Entries">That it has; null where nobody read it back.</param>
/// <param name="Faults">How much of it is not as it was recorded.</param>
/// <param name="Sha256">Of its lines, as its last line has it; null before.</param>
/// <param name="Trouble">Why there is none; null where there is.</param>
public sealed record BackupMade(
    DateTimeOffset BeganAt,
    string? By,
    DateTimeOffset? EndedAt,
    string? File,
    long Bytes,
    long Rows,
    int? Orders,
    long? Entries,
    int Faults,
    string? Sha256,
    string? Trouble
)
{
    /// <summary>Whether a shop can be restored from it.</summary>
    public bool IsGood => EndedAt is not null && Trouble is null;
}

/// <summary>When a backup is due, and what a lead must know of them.</summary>
public static class BackupRules
{
    // Whoever makes their own, by a timer of the machine, makes them daily.
    private const int UsualHours = 24;

    private static readonly TimeSpan AfterFailure = TimeSpan.FromHours(1);

    /// <summary>How long after a try the next may begin.</summary>
    public static TimeSpan BetweenTries(BackupPlan plan) =>
        TimeSpan.FromHours(plan.EveryHours) < AfterFailure ? TimeSpan.FromHours(plan.EveryHours) : AfterFailure;

    /// <param name="made">Those of the service's own, newest first.</param>
    public static bool IsDue(BackupPlan plan, IReadOnlyList<BackupMade> made, DateTimeOffset now) =>
        !(made.FirstOrDefault(b => b.IsGood)?.BeganAt > now - TimeSpan.FromHours(plan.EveryHours))
        && !(made.Count > 0 && made[0].BeganAt > now - BetweenTries(plan));

    /// <summary>What is amiss, in sentences; empty for nothing.</summary>
    /// <param name="plan">Null where the service makes none by itself.</param>
    /// <param name="made">All, newest first.</param>
    public static IReadOnlyList<string> Warnings(BackupPlan? plan, IReadOnlyList<BackupMade> made, DateTimeOffset now)
    {
        var good = made.FirstOrDefault(b => b.IsGood);
        var every = TimeSpan.FromHours(plan?.EveryHours ?? UsualHours);
        return
        [
            .. good is null ? [NoneYet(plan)]
            : now - good.BeganAt > 2 * every ? [$"The last backup is {Long(now - good.BeganAt)} old."]
            : Array.Empty<string>(),
            .. made.FirstOrDefault(b => b.EndedAt is not null) is { Trouble: { } why } failed
                ? [$"The backup of {Phrases.Minute(failed.BeganAt)} failed: {why}"]
                : Array.Empty<string>(),
            .. good is { Faults: > 0 }
                ?
                [
                    $"The backup of {Phrases.Minute(good.BeganAt)} holds what is not as it was recorded: look through "
                        + "the store. Older ones are kept until then.",
                ]
                : Array.Empty<string>(),
        ];
    }

    private static string NoneYet(BackupPlan? plan) =>
        plan is null
            ? "There is no backup, and none is made by itself: name a folder with --backup:folder."
            : "There is no backup yet.";

    private static string Long(TimeSpan time) =>
        time < TimeSpan.FromDays(2)
            ? Phrases.Counted((int)time.TotalHours, "hour", "hours")
            : Phrases.Counted((int)time.TotalDays, "day", "days");
}
