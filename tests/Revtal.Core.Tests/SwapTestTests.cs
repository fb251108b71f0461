using CsCheck;
using Revtal.Core.Bench;
using Revtal.Core.Hardware;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class SwapTestTests
{
    private static readonly Dictionary<int, IReadOnlyList<string>> Anything = [];

    [Fact]
    public void One_of_two_unseen_is_looked_for_by_changing_them_over()
    {
        var state = SwapTest.Of(Setup(2, new SwapOutcome(true, ["S1"])), []);
        Assert.Equal([new("S1", "S2"), new("S2", "S1")], state.Next!.OrderBy(p => p.Slot));
        Assert.Equal(SuspectKind.Seat, state.Suspects[0].Kind);
        Assert.Contains("Move the 8 GB of S2 from S2 to S1.", state.Words);

        var followed = After(state, new SwapOutcome(true, ["S2"]));
        Assert.Equal([SuspectKind.Module, SuspectKind.Pair], followed.Suspects.Select(s => s.Kind));
        Assert.Equal("S2", Assert.Single(followed.Next!).Module);
        Assert.Equal("It was the seat in S2.", After(state, new SwapOutcome(true, ["S1", "S2"])).Conclusion?.Sentence);
    }

    [Fact]
    public void A_slot_and_a_setting_are_told_apart_by_fewer_modules_where_the_board_allows_it()
    {
        var state = SwapTest.Of(Setup(2, new SwapOutcome(true, ["S1"])), []);
        var still = After(state, new SwapOutcome(true, ["S1"]));
        Assert.Equal([SuspectKind.Slot, SuspectKind.Setting], still.Suspects.Select(s => s.Kind).Take(2));
        // The setting is tried before it is named, and no hand goes in for it.
        Assert.True(still is { Defaults: true, HandsIn: false });

        // The order in which a guide fills its slots is a preference: what tells a module from a pair is tried all the
        // same.
        var swapped = new SwapTrial([new("S1", "S2"), new("S2", "S1")], new SwapOutcome(true, ["S2"]));
        Assert.Equal("S2", Assert.Single(Open(2, "S1", "S2").Next!).Module);
        Assert.Equal("S2", Assert.Single(Open(1, "S1").Next!).Module);

        SwapState Open(int count, params string[] slots) =>
            SwapTest.Of(
                Setup(2, new SwapOutcome(true, ["S1"])) with
                {
                    Preferred = new Dictionary<int, IReadOnlyList<string>> { [count] = slots },
                },
                [swapped]
            );
    }

    [Fact]
    public void The_guide_s_word_makes_reseating_the_first_thing()
    {
        var state = SwapTest.Of(
            Setup(4, new SwapOutcome(false, Sign: "3 short beeps")) with
            {
                ReseatFirst = true,
            },
            []
        );
        Assert.All(state.Next!, p => Assert.Equal(p.Module, p.Slot));
        Assert.Equal("It was the seat in S1, S2, S3, S4.", After(state, new SwapOutcome(true)).Conclusion?.Sentence);
    }

    [Fact]
    public void Modules_of_one_make_that_are_all_unseen_are_suspected_together()
    {
        var setup = Setup(4, new SwapOutcome(true, ["S1", "S2"]));
        setup = setup with
        {
            Modules =
            [
                .. setup.Modules.Select(
                    (m, i) =>
                        m with
                        {
                            Module = m.Module with { Maker = i < 2 ? "Tarnmoor" : "Ostrava" },
                            IsNew = i >= 2,
                        }
                ),
            ],
        };
        Assert.Contains(
            SwapTest.Of(setup, []).Suspects,
            s => s.Kind == SuspectKind.Make && s.Modules.SequenceEqual(["S3", "S4"])
        );
    }

    [Fact]
    public void Outcomes_that_contradict_each_other_are_said_to()
    {
        var setup = Setup(2, new SwapOutcome(true, ["S1"]));
        var swapped = (IReadOnlyList<SwapPlace>)[new("S1", "S2"), new("S2", "S1")];
        var state = SwapTest.Of(
            setup,
            [new(swapped, new SwapOutcome(true, ["S2"])), new(swapped, new SwapOutcome(true, ["S1"]))]
        );
        Assert.StartsWith("The outcomes contradict each other", state.Conclusion?.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void Totals_alone_find_the_module_too()
    {
        var setup = Setup(2, new SwapOutcome(true, Seen: MemorySize.Gigabytes(8)));
        var (conclusion, _) = Play(
            setup,
            places => places.Any(p => p.Module == "S2") ? places.Where(p => p.Module != "S2").ToArray() : places,
            slots: false
        );
        Assert.Equal("It is the module of S2.", conclusion.Sentence);
    }

    // Whatever is at fault, alone: the truth is among what the test ends with, and a veteran who bisects needs as many
    // restarts or more.
    [Theory]
    [InlineData(2, true)]
    [InlineData(2, false)]
    [InlineData(4, true)]
    [InlineData(4, false)]
    [InlineData(8, true)]
    [InlineData(8, false)]
    public void Every_single_fault_is_found_in_no_more_restarts_than_a_bisecting_veteran_needs(int count, bool starts)
    {
        int worst = 0,
            veteran = 0;
        double ours = 0,
            theirs = 0;
        for (var fault = 0; fault < 2 * count; fault++)
        {
            var (isModule, at) = (fault < count, $"S{(fault % count) + 1}");
            SwapPlace[] Seen(IReadOnlyList<SwapPlace> places) =>
                [.. places.Where(p => (isModule ? p.Module : p.Slot) != at)];
            var first = starts
                ? new SwapOutcome(true, [.. Enumerable.Range(1, count).Select(i => $"S{i}").Where(s => s != at)])
                : new SwapOutcome(false);
            var (conclusion, restarts) = Play(Setup(count, first), p => Seen(p), slots: true, stops: !starts);
            Assert.Contains(conclusion.Suspects, s => (isModule ? s.Modules : s.Slots).Contains(at));
            var his = starts ? VeteranSeeing() : VeteranBisecting(count, p => Seen(p).Length == p.Count);
            (worst, veteran, ours, theirs) = (
                Math.Max(worst, restarts),
                Math.Max(veteran, his),
                ours + restarts,
                theirs + his
            );
        }

        Assert.True(
            worst <= veteran && ours <= theirs,
            $"worst {worst} against {veteran}, in all {ours} against {theirs}"
        );
    }

    // Two of four modules, slots, or one of each at fault, whatever a start shows: both are named, or the conclusion
    // says that two at once would have shown the same; what is named for sure is at fault.
    [Theory]
    [InlineData("slots", 0)]
    [InlineData("total", 1)]
    [InlineData("nothing", 8)]
    public void Of_two_at_fault_nothing_false_is_said_for_sure(string shows, int unsure)
    {
        string[] all = [.. Enumerable.Range(1, 4).SelectMany(i => new[] { $"module S{i}", $"slot S{i}" })];
        var open = 0;
        foreach (var (a, b) in all.SelectMany((a, i) => all.Skip(i + 1).Select(b => (a, b))))
        {
            string[] faulty = [a, b];
            SwapPlace[] Seen(IReadOnlyList<SwapPlace> places) =>
                [.. places.Where(p => !faulty.Contains($"module {p.Module}") && !faulty.Contains($"slot {p.Slot}"))];
            var home = Setup(4, new SwapOutcome(false)).Modules.Select(m => new SwapPlace(m.Home, m.Home)).ToArray();
            var setup = Setup(4, Shown(home, Seen(home), shows == "slots", shows == "nothing"));
            var (conclusion, _) = Play(setup, Seen, shows == "slots", shows == "nothing");
            string[] told =
            [
                .. conclusion.Suspects.SelectMany(s =>
                    s.Modules.Select(m => $"module {m}").Concat(s.Slots.Select(o => $"slot {o}"))
                ),
            ];
            var sure = conclusion.Suspects.Count == 1 && !conclusion.Sentence.Contains("only one thing is at fault");
            Assert.True(!sure || told.All(faulty.Contains), $"{a}, {b}: {conclusion.Sentence}");
            open += sure ? 0 : 1;
        }

        Assert.Equal(unsure, open);
    }

    [Fact]
    public void A_setting_is_named_once_its_defaults_mended_it()
    {
        var setup = Setup(4, new SwapOutcome(true, ["S1", "S2", "S3"]));
        IReadOnlyList<SwapPlace> Limited(IReadOnlyList<SwapPlace> places) =>
            places.Count < 4 ? places : [.. places.Where(p => p.Slot != "S4")];
        Assert.Equal(
            "It was a setting of the firmware.",
            Play(setup, Limited, slots: true, setting: true).Conclusion.Sentence
        );
        // What its defaults do not mend is no setting.
        Assert.DoesNotContain(
            Play(setup, Limited, slots: true).Conclusion.Suspects,
            s => s.Kind == SuspectKind.Setting
        );
    }

    // The boards of these guides have several slots a channel; a channel that is gone hides all of them.
    [Theory]
    [InlineData("QT40", true)]
    [InlineData("QT40", false)]
    [InlineData("PW24", true)]
    public void A_channel_is_told_from_its_slots_and_modules(string model, bool shown)
    {
        var guide = Repository.Guide(model);
        foreach (var channel in guide.Memory.Slots.GroupBy(s => s.Channel, s => s.Id).Where(c => c.Count() > 1))
        {
            SwapPlace[] Seen(IReadOnlyList<SwapPlace> places) => [.. places.Where(p => !channel.Contains(p.Slot))];
            string[] slots = [.. guide.Memory.Slots.Select(s => s.Id)];
            SwapPlace[] home = [.. slots.Select(s => new SwapPlace(s, s))];
            var setup = new SwapSetup(
                [.. slots.Select(s => new SwapModule(s, Make.Module(8), false))],
                slots,
                Anything,
                Shown(home, Seen(home), shown, !shown),
                false,
                Channels: [.. guide.Memory.Slots.GroupBy(s => s.Channel, s => s.Id).Select(c => c.ToArray())]
            );
            var (conclusion, _) = Play(setup, Seen, shown, !shown);
            Assert.Equal(SuspectKind.Channel, Assert.Single(conclusion.Suspects).Kind);
            Assert.Equal(channel, conclusion.Suspects[0].Slots);
        }
    }

    // No board tells which of two alike is hidden by the other where it shows a total alone.
    [Fact]
    public void No_pair_is_suspected_twice()
    {
        var state = SwapTest.Of(Setup(4, new SwapOutcome(true, Seen: MemorySize.Gigabytes(24))), []);
        Assert.Equal(6, state.Suspects.Count(s => s.Kind == SuspectKind.Pair));
    }

    // Every slot filled, one module, slot or seat at fault; the start shows slots, a total, or nothing. Halving takes
    // its seats, then the bits of the modules, then of the slots; a total hides which of them, and takes one more.
    [Theory]
    [MemberData(nameof(Boards))]
    public void On_every_board_of_the_guides_a_single_fault_is_named(string model, string shows)
    {
        var guide = Repository.Guide(model);
        string[] slots = [.. guide.Memory.Slots.Where(s => !s.Soldered).Select(s => s.Id)];
        var halving = 1 + (2 * (int)Math.Ceiling(Math.Log2(slots.Length))) + (shows == "total" ? 2 : 1);
        foreach (var kind in (SuspectKind[])[SuspectKind.Module, SuspectKind.Slot, SuspectKind.Seat])
        {
            foreach (var at in slots)
            {
                IReadOnlyList<SwapPlace> Seen(IReadOnlyList<SwapPlace> places) =>
                    [
                        .. places.Where(p =>
                            kind == SuspectKind.Seat || (kind == SuspectKind.Module ? p.Module : p.Slot) != at
                        ),
                    ];
                var others = slots.Where(s => s != at).ToArray();
                var setup = new SwapSetup(
                    [.. slots.Select(s => new SwapModule(s, Make.Module(8), false))],
                    slots,
                    guide
                        .Memory.Populate.Lines.Where(p => p.Value.All(slots.Contains))
                        .ToDictionary(p => p.Key, p => p.Value),
                    shows switch
                    {
                        "slots" => new SwapOutcome(true, others),
                        "total" => new SwapOutcome(true, Seen: MemorySize.Gigabytes(8 * others.Length)),
                        _ => new SwapOutcome(false),
                    },
                    false
                );
                var (conclusion, restarts) = Play(setup, Seen, shows == "slots", shows == "nothing");
                // Once all are seated anew, a total no longer tells which seat it was.
                Assert.True(conclusion.Suspects.Count == 1 || (kind, shows) == (SuspectKind.Seat, "total"));
                Assert.All(conclusion.Suspects, s => Assert.Equal(kind, s.Kind));
                Assert.Contains(
                    conclusion.Suspects,
                    s => (kind == SuspectKind.Module ? s.Modules : s.Slots).Contains(at)
                );
                Assert.True(restarts <= halving, $"{kind} {at}: {restarts}, halving {halving}");
            }
        }
    }

    public static TheoryData<string, string> Boards
    {
        get
        {
            var boards = new TheoryData<string, string>();
            foreach (var model in Repository.Models)
            {
                if (Repository.Guide(model).Memory.Slots.Count(s => !s.Soldered) > 1)
                {
                    boards.Add(model, "slots");
                    boards.Add(model, "total");
                    boards.Add(model, "nothing");
                }
            }

            return boards;
        }
    }

    // The best tree there is, found by trying every arrangement of every subset, on boards small enough for it. Ours
    // gives up to a sixth of the average for a shorter worst case.
    [Theory]
    [InlineData(2, true)]
    [InlineData(2, false)]
    [InlineData(3, true)]
    [InlineData(3, false)]
    public void On_small_boards_it_is_close_to_the_exhaustive_optimum(int count, bool starts)
    {
        var first = starts
            ? new SwapOutcome(true, [.. Enumerable.Range(1, count - 1).Select(i => $"S{i}")])
            : new SwapOutcome(false);
        var setup = Setup(count, first);
        var exhaustive = new ExhaustiveSwap(setup, SwapTest.Of(setup, []).Suspects);
        var ours = exhaustive.Played(trials => SwapTest.Of(setup, trials), started: starts);
        Assert.InRange(ours, exhaustive.Expected() - 1e-9, exhaustive.Expected() * 7 / 6);
    }

    [Fact]
    public void Eight_modules_are_planned_quickly_whatever_was_seen() =>
        Gen.Select(Gen.Bool, Gen.Int[0, 7], Gen.Bool)
            .Sample(
                (starts, at, known) =>
                {
                    var slots = Enumerable.Range(1, 8).Select(i => $"S{i}").Where((_, i) => i != at).ToArray();
                    var setup = Setup(
                        8,
                        starts
                            ? new SwapOutcome(true, known ? slots : null, MemorySize.Gigabytes(56))
                            : new SwapOutcome(false)
                    );
                    var (_, restarts) = Play(setup, p => [.. p.Where(x => x.Module != $"S{at + 1}")], known, !starts);
                    return restarts <= 8;
                },
                iter: 10
            );

    private static SwapSetup Setup(int count, SwapOutcome first) =>
        new(
            [.. Enumerable.Range(1, count).Select(i => new SwapModule($"S{i}", Make.Module(8), i > count / 2))],
            [.. Enumerable.Range(1, count).Select(i => $"S{i}")],
            Anything,
            first,
            false
        );

    private static SwapState After(SwapState state, SwapOutcome outcome) =>
        SwapTest.Of(
            state.Suspects.Count >= 0 && state.Next!.Count == 4
                ? Setup(4, new SwapOutcome(false)) with
                {
                    ReseatFirst = true,
                }
                : Setup(2, new SwapOutcome(true, ["S1"])),
            [new(state.Next!, outcome)]
        );

    private static (SwapConclusion Conclusion, int Restarts) Play(
        SwapSetup setup,
        Func<IReadOnlyList<SwapPlace>, IReadOnlyList<SwapPlace>> seen,
        bool slots,
        bool stops = false,
        bool setting = false
    )
    {
        var trials = new List<SwapTrial>();
        while (SwapTest.Of(setup, trials) is { Next: { } next, Defaults: var defaults })
        {
            var there = setting && defaults ? next : seen(next);
            trials.Add(new(next, Shown(next, there, slots, stops), defaults));
            Assert.True(trials.Count < 20, "it does not end");
        }

        return (SwapTest.Of(setup, trials).Conclusion!, trials.Count);
    }

    private static SwapOutcome Shown(
        IReadOnlyList<SwapPlace> places,
        IReadOnlyList<SwapPlace> there,
        bool slots,
        bool stops
    ) =>
        (stops ? there.Count < places.Count : there.Count == 0) ? new SwapOutcome(false)
        : slots ? new SwapOutcome(true, [.. there.Select(p => p.Slot)])
        : new SwapOutcome(true, Seen: MemorySize.Gigabytes(8 * there.Count));

    // Seats it anew, then changes it over with another: two restarts, a third where the slot shows, to rule out a
    // setting.
    private static int VeteranSeeing() => 3;

    // Seats all anew; then halves the modules until one is left, in slots that stay; then that one in another slot;
    // then the slots by halves.
    private static int VeteranBisecting(int count, Func<IReadOnlyList<SwapPlace>, bool> starts)
    {
        var restarts = 1;
        var modules = Enumerable.Range(1, count).Select(i => $"S{i}").ToArray();
        while (modules.Length > 1)
        {
            var half = modules[..(modules.Length / 2)];
            restarts++;
            modules = starts([.. half.Select(m => new SwapPlace(m, m))]) ? modules[(modules.Length / 2)..] : half;
        }

        return restarts + 2;
    }
}
