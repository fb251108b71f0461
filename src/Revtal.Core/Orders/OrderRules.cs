using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>
/// What may be done to an order at which stage. Each rule takes the order as it stands and a wish, and gives the entry
/// to append,
/// or refuses with the reason and the way on.
/// </summary>
public static class OrderRules
{
    /// <summary>A machine is taken in; the order begins.</summary>
    public static TakenIn TakeIn(Intake intake, Guide guide, int revision, string? variant = null)
    {
        if (variant is not null)
        {
            guide.NeedVariant(variant);
        }

        return new TakenIn(
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
            revision,
            variant
        );
    }

    /// <summary>A reading is taken. The after reading wants every step of the run confirmed.</summary>
    /// <param name="photo">A picture of what was seen by eye.</param>
    public static ReadingTaken TakeReading(
        Order order,
        Guide guide,
        Phase phase,
        Reading reading,
        string? capture,
        string? note,
        string? photo = null
    )
    {
        NeedPhase(order, guide, phase);
        return new ReadingTaken(
            phase,
            InItsBay(guide, OfThisMachine(order, reading)),
            capture,
            Words.Text("The note", note),
            photo
        );
    }

    /// <summary>Proves that a reading of this phase may be taken now.</summary>
    internal static void NeedPhase(Order order, Guide guide, Phase phase)
    {
        if (phase == Phase.Before)
        {
            Need(order, "a before reading", Stage.TakenIn, Stage.Measured, Stage.Planned);
        }
        else if (phase == Phase.During)
        {
            Need(order, "a case-open reading", Stage.OnBench);
        }
        else
        {
            Need(order, "an after reading", Stage.OnBench, Stage.Checking);
            if (order.Swap is not null)
            {
                throw RefusedException.Rule(
                    "swap-test-runs",
                    "A swap test runs: tell it what the start showed, or end it first."
                );
            }

            if (order.Sheet(guide) is { } sheet && sheet.Left(order.RunState) is > 0 and var left)
            {
                throw RefusedException.Rule(
                    "run-not-done",
                    $"The run is not done: {left} {(left == 1 ? "step is" : "steps are")} not confirmed. Next: "
                        + $"“{sheet.Next(order.RunState)?.Title}”."
                );
            }
        }
    }

    // What the desk wrote down at take-in is a source too.
    private static Reading OfThisMachine(Order order, Reading reading) =>
        order.Intake.Serial is { } label
        && reading.System.Serial is { } told
        && !string.Equals(label, told, StringComparison.OrdinalIgnoreCase)
            ? reading.Disputed(
                new SourceConflict(
                    "serial of the machine",
                    $"{told} ({string.Join(" and ", reading.Sources.Select(s => s.Spoken()))})",
                    $"{label} (take-in)"
                )
            )
            : reading;

    // Where there is one bay and one drive inside, no source need tell which is where.
    private static Reading InItsBay(Guide guide, Reading reading) =>
        guide.Drives is [var bay] && reading.Drives.Where(d => d.Transport != "usb").ToArray() is [{ Bay: null } only]
            ? reading with
            {
                Drives = [.. reading.Drives.Select(d => ReferenceEquals(d, only) ? d with { Bay = bay.Id } : d)],
            }
            : reading;

    /// <summary>
    /// The check is accepted. A verdict that is short, not seen or unknown goes out only by a lead's reason.
    /// </summary>
    public static MarkedReady MarkReady(Order order, Guide guide, Role role, string? reason)
    {
        Need(order, "marking it ready", Stage.Checking);
        var check =
            order.Check(guide)
            ?? throw RefusedException.Rule("nothing-to-check", "No reading was taken after the work. Take it first.");
        if (order.Swap is not null)
        {
            throw RefusedException.Rule("swap-test-runs", "A swap test runs. End it first.");
        }

        var verdict = check.Verdict;
        var why = Words.Text("The reason", reason);
        if (verdict is Verdict.AsPlanned or Verdict.WithRemarks)
        {
            return new MarkedReady(verdict, why, Proved(guide.Memory, check.Installed.After));
        }

        if (role != Role.Lead)
        {
            throw new RefusedException(
                RefusalKind.Role,
                "lead-decides",
                "The check is not as planned. Mend it, or ask a lead to mark it ready with a reason."
            );
        }

        return new MarkedReady(
            verdict,
            why
                ?? throw RefusedException.Rule(
                    "reason-missing",
                    "The check is not as planned. Say with a reason why it goes out all the same."
                )
        );
    }

