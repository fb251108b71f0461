using System.Text.Json.Serialization;

namespace Revtal.Core.Orders;

/// <summary>What still stands between an order and its hand-back.</summary>
public enum HoldKind
{
    /// <summary>Capacity or a drive is short, or not seen, or nothing proves it.</summary>
    Short,

    /// <summary>A fastener may lie in the machine.</summary>
    LooseMetal,

    /// <summary>The last start showed something that was not normal.</summary>
    Sign,

    /// <summary>The complaint came back.</summary>
    CameBack,

    /// <summary>A watch runs.</summary>
    Watched,

    /// <summary>A copy of data was promised, and is not verified.</summary>
    CopyOwed,

    /// <summary>An array rebuilds, waits, or was not told of.</summary>
    Array,

    /// <summary>A drive that was sold as set up is not.</summary>
    NotSetUp,

    /// <summary>The customer's own kind of work was to be tried, and was not.</summary>
    TrialOwed,

    /// <summary>It was to be cleaned inside, and was not.</summary>
    CleaningOwed,

    /// <summary>What was fitted is not what was booked.</summary>
    OtherPart,

    /// <summary>Nobody said what becomes of a part that came out.</summary>
    FateOpen,
}

/// <summary>Holds as they are said.</summary>
public static class HoldWords
{
    /// <summary>“loose metal”, “copy owed”.</summary>
    public static string Spoken(this HoldKind kind) => Phrases.Words(kind);
}

/// <summary>One thing that still stands between an order and its hand-back.</summary>
/// <param name="Key">Stable on the order: <c>copy-owed.D2</c>.</param>
/// <param name="Sentence">What is so.</param>
/// <param name="Ends">What releases it.</param>
/// <param name="Until">When time alone will have ended it; null where it will not, or nobody knows.</param>
/// <param name="Released">By a lead's word; null while it holds.</param>
public sealed record Hold(
    string Key,
    HoldKind Kind,
    string Sentence,
    string Ends,
    DateTimeOffset? Until = null,
    ReleasedHold? Released = null
)
{
    /// <summary>Whether it still holds.</summary>
    public bool IsOpen => Released is null;

    /// <summary>“loose metal”.</summary>
    public string Word => Kind.Spoken();

    /// <summary>It stops “ready”; what does not stops the hand-back alone.</summary>
    [JsonIgnore]
    public bool StopsReady => Kind != HoldKind.FateOpen;
}

/// <summary>A lead's word that a hold is let be.</summary>
/// <param name="Sentence">What was held when it was released.</param>
public sealed record ReleasedHold(string Key, string Sentence, string Reason, string By, DateTimeOffset At);

/// <summary>The check as it was accepted.</summary>
/// <param name="Reason">A lead's, for all that was open then; null where nothing was.</param>
/// <param name="Holds">Keys of what was open then; null in records from before there were holds: all.</param>
public sealed record AcceptedCheck(string? Reason, string By, DateTimeOffset At, IReadOnlyList<string>? Holds);
