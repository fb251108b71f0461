using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>The check was accepted.</summary>
/// <param name="Reason">Why it goes out although it is not as planned; null when it is.</param>
/// <param name="Proves">What works here although the guide does not say so; null when nothing new was proved.</param>
/// <param name="Holds">Keys of what the reason releases; null in records from before there were holds.</param>
public sealed record MarkedReady(
    Verdict Verdict,
    string? Reason,
    MemorySize? Proves = null,
    IReadOnlyList<string>? Holds = null
) : EntryBody
{
    public override OrderAct Act => OrderAct.MarkReady;

    public override string Line(Guide? guide) =>
        $"Ready, {Verdict.Spoken()}{Phrases.When(Proves, size => $", {size} proved to work")}{Phrases.Added(Reason)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.Ready,
            Accepted = new AcceptedCheck(Reason, entry.By, entry.At, Holds),
            Proved = Proves,
        };
}

/// <summary>A lead lets a hold be.</summary>
/// <param name="Key">Which: <c>array-resync.md0</c>.</param>
/// <param name="Sentence">What was held.</param>
public sealed record HoldReleased(string Key, string Sentence, string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.ReleaseHold;

    public override string Line(Guide? guide) => $"Released: {Sentence}{Phrases.Added(Reason)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Released = order.Released.Add(new ReleasedHold(Key, Sentence, Reason, entry.By, entry.At)),
        };
}

/// <summary>The machine went back to the customer.</summary>
public sealed record HandedBack(string To, string? OldParts) : EntryBody
{
    public override OrderAct Act => OrderAct.HandBack;

    public override string Line(Guide? guide) =>
        $"Handed back to {To}{Phrases.When(OldParts, old => $". Old parts: {old}")}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.HandedBack,
            HandedBackAt = entry.HappenedAt,
        };
}

/// <summary>Nothing is done on it for now.</summary>
/// <param name="Until">When it is to be taken up again; null where nobody knows.</param>
/// <param name="Wakes">What takes it up again by itself before that; null for nothing.</param>
public sealed record Parked(string Reason, DateTimeOffset? Until = null, WakeOn? Wakes = null) : EntryBody
{
    public override OrderAct Act => OrderAct.Park;

    public override string Line(Guide? guide) => $"Parked{Phrases.When(How, h => $" until {h}")}: {Reason}";

    private string? How =>
        Phrases.Either([
            .. Wakes is { } w ? [Word(w)] : Array.Empty<string>(),
            .. Until is { } u ? [Phrases.Minute(u)] : Array.Empty<string>(),
        ])
            is { Length: > 0 } how
            ? how
            : null;

    private static string Word(WakeOn wakes) =>
        wakes == WakeOn.CustomerAnswers ? "the customer answers" : "its parts are there";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.Parked,
            Resting = order.Stage,
            Reason = Reason,
            ParkedUntil = Until,
            Parking = new Parking(entry.At, entry.By, Wakes),
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
            ParkedUntil = null,
            Parking = null,
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
    private const int LongestRestDays = 365;

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
        var open = Holds.Of(order, guide, check).Where(h => h is { IsOpen: true, StopsReady: true }).ToArray();
        if (open.Length == 0)
        {
            return new MarkedReady(verdict, why, proved, []);
        }

        var said = string.Join(' ', open.Select(h => h.Sentence));
        if (role != Role.Lead)
        {
            throw new RefusedException(
                RefusalKind.Role,
                "lead-decides",
                $"{said} Mend it, or ask a lead to release it with a reason."
            );
        }

        return new MarkedReady(
            verdict,
            why
                ?? throw RefusedException.Rule(
                    "reason-missing",
                    $"{said} Say with a reason why it goes out all the same."
                ),
            proved,
            [.. open.Select(h => h.Key)]
        );
    }

    /// <summary>A lead lets one hold be, with a reason that the journal and the report keep.</summary>
    /// <param name="key">Of one that is open.</param>
    public static HoldReleased Release(Order order, Guide guide, Role role, string? key, string? reason)
    {
        if (role != Role.Lead)
        {
            throw new RefusedException(
                RefusalKind.Role,
                "lead-releases",
                "A hold is released by a lead. What ends it otherwise is told with it."
            );
        }

        var open = Holds.Open(order, guide);
        var hold =
            open.FirstOrDefault(h => h.Key == key)
            ?? throw RefusedException.NotFound(
                "no-such-hold",
                $"No hold “{key}” is open on order {order.Number}. Open: {Phrases.Listed(open.Select(h => h.Key))}."
            );
        return hold.Kind is HoldKind.FateOpen or HoldKind.Watched
            ? throw RefusedException.Rule("not-released", $"{hold.Sentence} {hold.Ends}")
            : new HoldReleased(hold.Key, hold.Sentence, Words.RequiredText("The reason", reason));
    }

    // More than anybody stated or proved before.
    private static MemorySize? Proved(MemoryFacts memory, long? installed) =>
        installed is { } bytes
        && bytes > (memory.StatedMax?.Bytes ?? 0)
        && bytes > (memory.ConfirmedMax?.Size.Bytes ?? 0)
            ? new MemorySize(bytes)
            : null;

    /// <summary>The machine goes back to the customer; the order ends.</summary>
    /// <param name="oldParts">What becomes of the modules that came out and are not settled one by one.</param>
    public static HandedBack HandBack(Order order, Guide guide, string? to, string? oldParts)
    {
        var words = Words.Text("The old parts' fate", oldParts);
        return words is null && order.FatesOpen(guide) is { Count: > 0 } open
            ? throw RefusedException.Rule(
                "old-parts-open",
                $"Say what becomes of {Phrases.Listed(open.Select(o => $"{o.Name} from {o.Position}"))}: settle each, "
                    + "or say it with the hand-back."
            )
            : new HandedBack(Words.RequiredLine("Who took it", to), words);
    }

    /// <summary>Nothing is done on the order until it is resumed.</summary>
    /// <param name="until">When it is to be taken up again; within a year from now.</param>
    /// <param name="wakes">What takes it up again before that.</param>
    public static Parked Park(
        Order order,
        string? reason,
        DateTimeOffset now,
        DateTimeOffset? until = null,
        WakeOn? wakes = null
    )
    {
        Waking.NeedPossible(order, wakes);
        return until is null || (until > now && until <= now.AddDays(LongestRestDays))
            ? new Parked(Words.RequiredText("The reason", reason), until, wakes)
            : throw RefusedException.Invalid("park-time", "An order is parked until a time to come, within a year.");
    }

    /// <summary>The order ends without a hand-back.</summary>
    public static Cancelled Cancel(string? reason) => new(Words.RequiredText("The reason", reason));
}
