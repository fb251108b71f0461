using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What one source, or several asked together, said at one time.</summary>
/// <param name="Capture">The SHA-256 of the stored capture; null for a reading typed in.</param>
/// <param name="Photo">The hash of a picture of what was seen by eye.</param>
/// <param name="Booked">Serials of the stock items that are set aside for it or fitted, by position.</param>
/// <param name="Invite">The sequence of the invitation by which the machine sent it.</param>
public sealed record ReadingTaken(
    Phase Phase,
    Reading Reading,
    string? Capture,
    string? Note,
    string? Photo = null,
    int? Invite = null,
    IReadOnlyDictionary<string, string>? Booked = null
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
            Phase.Before => order.WithoutPlan() with
            {
                Stage = Stage.Measured,
                Before = recorded,
                // Where nobody typed it, the machine tells its serial itself.
                Intake = order.Intake with
                {
                    Serial = order.Intake.Serial ?? ReadingDoubts.Told(reading.System.Serial),
                },
            },
            _ => order with
            {
                // A reading in between ends no watch.
                Stage = order.Stage == Stage.Watching ? Stage.Watching : Stage.Checking,
                After = recorded,
                Accepted = null,
            },
        };
        return next with
        {
            Readings = order.Readings.Add(new TimedReading(entry.Sequence, Phase, entry.At, reading)),
            Loads =
                Reading.Load is { } load && Phase != Phase.During
                    ? order.Loads.Add(new WatchedLoad(entry.Sequence, Phase, entry.At, load, Note))
                    : order.Loads,
            Booked = Booked ?? order.Booked,
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
            && (!Reading.Sources.Intersect(last.Reading.Sources).Any() || Completes(last.Reading, Reading));
        return isOneSet ? Reading.Join(order.Readings[^1].Reading, Reading) : Reading;
    }

    // What the firmware shows is typed first, what the system shows after it: one tells what the other does not.
    private static bool Completes(Reading a, Reading b) =>
        a.Sources is [Source.Eyes]
        && b.Sources is [Source.Eyes]
        && !(a.Memory.InstalledBytes is not null && b.Memory.InstalledBytes is not null)
        && !(a.Memory.UsableBytes is not null && b.Memory.UsableBytes is not null)
        && !a.Memory.Slots.Select(s => s.Locator).Intersect(b.Memory.Slots.Select(s => s.Locator)).Any()
        && !(a.Memory.Slots.Count > 0 && b.Memory.Slots.Count > 0)
        && !Places(a).Intersect(Places(b)).Any();

    private static IEnumerable<string?> Places(Reading r) => r.Drives.Select(d => d.Bay).Concat(r.EmptyBays);

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

/// <summary>Somebody looked: the reading is of this machine, whatever speaks against it.</summary>
/// <param name="Reading">Its sequence.</param>
public sealed record ReadingVouched(int Reading, string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.VouchReading;

    public override string Line(Guide? guide) => $"The before reading is of this machine – {Reason}";

    internal override Order Apply(Order order, Entry entry) => order with { Vouched = order.Vouched.Add(Reading) };
}

/// <summary>What a benchmark said.</summary>
public sealed record ScoresTaken(Phase Phase, IReadOnlyList<Score> Scores, string? Note) : EntryBody
{
    public override OrderAct Act => OrderAct.TakeScores;

    public override string Line(Guide? guide) =>
        $"Scores {Phase.Spoken()}: {string.Join(", ", Scores)}{Phrases.Added(Note)}";

    internal override Order Apply(Order order, Entry entry) => order with { ScoresTold = order.ScoresTold.Add(this) };
}

/// <summary>
/// Readings, invitations to send one, and scores. Each rule gives the entry to append, or refuses with the reason
/// and the way on.
/// </summary>
public static class MeasureRules
{
    /// <summary>The longest that a code stays open.</summary>
    public static readonly TimeSpan LongestInvite = TimeSpan.FromHours(24);

    private const int MostScores = 50;

    /// <summary>A reading is taken. The after reading wants every step of the run confirmed.</summary>
    /// <param name="photo">A picture of what was seen by eye.</param>
    /// <param name="booked">Serials of the stock items that are set aside for the order or fitted, by position.</param>
    public static ReadingTaken TakeReading(
        Order order,
        Guide guide,
        Phase phase,
        Reading reading,
        string? capture,
        string? note,
        string? photo = null,
        IReadOnlyDictionary<string, string>? booked = null
    )
    {
        return new ReadingTaken(
            phase,
            InItsBay(guide, OfThisMachine(order, reading)),
            capture,
            Words.Text("The note", note),
            photo,
            Booked: phase == Phase.Before || booked is not { Count: > 0 } ? null : booked
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
    /// A machine may send one reading of this phase; an earlier code of the phase opens nothing any more.
    /// </summary>
    public static ReadingInvited Invite(Phase phase, string codeHash, DateTimeOffset now, TimeSpan open)
    {
        return open > TimeSpan.Zero && open <= LongestInvite
            ? new ReadingInvited(phase, codeHash, now + open)
            : throw RefusedException.Invalid("invite-time", "A code is open from one minute to 24 hours.");
    }

    /// <summary>The machine's own reading, by a code that fits.</summary>
    public static ReadingTaken TakeInvited(
        Order order,
        Guide guide,
        Invite invite,
        Reading reading,
        string capture,
        IReadOnlyDictionary<string, string>? booked = null
    ) =>
        order.Invites.Contains(invite)
            ? TakeReading(order, guide, invite.Phase, reading, capture, null, booked: booked) with
            {
                Invite = invite.Sequence,
            }
            : throw RefusedException.Rule("invite-used", "This code was used already. Ask for another.");

    /// <summary>Somebody says that a doubted before reading is right, and why.</summary>
    public static ReadingVouched Vouch(Order order, string? reason) =>
        new(order.Before!.Sequence, Words.RequiredText("The reason", reason));

    /// <summary>Figures of a benchmark or of load are kept for this phase.</summary>
    /// <exception cref="RefusedException">None, too many, or one of them twice.</exception>
    public static ScoresTaken TakeScores(Order order, Phase phase, IReadOnlyList<Score> scores, string? note)
    {
        if (phase == Phase.During)
        {
            throw RefusedException.Invalid("score-phase", "Scores are of before or after.");
        }

        var told = scores
            .Select(s =>
                s with
                {
                    Name = Words.RequiredLine("The score's name", s.Name),
                    Unit = Words.RequiredLine("The unit", s.Unit),
                }
            )
            .ToArray();
        if (
            told.Length is 0 or > MostScores
            || told.DistinctBy(s => (s.Name, s.Unit)).Count() < told.Length
            || told.Any(s => Math.Abs(s.Value) > 1_000_000_000_000m)
        )
        {
            throw RefusedException.Invalid(
                "scores-impossible",
                $"Give 1 to {MostScores} scores, each name and unit once, within a million millions."
            );
        }

        if (
            told.FirstOrDefault(s =>
                order
                    .Scores(Phase.Before)
                    .Concat(order.Scores(Phase.After))
                    .Any(o => (o.Name, o.Unit) == (s.Name, s.Unit) && o.HigherIsBetter != s.HigherIsBetter)
            ) is
            { } turned
        )
        {
            throw RefusedException.Invalid(
                "score-turned",
                $"{turned.Name} was told the other way round before: is higher better, or lower?"
            );
        }

        return new ScoresTaken(phase, told, Words.Text("The note", note));
    }
}
