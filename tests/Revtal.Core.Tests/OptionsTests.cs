using CsCheck;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What is worth offering, and what is not.</summary>
public sealed class OptionsTests
{
    private static readonly Guide Tower = Repository.Guide("QT40");
    private static readonly Offer[] Shelf =
    [
        Part("U8", 8, 20),
        Part("U16", 16, 36),
        Part("U32", 32, 75),
        Part("K32", 16, 66, pieces: 2),
    ];

    [Fact]
    public void A_matching_pair_is_added_and_the_smaller_pair_replaced()
    {
        // 16 GB in both channels, 8 GB beside each.
        var before = Make.Reading(Tower, [8, 16, 8, 16]);
        var answer = Find(before, new Wanted(MemorySize.Gigabytes(64)));
        var cheapest = answer.Options[0];
        Assert.Equal(
            ("Replace 2 × 8 GB by 2 × 16 GB (kit)", 66m, 1.0),
            (cheapest.Words, cheapest.Price, cheapest.InterleavedShare)
        );
        Assert.Equal(["A2", "B2"], cheapest.Kept.Order());
        var added = Find(Make.Reading(Tower, [0, 16, 0, 16]), new Wanted(MemorySize.Gigabytes(64))).Options[0];
        Assert.Equal("Add 2 × 16 GB (kit)", added.Words);
        Assert.Equal(["A1", "B1"], added.Changes.Select(c => c.Slot));
        Assert.Equal(MemorySize.Gigabytes(64), added.Expectation!.Installed);
    }

    [Fact]
    public void A_kit_is_never_torn()
    {
        var answer = UpgradeOptions.Find(
            Tower,
            Make.Reading(Tower, [0, 16, 0, 16]),
            Keep(Make.Reading(Tower, [0, 16, 0, 16])),
            [Part("K32", 16, 66, pieces: 2)],
            new Wanted(MemorySize.Gigabytes(48))
        );
        Assert.All(answer.Options, o => Assert.Equal(0, o.Buys.Sum(b => b.Modules) % 2));
    }

    [Fact]
    public void Two_stages_spread_the_price_and_never_begin_with_less_than_there_was()
    {
        var before = Make.Reading(Tower, [0, 8, 0, 8]);
        var answer = Find(before, new Wanted(MemorySize.Gigabytes(64), Budget: 80, Stages: 2));
        Assert.Contains(answer.Options, o => o.Later is not null);
        Assert.All(
            answer.Options,
            o =>
                Assert.True(
                    o.Price <= 80
                        && o.CapacityLater >= MemorySize.Gigabytes(64)
                        && o.Capacity > MemorySize.Gigabytes(16)
                        && o.Later?.Offer.Pieces is null or >= 1
                )
        );
        Assert.Equal(
            "Raise the budget, lower the target, or allow two stages.",
            Find(before, new Wanted(MemorySize.Gigabytes(64), Budget: 30)).Why![^56..]
        );
    }

