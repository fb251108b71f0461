namespace Revtal.Core.Orders;

/// <summary>What came of the customer's own kind of work, run on the machine after the upgrade.</summary>
public enum TrialOutcome
{
    /// <summary>It ran as the customer wishes.</summary>
    AsWished,

    /// <summary>It ran, and still waits now and then.</summary>
    Sluggish,

    /// <summary>It did not run, or not to its end.</summary>
    Failed,
}

/// <summary>One trial.</summary>
/// <param name="Work">The customer's kind of work.</param>
/// <param name="Displays">How many were joined; null where nobody said.</param>
/// <param name="Load">The sequence of the load that was watched meanwhile; null where none was.</param>
public sealed record TrialRun(
    string Work,
    int Minutes,
    int? Displays,
    TrialOutcome Outcome,
    string? Note,
    int? Load,
    string By,
    DateTimeOffset At
);

/// <summary>What the customer asked to be tried, and what was.</summary>
/// <param name="Asked">The kind of work; null where the order does not ask for a trial.</param>
/// <param name="Minutes">The least that it is to run; null where nobody said.</param>
/// <param name="Runs">Oldest first.</param>
public sealed record Trial(string? Asked, int? Minutes, IReadOnlyList<TrialRun> Runs)
{
    /// <summary>
    /// Whether the run is of what was asked for, and long enough where it went well; any is where nothing was asked.
    /// </summary>
    public bool IsAnsweredBy(TrialRun run) =>
        Asked is null
        || (
            string.Equals(run.Work, Asked, StringComparison.OrdinalIgnoreCase)
            && (run.Outcome == TrialOutcome.Failed || !(run.Minutes < Minutes))
        );

    /// <summary>Neither asked for nor run.</summary>
    public static Trial None { get; } = new(null, null, []);
}

/// <summary>A load that was watched.</summary>
/// <param name="Sequence">Of the entry that brought it.</param>
public sealed record WatchedLoad(
    int Sequence,
    Captures.Phase Phase,
    DateTimeOffset At,
    Captures.LoadSeries Series,
    string? Note
);

/// <summary>Trials as they are said.</summary>
public static class TrialWords
{
    /// <summary>“as wished”.</summary>
    public static string Spoken(this TrialOutcome outcome) => Phrases.Words(outcome);
}
