using System.Globalization;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What the journal, the table of acts, the search and the options say, word for word.</summary>
public sealed class OrderWordsTests
{
    private static readonly Guide Guide = Make.Fjell;
    private static readonly DateTimeOffset At = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
    private static readonly Quote Quote = new([], [], [], 30, 0, 0, 0, 80, 19, 15.2m, 95.2m, "EUR", []);
    private static readonly Invoice Invoice = new(
        "M. Alto",
        "Norrland Fjell 14",
        null,
        [],
        [],
        [],
        0,
        0,
        80,
        19,
        15.2m,
        95.2m,
        "EUR",
        []
    );
    private static readonly LaterStage Later = new(new PartNumber("TM-8S"), 1, 19, "1 × 8 GB, TM-8S");

    [Fact]
    public void Journal()
    {
        var bodies = Bodies().ToArray();
        var kinds = typeof(EntryBody)
            .Assembly.GetTypes()
            .Where(t => t.IsSubclassOf(typeof(EntryBody)) && !t.IsAbstract);
        Assert.Empty(kinds.Except(bodies.Select(b => b.GetType())));
        WordFile.Holds("journal", bodies.Select(b => $"{b.Act}: {b.Line(Guide)}"));
    }

    [Fact]
    public void Acts() =>
        WordFile.Holds(
            "acts",
            WhenMayWhatTests.Orders.SelectMany(o =>
                Enum.GetValues<OrderAct>()
                    .Except([OrderAct.TakeIn])
                    .Select(act => (Act: act, No: WhenMayWhat.WhyNot(act, o.Order, Guide)))
                    .GroupBy(a => a.No is null ? "may be done" : $"{a.No.Kind}, {a.No.Code}: {a.No.Message}")
                    .Select(g => $"  {g.Key} [{string.Join(' ', g.Select(a => a.Act))}]")
                    .Prepend($"{o.Name}: next {Assessment.Of(o.Order, Guide).Next}")
            )
        );

    [Fact]
    public void Swaps() =>
        WordFile.Holds(
            "swaps",
            from count in (int[])[2, 3]
            from told in (string[])["stops", "slots", "total"]
            from faulty in Enumerable.Range(1, count).SelectMany(i => new[] { $"module S{i}", $"slot S{i}" })
            from line in Play(count, told, faulty)
            select line
        );

