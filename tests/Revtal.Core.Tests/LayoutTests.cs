using CsCheck;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>The best assignment, against every assignment there is.</summary>
public sealed class LayoutTests
{
    private static readonly Guide Tower = Repository.Guide("QT40");

    [Fact]
    public void A_second_module_alike_goes_beside_the_first_in_the_guides_order()
    {
        var before = Make.Reading(Tower, [0, 16, 0, 0]);
        var answer = Layouts.Best(Tower, before, ["A2"], [Stick(16) with { Form = null }]);
        Assert.Equal([("A2", true), ("B2", false)], answer.Best.Seats.Select(s => (s.Slot, s.Stays)));
        Assert.Equal((ChannelBalance.Equal, true), (answer.Best.Share.Balance, answer.IsProved));
        Assert.Equal("B2", Assert.Single(answer.Best.Changes(Tower, Occupancy.Of(Tower, before))).Slot);
        Assert.StartsWith("It follows the guide's population order", answer.Because, StringComparison.Ordinal);
    }

    [Fact]
    public void What_does_not_stay_is_taken_out_and_what_stays_may_move()
    {
        var before = Make.Reading(Tower, [8, 0, 8, 0]);
        var answer = Layouts.Best(Tower, before, ["A1"], [Stick(16), Stick(8), Stick(16)]);
        Assert.Equal(24L << 30, answer.Best.Share.Loads.Max(l => l.Bytes));
        Assert.Equal(48L << 30, answer.Best.Share.Interleaved);
        var plan = Planner.Make(Tower, before, answer.Best.Changes(Tower, Occupancy.Of(Tower, before)));
        Assert.Equal(48L << 30, plan.Slots.Sum(s => s.Module?.Size.Bytes ?? 0));
        Assert.Equal(
            answer.Best.Seats.Select(s => s.Slot),
            plan.Slots.Where(s => s.Module is not null).Select(s => s.Slot)
        );
    }

    [Fact]
    public void The_slot_that_is_reached_more_easily_is_taken()
    {
        var fjell = Make.Fjell with
        {
            Memory = Make.Fjell.Memory with { Populate = FillOrder.Unsaid with { Any = true } },
        };
        var answer = Layouts.Best(fjell, Make.Reading(fjell, [0, 0]), [], [Make.Module(8)]);
        Assert.Equal("S2", answer.Best.Seats.Single().Slot);
        Assert.Contains("min to open", answer.Because, StringComparison.Ordinal);
    }

    [Fact]
    public void What_cannot_be_seated_is_refused_with_its_reason()
    {
        var before = Make.Reading(Make.Fjell, [8, 8]);
        Assert.Equal("no-free-slot", Code(() => Layouts.Best(Make.Fjell, before, ["S1", "S2"], [Make.Module(8)])));
        Assert.Equal("too-large-for-slot", Code(() => Layouts.Best(Make.Fjell, before, [], [Make.Module(32)])));
        Assert.Equal(
            "wrong-generation",
            Code(() => Layouts.Best(Make.Fjell, before, [], [Make.Module(8) with { Generation = "DDR5" }]))
        );
        Assert.Equal(
            "nothing-to-keep",
            Code(() => Layouts.Best(Make.Fjell, Make.Reading(Make.Fjell, [0, 8]), ["S1"], []))
        );
        Assert.Equal("no-such-slot", Code(() => Layouts.Best(Make.Fjell, before, ["S9"], [])));
        var soldered = Repository.Guide("NL12");
        Assert.Equal(
            "no-free-slot",
            Code(() => Layouts.Best(soldered, Make.Reading(soldered, [8]), [], [Make.Module(8)]))
        );
    }

