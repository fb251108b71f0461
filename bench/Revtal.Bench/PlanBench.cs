using System.Diagnostics;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>
/// Layouts of 4, 8 and 32 slots, and the options of a catalogue of 5,000 kinds; the floor is weighing one assignment of
/// as many slots.
/// </summary>
internal static class PlanBench
{
    private static readonly int[] Sizes = [4, 8, 16, 24, 32, 48, 64, 12];

    public static async Task RunAsync(Report report)
    {
        Layout(report, "layout: 4 slots, 4 modules", Board(4, 2), Different(4), 1);
        Layout(report, "layout: 8 slots, 8 different modules", Board(8, 4), Different(8), 20);
        Layout(report, "layout: 32 slots in 16 channels, 32 modules of 8 sizes", Board(32, 16), Different(32), 200);
        Options(report);
        await PreviewAsync(report);
    }

    private static void Layout(Report report, string name, Guide guide, MemoryModule[] modules, double most)
    {
        var before = Empty(guide);
        var (ours, floor) = (new List<double>(), new List<double>());
        LayoutAnswer answer = Layouts.Best(guide, before, [], [.. modules]);
        for (var i = 0; i < 30; i++)
        {
            _ = Layouts.Best(guide, before, [], [.. modules]);
        }

        for (var i = 0; i < 30; i++)
        {
            ours.Add(Time(() => Layouts.Best(guide, before, [], [.. modules])));
            floor.Add(
                Time(() => ChannelShare.Of(guide.Memory.Slots.Zip(modules, (s, m) => (s.Channel, m.Size.Bytes))))
            );
        }

        var worst = Report.Percentile(ours, 0.95);
        var proof = answer.IsProved
            ? "proved best"
            : $"at {100.0 * answer.Best.Worth.Shared / answer.Bound:0.0} % of the bound";
        report.Tell(
            name,
            $"{worst:0.00} ms, {Report.Median(ours) / Report.Median(floor):0} times one weighing; {proof}",
            $"under {most} ms",
            worst < most
        );
    }

    private static void Options(Report report)
    {
        var guide = Board(16, 4);
        var before = Seated(guide, [16, 0, 8, 0, 16, 0, 8, 0]);
        var random = new Random(7420);
        var offers = Enumerable
            .Range(0, 5_000)
            .Select(i =>
            {
                var size = Sizes[random.Next(Sizes.Length)];
                var pieces = random.Next(3) == 0 ? 2 : 1;
                return new Offer(
                    new PartNumber($"P{i}"),
                    Module(size) with
                    {
                        RatedSpeed = 2133 + (267 * random.Next(5)),
                        PartNumber = new PartNumber($"P{i}"),
                        Maker = $"M{i % 40}",
                    },
                    pieces,
                    pieces * size * (2.5m + random.Next(100) / 50m),
                    random.Next(4)
                );
            })
            .ToArray();
        Keepable[] keep =
        [
            .. Occupancy
                .Of(guide, before)
                .Where(o => o.Module is not null)
                .Select(o => new Keepable(o.Slot, o.Module!.Size.Bytes >> 30)),
        ];
        var wanted = new Wanted(MemorySize.Gigabytes(128), Stages: 2);
        OptionsAnswer answer = UpgradeOptions.Find(guide, before, keep, offers, wanted);
        for (var i = 0; i < 3; i++)
        {
            _ = UpgradeOptions.Find(guide, before, keep, offers, wanted);
        }

        var ours = new List<double>();
        for (var i = 0; i < 10; i++)
        {
            ours.Add(Time(() => UpgradeOptions.Find(guide, before, keep, offers, wanted)));
        }

        var worst = Report.Percentile(ours, 0.95);
        report.Tell(
            $"options: 5,000 part kinds, 16 slots ({answer.Options.Count} worth offering)",
            $"{worst:0} ms",
            "under 300 ms",
            worst < 300
        );
    }

    // What the plan page asks at each change, beside a bare answer of the same service.
    private static async Task PreviewAsync(Report report)
    {
        await using var service = await ServiceProcess.StartAsync(
            Directory.CreateTempSubdirectory("revtal-bench-").FullName,
            program: "revtal-demo"
        );
        var mara = service.As("mara");
        var wish = new PlanRequest([
            .. "ABCD".Select(c => new SlotChange(
                $"{c}2",
                new MemoryModule(MemorySize.Gigabytes(16), "DDR4", "DIMM", PartNumber: new PartNumber("OS4U-16G"))
            )),
        ]);
        var (ours, floor) = (new List<double>(), new List<double>());
        for (var i = 0; i < 200; i++)
        {
            var start = Stopwatch.GetTimestamp();
            await mara.PreviewAsync(107, wish);
            ours.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
            start = Stopwatch.GetTimestamp();
            await service.Http.GetStringAsync("/healthz");
            floor.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }

        var worst = Report.Percentile(ours.Skip(40).ToList(), 0.95);
        report.Tell(
            "plan page: a change answered by the service (95th of 160)",
            $"{worst:0.0} ms, {Report.Median(ours.Skip(40)) / Report.Median(floor.Skip(40)):0} times a bare answer",
            "under 100 ms",
            worst < 100
        );
    }

    private static MemoryModule Module(int gigabytes) => new(MemorySize.Gigabytes(gigabytes), "DDR4", "DIMM");

    private static MemoryModule[] Different(int count) =>
        [
            .. Enumerable
                .Range(0, count)
                .Select(i =>
                    Module(Sizes[i % Sizes.Length]) with
                    {
                        PartNumber = new PartNumber($"P{i}"),
                        RatedSpeed = 2666 + i,
                    }
                ),
        ];

    private static Reading Empty(Guide guide) => Seated(guide, new int[guide.Memory.Slots.Count]);

    private static Reading Seated(Guide guide, int[] gigabytes) =>
        new(
            [Source.FirmwareTables],
            SystemIdentity.Unknown,
            FirmwareIdentity.Unknown,
            new MemoryReading(
                null,
                null,
                null,
                null,
                [
                    .. guide.Memory.Slots.Select(
                        (s, i) =>
                            new SlotReading(
                                s.ReportsAs,
                                null,
                                i < gigabytes.Length ? (long)gigabytes[i] << 30 : 0,
                                "DIMM",
                                "DDR4",
                                2666
                            )
                    ),
                ]
            )
        );

    private static Guide Board(int count, int channels)
    {
        var slots = Enumerable
            .Range(0, count)
            .Select(i =>
                MemorySlot.Named($"S{i}") with
                {
                    Channel = $"C{i % channels}",
                    ReportsAs = $"L{i}",
                    Reach = "cover",
                }
            )
            .ToArray();
        return new Guide(
            new ModelFacts("Quillon", "Bench", "QB1", "workstation", null, null),
            new MemoryFacts(
                "DDR4",
                "DIMM",
                [2666, 3200],
                MemorySize.Gigabytes(4096),
                null,
                slots,
                FillOrder.Unsaid with
                {
                    Any = true,
                },
                null,
                null
            ),
            [],
            [],
            [Removal.Named("cover", [], 2)],
            [],
            null,
            null,
            [],
            []
        );
    }

    private static double Time<T>(Func<T> action)
    {
        var start = Stopwatch.GetTimestamp();
        action();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }
}
