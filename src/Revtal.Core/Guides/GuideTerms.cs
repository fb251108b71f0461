namespace Revtal.Core.Guides;

/// <summary>The words that a guide may use where only some are known.</summary>
public static class GuideTerms
{
    /// <summary>How a slot's latches work.</summary>
    public static IReadOnlyList<string> Latches { get; } =
    ["spread-both", "one-side", "swing-tabs", "ribbons", "self-closing"];

    /// <summary>How a module is pressed home.</summary>
    public static IReadOnlyList<string> Presses { get; } = ["straight-down", "hold-latches-open"];

    /// <summary>Which modules must be alike.</summary>
    public static IReadOnlyList<string> Pairings { get; } = ["any", "alike-in-pairs", "alike-throughout"];

    /// <summary>Whether the board takes modules with error correction.</summary>
    public static IReadOnlyList<string> EccKinds { get; } = ["none", "optional", "required"];

    /// <summary>Whether its modules carry a register.</summary>
    public static IReadOnlyList<string> Bufferings { get; } = ["unbuffered", "registered"];

    /// <summary>What a warning is about.</summary>
    public static IReadOnlyList<string> Precautions { get; } =
    ["power", "static", "heat", "edge", "cable", "latch", "notch", "seal", "data", "screw", "pad", "glass"];

    /// <summary>The two ways of a removal.</summary>
    public static IReadOnlyList<string> Ways { get; } = ["open", "close"];

    /// <summary>How a first start shows itself.</summary>
    public static IReadOnlyList<string> Signs { get; } =
    ["notice", "restart", "slow-start", "beeps", "light", "resync"];

    /// <summary>What a trap may stand at: what is done in a step, as it is written.</summary>
    public static IReadOnlyList<string> StepVerbs { get; } = [.. Enum.GetValues<StepVerb>().Select(StepId.Word)];
}
