using System.Globalization;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Bench;

/// <summary>What a run on a sketch found out on its way in.</summary>
/// <param name="CameOff">Removals that nobody had written down, in the order in which they came off.</param>
/// <param name="Uncovered">Positions that were said to lie open.</param>
public sealed record FoundWay(IReadOnlyList<string> CameOff, IReadOnlyCollection<string> Uncovered)
{
    /// <summary>Of a run by a guide.</summary>
    public static FoundWay None { get; } = new([], []);
}

/// <summary>The guide's knowledge and a plan to the steps for this very order.</summary>
public static class RunSheetBuilder
{
    private const int StaticMinutes = 2;
    private const int CleaningMinutes = 10;

    /// <summary>The run that carries out a plan.</summary>
    /// <param name="expected">What the firmware should show afterwards, if known.</param>
    /// <param name="way">What was found out in this run on the way in.</param>
    public static RunSheet ForPlan(Guide guide, Plan plan, MemorySize? expected = null, FoundWay? way = null)
    {
        var lifted = Lifted(guide, plan, plan.Touched, p => p.Before.Module is not null || !p.Before.Known);
        var work = new Work(
            [.. plan.Touched, .. lifted.Select(l => l.Slot)],
            [.. plan.Slots.Where(s => s.Pulls).Select(s => s.Slot), .. lifted.Select(l => l.Slot)],
            [.. plan.Slots.Where(s => s.Fits), .. lifted],
            [.. plan.Bays.Where(b => b.Pulls || b.Fits)],
            [
                .. plan.Slots.Where(s => s.Use == SlotUse.Inspect).Select(s => s.Slot),
                .. plan.Bays.Where(b => b.Use == BayUse.Inspect).Select(b => b.Bay),
            ],
            plan,
            [],
            way ?? FoundWay.None,
            s => s.Before.Module?.ToString() ?? s.Before.Spoken
        );
        return new RunSheet(Build(guide, work, expected), expected);
    }

    /// <summary>The run that takes the modules of these slots out and puts them back, seated anew.</summary>
    /// <param name="done">
    /// Steps of earlier runs: what they did not set up of the plan's drives is still to do.
    /// </param>
    /// <param name="full">
    /// Where what was fitted is changed: those of the slots that hold something, as they were planned. Null: all are
    /// seated anew.
    /// </param>
    public static RunSheet ForReseat(
        Guide guide,
        Plan plan,
        IReadOnlyList<string> slots,
        MemorySize? expected = null,
        IReadOnlyCollection<StepId>? done = null,
        IReadOnlyList<PlannedSlot>? full = null,
        FoundWay? way = null
    )
    {
        var seated = plan
            .Slots.Where(s => slots.Contains(s.Slot) && (full is null || s.Module is not null))
            .Select(s => s with { Use = full is null ? SlotUse.Reseat : SlotUse.Fit })
            .Concat(Lifted(guide, plan, slots, p => p.Module is not null || (p.Stays && !p.Before.Known)))
            .ToArray();
        var drives = slots
            .Where(s => guide.Bay(s) is not null)
            .Select(bay => new PlannedBay(bay, BayUse.Reseat))
            .ToArray();
        return new RunSheet(
            Build(
                guide,
                new Work(
                    [.. slots, .. seated.Select(s => s.Slot).Except(slots)],
                    [
                        .. (full ?? [])
                            .Select(s => s.Slot)
                            .Union(seated.Where(s => s.Use == SlotUse.Reseat).Select(s => s.Slot)),
                    ],
                    seated,
                    drives,
                    [],
                    plan,
                    done ?? [],
                    way ?? FoundWay.None,
                    s => (full?.FirstOrDefault(f => f.Slot == s.Slot) ?? s).Module?.ToString() ?? s.Before.Spoken
                ),
                expected
            ),
            expected
        );
    }

