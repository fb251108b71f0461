using System.Collections.Immutable;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>An order: the fold of its entries, and nothing else.</summary>
public sealed record Order
{
    /// <summary>Short enough to say aloud.</summary>
    public required int Number { get; init; }

    /// <summary>The sequence of its last entry.</summary>
    public required int Head { get; init; }

    /// <summary>Where it stands; a parked one keeps where it goes on in <see cref="Resting"/>.</summary>
    public required Stage Stage { get; init; }

    /// <summary>As it was written down over the counter.</summary>
    public required Intake Intake { get; init; }

    /// <summary>The guide's code.</summary>
    public required string Model { get; init; }

    /// <summary>The guide's revision that the order keeps.</summary>
    public required int Revision { get; init; }

    /// <summary>When the machine came in.</summary>
    public required DateTimeOffset TakenInAt { get; init; }

    /// <summary>When it went back to the customer; null while it is here.</summary>
    public DateTimeOffset? HandedBackAt { get; init; }

    /// <summary>The reports that were made of it, oldest first.</summary>
    public ImmutableList<MadeReport> Reports { get; init; } = [];

    /// <summary>The link by which the customer reads the last of them; null where none was made.</summary>
    public ReportOffered? ReportLink { get; init; }

    /// <summary>Extra work that was agreed beside the quote, oldest first.</summary>
    public ImmutableList<Extra> Extras { get; init; } = [];

    /// <summary>The invoices that were made of it, oldest first; those that were reversed too.</summary>
    public ImmutableList<MadeInvoice> Invoices { get; init; } = [];

    /// <summary>The invoice that stands; null for none.</summary>
    public MadeInvoice? Invoice => Invoices is [.., { Reversed: null } last] ? last : null;

    /// <summary>Money that changed hands, oldest first.</summary>
    public ImmutableList<Payment> Payments { get; init; } = [];

    /// <summary>When the last entry was recorded.</summary>
    public required DateTimeOffset ChangedAt { get; init; }

    /// <summary>Who recorded the last entry, by id.</summary>
    public required string ChangedBy { get; init; }

    /// <summary>Which build it is, where that is known.</summary>
    public string? Variant { get; init; }

    /// <summary>The batch that it is of, by the number of its first order; null where it goes its own way.</summary>
    public int? Batch { get; init; }

    /// <summary>Who has it in hand, by id; null for nobody.</summary>
    public string? Owner { get; init; }

    /// <summary>What was handed over with it in words and not read yet; null for nothing.</summary>
    public HandOver? HandOver { get; init; }

    /// <summary>Where it lies, as it is written there; null where nobody said.</summary>
    public string? Place { get; init; }

    /// <summary>By when the customer was promised it; null where nothing was.</summary>
    public DateTimeOffset? PromisedAt { get; init; }

    /// <summary>What became of the boot drive's data; null before anybody said.</summary>
    public CopyTold? Copy { get; init; }

    /// <summary>Pictures taken on it, oldest first.</summary>
    public ImmutableList<Photo> Photos { get; init; } = [];

    /// <summary>Notes by the sequence of their entry.</summary>
    public ImmutableSortedDictionary<int, NoteSaid> Notes { get; init; } =
        ImmutableSortedDictionary<int, NoteSaid>.Empty;

    /// <summary>The reading that the plan starts from; the newest counts.</summary>
    public Recorded<Reading>? Before { get; init; }

    /// <summary>The plan that stands.</summary>
    public Recorded<Plan>? Plan { get; init; }

    /// <summary>The plan that was carried out before it was mended; null where it never was.</summary>
    public Plan? Carried { get; init; }

    /// <summary>What the customer had agreed to before the plan was mended.</summary>
    public PlanAgreed? AgreedBefore { get; init; }

    /// <summary>Whether a change of what was fitted is planned, and no hand was on it yet.</summary>
    public bool MendWaits => Run is { Mends: true, Done.IsEmpty: true };

