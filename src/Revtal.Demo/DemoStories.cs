using Microsoft.Extensions.DependencyInjection;
using Revtal.Contracts;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Dummies;
using Revtal.Service.Arrivals;
using Revtal.Service.Orders;
using Revtal.Storage;

namespace Revtal.Demo;

/// <summary>What came over the counter of Saltmarsh Road, order by order.</summary>
internal sealed partial class DemoShop
{
    // The real captures, done to the end.
    private async Task TideGauge(string captures)
    {
        await TakeIn(
            "FJ14",
            "Tide-gauge office",
            "The chart program stops when two stations are open",
            "Two stations at once, all day",
            "NF14-0417",
            "Mains adapter, sleeve",
            "Scratch on the lid",
            Backup.Made
        );
        await Read(Phase.Before, FromDisk(captures, "vm-before-4g"), "mara");
        await Plan("mara", new SlotChange("S1", From: "S2"), new SlotChange("S2", Ddr4(16, "Ostrava", "OS4S-16G32")));
        await Agree("J. Marsk, by telephone");
        await RunAll("mara");
        await Read(Phase.After, FromDisk(captures, "vm-after-20g"), "mara");
        await Do("mara", (o, g) => CloseRules.MarkReady(o, g, Role.Technician, null));
        await Do(
            "sanne",
            (o, g) => CloseRules.HandBack(o, g, "J. Marsk", "None left over; the 4 GB module moved to S1")
        );
        await reports.MakeAsync(order, By("sanne"), CancellationToken.None);
    }

    // The one that went wrong and was found out.
    private async Task Letterpress()
    {
        const string Serial = "NF14-0932";
        await TakeIn(
            "FJ14",
            "Letterpress printer",
            "Slow with large plates",
            "Open a whole plate without waiting",
            Serial,
            "Mains adapter",
            "Ink on the palm rest",
            Backup.Waived
        );
        await Read(Phase.Before, Serial, [0, 8], "tobi");
        await Do("tobi", (_, _) => TrialRules.TakeLoad(Phase.Before, DemoLoad.Of(7.2, 2.9), null, "opening a plate"));
        await Do("sanne", (_, _) => TrialRules.Ask("a whole plate, opened and turned", 10));
        await Plan("tobi", new SlotChange("S1", Ddr4(8, "Tarnmoor", "TM-8S")));
        await Agree("A. Pressel, at the desk");
        await RunAll("tobi");
        await Read(Phase.After, Serial, [-8, 8], "tobi");
        await Do("tobi", (o, g) => BenchRules.Reseat(o, g, ["S1"], "Only 8 GB seen"));
        await RunAll("tobi", "The right latch had not clicked");
        await Read(Phase.After, Serial, [8, 8], "tobi");
        await Do("tobi", (_, _) => TrialRules.TakeLoad(Phase.After, DemoLoad.Of(9.8, 0), null, "the same plate"));
        await Do("tobi", (o, _) => TrialRules.Run(o, null, 12, 1, TrialOutcome.AsWished, null));
        await Do("tobi", (o, g) => CloseRules.MarkReady(o, g, Role.Technician, null));
    }

    // Short, waiting for a hand.
    private async Task Ferry()
    {
        const string Serial = "PW24-7731";
        await TakeIn(
            "PW24",
            "Ferry ticket desk",
            "Ticket program freezes on Saturdays",
            "Four windows and the camera",
            Serial,
            "Stand, keyboard",
            "Sticker on the rear door",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [4, 0, 4, 0], "juno");
        await Plan(
            "juno",
            new SlotChange("S1", Ddr4(16, "Ostrava", "OS4S-16G")),
            new SlotChange("S3", Ddr4(16, "Ostrava", "OS4S-16G"))
        );
        await Agree("R. Fahr, by mail");
        await RunAll("juno");
        await Do("juno", (o, g) => DriveRules.Bag(o, g, "S1", "shelf 2, with the mains adapter"));
        await Read(Phase.After, Serial, [16, 0, -16, 0], "juno");
    }

