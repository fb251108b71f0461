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

/// <summary>What the rules refuse, and with which words: what is wrong, and what to do instead.</summary>
public sealed class RefusalWordsTests
{
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);
    private static readonly Guide Fjell = Make.Fjell;
    private static readonly Guide Tower = Repository.Guide("QT40");
    private static readonly Guide Box = Repository.Guide("TB6");
    private static readonly Order TakenIn = Make.Order(Make.TakenIn());
    private static readonly Order Done = Make.Order(Make.Run());
    private static readonly Order Checked = Done.With(
        new ReadingTaken(Phase.After, Make.Reading(Fjell, [8, 8]), null, null)
    );
    private static readonly Order Short = Done.With(
        new ReadingTaken(Phase.After, Make.Reading(Fjell, [0, 8]), null, null)
    );

    [Fact]
    public void Plans() =>
        Holds(
            "refused-plans",
            ("twice", () => Plan(Fjell, [0, 8], Fit("S1"), Fit("S1"))),
            ("no wish", () => Plan(Fjell, [0, 8], new SlotChange("S1"))),
            ("unknown slot", () => Plan(Fjell, [0, 8], Fit("S9"))),
            ("nothing", () => Plan(Fjell, [0, 8])),
            ("leaves nothing", () => Plan(Fjell, [0, 8], new SlotChange("S2", Empty: true))),
            ("empty reseat", () => Plan(Fjell, [0, 8], new SlotChange("S1", Reseat: true))),
            ("empty move", () => Plan(Fjell, [0, 8], new SlotChange("S2", From: "S1"))),
            ("from itself", () => Plan(Fjell, [0, 8], new SlotChange("S2", From: "S2"))),
            ("moved twice", () => Plan(Tower, [8, 0, 0, 0], new("A2", From: "A1"), new("B1", From: "A1"))),
            ("soldered", () => Plan(Repository.Guide("NL12"), [8], Fit("M1"))),
            ("drive in a slot", () => Plan(Fjell, [0, 8], new SlotChange("S1", Drive: Drive()))),
            ("module in a bay", () => Plan(Fjell, [0, 8], new SlotChange("D1", Fit: Make.Module(8)))),
            ("data path", () => Plan(Fjell, [0, 8], new SlotChange("D1", Drive: Drive()))),
            ("no word", () => Plan(Fjell, [0, 8], new SlotChange("D1", Drive: Drive(DataPath.LeftBehind)))),
            (
                "copy and format",
                () =>
                    Plan(
                        Fjell,
                        [0, 8],
                        new SlotChange("D1", Drive: Drive(DataPath.CopyFirst) with { Setup = new(FileSystem: "ext4") })
                    )
            ),
            (
                "system from nowhere",
                () =>
                    Plan(
                        Tower,
                        [8, 0, 0, 0],
                        new SlotChange("D2", Drive: Sata(DataPath.CopyFirst) with { SystemFrom = "D9" })
                    )
            ),
            (
                "system without a way",
                () => Plan(Tower, [8, 0, 0, 0], new SlotChange("D2", Drive: Sata(null) with { SystemFrom = "D1" }))
            ),
            ("drive from nowhere", () => Plan(Tower, [8, 0, 0, 0], new SlotChange("D2", From: "D9"))),
            ("array untold", () => Plan(Box, [8, 0], new SlotChange("B1", Drive: Sata(DataPath.CleanInstall)))),
            ("discount", () => PlanRules.SetPlan(Measured(Fjell, [0, 8]), Fjell, [Fit("S1")], null, discount: 101)),
            (
                "seal",
                () =>
                {
                    var sealedGuide = Repository.Guide("NS13");
                    var order = Measured(sealedGuide, [8, 8]);
                    order = order with { Intake = order.Intake with { SealConsent = SealConsent.Refused } };
                    PlanRules.SetPlan(order, sealedGuide, [new SlotChange("S1", Reseat: true)], null);
                }
            ),
            ("unpriced offer", () => PlanRules.Offer(Quote("TM-8S for S1"), "hash", Now, Now.AddDays(3))),
            ("offer too long", () => PlanRules.Offer(Quote(), "hash", Now, Now.AddDays(91))),
            ("no name", () => PlanRules.Agree(" ", null)),
            ("no name either", () => PlanRules.Decline(null, null)),
            ("no cleaning", () => new ShopTerms("EUR", 60, 0).Need(true)),
            ("mend a bay", () => Mend(Fit("D1"))),
            ("mend what was not fitted", () => MendRules.Mend(Checked, Fjell, [], ["S2"], "x", Role.Technician)),
            ("mend nothing", () => Mend(new SlotChange("S1", Fit: Make.Module(8)))),
            ("mend without why", () => MendRules.Mend(Checked, Fjell, [Fit("S1", 16)], [], null, Role.Technician))
        );

    [Fact]
    public void Work() =>
        Holds(
            "refused-work",
            ("find without what", () => BenchRules.Find(Done, Fjell, FindKind.Other, null, " ")),
            ("sign without what", () => BenchRules.Find(Done, Fjell, FindKind.Sign, null, null)),
            ("left without why", () => BenchRules.Find(Done, Fjell, FindKind.LeftAlone, null, null)),
            ("none lost", () => BenchRules.Find(Done, Fjell, FindKind.LostFastener, null, null)),
            ("no such step", () => BenchRules.Find(Done, Fjell, FindKind.Dust, StepId.Open("roof"), null)),
            ("block what is done", () => BenchRules.Block(Done, Fjell, StepId.Open("hatch"), "x")),
            ("take back an earlier one", () => BenchRules.TakeBack(Done, Fjell, StepId.Open("hatch"), null)),
            ("reseat nothing", () => BenchRules.Reseat(Checked, Fjell, [], null)),
            ("waive as a technician", () => Waive(Role.Technician, Gate.StillCooling, "open.hatch")),
            ("waive what is open", () => Waive(Role.Lead, Gate.StillCooling, "open.hatch")),
            ("waive no stop", () => Waive(Role.Lead, Gate.RunStopped, null)),
            ("waive nowhere", () => Waive(Role.Lead, Gate.TallyOpen, null)),
            ("confirmed already", () => Confirm("open.hatch")),
            (
                "confirmed already with another count",
                () =>
                    BenchRules.Confirm(
                        Done,
                        Fjell,
                        new StepConfirmation(StepId.Open("hatch"), "mara", Now, Fasteners: 4)
                    )
            ),
            (
                "confirmed already without this note",
                () =>
                    BenchRules.Confirm(Done, Fjell, new StepConfirmation(StepId.Open("hatch"), "mara", Now, Note: "x"))
            ),
            ("unknown step", () => Confirm("open.roof")),
            ("no copy planned", () => DriveRules.BeginCopy(Done, "D1", "a", "b", "image", DriveSize.Sold(500))),
            ("no copy begun", () => DriveRules.AdvanceCopy(Done, "D1", DriveSize.Sold(500))),
            ("verified by nothing", () => DriveRules.TellCopy(CopyState.Verified, "looked", 0)),
            ("waived by nobody", () => DriveRules.TellCopy(CopyState.Waived, "")),
            ("bag what stays", () => DriveRules.Bag(Done, Fjell, "S2", "shelf")),
            ("settle what stays", () => Settle("S2", PartFate.Kept)),
            ("settle what is inside", () => SettleOut(false, PartFate.Kept)),
            ("bought in without a test", () => SettleOut(true, PartFate.BoughtIn)),
            ("returned without a claim", () => SettleOut(true, PartFate.Returned)),
            ("used nowhere", () => SettleOut(true, PartFate.OtherOrder)),
            ("a drive sold unwiped", () => SettleOut(true, PartFate.Sold, "D2")),
            ("swap nothing", () => SwapRules.BeginSwapTest(Checked, Fjell, new SwapOutcome(true, ["S1", "S2"]))),
            ("adopt the same", () => AdoptRules.Adopt(Done, Fjell, Fjell, 1)),
            (
                "adopt another way in",
                () =>
                    AdoptRules.Adopt(
                        Done,
                        Fjell,
                        Fjell with
                        {
                            Memory = Fjell.Memory with
                            {
                                Slots = [.. Fjell.Memory.Slots.Select(s => s with { Reach = "hatch" })],
                            },
                        },
                        2
                    )
            ),
            (
                "adopt other fasteners",
                () =>
                    AdoptRules.Adopt(
                        Done,
                        Fjell,
                        Fjell with
                        {
                            Removals =
                            [
                                .. Fjell.Removals.Select(r =>
                                    r with
                                    {
                                        Fasteners = [.. r.Fasteners.Select(f => f with { Count = f.Count + 1 })],
                                    }
                                ),
                            ],
                        },
                        2
                    )
            ),
            ("note nothing", () => NoteRules.AddNote(Done, Fjell, " "))
        );

    [Fact]
    public void Gates()
    {
        var deep = new Bench("FJ14", [0, 8], Fit("S1", 16));
        var hot = new Bench("NS13", [8, 8], Fit("S1", 16)).Until("isolate.cool-down");
        var copied = new Bench("QT40", [0, 8, 0, 0], new SlotChange("D1", Drive: Drive(DataPath.CopyFirst)));
        var box = new Bench("TB6", [8, 0], Fit("M2"));
        var nuc = new Bench("NM2", [8, 0], Fit("S2"));
        Holds(
            "refused-steps",
            ("open before it is off", () => Try(deep, "open.hatch")),
            ("fit before it is open", () => Try(deep.Copy().Until("open.keyboard"), "fit.S1")),
            ("close before it is fitted", () => Try(deep.Copy().Until("fit.S1"), "close.hatch")),
            ("start before it is closed", () => Try(deep.Copy().Until("close.hatch"), "start.power-on")),
            ("pull before it is written down", () => Try(copied.Copy().Until("record.bays"), "pull.D1")),
            ("hands before it is cool", () => Try(hot, "isolate.cool-down")),
            ("a seal without consent", () => Try(hot.Copy().Pass(20).Until("open.base"), "open.base")),
            ("a drive without its copy", () => Try(copied.Copy().Until("pull.D1"), "pull.D1")),
            (
                "uncounted",
                () => Try(deep.Copy().Until("open.keyboard"), "open.keyboard", w => w with { Fasteners = null })
            ),
            (
                "one fewer",
                () => Try(deep.Copy().Until("open.keyboard"), "open.keyboard", w => w with { Fasteners = 1 })
            ),
            ("no such hole", () => Try(deep.Copy().Until("open.keyboard"), "open.keyboard", Hole("roof/1"))),
            ("counted at a step without", () => Try(deep, "prepare.bench", w => w with { Fasteners = 2 })),
            ("back uncounted", () => Try(Closing(), "close.keyboard", w => w with { Fasteners = null })),
            ("one back fewer", () => Try(Closing(), "close.keyboard", w => w with { Fasteners = 1 })),
            ("one back more", () => Try(Closing(), "close.keyboard", w => w with { Fasteners = 3 })),
            ("a hole left empty", () => Try(Closing(), "close.keyboard", Hole("keyboard/1"))),
            ("power with a screw inside", () => Try(Lost(), "start.power-on")),
            ("power with screws of two covers inside", () => Try(LostMore(), "start.power-on")),
            ("two lengths, uncounted", () => Try(Lengths(), "open.base", w => w with { Fasteners = null })),
            (
                "two lengths, one fewer of each",
                () => Try(Lengths(), "open.base", Groups(("base-long", 3), ("base-short", 2)))
            ),
            ("two lengths, one of them", () => Try(Lengths(), "open.base", Groups(("base-long", 4)))),
            (
                "two lengths, too many to be",
                () => Try(Lengths(), "open.base", Groups(("base-long", 1000), ("base-short", 3)))
            ),
            (
                "two lengths, changed over",
                () => Try(LengthsOut(), "close.base", Groups(("base-long", 3), ("base-short", 4)))
            ),
            (
                "power by hand",
                () => Try(deep.Copy().Until("measure.open"), "measure.open", w => w with { Seen = null })
            ),
            ("less than planned", () => Try(deep.Copy().Until("measure.open"), "measure.open", Seen(8))),
            ("not as it was read", () => Try(ReadOpen(), "measure.open", Seen(16))),
            ("skipped isolation", () => Try(deep.Copy().Until("isolate.unplug"), "isolate.unplug", Skip("no time"))),
            ("skipped without why", () => Try(deep, "prepare.bench", Skip(null))),
            ("looked without a word", () => Try(Looking(), "look.S2", w => w with { Note = null })),
            ("a drive not written down", () => Try(Out(), "record.drives-out", w => w with { Occupants = null })),
            ("one drive in two bays", () => Try(Out(), "record.drives-out", All("X"))),
            ("a bay that is not asked for", () => Try(Out(), "record.drives-out", Occupant("Z9", "X"))),
            ("drives back untold", () => Try(Back(), "close.drives-out", w => w with { Occupants = null })),
            ("a stranger comes back", () => Try(Back(), "close.drives-out", Occupant("B1", "STRANGER"))),
            ("into another bay", () => Try(Back(), "close.drives-out", Occupant("B1", "BSB2"))),
            ("nothing comes back", () => Try(Back(), "close.drives-out", Occupant("B1", "empty"))),
            (
                "the ribbon's drive untold",
                () => Try(nuc.Copy().Until("close.bottom"), "close.bottom", Occupant("D1", "?"))
            ),
            ("after a swollen battery", () => Try(Swollen(), "open.hatch"))
        );

        Bench LostMore()
        {
            var both = new Bench(
                "FJ14",
                [0, 8],
                Fit("S1", 16),
                new SlotChange("D1", Drive: Drive(DataPath.CleanInstall))
            );
            return both.Until("close.base")
                .Confirm("close.base", w => w with { Fasteners = 7, Explanation = "rolled off" })
                .Confirm("close.keyboard", w => w with { Fasteners = 1, Explanation = "rolled off" })
                .Until("start.power-on");
        }

        Bench Lengths() => hot.Copy().Pass(20).SealGiven().Until("open.base");

        Bench LengthsOut() => Lengths().Until("close.base");

        static Func<StepConfirmation, StepConfirmation> Groups(params (string Group, int Count)[] groups) =>
            w => w with { Fasteners = null, Groups = groups.ToDictionary(g => g.Group, g => g.Count) };

        Bench Closing() => deep.Copy().Until("close.keyboard");

        Bench Lost() =>
            Closing()
                .Confirm("close.keyboard", w => w with { Fasteners = 1, Explanation = "rolled off" })
                .Until("start.power-on");

        Bench ReadOpen()
        {
            var open = deep.Copy().Until("measure.open");
            return open.Add(
                MeasureRules.TakeReading(open.Order, open.Guide, Phase.During, Make.Reading(Fjell, [0, 8]), null, null)
            );
        }

        static Bench Looking() =>
            new Bench("FJ14", [0, 8], Fit("S1", 16), new SlotChange("S2", Inspect: true)).Until("look.S2");

        Bench Out() => box.Copy().Until("record.drives-out");

        Bench Back() => box.Copy().Until("close.drives-out");

        Bench Swollen()
        {
            var found = deep.Copy().Until("open.hatch");
            return found.Add(BenchRules.Find(found.Order, found.Guide, FindKind.SwollenBattery, null, "at the left"));
        }

        static void Try(Bench bench, string step, Func<StepConfirmation, StepConfirmation>? change = null) =>
            bench.Copy().Confirm(step, change);

        static Func<StepConfirmation, StepConfirmation> Hole(string hole) =>
            w => w with { Fasteners = null, Holes = [hole] };

        static Func<StepConfirmation, StepConfirmation> Seen(int gigabytes) =>
            w => w with { Seen = MemorySize.Gigabytes(gigabytes) };

        static Func<StepConfirmation, StepConfirmation> Skip(string? why) =>
            w => w with { Deviation = Deviation.Skipped, Explanation = why };

        static Func<StepConfirmation, StepConfirmation> Occupant(string bay, string what) =>
            w => w with { Occupants = new Dictionary<string, string>(w.Occupants!) { [bay] = what } };

        static Func<StepConfirmation, StepConfirmation> All(string what) =>
            w => w with { Occupants = w.Occupants!.ToDictionary(o => o.Key, _ => what) };
    }

    [Fact]
    public void Ends() =>
        Holds(
            "refused-ends",
            ("ready unread", () => CloseRules.MarkReady(Done, Fjell, Role.Technician, null)),
            ("ready short", () => CloseRules.MarkReady(Short, Fjell, Role.Technician, "it will do")),
            ("ready short, no why", () => CloseRules.MarkReady(Short, Fjell, Role.Lead, null)),
            ("release as a technician", () => CloseRules.Release(Short, Fjell, Role.Technician, "x", "x")),
            ("release what is not held", () => CloseRules.Release(Short, Fjell, Role.Lead, "x", "x")),
            ("hand back to nobody", () => CloseRules.HandBack(Checked, Fjell, "", "in the bag")),
            ("park without why", () => CloseRules.Park(Checked, null, Now)),
            ("park until yesterday", () => CloseRules.Park(Checked, "waits", Now, Now.AddDays(-1))),
            ("park for years", () => CloseRules.Park(Checked, "waits", Now, Now.AddYears(2))),
            ("park for parts of no plan", () => CloseRules.Park(Checked, "waits", Now, null, WakeOn.PartsArrive)),
            ("park for no question", () => CloseRules.Park(Checked, "waits", Now, null, WakeOn.CustomerAnswers)),
            ("a place like a letter", () => SharedRules.TellPlace(new string('x', 41))),
            ("a place's label alone", () => SharedRules.TellPlace("revtal:place: ")),
            ("promised for yesterday", () => SharedRules.Promise(Now.AddDays(-1), Now)),
            ("in a stranger's hands", () => SharedRules.NameOwner("olaf", [new("mara", "Mara Lind", Role.Technician)])),
            ("cancel without why", () => CloseRules.Cancel(" ")),
            ("watch for years", () => WatchRules.BeginWatch(Checked, "freezes", Now, Now.AddYears(2), 1)),
            ("watch until yesterday", () => WatchRules.BeginWatch(Checked, "freezes", Now, Now.AddDays(-1), 1)),
            (
                "a day before the watch",
                () => Watched((o, d) => WatchRules.NoteWatch(o, WatchSign.Freeze, d, Now, null))
            ),
            (
                "something, not said what",
                () => Watched((o, d) => WatchRules.NoteWatch(o, WatchSign.Other, d.AddDays(30), Now, null))
            ),
            (
                "gone unasked",
                () => Watched((o, _) => WatchRules.EndWatch(o, Role.Technician, WatchOutcome.Gone, Now, null))
            ),
            (
                "came back, not said how",
                () => Watched((o, _) => WatchRules.EndWatch(o, Role.Technician, WatchOutcome.CameBack, Now, null))
            )
        );

    [Fact]
    public void Measuring() =>
        Holds(
            "refused-measuring",
            ("a code for two days", () => MeasureRules.Invite(Phase.Before, "hash", Now, TimeSpan.FromHours(48))),
            ("a code for no time", () => MeasureRules.Invite(Phase.Before, "hash", Now, TimeSpan.Zero)),
            ("scores of the open case", () => Scores(Phase.During, new Score("copy", "MB/s", 1, true))),
            ("no scores", () => Scores(Phase.Before)),
            ("a score without a name", () => Scores(Phase.Before, new Score(" ", "MB/s", 1, true))),
            ("a score twice", () => Scores(Phase.Before, new("copy", "s", 1, true), new("copy", "s", 2, true))),
            ("load of the open case", () => TrialRules.TakeLoad(Phase.During, new([], [], [], [], [], []), null, null)),
            ("a trial of no time", () => TrialRules.Ask("a plate", 0)),
            ("a trial for days", () => TrialRules.Ask("a plate", 1441)),
            ("a trial of nothing", () => TrialRules.Run(Checked, null, 10, null, TrialOutcome.AsWished, null)),
            ("a wall of displays", () => TrialRules.Run(Checked, "x", 10, 17, TrialOutcome.AsWished, null)),
            ("failed, not said how", () => TrialRules.Run(Checked, "x", 10, 1, TrialOutcome.Failed, null)),
            ("vouched without why", () => MeasureRules.Vouch(Done, null)),
            ("corrected nothing", () => IntakeRules.Correct(null, null, null, "x")),
            ("corrected without why", () => IntakeRules.Correct("A1", null, null, null)),
            ("a build of another model", () => IntakeRules.TellVariant(Done, Fjell, "QT40-1")),
            ("a seal by nobody", () => IntakeRules.TellSeal(SealConsent.Given, " ")),
            ("later without words", () => LaterRules.Note(Checked, Fjell, [], null, null)),
            ("later what does not fit", () => LaterRules.Note(Checked, Fjell, [Fit("S9")], null, null)),
            ("taken in by nobody", () => IntakeRules.TakeIn(Make.TakenIn().Intake with { Customer = "" }, Fjell, 1)),
            (
                "taken in for nothing",
                () => IntakeRules.TakeIn(Make.TakenIn().Intake with { Complaint = " " }, Fjell, 1)
            ),
            ("taken in as another build", () => IntakeRules.TakeIn(TakenIn.Intake, Fjell, 1, "FJ99"))
        );

    private static void Plan(Guide guide, int[] gigabytes, params SlotChange[] changes) =>
        PlanRules.SetPlan(Measured(guide, gigabytes), guide, changes, null);

    private static Order Measured(Guide guide, int[] gigabytes) =>
        Make.Order(
            Make.TakenIn(guide.Model.Code),
            new ReadingTaken(Phase.Before, Make.Reading(guide, gigabytes), null, null)
        );

    private static SlotChange Fit(string slot, int gigabytes = 8) => new(slot, Make.Module(gigabytes));

    private static DriveWish Drive(DataPath? path = null) =>
        new(new Drive(DriveSize.Sold(1000), "M.2 2280", "M", "PCIe 3.0 x4"), path);

    private static DriveWish Sata(DataPath? path) =>
        new(new Drive(DriveSize.Sold(1000), "3.5 in", null, "SATA 6 Gb/s"), path);

    private static void Mend(SlotChange change) =>
        MendRules.Mend(Checked, Fjell, [change], [], "another one", Role.Technician);

    private static void Waive(Role role, Gate gate, string? step) =>
        BenchRules.Waive(Done, Fjell, role, gate, step is null ? null : StepId.Parse(step), "seen");

    private static void Confirm(string step) =>
        BenchRules.Confirm(Done, Fjell, new StepConfirmation(StepId.Parse(step), "mara", Now));

    private static void Settle(string position, PartFate fate) =>
        DriveRules.Settle(Done, Fjell, position, fate, null, null);

    // A module of A2 and the drive of D2 are to leave; both are out, or neither.
    private static void SettleOut(bool isOut, PartFate fate, string position = "A2")
    {
        var bench = new Bench(
            "QT40",
            [0, 8, 0, 0],
            Fit("A2", 16),
            new SlotChange("D2", Drive: Sata(DataPath.CleanInstall))
        );
        bench.Until(isOut ? "fit.D2" : "record.modules");
        DriveRules.Settle(bench.Order, bench.Guide, position, fate, null, null);
    }

    private static void Scores(Phase phase, params Score[] scores) =>
        MeasureRules.TakeScores(Checked, phase, scores, null);

    private static void Watched(Action<Order, DateOnly> ask)
    {
        var order = Checked.With(WatchRules.BeginWatch(Checked, "freezes", Now, Now.AddDays(40), 2));
        ask(order, DateOnly.FromDateTime(order.Watch!.BeganAt.UtcDateTime).AddDays(-30));
    }

    private static Quote Quote(params string[] unpriced) => new([], [], [], 30, 0, 0, 0, 80, 0, 0, 80, "EUR", unpriced);

    private static void Holds(string topic, params (string Tried, Action Try)[] cases) =>
        WordFile.Holds(
            topic,
            cases.Select(c =>
            {
                var no = Assert.Throws<RefusedException>(c.Try);
                return $"{c.Tried}: {no.Kind}, {no.Code}. {no.Message}";
            })
        );
}