    /// <summary>The plan by which the machine stands now.</summary>
    public Plan Fitted => MendWaits ? Carried! : Plan!.Value;

    /// <summary>In percent, given with the plan.</summary>
    public decimal Discount { get; init; }

    /// <summary>What is left for the machine's next visit: by the plan, or noted by itself.</summary>
    public LaterVisit? Later { get; init; }

    /// <summary>The same where it stands without the plan: a new plan leaves it.</summary>
    internal LaterVisit? Noted => Later is { Stage: null } ? Later : null;

    /// <summary>The quote that a link shows now; null where none is open.</summary>
    public QuoteOffered? Offered { get; init; }

    /// <summary>When that link was made.</summary>
    public DateTimeOffset? OfferedAt { get; init; }

    /// <summary>Who made it; also once it was answered.</summary>
    public string? OfferedBy { get; init; }

    /// <summary>The customer's no to the plan as it stands.</summary>
    public QuoteDeclined? Declined { get; init; }

    /// <summary>The customer's yes; null before it.</summary>
    public PlanAgreed? Agreed { get; init; }

    /// <summary>Of drives that are replaced, in the order in which they were begun.</summary>
    public ImmutableList<DriveCopy> Copies { get; init; } = [];

    /// <summary>What became of parts that came out.</summary>
    public ImmutableList<OldPartSettled> Settled { get; init; } = [];

    /// <summary>Where the bag of what came out lies, by position.</summary>
    public ImmutableDictionary<string, string> Bagged { get; init; } = ImmutableDictionary<string, string>.Empty;

    /// <summary>Its runs, oldest first; a reseat begins another.</summary>
    public ImmutableList<Run> Runs { get; init; } = [];

    /// <summary>The newest reading after the run.</summary>
    public Recorded<Reading>? After { get; init; }

    /// <summary>The stage that a parked order goes back to; null when it is not parked.</summary>
    public Stage? Resting { get; init; }

    /// <summary>Since when it rests and what wakes it; null where it does not rest.</summary>
    public Parking? Parking { get; init; }

    /// <summary>Why it is parked or cancelled.</summary>
    public string? Reason { get; init; }

    /// <summary>When a parked order is to be taken up again; null where nobody said.</summary>
    public DateTimeOffset? ParkedUntil { get; init; }

    /// <summary>All readings, oldest first.</summary>
    public ImmutableList<TimedReading> Readings { get; init; } = [];

    /// <summary>Before readings that somebody vouched for, by sequence.</summary>
    public ImmutableList<int> Vouched { get; init; } = [];

    /// <summary>Serials of the stock items that are set aside for it or fitted, by position.</summary>
    public IReadOnlyDictionary<string, string>? Booked { get; init; }

    /// <summary>Codes that are not used yet; they may be too old.</summary>
    public ImmutableList<Invite> Invites { get; init; } = [];

    /// <summary>Loads that were watched, oldest first.</summary>
    public ImmutableList<WatchedLoad> Loads { get; init; } = [];

    /// <summary>The customer's own kind of work: asked for, and run.</summary>
    public Trial Trial { get; init; } = Trial.None;

    /// <summary>How much memory it should have, from what was in use; null where nothing tells.</summary>
    public SizeAdvice? Advice =>
        Before is { Value: var read }
            ? Sizing.Of(read, Loads.Where(l => l.Phase == Phase.Before).Select(l => l.Series))
            : null;

    /// <summary>What was installed in this phase, in bytes; null where it was not read.</summary>
    public long? InstalledAt(Phase phase) =>
        (phase == Phase.Before ? Before : After)?.Value.Memory is { } memory
            ? memory.InstalledBytes ?? memory.UsableBytes
            : null;

    /// <summary>Scores of both phases, oldest first.</summary>
    public ImmutableList<ScoresTaken> ScoresTold { get; init; } = [];

    /// <summary>The swap test that runs; null when none does.</summary>
    public SwapProgress? Swap { get; init; }

    /// <summary>Fasteners out and back while arrangements were tried, each as a run of its own.</summary>
    public ImmutableList<RunState> SwapCounts { get; init; } = [];