    /// <summary>The machine goes back to the customer; the order ends.</summary>
    public static HandedBack HandBack(Order order, string? to, string? oldParts)
    {
        Need(order, "a hand-back", Stage.Ready);
        if (
            order
                .Plan!.Value.DrivesLeaving.Select(d => d.Bay)
                .Except(order.Settled.Select(s => s.Position))
                .ToArray() is
            { Length: > 0 } open
        )
        {
            throw RefusedException.Rule(
                "old-drive-open",
                $"Say first what becomes of the drive from {string.Join(" and ", open)}: kept, returned, wiped, "
                    + "recycled or bought in."
            );
        }

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

        if (order.Sheet(guide) is { } sheet && Tally.Of(sheet, order.RunState).IsOpen)
        {
            throw RefusedException.Rule(
                "tally-open",
                "The machine lies open. Close it and count the fasteners back, then cancel."
            );
        }

        return new Cancelled(Words.RequiredText("The reason", reason));
    }

    /// <param name="step">The step that it belongs to; null for the order.</param>
    public static NoteAdded AddNote(Order order, Guide guide, string? text, string? step = null)
    {
        BenchRules.KnownStep(order, guide, step);
        return new NoteAdded(Words.RequiredText("The note", text), step);
    }

    // More than anybody stated or proved before.
    private static MemorySize? Proved(MemoryFacts memory, long? installed) =>
        installed is { } bytes && bytes > memory.StatedMax.Bytes && bytes > (memory.ConfirmedMax?.Size.Bytes ?? 0)
            ? new MemorySize(bytes)
            : null;

    /// <summary>Proves that the order stands at one of these stages.</summary>
    /// <param name="what">What wants it, for the refusal: “a quote”.</param>
    /// <exception cref="RefusedException">It does not.</exception>
    public static void Need(Order order, string what, params Stage[] stages)
    {
        if (!stages.Contains(order.Stage))
        {
            throw Wrong(order, what, stages);
        }
    }

    internal static RefusedException Wrong(Order order, string what, params Stage[] stages)
    {
        var wants = stages.Length == 0 ? "an open order" : string.Join(" or ", stages.Select(s => s.Spoken()));
        var way = order.Stage switch
        {
            Stage.Parked => " Resume it first.",
            Stage.HandedBack or Stage.Cancelled => " It is closed; take the machine in again.",
            _ => "",
        };
        return RefusedException.Rule(
            "wrong-stage",
            $"Order {order.Number} is {order.Stage.Spoken()}; {what} wants it {wants}.{way}"
        );
    }
}

/// <summary>Stages as they are said.</summary>
public static class StageWords
{
    public static string Spoken(this Stage stage) =>
        stage switch
        {
            Stage.TakenIn => "taken in",
            Stage.OnBench => "on bench",
            Stage.HandedBack => "handed back",
            _ => stage.ToString().ToLowerInvariant(),
        };

    /// <summary>As scripts write it: <c>on-bench</c>.</summary>
    public static string Word(this Stage stage) => stage.Spoken().Replace(' ', '-');

    /// <exception cref="RefusedException">There is no such stage.</exception>
    public static Stage Parse(string word) =>
        Enum.GetValues<Stage>().Cast<Stage?>().FirstOrDefault(s => s!.Value.Word() == word)
        ?? throw RefusedException.Invalid(
            "no-such-stage",
            $"There is no stage “{word}”. Stages: {string.Join(", ", Enum.GetValues<Stage>().Select(Word))}."
        );
}