    [Fact]
    public void Soldered_memory_counts_in_its_channel()
    {
        var guide = Make.Fjell with
        {
            Memory = Make.Fjell.Memory with
            {
                Slots =
                [
                    Make.Fjell.Memory.Slots[0] with
                    {
                        Soldered = true,
                        Channel = "A",
                    },
                    Make.Fjell.Memory.Slots[1] with
                    {
                        Channel = "B",
                    },
                ],
                Populate = FillOrder.Unsaid with { Any = true },
            },
        };
        Assert.Equal(
            16L << 30,
            Layouts.Best(guide, Make.Reading(guide, [8, 0]), [], [Make.Module(16)]).Best.Share.Interleaved
        );
    }

    [Fact]
    public void No_assignment_beats_the_one_found() =>
        Case.Sample(
            c =>
            {
                var all = Everything(c).ToArray();
                LayoutAnswer answer;
                try
                {
                    answer = Layouts.Best(c.Guide, c.Before, c.Kept, c.Added, 1_000_000);
                }
                catch (RefusedException)
                {
                    Assert.Empty(all);
                    return;
                }

                Assert.True(answer.IsProved);
                var found = Weigh(c, [.. answer.Best.Seats.Select(s => (s.Slot, s.Module))]);
                Assert.Equal(all.Max(), found);
                Assert.Equal(
                    (found.Follows, found.Speed, -found.Unlike, -found.Minutes),
                    (
                        answer.Best.Worth.FollowsOrder,
                        answer.Best.Worth.Speed ?? 0,
                        answer.Best.Worth.Unlike,
                        answer.Best.Worth.OpenMinutes
                    )
                );
                Assert.Equal(found.Share, answer.Best.Share.Bandwidth, 9);
                Assert.True(answer.RunnerUp is null || !answer.RunnerUp.Worth.Beats(answer.Best.Worth));
                Assert.True(
                    answer.RunnerUp is not null || all.Select(r => r with { Filled = 0 }).Distinct().Count() == 1
                );
            },
            iter: 1500,
            threads: 1
        );

    // By the trap that the guide itself tells: A2 and B2 first, also where there is no line for so many.
    [Fact]
    public void Where_there_is_no_line_for_so_many_the_smaller_line_is_filled_first()
    {
        var before = Make.Reading(Tower, [0, 16, 0, 0]);
        var seats = Layouts.Best(Tower, before, ["A2"], [Stick(16), Stick(16)]).Best.Seats;
        Assert.Equal(["A2", "B2"], seats.Select(s => s.Slot).Where(s => s.EndsWith('2')));
        Assert.Equal(3, seats.Count);
        var workstation = Repository.Guide("QW80");
        Assert.Equal(
            ["A1", "A2", "B1", "B2", "C1", "D1"],
            Layouts
                .Best(workstation, Make.Reading(workstation, new int[8]), [], [.. Enumerable.Repeat(Ecc(16), 6)])
                .Best.Seats.Select(s => s.Slot)
        );
    }

    [Fact]
    public void The_pieces_of_a_kit_sit_in_one_pair()
    {
        // Two of 8 GB stay in the first slot of each channel: the kit goes into the second ones, not both into A.
        var allInOne = Repository.Guide("PW24");
        var before = Make.Reading(allInOne, [8, 0, 8, 0]);
        var piece = new NewModule(new MemoryModule(MemorySize.Gigabytes(16), "DDR4", "SO-DIMM", 2666), KitOf: 2);
        var best = Layouts.Best(allInOne, before, ["S1", "S3"], [piece, piece]).Best;
        Assert.Equal(["S2", "S4"], best.Seats.Where(s => s.From is null).Select(s => s.Slot));
        // With room in every slot, two kits are never torn across the pairs.
        var other = piece with
        {
            Module = piece.Module with { PartNumber = new PartNumber("OTHER-KIT") },
        };
        var both = Layouts.Best(allInOne, Make.Reading(allInOne, new int[4]), [], [piece, other, piece, other]).Best;
        Assert.Equal(0, both.Worth.Unlike);
        Assert.Equal(Module(both, "S1"), Module(both, "S3"));
        Assert.NotEqual(Module(both, "S1"), Module(both, "S2"));

        static MemoryModule Module(Layout layout, string slot) => layout.Seats.Single(s => s.Slot == slot).Module;
    }

