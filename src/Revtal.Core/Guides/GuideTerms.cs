namespace Revtal.Core.Guides;

/// <summary>The words that a guide may use where only some are known.</summary>
public static class GuideTerms
{
    /// <summary>Kinds of machines, in the trade's words.</summary>
    public static IReadOnlyList<string> Kinds { get; } =
    ["laptop", "all-in-one", "tower", "mini PC", "workstation", "storage box", "server"];

    /// <summary>Generations of memory, as JEDEC names them.</summary>
    public static IReadOnlyList<string> Generations { get; } =
    ["DDR2", "DDR3", "DDR3L", "DDR4", "DDR5", "LPDDR3", "LPDDR4", "LPDDR4X", "LPDDR5", "LPDDR5X"];

    /// <summary>Forms of modules.</summary>
    public static IReadOnlyList<string> Modules { get; } = ["SO-DIMM", "DIMM", "CAMM2", "soldered"];

    /// <summary>Bits: cross-headed, six-lobed, hexagonal, slotted, five-lobed, three-winged; or none.</summary>
    public static IReadOnlyList<string> Drivers { get; } =
    [
        .. "PH000 PH00 PH0 PH1 PH2 PH3 PZ0 PZ1 PZ2 T2 T3 T4 T5 T6 T7 T8 T9 T10 T15 T20 T25 T30".Split(' '),
        .. "TR6 TR7 TR8 TR9 TR10 TR15 TR20 H0.9 H1.3 H1.5 H2 H2.5 H3 H4 H5 SL1.5 SL2 SL3 SL4 SL5".Split(' '),
        .. "P2 P4 P5 P6 Y000 Y00 Y0 Y1 hand".Split(' '),
    ];

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

    /// <summary>What follows from a sign, in the order of <see cref="SignFollow"/>.</summary>
    public static IReadOnlyList<string> Follows { get; } =
    [.. Enum.GetValues<SignFollow>().Select(f => Phrases.Words(f).Replace(' ', '-'))];

    /// <summary>What a trap may stand at: what is done in a step, as it is written.</summary>
    public static IReadOnlyList<string> StepVerbs { get; } = [.. Enum.GetValues<StepVerb>().Select(StepId.Word)];
}
