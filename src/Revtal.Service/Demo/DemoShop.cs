using Revtal.Contracts;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Storage;

namespace Revtal.Service.Demo;

/// <summary>
/// Fills the Saltmarsh Road shop by the same road that every change travels; a shop that has orders already is left as it is.
/// </summary>
internal sealed class DemoShop
{
    private static readonly Person[] Staff =
    [
        new("ines", "Ines Havgard", Role.Lead), new("mara", "Mara Lind", Role.Technician), new("tobi", "Tobi Quist", Role.Technician),
        new("juno", "Juno Aal", Role.Technician), new("pell", "Pell Ostrem", Role.Technician), new("sanne", "Sanne Dyk", Role.Desk),
    ];

    private readonly OrderDesk desk;
    private readonly OrderShelf shelf;
    private readonly StoryClock clock;
    private int order;
    private int told;

    private DemoShop(IServiceProvider services, TimeSpan ago)
    {
        shelf = services.GetRequiredService<OrderShelf>();
        clock = new StoryClock(TimeProvider.System.GetUtcNow() - ago);
        desk = new OrderDesk(shelf, services.GetRequiredService<Journal>(), services.GetRequiredService<JournalWriter>(), services.GetRequiredService<GuideShelf>(), clock);
    }

    /// <param name="folder">Holds <c>guides/*.yaml</c> and <c>captures/*</c>.</param>
    public static async Task FillAsync(IServiceProvider services, string folder)
    {
        if (services.GetRequiredService<Journal>().LastPosition() > 0)
        {
            return;
        }

        var people = services.GetRequiredService<PeopleStore>();
        foreach (var person in Staff)
        {
            await people.PutAsync(person);
        }

        var shelf = services.GetRequiredService<GuideShelf>();
        foreach (var file in Directory.GetFiles(Path.Combine(folder, "guides"), "*.yaml").Order(StringComparer.Ordinal))
        {
            await shelf.PublishAsync(await File.ReadAllTextAsync(file), "ines", TimeProvider.System.GetUtcNow());
        }

        var captures = Path.Combine(folder, "captures");
        await Begin(9).TideGauge(captures);
        await Begin(6).Letterpress();
        await Begin(1.2).Ferry();
        await Begin(0.4).Choir();
        await Begin(1.1).School();
        await Begin(0.9).Birds();
        await Begin(0.5).TideGaugeAgain();
        await Begin(0.1).LetterpressAgain();
        await Begin(3).FerryAgain();
        await Begin(2).ChoirAgain();

        DemoShop Begin(double daysAgo) => new(services, TimeSpan.FromDays(daysAgo));
    }

    // The real captures, done to the end.
    private async Task TideGauge(string captures)
    {
        await TakeIn("FJ14", "Tide-gauge office", "The chart program stops when two stations are open", "Two stations at once, all day", "NF14-0417", "Mains adapter, sleeve", "Scratch on the lid", Backup.Made);
        await Read(Phase.Before, FromDisk(captures, "vm-before-4g"), "mara");
        await Plan("mara", new SlotChange("S1", From: "S2"), new SlotChange("S2", Ddr4(16, "Ostrava", "OS4S-16G32")));
        await Agree("J. Marsk, by telephone");
        await RunAll("mara");
        await Read(Phase.After, FromDisk(captures, "vm-after-20g"), "mara");
        await Do("ready", "mara", (o, g) => OrderRules.MarkReady(o, g, Role.Technician, null));
        await Do("hand-back", "sanne", (o, _) => OrderRules.HandBack(o, "J. Marsk", "None left over; the 4 GB module moved to S1"));
    }

