using System.Text.Json;

namespace Revtal.Core.Bench;

/// <summary>What a person may say to a refusal at a step, where doing as it asks is not the only way.</summary>
public enum RefusalAnswer
{
    /// <summary>Say why, and confirm the step again with it.</summary>
    Explanation,

    /// <summary>A lead waives the gate of the same name, with a reason.</summary>
    Waiver,
}

/// <summary>Which refusals at the bench can be answered, and how.</summary>
public static class RefusalAnswers
{
    private static readonly string[] Explained = ["count-differs", "tally-open", "open-short", "open-contradicts"];

    private static readonly string[] Waived =
    [
        .. Enum.GetNames<Gate>().Select(JsonNamingPolicy.KebabCaseLower.ConvertName),
    ];

    /// <param name="code">A refusal's code, <c>still-cooling</c>.</param>
    public static IReadOnlyList<RefusalAnswer> To(string code) =>
        [
            .. Explained.Contains(code) ? [RefusalAnswer.Explanation] : Array.Empty<RefusalAnswer>(),
            .. Waived.Contains(code) ? [RefusalAnswer.Waiver] : Array.Empty<RefusalAnswer>(),
        ];
}
