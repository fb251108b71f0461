using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Dummies;
using Revtal.Service.Arrivals;
using Revtal.Service.Dummies;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Service.Pictures;
using Revtal.Service.Planning;
using Revtal.Service.Reports;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Demo;

/// <summary>
/// Fills the Saltmarsh Road shop by the same road that every change travels; a shop that has orders already is left as
/// it is.
/// </summary>
internal sealed partial class DemoShop
{
    private static readonly Person[] Staff =
    [
        new("ines", "Ines Havgard", Role.Lead),
        new("mara", "Mara Lind", Role.Technician),
        new("tobi", "Tobi Quist", Role.Technician),
        new("juno", "Juno Aal", Role.Technician),
        new("pell", "Pell Ostrem", Role.Technician),
        new("sanne", "Sanne Dyk", Role.Desk),
    ];

    private readonly OrderDesk desk;
    private readonly OrderShelf shelf;
    private readonly PlanDesk plans;
    private readonly QuoteDesk quotes;
    private readonly ReportDesk reports;
    private readonly StoryClock clock;

    // What a trap taught after some orders: they keep the revision from before.
    private const string LearnedLater = "A1 is not the first";

    private int order;
    private int told;

    private DemoShop(IServiceProvider services, TimeSpan ago)
    {
        shelf = services.GetRequiredService<OrderShelf>();
        plans = services.GetRequiredService<PlanDesk>();
        quotes = services.GetRequiredService<QuoteDesk>();
        clock = new StoryClock(TimeProvider.System.GetUtcNow() - ago);
        desk = new OrderDesk(
            shelf,
            services.GetRequiredService<Journal>(),
            services.GetRequiredService<JournalWriter>(),
            services.GetRequiredService<GuideShelf>(),
            services.GetRequiredService<PartStore>(),
            services.GetRequiredService<PeopleStore>(),
            clock
        );
        reports = new ReportDesk(
            shelf,
            desk,
            quotes,
            services.GetRequiredService<PeopleStore>(),
            services.GetRequiredService<Proofs>(),
            services.GetRequiredService<IOptions<ShopOptions>>(),
            clock
        );
    }

    /// <param name="folder">Holds <c>guides/*.yaml</c> and <c>captures/*</c>.</param>
    public static async Task FillAsync(IServiceProvider services, string folder)
    {
        if (services.GetRequiredService<Journal>().LastPosition() > 0)
        {
            return;
        }

        await Filling.DoAsync(
            services.GetRequiredService<IStoreEngine>().Folder,
            () => FillEmptyAsync(services, folder)
        );
    }

    private static async Task FillEmptyAsync(IServiceProvider services, string folder)
    {
        var people = services.GetRequiredService<PeopleStore>();
        var start = TimeProvider.System.GetUtcNow();
        foreach (var person in Staff)
        {
            await people.PutAsync(person, Hand(start.AddDays(-40)));
        }

        var guides = services.GetRequiredService<GuideShelf>();
        var files = Directory
            .GetFiles(Path.Combine(folder, "guides"), "*.yaml")
            .Order(StringComparer.Ordinal)
            .Select(File.ReadAllText)
            .ToArray();
        var pictures = Directory
            .GetFiles(Path.Combine(folder, "guides", "pictures"))
            .Select(File.ReadAllBytes)
            // The guides name them as they lie here.
            .Select(b => Documents.Pictures.Make(b) with { Hash = Documents.Pictures.HashOf(b), Content = b })
            .Select(PictureEndpoints.Row);
        await services.GetRequiredService<PictureStore>().PutAsync(pictures);
        await guides.PublishAsync(
            [
                .. files.Select(f =>
                    f.Contains(LearnedLater, StringComparison.Ordinal) ? WithoutLine(f, LearnedLater) : f
                ),
            ],
            Hand(start.AddDays(-40))
        );

        await DemoStock.FillAsync(services.GetRequiredService<PartStore>(), start.AddDays(-38));
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
        await guides.PublishAsync(files, Hand(start.AddDays(-0.2)));
        await Begin(0.3).BirdsOpen();
        await Begin(12).LetterpressFault();
        await Begin(20).TideGaugeModel();
        await Begin(5).FerrySalt();
        await Begin(15).SchoolAbove();
        await Begin(8).FerryWithoutDoor();
        await Begin(0.12).SchoolDisk();
        await Begin(7).BirdsDrive();
        await Begin(0.8).ChoirSearch();
        await Begin(4.2).FerryWatched();
        await Begin(0.06).BirdsRebuild(captures);
        await Begin(0.6).ChoirForgotten(captures);
        await Begin(6).FerryCameBack();
        await Begin(0.05).BirdsUnknown(services);
        await Begin(0.7).SchoolBatch();
        // What was told so long ago was read.
        foreach (var person in Staff)
        {
            services.GetRequiredService<NoticeStore>().Read(person.Id, long.MaxValue, start.AddDays(-0.2));
        }

        await Begin(0.1).Bench();

        // One simulated machine of each model, to try the whole job on.
        var dummies = services.GetRequiredService<DummyDesk>();
        foreach (
            var code in (await guides.ListAsync())
                .Items.Where(g => !guides.Get(g.Code, g.Revision).IsSketch)
                .Select(g => g.Code)
        )
        {
            await dummies.MakeAsync(
                new DummyRequest(code.ToLowerInvariant(), code, null),
                Hand(start),
                CancellationToken.None
            );
        }

        DemoShop Begin(double daysAgo) => new(services, TimeSpan.FromDays(daysAgo));
    }