    [Fact]
    public void A_slot_that_the_board_does_not_start_without_is_never_left_empty()
    {
        var board = Tower with
        {
            Memory = new MemoryFacts(
                "DDR4",
                "DIMM",
                [3200],
                MemorySize.Gigabytes(128),
                null,
                Tower.Memory.Slots,
                Tower.Memory.Populate,
                null,
                null,
                NeverEmpty: ["B1"]
            ),
        };
        var before = Make.Reading(board, new int[4]);
        Assert.Equal("B1", Assert.Single(Layouts.Best(board, before, [], [Stick(16)]).Best.Seats).Slot);
        Assert.Equal("slot-never-empty", Code(() => Planner.Make(board, before, [new("A2", Stick(16))])));
    }

    [Theory]
    [InlineData(new[] { 16, 16, 0, 0 }, 0.5)]
    [InlineData(new[] { 16, 16, 16, 16 }, 1.0)]
    [InlineData(new[] { 16, 0, 0, 0 }, 0.25)]
    [InlineData(new[] { 32, 16, 0, 0 }, 5 / 12.0)]
    public void Share_counts_the_channels_that_work_together(int[] loads, double share) =>
        Assert.Equal(share, ChannelShare.Of(loads.Select((l, i) => ($"{i}", (long)l << 30))!).Bandwidth, 9);

    [Fact]
    public void A_layout_seats_each_module_once_and_its_wishes_lead_to_it() =>
        Case.Sample(
            c =>
            {
                if (!Everything(c).Any())
                {
                    return;
                }

                var best = Layouts.Best(c.Guide, c.Before, c.Kept, c.Added).Best;
                Assert.Equal(best.Seats.Count, best.Seats.Select(s => s.Slot).Distinct().Count());
                Assert.Equal(c.Kept.Order(), best.Seats.Select(s => s.From).OfType<string>().Order());
                Assert.Equal(
                    c.Added.Select(m => m.Module.Size).Order(),
                    best.Seats.Where(s => s.From is null).Select(s => s.Module.Size).Order()
                );
                var changes = best.Changes(c.Guide, Occupancy.Of(c.Guide, c.Before));
                if (changes.Count > 0)
                {
                    var plan = Planner.Make(c.Guide, c.Before, changes);
                    Assert.Equal(
                        best.Seats.Select(s => (s.Slot, s.Module.Size)),
                        plan.Slots.Where(s => s.Module is not null && !c.Guide.NeedSlot(s.Slot).Soldered)
                            .Select(s => (s.Slot, s.Module!.Size))
                    );
                    Assert.Equal(best.Share.Interleaved, Expectation.Of(c.Guide, c.Before, plan).InterleavedBytes);
                }
            },
            iter: 400,
            threads: 1
        );

    [Fact]
    public void Little_effort_still_gives_a_layout_and_an_honest_bound()
    {
        var slots = Enumerable
            .Range(0, 16)
            .Select(i => MemorySlot.Named($"S{i}") with { Channel = $"{(char)('A' + (i / 2))}", ReportsAs = $"S{i}" })
            .ToArray();
        var guide = Tower with
        {
            Memory = Tower.Memory with
            {
                Slots = slots,
                Populate = FillOrder.Unsaid with { Any = true },
                StatedMax = MemorySize.Gigabytes(4096),
            },
        };
        var before = Make.Reading(guide, new int[16]);
        int[] sizes = [4, 8, 8, 12, 16, 16, 24, 32, 4, 48, 8, 64];
        var answer = Layouts.Best(guide, before, [], [.. sizes.Select(Stick)], 50);
        Assert.False(answer.IsProved);
        Assert.InRange(answer.Best.Worth.Shared, 1, answer.Bound);
        Assert.Equal(12, answer.Best.Seats.Count);
    }

