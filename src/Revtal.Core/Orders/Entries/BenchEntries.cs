using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>What is said of one run.</summary>
/// <param name="Run">Which run of the order, from 1.</param>
public abstract record RunEntry(int Run) : EntryBody
{
    // The first run is the plan's; only later ones are told apart by their number.
    public sealed override string Line(Guide? guide) => Phrases.When(Run > 1, $"Run {Run}: ") + Told(guide);

    internal sealed override Order Apply(Order order, Entry entry) =>
        order.OnRun(Run, run => Apply(run, entry.By, entry.At)) with
        {
            Stage = MovesToBench ? Stage.OnBench : order.Stage,
        };

    private protected virtual bool MovesToBench => false;

    private protected abstract string Told(Guide? guide);

    private protected abstract Run Apply(Run run, string by, DateTimeOffset at);
}

/// <summary>A step was done, or skipped with a reason.</summary>
public sealed record StepConfirmed(
    int Run,
    StepId Step,
    int? Fasteners,
    string? Explanation,
    string? Note,
    IReadOnlyList<string>? Holes = null,
    IReadOnlyDictionary<string, int>? Groups = null,
    IReadOnlyDictionary<string, string>? Occupants = null,
    MemorySize? Seen = null,
    Deviation? Deviation = null
) : RunEntry(Run)
{
    public override OrderAct Act => OrderAct.ConfirmStep;

    private protected override bool MovesToBench => true;

    private protected override string Told(Guide? guide)
    {
        string[] parts =
        [
            Deviation == Bench.Deviation.Skipped
                ? $"Skipped: {StepWords.Title(Step, guide)}"
                : StepWords.Done(Step, guide),
            Phrases.When(Deviation == Bench.Deviation.Otherwise, ", otherwise than the sheet says"),
            Fasteners is > 0 and var n ? $", {Phrases.Counted(n, "fastener", "fasteners")}" : "",
            Phrases.When(Occupants, o => string.Concat(o.Select(p => $", {p.Key} {p.Value}"))),
            Phrases.When(Seen, seen => $", {seen} seen"),
            Phrases.Added(Explanation),
            Phrases.Added(Note),
        ];
        return string.Concat(parts);
    }

    private protected override Run Apply(Run run, string by, DateTimeOffset at) =>
        run with
        {
            Done = run.Done.Add(
                new(Step, by, at, Fasteners, Explanation, Note, Holes, Groups, Occupants, Seen, Deviation)
            ),
            Blocked = run.Blocked.RemoveAll(b => b.Step == Step),
        };
}

/// <summary>The step confirmed last was not done after all.</summary>
public sealed record StepTakenBack(int Run, StepId Step, string? Reason) : RunEntry(Run)
{
    public override OrderAct Act => OrderAct.TakeStepBack;

    private protected override string Told(Guide? guide) =>
        $"Taken back: {StepWords.Title(Step, guide)}{Phrases.Added(Reason)}";

    private protected override Run Apply(Run run, string by, DateTimeOffset at) =>
        run with
        {
            Done = run.Done.RemoveAll(d => d.Step == Step),
        };
}

/// <summary>A lead lets one gate be.</summary>
/// <param name="Step">Null for what stops the whole run.</param>
public sealed record GateWaived(int Run, Gate Gate, StepId? Step, string Reason) : RunEntry(Run)
{
    public override OrderAct Act => OrderAct.WaiveGate;

    private protected override string Told(Guide? guide) =>
        $"Waived, {Gate.Spoken()}{StepWords.At(Step, guide)} – {Reason}";

    private protected override Run Apply(Run run, string by, DateTimeOffset at) =>
        run with
        {
            Waivers = run.Waivers.Add(new GateWaiver(Gate, Step, Reason, by, at)),
        };
}

/// <summary>A step could not be done; it waits for somebody else, or for a lead.</summary>
public sealed record StepImpossible(int Run, StepId Step, string Reason) : RunEntry(Run)
{
    public override OrderAct Act => OrderAct.BlockStep;

    private protected override string Told(Guide? guide) =>
        $"Cannot be done: {StepWords.Title(Step, guide)} – {Reason}";

    private protected override Run Apply(Run run, string by, DateTimeOffset at) =>
        run with
        {
            Blocked = run.Blocked.RemoveAll(b => b.Step == Step).Add(new StepBlocked(Step, Reason, by, at)),
        };
}

/// <summary>Something was found inside.</summary>
public sealed record FoundInside(int Run, FindKind Kind, StepId? Step, string? Text) : RunEntry(Run)
{
    public override OrderAct Act => OrderAct.AddFind;

    private protected override string Told(Guide? guide) =>
        $"Found {Kind.Spoken()}{StepWords.At(Step, guide)}{Phrases.Added(Text)}";

    private protected override Run Apply(Run run, string by, DateTimeOffset at) =>
        run with
        {
            Found = run.Found.Add(new BenchFind(Kind, Step, Text, by, at)),
        };
}

/// <summary>The modules of these slots are to come out and go back in: another run begins.</summary>
public sealed record ReseatBegun(IReadOnlyList<string> Slots, string? Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.BeginReseat;

    public override string Line(Guide? guide) => $"Reseat of {Phrases.Listed(Slots)} begun{Phrases.Added(Reason)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.OnBench,
            Runs = order.Runs.Add(Run.Begin(order.Runs.Count + 1, Slots, Reason)),
        };
}
