using System.Diagnostics;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Captures.Smbios;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Revtal.Dummies;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>Decoding large tables, checking a machine of 64 positions, and a step of the swap test.</summary>
internal static class MeasureBench
{
    private const int Slots = 48,
        Bays = 16;

    public static void Run(Report report)
    {
        Tables(report);
        Check(report);
        Swap(report, "8 modules, does not start", new SwapOutcome(false));
        Swap(report, "8 modules, one slot not seen", new SwapOutcome(true, [.. Names(8).Skip(1)]));
        Swap(report, "8 modules, only a total", new SwapOutcome(true, null, MemorySize.Gigabytes(56)));
    }

    // A table as large as a board of 512 slots has it; the floor reads every byte once.
    private static void Tables(Report report)
    {
        var table = FirmwareTables.Table(
            new DummyBoard(
                "Quillon",
                "QW80",
                "1",
                "2.0",
                1 << 20,
                [
                    .. Enumerable
                        .Range(0, 512)
                        .Select(i => new DummySlot(
                            $"DIMM {i}",
                            $"BANK {i}",
                            8192,
                            3200,
                            3200,
                            "Ostrava",
                            $"{i:X8}",
                            "OS4U-8G"
                        )),
                ]
            )
        );
        // Long enough for the compiler to have settled.
        var decode = Best(() => SmbiosDecoder.Decode(table), 4000);
        long sum = 0;
        var floor = Best(() => sum += table.Sum(b => (long)b), 4000);
        var speed = table.Length / decode.TotalSeconds / 1e6;
        report.Tell(
            $"decode a table of {table.Length >> 10} KB",
            $"{speed:0} MB/s, {decode / floor:0.0} of reading every byte once",
            "over 100 MB/s",
            speed > 100 && sum > 0
        );
    }

    private static void Check(Report report)
    {
        var small = Repository.Guide("QW80");
        var guide = small with
        {
            Memory = new MemoryFacts(
                "DDR4",
                "DIMM",
                [3200],
                MemorySize.Gigabytes(64 * Slots),
                null,
                [
                    .. Enumerable
                        .Range(0, Slots)
                        .Select(i => MemorySlot.Named($"S{i}") with { Channel = $"{i % 12}", ReportsAs = $"DIMM {i}" }),
                ],
                FillOrder.Unsaid with
                {
                    Any = true,
                },
                null,
                null
            ),
            Drives =
            [
                .. Enumerable
                    .Range(0, Bays)
                    .Select(i => new DriveBay(
                        $"B{i}",
                        "2.5 in",
                        null,
                        "SATA 6 Gb/s",
                        null,
                        i == 0,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null
                    )),
            ],
        };
        var (before, after) = (Read(guide, Slots / 2), Read(guide, Slots - 3));
        var plan = Planner.Make(
            guide,
            before,
            [
                .. Enumerable
                    .Range(Slots / 2, Slots / 2)
                    .Select(i => new SlotChange(
                        $"S{i}",
                        new MemoryModule(MemorySize.Gigabytes(32), "DDR4", "DIMM", 3200)
                    )),
            ]
        );
        var time = Best(() => Checker.Check(guide, new(before, 1), new(plan, 2), new(after, 3)), 200);
        report.Tell(
            $"check {Slots + Bays} positions",
            $"{time.TotalMilliseconds:0.000} ms",
            "under 1 ms",
            time.TotalMilliseconds < 1
        );
    }

    private static Reading Read(Guide guide, int filled) =>
        new(
            [Source.FirmwareTables],
            SystemIdentity.Unknown,
            FirmwareIdentity.Unknown,
            new MemoryReading(
                filled * (32L << 30),
                (filled * (32L << 30)) - (1L << 30),
                null,
                Slots,
                [
                    .. guide.Memory.Slots.Select(
                        (s, i) =>
                            new SlotReading(
                                s.ReportsAs,
                                null,
                                i < filled ? 32L << 30 : 0,
                                "DIMM",
                                "DDR4",
                                3200,
                                3200,
                                "Ostrava",
                                $"{i:X8}",
                                "OS4U-32G"
                            )
                    ),
                ]
            ),
            null,
            [
                .. guide.Drives.Select(b => new DriveReading(
                    b.Id,
                    new Drive(DriveSize.Sold(4000), Serial: b.Id),
                    1,
                    false
                )),
            ]
        );

    private static void Swap(Report report, string what, SwapOutcome first)
    {
        var setup = new SwapSetup(
            [
                .. Names(8)
                    .Select(
                        (n, i) => new SwapModule(n, new MemoryModule(MemorySize.Gigabytes(8), "DDR4", "DIMM"), i > 3)
                    ),
            ],
            Names(8),
            new Dictionary<int, IReadOnlyList<string>>(),
            first,
            false
        );
        var trials = new List<SwapTrial>();
        var worst = TimeSpan.Zero;
        SwapTest.Of(setup, trials);
        for (var steps = 0; steps < 12; steps++)
        {
            var watch = Stopwatch.StartNew();
            var state = SwapTest.Of(setup, trials);
            worst = watch.Elapsed > worst ? watch.Elapsed : worst;
            if (state.Next is not { } next)
            {
                break;
            }

            var seen = next.Where(p => p.Module != "S1").ToArray();
            trials.Add(
                new(
                    next,
                    first.Started && seen.Length > 0
                        ? first.Slots is null
                            ? new SwapOutcome(true, null, MemorySize.Gigabytes(8 * seen.Length))
                            : new SwapOutcome(true, [.. seen.Select(p => p.Slot)])
                        : new SwapOutcome(seen.Length == next.Count)
                )
            );
        }

        report.Tell(
            $"swap test: {what}",
            $"{worst.TotalMilliseconds:0.0} ms for the slowest of {trials.Count + 1} steps",
            "under 50 ms a step",
            worst.TotalMilliseconds < 50
        );
    }

    private static string[] Names(int count) => [.. Enumerable.Range(1, count).Select(i => $"S{i}")];

    private static TimeSpan Best(Action act, int times)
    {
        var best = TimeSpan.MaxValue;
        for (var i = 0; i < times; i++)
        {
            var watch = Stopwatch.StartNew();
            act();
            best = watch.Elapsed < best ? watch.Elapsed : best;
        }

        return best;
    }
}
