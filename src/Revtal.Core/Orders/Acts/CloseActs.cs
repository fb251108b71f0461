using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>The check was accepted.</summary>
/// <param name="Reason">Why it goes out although it is not as planned; null when it is.</param>
/// <param name="Proves">What works here although the guide does not say so; null when nothing new was proved.</param>
public sealed record MarkedReady(Verdict Verdict, string? Reason, MemorySize? Proves = null) : EntryBody
{
    public override OrderAct Act => OrderAct.MarkReady;

    public override string Line(Guide? guide) =>
        $"Ready, {Verdict.Spoken()}{Phrases.When(Proves, size => $", {size} proved to work")}{Phrases.Added(Reason)}";

    internal override Order Apply(Order order, Entry entry) => order with { Stage = Stage.Ready };
}

/// <summary>The machine went back to the customer.</summary>
public sealed record HandedBack(string To, string? OldParts) : EntryBody
{
    public override OrderAct Act => OrderAct.HandBack;

    public override string Line(Guide? guide) =>
        $"Handed back to {To}{Phrases.When(OldParts, old => $". Old parts: {old}")}";

    internal override Order Apply(Order order, Entry entry) => order with { Stage = Stage.HandedBack };
}

/// <summary>Nothing is done on it for now.</summary>
public sealed record Parked(string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.Park;

    public override string Line(Guide? guide) => $"Parked: {Reason}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.Parked,
            Resting = order.Stage,
            Reason = Reason,
        };
}

/// <summary>It goes on where it was parked.</summary>
public sealed record Resumed : EntryBody
{
    public override OrderAct Act => OrderAct.Resume;

    public override string Line(Guide? guide) => "Resumed";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = order.WorkStage,
            Resting = null,
            Reason = null,
        };
}

/// <summary>It ended without a hand-back.</summary>
public sealed record Cancelled(string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.Cancel;

    public override string Line(Guide? guide) => $"Cancelled: {Reason}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.Cancelled,
            Resting = null,
            Reason = Reason,
        };
}

/// <summary>
/// Ready, handed back, parked, cancelled. Each rule gives the entry to append, or refuses with the reason and the
/// way on.
/// </summary>
public static class CloseRules
{
    /// <summary>
    /// The check is accepted. A verdict that is short, not seen or unknown, or a promise that is open, goes out only by
    /// a lead's reason.
    /// </summary>
    public static MarkedReady MarkReady(Order order, Guide guide, Role role, string? reason)
    {
        var check =
            order.Check(guide)
            ?? throw RefusedException.Rule("nothing-to-check", "No reading was taken after the work. Take it first.");
        var verdict = check.Verdict;
        var why = Words.Text("The reason", reason);
        var isGood = verdict is Verdict.AsPlanned or Verdict.WithRemarks;
        var proved = isGood ? Proved(guide.Memory, check.Installed.After) : null;
        var open = isGood ? Promises.Open(order, guide, check) : ["The check is not as planned."];
        if (open.Count == 0)
        {
            return new MarkedReady(verdict, why, proved);
        }

        var said = string.Join(' ', open);
        if (role != Role.Lead)
        {
            throw new RefusedException(
                RefusalKind.Role,
                "lead-decides",
                $"{said} Mend it, or ask a lead to mark it ready with a reason."
            );
        }

        return new MarkedReady(
            verdict,
            why
                ?? throw RefusedException.Rule(
                    "reason-missing",
                    $"{said} Say with a reason why it goes out all the same."
                ),
            proved
        );
    }

    // More than anybody stated or proved before.
    private static MemorySize? Proved(MemoryFacts memory, long? installed) =>
        installed is { } bytes && bytes > memory.StatedMax.Bytes && bytes > (memory.ConfirmedMax?.Size.Bytes ?? 0)
            ? new MemorySize(bytes)
            : null;

    /// <summary>The machine goes back to the customer; the order ends.</summary>
    public static HandedBack HandBack(string? to, string? oldParts) =>
        new(Words.RequiredLine("Who took it", to), Words.Text("The old parts' fate", oldParts));

    /// <summary>Nothing is done on the order until it is resumed.</summary>
    public static Parked Park(string? reason) => new(Words.RequiredText("The reason", reason));

    /// <summary>The order ends without a hand-back.</summary>
    public static Cancelled Cancel(string? reason) => new(Words.RequiredText("The reason", reason));
}