    // On the bench, open.
    private async Task Choir()
    {
        const string Serial = "QT40-2215";
        await TakeIn(
            "QT40",
            "Choir's archive",
            "Cutting recordings takes all evening",
            "64 GB for the audio desk",
            Serial,
            "None",
            "Dust inside",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [0, 16, 0, 16], "pell");
        await Plan(
            "pell",
            new SlotChange("A1", Ddr4(16, "Ostrava", "OS4U-16G", "DIMM")),
            new SlotChange("B1", Ddr4(16, "Ostrava", "OS4U-16G", "DIMM"))
        );
        await Agree("M. Alto, at the desk");
        await RunSteps("pell", null, sheet => sheet.Steps.TakeWhile(s => s.Part <= RunPart.Open).Count());
    }

    private async Task School()
    {
        const string Serial = "NS13-0088";
        await TakeIn(
            "NS13",
            "School chemistry lab",
            "Spectra will not load",
            "32 GB",
            Serial,
            "Mains adapter",
            "Good",
            Backup.Made,
            SealConsent.Given
        );
        await Read(Phase.Before, Serial, [8, 8], "mara");
        await Plan("mara", new SlotChange("S1", Ddr5(16)), new SlotChange("S2", Ddr5(16)));
        await Agree("Dr. Kolb, by mail");
    }

    private async Task Birds()
    {
        const string Serial = "TB6-1140";
        await TakeIn(
            "TB6",
            "Bird-ringing station",
            "The picture index is slow",
            "As much memory as it takes",
            Serial,
            "None",
            "Six drives, all green",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [4, 0], "juno");
        await Plan(
            "juno",
            new SlotChange("M1", Ddr4(16, "Ostrava", "OS4S-16G")),
            new SlotChange("M2", Ddr4(16, "Ostrava", "OS4S-16G"))
        );
    }

    private async Task TideGaugeAgain()
    {
        const string Serial = "QW80-0305";
        await TakeIn(
            "QW80",
            "Tide-gauge office",
            "The surge model swaps, and its disk is full",
            "Eight slots full, if it pays",
            Serial,
            "Two displays",
            "Good",
            Backup.Made
        );
        await Read(
            Phase.Before,
            Serial,
            [16, 0, 16, 0, 16, 0, 16, 0],
            "tobi",
            new SeenDrive(
                "F1",
                new Drive(
                    DriveSize.Parse("500 GB"),
                    "M.2 2280",
                    "M",
                    "PCIe 3.0 x4",
                    2.2m,
                    512,
                    "Basaltine",
                    null,
                    "BN500-305"
                ),
                DriveSize.Parse("463 GB")
            ),
            new SeenDrive("F2", null)
        );
    }

    private async Task LetterpressAgain() =>
        await TakeIn(
            "NM2",
            "Letterpress printer",
            "Newly bought, with one small module",
            "Two modules alike",
            "NM2-5120",
            "Mains adapter, foot",
            "New",
            Backup.Unknown
        );

    private async Task FerryAgain()
    {
        await TakeIn(
            "NL12",
            "Ferry ticket desk",
            "Slow on board",
            "More memory",
            "NL12-0450",
            "Mains adapter",
            "Salt on the hinge",
            Backup.Unknown
        );
        await Do(
            "ines",
            (o, _) =>
                CloseRules.Park(o, "Memory is soldered; the customer thinks about another machine", clock.GetUtcNow())
        );
    }

    // Right in sum, in other slots than planned.
    private async Task ChoirAgain()
    {
        const string Serial = "QT40-2216";
        await TakeIn("QT40", "Choir's archive", "Second desk, same wish", "24 GB", Serial, "None", "Good", Backup.Made);
        await Read(Phase.Before, Serial, [0, 8, 0, 0], "pell");
        await Plan("pell", new SlotChange("B2", Ddr4(16, "Ostrava", "OS4U-16G", "DIMM")));
        await Agree("M. Alto, at the desk");
        await RunAll("pell");
        await Read(Phase.After, Serial, [0, 16, 0, 8], "pell");
    }

