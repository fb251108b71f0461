using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What is said of one run.</summary>
/// <param name="Run">Which run of the order, from 1.</param>
public abstract record RunEntry(int Run) : EntryBody
{
    // The first run is the plan's; only later ones are told apart by their number.
    public sealed override string Line(Guide? guide) => Phrases.When(Run > 1, $"Run {Run}: ") + Told(guide);

    internal sealed override Order Apply(Order order, Entry entry) =>
        order.OnRun(Run, run => Apply(run, entry.By, entry.HappenedAt)) with
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

    private protected override string Told(Guide? guide) =>
        (
            Deviation == Bench.Deviation.Skipped
                ? $"Skipped: {StepWords.Title(Step, guide)}"
                : StepWords.Done(Step, guide)
        )
        + Phrases.When(Deviation == Bench.Deviation.Otherwise, ", otherwise than the sheet says")
        + Confirmation("", default).Facts();

    private protected override Run Apply(Run run, string by, DateTimeOffset at) =>
        run with
        {
            Done = run.Done.Add(Confirmation(by, at)),
            Blocked = run.Blocked.RemoveAll(b => b.Step == Step),
        };

    private StepConfirmation Confirmation(string by, DateTimeOffset at) =>
        new(Step, by, at, Fasteners, Explanation, Note, Holes, Groups, Occupants, Seen, Deviation);
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
            CameOff = run.CameOff.RemoveAll(c => StepId.Open(c.Removal.Id) == Step),
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
        Phrases.Sentence($"{Kind.Told()}{StepWords.At(Step, guide)}{Phrases.Added(Text)}");

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

/// <summary>
/// The run on the bench. Each rule gives the entry to append, or refuses with the reason and the way on.
/// </summary>
public static class BenchRules
{
    /// <summary>A step of the run is confirmed; the gates decide.</summary>
    /// <param name="wish">Its time is now, by the service's clock.</param>
    public static StepConfirmed Confirm(Order order, Guide guide, StepConfirmation wish)
    {
        var told = wish with
        {
            Explanation = Words.Text("The explanation", wish.Explanation),
            Note = Words.Text("The note", wish.Note),
            Occupants = wish.Occupants?.ToDictionary(
                o => o.Key,
                o => Words.RequiredLine($"What sits in {o.Key}", o.Value)
            ),
        };
        var c = order.Sheet(guide)!.Confirm(told, order.RunState);
        return new StepConfirmed(
            RunNumber(order),
            c.Step,
            c.Fasteners,
            c.Explanation,
            c.Note,
            c.Holes,
            c.Groups,
            c.Occupants,
            c.Seen,
            c.Deviation
        );
    }

    /// <summary>A press too much: the step confirmed last is taken back, and waits to be done again.</summary>
    public static StepTakenBack TakeBack(Order order, Guide guide, StepId step, string? reason)
    {
        var last = order.Run!.Done[^1].Step;
        return step == last
            ? new StepTakenBack(RunNumber(order), step, Words.Text("The reason", reason))
            : throw RefusedException.Rule(
                "not-the-last",
                $"Only the step confirmed last can be taken back: “{order.Sheet(guide)!.Find(last).Title}”. Later "
                    + "ones rest on earlier ones."
            );
    }

    /// <summary>A step cannot be done: somebody else tries, or a lead waives it.</summary>
    public static StepImpossible Block(Order order, Guide guide, StepId step, string? reason)
    {
        var found = order.Sheet(guide)!.Find(step);
        return order.RunState.Settled(step)
            ? throw new RefusedException(
                RefusalKind.Conflict,
                "step-already-confirmed",
                $"“{found.Title}” is done already."
            )
            : new StepImpossible(RunNumber(order), step, Words.RequiredText("The reason", reason));
    }

