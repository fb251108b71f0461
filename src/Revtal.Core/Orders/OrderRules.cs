using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>
/// What may be done to an order at which stage. Each rule takes the order as it stands and a wish, and gives the
/// entry to append, or refuses with the reason and the way on.
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
        return new ReadingTaken(
            phase,
            InItsBay(guide, OfThisMachine(order, reading)),
            capture,
            Words.Text("The note", note),
            photo
        );
    }

    // What the desk wrote down at take-in is a source too.
    private static Reading OfThisMachine(Order order, Reading reading) =>
        order.Intake.Serial is { } label
        && reading.System.Serial is { } told
        && !string.Equals(label, told, StringComparison.OrdinalIgnoreCase)
            ? reading.Disputed(
                new SourceConflict(
                    "serial of the machine",
                    $"{told} ({Phrases.Listed(reading.Sources.Select(s => s.Spoken()))})",
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
        var check =
            order.Check(guide)
            ?? throw RefusedException.Rule("nothing-to-check", "No reading was taken after the work. Take it first.");
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
    public static HandedBack HandBack(string? to, string? oldParts) =>
        new(Words.RequiredLine("Who took it", to), Words.Text("The old parts' fate", oldParts));

    /// <summary>Nothing is done on the order until it is resumed.</summary>
    public static Parked Park(string? reason) => new(Words.RequiredText("The reason", reason));

    /// <summary>The order ends without a hand-back.</summary>
    public static Cancelled Cancel(string? reason) => new(Words.RequiredText("The reason", reason));

    /// <param name="step">The step that it belongs to; null for the order.</param>
    public static NoteAdded AddNote(Order order, Guide guide, string? text, StepId? step = null)
    {
        BenchRules.KnownStep(order, guide, step);
        return new NoteAdded(Words.RequiredText("The note", text), step);
    }

    // More than anybody stated or proved before.
    private static MemorySize? Proved(MemoryFacts memory, long? installed) =>
        installed is { } bytes && bytes > memory.StatedMax.Bytes && bytes > (memory.ConfirmedMax?.Size.Bytes ?? 0)
            ? new MemorySize(bytes)
            : null;
}
