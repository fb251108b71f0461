using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Bench;

/// <summary>A clock that runs down on every screen.</summary>
public sealed record RunTimer(StepId Step, DateTimeOffset From, DateTimeOffset Until);

/// <summary>The steps of one run of one order, and the rules by which they may be confirmed.</summary>
/// <param name="Expected">What the firmware should show once all is fitted; null when it is not known.</param>
public sealed record RunSheet(IReadOnlyList<RunStep> Steps, MemorySize? Expected = null)
{
    /// <summary>The same with what was read before offered where it is to be written down.</summary>
    /// <param name="read">Serials by bay, or that it is empty.</param>
    public RunSheet Offering(IReadOnlyDictionary<string, string> read) =>
        this with
        {
            Steps =
            [
                .. Steps.Select(s =>
                    s.IsRecord && s.Id != StepId.RecordModules
                        ? s with
                        {
                            Offers = read.Where(r => s.Records.Contains(r.Key)).ToDictionary(),
                        }
                        : s
                ),
            ],
        };

    /// <summary>The first step that is not settled and waits for nothing, or null when all are done.</summary>
    public RunStep? Next(RunState state) =>
        Steps.FirstOrDefault(s => !IsSettled(s, state) && Blockers(s, state).Count == 0);

    /// <summary>How many steps are not settled.</summary>
    public int Left(RunState state) => Steps.Count(s => !IsSettled(s, state));

    /// <summary>How long what is not settled takes by the guide, in minutes.</summary>
    public int MinutesLeft(RunState state) => Steps.Where(s => !IsSettled(s, state)).Sum(s => s.Minutes);

    /// <summary>How long the work takes by the guide; what has a price of its own is no part of it.</summary>
    public int WorkMinutes => Steps.Where(s => s.Id != StepId.Clean).Sum(s => s.Minutes);

    /// <summary>The step of this id.</summary>
    /// <exception cref="RefusedException">The run has none.</exception>
    public RunStep Find(StepId id) =>
        Steps.FirstOrDefault(s => s.Id == id)
        ?? throw RefusedException.NotFound(
            "no-such-step",
            $"This run has no step “{id}”. Its steps: {string.Join(", ", Steps.Select(s => s.Id))}."
        );

    /// <summary>The clocks that were started and whose step is not confirmed.</summary>
    public IReadOnlyList<RunTimer> Timers(RunState state) =>
        [
            .. Steps
                .Where(s =>
                    s is { Seconds: not null, TimedFrom: not null }
                    && !IsSettled(s, state)
                    && state.Confirmed(s.TimedFrom!.Value) is not null
                )
                .Select(s => Timer(s, state.Confirmed(s.TimedFrom!.Value)!)),
        ];

    /// <summary>Proves that the step may be confirmed now.</summary>
    /// <param name="wish">Its <see cref="StepConfirmation.At"/> is now, by the service's clock.</param>
    /// <param name="state">What was said in this run so far.</param>
    /// <returns>The confirmation as it is to be recorded, with what goes without saying filled in.</returns>
    /// <exception cref="RefusedException">Already confirmed, a gate is closed, or the fasteners do not add
    /// up.</exception>
    public StepConfirmation Confirm(StepConfirmation wish, RunState state)
    {
        var step = Find(wish.Step);
        if (state.Confirmed(step.Id) is { } earlier)
        {
            throw new RefusedException(
                RefusalKind.Conflict,
                earlier.Covers(wish) ? "already-so" : "step-already-confirmed",
                $"“{step.Title}” is already confirmed, by {earlier.By} at {earlier.At:HH:mm} UTC{earlier.Facts()}."
            );
        }

        if (Stopped(state) is { } stopped)
        {
            throw stopped;
        }

        if (Blockers(step, state) is { Count: > 0 } blockers)
        {
            throw RunRefusals.GateClosed(step, blockers);
        }

        if (wish.Deviation is { } deviation)
        {
            CheckDeviation(step, wish, deviation);
        }

        CheckClock(step, wish, state);
        if (Closed(step, state) is { } closed)
        {
            throw closed;
        }

        if (wish.Deviation == Deviation.Skipped)
        {
            return wish;
        }

        CheckOccupants(step, wish, state);
        CheckLook(step, wish);
        return step.Part switch
        {
            RunPart.Open when !step.IsRecord => FastenerCount.Out(step, wish),
            RunPart.Close => FastenerCount.Back(step, wish, state),
            _ when (wish.Fasteners ?? wish.Holes?.Count ?? wish.Groups?.Count) is not null =>
                throw RefusedException.Invalid("no-fasteners-here", $"“{step.Title}” has no fasteners to count."),
            RunPart.Measure => Measured(wish, state),
            _ => wish,
        };
    }

