using Revtal.Core.Bench;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What is to be done next on an order.</summary>
public enum NextKind
{
    None,
    TakeBefore,
    Plan,
    Agree,
    Run,
    TakeAfter,
    Reseat,
    SwapTest,

    /// <summary>What was fitted is to be changed.</summary>
    MendPlan,
    Watch,

    /// <summary>Something is held that no reading ends.</summary>
    EndHold,
    MarkReady,
    HandBack,
    Resume,
}

/// <param name="Text">As the bench says it.</param>
public sealed record NextThing(NextKind Kind, string Text);

/// <summary>Everything that follows from an order and its guide: computed, never stored.</summary>
public sealed record Assessment(
    Expectation? Expectation,
    IReadOnlyList<FitNote> Notes,
    RunSheet? Sheet,
    Tally? Tally,
    RunStep? NextStep,
    CheckResult? Check,
    IReadOnlyList<Hold> Holds,
    NextThing Next,
    Waiting? Waiting
)
{
    /// <summary>What can be said of the order as it stands.</summary>
    public static Assessment Of(Order order, Guide guide)
    {
        var plan = order.Plan;
        var expectation = plan is null ? null : Expectation.Of(guide, order.Before!.Value, plan.Value);
        var sheet = order.Sheet(guide, expectation);
        var state = order.RunState;
        var next = sheet?.Next(state);
        var check = order.Check(guide);
        var holds = Orders.Holds.Of(order, guide, check);
        return new Assessment(
            expectation,
            plan is null
                ? []
                :
                [
                    .. PlanRules.Sealed(order, guide, plan.Value) is { } seal ? [seal] : Array.Empty<FitNote>(),
                    .. FitRules.Of(guide, order.Before!.Value, plan.Value),
                ],
            sheet,
            sheet is null ? null : Tally.Of(sheet, state),
            next,
            check,
            holds,
            NextOf(order, guide, next, check, [.. holds.Where(h => h is { IsOpen: true, StopsReady: true })]),
            Orders.Waiting.Of(order, holds)
        );
    }

    private static NextThing NextOf(
        Order order,
        Guide guide,
        RunStep? step,
        CheckResult? check,
        IReadOnlyList<Hold> open
    ) =>
        order.Stage switch
        {
            Stage.TakenIn => new(NextKind.TakeBefore, "Take the before reading"),
            Stage.Measured when order.Doubts(guide) is [var doubt, ..] => new(
                NextKind.TakeBefore,
                $"{doubt} Is the before reading of this machine?"
            ),
            Stage.Measured => new(NextKind.Plan, "Plan which module goes where"),
            Stage.Planned when order.Declined is { } no => new(
                NextKind.Plan,
                $"{no.Customer} declined: plan it otherwise, or cancel"
            ),
            Stage.Planned when order.Offered is not null => new(NextKind.Agree, "The customer has the quote"),
            Stage.Planned => new(NextKind.Agree, "Ask the customer about the plan"),
            Stage.Agreed when order.CopiesOwed is { Count: > 0 } bays => new(
                NextKind.Run,
                $"Copy and compare the data of {Phrases.Listed(bays)}, then begin the run"
            ),
            Stage.Agreed => new(NextKind.Run, "Begin the run"),
            Stage.OnBench when order.RunState.Stop is { } stop => new(
                NextKind.Run,
                $"Stopped: {stop.Kind.Spoken()}. A lead decides"
            ),
            Stage.OnBench when step is not null => new(NextKind.Run, step.Title),
            Stage.OnBench => new(NextKind.TakeAfter, "Take the after reading"),
            Stage.Checking when order.Swap is { State: var swap } => new(
                NextKind.SwapTest,
                swap.Conclusion?.Sentence ?? $"Swap test: try {order.Swap.Trials.Count + 1}"
            ),
            Stage.Checking
                when order.SwapResults is [.., { Conclusion: { } found } last]
                    && last.Sequence > order.After?.Sequence
                    && order.Runs.Count > 0 => new(found.IsMended ? NextKind.TakeAfter : NextKind.MendPlan, found.Do),
            Stage.Watching => new(
                NextKind.Watch,
                string.Create(
                    System.Globalization.CultureInfo.InvariantCulture,
                    $"Ask whether it came back, on {order.Watch!.DueOn:yyyy-MM-dd}"
                )
            ),
            Stage.Checking when open.Count == 0 => new(NextKind.MarkReady, "Mark it ready"),
            Stage.Checking when check is { Verdict: Verdict.AsPlanned or Verdict.WithRemarks } => Ending(open[0]),
            Stage.Checking => check?.Findings.FirstOrDefault(f => f.Severity == Severity.Short)?.Action switch
            {
                { Kind: ActionKind.Reseat } reseat => new(NextKind.Reseat, reseat.Text),
                { Kind: ActionKind.SwapTest } swap => new(NextKind.SwapTest, swap.Text),
                { } other => new(NextKind.TakeAfter, other.Text),
                null => new(NextKind.TakeAfter, "Take the after reading again"),
            },
            Stage.Ready when open.Count > 0 => Ending(open[0]),
            Stage.Ready => new(NextKind.HandBack, "Hand it back"),
            Stage.Parked => new(NextKind.Resume, "Resume it"),
            _ => new(NextKind.None, ""),
        };

    private static NextThing Ending(Hold hold) =>
        new(
            hold.Kind switch
            {
                HoldKind.CameBack => NextKind.SwapTest,
                HoldKind.CopyOwed or HoldKind.LooseMetal => NextKind.EndHold,
                _ => NextKind.TakeAfter,
            },
            hold.Ends
        );
}