    // The one that went wrong and was found out.
    private async Task Letterpress()
    {
        const string Serial = "NF14-0932";
        await TakeIn("FJ14", "Letterpress printer", "Slow with large plates", "Open a whole plate without waiting", Serial, "Mains adapter", "Ink on the palm rest", Backup.Waived);
        await Read(Phase.Before, DemoMachines.Capture("FJ14", Serial, 0, 8), "tobi");
        await Plan("tobi", new SlotChange("S1", Ddr4(8, "Tarnmoor", "TM-8S")));
        await Agree("A. Pressel, at the desk");
        await RunAll("tobi");
        await Read(Phase.After, DemoMachines.Capture("FJ14", Serial, -8, 8), "tobi");
        await Do("reseat", "tobi", (o, g) => OrderRules.Reseat(o, g, ["S1"], "Only 8 GB seen"));
        await RunAll("tobi", "The right latch had not clicked");
        await Read(Phase.After, DemoMachines.Capture("FJ14", Serial, 8, 8), "tobi");
        await Do("ready", "tobi", (o, g) => OrderRules.MarkReady(o, g, Role.Technician, null));
    }

    // Short, waiting for a hand.
    private async Task Ferry()
    {
        const string Serial = "PW24-7731";
        await TakeIn("PW24", "Ferry ticket desk", "Ticket program freezes on Saturdays", "Four windows and the camera", Serial, "Stand, keyboard", "Sticker on the rear door", Backup.Made);
        await Read(Phase.Before, DemoMachines.Capture("PW24", Serial, 4, 0, 4, 0), "juno");
        await Plan("juno", new SlotChange("S1", Ddr4(16, "Ostrava", "OS4S-16G")), new SlotChange("S3", Ddr4(16, "Ostrava", "OS4S-16G")));
        await Agree("R. Fahr, by mail");
        await RunAll("juno");
        await Read(Phase.After, DemoMachines.Capture("PW24", Serial, 16, 0, -16, 0), "juno");
    }

    // On the bench, open.
    private async Task Choir()
    {
        const string Serial = "QT40-2215";
        await TakeIn("QT40", "Choir's archive", "Cutting recordings takes all evening", "64 GB for the audio desk", Serial, "None", "Dust inside", Backup.Made);
        await Read(Phase.Before, DemoMachines.Capture("QT40", Serial, 0, 16, 0, 16), "pell");
        await Plan("pell", new SlotChange("A1", Ddr4(16, "Ostrava", "OS4S-16G", "DIMM")), new SlotChange("B1", Ddr4(16, "Ostrava", "OS4S-16G", "DIMM")));
        await Agree("M. Alto, at the desk");
        await RunSteps("pell", null, sheet => sheet.Steps.TakeWhile(s => s.Part <= RunPart.Open).Count());
    }

    private async Task School()
    {
        const string Serial = "NS13-0088";
        await TakeIn("NS13", "School chemistry lab", "Spectra will not load", "32 GB", Serial, "Mains adapter", "Good", Backup.Made);
        await Read(Phase.Before, DemoMachines.Capture("NS13", Serial, 8, 8), "mara");
        await Plan("mara", new SlotChange("S1", Ddr5(16)), new SlotChange("S2", Ddr5(16)));
        await Agree("Dr. Kolb, by mail");
    }

    private async Task Birds()
    {
        const string Serial = "TB6-1140";
        await TakeIn("TB6", "Bird-ringing station", "The picture index is slow", "As much memory as it takes", Serial, "None", "Six drives, all green", Backup.Made);
        await Read(Phase.Before, DemoMachines.Capture("TB6", Serial, 4, 0), "juno");
        await Plan("juno", new SlotChange("M1", Ddr4(16, "Ostrava", "OS4S-16G")), new SlotChange("M2", Ddr4(16, "Ostrava", "OS4S-16G")));
    }

    private async Task TideGaugeAgain()
    {
        const string Serial = "QW80-0305";
        await TakeIn("QW80", "Tide-gauge office", "The surge model swaps", "Eight slots full, if it pays", Serial, "Two displays", "Good", Backup.Made);
        await Read(Phase.Before, DemoMachines.Capture("QW80", Serial, 16, 0, 16, 0, 16, 0, 16, 0), "tobi");
    }

    private async Task LetterpressAgain() =>
        await TakeIn("NM2", "Letterpress printer", "Newly bought, with one small module", "Two modules alike", "NM2-5120", "Mains adapter, foot", "New", Backup.Unknown);

