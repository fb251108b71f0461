using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>
/// What may be done to an order at which stage. Each rule takes the order as it stands and a wish, and gives the entry to append,
/// or refuses with the reason and the way on.
/// </summary>
public static class OrderRules
{
    /// <summary>A machine is taken in; the order begins.</summary>
    public static TakenIn TakeIn(Intake intake, Guide guide, int revision) => new(
        intake with
        {
            Customer = Words.RequiredLine("The customer", intake.Customer),
            Contact = Words.Line("The contact", intake.Contact),
            Serial = Words.Line("The serial", intake.Serial),
            Complaint = Words.RequiredText("The complaint", intake.Complaint),
            Goal = Words.Text("The goal", intake.Goal),
            Accessories = Words.Text("The accessories", intake.Accessories),
            Condition = Words.Text("The condition", intake.Condition),
        },
        guide.Model.Code,
        revision);

    /// <summary>A reading is taken. The after reading wants every step of the run confirmed.</summary>
    public static ReadingTaken TakeReading(Order order, Guide guide, Phase phase, Reading reading, string? capture, string? note)
    {
        if (phase == Phase.Before)
        {
            Need(order, "a before reading", Stage.TakenIn, Stage.Measured, Stage.Planned);
        }
        else
        {
            Need(order, "an after reading", Stage.OnBench, Stage.Checking);
            if (order.Sheet(guide) is { } sheet && !sheet.IsComplete(order.Done))
            {
                var left = sheet.Steps.Count(s => order.Done.All(d => d.Step != s.Id));
                throw RefusedException.Rule(
                    "run-not-done", $"The run is not done: {left} {(left == 1 ? "step is" : "steps are")} not confirmed. Next: “{sheet.Next(order.Done)!.Title}”.");
            }
        }

        return new ReadingTaken(phase, reading, capture, Words.Text("The note", note));
    }

    /// <summary>The plan is set, or set anew, which asks the customer again.</summary>
    public static PlanSet SetPlan(Order order, Guide guide, IReadOnlyList<SlotChange> changes, string? note)
    {
        Need(order, "a plan", Stage.Measured, Stage.Planned, Stage.Agreed);
        return new PlanSet(Planner.Make(guide, order.Before!.Value, changes), Words.Text("The note", note));
    }

    /// <summary>The customer agreed to the plan.</summary>
    public static PlanAgreed Agree(Order order, string? customer, string? note)
    {
        Need(order, "the customer's word", Stage.Planned);
        return new PlanAgreed(Words.RequiredLine("Who agreed", customer), Words.Text("The note", note));
    }

    /// <summary>A step of the run is confirmed; the gates decide.</summary>
    public static StepConfirmed Confirm(Order order, Guide guide, StepConfirmation wish)
    {
        Need(order, "a step of the run", Stage.Agreed, Stage.OnBench);
        var confirmed = order.Sheet(guide)!.Confirm(
            wish with { Explanation = Words.Text("The explanation", wish.Explanation), Note = Words.Text("The note", wish.Note) }, order.Done);
        return new StepConfirmed(order.Run?.Number ?? 1, confirmed.Step, confirmed.Fasteners, confirmed.Explanation, confirmed.Note);
    }

    /// <summary>Modules are to be seated anew: another run begins.</summary>
    public static ReseatBegun Reseat(Order order, Guide guide, IReadOnlyList<string> slots, string? reason)
    {
        Need(order, "a reseat", Stage.Checking);
        var asked = slots.Distinct().ToArray();
        if (asked.Length == 0)
        {
            throw RefusedException.Invalid("no-slots", "Name at least one slot to reseat.");
        }

        foreach (var id in asked)
        {
            var slot = guide.NeedSlot(id);
            if (slot.Soldered || order.Plan!.Value.Slots.First(s => s.Slot == id).Module is null)
            {
                throw RefusedException.Invalid("nothing-to-reseat", $"{id} holds no module that could be seated anew.");
            }
        }

        return new ReseatBegun(asked, Words.Text("The reason", reason));
    }