    // Trays out, each written down by its bay.
    private async Task BirdsOpen()
    {
        const string Serial = "TB6-1141";
        await TakeIn(
            "TB6",
            "Bird-ringing station",
            "The second box, the same wish",
            "32 GB",
            Serial,
            "Six trays, one key",
            "Dust in the fan",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [4, 0], "juno");
        await Plan(
            "juno",
            new SlotChange("M1", Ddr4(16, "Ostrava", "OS4S-16G")),
            new SlotChange("M2", Ddr4(16, "Ostrava", "OS4S-16G"))
        );
        await Agree("H. Ringel, by mail");
        await RunSteps("juno", null, sheet => sheet.Steps.Count(s => s.Part <= RunPart.Isolate) + 2);
        await Do(
            "juno",
            (o, g) =>
                BenchRules.Find(
                    o,
                    g,
                    FindKind.Dust,
                    StepId.Parse("open.drives-out"),
                    "A mat of it before the fan; blown out"
                )
        );
        await Do(
            "juno",
            (o, g) =>
                NoteRules.Suggest(
                    o,
                    g,
                    new GuideChange(
                        GuideChangeKind.Trap,
                        "open.drives-out",
                        "The key turns only while the handle is pressed."
                    ),
                    StepId.Open("drives-out")
                )
        );
    }

    // A fault, nothing new: the same modules seated anew, then the boot drive that came out with the plate.
    private async Task LetterpressFault()
    {
        const string Serial = "NM2-5017";
        await TakeIn(
            "NM2",
            "Letterpress printer",
            "Restarts while the plate maker runs",
            "That it stays on",
            Serial,
            "Adapter",
            "Good",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [8, 8], "tobi");
        await Plan("tobi", new SlotChange("S1", Reseat: true), new SlotChange("S2", Reseat: true));
        await Agree("A. Pressel, by telephone");
        await Do(
            "tobi",
            (o, _) => DriveRules.TellCopy(CopyState.Verified, "Image on the bench disk, 41,204 files counted", 200)
        );
        await RunAll("tobi", "Contacts dull; wiped");
        await Read(Phase.After, Serial, [8, 8], "tobi");
        await Do("tobi", (o, g) => CloseRules.MarkReady(o, g, Role.Technician, null));
        await Do("sanne", (o, g) => CloseRules.HandBack(o, g, "A. Pressel", "Nothing was changed"));
    }

    private async Task TideGaugeModel()
    {
        const string Serial = "QW80-0112";
        await TakeIn(
            "QW80",
            "Tide-gauge office",
            "The surge model needs a day",
            "128 GB",
            Serial,
            "Mains cords",
            "Good",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [16, 0, 16, 0, 16, 0, 16, 0], "pell");
        await Plan("pell", [.. "ABCD".Select(c => new SlotChange($"{c}2", Ddr4(16, "Ostrava", "OS4U-16G", "DIMM")))]);
        await Agree("J. Marsk, by mail");
        await Do(
            "ines",
            (o, g) =>
                BenchRules.Waive(
                    o,
                    g,
                    Role.Lead,
                    Gate.StillCooling,
                    StepId.Isolate(Isolation.CoolDown),
                    "Came in cold from the van"
                )
        );
        await RunAll("pell");
        await Read(Phase.After, Serial, [16, 16, 16, 16, 16, 16, 16, 16], "pell");
        await Do("pell", (o, g) => CloseRules.MarkReady(o, g, Role.Technician, null));
        await Do("sanne", (o, g) => CloseRules.HandBack(o, g, "J. Marsk", "None"));
    }

