using System.Collections.Immutable;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>Where an order stands, in the order in which it moves.</summary>
public enum Stage
{
    TakenIn,
    Measured,
    Planned,
    Agreed,
    OnBench,
    Checking,
    Watching,
    Ready,
    HandedBack,
    Parked,
    Cancelled,
}

/// <summary>One time at the bench: the plan carried out, or modules seated anew.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Reseat">The slots to seat anew; empty for the run of the plan.</param>
public sealed record Run(
    int Number,
    IReadOnlyList<string> Reseat,
    string? Reason,
    ImmutableList<StepConfirmation> Done,
    ImmutableList<GateWaiver> Waivers,
    ImmutableList<BenchFind> Found,
    ImmutableList<StepBlocked> Blocked
)
{
    public static Run Begin(int number, IReadOnlyList<string> reseat, string? reason) =>
        new(number, reseat, reason, [], [], [], []);
}

/// <summary>A picture that was taken of the machine.</summary>
/// <param name="Hash">Under which it is kept.</param>
public sealed record Photo(
    string Hash,
    int Width,
    int Height,
    string? Step,
    string? Caption,
    string By,
    DateTimeOffset At
);

/// <summary>A code by which the machine itself may send one reading.</summary>
/// <param name="Sequence">Of the entry that made it.</param>
/// <param name="By">Who asked for it.</param>
public sealed record Invite(int Sequence, Phase Phase, string CodeHash, DateTimeOffset Until, string By);

/// <summary>A swap test that runs.</summary>
/// <param name="From">The stage to which the order goes back at its end.</param>
public sealed record SwapProgress(SwapSetup Setup, ImmutableList<SwapTrial> Trials, Stage From)
{
    private SwapState? state;

    /// <summary>Where it stands, and what to try next.</summary>
    public SwapState State => state ??= SwapTest.Of(Setup, Trials);
}

/// <summary>A swap test that ended.</summary>
/// <param name="Restarts">How many arrangements it took.</param>
public sealed record SwapResult(
    int Sequence,
    SwapConclusion? Conclusion,
    string? Note,
    int Restarts,
    string By,
    DateTimeOffset At
);

/// <summary>One day of a watch.</summary>
public sealed record WatchNote(WatchSign Sign, DateOnly On, string? Text, string By, DateTimeOffset At);

/// <summary>A machine that is watched for a fault.</summary>
/// <param name="From">The stage to which the order goes back when it did not come back.</param>
/// <param name="Outcome">Null while it goes on.</param>
public sealed record Watch(
    string For,
    DateTimeOffset BeganAt,
    DateTimeOffset Until,
    int EveryDays,
    ImmutableList<WatchNote> Notes,
    Stage From,
    WatchOutcome? Outcome,
    string? Text
)
{
    /// <summary>The day to ask again.</summary>
    public DateOnly DueOn =>
        (Notes.Count > 0 ? Notes.Max(n => n.On) : DateOnly.FromDateTime(BeganAt.UtcDateTime)).AddDays(EveryDays)
            is var next
        && DateOnly.FromDateTime(Until.UtcDateTime) is var last
        && next < last
            ? next
            : last;
}

