namespace Revtal.Core.Captures;

/// <summary>When a reading was taken.</summary>
public enum Phase
{
    /// <summary>Before anything was changed.</summary>
    Before,

    /// <summary>After the work, the case closed.</summary>
    After,

    /// <summary>During the run, the case open.</summary>
    During,
}

/// <summary>Phases as they are said.</summary>
public static class PhaseWords
{
    /// <summary>“before”, “after”, “case-open”.</summary>
    public static string Spoken(this Phase phase) => phase == Phase.During ? "case-open" : Phrases.Words(phase);
}