    // Only looked at.
    private async Task FerrySalt()
    {
        const string Serial = "NL12-0451";
        await TakeIn(
            "NL12",
            "Ferry ticket desk",
            "A wave came over the counter",
            "Is it worth a repair",
            Serial,
            "None",
            "Salt on the hinge",
            Backup.Waived
        );
        await Read(Phase.Before, Serial, [8], "mara");
        await Plan("mara", true, new SlotChange("M1", Inspect: true), new SlotChange("D1", Inspect: true));
        await Agree("R. Fahr, at the desk");
        await RunSteps("mara", null, sheet => sheet.Steps.TakeWhile(s => s.Part <= RunPart.Open).Count());
        await Do(
            "mara",
            (o, g) =>
                BenchRules.Find(
                    o,
                    g,
                    FindKind.LiquidMark,
                    StepId.Open("base"),
                    "White crust between hinge and board, none at the drive"
                )
        );
        await Do(
            "mara",
            (o, g) =>
                BenchRules.Find(o, g, FindKind.LeftAlone, StepId.Open("base"), "The fan: salt on its frame, runs free")
        );
        await RunAll("mara", null);
        await Read(Phase.After, Serial, [8], "mara");
        await Do("mara", (o, g) => CloseRules.MarkReady(o, g, Role.Technician, null));
    }

    // More than its maker states, and it works.
    private async Task SchoolAbove()
    {
        const string Serial = "NS13-0072";
        await TakeIn(
            "NS13",
            "School chemistry lab",
            "The spectra fill it",
            "As much as it takes",
            Serial,
            "Adapter",
            "Good",
            Backup.Made,
            SealConsent.Given
        );
        await Read(Phase.Before, Serial, [16, 16], "mara");
        await Plan("mara", new SlotChange("S1", Ddr5(48)), new SlotChange("S2", Ddr5(48)));
        await Agree("Dr. Kolb, by mail");
        await RunAll("mara");
        await Read(Phase.After, Serial, [48, 48], "mara");
        await Do("mara", (o, g) => CloseRules.MarkReady(o, g, Role.Technician, null));
        await Do("sanne", (o, g) => CloseRules.HandBack(o, g, "Dr. Kolb", "Two 16 GB modules given back"));
    }

    // A build without a door: the whole back comes off.
    private async Task FerryWithoutDoor()
    {
        const string Serial = "PW24-T-2040";
        await TakeIn(
            "PW24",
            "Ferry ticket desk",
            "The touch counter is slow",
            "16 GB",
            Serial,
            "None",
            "Good",
            Backup.Made,
            variant: "PW24-T"
        );
        await Read(Phase.Before, Serial, [4, 0, 4, 0], "juno");
        await Plan(
            "juno",
            new SlotChange("S1", Ddr4(8, "Tarnmoor", "TM-8S")),
            new SlotChange("S3", Ddr4(8, "Tarnmoor", "TM-8S"))
        );
        await Agree("R. Fahr, by mail");
        await RunAll("juno");
        await Read(Phase.After, Serial, [8, 0, 8, 0], "juno");
        await Do("juno", (o, g) => CloseRules.MarkReady(o, g, Role.Technician, null));
        await Do("sanne", (o, g) => CloseRules.HandBack(o, g, "R. Fahr", "Two 4 GB modules, recycled"));
    }

    // A full drive: its copy runs.
    private async Task SchoolDisk()
    {
        const string Serial = "NF14-1207";
        await TakeIn(
            "FJ14",
            "School chemistry lab",
            "No room for the next term's spectra",
            "1 TB, nothing lost",
            Serial,
            "Mains adapter",
            "Good",
            Backup.Made
        );
        await Read(
            Phase.Before,
            Serial,
            [0, 8],
            "mara",
            new SeenDrive(
                "D1",
                new Drive(
                    DriveSize.Parse("500 GB"),
                    "M.2 2280",
                    "M",
                    "PCIe 3.0 x4",
                    2.2m,
                    512,
                    "Basaltine",
                    new PartNumber("BN-500"),
                    "BN500-771"
                ),
                DriveSize.Parse("462 GB")
            )
        );
        await Plan(
            "mara",
            new SlotChange(
                "D1",
                Drive: new DriveWish(
                    new Drive(DriveSize.Parse("1 TB"), PartNumber: new PartNumber("BN-1T")),
                    DataPath.CopyFirst,
                    Setup: new DriveSetup(Label: "Spectra", Grow: true)
                )
            )
        );
        await Agree("Dr. Kolb, by telephone");
        await Do(
            "mara",
            (o, _) =>
                DriveRules.BeginCopy(
                    o,
                    "D1",
                    "BN500-771",
                    "BN1T-001",
                    "image, block by block",
                    DriveSize.Parse("462 GB")
                )
        );
        clock.Pass(TimeSpan.FromMinutes(24));
        await Do("mara", (o, _) => DriveRules.AdvanceCopy(o, "D1", DriveSize.Parse("171 GB")));
    }