/// <summary>An order: the fold of its entries, and nothing else.</summary>
/// <param name="Head">The sequence of its last entry.</param>
/// <param name="Variant">Which build it is, where that is known.</param>
/// <param name="Copy">What became of the boot drive's data; null before anybody said.</param>
/// <param name="Discount">In percent, given with the plan.</param>
/// <param name="Offered">The quote that a link shows now; null where none is open.</param>
/// <param name="Declined">The customer's no to the plan as it stands.</param>
/// <param name="Copies">Of drives that are replaced, in the order in which they were begun.</param>
/// <param name="Settled">What became of parts that came out.</param>
/// <param name="Resting">The stage that a parked order goes back to; null when it is not parked.</param>
/// <param name="Reason">Why it is parked or cancelled.</param>
public sealed record Order(
    int Number,
    int Head,
    Stage Stage,
    Intake Intake,
    string Model,
    int Revision,
    string? Variant,
    CopyTold? Copy,
    ImmutableList<Photo> Photos,
    Recorded<Reading>? Before,
    Recorded<Plan>? Plan,
    decimal Discount,
    LaterStage? Later,
    QuoteOffered? Offered,
    QuoteDeclined? Declined,
    PlanAgreed? Agreed,
    ImmutableList<DriveCopy> Copies,
    ImmutableList<OldPartSettled> Settled,
    ImmutableList<Run> Runs,
    Recorded<Reading>? After,
    Stage? Resting,
    string? Reason,
    DateTimeOffset TakenInAt,
    DateTimeOffset ChangedAt,
    string ChangedBy
)
{
    /// <summary>Who agreed to the plan on the customer's side; null while nobody did.</summary>
    public string? AgreedBy => Agreed?.Customer;

    /// <summary>All readings, oldest first.</summary>
    public ImmutableList<TimedReading> Readings { get; init; } = [];

    /// <summary>Codes that are not used yet; they may be too old.</summary>
    public ImmutableList<Invite> Invites { get; init; } = [];

    public ImmutableList<ScoresTaken> ScoresTold { get; init; } = [];

    /// <summary>The swap test that runs; null when none does.</summary>
    public SwapProgress? Swap { get; init; }

    public ImmutableList<SwapResult> SwapResults { get; init; } = [];

    public Watch? Watch { get; init; }

    /// <summary>The scores of one side, the latest of each name.</summary>
    public IReadOnlyList<Score> Scores(Phase phase) =>
        [
            .. ScoresTold
                .Where(s => s.Phase == phase)
                .SelectMany(s => s.Scores)
                .GroupBy(s => (s.Name, s.Unit))
                .Select(g => g.Last()),
        ];

    /// <summary>What the check looks at: the after reading, or what was read with the case open in this run.</summary>
    public Recorded<Reading>? Checked =>
        Stage == Stage.OnBench
        && Readings is [.., { Phase: Phase.During } open]
        && (After is null || open.Sequence > After.Sequence)
            ? new(open.Reading, open.Sequence)
            : After;

    /// <summary>Before, planned and seen; null before there is something to compare.</summary>
    public CheckResult? Check(Guide guide) =>
        this is { Before: { } before, Plan: { } plan, Checked: { } seen }
            ? Checker.Check(guide, before, plan, seen, History)
            : null;

    // Sources asked right after each other, with nothing done in between, tell of one state: they are one set.
    private static readonly TimeSpan OneSet = TimeSpan.FromMinutes(15);

    private Reading InSet(Entry entry, ReadingTaken taken) =>
        Readings is [.., { } last]
        && last.Phase == taken.Phase
        && last.Sequence == Head
        && entry.At - last.At <= OneSet
        && !taken.Reading.Sources.Intersect(last.Reading.Sources).Any()
            ? Reading.Join(last.Reading, taken.Reading)
            : taken.Reading;

    private CheckHistory History =>
        new(
            Runs.SelectMany(r => r.Done)
                .Where(d =>
                    d.Step.StartsWith("fit.", StringComparison.Ordinal)
                    || d.Step.StartsWith("pull.", StringComparison.Ordinal)
                )
                .Select(d => (DateTimeOffset?)d.At)
                .Max(),
            Readings,
            [.. Runs.SelectMany(r => r.Reseat).Distinct()]
        );

    public bool IsOpen => Stage is not (Stage.HandedBack or Stage.Cancelled);

    /// <summary>The run that counts now: the last one begun, or the plan's before its first step.</summary>
    public Run? Run => Runs.Count > 0 ? Runs[^1] : null;

    /// <summary>The steps of the run that counts now; null before there is a plan.</summary>
    /// <param name="guide">The facts of this build.</param>
    /// <param name="expectation">What is expected of the plan, where that is computed already.</param>
    public RunSheet? Sheet(Guide guide, Expectation? expectation = null)
    {
        if (Plan is not { Value: var plan } || Before is not { Value: var before })
        {
            return null;
        }

        var expected = (expectation ?? Expectation.Of(guide, before, plan)).Installed;
        return Run is { Reseat.Count: > 0 } again
            ? RunSheetBuilder.ForReseat(guide, plan, again.Reseat, expected)
            : RunSheetBuilder.ForPlan(guide, plan, expected);
    }

    /// <summary>All that its gates look at.</summary>
    public RunState RunState =>
        new(
            Run?.Done ?? [],
            Run?.Waivers ?? [],
            Run?.Found ?? [],
            Run?.Blocked ?? [],
            Intake.SealConsent == SealConsent.Given,
            Copy is not null || Intake.Backup == Backup.Waived
        );

    /// <summary>Folds a whole journal.</summary>
    /// <param name="entries">Of one order, by sequence from 1; at least one.</param>
    public static Order Fold(IEnumerable<Entry> entries) =>
        entries.Aggregate((Order?)null, (order, entry) => order is null ? Begin(entry) : order.Apply(entry))
        ?? throw new ArgumentException("An order has at least one entry.", nameof(entries));

    /// <summary>The order after one more entry.</summary>
    public Order Apply(Entry entry)
    {
        // Joined with what was asked right before it; the last of the readings, whatever else it does to the order.
        var read = entry.Body is ReadingTaken taken
            ? new TimedReading(entry.Sequence, taken.Phase, entry.At, InSet(entry, taken))
            : null;
        var next = entry.Body switch
        {
            ReadingTaken { Phase: Phase.During } => this,
            ReadingTaken { Phase: Phase.Before } => WithoutPlan() with
            {
                Stage = Stage.Measured,
                Before = new Recorded<Reading>(read!.Reading, entry.Sequence),
            },
            ReadingTaken => this with
            {
                Stage = Stage.Checking,
                After = new Recorded<Reading>(read!.Reading, entry.Sequence),
            },
            PlanSet p => WithoutPlan() with
            {
                Stage = Stage.Planned,
                Plan = new Recorded<Plan>(p.Plan, entry.Sequence),
                Discount = p.Discount,
                Later = p.Later,
            },
            PlanAgreed a => this with { Stage = Stage.Agreed, Agreed = a, Offered = null, Declined = null },
            QuoteOffered o => this with { Offered = o, Declined = null },
            QuoteRevoked => this with { Offered = null },
            QuoteDeclined d => this with { Offered = null, Declined = d },
            CopyBegun c => this with
            {
                Copies = Copies
                    .RemoveAll(d => d.Bay == c.Bay)
                    .Add(
                        new DriveCopy(
                            c.Bay,
                            c.Source,
                            c.Target,
                            c.Method,
                            c.Size,
                            [new CopyPoint(default, entry.At)],
                            null,
                            null
                        )
                    ),
            },
            CopyAdvanced c => OnCopy(c.Bay, d => d with { Points = d.Points.Add(new CopyPoint(c.Done, entry.At)) }),
            CopyVerified v => (
                v.IsGood ? this with { Copy = new CopyTold(CopyState.Verified, EntryWords.Say(v)) } : this
            ).OnCopy(v.Bay, d => d with { Verified = v, VerifiedAt = entry.At }),
            OldPartSettled s => this with { Settled = Settled.RemoveAll(o => o.Position == s.Position).Add(s) },
            VariantTold v => v.PlanDropped
                ? WithoutPlan() with
                {
                    Variant = v.Variant,
                    Stage = Stage.Measured,
                }
                : this with
                {
                    Variant = v.Variant,
                },
            SealTold s => this with { Intake = Intake with { SealConsent = s.Consent } },
            CopyTold c => this with { Copy = c },
            StepConfirmed s => (this with { Stage = Stage.OnBench }).OnRun(
                s.Run,
                r =>
                    r with
                    {
                        Done = r.Done.Add(
                            new StepConfirmation(
                                s.Step,
                                entry.By,
                                entry.At,
                                s.Fasteners,
                                s.Explanation,
                                s.Note,
                                s.Holes,
                                s.Groups,
                                s.Occupants,
                                s.Seen,
                                s.Deviation
                            )
                        ),
                        Blocked = r.Blocked.RemoveAll(b => b.Step == s.Step),
                    }
            ),
            StepTakenBack t => OnRun(t.Run, r => r with { Done = r.Done.RemoveAll(d => d.Step == t.Step) }),
            GateWaived w => OnRun(
                w.Run,
                r => r with { Waivers = r.Waivers.Add(new GateWaiver(w.Gate, w.Step, w.Reason, entry.By, entry.At)) }
            ),
            StepImpossible i => OnRun(
                i.Run,
                r =>
                    r with
                    {
                        Blocked = r
                            .Blocked.RemoveAll(b => b.Step == i.Step)
                            .Add(new StepBlocked(i.Step, i.Reason, entry.By, entry.At)),
                    }
            ),
            FoundInside f => OnRun(
                f.Run,
                r => r with { Found = r.Found.Add(new BenchFind(f.Kind, f.Step, f.Text, entry.By, entry.At)) }
            ),
            PhotoTaken p => this with
            {
                Photos = Photos.Add(new Photo(p.Photo, p.Width, p.Height, p.Step, p.Caption, entry.By, entry.At)),
            },
            ReseatBegun b => this with
            {
                Stage = Stage.OnBench,
                Runs = Runs.Add(Orders.Run.Begin(Runs.Count + 1, b.Slots, b.Reason)),
            },
            ReadingInvited i => this with
            {
                Invites = Invites
                    .RemoveAll(o => o.Phase == i.Phase)
                    .Add(new Invite(entry.Sequence, i.Phase, i.CodeHash, i.Until, entry.By)),
            },
            ScoresTaken s => this with { ScoresTold = ScoresTold.Add(s) },
            SwapTestBegun b => this with { Stage = Stage.Checking, Swap = new SwapProgress(b.Setup, [], Stage) },
            SwapTried t => this with { Swap = new SwapProgress(Swap!.Setup, Swap.Trials.Add(t.Trial), Swap.From) },
            SwapTestEnded e => this with
            {
                Stage = Swap!.From,
                Swap = null,
                SwapResults = SwapResults.Add(
                    new SwapResult(entry.Sequence, e.Conclusion, e.Note, Swap!.Trials.Count, entry.By, entry.At)
                ),
            },
            WatchBegun w => this with
            {
                Stage = Stage.Watching,
                Watch = new Watch(w.For, entry.At, w.Until, w.EveryDays, [], Stage, null, null),
            },
            WatchNoted w => this with
            {
                Watch = Watch! with
                {
                    Notes = Watch.Notes.Add(new WatchNote(w.Sign, w.On, w.Text, entry.By, entry.At)),
                },
            },
            WatchEnded w => this with
            {
                Stage = w.Outcome == WatchOutcome.CameBack ? Stage.Checking : Watch!.From,
                Watch = Watch! with { Outcome = w.Outcome, Text = w.Text },
            },
            MarkedReady => this with { Stage = Stage.Ready },
            Orders.HandedBack => this with { Stage = Stage.HandedBack },
            Orders.Parked p => this with { Stage = Stage.Parked, Resting = Stage, Reason = p.Reason },
            Resumed => this with { Stage = Resting ?? Stage, Resting = null, Reason = null },
            Orders.Cancelled c => this with { Stage = Stage.Cancelled, Reason = c.Reason },
            _ => this,
        };
        if (read is not null)
        {
            next = next with
            {
                Readings = next.Readings.Add(read),
                Invites = next.Invites.RemoveAll(i => i.Sequence == ((ReadingTaken)entry.Body).Invite),
            };
        }

        return next with
        {
            Head = entry.Sequence,
            ChangedAt = entry.At,
            ChangedBy = entry.By,
        };
    }

    private static Order Begin(Entry entry) =>
        entry.Body is TakenIn t
            ? new Order(
                entry.Order,
                entry.Sequence,
                Stage.TakenIn,
                t.Intake,
                t.Model,
                t.Revision,
                t.Variant,
                null,
                [],
                null,
                null,
                0,
                null,
                null,
                null,
                null,
                [],
                [],
                [],
                null,
                null,
                null,
                entry.At,
                entry.At,
                entry.By
            )
            : throw new InvalidDataException($"The journal of order {entry.Order} does not begin with its take-in.");

    private Order WithoutPlan() =>
        this with
        {
            Plan = null,
            Discount = 0,
            Later = null,
            Offered = null,
            Declined = null,
            Agreed = null,
        };

    private Order OnCopy(string bay, Func<DriveCopy, DriveCopy> change) =>
        this with
        {
            Copies = [.. Copies.Select(c => c.Bay == bay ? change(c) : c)],
        };

    // A run exists from the first thing that is said of it.
    private Order OnRun(int number, Func<Run, Run> change) =>
        this with
        {
            Runs =
                Run is { } run && run.Number == number
                    ? Runs.SetItem(Runs.Count - 1, change(run))
                    : Runs.Add(change(Orders.Run.Begin(number, [], null))),
        };
}
