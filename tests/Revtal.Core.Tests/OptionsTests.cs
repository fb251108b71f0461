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
            ("Replace 2 × 8 GB by 2 × 16 GB (K32, a kit) in A1 and B1", 66m, 1.0),
            (cheapest.Words, cheapest.Price, cheapest.BandwidthShare)
        );
        Assert.Equal(["A2", "B2"], cheapest.Kept.Order());
        var added = Find(Make.Reading(Tower, [0, 16, 0, 16]), new Wanted(MemorySize.Gigabytes(64))).Options[0];
        Assert.Equal("Add 2 × 16 GB (K32, a kit) in A1 and B1", added.Words);
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

    // Against every way to keep and to buy one or two kinds, each with its best layout: boards of up to four slots in
    // up to three channels, some soldered, under one or two covers; kits, and parts of two speeds.
    [Fact]
    public void What_is_offered_is_what_nothing_else_beats() =>
        Gen.Int[0, int.MaxValue]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var (board, before) = Board(random);
                    Offer[] offers =
                    [
                        .. new[] { (8, 1), (16, 1), (8, 2), (16, 2) }.SelectMany(o =>
                            new[] { 2666, 3200 }
                                .Where(_ => random.Next(3) > 0)
                                .Select(s => Part($"P{o.Item1}x{o.Item2}-{s}", o.Item1, 0, o.Item2, s))
                        ),
                    ];
                    offers = [.. offers.Select(o => o with { Price = random.Next(10, 60) * o.Pieces })];
                    Keepable[] keep =
                    [
                        .. Keep(before, board)
                            .Where(k => !board.NeedSlot(k.Slot).Soldered)
                            .Select(k => k with { Value = random.Next(0, 3) }),
                    ];
                    var wanted = new Wanted(MemorySize.Gigabytes(random.Next(1, 7) * 8));
                    var answer = UpgradeOptions.Find(board, before, keep, offers, wanted);
                    var all = Everything(board, before, keep, offers, wanted).Distinct().ToArray();
                    Assert.Equal(
                        all.Where(a => !all.Any(b => Beats(b, a))).OrderBy(a => a),
                        answer.Options.Select(o => Rate(o.Price, o.Layout, o.Thrown)).Distinct().OrderBy(a => a)
                    );
                    Assert.All(answer.LeftOut, l => Assert.True(answer.Options[l.By].Beats(l.Option)));
                },
                iter: 300,
                threads: 1
            );

    private static (Guide Board, Reading Before) Board(Random random)
    {
        var channels = random.Next(1, 4);
        var slots = Enumerable
            .Range(0, random.Next(2, 5))
            .Select(i =>
                MemorySlot.Named($"S{i}") with
                {
                    Channel = $"{(char)('A' + (i % channels))}",
                    ReportsAs = $"L{i}",
                    Reach = random.Next(3) == 0 ? "graphics" : "side-panel",
                    Soldered = i == 0 && random.Next(3) == 0,
                }
            )
            .ToArray();
        var board = Tower with
        {
            Memory = new MemoryFacts(
                "DDR4",
                "DIMM",
                [2666, 3200],
                MemorySize.Gigabytes(999),
                null,
                slots,
                FillOrder.Unsaid with
                {
                    Any = random.Next(2) == 0,
                },
                random.Next(2) == 0 ? "alike-in-pairs" : null,
                null
            ),
        };
        var sizes = slots.Select(s => s.Soldered || random.Next(2) == 0 ? 8 * random.Next(1, 3) : 0).ToArray();
        return (board, Make.Reading(board, sizes, speed: random.Next(2) == 0 ? 2666 : 3200));
    }

    private static (long Capacity, decimal Price, double Share, int Speed, int Open, decimal Thrown) Rate(
        decimal price,
        Layout layout,
        decimal thrown
    ) =>
        (
            layout.Share.Loads.Sum(l => l.Bytes),
            price,
            Math.Round(layout.Share.Bandwidth, 9),
            layout.Worth.Speed ?? 0,
            layout.Worth.OpenMinutes,
            thrown
        );

    private static bool Beats(
        (long Capacity, decimal Price, double Share, int Speed, int Open, decimal Thrown) a,
        (long Capacity, decimal Price, double Share, int Speed, int Open, decimal Thrown) b
    ) =>
        a != b
        && a.Capacity >= b.Capacity
        && a.Price <= b.Price
        && a.Share >= b.Share
        && a.Speed >= b.Speed
        && a.Open <= b.Open
        && a.Thrown <= b.Thrown;

    private static IEnumerable<(long, decimal, double, int, int, decimal)> Everything(
        Guide guide,
        Reading before,
        Keepable[] keep,
        Offer[] offers,
        Wanted wanted
    )
    {
        var present = Occupancy.Of(guide, before);
        var installed = present.Sum(p => p.Module?.Size.Bytes ?? 0);
        var room = guide.Memory.Slots.Count(s => !s.Soldered);
        for (var mask = 0; mask < 1 << keep.Length; mask++)
        {
            var kept = keep.Where((_, i) => (mask >> i & 1) == 1).ToArray();
            var left = keep.Except(kept).Select(k => k.Slot).ToArray();
            var stays = present.Where(p => p.Module is not null && !left.Contains(p.Slot)).ToArray();
            // What would slow the machine down is not bought where a part of its size would not.
            var cap = stays.Min(s => s.Module!.RatedSpeed) ?? 3200;
            var now = Math.Min(cap, present.Min(p => p.Module?.RatedSpeed) ?? cap);
            var worth = offers
                .Where(o =>
                    Math.Min(o.Module.RatedSpeed!.Value, cap) >= now
                    || !offers.Any(x =>
                        (x.Module.Size, x.Pieces) == (o.Module.Size, o.Pieces) && x.Module.RatedSpeed >= now
                    )
                )
                // Nor is a part for which another of its size and pieces is no dearer and no slower.
                .Where(o =>
                    !offers.Any(x =>
                        x != o
                        && (x.Module.Size, x.Pieces) == (o.Module.Size, o.Pieces)
                        && (x.Price, -Math.Min(x.Module.RatedSpeed!.Value, cap), x.Number).CompareTo(
                            (o.Price, -Math.Min(o.Module.RatedSpeed!.Value, cap), o.Number)
                        ) < 0
                        && Math.Min(x.Module.RatedSpeed!.Value, cap) >= Math.Min(o.Module.RatedSpeed!.Value, cap)
                    )
                )
                .ToArray();
            foreach (var buys in Baskets(worth, room - kept.Length))
            {
                var capacity = stays.Sum(s => s.Module!.Size.Bytes) + buys.Sum(b => b.Module.Size.Bytes * b.Pieces);
                if (capacity < wanted.Target.Bytes || capacity > Math.Max(wanted.Target.Bytes * 2, installed))
                {
                    continue;
                }

                var layout = Layouts
                    .Best(
                        guide,
                        before,
                        [.. kept.Select(k => k.Slot)],
                        [.. buys.SelectMany(b => Enumerable.Repeat(new NewModule(b.Module, b.Pieces), b.Pieces))]
                    )
                    .Best;
                yield return Rate(buys.Sum(b => b.Price), layout, keep.Except(kept).Sum(k => k.Value));
            }
        }
    }

    // As many of one part as there is room for, or of two.
    private static IEnumerable<Offer[]> Baskets(Offer[] offers, int room) =>
        from a in offers
        from n in Enumerable.Range(1, room)
        from b in offers
        from m in Enumerable.Range(0, room)
        where (m == 0 || a != b) && (n * a.Pieces) + (m * b.Pieces) <= room
        select (Offer[])[.. Enumerable.Repeat(a, n), .. Enumerable.Repeat(b, m)];

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

    private static Offer Part(string number, int gigabytes, decimal price, int pieces = 1, int speed = 3200) =>
        new(
            new PartNumber(number),
            new MemoryModule(
                MemorySize.Gigabytes(gigabytes),
                "DDR4",
                "DIMM",
                speed,
                PartNumber: new PartNumber(number)
            ),
            pieces,
            price,
            2
        );
}
