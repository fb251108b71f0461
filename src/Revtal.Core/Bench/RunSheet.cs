using Revtal.Core.Guides;

namespace Revtal.Core.Bench;

/// <summary>The parts of a run, in order. A step waits for all steps of earlier parts.</summary>
public enum RunPart
{
    Prepare,
    Isolate,
    Open,
    Pull,
    Fit,
    Close,
    Start,
}

/// <summary>One action on the bench.</summary>
/// <param name="Id">Stable within the order: <c>isolate.unplug</c>, <c>open.hatch</c>, <c>pull.S2</c>, <c>close.hatch</c>.</param>
/// <param name="Title">What to do, short enough for an arm's length.</param>
/// <param name="Details">More of it, one line each.</param>
/// <param name="Slot">The slot it is about, for pull and fit.</param>
/// <param name="Removal">The removal it is about, for open and close.</param>
/// <param name="Fasteners">Loose and captive groups that this step takes out or puts back.</param>
/// <param name="WaitsFor">Ids of the steps within the same part that come first.</param>
public sealed record RunStep(
    string Id,
    RunPart Part,
    string Title,
    IReadOnlyList<string> Details,
    IReadOnlyList<Precaution> Precautions,
    IReadOnlyList<string> Traps,
    string? Slot,
    string? Removal,
    IReadOnlyList<FastenerGroup> Fasteners,
    IReadOnlyList<string> WaitsFor,
    int Minutes)
{
    /// <summary>Fasteners that leave the machine, and so must be counted.</summary>
    public int LooseFasteners => Fasteners.Where(f => !f.Captive).Sum(f => f.Count);
}

/// <summary>What was said when a step was confirmed.</summary>
/// <param name="Fasteners">For open and close: how many were counted.</param>
/// <param name="Explanation">Why the count differs, if it does.</param>
public sealed record StepConfirmation(string Step, string By, DateTimeOffset At, int? Fasteners = null, string? Explanation = null, string? Note = null);

/// <summary>The steps of one run of one order, and the rules by which they may be confirmed.</summary>
public sealed record RunSheet(IReadOnlyList<RunStep> Steps)
{
    /// <summary>The first step that is not confirmed and waits for nothing, or null when all are done.</summary>
    public RunStep? Next(IReadOnlyList<StepConfirmation> done) =>
        Steps.FirstOrDefault(s => !IsDone(s.Id, done) && Blockers(s, done).Count == 0);

    public bool IsComplete(IReadOnlyList<StepConfirmation> done) => Steps.All(s => IsDone(s.Id, done));

    public RunStep Find(string id) => Steps.FirstOrDefault(s => s.Id == id) ?? throw RefusedException.NotFound(
        "no-such-step", $"This run has no step “{id}”. Its steps: {string.Join(", ", Steps.Select(s => s.Id))}.");

    /// <summary>Proves that the step may be confirmed now.</summary>
    /// <param name="done">What was confirmed in this run so far.</param>
    /// <returns>The confirmation as it is to be recorded, with the count filled in where it goes without saying.</returns>
    /// <exception cref="RefusedException">Already confirmed, a gate is closed, or the fasteners do not add up.</exception>
    public StepConfirmation Confirm(StepConfirmation wish, IReadOnlyList<StepConfirmation> done)
    {
        var step = Find(wish.Step);
        if (done.FirstOrDefault(d => d.Step == step.Id) is { } earlier)
        {
            throw new RefusedException(
                RefusalKind.Conflict, "step-already-confirmed", $"“{step.Title}” is already confirmed, by {earlier.By} at {earlier.At:HH:mm} UTC.");
        }

        if (Blockers(step, done) is { Count: > 0 } blockers)
        {
            throw GateClosed(step, blockers);
        }

        return step.Part switch
        {
            RunPart.Open => wish with { Fasteners = CountedOut(step, wish) },
            RunPart.Close => wish with { Fasteners = CountedBack(step, wish, done) },
            _ when wish.Fasteners is not null => throw RefusedException.Invalid("no-fasteners-here", $"“{step.Title}” has no fasteners to count."),
            _ => wish,
        };
    }

    private IReadOnlyList<RunStep> Blockers(RunStep step, IReadOnlyList<StepConfirmation> done) =>
        [.. Steps.Where(s => (s.Part < step.Part || step.WaitsFor.Contains(s.Id)) && !IsDone(s.Id, done))];

    private static RefusedException GateClosed(RunStep step, IReadOnlyList<RunStep> blockers)
    {
        var first = blockers[0];
        var rest = blockers.Count > 1 ? $" ({blockers.Count} steps in all)" : "";
        return first.Part switch
        {
            RunPart.Isolate => RefusedException.Rule(
                "power-not-isolated", $"Power is not isolated: confirm “{first.Title}” first{rest}. Nothing is opened, pulled or fitted before."),
            RunPart.Open => RefusedException.Rule("not-open", $"“{step.Title}” cannot be reached yet: confirm “{first.Title}” first{rest}."),
            RunPart.Pull or RunPart.Fit when step.Part == RunPart.Close => RefusedException.Rule(
                "not-fitted", $"Nothing closes before the work inside is done: confirm “{first.Title}” first{rest}."),
            RunPart.Close when step.Part == RunPart.Start => RefusedException.Rule(
                "tally-open", $"The machine is not closed: confirm “{first.Title}” first{rest}."),
            _ => RefusedException.Rule("step-waits", $"“{step.Title}” waits: confirm “{first.Title}” first{rest}."),
        };
    }

    private static int? CountedOut(RunStep step, StepConfirmation wish)
    {
        var expected = step.LooseFasteners;
        var counted = wish.Fasteners ?? expected;
        if (counted is < 0 or > 999)
        {
            throw RefusedException.Invalid("count-impossible", "A count of fasteners is from 0 to 999.");
        }

        return counted == expected || wish.Explanation is not null
            ? counted
            : throw RefusedException.Invalid(
                "count-differs", $"The guide counts {expected} loose fasteners here and {counted} came out. Say why with an explanation: missing on arrival, or hidden ones found.");
    }

    private static int? CountedBack(RunStep step, StepConfirmation wish, IReadOnlyList<StepConfirmation> done)
    {
        var outCount = done.FirstOrDefault(d => d.Step == $"open.{step.Removal}")?.Fasteners ?? 0;
        if (outCount == 0 && wish.Fasteners is null or 0)
        {
            return 0;
        }

        if (wish.Fasteners is not { } back)
        {
            throw RefusedException.Rule("tally-open", $"{outCount} fasteners came out of {step.Removal}. Count them back and say how many.");
        }

        return back == outCount || wish.Explanation is not null
            ? back
            : throw RefusedException.Rule(
                "tally-open", $"{outCount} fasteners came out of {step.Removal} and {back} went back: {Math.Abs(outCount - back)} {(back < outCount ? "missing" : "too many")}. Find them, or explain the difference.");
    }

    private static bool IsDone(string id, IReadOnlyList<StepConfirmation> done) => done.Any(d => d.Step == id);
}