    private static string Code(Action action) => Assert.Throws<RefusedException>(action).Code;

    private static MemoryModule Stick(int gigabytes) => new(MemorySize.Gigabytes(gigabytes), "DDR4", "DIMM");

    private sealed record Trial(Guide Guide, Reading Before, IReadOnlyList<string> Kept, IReadOnlyList<NewModule> Added)
    {
        public override string ToString() =>
            $"{string.Join(' ', Guide.Memory.Slots.Select(s => $"{s.Id}/{s.Channel}/{s.Reach}/{s.Max}"))} | "
            + $"{string.Join(' ', Before.Memory.Slots.Select(s => s.SizeBytes >> 30))} | {string.Join(' ', Kept)} | "
            + $"{string.Join(' ', Added)}";
    }

    private static MemoryModule Ecc(int gigabytes) => Stick(gigabytes) with { Ecc = true };

    // Boards of up to five slots in up to three channels under up to two covers, some slots small, some soldered, some
    // never to be empty; lines for some counts; modules alike, of kits, of several ranks and speeds.
    private static readonly Gen<Trial> Case = Gen.Select(
            Gen.Int[2, 5],
            Gen.Int[1, 3],
            Gen.Int[0, int.MaxValue],
            (count, channels, seed) =>
            {
                var random = new Random(seed);
                var soldered = random.Next(3) == 0 ? random.Next(count) : -1;
                var slots = Enumerable
                    .Range(0, count)
                    .Select(i =>
                        MemorySlot.Named($"S{i}") with
                        {
                            Channel = $"{(char)('A' + (i % channels))}",
                            ReportsAs = $"L{i}",
                            Reach = random.Next(2) == 0 ? "side-panel" : "graphics",
                            Max = random.Next(4) == 0 ? MemorySize.Gigabytes(8) : null,
                            Soldered = i == soldered,
                        }
                    )
                    .ToArray();
                var lines = Enumerable
                    .Range(1, count)
                    .Where(_ => random.Next(3) == 0)
                    .ToDictionary(
                        n => n,
                        n =>
                            (IReadOnlyList<string>)
                                [.. slots.OrderBy(_ => random.Next()).Take(n).Select(s => s.Id.ToString())]
                    );
                var guide = Tower with
                {
                    Memory = new MemoryFacts(
                        "DDR4",
                        "DIMM",
                        [2666, 3200],
                        MemorySize.Gigabytes(999),
                        null,
                        slots,
                        new FillOrder(lines, lines.Count == 0 && random.Next(2) == 0),
                        random.Next(2) == 0 ? "alike-in-pairs" : null,
                        null,
                        PerChannel: random.Next(2) == 0 ? new Dictionary<int, int> { [2] = 2666 } : null,
                        NeverEmpty: random.Next(5) == 0 ? [slots[random.Next(count)].Id] : null
                    ),
                };
                int[] sizes = [4, 8, 8, 16];
                var present = slots
                    .Select(s =>
                        !s.Soldered && random.Next(2) == 0 ? 0
                        : s.Max is null ? sizes[random.Next(4)]
                        : sizes[random.Next(3)]
                    )
                    .ToArray();
                var before = Make.Reading(guide, present, speed: random.Next(2) == 0 ? 3200 : 2666);
                var kept = slots
                    .Where((s, i) => !s.Soldered && present[i] > 0 && random.Next(3) > 0)
                    .Select(s => s.Id.ToString())
                    .ToArray();
                var room = slots.Count(s => !s.Soldered) - kept.Length;
                var added = new List<NewModule>();
                while (added.Count < room && random.Next(4) > 0)
                {
                    var module = Stick(sizes[random.Next(4)]) with
                    {
                        RatedSpeed = 3200,
                        Ranks = random.Next(3) == 0 ? 2 : 1,
                    };
                    var kit = added.Count + 2 <= room && random.Next(2) == 0;
                    added.AddRange(Enumerable.Repeat(new NewModule(module, kit ? 2 : 1), kit ? 2 : 1));
                }

                return new Trial(guide, before, kept, added);
            }
        )
        .Where(c => c.Kept.Count + c.Added.Count > 0);