    private static Hand Hand(DateTimeOffset at) => new("ines", at, Guid.CreateVersion7());

    private static MemoryModule Ddr4(int gigabytes, string maker, string part, string form = "SO-DIMM") =>
        new(MemorySize.Gigabytes(gigabytes), "DDR4", form, gigabytes >= 16 ? 3200 : 2666, maker, new PartNumber(part));

    private static MemoryModule Ddr5(int gigabytes) =>
        new(MemorySize.Gigabytes(gigabytes), "DDR5", "SO-DIMM", 4800, "Ostrava", new PartNumber($"OS5S-{gigabytes}G"));

    private static CaptureBundle FromDisk(string captures, string name) =>
        CaptureBundle.Of(Documents.CaptureFolder.Read(Path.Combine(captures, name)));

    private static string WithoutLine(string text, string part) =>
        string.Join('\n', text.Split('\n').Where(l => !l.Contains(part, StringComparison.Ordinal)));

    private async Task TakeIn(
        string model,
        string customer,
        string complaint,
        string goal,
        string serial,
        string accessories,
        string condition,
        Backup backup,
        SealConsent seal = SealConsent.NoSeal,
        string? variant = null
    )
    {
        var request = new TakeInRequest(
            model,
            customer,
            complaint,
            null,
            serial,
            goal,
            accessories,
            condition,
            backup,
            seal,
            variant
        );
        await TakeIn(request, null);
    }

    private async Task TakeIn(TakeInRequest request, ToldArrival? told) =>
        order = (await desk.TakeInAsync(request, told, By("sanne"), CancellationToken.None)).Order;

    /// <summary>The machines that wait for it together.</summary>
    private Task<IReadOnlyList<Receipt>> Together(
        string by,
        int batch,
        OrderAct act,
        Func<OrderSnapshot, bool> choose,
        Func<OrderSnapshot, EntryBody> decide
    ) => desk.RecordBatchAsync(batch, act, null, By(by), choose, decide, CancellationToken.None);

    /// <summary>Steps one by one, as far as the named one.</summary>
    private Task RunUntil(string by, StepId last) =>
        RunSteps(by, null, sheet => sheet.Steps.TakeWhile(s => s.Id != last).Count() + 1);

    private Task CameOff(string by, CameOffWish what) =>
        Do(by, (o, g) => SketchRules.TakeOff(o, g, what, by, clock.GetUtcNow()));

    private Task Uncovered(string by, string position) =>
        Do(
            by,
            (o, g) => BenchRules.Confirm(o, g, new StepConfirmation(StepId.Uncover(position), by, clock.GetUtcNow()))
        );

    /// <param name="gigabytes">What sits in the slots, in their order; a negative size is a module that is fitted but
    /// not seen.</param>
    private async Task Read(Phase phase, string serial, int[] gigabytes, string by, params SeenDrive[] drives) =>
        await Read(phase, await Memory(serial, gigabytes), by, drives);