    /// <summary>
    /// What closes the step whatever is said with it and whatever it waits for; null for nothing. A screen without a
    /// network goes by it.
    /// </summary>
    public static RefusedException? Closed(RunStep step, RunState state) =>
        Stopped(state) ?? Unallowed(step, state) ?? Metal(step, state);

    /// <summary>
    /// Whether the step need not be done any more. Records from before a kind of step existed went on without it; a
    /// later part that was reached proves that.
    /// </summary>
    public bool IsSettled(RunStep step, RunState state) =>
        state.Settled(step.Id)
        || (
            step.Part is RunPart.Record or RunPart.Measure
            && Steps.Any(s => s.Part > step.Part && state.Confirmed(s.Id) is not null)
        );

    private IReadOnlyList<RunStep> Blockers(RunStep step, RunState state) =>
        [.. Steps.Where(s => (s.Part < step.Part || step.WaitsFor.Contains(s.Id)) && !IsSettled(s, state))];

    private static RunTimer Timer(RunStep step, StepConfirmation from) =>
        new(step.Id, from.At, from.At.AddSeconds(step.Seconds!.Value));

    private static void CheckDeviation(RunStep step, StepConfirmation wish, Deviation deviation)
    {
        if (wish.Explanation is null)
        {
            throw RefusedException.Invalid(
                "reason-missing",
                $"Say why “{step.Title}” was {(deviation == Deviation.Skipped ? "skipped" : "done otherwise")}."
            );
        }

        if (
            deviation == Deviation.Skipped
            && (
                step.Part is RunPart.Isolate or RunPart.Close or RunPart.SetUp
                || step.Isolates
                || (step.IsRecord && step.Id != StepId.RecordModules)
            )
        )
        {
            throw RefusedException.Rule(
                "not-skipped",
                $"“{step.Title}” is not skipped: power, fasteners and drives hang on it. Do it otherwise and say how, "
                    + "or ask a lead to waive it."
            );
        }
    }

    private static void CheckClock(RunStep step, StepConfirmation wish, RunState state)
    {
        if (
            step is { Seconds: not null, TimedFrom: { } from }
            && state.Confirmed(from) is { } started
            && !state.IsWaived(Gate.StillCooling, step.Id)
            && Timer(step, started).Until is var until
            && until > wish.At
        )
        {
            var left = until - wish.At;
            throw RefusedException.Rule(
                "still-cooling",
                $"Still cooling: {(int)left.TotalMinutes} min {left.Seconds} s left, until {until:HH:mm:ss} UTC. If "
                    + "it came in cold, a lead can waive the wait."
            );
        }
    }

    private static RefusedException? Stopped(RunState state) =>
        state.Stop is { } stop
            ? RefusedException.Rule(
                "run-stopped",
                $"{stop.By} found a swollen battery. Stop: do not press it, do not charge it, do not close the case "
                    + "on it. A lead decides how to go on."
            )
            : null;

    private static RefusedException? Unallowed(RunStep step, RunState state)
    {
        if (step.IsSealed && !state.SealMayBreak && !state.IsWaived(Gate.SealConsentMissing, step.Id))
        {
            return RefusedException.Rule(
                "seal-consent-missing",
                $"A warranty seal covers a fastener of the {step.RemovalTitle}, and the customer has not allowed to "
                    + "break it. "
                    + "Ask, and record the answer on the order."
            );
        }

        return
            step.CopiedFirst.FirstOrDefault(b => !state.Copies.Secures(b)) is { } bay
            && !state.IsWaived(Gate.BootCopyMissing, step.Id)
            ? RefusedException.Rule(
                "boot-copy-missing",
                $"The data of {bay} is to be carried over. Its drive does not leave before the copy is verified, or "
                    + "the customer goes without: record which on the order."
            )
            : null;
    }

    // What was looked at and left is told to the customer: with what was seen, or it was not looked at.
    private static void CheckLook(RunStep step, StepConfirmation wish)
    {
        if (step.Id.Verb == StepVerb.Look && (wish.Note ?? wish.Explanation) is null)
        {
            throw RefusedException.Invalid(
                "look-untold",
                $"Say with a note what you saw at {step.Id.Subject}, and why it stays as it is."
            );
        }
    }