    // One of six drives wore out: its bay, the array's word, and the old drive cleared before it left the house.
    private async Task BirdsDrive()
    {
        const string Serial = "TB6-0977";
        await TakeIn(
            "TB6",
            "Bird-ringing station",
            "Bay 3 blinks amber",
            "All six green again",
            Serial,
            "Key",
            "Good",
            Backup.Made
        );
        await Read(
            Phase.Before,
            Serial,
            [4, 4],
            "juno",
            [
                .. Enumerable
                    .Range(1, 6)
                    .Select(i => new SeenDrive(
                        $"B{i}",
                        new Drive(
                            DriveSize.Parse("8 TB"),
                            "3.5 in",
                            null,
                            "SATA 6 Gb/s",
                            26.1m,
                            512,
                            "Basaltine",
                            new PartNumber("BH-8T"),
                            $"BH8T-{400 + i}"
                        )
                    )),
            ]
        );
        await Plan(
            "juno",
            new SlotChange(
                "B3",
                Drive: new DriveWish(
                    new Drive(DriveSize.Parse("8 TB"), PartNumber: new PartNumber("BH-8T")),
                    DataPath.CleanInstall,
                    ArrayState: "degraded, 5 of 6, no resync"
                )
            )
        );
        await Agree("H. Ringel, by mail");
        await RunAll("juno");
        await Read(Phase.After, Serial, [4, 4], "juno");
        await Do(
            "juno",
            (o, g) =>
                DriveRules.Settle(
                    o,
                    g,
                    "B3",
                    PartFate.Recycled,
                    new Wipe(WipeCategory.Destroy, "drilled through both platters", "looked through the holes"),
                    "It would not spin up"
                )
        );
        await Do("juno", (o, g) => CloseRules.MarkReady(o, g, Role.Lead, "The array rebuilds"));
        await Do("sanne", (o, g) => CloseRules.HandBack(o, g, "H. Ringel", null));
    }

    // Seated anew and still short: the search for what is at fault has begun.
    private async Task ChoirSearch()
    {
        const string Serial = "QT40-2231";
        await TakeIn(
            "QT40",
            "Choir's archive",
            "The third desk runs out of memory",
            "64 GB",
            Serial,
            "None",
            "Good",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [0, 16, 0, 16], "pell");
        await Plan(
            "pell",
            new SlotChange("A1", Ddr4(16, "Ostrava", "OS4U-16G", "DIMM")),
            new SlotChange("B1", Ddr4(16, "Ostrava", "OS4U-16G", "DIMM"))
        );
        await Agree("M. Alto, by mail");
        await RunAll("pell");
        await Read(Phase.After, Serial, [16, 16, -16, 16], "pell");
        await Do("pell", (o, g) => BenchRules.Reseat(o, g, ["B1"], "B1 not seen"));
        await RunAll("pell", "It clicked; the groove was clean");
        await Read(Phase.After, Serial, [16, 16, -16, 16], "pell");
        await Do("pell", (o, g) => SwapRules.BeginSwapTest(o, g, null));
        // The module of B1 stays unseen wherever it sits.
        await Do(
            "pell",
            (o, g) =>
                SwapRules.Try(
                    o,
                    g,
                    null,
                    new SwapOutcome(true, [.. o.Swap!.State.Next!.Where(p => p.Module != "B1").Select(p => p.Slot)]),
                    true
                )
        );
    }