    [Fact]
    public void Nothing_to_offer_has_its_reason()
    {
        var soldered = Repository.Guide("NL12");
        Assert.Contains(
            "soldered",
            UpgradeOptions
                .Find(soldered, Make.Reading(soldered, [8]), [], Shelf, new Wanted(MemorySize.Gigabytes(16)))
                .Why!,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "more than a QT40 takes",
            Find(Make.Reading(Tower, [0, 8, 0, 8]), new Wanted(MemorySize.Gigabytes(1024))).Why!,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "takes DDR4",
            UpgradeOptions
                .Find(Tower, Make.Reading(Tower, [0, 8, 0, 8]), [], [], new Wanted(MemorySize.Gigabytes(32)))
                .Why!,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_part_that_slows_the_rest_down_is_not_taken_for_being_cheap()
    {
        var before = Make.Reading(Tower, [0, 16, 0, 16], speed: 3200);
        var slow = Part("SLOW", 16, 10) with { Module = Part("SLOW", 16, 10).Module with { RatedSpeed = 2133 } };
        Assert.DoesNotContain(
            UpgradeOptions
                .Find(Tower, before, Keep(before), [.. Shelf, slow], new Wanted(MemorySize.Gigabytes(48)))
                .Options,
            o => o.Buys.Any(b => b.Offer.Number == new PartNumber("SLOW"))
        );
        Assert.Contains(
            UpgradeOptions.Find(Tower, before, Keep(before), [slow], new Wanted(MemorySize.Gigabytes(48))).Options,
            o => o.Buys.Any(b => b.Offer.Number == new PartNumber("SLOW"))
        );
    }

    // Against every way to keep and to buy one or two kinds, each with its best layout.
    [Fact]
    public void What_is_offered_is_what_nothing_else_beats() =>
        Gen.Select(Gen.Int[0, int.MaxValue], Gen.Int[1, 4])
            .Sample(
                (seed, gigabytes) =>
                {
                    var random = new Random(seed);
                    var fjell = Make.Fjell with
                    {
                        Memory = Make.Fjell.Memory with { StatedMax = MemorySize.Gigabytes(64) },
                    };
                    var before = Make.Reading(fjell, [random.Next(2) * 4, 4 << random.Next(2)]);
                    Offer[] offers =
                    [
                        .. new[] { 4, 8, 16 }.Select(
                            (g, i) => new Offer(new PartNumber($"P{i}"), Make.Module(g), 1, random.Next(10, 60), 1)
                        ),
                    ];
                    Keepable[] keep = [.. Keep(before, fjell).Select(k => k with { Value = random.Next(0, 8) })];
                    var wanted = new Wanted(MemorySize.Gigabytes(gigabytes * 6));
                    var answer = UpgradeOptions.Find(fjell, before, keep, offers, wanted);
                    var all = Everything(fjell, before, keep, offers, wanted).ToArray();
                    var best = all.Where(a => !all.Any(b => Beats(b, a))).Distinct().OrderBy(a => a).ToArray();
                    Assert.Equal(
                        best,
                        answer
                            .Options.Select(o => Rate(o.Capacity.Bytes, o.Price, o.Layout, o.Thrown))
                            .Distinct()
                            .OrderBy(a => a)
                    );
                    Assert.All(answer.LeftOut, l => Assert.True(answer.Options[l.By].Beats(l.Option)));
                },
                iter: 150,
                threads: 1
            );

    private static (long Capacity, decimal Price, long Share, int Open, decimal Thrown) Rate(
        long capacity,
        decimal price,
        Layout layout,
        decimal thrown
    ) => (capacity, price, layout.Share.Interleaved, layout.Worth.OpenMinutes, thrown);

    private static bool Beats(
        (long Capacity, decimal Price, long Share, int Open, decimal Thrown) a,
        (long Capacity, decimal Price, long Share, int Open, decimal Thrown) b
    ) =>
        a != b
        && a.Capacity >= b.Capacity
        && a.Price <= b.Price
        && (double)a.Share / a.Capacity >= (double)b.Share / b.Capacity
        && a.Open <= b.Open
        && a.Thrown <= b.Thrown;

    private static IEnumerable<(long, decimal, long, int, decimal)> Everything(
        Guide guide,
        Reading before,
        Keepable[] keep,
        Offer[] offers,
        Wanted wanted
    )
    {
        var present = Occupancy.Of(guide, before);
        for (var mask = 0; mask < 1 << keep.Length; mask++)
        {
            var kept = keep.Where((_, i) => (mask >> i & 1) == 1).ToArray();
            foreach (
                var buys in offers
                    .Select(o => new[] { o })
                    .Concat(from a in offers from b in offers select new[] { a, b })
            )
            {
                var capacity =
                    kept.Sum(k => present.Single(p => p.Slot == k.Slot).Module!.Size.Bytes)
                    + buys.Sum(b => b.Module.Size.Bytes);
                if (
                    kept.Length + buys.Length > 2
                    || capacity < wanted.Target.Bytes
                    || capacity > Math.Max(wanted.Target.Bytes * 2, present.Sum(p => p.Module?.Size.Bytes ?? 0))
                )
                {
                    continue;
                }

                var layout = Layouts
                    .Best(guide, before, [.. kept.Select(k => k.Slot)], [.. buys.Select(b => b.Module)])
                    .Best;
                yield return Rate(capacity, buys.Sum(b => b.Price), layout, keep.Except(kept).Sum(k => k.Value));
            }
        }
    }

    [Theory]
    [InlineData(7.0, 7.5, 8, 12, "half as much again wants 12 GB")]
    [InlineData(3.0, 15.5, 16, 16, "memory is not what it lacks")]
    [InlineData(11.0, 7.5, 8, 24, "(146 %)")]
    public void The_size_follows_from_what_was_in_use(
        double inUse,
        double usable,
        int installed,
        int target,
        string because
    )
    {
        var memory = new MemoryReading(
            (long)installed << 30,
            (long)(usable * (1 << 30)),
            null,
            null,
            [],
            (long)(inUse * (1 << 30))
        );
        var advice = Sizing.Of(
            new Reading([Source.OperatingSystem], SystemIdentity.Unknown, FirmwareIdentity.Unknown, memory)
        )!;
        Assert.Equal(MemorySize.Gigabytes(target), advice.Target);
        Assert.Contains(because, advice.Because, StringComparison.Ordinal);
    }

    [Fact]
    public void What_was_in_use_is_read_with_what_was_paged_out()
    {
        var reading = Revtal.Core.Captures.Systems.MemInfo.Decode(
            "MemTotal: 8000000 kB\nMemFree: 10 kB\nMemAvailable: 1000000 kB\n"u8
                + "SwapTotal: 2000000 kB\nSwapFree: 1500000 kB\n"u8
        );
        Assert.Equal(7_500_000L * 1024, reading.Memory.InUseBytes);
        Assert.Null(Revtal.Core.Captures.Systems.MemInfo.Decode("MemTotal: 8000000 kB\n"u8).Memory.InUseBytes);
        Assert.Null(Sizing.Of(Make.Reading(Tower, [0, 8, 0, 8])));
    }

    private static OptionsAnswer Find(Reading before, Wanted wanted) =>
        UpgradeOptions.Find(Tower, before, Keep(before), Shelf, wanted);

    private static Keepable[] Keep(Reading before, Guide? guide = null) =>
        [
            .. Occupancy
                .Of(guide ?? Tower, before)
                .Where(o => o.Module is not null)
                .Select(o => new Keepable(o.Slot, (o.Module!.Size.Bytes >> 30) / 2m)),
        ];

    private static Offer Part(string number, int gigabytes, decimal price, int pieces = 1) =>
        new(
            new PartNumber(number),
            new MemoryModule(MemorySize.Gigabytes(gigabytes), "DDR4", "DIMM", 3200, PartNumber: new PartNumber(number)),
            pieces,
            price,
            2
        );
}