/// <summary>One slot of a board card, in bytes; null where nothing is known yet, 0 when empty.</summary>
public sealed record CardSlot(string Slot, long? Before, long? Planned, long? After);

/// <summary>A hold as a card tells it.</summary>
/// <param name="Word">“copy owed”.</param>
/// <param name="Until">When time alone will have ended it.</param>
public sealed record CardHold(HoldKind Kind, string Word, DateTimeOffset? Until);

/// <summary>The fullest drive of a machine, as a card tells it.</summary>
/// <param name="Percent">0 to 100.</param>
public sealed record CardRoom(string? Bay, int Percent);

/// <summary>What the board shows of an order.</summary>
/// <param name="WaitsFor">The next thing, or the reason of parking.</param>
/// <param name="CoolsUntil">When the machine has cooled down, if it is cooling.</param>
/// <param name="Holds">What still stands between it and its hand-back, heaviest first.</param>
/// <param name="ParkedUntil">When a parked one is to be taken up again.</param>
/// <param name="Fullest">How full its fullest drive is, as the order leaves it; null where nobody read that, or a later
/// visit is noted for it.</param>
/// <param name="DueOn">The day on which somebody is to be asked, of a machine that is watched.</param>
/// <param name="Owner">Who has it in hand, by id; null for nobody.</param>
/// <param name="Place">Where it lies; null where nobody said.</param>
/// <param name="PromisedAt">By when the customer was promised it; null where nothing was.</param>
/// <param name="MinutesLeft">At the machine, by the guide; null where it is not planned yet.</param>
/// <param name="Waiting">What it waits for that is not the bench's own next thing; null for nothing.</param>
/// <param name="Found">Where the words stand by which it was found; null where the card shows that, or it was not
/// looked for.</param>
public sealed record OrderCard(
    int Number,
    Stage Stage,
    string Model,
    string Machine,
    string Customer,
    string WaitsFor,
    DateTimeOffset? CoolsUntil,
    Verdict? Verdict,
    string? VerdictSentence,
    IReadOnlyList<CardSlot> Slots,
    string ChangedBy,
    DateTimeOffset ChangedAt,
    DateOnly? DueOn = null,
    IReadOnlyList<CardHold>? Holds = null,
    DateTimeOffset? ParkedUntil = null,
    CardRoom? Fullest = null,
    int? Batch = null,
    string? Owner = null,
    string? Place = null,
    DateTimeOffset? PromisedAt = null,
    int? MinutesLeft = null,
    Waiting? Waiting = null,
    FoundIn? Found = null
)
{
    /// <summary>The order's card on the board.</summary>
    public static OrderCard Of(Order order, Guide guide) => Of(order, guide, Assessment.Of(order, guide));

    /// <summary>The same, of an order that was assessed already.</summary>
    public static OrderCard Of(Order order, Guide guide, Assessment a)
    {
        var before = order.Before is { } b ? Occupancy.Of(guide, b.Value) : null;
        var after = order.Checked is { } c ? Occupancy.Of(guide, c.Value) : null;
        return new OrderCard(
            order.Number,
            order.Stage,
            order.Model,
            $"{guide.Model.Maker} {guide.Model.Name}",
            order.Intake.Customer,
            order.Reason ?? a.Next.Text,
            a.Sheet?.Timers(order.RunState) is [var timer, ..] ? timer.Until : null,
            a.Check?.Verdict,
            a.Check?.Sentence,
            [
                .. guide.Memory.Slots.Select(
                    (s, i) => new CardSlot(s.Id, Size(before?[i]), Planned(order.Plan?.Value.Slots[i]), Size(after?[i]))
                ),
            ],
            order.ChangedBy,
            order.ChangedAt,
            order.Stage == Stage.Watching ? order.Watch!.DueOn : null,
            [.. a.Holds.Where(h => h.IsOpen).Select(h => new CardHold(h.Kind, h.Word, h.Until)).Distinct()],
            order.ParkedUntil,
            NearlyFull.Of(order, guide).FirstOrDefault(d => !d.IsNoted) is { Drive: var full }
                ? new CardRoom(full.Bay, full.Percent)
                : null,
            order.Batch,
            order.Owner,
            order.Place,
            order.PromisedAt,
            a.Sheet?.MinutesLeft(order.RunState),
            a.Waiting
        );
    }

    private static long? Size(SlotContent? content) =>
        content is { Known: true } ? content.Module?.Size.Bytes ?? 0 : null;

    private static long? Planned(PlannedSlot? planned) =>
        planned is null || (planned is { Stays: true, Before.Known: false }) ? null : planned.Module?.Size.Bytes ?? 0;
}
