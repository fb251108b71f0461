namespace Revtal.Core.Bench;

/// <summary>Why a step waits, in the bench's words.</summary>
internal static class RunRefusals
{
    public static RefusedException GateClosed(RunStep step, IReadOnlyList<RunStep> blockers)
    {
        var first = step.Part is RunPart.Record or RunPart.Pull or RunPart.Fit or RunPart.Measure
            ? blockers.FirstOrDefault(b => b.Isolates) ?? blockers[0]
            : blockers[0];
        var rest = blockers.Count > 1 ? $" ({blockers.Count} steps in all)" : "";
        return first.Part switch
        {
            _ when first.Part == RunPart.Isolate || (first.Isolates && step.Part > RunPart.Open) =>
                RefusedException.Rule(
                    "power-not-isolated",
                    $"Power is not isolated: confirm “{first.Title}” first{rest}. Nothing is opened, pulled or fitted "
                        + "before."
                ),
            RunPart.Open => RefusedException.Rule(
                "not-open",
                $"“{step.Title}” cannot be reached yet: confirm “{first.Title}” first{rest}."
            ),
            RunPart.Record when step.Part <= RunPart.Fit => RefusedException.Rule(
                "not-recorded",
                $"Write down what sits where before anything leaves: confirm “{first.Title}” first{rest}."
            ),
            RunPart.Record or RunPart.Pull or RunPart.Fit or RunPart.Measure when step.Part == RunPart.Close =>
                RefusedException.Rule(
                    "not-fitted",
                    $"Nothing closes before the work inside is done: confirm “{first.Title}” first{rest}."
                ),
            RunPart.Close when step.Part == RunPart.Start => RefusedException.Rule(
                "tally-open",
                $"The machine is not closed: confirm “{first.Title}” first{rest}."
            ),
            _ => RefusedException.Rule("step-waits", $"“{step.Title}” waits: confirm “{first.Title}” first{rest}."),
        };
    }
}