    /// <summary>The check is accepted. A verdict that is short, not seen or unknown goes out only by a lead's reason.</summary>
    public static MarkedReady MarkReady(Order order, Guide guide, Role role, string? reason)
    {
        Need(order, "marking it ready", Stage.Checking);
        var verdict = Checker.Check(guide, order.Before!, order.Plan!, order.After!).Verdict;
        var why = Words.Text("The reason", reason);
        if (verdict is Verdict.AsPlanned or Verdict.WithRemarks)
        {
            return new MarkedReady(verdict, why);
        }

        if (role != Role.Lead)
        {
            throw new RefusedException(
                RefusalKind.Role, "lead-decides", "The check is not as planned. Mend it, or ask a lead to mark it ready with a reason.");
        }

        return new MarkedReady(verdict, why ?? throw RefusedException.Rule("reason-missing", "The check is not as planned. Say with a reason why it goes out all the same."));
    }

    /// <summary>The machine goes back to the customer; the order ends.</summary>
    public static HandedBack HandBack(Order order, string? to, string? oldParts)
    {
        Need(order, "a hand-back", Stage.Ready);
        return new HandedBack(Words.RequiredLine("Who took it", to), Words.Text("The old parts' fate", oldParts));
    }

    public static Parked Park(Order order, string? reason)
    {
        if (!order.IsOpen || order.Stage == Stage.Parked)
        {
            throw Wrong(order, "parking");
        }

        return new Parked(Words.RequiredText("The reason", reason));
    }

    public static Resumed Resume(Order order)
    {
        Need(order, "resuming", Stage.Parked);
        return new Resumed();
    }

    /// <summary>The order ends without a hand-back. A machine that lies open must be closed first.</summary>
    public static Cancelled Cancel(Order order, Guide guide, string? reason)
    {
        if (!order.IsOpen)
        {
            throw Wrong(order, "cancelling");
        }

        if (order.Sheet(guide) is { } sheet && Tally.Of(sheet, order.Done).IsOpen)
        {
            throw RefusedException.Rule("tally-open", "The machine lies open. Close it and count the fasteners back, then cancel.");
        }

        return new Cancelled(Words.RequiredText("The reason", reason));
    }

    public static NoteAdded AddNote(string? text) => new(Words.RequiredText("The note", text));

    private static void Need(Order order, string what, params Stage[] stages)
    {
        if (!stages.Contains(order.Stage))
        {
            throw Wrong(order, what, stages);
        }
    }

    private static RefusedException Wrong(Order order, string what, params Stage[] stages)
    {
        var wants = stages.Length == 0 ? "an open order" : string.Join(" or ", stages.Select(s => s.Spoken()));
        var way = order.Stage switch
        {
            Stage.Parked => " Resume it first.",
            Stage.HandedBack or Stage.Cancelled => " It is closed; take the machine in again.",
            _ => "",
        };
        return RefusedException.Rule("wrong-stage", $"Order {order.Number} is {order.Stage.Spoken()}; {what} wants it {wants}.{way}");
    }
}

/// <summary>Stages as they are said.</summary>
public static class StageWords
{
    public static string Spoken(this Stage stage) => stage switch
    {
        Stage.TakenIn => "taken in",
        Stage.OnBench => "on bench",
        Stage.HandedBack => "handed back",
        _ => stage.ToString().ToLowerInvariant(),
    };

    /// <summary>As scripts write it: <c>on-bench</c>.</summary>
    public static string Word(this Stage stage) => stage.Spoken().Replace(' ', '-');

    /// <exception cref="RefusedException">There is no such stage.</exception>
    public static Stage Parse(string word) => Enum.GetValues<Stage>().Cast<Stage?>().FirstOrDefault(s => s!.Value.Word() == word)
        ?? throw RefusedException.Invalid("no-such-stage", $"There is no stage “{word}”. Stages: {string.Join(", ", Enum.GetValues<Stage>().Select(Word))}.");
}