    /// <summary>Swap tests that were ended, oldest first.</summary>
    public ImmutableList<SwapResult> SwapResults { get; init; } = [];

    /// <summary>The last watch; null where there was none.</summary>
    public Watch? Watch { get; init; }

    /// <summary>Holds that a lead released, oldest first.</summary>
    public ImmutableList<ReleasedHold> Released { get; init; } = [];

    /// <summary>What was seen of slots and bays that a sketch did not know, oldest first.</summary>
    public ImmutableList<SeenPosition> Seen { get; init; } = [];

    /// <summary>
    /// The most that it was accepted with, beyond what anybody stated or proved; null where it was not.
    /// </summary>
    public MemorySize? Proved { get; init; }

    /// <summary>The check as it was accepted; null before that, and once it is measured anew.</summary>
    public AcceptedCheck? Accepted { get; init; }

    /// <summary>Whether a watch runs.</summary>
    public bool Watches => Watch is { Outcome: null };

    /// <summary>Who agreed to the plan on the customer's side; null while nobody did.</summary>
    public string? AgreedBy => Agreed?.Customer;

    /// <summary>Neither handed back nor cancelled.</summary>
    public bool IsOpen => Stage is not (Stage.HandedBack or Stage.Cancelled);

    /// <summary>Where it stands, or stood before it was parked.</summary>
    public Stage WorkStage => Resting ?? Stage;

    /// <summary>The run that counts now: the last one begun, or the plan's before its first step.</summary>
    public Run? Run => Runs.Count > 0 ? Runs[^1] : null;

    /// <summary>The scores of one side, the latest of each name.</summary>
    public IReadOnlyList<Score> Scores(Phase phase) =>
        [
            .. ScoresTold
                .Where(s => s.Phase == phase)
                .SelectMany(s => s.Scores)
                .GroupBy(s => (s.Name, s.Unit))
                .Select(g => g.Last()),
        ];

    /// <summary>What left the machine for good so far, by what was confirmed.</summary>
    public IReadOnlyList<LeavingPart> CameOut(Guide guide) =>
        [.. (Plan?.Value.ComesOut ?? []).Where(o => TakenOut(guide, o.Position) is not null)];

    /// <summary>The step in which what leaves this position for good came out; null while it is inside.</summary>
    internal StepConfirmation? TakenOut(Guide guide, string position)
    {
        // What stayed until the plan was mended comes out in the run after that.
        var isLate = Carried?.ComesOut.All(c => c.Position != position) == true;
        var place = (isLate ? Carried!.Slots.FirstOrDefault(s => s.From == position)?.Slot : null) ?? position;
        return Runs.Where(r => !isLate || r.Mends)
            .SelectMany(r => r.Done)
            .FirstOrDefault(d => d.Deviation != Deviation.Skipped && TakesOut(d.Step));

        bool TakesOut(StepId step) =>
            step == StepId.Pull(place)
            || step == StepId.Fit(place)
            || guide.Removals.Any(r => r.TakesOut.Contains(place) && step == StepId.Open(r.Id));
    }

    /// <summary>What came out and of which nobody said yet what becomes of it.</summary>
    public IReadOnlyList<LeavingPart> FatesOpen(Guide guide) =>
        [.. CameOut(guide).Where(o => Settled.All(s => s.Position != o.Position))];

    /// <summary>The parts that its plan takes from the catalogue and that may still have to come.</summary>
    public IReadOnlyList<PartWish> PartsWanted =>
        Plan is { } plan && WorkStage is Stage.Planned or Stage.Agreed or Stage.OnBench
            ? StockEffects.Wishes(plan.Value)
            : [];

    /// <summary>What speaks against its before reading and nobody answered: nothing is planned from it.</summary>
    /// <param name="guide">The facts of this build.</param>
    public IReadOnlyList<string> Doubts(Guide guide) =>
        Before is { } before && !Vouched.Contains(before.Sequence)
            ? ReadingDoubts.Of(guide, Intake.Serial, before.Value)
            : [];