    // A screw on a board that is powered is a short circuit.
    private static RefusedException? Metal(RunStep step, RunState state) =>
        step.Part is RunPart.Measure or RunPart.Start && state.Loose is { Count: > 0 } loose
            ? RefusedException.Rule(
                "loose-metal",
                $"{Phrases.Counted(loose.Sum(l => l.Count), "fastener", "fasteners")} did not go back, and may lie on "
                    + "the board: no power before that. Record it as found (the lost fastener), or a lead says that "
                    + "it is out of the machine."
            )
            : null;

    // A start with the case open proves what it showed, or nothing.
    private StepConfirmation Measured(StepConfirmation wish, RunState state)
    {
        var told = wish with { Seen = wish.Seen ?? state.SeenOpen };
        if (told.Seen is not { } seen)
        {
            throw RefusedException.Rule(
                "figure-missing",
                "Say how much it showed, or take the reading with the case open; skip the step with a reason where "
                    + "it was not started."
            );
        }

        if (wish.Explanation is not null)
        {
            return told;
        }

        if (state.SeenOpen is { } read && read != seen)
        {
            throw RefusedException.Rule(
                "open-contradicts",
                $"{seen} said, {read} read with the case open. Look again, or confirm with an explanation."
            );
        }

        return Expected is { } expected && seen < expected
            ? throw RefusedException.Rule(
                "open-short",
                $"{seen} seen, {expected} expected. Isolate, reseat what is missing now that it lies open, and start "
                    + "again; or confirm with an explanation."
            )
            : told;
    }

    // Every drive that leaves is written down, and comes back into the bay that it left.
    private void CheckOccupants(RunStep step, StepConfirmation wish, RunState state)
    {
        var told = wish.Occupants ?? new Dictionary<string, string>();
        if (told.Keys.FirstOrDefault(k => !step.Records.Contains(k)) is { } unknown)
        {
            throw RefusedException.Invalid("occupant-unknown", $"“{step.Title}” does not ask about {unknown}.");
        }

        if (step.Id == StepId.RecordModules)
        {
            return;
        }

        if (
            told.Where(o => !BayMap.IsEmpty(o.Value))
                .GroupBy(o => o.Value.Trim(), StringComparer.OrdinalIgnoreCase)
                .FirstOrDefault(g => g.Count() > 1) is
            { } twice
        )
        {
            throw RefusedException.Invalid(
                "occupant-twice",
                $"{twice.Key} cannot sit in {Phrases.Listed(twice.Select(o => o.Key))}. Read the labels again."
            );
        }

        if (!step.IsRecord)
        {
            CheckReturned(step, told, state);
        }
        else if (
            step.Records.Where(p => string.IsNullOrWhiteSpace(told.GetValueOrDefault(p))).ToArray() is
            { Length: > 0 } missing
        )
        {
            throw RefusedException.Invalid(
                "occupant-missing",
                $"Write down what sits in {string.Join(", ", missing)}: the drive's serial, or “empty”."
            );
        }
    }

    private void CheckReturned(RunStep step, IReadOnlyDictionary<string, string> told, RunState state)
    {
        if (state.IsWaived(Gate.WrongBay, step.Id))
        {
            return;
        }

        var was = Steps
            .Where(s => s.IsRecord)
            .SelectMany(s => state.Confirmed(s.Id)?.Occupants ?? new Dictionary<string, string>())
            .ToDictionary();
        foreach (var bay in step.Records.Where(was.ContainsKey))
        {
            var now = told.GetValueOrDefault(bay);
            if (string.IsNullOrWhiteSpace(now) && !BayMap.IsEmpty(was[bay]))
            {
                throw RefusedException.Rule(
                    "wrong-bay",
                    $"Say which drive went back into {bay}: scan it or type its serial. It was {was[bay]}."
                );
            }

            if (now is not null && !BayMap.IsOwn(was, bay, now))
            {
                var own = BayMap.OwnBay(was, now);
                throw RefusedException.Rule(
                    "wrong-bay",
                    BayMap.IsEmpty(now) ? $"{bay} held {was[bay]} and is empty now."
                        : own is null ? $"{now} did not come out of this machine. {bay} held {was[bay]}."
                        : $"{now} belongs in {own}, not in {bay}. {bay} held {was[bay]}."
                );
            }
        }
    }
}