    // Memory as the dummies tell it, drives and arrays as a real system did.
    private async Task Read(Phase phase, string serial, int[] gigabytes, string by, string folder)
    {
        string[] ofMemory = ["DMI", "smbios_entry_point", "meminfo", "notes.txt"];
        var drives = Documents.CaptureFolder.Read(folder).Where(f => !ofMemory.Contains(f.Name));
        var memory = (await Memory(serial, gigabytes)).ToFiles();
        await Read(phase, CaptureBundle.Of([.. memory, .. drives]), by);
    }

    private async Task<CaptureBundle> Memory(string serial, int[] gigabytes)
    {
        var guide = (await shelf.LoadAsync(order)).Guide;
        var slots = guide
            .Memory.Slots.Zip(gigabytes)
            .Where(p => p.Second != 0)
            .ToDictionary(
                p => p.First.Id,
                p =>
                    DummyParts.Module(
                        guide,
                        Math.Abs(p.Second),
                        null,
                        $"{serial}-{p.First.Id}-{Math.Abs(p.Second)}"
                    ) with
                    {
                        Seat = p.Second < 0 ? DummySeat.Half : DummySeat.Home,
                    }
            );
        return DummyReport.Memory(guide, DummyMachine.Make(guide, "demo", null, serial) with { Slots = slots });
    }

    private Task Read(Phase phase, CaptureBundle bundle, string by, params SeenDrive[] drives)
    {
        var capture = ReadingEndpoints.Store(bundle);
        var reading = CaptureDecoder.Decode(bundle.ToFiles());
        reading = drives.Length == 0 ? reading : Reading.Join(reading, EyeReading.Make(null, null, [], null, drives));
        return Do(by, (o, g) => MeasureRules.TakeReading(o, g, phase, reading, capture.Hash, null), capture);
    }

    private Task Plan(string by, params SlotChange[] changes) => Plan(by, false, changes);

    private Task Plan(string by, bool cleans, params SlotChange[] changes)
    {
        var request = plans.Complete(order, new PlanRequest(changes));
        return Do(by, (o, g) => PlanRules.SetPlan(o, g, request.Changes, null, cleans: cleans));
    }

    private async Task Agree(string customer)
    {
        var quote = await QuoteAsync();
        await Do("sanne", (_, _) => PlanRules.Agree(customer, null, quote));
    }

    private async Task<Core.Parts.Quote> QuoteAsync()
    {
        var snapshot = await shelf.LoadAsync(order);
        return await quotes.QuoteAsync(snapshot.Order, snapshot.Guide, CancellationToken.None);
    }

    private Task RunAll(string by, string? note = null, Func<string, string>? serial = null) =>
        RunSteps(by, note, sheet => sheet.Steps.Count, serial);

    /// <param name="serial">What the label of the drive in a bay says.</param>
    private async Task RunSteps(string by, string? note, Func<RunSheet, int> most, Func<string, string>? serial = null)
    {
        var snapshot = await shelf.LoadAsync(order);
        var sheet = snapshot.Order.Sheet(snapshot.Guide)!;
        foreach (var step in sheet.Steps.Take(most(sheet)).Where(s => snapshot.Order.RunState.Confirmed(s.Id) is null))
        {
            clock.Pass(TimeSpan.FromSeconds(step.TimedFrom is null ? 0 : step.Seconds ?? 0));
            var occupants =
                step.Id == StepId.RecordModules
                    ? null
                    : step.Records.ToDictionary(p => p, serial ?? (p => $"BA{order}-7{p[^1]}"));
            await Do(
                by,
                (o, g) =>
                    BenchRules.Confirm(
                        o,
                        g,
                        new StepConfirmation(
                            step.Id,
                            by,
                            clock.GetUtcNow(),
                            step.LooseFasteners > 0 ? step.LooseFasteners : null,
                            null,
                            step.Id.Verb == StepVerb.Look ? "Contacts clean, latch whole: it stays"
                                : step.Part == RunPart.Fit ? note
                                : null,
                            Occupants: occupants is { Count: > 0 } ? occupants : null,
                            Seen: step.Part == RunPart.Measure ? sheet.Expected : null
                        )
                    )
            );
        }
    }

    private async Task<Receipt> Do(string by, Func<Order, Guide, EntryBody> decide, CaptureRow? capture = null)
    {
        var snapshot = await shelf.LoadAsync(order);
        var act = decide(snapshot.Order, snapshot.Guide).Act;
        return await desk.RecordAsync(order, act, null, By(by), decide, CancellationToken.None, capture);
    }

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