    private async Task FerryAgain()
    {
        await TakeIn("NL12", "Ferry ticket desk", "Slow on board", "More memory", "NL12-0450", "Mains adapter", "Salt on the hinge", Backup.Unknown);
        await Do("park", "ines", (o, _) => OrderRules.Park(o, "Memory is soldered; the customer thinks about another machine"));
    }

    // Right in sum, in other slots than planned.
    private async Task ChoirAgain()
    {
        const string Serial = "QT40-2216";
        await TakeIn("QT40", "Choir's archive", "Second desk, same wish", "24 GB", Serial, "None", "Good", Backup.Made);
        await Read(Phase.Before, DemoMachines.Capture("QT40", Serial, 0, 8, 0, 0), "pell");
        await Plan("pell", new SlotChange("B2", Ddr4(16, "Ostrava", "OS4S-16G", "DIMM")));
        await Agree("M. Alto, at the desk");
        await RunAll("pell");
        await Read(Phase.After, DemoMachines.Capture("QT40", Serial, 0, 16, 0, 8), "pell");
    }

    private static MemoryModule Ddr4(int gigabytes, string maker, string part, string form = "SO-DIMM") =>
        new(MemorySize.Gigabytes(gigabytes), "DDR4", form, gigabytes >= 16 ? 3200 : 2666, maker, part);

    private static MemoryModule Ddr5(int gigabytes) => new(MemorySize.Gigabytes(gigabytes), "DDR5", "SO-DIMM", 4800, "Ostrava", $"OS5S-{gigabytes}G");

    private static CaptureBundle FromDisk(string captures, string name) => CaptureBundle.Of(Documents.CaptureFolder.Read(Path.Combine(captures, name)));

    private async Task TakeIn(string model, string customer, string complaint, string goal, string serial, string accessories, string condition, Backup backup)
    {
        var request = new TakeInRequest(model, customer, complaint, null, serial, goal, accessories, condition, backup);
        order = (await desk.TakeInAsync(request, By("sanne"), CancellationToken.None)).Order;
    }

    private Task Read(Phase phase, CaptureBundle bundle, string by)
    {
        var capture = ReadingEndpoints.Store(bundle);
        var reading = CaptureDecoder.Decode(bundle.ToFiles());
        return Do("reading", by, (o, g) => OrderRules.TakeReading(o, g, phase, reading, capture.Hash, null), capture);
    }

    private Task Plan(string by, params SlotChange[] changes) => Do("plan", by, (o, g) => OrderRules.SetPlan(o, g, changes, null));

    private Task Agree(string customer) => Do("agree", "sanne", (o, _) => OrderRules.Agree(o, customer, null));

    private Task RunAll(string by, string? note = null) => RunSteps(by, note, sheet => sheet.Steps.Count);

    private async Task RunSteps(string by, string? note, Func<RunSheet, int> most)
    {
        var snapshot = await shelf.LoadAsync(order);
        var sheet = snapshot.Order.Sheet(snapshot.Guide)!;
        foreach (var step in sheet.Steps.Take(most(sheet)))
        {
            await Do(step.Id, by, (o, g) => OrderRules.Confirm(
                o, g, new StepConfirmation(step.Id, by, default, step.LooseFasteners > 0 ? step.LooseFasteners : null, null, step.Part == RunPart.Fit ? note : null)));
        }
    }

    private Task<Receipt> Do(string action, string by, Func<Order, Core.Guides.Guide, EntryBody> decide, CaptureRow? capture = null) =>
        desk.RecordAsync(order, action, null, By(by), decide, CancellationToken.None, capture);

    private Sender By(string id)
    {
        clock.Pass(TimeSpan.FromMinutes(2 + (told++ % 5)));
        return new Sender(Staff.First(p => p.Id == id), Guid.CreateVersion7(), MayBeRetry: false, IfMatch: null);
    }

    /// <summary>The time of the story: some days ago, minutes apart.</summary>
    private sealed class StoryClock(DateTimeOffset start) : TimeProvider
    {
        private DateTimeOffset now = start;

        public void Pass(TimeSpan time) => now += time;

        public override DateTimeOffset GetUtcNow() => now;
    }
}