    // A fault that comes and goes: watched, with figures to show that the cure costs nothing.
    private async Task FerryWatched()
    {
        const string Serial = "NM2-5190";
        await TakeIn(
            "NM2",
            "Ferry ticket desk",
            "Freezes about twice a week",
            "That it stays on",
            Serial,
            "Adapter",
            "Good",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [8, 8], "juno");
        await Do(
            "juno",
            (o, _) =>
                MeasureRules.TakeScores(
                    o,
                    Phase.Before,
                    [new("Copy", "MB/s", 16_940, true), new("Timetable", "s", 48.2m, false)],
                    null
                )
        );
        await Plan("juno", new SlotChange("S1", Reseat: true), new SlotChange("S2", Reseat: true));
        await Agree("R. Fahr, by telephone");
        await Do(
            "juno",
            (o, _) => DriveRules.TellCopy(CopyState.Verified, "Image on the bench disk, 18,031 files counted", 100)
        );
        await RunAll("juno", "Salt on the contacts of S1; wiped");
        await Read(Phase.After, Serial, [8, 8], "juno");
        await Do(
            "juno",
            (o, _) =>
                MeasureRules.TakeScores(
                    o,
                    Phase.After,
                    [new("Copy", "MB/s", 21_310, true), new("Timetable", "s", 41.7m, false)],
                    null
                )
        );
        await Do(
            "juno",
            (o, _) => WatchRules.BeginWatch(o, "It freezes", clock.GetUtcNow(), clock.GetUtcNow().AddDays(14), 3)
        );
        clock.Pass(TimeSpan.FromDays(3));
        await Do(
            "sanne",
            (o, _) =>
                WatchRules.NoteWatch(
                    o,
                    WatchSign.None,
                    DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime),
                    clock.GetUtcNow(),
                    "R. Fahr: not once"
                )
        );
    }

    // A tray changed in a box of six: the array brings the new drive into step.
    private async Task BirdsRebuild(string captures)
    {
        const string Serial = "TB6-0646";
        string Folder(string name) => Path.Combine(captures, "box", name);
        await TakeIn(
            "TB6",
            "Bird-ringing station",
            "Bay 3 counts errors",
            "A new drive before it fails",
            "TB6-0640",
            "Key",
            "Good",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [4, 4], "juno", Folder("before"));
        await Do("juno", (o, _) => IntakeRules.Correct(Serial, null, null, "The plate behind the fan tells it"));
        await Plan(
            "juno",
            new SlotChange(
                "B3",
                Drive: new DriveWish(
                    new Drive(DriveSize.Parse("4 TB"), PartNumber: new PartNumber("BH-4T")),
                    DataPath.LeftBehind,
                    "H. Ringel: the array has it twice",
                    ArrayState: "clean, 6 of 6"
                )
            )
        );
        await Agree("H. Ringel, by mail");
        await RunAll("juno", serial: bay => $"TB6-S{bay[^1]}");
        await Read(Phase.After, Serial, [4, 4], "juno", Folder("after-bay3-new-rebuilding"));
    }

    // The memory is right, and the cable of the data drive was left off.
    private async Task ChoirForgotten(string captures)
    {
        const string Serial = "QT40-2240";
        string Folder(string name) => Path.Combine(captures, "tower", name);
        await TakeIn(
            "QT40",
            "Choir's archive",
            "The fourth desk, like the others",
            "16 GB",
            Serial,
            "None",
            "Good",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [0, 8, 0, 0], "pell", Folder("before"));
        await Plan("pell", new SlotChange("B2", Ddr4(8, "Tarnmoor", "TM-8U", "DIMM")));
        await Agree("M. Alto, at the desk");
        await RunAll("pell");
        await Read(Phase.After, Serial, [0, 8, 0, 8], "pell", Folder("after-data-cable-off"));
    }

    // Seated anew, watched, and it froze again: not the contacts.
    private async Task FerryCameBack()
    {
        const string Serial = "NM2-5203";
        await TakeIn(
            "NM2",
            "Ferry ticket desk",
            "Freezes when the queue is long",
            "That it stays on",
            Serial,
            "Adapter",
            "Good",
            Backup.Made
        );
        await Read(Phase.Before, Serial, [8, 8], "tobi");
        await Plan("tobi", new SlotChange("S1", Reseat: true), new SlotChange("S2", Reseat: true));
        await Agree("R. Fahr, at the desk");
        await RunAll("tobi", "Contacts wiped");
        await Read(Phase.After, Serial, [8, 8], "tobi");
        await Do(
            "tobi",
            (o, _) => WatchRules.BeginWatch(o, "It freezes", clock.GetUtcNow(), clock.GetUtcNow().AddDays(10), 2)
        );
        clock.Pass(TimeSpan.FromDays(2));
        await Do(
            "sanne",
            (o, _) =>
                WatchRules.NoteWatch(
                    o,
                    WatchSign.Freeze,
                    DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime),
                    clock.GetUtcNow(),
                    "R. Fahr: at noon, with forty in the queue"
                )
        );
        await Do(
            "tobi",
            (o, _) =>
                WatchRules.EndWatch(o, Role.Technician, WatchOutcome.CameBack, clock.GetUtcNow(), "Froze at noon, once")
        );
    }

    // A model that the shop does not know: it told of itself, and its guide is written while it lies open.
    private async Task BirdsUnknown(IServiceProvider services)
    {
        const string Serial = "NV15-2207";
        var fjell = services.GetRequiredService<GuideShelf>().Get("FJ14", 1);
        // The machine as it is; nobody in the shop knows that.
        var vidde = fjell with
        {
            Model = new ModelFacts("Norrland", "Vidde 15", "NV15", "laptop", null, null),
            Drives = [],
        };
        var machine = DummyMachine.Make(vidde, "demo", null, Serial);
        var slot = vidde.Memory.Slots[0].Id;
        var capture = ReadingEndpoints.Store(
            DummyReport.Memory(
                vidde,
                machine with
                {
                    Slots = new Dictionary<string, DummyFitted> { [slot] = DummyParts.Module(vidde, 8, null, Serial) },
                }
            )
        );
        var row = await services
            .GetRequiredService<ArrivalStore>()
            .PutAsync(capture, new Hand("sanne", clock.GetUtcNow(), Guid.CreateVersion7()));
        await TakeIn(
            new TakeInRequest(
                null,
                "Bird-ringing station",
                "The ringing tables take minutes to open",
                Goal: "All years in one table",
                Accessories: "Mains adapter",
                Condition: "Dents at the hinge",
                Backup: Backup.Made,
                NewModel: new NewModel("Norrland", "Vidde 15", "laptop")
            ),
            await services.GetRequiredService<ArrivalDesk>().ReadAsync(row.Id, CancellationToken.None)
        );
        await Plan("pell", new SlotChange((await Empty())!, Ddr4(16, "Ostrava", "OS4S-16G")));
        await Agree("L. Ternholt, at the desk");
        await RunUntil("pell", StepId.Isolate(Isolation.Ground));
        await CameOff(
            "pell",
            new CameOffWish(
                "bottom cover",
                [
                    new CameOffFasteners(8, "PH0", 5),
                    new CameOffFasteners(2, "PH0", 8, Hidden: "under the two rear feet"),
                ],
                Clips: 6,
                How: "from the hinge side, a hand's breadth at a time"
            )
        );
        await CameOff(
            "pell",
            new CameOffWish("battery connector", Cables: ["battery, straight up by its edges"], Isolates: true)
        );
        await Do(
            "pell",
            (o, g) =>
                SketchRules.See(
                    o,
                    g,
                    new SeenPosition(
                        g.Memory.Slots[1].Id,
                        Angle: 30,
                        Latch: "spread-both",
                        Notch: "short side to the hinge"
                    )
                )
        );

        async Task<string?> Empty()
        {
            var snapshot = await shelf.LoadAsync(order);
            return Occupancy
                .Of(snapshot.Guide, snapshot.Order.Before!.Value)
                .FirstOrDefault(s => s is { Known: true, Module: null })
                ?.Slot;
        }
    }
}
