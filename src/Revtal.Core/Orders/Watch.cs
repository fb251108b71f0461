using System.Collections.Immutable;

namespace Revtal.Core.Orders;

/// <summary>What was noticed while an order is watched.</summary>
public enum WatchSign
{
    /// <summary>Nothing of the fault.</summary>
    None,
    Restart,
    Freeze,
    Other,
}

/// <summary>How a watch ended.</summary>
public enum WatchOutcome
{
    Gone,
    CameBack,
    Unclear,
}

/// <summary>What was noticed, as it is said.</summary>
public static class WatchWords
{
    /// <summary>“nothing”, “restarted”.</summary>
    public static string Spoken(this WatchSign sign) =>
        sign switch
        {
            WatchSign.None => "nothing",
            WatchSign.Restart => "it restarted",
            WatchSign.Freeze => "it froze",
            _ => "something else",
        };
}

/// <summary>One day of a watch.</summary>
public sealed record WatchNote(WatchSign Sign, DateOnly On, string? Text, string By, DateTimeOffset At)
{
    /// <summary>“restarted”.</summary>
    public string Spoken => Sign.Spoken();
}

/// <summary>A machine that is watched for a fault.</summary>
/// <param name="From">The stage to which the order goes back when it did not come back.</param>
/// <param name="Outcome">Null while it goes on.</param>
/// <param name="EndedAt">Null while it goes on.</param>
public sealed record Watch(
    string For,
    DateTimeOffset BeganAt,
    DateTimeOffset Until,
    int EveryDays,
    ImmutableList<WatchNote> Notes,
    Stage From,
    WatchOutcome? Outcome,
    string? Text,
    DateTimeOffset? EndedAt = null
)
{
    /// <summary>The day to ask again: so many days after the last note, and not after the watch's last day.</summary>
    public DateOnly DueOn
    {
        get
        {
            var since = Notes.Count > 0 ? Notes.Max(n => n.On) : DateOnly.FromDateTime(BeganAt.UtcDateTime);
            var next = since.AddDays(EveryDays);
            var last = DateOnly.FromDateTime(Until.UtcDateTime);
            return next < last ? next : last;
        }
    }
}
