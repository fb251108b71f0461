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
        Assert.Equal("B2", Assert.Single(answer.Best.Changes(Occupancy.Of(Tower, before))).Slot);
        Assert.StartsWith("It follows the guide's population order", answer.Because, StringComparison.Ordinal);
    }

    [Fact]
    public void What_does_not_stay_is_taken_out_and_what_stays_may_move()
    {
        var before = Make.Reading(Tower, [8, 0, 8, 0]);
        var answer = Layouts.Best(Tower, before, ["A1"], [Stick(16), Stick(8), Stick(16)]);
        Assert.Equal(24L << 30, answer.Best.Share.Loads.Max(l => l.Bytes));
        Assert.Equal(48L << 30, answer.Best.Share.Interleaved);
        var plan = Planner.Make(Tower, before, answer.Best.Changes(Occupancy.Of(Tower, before)));
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
            Memory = Make.Fjell.Memory with { Populate = new Dictionary<int, IReadOnlyList<string>>() },
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
                Populate = new Dictionary<int, IReadOnlyList<string>>(),
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
                var answer = Layouts.Best(c.Guide, c.Before, c.Kept, c.Added, 1_000_000);
                Assert.True(answer.IsProved);
                var all = Everything(c)
                    .OrderByDescending(
                        w => w,
                        Comparer<LayoutWorth>.Create(
                            (a, b) =>
                                a.Beats(b) ? 1
                                : b.Beats(a) ? -1
                                : 0
                        )
                    )
                    .ToArray();
                Assert.Equal(all[0], answer.Best.Worth);
                Assert.True(answer.RunnerUp is null || !answer.RunnerUp.Worth.Beats(answer.Best.Worth));
                Assert.True(answer.RunnerUp is not null || all.Distinct().Count() == 1);
            },
            iter: 400,
            threads: 1
        );

    [Fact]
    public void A_layout_seats_each_module_once_and_its_wishes_lead_to_it() =>
        Case.Sample(
            c =>
            {
                var best = Layouts.Best(c.Guide, c.Before, c.Kept, c.Added).Best;
                Assert.Equal(best.Seats.Count, best.Seats.Select(s => s.Slot).Distinct().Count());
                Assert.Equal(c.Kept.Order(), best.Seats.Select(s => s.From).OfType<string>().Order());
                Assert.Equal(
                    c.Added.Select(m => m.Size).Order(),
                    best.Seats.Where(s => s.From is null).Select(s => s.Module.Size).Order()
                );
                var changes = best.Changes(Occupancy.Of(c.Guide, c.Before));
                if (changes.Count > 0)
                {
                    var plan = Planner.Make(c.Guide, c.Before, changes);
                    Assert.Equal(
                        best.Seats.Select(s => (s.Slot, s.Module.Size)),
                        plan.Slots.Where(s => s.Module is not null).Select(s => (s.Slot, s.Module!.Size))
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
                Populate = new Dictionary<int, IReadOnlyList<string>>(),
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

    private sealed record Trial(
        Guide Guide,
        Reading Before,
        IReadOnlyList<string> Kept,
        IReadOnlyList<MemoryModule> Added
    )
    {
        public override string ToString() =>
            $"{string.Join(' ', Guide.Memory.Slots.Select(s => $"{s.Id}/{s.Channel}/{s.Reach}/{s.Max}"))} | "
            + $"{string.Join(' ', Before.Memory.Slots.Select(s => s.SizeBytes >> 30))} | {string.Join(' ', Kept)} | "
            + $"{string.Join(' ', Added)}";
    }

    // Boards of up to five slots in up to three channels under up to two covers, some slots small, some modules alike.
    private static readonly Gen<Trial> Case = Gen.Select(
            Gen.Int[2, 5],
            Gen.Int[1, 3],
            Gen.Int[0, int.MaxValue],
            (count, channels, seed) =>
            {
                var random = new Random(seed);
                var slots = Enumerable
                    .Range(0, count)
                    .Select(i =>
                        MemorySlot.Named($"S{i}") with
                        {
                            Channel = $"{(char)('A' + (i % channels))}",
                            ReportsAs = $"L{i}",
                            Reach = random.Next(2) == 0 ? "side-panel" : "graphics",
                            Max = random.Next(4) == 0 ? MemorySize.Gigabytes(8) : null,
                        }
                    )
                    .ToArray();
                var populate = new Dictionary<int, IReadOnlyList<string>>();
                if (random.Next(2) == 0)
                {
                    populate[random.Next(1, count + 1)] = [];
                    populate = populate.ToDictionary(
                        p => p.Key,
                        p =>
                            (IReadOnlyList<string>)
                                [.. slots.OrderBy(_ => random.Next()).Take(p.Key).Select(s => s.Id.ToString())]
                    );
                }

                var guide = Tower with
                {
                    Memory = new MemoryFacts(
                        "DDR4",
                        "DIMM",
                        [2666, 3200],
                        MemorySize.Gigabytes(999),
                        null,
                        slots,
                        populate,
                        null,
                        null,
                        PerChannel: random.Next(2) == 0 ? new Dictionary<int, int> { [2] = 2666 } : null
                    ),
                };
                int[] sizes = [4, 8, 8, 16];
                var present = slots
                    .Select(s =>
                        random.Next(2) == 0 ? 0
                        : s.Max is null ? sizes[random.Next(4)]
                        : sizes[random.Next(3)]
                    )
                    .ToArray();
                var before = Make.Reading(guide, present, speed: 3200);
                var kept = slots
                    .Where((_, i) => present[i] > 0 && random.Next(3) > 0)
                    .Select(s => s.Id.ToString())
                    .ToArray();
                var added = Enumerable
                    .Range(0, random.Next(0, count - kept.Length + 1))
                    .Select(_ => Stick(sizes[random.Next(4)]) with { RatedSpeed = 3200 })
                    .ToArray();
                return new Trial(guide, before, kept, added);
            }
        )
        .Where(c => c.Kept.Count + c.Added.Count > 0 && Everything(c).Any());

    // Every way to put the modules into different slots that they fit.
    private static IEnumerable<LayoutWorth> Everything(Trial c)
    {
        var slots = c.Guide.Memory.Slots;
        var present = Occupancy.Of(c.Guide, c.Before);
        var platform = Platform.Of(c.Guide, c.Before);
        var pool = c
            .Kept.Select(k => (Module: present.Single(p => p.Slot == k).Module!, From: (string?)k))
            .Concat(c.Added.Select(m => (Module: m, From: (string?)null)))
            .ToArray();
        return Seat(0, []);

        IEnumerable<LayoutWorth> Seat(int level, (MemorySlot Slot, MemoryModule Module, string? From)[] seats)
        {
            if (level == pool.Length)
            {
                return [Weigh(seats)];
            }

            return slots
                .Where(s => seats.All(x => x.Slot != s))
                .Where(s =>
                    StaysLike(s, pool[level].Module)
                    || !FitRules.Of(platform, s, pool[level].Module).Any(n => n.Weight == FitWeight.Refusal)
                )
                .SelectMany(s => Seat(level + 1, [.. seats, (s, pool[level].Module, pool[level].From)]));
        }

        bool StaysLike(MemorySlot slot, MemoryModule module) =>
            c.Kept.Contains(slot.Id) && present.Single(p => p.Slot == slot.Id).Module!.IsLike(module);

        LayoutWorth Weigh((MemorySlot Slot, MemoryModule Module, string? From)[] seats)
        {
            var content = slots.Select(s => (s, Module: seats.FirstOrDefault(x => x.Slot == s).Module)).ToArray();
            var share = ChannelShare.Of(content.Select(x => (x.s.Channel, x.Module?.Size.Bytes ?? 0)));
            var follows =
                !c.Guide.Memory.Populate.TryGetValue(seats.Length, out var order)
                || order.ToHashSet().SetEquals(seats.Select(s => s.Slot.Id));
            // Alike modules are interchangeable: one counts as moved only if none alike sits in its slot.
            var stays = content.Count(x =>
                x.Module is not null
                && c.Kept.Contains(x.s.Id)
                && present.Single(p => p.Slot == x.s.Id).Module!.IsLike(x.Module)
            );
            var touched = content
                .Where(x =>
                    present.Single(p => p.Slot == x.s.Id) is var p
                    && (
                        x.Module is null
                            ? p.Module is not null
                            : !(c.Kept.Contains(x.s.Id) && p.Module!.IsLike(x.Module))
                    )
                )
                .Select(x => x.s.Id);
            var crowded = seats.GroupBy(s => s.Slot.Channel).Max(g => g.Count());
            return new LayoutWorth(
                follows,
                share.Shared,
                Math.Min(seats.Min(s => s.Module.RatedSpeed ?? 9999), platform.TopSpeed(crowded)!.Value),
                Reach.To(c.Guide, touched, handsIn: true).Sum(r => r.Minutes),
                c.Kept.Count - stays
            );
        }
    }
}
