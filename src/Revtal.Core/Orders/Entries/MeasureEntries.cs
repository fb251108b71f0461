using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>What one source, or several asked together, said at one time.</summary>
/// <param name="Capture">The SHA-256 of the stored capture; null for a reading typed in.</param>
/// <param name="Photo">The hash of a picture of what was seen by eye.</param>
/// <param name="Invite">The sequence of the invitation by which the machine sent it.</param>
public sealed record ReadingTaken(
    Phase Phase,
    Reading Reading,
    string? Capture,
    string? Note,
    string? Photo = null,
    int? Invite = null
) : EntryBody
{
    /// <summary>
    /// Sources asked within this time, with nothing done in between, tell of one state: they are one set.
    /// </summary>
    private static readonly TimeSpan OneSet = TimeSpan.FromMinutes(15);

    public override OrderAct Act => OrderActs.Reading(Phase);

    public override string Line(Guide? guide) =>
        $"{Phrases.Sentence(Phase.Spoken())} reading: {Totals()}"
        + $"{Phrases.When(Invite is not null, ", sent by the machine")}{Phrases.Added(Note)}";

    internal override Order Apply(Order order, Entry entry)
    {
        var reading = InSet(order, entry);
        var recorded = new Recorded<Reading>(reading, entry.Sequence);
        var next = Phase switch
        {
            Phase.During => order,
            Phase.Before => order.WithoutPlan() with { Stage = Stage.Measured, Before = recorded },
            _ => order with { Stage = Stage.Checking, After = recorded },
        };
        return next with
        {
            Readings = order.Readings.Add(new TimedReading(entry.Sequence, Phase, entry.At, reading)),
            Invites = order.Invites.RemoveAll(i => i.Sequence == Invite),
        };
    }

    private Reading InSet(Order order, Entry entry)
    {
        var isOneSet =
            order.Readings is [.., { } last]
            && last.Phase == Phase
            && last.Sequence == order.Head
            && entry.At - last.At <= OneSet
            && !Reading.Sources.Intersect(last.Reading.Sources).Any();
        return isOneSet ? Reading.Join(order.Readings[^1].Reading, Reading) : Reading;
    }

    private string Totals()
    {
        var memory = Reading.Memory;
        string?[] parts =
        [
            memory.InstalledBytes is { } i ? $"{new MemorySize(i)} installed" : null,
            memory.UsableBytes is { } u ? $"{new MemorySize(u)} usable" : null,
        ];
        var totals = string.Join(", ", parts.OfType<string>());
        var text = totals.Length > 0 ? totals : Phrases.Counted(memory.Slots.Count, "slot", "slots");
        return text + Phrases.When(Reading.Sources.Contains(Source.Eyes), ", by eye");
    }
}

/// <summary>A machine may send one reading by a code.</summary>
/// <param name="CodeHash">SHA-256 of the code's secret, hexadecimal; the secret itself is kept nowhere.</param>
public sealed record ReadingInvited(Phase Phase, string CodeHash, DateTimeOffset Until) : EntryBody
{
    public override OrderAct Act => OrderActs.Reading(Phase);

    public override string Line(Guide? guide) =>
        $"A code was made for the {Phase.Spoken()} reading, open until {Phrases.Minute(Until)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Invites = order
                .Invites.RemoveAll(i => i.Phase == Phase)
                .Add(new Invite(entry.Sequence, Phase, CodeHash, Until, entry.By)),
        };
}

/// <summary>What a benchmark said.</summary>
public sealed record ScoresTaken(Phase Phase, IReadOnlyList<Score> Scores, string? Note) : EntryBody
{
    public override OrderAct Act => OrderAct.TakeScores;

    public override string Line(Guide? guide) =>
        $"Scores {Phase.Spoken()}: {string.Join(", ", Scores)}{Phrases.Added(Note)}";

    internal override Order Apply(Order order, Entry entry) => order with { ScoresTold = order.ScoresTold.Add(this) };
}
