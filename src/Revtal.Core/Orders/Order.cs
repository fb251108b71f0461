using System.Collections.Immutable;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>Where an order stands, in the order in which it moves.</summary>
public enum Stage
{
    TakenIn,
    Measured,
    Planned,
    Agreed,
    OnBench,
    Checking,
    Watching,
    Ready,
    HandedBack,
    Parked,
    Cancelled,
}

/// <summary>One time at the bench: the plan carried out, or modules seated anew.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Reseat">The slots to seat anew; empty for the run of the plan.</param>
public sealed record Run(int Number, IReadOnlyList<string> Reseat, string? Reason, ImmutableList<StepConfirmation> Done);

/// <summary>An order: the fold of its entries, and nothing else.</summary>
/// <param name="Head">The sequence of its last entry.</param>
/// <param name="Resting">The stage that a parked order goes back to; null when it is not parked.</param>
/// <param name="Reason">Why it is parked or cancelled.</param>
public sealed record Order(
    int Number,
    int Head,
    Stage Stage,
    Intake Intake,
    string Model,
    int Revision,
    Recorded<Reading>? Before,
    Recorded<Plan>? Plan,
    string? AgreedBy,
    ImmutableList<Run> Runs,
    Recorded<Reading>? After,
    Stage? Resting,
    string? Reason,
    DateTimeOffset TakenInAt,
    DateTimeOffset ChangedAt,
    string ChangedBy)
{
    public bool IsOpen => Stage is not (Stage.HandedBack or Stage.Cancelled);

    /// <summary>The run that counts now: the last one begun, or the plan's before its first step.</summary>
    public Run? Run => Runs.Count > 0 ? Runs[^1] : null;

    /// <summary>The steps of the run that counts now; null before there is a plan.</summary>
    public RunSheet? Sheet(Guide guide) => Plan is not { Value: var plan } ? null
        : Run is { Reseat.Count: > 0 } again ? RunSheetBuilder.ForReseat(guide, plan, again.Reseat)
        : RunSheetBuilder.ForPlan(guide, plan);

    /// <summary>What was confirmed in it.</summary>
    public IReadOnlyList<StepConfirmation> Done => Run?.Done ?? [];

    /// <summary>Folds a whole journal.</summary>
    /// <param name="entries">Of one order, by sequence from 1; at least one.</param>
    public static Order Fold(IEnumerable<Entry> entries) =>
        entries.Aggregate((Order?)null, (order, entry) => order is null ? Begin(entry) : order.Apply(entry))
        ?? throw new ArgumentException("An order has at least one entry.", nameof(entries));

    /// <summary>The order after one more entry.</summary>
    public Order Apply(Entry entry)
    {
        var next = entry.Body switch
        {
            ReadingTaken { Phase: Phase.Before } r => this with
            {
                Stage = Stage.Measured,
                Before = new Recorded<Reading>(r.Reading, entry.Sequence),
                Plan = null,
                AgreedBy = null,
            },
            ReadingTaken r => this with { Stage = Stage.Checking, After = new Recorded<Reading>(r.Reading, entry.Sequence) },
            PlanSet p => this with { Stage = Stage.Planned, Plan = new Recorded<Plan>(p.Plan, entry.Sequence), AgreedBy = null },
            PlanAgreed a => this with { Stage = Stage.Agreed, AgreedBy = a.Customer },
            StepConfirmed s => Confirmed(s, entry),
            ReseatBegun b => this with { Stage = Stage.OnBench, Runs = Runs.Add(new Run(Runs.Count + 1, b.Slots, b.Reason, [])) },
            MarkedReady => this with { Stage = Stage.Ready },
            Orders.HandedBack => this with { Stage = Stage.HandedBack },
            Orders.Parked p => this with { Stage = Stage.Parked, Resting = Stage, Reason = p.Reason },
            Resumed => this with { Stage = Resting ?? Stage, Resting = null, Reason = null },
            Orders.Cancelled c => this with { Stage = Stage.Cancelled, Reason = c.Reason },
            _ => this,
        };
        return next with { Head = entry.Sequence, ChangedAt = entry.At, ChangedBy = entry.By };
    }

    private static Order Begin(Entry entry) => entry.Body is TakenIn t
        ? new Order(
            entry.Order, entry.Sequence, Stage.TakenIn, t.Intake, t.Model, t.Revision, null, null, null, [], null, null, null, entry.At, entry.At, entry.By)
        : throw new InvalidDataException($"The journal of order {entry.Order} does not begin with its take-in.");

    private Order Confirmed(StepConfirmed s, Entry entry)
    {
        var done = new StepConfirmation(s.Step, entry.By, entry.At, s.Fasteners, s.Explanation, s.Note);
        return this with
        {
            Stage = Stage.OnBench,
            Runs = Run is { } run && run.Number == s.Run
                ? Runs.SetItem(Runs.Count - 1, run with { Done = run.Done.Add(done) })
                : Runs.Add(new Run(s.Run, [], null, [done])),
        };
    }
}
