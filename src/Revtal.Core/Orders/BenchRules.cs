using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What may be done while the machine is on the bench; see <see cref="OrderRules"/>.</summary>
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
                Gate.BootCopyMissing => found.BootBay is not null && !state.CopySecured,
                Gate.TallyOpen => found.Part == RunPart.Close && found.LooseFasteners > 0,
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
        return new FoundInside(
            RunNumber(order),
            kind,
            step,
            kind == FindKind.Other ? Words.RequiredText("What was found", text) : Words.Text("What was found", text)
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

    /// <summary>
    /// Somebody looked which build it is. A plan that does not suit it is dropped, as long as nothing was pulled by it.
    /// </summary>
    /// <param name="model">The model's guide, with its variants.</param>
    public static VariantTold TellVariant(Order order, Guide model, string? variant)
    {
        var id = Words.RequiredLine("The variant", variant);
        model.NeedVariant(id);
        var build = model.For(id);
        var drops = order.Plan is { Value: var plan } && !Planner.Suits(build, order.Before!.Value, plan);
        return drops && (order.WorkStage > Stage.OnBench || HandsWereIn(order, model.For(order.Variant)))
            ? throw RefusedException.Rule(
                "variant-too-late",
                $"The plan does not suit a {id}, but was carried out in part already. Close the machine, then take it "
                    + $"in again as a {id}."
            )
            : new VariantTold(id, drops);
    }

    /// <summary>The customer's word about the warranty seal.</summary>
    public static SealTold TellSeal(SealConsent consent, string? customer) =>
        new(consent, Words.RequiredLine("Who said so", customer));

    /// <summary>The boot drive's copy is verified, or the customer goes without.</summary>
    public static CopyTold TellCopy(CopyState copy, string? text) =>
        new(copy, Words.RequiredText(copy == CopyState.Verified ? "How it was verified" : "Who goes without it", text));

    public static PhotoTaken AddPhoto(
        Order order,
        Guide guide,
        string hash,
        int width,
        int height,
        StepId? step,
        string? caption
    )
    {
        KnownStep(order, guide, step);
        return new PhotoTaken(hash, width, height, step, Words.Line("The caption", caption));
    }

    /// <summary>What somebody learned goes to the lead, who takes it into the guide or leaves it.</summary>
    public static GuideSuggested Suggest(Order order, Guide guide, GuideChange change, StepId? step)
    {
        KnownStep(order, guide, step);
        var told = change with
        {
            Text = Words.Line("The text", change.Text),
            Target = Words.Line("What it is about", change.Target),
        };
        GuideChanges.Apply(guide, told);
        return new GuideSuggested(told, step);
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