    /// <summary>As the objective stands in words, best first; each counts only where the earlier are equal.</summary>
    /// <param name="Filled">By slot in the guide's order, what is filled: earlier ones first.</param>
    private readonly record struct Rank(
        bool Follows,
        double Share,
        int Speed,
        int Unlike,
        int Minutes,
        int Moved,
        long Filled
    ) : IComparable<Rank>
    {
        public int CompareTo(Rank o) =>
            (Follows, Math.Round(Share, 9), Speed, Unlike, Minutes, Moved, Filled).CompareTo(
                (o.Follows, Math.Round(o.Share, 9), o.Speed, o.Unlike, o.Minutes, o.Moved, o.Filled)
            );
    }

    // Every way to put the modules into different slots that they fit, and that the board starts with.
    private static IEnumerable<Rank> Everything(Trial c)
    {
        var slots = c.Guide.Memory.Slots;
        var present = Occupancy.Of(c.Guide, c.Before);
        var platform = Platform.Of(c.Guide, c.Before);
        MemoryModule[] pool =
        [
            .. c.Kept.Select(k => present.Single(p => p.Slot == k).Module!),
            .. c.Added.Select(m => m.Module),
        ];
        return Seat(0, []);

        IEnumerable<Rank> Seat(int level, (string Slot, MemoryModule Module)[] seats)
        {
            if (level == pool.Length)
            {
                return c.Guide.Memory.NeverEmpty.All(id => seats.Any(s => s.Slot == id) || c.Guide.Slot(id)!.Soldered)
                    ? [Weigh(c, seats)]
                    : [];
            }

            return slots
                .Where(s => !s.Soldered && seats.All(x => x.Slot != s.Id))
                .Where(s =>
                    StaysLike(s, pool[level])
                    || !FitRules.Of(platform, s, pool[level]).Any(n => n.Weight == FitWeight.Refusal)
                )
                .SelectMany(s => Seat(level + 1, [.. seats, (s.Id, pool[level])]));
        }

        bool StaysLike(MemorySlot slot, MemoryModule module) =>
            c.Kept.Contains(slot.Id) && present.Single(p => p.Slot == slot.Id).Module!.IsLike(module);
    }

    private static Rank Weigh(Trial c, (string Slot, MemoryModule Module)[] seats)
    {
        var memory = c.Guide.Memory;
        var present = Occupancy.Of(c.Guide, c.Before);
        var content = memory
            .Slots.Select(
                (s, i) => (s, Module: s.Soldered ? present[i].Module : seats.FirstOrDefault(x => x.Slot == s.Id).Module)
            )
            .ToArray();
        var filled = content.Where(x => x.Module is not null).Select(x => x.s.Id).ToHashSet();
        // Alike modules are interchangeable: one counts as moved only if none alike sits in its slot.
        var stays = content
            .Where(x =>
                x.Module is not null
                && c.Kept.Contains(x.s.Id)
                && present.Single(p => p.Slot == x.s.Id).Module!.IsLike(x.Module)
            )
            .Select(x => x.s.Id)
            .ToHashSet();
        var touched = content
            .Where(x => !x.s.Soldered && !stays.Contains(x.s.Id))
            .Where(x => x.Module is not null || present.Single(p => p.Slot == x.s.Id).Module is not null)
            .Select(x => x.s.Id);
        var crowd = content.Where(x => x.Module is not null).GroupBy(x => x.s.Channel).Max(g => g.Count());
        var top = crowd >= 2 && memory.PerChannel.Count > 0 ? 2666 : 3200;
        return new Rank(
            Follows(memory, filled),
            Share(memory, content),
            Math.Min(top, content.Min(x => x.Module?.RatedSpeed ?? 9999)),
            -Unlike(c, content),
            -Reach.To(c.Guide, touched, handsIn: true).Sum(r => r.Minutes),
            stays.Count - c.Kept.Count,
            content.Aggregate(0L, (bits, x) => (bits << 1) | (x.Module is null ? 0L : 1L))
        );
    }