    // A module that stays and lies over one that is worked at comes out first, and goes back over it.
    private static PlannedSlot[] Lifted(
        Guide guide,
        Plan plan,
        IReadOnlyList<string> touched,
        Func<PlannedSlot, bool> mayBeFull
    ) =>
        [
            .. touched
                .Select(guide.Slot)
                .OfType<MemorySlot>()
                .Where(s => plan.Slots.First(p => p.Slot == s.Id).Use != SlotUse.Inspect)
                .SelectMany(s => Layers.Over(guide, s))
                .Distinct()
                .Where(id => !touched.Contains(id))
                .Select(id => plan.Slots.First(p => p.Slot == id))
                .Where(mayBeFull)
                .Select(p => p with { Use = SlotUse.Reseat }),
        ];

    private sealed record Work(
        IReadOnlyList<string> Touched,
        IReadOnlyList<string> Pulled,
        IReadOnlyList<PlannedSlot> Fitted,
        IReadOnlyList<PlannedBay> Drives,
        IReadOnlyList<string> Looked,
        Plan Plan,
        IReadOnlyCollection<StepId> Done,
        FoundWay Way,
        Func<PlannedSlot, string> Sits
    )
    {
        public bool HandsIn => Pulled.Count + Fitted.Count + Drives.Count > 0;
    }

    private static RunStep[] Build(Guide guide, Work work, MemorySize? expected)
    {
        var reach = Reach.To(guide, work.Touched, work.HandsIn, work.Way.CameOff);
        var upperFirst = Layers.UpperFirst(guide, work.Touched);
        var arriving = work.Fitted.ToDictionary(f => f.Slot);

        // A drive that leaves with a removal is written down and comes back with it.
        var drives = (
            from bay in guide.Drives
            join planned in work.Drives on bay.Id equals planned.Bay
            let comesOut = reach.Any(r => r.TakesOut.Contains(bay.Id))
            where planned.Changes || !comesOut
            select (Bay: bay, Planned: planned, ComesOut: comesOut)
        ).ToArray();
        var changed = work.Drives.Where(d => d.Changes).Select(d => d.Bay).ToHashSet();
        List<RunStep> steps =
        [
            Prepare(guide, reach),
            .. Isolate(guide),
            .. reach.SelectMany(r => Open(work.Plan, reach, r)),
            .. work
                .Touched.Where(p => work.Way.Uncovered.Contains(p) || Reach.NotKnown(guide, [p]).Count > 0)
                .Select(p => RemovalSteps.Uncover(guide, p, reach)),
            .. Record(work, [.. drives.Where(d => d.Planned.Pulls && !d.ComesOut).Select(d => d.Bay.Id)]),
            .. work.Looked.Select(p =>
                RunStep.Of(StepId.Look(p), RunPart.Record, $"Look at {p}") with
                {
                    Position = p,
                    Details =
                    [
                        "Contacts, dust, latches, marks of liquid. Say what you saw, and why it stays as it is.",
                    ],
                }
            ),
            .. Chain([
                .. upperFirst.Where(s => work.Pulled.Contains(s.Id)).Select(SlotSteps.Pull),
                .. drives
                    .Where(d => d.Planned.Pulls && !d.ComesOut)
                    .Select(d => DriveSteps.Pull(d.Bay, d.Planned, work.Plan)),
            ]),
            .. Chain([
                .. Clean(work),
                .. drives.Where(d => d.Planned.Fits).Reverse().Select(d => DriveSteps.Fit(d.Bay, d.Planned)),
                .. upperFirst
                    .OrderByDescending(s => Layers.Depth(guide, s))
                    .Where(s => arriving.ContainsKey(s.Id))
                    .Select(s => SlotSteps.Fit(s, arriving[s.Id])),
            ]),
            .. MeasureOpen(guide, work, expected),
            .. Chain([
                .. NotOpen(
                    guide,
                    work,
                    [
                        .. Returns(guide, Isolation.LiftConnector, RunPart.Close),
                        .. reach
                            .Reverse()
                            .Select(r => RemovalSteps.Close(r, [.. r.TakesOut.Where(b => !changed.Contains(b))])),
                    ]
                ),
            ]),
            .. Chain([
                .. Returns(guide, "remove-battery-pack", RunPart.Start),
                Start(guide),
                .. DriveSteps.StartOrder(guide, work.Plan).Where(s => !work.Done.Contains(s.Id)),
            ]),
            .. Chain([.. work.Plan.Bays.SelectMany(DriveSteps.SetUp).Where(s => !work.Done.Contains(s.Id))]),
        ];
        return
        [
            .. steps.Select(s => s with { Traps = [.. guide.Traps.Where(t => t.StandsAt(s.Id)).Select(t => t.Text)] }),
        ];
    }