    /// <summary>How long the first run took, from its first step to its last; null before it had two.</summary>
    public int? RunMinutes =>
        Runs is [{ Done: [_, _, ..] done }, ..]
            ? Math.Max(1, (int)Math.Round((done.Max(d => d.At) - done.Min(d => d.At)).TotalMinutes))
            : null;

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
            ? Checker.Check(guide, before, plan, seen, History(guide))
            : null;

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
        var sheet = Run is { Reseat.Count: > 0 } again
            ? RunSheetBuilder.ForReseat(guide, plan, again.Reseat, expected, DoneBefore, again.Sat, again.Way)
            : RunSheetBuilder.ForPlan(guide, plan, expected, Run?.Way);
        // After the first run other drives may sit there than were read before it.
        return Runs.Count > 1 ? sheet : sheet.Offering(ReadBefore(guide, before));
    }

    private static Dictionary<string, string> ReadBefore(Guide guide, Reading before) =>
        DrivePlaces
            .Of(guide, before)
            .Where(d => d is { Bay: not null, Drive.Serial: not null })
            .DistinctBy(d => d.Bay)
            .Select(d => (d.Bay!, d.Drive.Serial!))
            .Concat(before.EmptyBays.Select(bay => (bay, BayMap.Empty)))
            .DistinctBy(o => o.Item1)
            .ToDictionary();

    /// <summary>Whether somebody confirmed that this position was filled.</summary>
    internal bool WasFitted(string position) =>
        Runs.SelectMany(r => r.Done).Any(d => d.Step == StepId.Fit(position) && d.Deviation != Deviation.Skipped);

    /// <summary>Whether the plan promised a cleaning that no run did.</summary>
    internal bool OwesCleaning =>
        Plan is { Value.Cleans: true }
        && !Runs.SelectMany(r => r.Done).Any(d => d.Step == StepId.Clean && d.Deviation != Deviation.Skipped);

    private IReadOnlyCollection<StepId> DoneBefore =>
        [.. Runs.SkipLast(1).SelectMany(r => r.Done).Where(d => d.Deviation != Deviation.Skipped).Select(d => d.Step)];

    /// <summary>
    /// What the after reading waits for: how many steps at the machine are not settled, and the title of the next; null
    /// before there is a plan. What sets a drive up may come after it: a drive that is listed but raw is then seen.
    /// </summary>
    /// <param name="guide">The facts of this build.</param>
    public (int Left, string? Next)? StepsLeft(Guide guide) =>
        Sheet(guide) is { } sheet
            ? (
                sheet.Steps.Count(s => s.Part != RunPart.SetUp && !sheet.IsSettled(s, RunState)),
                sheet.Next(RunState)?.Title
            )
            : null;

    /// <summary>Whether all that this run took off is back on.</summary>
    /// <param name="guide">The facts of this build.</param>
    public bool IsClosed(Guide guide) =>
        Sheet(guide) is { } sheet
        && sheet.Steps.Where(s => s.Part <= RunPart.Close).All(s => sheet.IsSettled(s, RunState))
        && !Tally.Of(sheet, RunState).IsOpen;

    /// <summary>What was promised of a drive's set-up and is not confirmed.</summary>
    /// <param name="guide">The facts of this build.</param>
    public IReadOnlyList<RunStep> SetUpLeft(Guide guide) =>
        Sheet(guide) is { } sheet
            ? [.. sheet.Steps.Where(s => s.Part == RunPart.SetUp && !sheet.IsSettled(s, RunState))]
            : [];

    /// <summary>What comes off for the plan, by id, as past runs are compared by.</summary>
    public string WayIn(Guide guide) =>
        string.Join(
            ' ',
            Reach
                .To(guide, Plan!.Value.Touched, !Plan.Value.OnlyLooks, Runs.FirstOrDefault()?.Way.CameOff)
                .Select(r => r.Id)
        );

    /// <summary>What its last start showed that was not normal; null where nothing was.</summary>
    /// <param name="guide">The facts of this build.</param>
    public StartSign? SignOpen(Guide guide) => StartSigns.Open(guide, [.. Runs.Select(r => StateOf(r, null))]);

    /// <summary>All that the run's gates look at.</summary>
    public RunState RunState =>
        StateOf(Run, [.. Runs.Take(Runs.Count - 1).Select(r => StateOf(r, null)), .. SwapCounts]) with
        {
            SeenOpen = SeenOpen,
        };

    /// <summary>How many fasteners went back at the last closing, by removal.</summary>
    internal IReadOnlyDictionary<string, int> WentBack =>
        Runs.SelectMany(r => r.Done)
            .Where(d => d is { Step.Verb: StepVerb.Close, Fasteners: not null })
            .GroupBy(d => d.Step.Subject)
            .ToDictionary(g => g.Key, g => g.Last().Fasteners!.Value);

    /// <summary>With what was counted out and back between two starts.</summary>
    internal Order Counting(IReadOnlyList<SwapCount>? counts, Entry entry) =>
        counts is null
            ? this
            : this with
            {
                SwapCounts = SwapCounts.Add(
                    RunState.Of([
                        .. counts.SelectMany(c =>
                            new[]
                            {
                                new StepConfirmation(StepId.Open(c.Removal), entry.By, entry.At, c.Out),
                                new StepConfirmation(StepId.Close(c.Removal), entry.By, entry.At, c.Back),
                            }
                        ),
                    ])
                ),
            };

    private MemorySize? SeenOpen =>
        Run?.Done.Where(d => d.Step.MovesParts).Max(d => (DateTimeOffset?)d.At) is { } moved
        && Readings.LastOrDefault(r => r.Phase == Phase.During && r.At >= moved)
            is { Reading.Memory.InstalledBytes: >= 0 and { } bytes }
            ? new MemorySize(bytes)
            : null;

    private RunState StateOf(Run? run, IReadOnlyList<RunState>? earlier) =>
        new(
            run?.Done ?? [],
            run?.Waivers ?? [],
            run?.Found ?? [],
            run?.Blocked ?? [],
            Intake.SealConsent == SealConsent.Given,
            CopyWord,
            earlier
        );

    // What the intake says of a backup promises nothing: the plan does.
    private CopyWord CopyWord =>
        new(
            Copy?.Copy == CopyState.Waived,
            Copy?.Copy == CopyState.Verified,
            Copies.Where(c => c.Verified is not null).ToDictionary(c => c.Bay, c => c.Verified!.IsGood)
        );

    /// <summary>Bays whose data the plan promised to carry over, and whose copy is not verified.</summary>
    public IReadOnlyList<string> CopiesOwed =>
        [.. (Plan?.Value.Bays ?? []).Where(b => b.CopiesFirst && !CopyWord.Secures(b.Bay)).Select(b => b.Bay)];

    private DateTimeOffset? HandsLastIn =>
        Runs.SelectMany(r => r.Done).Where(d => d.Step.MovesParts).Select(d => (DateTimeOffset?)d.At).Max();

    // What was tried before hands were in the machine again says nothing of it now.
    private TrialFact? TrialSaid
    {
        get
        {
            var run = Trial.Runs.LastOrDefault(r => !(r.At < HandsLastIn) && Trial.IsAnsweredBy(r));
            return (run?.Work ?? Trial.Asked) is { } work
                ? new TrialFact(
                    work,
                    run?.Outcome.Spoken(),
                    run?.Outcome == TrialOutcome.Failed,
                    run?.Outcome == TrialOutcome.AsWished,
                    run?.Note
                )
                : null;
        }
    }

    private CheckHistory History(Guide guide) =>
        new(
            HandsLastIn,
            Readings,
            [.. Runs.Where(r => !r.Mends).SelectMany(r => r.Reseat).Distinct()],
            Placed,
            RunState.Loose.GroupBy(l => l.Removal).ToDictionary(g => g.Key, g => g.Sum(l => l.Count)),
            CameBack is { } watch ? watch.Text ?? watch.For : null,
            Booked,
            Intake.Serial,
            SwapResults is [.., { Conclusion: { } found } last] && last.Sequence > After?.Sequence
                ? $"{found.Sentence} {found.Do}"
                : null,
            SignOpen(guide),
            TrialSaid
        );

    /// <summary>The watch in which the fault came back, where no search named a part since; else null.</summary>
    public Watch? CameBack => Watch is { Outcome: WatchOutcome.CameBack } back && !WasSearchedSince(back) ? back : null;

    // A search that named a part ends what a watch found; a new watch takes its place by itself.
    private bool WasSearchedSince(Watch watch) =>
        SwapResults is [.., { Conclusion: not null } last] && last.At > watch.EndedAt;

    // The last word counts: a drive may have gone back more than once.
    private Dictionary<string, string> Placed =>
        Runs.SelectMany(r => r.Done)
            .Where(d => d.Step.Verb == StepVerb.Fit && d.Occupants is not null)
            .SelectMany(d => d.Occupants!)
            .GroupBy(o => o.Key)
            .ToDictionary(g => g.Key, g => g.Last().Value);

    /// <summary>Folds a whole journal.</summary>
    /// <param name="entries">Of one order, by sequence from 1; at least one.</param>
    /// <exception cref="ArgumentException">There is none.</exception>
    /// <exception cref="InvalidDataException">The first is no take-in.</exception>
    public static Order Fold(IEnumerable<Entry> entries) =>
        entries.Aggregate((Order?)null, (order, entry) => order is null ? Begin(entry) : order.Apply(entry))
        ?? throw new ArgumentException("An order has at least one entry.", nameof(entries));

    /// <summary>The order after one more entry.</summary>
    public Order Apply(Entry entry) =>
        entry.Body.Apply(this, entry) with
        {
            Head = entry.Sequence,
            ChangedAt = entry.At,
            ChangedBy = entry.By,
        };

    /// <summary>As it would be with one more entry; nothing is recorded.</summary>
    public Order With(EntryBody body) => Apply(new Entry(Number, Head + 1, Guid.Empty, ChangedAt, ChangedBy, body));

    private static Order Begin(Entry entry) =>
        entry.Body is TakenIn t
            ? new Order
            {
                Number = entry.Order,
                Head = entry.Sequence,
                Stage = Stage.TakenIn,
                Intake = t.Intake,
                Model = t.Model,
                Revision = t.Revision,
                Variant = t.Variant,
                Batch = t.Intake.Batch?.Batch(entry.Order),
                Trial = Trial.None with { Asked = t.Intake.Trial },
                TakenInAt = entry.At,
                ChangedAt = entry.At,
                ChangedBy = entry.By,
            }
            : throw new InvalidDataException($"The journal of order {entry.Order} does not begin with its take-in.");

    /// <summary>At this stage; a parked order stays parked and goes back to it.</summary>
    internal Order Standing(Stage stage) =>
        Stage == Stage.Parked ? this with { Resting = stage } : this with { Stage = stage };

    /// <summary>As before anything was planned.</summary>
    internal Order WithoutPlan() =>
        this with
        {
            Plan = null,
            Discount = 0,
            Later = Noted,
            Offered = null,
            Declined = null,
            Agreed = null,
        };

    internal Order OnCopy(string bay, Func<DriveCopy, DriveCopy> change) =>
        this with
        {
            Copies = [.. Copies.Select(c => c.Bay == bay ? change(c) : c)],
        };

    /// <summary>With a run changed; a run exists from the first thing that is said of it.</summary>
    internal Order OnRun(int number, Func<Run, Run> change) =>
        this with
        {
            Runs =
                Run is { } run && run.Number == number
                    ? Runs.SetItem(Runs.Count - 1, change(run))
                    : Runs.Add(change(Orders.Run.Begin(number, [], null))),
        };
}