    // The line for the count; else all of the smaller line, the rest from the larger, and in a channel no slot before
    // one that the lines, then the board, have earlier.
    private static bool Follows(MemoryFacts memory, HashSet<string> filled)
    {
        var n = filled.Count;
        if (memory.Populate.Any || n == memory.Slots.Count)
        {
            return true;
        }

        var soldered = memory.Slots.Where(s => s.Soldered).Select(s => s.Id).ToHashSet();
        var lines = memory
            .Populate.Lines.Where(l => soldered.IsSubsetOf(l.Value))
            .ToDictionary(l => l.Key, l => l.Value);
        if (lines.TryGetValue(n, out var line))
        {
            return filled.SetEquals(line);
        }

        var smaller = lines.Where(l => l.Key < n).OrderBy(l => l.Key).LastOrDefault().Value ?? [.. soldered];
        var larger =
            lines.Where(l => l.Key > n).OrderBy(l => l.Key).FirstOrDefault().Value
            ?? [.. memory.Slots.Select(s => s.Id)];
        var when = memory.Slots.ToDictionary(
            s => s.Id,
            s => lines.Where(l => l.Value.Contains(s.Id)).Select(l => l.Key).DefaultIfEmpty(99).Min()
        );
        var board = memory.Slots.Select((s, i) => (s.Id, i)).ToDictionary(p => p.Id, p => p.i);
        return filled.IsSupersetOf(smaller)
            && filled.All(id => smaller.Contains(id) || larger.Contains(id))
            && filled
                .Except(smaller)
                .All(id =>
                    larger
                        .Except(smaller)
                        .Where(o => memory.Slots[board[o]].Channel == memory.Slots[board[id]].Channel)
                        .Where(o => (when[o], board[o]).CompareTo((when[id], board[id])) < 0)
                        .All(filled.Contains)
                );
    }

    // Gigabyte by gigabyte from the bottom up.
    private static double Share(MemoryFacts memory, (MemorySlot s, MemoryModule? Module)[] content)
    {
        var loads = content
            .GroupBy(x => x.s.Channel)
            .Select(g => g.Sum(x => x.Module?.Size.Bytes ?? 0) >> 30)
            .ToArray();
        double ways = 0;
        for (var level = 0; level < loads.Max(); level++)
        {
            var reach = loads.Count(l => l > level);
            ways += reach * reach;
        }

        return ways / (loads.Sum() * loads.Length);
    }

    private static int Unlike(Trial c, (MemorySlot s, MemoryModule? Module)[] content)
    {
        var pairs = content
            .GroupBy(x => x.s.Channel)
            .SelectMany(g => g.Select((x, place) => (place, x.Module)))
            .Where(x => x.Module is not null)
            .GroupBy(x => x.place, x => x.Module!)
            .Select(g => g.ToArray())
            .ToArray();
        var unlike = c.Guide.Memory.Pairing is null ? 0 : pairs.Count(p => p.Any(a => p.Any(b => Differ(a, b))));
        var torn = c
            .Added.Where(m => m.KitOf == 2)
            .GroupBy(m => m.Module)
            .Sum(g => Math.Max(0, (g.Count() / 2) - pairs.Sum(p => p.Count(m => m.IsLike(g.Key)) / 2)));
        return unlike + torn;

        static bool Differ(MemoryModule a, MemoryModule b) =>
            a.Size != b.Size || (a.Ranks is { } x && b.Ranks is { } y && x != y);
    }
}