    // Each waits for the one before.
    private static IEnumerable<RunStep> Chain(IReadOnlyList<RunStep> steps) =>
        steps.Select((s, i) => i == 0 ? s : s with { WaitsFor = [.. s.WaitsFor, steps[i - 1].Id] });

    private static RunStep Prepare(Guide guide, IReadOnlyList<Removal> reach)
    {
        var groups = reach.SelectMany(r => r.Fasteners).ToArray();
        var bits = groups
            .Select(g => g.Driver)
            .Where(d => d != "hand")
            .Distinct()
            .Order(StringComparer.Ordinal)
            .ToArray();
        var tools = reach.SelectMany(r => r.Pry).Select(p => p.Tool).Distinct().ToArray();
        FastenerGroup[] trays = [.. groups.Where(g => !g.Captive)];
        var bays = reach.SelectMany(r => r.TakesOut).ToArray();
        return RunStep.Of(StepId.PrepareBench, RunPart.Prepare, "Lay out mat, strap and trays") with
        {
            Details = Lines(
                bits.Length > 0 ? $"Bits: {string.Join(", ", bits)}." : "No screwdriver is needed.",
                tools.Length > 0 ? $"Tools: {string.Join(", ", tools)}." : null,
                trays.Length > 0 ? $"Trays: {string.Join("; ", trays.Select(Tray))}." : null,
                bays.Length > 0 ? $"A numbered place for each of {string.Join(", ", bays)}." : null,
                guide.Model.TellApart is { } tell ? $"Tell apart: {tell}." : null
            ),
            Minutes = StaticMinutes,
            Bits = bits,
            Trays = trays,
        };

        static string Tray(FastenerGroup g) =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"{g.Count} × {g.Group}{Phrases.When(g.Length, mm => $" {mm} mm")}"
            );
    }

    // The machine cools while hands do the rest; only opening waits for it, and the strap that goes on last.
    private static IEnumerable<RunStep> Isolate(Guide guide)
    {
        var steps = Isolation.Of(guide);
        var hands = Chain([.. steps.Where(i => i.Kind is not (Isolation.CoolDown or Isolation.Ground)).Select(Step)])
            .ToArray();
        var from = hands.FirstOrDefault()?.Id ?? StepId.PrepareBench;
        RunStep[] cools =
        [
            .. steps
                .Where(i => i.Kind == Isolation.CoolDown)
                .Select(i => Step(i) with { TimedFrom = from, WaitsFor = hands.Length > 0 ? [from] : [] }),
        ];
        return
        [
            .. hands,
            .. cools,
            .. steps
                .Where(i => i.Kind == Isolation.Ground)
                .Select(i =>
                    Step(i) with
                    {
                        WaitsFor = [.. hands.TakeLast(1).Select(h => h.Id), .. cools.Select(c => c.Id)],
                    }
                ),
        ];

        static RunStep Step(IsolationStep i) =>
            RunStep.Of(StepId.Isolate(i.Kind), RunPart.Isolate, i.Sentence) with
            {
                Details = Lines(i.Note is { } note ? $"{char.ToUpperInvariant(note[0])}{note[1..]}." : null),
                Seconds = (int?)i.Duration?.TotalSeconds,
                Minutes = (int)Math.Ceiling(i.Duration?.TotalMinutes ?? 0),
            };
    }

    private static IEnumerable<RunStep> Open(Plan plan, IReadOnlyList<Removal> reach, Removal removal)
    {
        StepId[] waits =
        [
            .. removal
                .Needs.Select(n => reach.FirstOrDefault(r => r.Id == n))
                .OfType<Removal>()
                .Select(n => n.TakesOut.Count > 0 ? StepId.Record(n.Id) : StepId.Open(n.Id)),
        ];
        var open = RemovalSteps.Open(removal);
        if (removal.TakesOut.Count == 0)
        {
            yield return open with
            {
                WaitsFor = waits,
            };
            yield break;
        }

        yield return open with
        {
            Details = [.. open.Details, "Number each tray by its bay as it comes out."],
            WaitsFor = waits,
            CopiedFirst = [.. removal.TakesOut.SelectMany(plan.CopiedFrom)],
        };
        // Labels are read where they can be: beside the machine.
        yield return RunStep.Of(
            StepId.Record(removal.Id),
            RunPart.Open,
            "Write down which drive came out of which bay"
        ) with
        {
            Details = ["Scan or type each drive's serial, bay by bay; “empty” where none was."],
            Records = removal.TakesOut,
            Removal = removal.Id,
            WaitsFor = [open.Id],
            Minutes = StaticMinutes,
        };
    }

    private static IEnumerable<RunStep> Record(Work work, string[] drives)
    {
        if (drives.Length > 0)
        {
            yield return RunStep.Of(StepId.RecordBays, RunPart.Record, "Write down which drive sits in which bay") with
            {
                Details = ["Scan or type each drive's serial; one that stays goes back into its own bay."],
                Records = drives,
            };
        }

        if (work.Pulled.Count > 0)
        {
            yield return RunStep.Of(
                StepId.RecordModules,
                RunPart.Record,
                $"Look what sits in {string.Join(", ", work.Pulled)}"
            ) with
            {
                Details =
                [
                    .. work
                        .Plan.Slots.Where(s => work.Pulled.Contains(s.Slot))
                        .Select(s => $"{s.Slot}: {work.Sits(s)}"),
                    "Write down only what differs.",
                ],
                Records = work.Pulled,
            };
        }
    }

    // Before anything is fitted: what is blown about must not lie in an open slot under a new module.
    private static IEnumerable<RunStep> Clean(Work work)
    {
        if (work.Plan.Cleans && !work.Done.Contains(StepId.Clean))
        {
            yield return RunStep.Of(StepId.Clean, RunPart.Fit, StepWords.Title(StepId.Clean, null)) with
            {
                Details =
                [
                    "Dust out of fans, fins, grilles and empty slots; brush what sticks, blow what is loose.",
                    "Hold each fan still while air blows at it.",
                ],
                Precautions = [new Precaution("static", "Dry air, an antistatic brush; no household vacuum cleaner.")],
                Minutes = CleaningMinutes,
            };
        }
    }

    private static IEnumerable<RunStep> MeasureOpen(Guide guide, Work work, MemorySize? expected)
    {
        if (guide.MeasureOpen is { } how && work.HandsIn)
        {
            yield return RunStep.Of(
                StepId.MeasureOpen,
                RunPart.Measure,
                "Start it with the case open and read the capacity"
            ) with
            {
                Details = Lines(
                    how,
                    expected is { } e ? $"{e} should show." : null,
                    "Then off, unplugged and drained again before hands go in."
                ),
                Precautions = [new Precaution("power", "Nothing is touched while it runs.")],
                Signs = guide.FirstStart,
                Minutes = 3,
            };
        }
    }

    // Who is used to measuring first is told why not here.
    private static IEnumerable<RunStep> NotOpen(Guide guide, Work work, IReadOnlyList<RunStep> closing) =>
        guide.NeverMeasureOpen is { } why && work.HandsIn
            ? closing.Select(
                (s, i) =>
                    i > 0
                        ? s
                        : s with
                        {
                            Details = [$"Not started with the case open on this model: {why}.", .. s.Details],
                        }
            )
            : closing;

    private static RunStep Start(Guide guide) =>
        RunStep.Of(StepId.PowerOn, RunPart.Start, "Connect mains and start the machine") with
        {
            Details = Lines(guide.Firmware is { RatedSpeed: { } speed } f ? $"Rated speed: {f.Enter}, {speed}" : null),
            Signs = guide.FirstStart,
            Minutes = 3,
        };

    private static IEnumerable<RunStep> Returns(Guide guide, string kind, RunPart part) =>
        guide.Isolate.Any(i => i.Kind == kind)
            ? [RunStep.Of(StepId.Return(kind), part, Isolation.Return(kind).Do)]
            : [];

    internal static IReadOnlyList<string> Lines(params string?[] lines) => [.. lines.OfType<string>()];
}