    /// <summary>A lead lets one gate be, with a reason that the journal keeps.</summary>
    public static GateWaived Waive(Order order, Guide guide, Role role, Gate gate, StepId? step, string? reason)
    {
        if (role != Role.Lead)
        {
            throw new RefusedException(RefusalKind.Role, "lead-waives", "A gate is waived by a lead.");
        }

        var state = order.RunState;
        if (gate == Gate.RunStopped)
        {
            return state.Stop is null
                ? throw RefusedException.Rule("gate-not-closed", "Nothing stops this run.")
                : new GateWaived(RunNumber(order), gate, null, Words.RequiredText("The reason", reason));
        }

        var found = order
            .Sheet(guide)!
            .Find(
                step
                    ?? throw RefusedException.Invalid(
                        "step-missing",
                        $"Name the step that waits for it: {gate.Spoken()} is waived at one step."
                    )
            );
        var closed =
            !state.Settled(found.Id)
            && !state.IsWaived(gate, found.Id)
            && gate switch
            {
                Gate.PowerNotIsolated => found.Part == RunPart.Isolate || found.Isolates,
                Gate.StillCooling => found.TimedFrom is not null,
                Gate.SealConsentMissing => found.IsSealed && !state.SealMayBreak,
                Gate.BootCopyMissing => found.CopiedFirst.Any(b => !state.Copies.Secures(b)),
                Gate.TallyOpen => found.Part == RunPart.Close && found.LooseFasteners > 0,
                Gate.LooseMetal => found.Part is RunPart.Measure or RunPart.Start && state.Loose.Count > 0,
                Gate.WrongBay => found.Records.Count > 0 && !found.IsRecord,
                _ => state.Blocked.Any(b => b.Step == found.Id),
            };
        return closed
            ? new GateWaived(RunNumber(order), gate, found.Id, Words.RequiredText("The reason", reason))
            : throw RefusedException.Rule(
                "gate-not-closed",
                $"“{found.Title}” does not wait for that: {gate.Spoken()}."
            );
    }

    /// <summary>Something was found inside. A swollen battery stops the run.</summary>
    public static FoundInside Find(Order order, Guide guide, FindKind kind, StepId? step, string? text)
    {
        KnownStep(order, guide, step);
        var loose = order.RunState.Loose;
        if (kind == FindKind.LostFastener && loose.All(l => l.Removal != step?.Subject))
        {
            var where = loose.Select(l => StepId.Close(l.Removal).ToString()).Distinct().ToArray();
            throw RefusedException.Rule(
                "none-lost",
                where.Length > 0
                    ? $"Name the step at which it was lost: {Phrases.Either(where)}."
                    : "No fastener is missing on this order."
            );
        }

        return new FoundInside(
            RunNumber(order),
            kind,
            step,
            kind switch
            {
                FindKind.Other => Words.RequiredText("What was found", text),
                FindKind.LeftAlone => Words.RequiredText("What was looked at, and why it stays,", text),
                FindKind.Sign => Words.RequiredLine("What it showed", text),
                _ => Words.Text("What was found", text),
            }
        );
    }

    /// <summary>Modules are to be seated anew: another run begins.</summary>
    public static ReseatBegun Reseat(Order order, Guide guide, IReadOnlyList<string> slots, string? reason)
    {
        var asked = slots.Distinct().ToArray();
        if (asked.Length == 0)
        {
            throw RefusedException.Invalid("no-slots", "Name at least one slot or bay to reseat.");
        }

        foreach (var id in asked.Where(a => guide.Bay(a) is null))
        {
            var slot = guide.NeedSlot(id);
            if (slot.Soldered || order.Plan!.Value.Slots.First(s => s.Slot == id).Module is null)
            {
                throw RefusedException.Invalid("nothing-to-reseat", $"{id} holds no module that could be seated anew.");
            }
        }

        return new ReseatBegun(asked, Words.Text("The reason", reason));
    }

    internal static bool HandsWereIn(Order order, Guide guide) =>
        order.Run is { } run
        && order.Sheet(guide) is { } sheet
        && sheet.Steps.Any(s =>
            s.Part is RunPart.Pull or RunPart.Fit
            && run.Done.Any(d => d.Step == s.Id && d.Deviation != Deviation.Skipped)
        );

    internal static void KnownStep(Order order, Guide guide, StepId? step)
    {
        if (step is { } id)
        {
            _ = (
                order.Sheet(guide)
                ?? throw RefusedException.Rule("no-plan", $"Order {order.Number} has no steps before it has a plan.")
            ).Find(id);
        }
    }

    private static int RunNumber(Order order) => order.Run?.Number ?? 1;
}