    [Fact]
    public void Options() =>
        WordFile.Holds(
            "options",
            Repository.Models.SelectMany(model =>
            {
                var guide = Repository.Guide(model);
                int[] sizes = [.. guide.Memory.Slots.Select((s, i) => s.Soldered || i == 0 ? 8 : 0)];
                var before = Make.Reading(guide, sizes);
                var answer = UpgradeOptions.Find(
                    guide,
                    before,
                    [
                        .. Occupancy
                            .Of(guide, before)
                            .Where(o => o.Module is not null && !guide.NeedSlot(o.Slot).Soldered)
                            .Select(o => new Keepable(o.Slot, 8)),
                    ],
                    [Offer("P8", 8, 20, 1), Offer("P16", 16, 36, 1), Offer("K32", 16, 66, 2), Offer("P32", 32, 75, 1)],
                    new Wanted(MemorySize.Gigabytes(32), Stages: 2)
                );
                return answer
                    .Options.SelectMany(o =>
                        o.Notes.Select(n => $"    {n.Sentence}")
                            .Prepend(Figures(o))
                            .Append($"    {o.Expectation!.Channels}, {o.Layout.Share.Bandwidth:0.000}")
                    )
                    .Concat(answer.LeftOut.Select(l => $"  not {l.Option.Words}, for {l.By + 1}"))
                    .Append($"  {answer.Why}")
                    .Prepend($"[{model}]");

                Offer Offer(string number, int size, decimal price, int pieces) =>
                    new(
                        new PartNumber(number),
                        new MemoryModule(
                            MemorySize.Gigabytes(size),
                            guide.Memory.Generation,
                            guide.Memory.Module,
                            3200
                        ),
                        pieces,
                        price,
                        1
                    );

                static string Figures(UpgradeOption o) =>
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  {o.Words}: {o.Capacity}, {o.CapacityLater}, {o.Price}, {o.PriceLater}, {o.Thrown}"
                    );
            })
        );

    [Fact]
    public void Drives() =>
        WordFile.Holds(
            "drives",
            Repository.Models.SelectMany(model =>
            {
                var guide = Repository.Guide(model);
                var bay = guide.Drives is [var first, ..] ? first : null;
                var before = Make.Reading(guide, [.. guide.Memory.Slots.Select(_ => 8)]) with
                {
                    Drives = bay is null
                        ? []
                        :
                        [
                            new(
                                bay.Id,
                                new Drive(DriveSize.Sold(256), bay.Form, bay.Key, bay.Link, Serial: "OLD"),
                                Boots: bay.Boots,
                                UsedBytes: 240_000_000_000,
                                Initialised: true
                            ),
                        ],
                };
                var answer = DriveOptions.Find(
                    guide,
                    before,
                    [
                        Offer("N-1T", 1000, "M.2 2280", "M", "PCIe 4.0 x4", 71),
                        Offer("S-1T", 1000, "2.5 in", null, "SATA 6 Gb/s", 66),
                        Offer("H-8T", 8000, "3.5 in", null, "SATA 6 Gb/s", 189),
                    ],
                    new RoomWanted(null, 85, 200)
                );
                return answer
                    .Options.SelectMany(o =>
                        new[]
                        {
                            $"  {o.Way}: {o.Words}, {o.OpenMinutes} min, {o.CopyMinutes} min copying",
                            $"    {o.DataWords}",
                        }.Concat(o.Notes.Select(n => $"    {n.Sentence}"))
                    )
                    .Concat(answer.Closed.Select(c => $"  {c}"))
                    .Append($"  {answer.LeftOut} left out")
                    .Prepend($"[{model}]");

                static DriveOffer Offer(
                    string number,
                    int size,
                    string form,
                    string? key,
                    string link,
                    decimal price
                ) => new(new PartNumber(number), new Drive(DriveSize.Sold(size), form, key, link), price, 1);
            })
        );

    [Fact]
    public void Seats_by_layout() =>
        WordFile.Holds(
            "layouts",
            from model in Repository.Models
            let guide = Repository.Guide(model)
            where guide.Memory.Slots.Any(s => !s.Soldered)
            from added in (int[][])
                [
                    [8],
                    [16],
                    [8, 16],
                    [8, 8],
                    [16, 16, 8],
                ]
            let slots = guide.Memory.Slots
            where added.Length < slots.Count(s => !s.Soldered) || slots.Count == 2
            let sizes = slots.Select((s, i) => s.Soldered || (i == 0 && added.Length < slots.Count) ? 8 : 0).ToArray()
            from line in Seated(guide, Make.Reading(guide, sizes), added)
            select line
        );

    [Fact]
    public void Afterwards() =>
        WordFile.Holds(
            "afterwards",
            from plan in (SlotChange[][])
                [
                    [new("A1", Tower(16))],
                    [new("A1", From: "A2")],
                    [new("A2", Empty: true), new("B1", Tower(32))],
                    [new("A2", Reseat: true), new("D1", Inspect: true)],
                    [new("D2", Drive: new(Disk(1000, "NEW"), DataPath.CopyFirst, Setup: new(Grow: true)))],
                    [new("D2", Drive: new(Disk(1000, "NEW"), DataPath.CleanInstall))],
                    [new("D2", Empty: true)],
                    [new("D2", Reseat: true), new("B2", Tower(8))],
                ]
            from line in After(plan)
            select line
        );

    [Fact]
    public void Scores() =>
        WordFile.Holds(
            "scores",
            from was in (decimal?[])[null, 0, 80, 100]
            from now in (decimal?[])[null, 80, 100.05m, 140]
            where was is not null || now is not null
            from higher in (bool[])[true, false]
            from others in (decimal[][])
                [
                    [],
                    [90, 100, 110, 120],
                    [60, 90, 100, 110, 120, 150],
                ]
            select $"{was} to {now}, {(higher ? "more" : "less")} is better, among {others.Length}: "
                + Told(Assert.Single(ScoreLine.Of(Take(was, higher), Take(now, higher), Among(others))))
        );

    [Fact]
    public void Sizes() =>
        WordFile.Holds(
            "sizes",
            from installed in (int[])[8, 32]
            from used in (double?[])[null, 3, 6.5, 7.4]
            from peak in (double?[])[null, 5, 9]
            let before = Make.Reading(Guide, [0, installed], installed * 0.95)
            let advice = Sizing.Of(
                before with
                {
                    Memory = before.Memory with { InUseBytes = (long?)(used * (1L << 30)) },
                },
                peak is { } p
                    ? [new LoadSeries([0, 600], [1, (long)(p * (1L << 30))], [0, 0], [1, 2], [0, 0], [0, 0])]
                    : null
            )
            select $"{installed} GB, {used} in use, {peak} at the peak: {advice?.Target} {advice?.Because}"
        );

    [Fact]
    public void Drives_in_bays() =>
        WordFile.Holds(
            "drive-fit",
            from model in Repository.Models
            let guide = Repository.Guide(model)
            from bay in guide.Drives.DistinctBy(b => (b.Form, b.Key, b.Link, b.Height))
            from drive in (Drive[])
                [
                    new(DriveSize.Sold(1000), "M.2 2280", "M", "PCIe 4.0 x4", 2.3m),
                    new(DriveSize.Sold(1000), "M.2 2280", "M", "PCIe 4.0 x4", 8),
                    new(DriveSize.Sold(1000), "M.2 2230", "M", "PCIe 3.0 x4", 2.2m),
                    new(DriveSize.Sold(1000), "M.2 2280", "B", "SATA 6 Gb/s", 2.2m),
                    new(DriveSize.Sold(1000), "2.5 in", null, "SATA 6 Gb/s", 7),
                    new(DriveSize.Sold(1000), "2.5 in", null, "SATA 6 Gb/s", 15),
                    new(DriveSize.Sold(8000), "3.5 in", null, "SATA 6 Gb/s", 26.1m),
                    new(DriveSize.Sold(1000)),
                ]
            let wish = new DriveWish(drive, DataPath.CleanInstall, ArrayState: "six of six")
            let no = Record.Exception(() => Fitted(guide, bay, wish))
            select $"{model} {bay.Id}, {drive.Form} {drive.Key} {drive.Link} {drive.Height}: "
                + (no?.Message ?? string.Join(' ', Fitted(guide, bay, wish).Select(n => $"{n.Code}: {n.Sentence}")))
        );

    private static IReadOnlyList<FitNote> Fitted(Guide guide, DriveBay bay, DriveWish wish)
    {
        var before = Make.Reading(guide, [.. guide.Memory.Slots.Select(_ => 8)]);
        return FitRules.Of(guide, before, Planner.Make(guide, before, [new SlotChange(bay.Id, Drive: wish)]));
    }

    private static Score[] Take(decimal? value, bool higher) =>
        value is { } v ? [new Score("copy", "MB/s", v, higher)] : [];

    private static ILookup<(string, string), decimal> Among(decimal[] values) => values.ToLookup(_ => ("copy", "MB/s"));

    private static string Told(ScoreLine l) =>
        string.Create(CultureInfo.InvariantCulture, $"{l.Percent} %, better {l.Better}, place {l.Place}, {l.Among}");

    private static MemoryModule Tower(int gigabytes) =>
        new(MemorySize.Gigabytes(gigabytes), "DDR4", "DIMM", 3200, Serial: $"T{gigabytes}");

    private static Drive Disk(int sold, string serial) =>
        new(DriveSize.Sold(sold), "3.5 in", null, "SATA 6 Gb/s", Serial: serial);

    private static IEnumerable<string> Seated(Guide guide, Reading before, int[] added)
    {
        var made = added.Select(a => new MemoryModule(
            MemorySize.Gigabytes(a),
            guide.Memory.Generation,
            guide.Memory.Module,
            3200
        ));
        var kept = Occupancy.Of(guide, before).Where(o => o.Module is not null).Select(o => o.Slot).ToArray();
        LayoutAnswer answer;
        try
        {
            answer = Layouts.Best(guide, before, kept, [.. made.Select(m => new NewModule(m))]);
        }
        catch (RefusedException no)
        {
            return [$"{guide.Model.Code}, {string.Join(" + ", added)} GB: {no.Message}"];
        }

        return
        [
            $"{guide.Model.Code}, {string.Join(" + ", added)} GB: {Seats(answer.Best)}",
            $"  {answer.Best.Worth}",
            $"  {answer.Because} Proved: {answer.IsProved}.",
            answer.RunnerUp is { } next ? $"  rather than {Seats(next)}" : "  the only one",
        ];

        static string Seats(Layout layout) =>
            string.Join(", ", layout.Seats.Select(s => $"{s.Slot} {s.Module.Size}{(s.Stays ? " stays" : "")}"));
    }

    private static IEnumerable<string> After(SlotChange[] changes)
    {
        var guide = Repository.Guide("QT40");
        var before = Make.Reading(guide, [0, 8, 0, 16], 23.2, rated: 2666) with
        {
            Drives =
            [
                new("D1", new Drive(DriveSize.Sold(512), Serial: "BOOT"), 300_000_000_000, true, Initialised: true),
                new("D2", Disk(500, "DATA"), 450_000_000_000, Initialised: true),
            ],
        };
        var plan = Planner.Make(guide, before, changes);
        var expected = Expectation.Of(guide, before, plan);
        var after = AfterPlan.Of(guide, before, plan);
        return new[]
        {
            PlanWords.Short(plan),
            $"  {expected.Installed}, {expected.UsableLow} to {expected.UsableHigh}, {expected.RunningSpeed} MT/s, "
                + expected.Channels,
            $"  comes out: {string.Join("; ", plan.ComesOut)}",
            $"  usable {after.Memory.UsableBytes}, empty {string.Join(' ', after.EmptyBays)}",
        }
            .Concat(after.Memory.Slots.Select(s => $"  {s.Locator}: {s.SizeBytes}, {s.RatedSpeed}, {s.Serial}"))
            .Concat(after.Drives.Select(d => $"  {d.Bay}: {d.Drive.Serial}, {d.UsedBytes}, {d.Boots}, {d.Initialised}"))
            .Concat(AfterPlan.Rooms(guide, before, plan).Select(r => $"  {r.Sentence}"));
    }

    // The search as it goes where this is at fault: it stops the start, or the slots tell it, or the total alone.
    private static IEnumerable<string> Play(int count, string told, string faulty)
    {
        string[] slots = [.. Enumerable.Range(1, count).Select(i => $"S{i}")];
        var setup = new SwapSetup(
            [.. slots.Select((s, i) => new SwapModule(s, Make.Module(8), i >= count / 2))],
            slots,
            new Dictionary<int, IReadOnlyList<string>>(),
            Shows([.. slots.Select(s => new SwapPlace(s, s))]),
            false
        );
        var trials = new List<SwapTrial>();
        yield return $"{count} modules, {faulty} at fault; at first {setup.First.Spoken}";
        while (SwapTest.Of(setup, trials) is var state)
        {
            yield return $"  suspects {string.Join("; ", state.Suspects.Take(3).Select(s => s.Spoken))}";
            if (state.Next is not { } next)
            {
                yield return $"  {state.Conclusion!.Sentence} {state.Conclusion.Do}";
                yield break;
            }

            foreach (var word in state.Words)
            {
                yield return $"    {word}";
            }

            trials.Add(new SwapTrial(next, Shows(next), state.Defaults));
            yield return $"    {trials[^1].Outcome.Spoken}";
        }

        SwapOutcome Shows(IReadOnlyList<SwapPlace> places)
        {
            string[] seen =
            [
                .. places.Where(p => $"module {p.Module}" != faulty && $"slot {p.Slot}" != faulty).Select(p => p.Slot),
            ];
            var isWhole = seen.Length == places.Count;
            return told switch
            {
                _ when seen.Length == 0 => new SwapOutcome(false),
                "stops" => new SwapOutcome(isWhole, isWhole ? seen : null),
                "slots" => new SwapOutcome(true, seen),
                _ => new SwapOutcome(true, null, MemorySize.Gigabytes(8 * seen.Length)),
            };
        }
    }

    private static IEnumerable<EntryBody> Bodies()
    {
        var before = Make.Reading(Guide, [0, 8]);
        var plan = Planner.Make(Guide, before, [new SlotChange("S1", Make.Module(8))]);
        return
        [
            Make.TakenIn(),
            Make.TakenIn() with
            {
                Variant = "FJ14-1",
            },
            new GuideAdopted(3, false),
            new GuideAdopted(3, true),
            new BatchLeft(125, "its board is another"),
            new BatchJoined(125),
            new OwnerNamed("tobi"),
            new OwnerNamed("tobi", "the left clip is worn"),
            new HandOverRead(),
            new PlaceTold("Bench 2"),
            new PlaceTold(null),
            new Promised(At),
            new Promised(null),
            new OwnerNamed(null),
            .. Enum.GetValues<Phase>().Select(p => new ReadingTaken(p, before, null, null)),
            new ReadingTaken(Phase.Before, before, null, "by hand"),
            new ReadingInvited(Phase.Before, "hash", At),
            new ReadingVouched(2, "the label was changed"),
            new LoadWatched(
                Phase.After,
                new LoadSeries([0, 60], [1, 2], [0, 0], [1, 2], [0, 0], [0, 0]),
                null,
                "plate"
            ),
            new ScoresTaken(Phase.Before, [new Score("copy", "MB/s", 120.5m, true)], "twice"),
            new TrialAsked("a whole plate", 20),
            new TrialAsked("a whole plate", null),
            new TrialAsked(null, null),
            .. Enum.GetValues<TrialOutcome>().Select(o => new TrialDone("a whole plate", 25, 2, o, "warm")),
            new TrialDone("a whole plate", 1, null, TrialOutcome.AsWished, null),
            new VariantTold("FJ14-1", false),
            new VariantTold(null, true),
            .. Enum.GetValues<SealConsent>().Select(c => new SealTold(c, "M. Alto")),
            new IntakeCorrected("NF14-1", "by telephone", Backup.Made, "misread"),
            new IntakeCorrected(null, null, Backup.Waived, "asked"),
            .. Enum.GetValues<CopyState>().Select(c => new CopyTold(c, "image", 20)),
            new CopyTold(CopyState.Waived, "M. Alto"),
            new PlanSet(plan, "as asked"),
            new PlanSet(plan with { Cleans = true }, null, 7.5m, Later),
            new LaterNoted([], "more memory", null),
            new LaterNoted([new SlotChange("S2", Make.Module(16))], "more memory", 80),
            new LaterDropped("sold"),
            new LaterDropped(null),
            new PlanMended(plan, ["S1"], true, "faulty"),
            new PlanMended(plan, ["S1", "S2"], false, "another size"),
            new QuoteOffered(Quote, "hash", At),
            new QuoteOffered(Quote, "hash", At, [125, 126]),
            new QuoteRevoked(),
            new PlanAgreed("M. Alto", null),
            new PlanAgreed("M. Alto", "by mail", Quote, true),
            new QuoteDeclined("M. Alto", "too dear"),
            new QuoteDeclined("M. Alto", null, true),
            new CopyBegun("D1", "OLD", "NEW", "image", DriveSize.Sold(512)),
            new CopyAdvanced("D1", DriveSize.Sold(256)),
            new CopyVerified("D1", 900, 900, 20, 20),
            new CopyVerified("D1", 900, 899, 20, 19),
            .. Enum.GetValues<PartFate>().Select(f => new OldPartSettled("S2", f, null, null)),
            new OldPartSettled(
                "D1",
                PartFate.BoughtIn,
                new Wipe(WipeCategory.Purge, "sanitize", "200 sectors read"),
                "noisy",
                "B",
                "read whole",
                12,
                new Claim("7", new DateOnly(2026, 3, 2), "dead"),
                112
            ),
            new OldPartBagged("S2", "shelf 3"),
            .. Steps().Select(s => new StepConfirmed(1, StepId.Parse(s), null, null, null)),
            new StepConfirmed(1, StepId.Open("keyboard"), 2, "one missing", "stiff", Seen: MemorySize.Gigabytes(16)),
            .. Enum.GetValues<Deviation>()
                .Select(d => new StepConfirmed(1, StepId.Open("hatch"), null, "worn", null, Deviation: d)),
            new StepTakenBack(1, StepId.Open("hatch"), "too early"),
            new StepTakenBack(1, StepId.Open("hatch"), null),
            new StepImpossible(1, StepId.Open("hatch"), "torn head"),
            .. Enum.GetValues<Gate>().Select(g => new GateWaived(1, g, StepId.Open("hatch"), "seen")),
            .. Enum.GetValues<FindKind>().Select(k => new FoundInside(1, k, StepId.Open("hatch"), "left side")),
            new FoundInside(1, FindKind.Dust, null, null),
            new PartCameOff(1, new CameOff(Guide.Removals[0], []), 2),
            new PositionSeen(new SeenPosition("S1", false)),
            new ReseatBegun(["S1", "S2"], "short"),
            new ReseatBegun(["S1"], null),
            new SwapTestBegun(Setup()),
            new SwapTried(new SwapTrial([new("S1", "S1")], new SwapOutcome(true, ["S1"]))),
            new SwapTried(new SwapTrial([new("S1", "S2")], new SwapOutcome(false, Sign: "beeps")), null, "one less"),
            new SwapTestEnded(new SwapConclusion([], "It was the seat in S1.", "Leave it."), null),
            new SwapTestEnded(null, "no time"),
            new WatchBegun("freezes", At, 2),
            new WatchBegun("freezes", At, 1),
            .. Enum.GetValues<WatchSign>().Select(s => new WatchNoted(s, new DateOnly(2026, 3, 4), "twice")),
            .. Enum.GetValues<WatchOutcome>().Select(o => new WatchEnded(o, "after a week")),
            .. Enum.GetValues<Verdict>().Select(v => new MarkedReady(v, "it will do", MemorySize.Gigabytes(64))),
            new MarkedReady(Verdict.AsPlanned, null),
            new HoldReleased("sign", "It beeped.", "known"),
            new HandedBack("M. Alto", "in the bag"),
            new HandedBack("M. Alto", null),
            new ReportMade("101-7K3M-Q9ZT-W2XB", "a.b.c"),
            new ReportOffered("hash", At),
            new ExtraAgreed("New rubber feet", 8.5m, "M. Alto"),
            new ExtraDropped(9, "New rubber feet"),
            new InvoiceMade(Invoice) { Number = 12 },
            new InvoiceReversed(12, "the discount was forgotten") { Number = 13 },
            .. Enum.GetValues<PaymentWay>().Select(w => new PaymentTaken(95.2m, w, null)),
            new PaymentTaken(-5m, PaymentWay.Other, "a voucher"),
            new Parked("waits for a part"),
            new Parked("waits for a part", At),
            new Parked("waits for a part", At, WakeOn.PartsArrive),
            new Parked("asks her brother", null, WakeOn.CustomerAnswers),
            new Resumed(),
            new Cancelled("sold"),
            new NoteAdded("call first"),
            new NoteAdded("stiff", StepId.Open("hatch")),
            new PhotoTaken("hash", 800, 600, StepId.Open("hatch"), "crust"),
            new PhotoTaken("hash", 800, 600, null, null),
            new GuideSuggested(new GuideChange(GuideChangeKind.Trap, Target: "open.hatch", Text: "stiff"), null),
        ];

        static string[] Steps() =>
            [
                "prepare.bench",
                "isolate.unplug",
                "isolate.hold-power",
                "return.remove-battery-pack",
                "open.hatch",
                "open.keyboard",
                "uncover.S1",
                "close.hatch",
                "record.modules",
                "record.bays",
                "look.S1",
                "pull.S1",
                "pull.D1",
                "fit.S1",
                "fit.D1",
                "clean.inside",
                "measure.open",
                "start.power-on",
                "start.start-order",
                "set-up.D1.initialise",
                "set-up.D1.format",
                "set-up.D1.rename",
                "set-up.D1.mount",
                "set-up.D1.grow",
                "set-up.D1.array",
            ];

        static SwapSetup Setup() =>
            new(
                [new SwapModule("S1", Make.Module(8), true)],
                ["S1", "S2"],
                new Dictionary<int, IReadOnlyList<string>>(),
                new SwapOutcome(false),
                false
            );
    }
}
