using CsCheck;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>
/// Guides that are written at the bench. The truth is what was really taken off, in that order: the way back is its
/// reverse, and the next machine of the model is opened by it.
/// </summary>
public sealed class SketchTests
{
    private static readonly DateTimeOffset Start = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
    private static readonly Guide Blank = Sketch.Begin("Norrland", "Vidde 15", "NV15", "laptop", ["NV15"]);

    /// <summary>Two slots as firmware tells them; 8 GB in the first.</summary>
    private static readonly Reading Read = new(
        [Source.FirmwareTables],
        new SystemIdentity("Norrland", "NV15", "NV15-1"),
        FirmwareIdentity.Unknown,
        new MemoryReading(
            MemorySize.Gigabytes(8).Bytes,
            null,
            MemorySize.Gigabytes(32).Bytes,
            2,
            [
                new SlotReading(
                    "ChannelA-DIMM0",
                    "BANK 0",
                    MemorySize.Gigabytes(8).Bytes,
                    "SODIMM",
                    "DDR4",
                    2666,
                    2666
                ),
                new SlotReading("ChannelB-DIMM0", "BANK 1", 0),
            ]
        )
    );

    [Fact]
    public void What_the_machine_tells_fills_what_nobody_knew_and_no_more()
    {
        var filled = SketchFacts.Fill(Blank, Read);
        Assert.Equal(["S1", "S2"], filled.Memory.Slots.Select(s => s.Id));
        Assert.Equal("ChannelB-DIMM0", filled.Memory.Slots[1].ReportsAs);
        Assert.Equal(("DDR4", "SO-DIMM"), (filled.Memory.Generation, filled.Memory.Module));
        // The firmware's claim is no maker's word.
        Assert.Null(filled.Memory.StatedMax);
        Assert.All(filled.Memory.Slots, s => Assert.Equal(Reach.Unknown, s.Reach));
        var silent = Read with { Memory = Read.Memory with { Slots = [] } };
        Assert.Equal(filled.Memory.Slots, SketchFacts.Fill(filled, silent).Memory.Slots);
    }

    [Theory]
    [InlineData("Norrland", "Fjell 16", "NF16")]
    [InlineData("Quillon", "Torn Mini 9 G2", "QTM9G")]
    [InlineData("Ø", "Å", "MODEL")]
    public void A_code_is_made_of_what_stands_on_it(string maker, string name, string code)
    {
        Assert.Equal(code, Sketch.CodeFor(maker, name, _ => false));
        var second = Sketch.CodeFor(maker, name, c => c == code);
        Assert.Equal($"{code}-2", second);
        Assert.True(GuideReader.IsCode(second));
    }

    [Fact]
    public void What_is_not_known_is_said_and_neither_refused_nor_promised()
    {
        var guide = SketchFacts.Fill(Blank, Read);
        var plan = Planner.Make(guide, Read, [new SlotChange("S2", Make.Module(16))]);
        var notes = FitRules.Of(guide, Read, plan);
        var open = Assert.Single(notes, n => n.Code == "not-known");
        Assert.Equal(FitWeight.Remark, open.Weight);
        Assert.Equal(
            "Not known of this model: how much it takes (its firmware claims 32 GB) and which slots are filled first.",
            open.Sentence
        );
        Assert.DoesNotContain(notes, n => n.Weight == FitWeight.Refusal);
        Assert.Equal(MemorySize.Gigabytes(24), Expectation.Of(guide, Read, plan).Installed);

        // What it does know, it holds to: another generation does not go in, more than all claims is a lead's word.
        var ddr5 = new SlotChange("S2", Make.Module(16) with { Generation = "DDR5" });
        Assert.Equal("wrong-generation", Assert.Throws<RefusedException>(() => Planner.Make(guide, Read, [ddr5])).Code);
        var large = Planner.Make(guide, Read, [new SlotChange("S2", Make.Module(32))]);
        Assert.Contains(
            FitRules.Of(guide, Read, large),
            n => n is { Code: "above-all-maxima", Weight: FitWeight.Lead }
        );
    }

    [Fact]
    public void Nothing_comes_off_before_power_does()
    {
        var bench = new SketchBench();
        bench.Confirm("prepare.bench");
        Assert.Equal("power-not-isolated", bench.Refused("bottom cover"));
        Assert.Equal("cover", bench.Isolated().Off("cover").Order.Run!.CameOff[^1].Removal.Id);
    }

    [Fact]
    public void The_way_back_is_the_exact_reverse_and_the_next_machine_is_opened_by_what_was_done() =>
        Ways.Sample(
            way =>
            {
                var bench = new SketchBench().Isolated();
                foreach (var (screws, uncovers) in way)
                {
                    bench.Off($"part {bench.Taken.Count + 1}", screws);
                    if (uncovers)
                    {
                        bench.Uncover("S1");
                    }
                }

                // S2 lies deepest, or beside S1.
                bench.Uncover("S1").Uncover("S2");
                var opened = bench.Taken.ToArray();
                var closing = bench.Sheet.Steps.Where(s => s.Id.Verb == StepVerb.Close).Select(s => s.Removal!);
                Assert.Equal(opened.Reverse(), closing);
                Assert.Equal(way.Sum(w => w.Screws), Tally.Of(bench.Sheet, bench.Order.RunState).Out);

                bench.Finish();
                var learnt = SketchWork.Revised(Blank, bench.Order);
                Assert.True(learnt.IsSketch);
                Assert.Empty(GuideChecker.Check(learnt));
                var second = new SketchBench(learnt).Isolated();
                Assert.Equal(opened, second.Sheet.Steps.Where(s => s.Id.Verb == StepVerb.Open).Select(s => s.Removal!));
                Assert.Equal(
                    way.Select(w => w.Screws),
                    second.Sheet.Steps.Where(s => s.Id.Verb == StepVerb.Open).Select(s => s.LooseFasteners)
                );
                Assert.DoesNotContain(second.Sheet.Steps, s => s.Id.Verb == StepVerb.Uncover);

                // What gave access to S1 is what was off when it was said to lie open.
                var depth = way.FindIndex(w => w.UncoversS1);
                var deepest = depth < 0 ? opened.LastOrDefault() : opened[depth];
                Assert.Equal(deepest, learnt.Slot("S1")!.Reach);
            },
            iter: 300
        );

    [Fact]
    public void The_second_machine_corrects_the_first()
    {
        var first = new SketchBench().Isolated().Off("cover", 8).Uncover("S1").Uncover("S2").Finish();
        var learnt = SketchWork.Revised(Blank, first.Order);
        var second = new SketchBench(learnt).Isolated();
        // Something hid the cover's screws, and the cover has nine.
        second.Off("foot strip", 0).Off("cover", 9);
        Assert.Equal(["foot-strip", "cover"], second.Taken);
        Assert.Equal(
            ["close.cover", "close.foot-strip"],
            second.Sheet.Steps.Where(s => s.Id.Verb == StepVerb.Close).Select(s => s.Id.ToString())
        );
        var better = SketchWork.Revised(learnt, second.Finish().Order);
        Assert.Equal(9, better.Removals.Single(r => r.Id == "cover").Fasteners.Sum(f => f.Count));
        Assert.Equal(["foot-strip", "cover"], Reach.To(better, ["S2"]).Select(r => r.Id));
    }

    [Fact]
    public void What_was_thought_to_wait_and_came_off_first_waits_no_more()
    {
        var first = new SketchBench().Isolated().Off("cover", 8).Off("shield", 2).Uncover("S1").Uncover("S2").Finish();
        var learnt = SketchWork.Revised(Blank, first.Order);
        var second = new SketchBench(learnt).Isolated().Off("shield", 2);
        Assert.Equal(
            ["open.shield", "open.cover"],
            second.Sheet.Steps.Where(s => s.Id.Verb == StepVerb.Open).Select(s => s.Id.ToString())
        );
        Assert.Null(Reach.FindCircle(second.Guide));
        Assert.Equal(
            ["close.cover", "close.shield"],
            second.Finish().Sheet.Steps.Where(s => s.Id.Verb == StepVerb.Close).Select(s => s.Id.ToString())
        );
    }

    [Fact]
    public void A_search_after_the_run_knows_the_way_that_was_found()
    {
        var bench = new SketchBench().Isolated().Off("cover", 8).Uncover("S1").Off("shield", 2).Uncover("S2");
        Assert.Equal(["cover", "shield"], Reach.To(bench.Guide, ["S2"]).Select(r => r.Id));
        Assert.Equal(["cover"], Reach.To(bench.Guide, ["S1"]).Select(r => r.Id));
        // The steps that found it stay in the sheet.
        Assert.Equal(["uncover.S1", "uncover.S2"], bench.Sheet.Steps.Select(s => s.Id.ToString()).Where(IsUncover));

        static bool IsUncover(string id) => id.StartsWith("uncover.", StringComparison.Ordinal);
    }

    [Fact]
    public void A_thing_taken_back_never_came_off()
    {
        var bench = new SketchBench().Isolated().Off("cover", 4).Off("shield", 2);
        bench.Add(BenchRules.TakeBack(bench.Order, bench.Guide, StepId.Open("shield"), "it was the fan"));
        Assert.DoesNotContain(bench.Guide.Removals, r => r.Id == "shield");
        Assert.Equal(4, Tally.Of(bench.Sheet, bench.Order.RunState).Out);
        Assert.Equal("fan", bench.Off("fan", 2).Order.Run!.CameOff[^1].Removal.Id);
        Assert.Equal(["cover"], bench.Guide.Removals.Single(r => r.Id == "fan").Needs);
    }

    [Fact]
    public void What_is_seen_of_a_slot_is_told_at_its_steps_and_kept()
    {
        var bench = new SketchBench().Isolated().Off("cover", 4);
        bench.Add(
            SketchRules.See(
                bench.Order,
                bench.Guide,
                new SeenPosition("S2", Angle: 30, Latch: "spread-both", Notch: "short side to the hinge")
            )
        );
        var fit = bench.Sheet.Find(StepId.Fit("S2"));
        Assert.Contains("30°", string.Join(' ', fit.Details), StringComparison.Ordinal);
        Assert.Contains(fit.Precautions, p => p.Text.Contains("short side", StringComparison.OrdinalIgnoreCase));
        Assert.Equal(30, SketchWork.Revised(Blank, bench.Order).Slot("S2")!.Angle);
        Assert.Equal("word-unknown", Code(() => See(new SeenPosition("S2", Latch: "clicky"))));
        Assert.Equal("position-name", Code(() => See(new SeenPosition("a slot"))));
        Assert.Equal("position-kind", Code(() => See(new SeenPosition("S2", IsBay: true))));
        Assert.Equal("no-such-slot", Code(() => See(new SeenPosition("S2", Below: "S9"))));
        Assert.Equal("out-of-range", Code(() => See(new SeenPosition("S2", Angle: 91))));
        Assert.Equal("out-of-range", Code(() => See(new SeenPosition("S2", At: new BoardPoint(1.2, 0)))));

        PositionSeen See(SeenPosition seen) => SketchRules.See(bench.Order, bench.Guide, seen);
    }

    [Fact]
    public void Signs_traps_and_the_most_that_worked_are_written_down()
    {
        var bench = new SketchBench().Isolated().Off("cover", 4).Uncover("S1").Uncover("S2");
        bench
            .Confirm("look.S1", w => w with { Note = "clean" })
            .Confirm("fit.S2", w => w with { Note = "press at the left end first" });
        bench.Finish();
        bench.Add(
            BenchRules.Find(bench.Order, bench.Guide, FindKind.Sign, StepId.PowerOn, "two slow blinks"),
            BenchRules.Find(bench.Order, bench.Guide, FindKind.NormalStart, StepId.PowerOn, null)
        );
        bench.Add(new ReadingTaken(Phase.After, After, null, null));
        var ready = CloseRules.MarkReady(bench.Order, bench.Guide, Role.Technician, null);
        Assert.Equal(MemorySize.Gigabytes(24), ready.Proves);
        bench.Add(ready);
        var learnt = SketchWork.Revised(Blank, bench.Order);
        Assert.Equal("two slow blinks", Assert.Single(learnt.FirstStart).Sees);
        Assert.Equal(new Trap("fit.S2", "press at the left end first"), Assert.Single(learnt.Traps));
        Assert.Equal(MemorySize.Gigabytes(24), learnt.Memory.ConfirmedMax!.Size);
        // The same order teaches nothing twice.
        var again = SketchWork.Revised(learnt, bench.Order);
        Assert.Equal((1, 1), (again.FirstStart.Count, again.Traps.Count));
    }

    [Fact]
    public void A_published_guide_is_not_written_at_the_bench()
    {
        var bench = new SketchBench().Isolated().Off("cover", 4).Uncover("S1").Uncover("S2").Finish();
        var learnt = SketchWork.Revised(Blank, bench.Order);
        var published = learnt with { Model = learnt.Model with { Sketch = false } };
        Assert.Same(published, SketchWork.Revised(published, bench.Order));
        Assert.Equal("guide-published", Make.WhyNot(OrderAct.TellPosition, bench.Order, published));
        // And it is not published before what it must tell is known.
        var lacks = string.Join('\n', GuideChecker.Check(published).Select(p => p.Message));
        Assert.Contains("stated-max", lacks, StringComparison.Ordinal);
        Assert.Contains("isolate names no step", lacks, StringComparison.Ordinal);
        Assert.Contains("has no place", lacks, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("DDR9", "generation of memory", "DDR2")]
    [InlineData("DDR 4", "generation of memory", "DDR4")]
    [InlineData("SODIMM", "form of a module", "SO-DIMM")]
    [InlineData("labtop", "kind of machine", "laptop")]
    [InlineData("PH 0", "driver", "PH0")]
    [InlineData("spoon", "driver", null)]
    public void A_word_that_the_trade_does_not_know_is_told_with_the_one_that_is_meant(
        string word,
        string what,
        string? meant
    )
    {
        var guide = Make.Fjell;
        var slip = what switch
        {
            "generation of memory" => guide with { Memory = guide.Memory with { Generation = word } },
            "form of a module" => guide with { Memory = guide.Memory with { Module = word } },
            "kind of machine" => guide with { Model = guide.Model with { Kind = word } },
            _ => guide with
            {
                Removals =
                [
                    guide.Removals[0] with
                    {
                        Fasteners = [guide.Removals[0].Fasteners[0] with { Driver = word }],
                    },
                    .. guide.Removals.Skip(1),
                ],
            },
        };
        Assert.Empty(GuideChecker.Check(guide));
        Assert.Equal(
            $"“{word}” is no {what} that the trade knows{(meant is null ? "" : $"; {meant} is meant, perhaps")}",
            Assert.Single(GuideChecker.Check(slip)).Message
        );
    }

    [Fact]
    public void A_build_told_too_early_is_taken_back_and_the_run_stays()
    {
        var before = Make.Reading(Make.Fjell, [8, 8]);
        var order = Make.Order(
            Make.TakenIn(),
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(Planner.Make(Make.Fjell, before, [new SlotChange("S2", Make.Module(16))]), null),
            new PlanAgreed("M. Alto", null)
        );
        Assert.Equal("variant-not-told", Code(() => IntakeRules.TellVariant(order, Make.Fjell, null)));
        var told = order.With(IntakeRules.TellVariant(order, Make.Fjell, "FJ14-1"));
        var back = told.With(IntakeRules.TellVariant(told, Make.Fjell, null));
        Assert.Null(back.Variant);
        Assert.Equal(order.Sheet(Make.Fjell)!.Steps.Select(x => x.Id), back.Sheet(Make.Fjell)!.Steps.Select(x => x.Id));
    }

    [Fact]
    public void A_seal_that_was_broken_here_is_known_at_the_next_visit()
    {
        var sealedCover = Make.Fjell with
        {
            Removals =
            [
                .. Make.Fjell.Removals.Select(r =>
                    r.Id == "hatch" ? r with { Fasteners = [r.Fasteners[0] with { Seal = true }] } : r
                ),
            ],
        };
        var order = Make.Order([.. Make.Run()]);
        Assert.Equal(101, MachineHistory.Of([(order, sealedCover)]).SealBroken);
        Assert.Null(MachineHistory.Of([(order, Make.Fjell)]).SealBroken);
        Assert.Null(MachineHistory.Of([(Make.Order([.. Make.Agreed()]), sealedCover)]).SealBroken);
    }

    [Fact]
    public void Adopting_never_undoes_a_done_step() =>
        Gen.Select(Gen.Int[0, 6], Gen.Int[0, 3], Gen.Int[0, 2])
            .Sample(
                (done, other, drop) =>
                {
                    var first = new SketchBench().Isolated().Off("cover", 8).Off("shield", 2);
                    var learnt = SketchWork.Revised(Blank, first.Uncover("S1").Uncover("S2").Finish().Order);
                    var bench = new SketchBench(learnt).Isolated().Steps(done);
                    var changed = other switch
                    {
                        // A removal less, another count, a trap more, nothing known at all.
                        0 => Without(learnt, learnt.Removals[drop % 2].Id),
                        1 => Counting(learnt, learnt.Removals[drop % 2].Id, 5),
                        2 => learnt with { Traps = [new Trap("open", "slowly")] },
                        _ => Blank,
                    };
                    var before = bench.Order.Run!.Done.Select(d => d.Step).ToArray();
                    try
                    {
                        bench.Add(
                            AdoptRules.Adopt(bench.Order, bench.Guide, SketchWork.Drawn(changed, bench.Order), 2)
                        );
                    }
                    catch (RefusedException e)
                    {
                        Assert.Equal("adoption-contradicts", e.Code);
                        Assert.NotEqual(2, other);
                        return;
                    }

                    var sheet = bench.Order.Sheet(SketchWork.Drawn(changed, bench.Order))!;
                    Assert.All(before, step => Assert.True(sheet.IsSettled(sheet.Find(step), bench.Order.RunState)));
                },
                iter: 60
            );

    private static readonly Reading After = Read with
    {
        Memory = Read.Memory with
        {
            InstalledBytes = MemorySize.Gigabytes(24).Bytes,
            Slots =
            [
                Read.Memory.Slots[0],
                new SlotReading(
                    "ChannelB-DIMM0",
                    "BANK 1",
                    MemorySize.Gigabytes(16).Bytes,
                    "SODIMM",
                    "DDR4",
                    2666,
                    2666
                ),
            ],
        },
    };

    private static Gen<List<(int Screws, bool UncoversS1)>> Ways { get; } =
        Gen.Select(Gen.Int[0, 12].List[0, 5], Gen.Int[0, 5])
            .Select((screws, s1) => screws.Select((n, i) => (n, i == s1)).ToList());

    private static Guide Without(Guide guide, string removal) =>
        guide with
        {
            Removals =
            [
                .. guide
                    .Removals.Where(r => r.Id != removal)
                    .Select(r => r with { Needs = [.. r.Needs.Where(n => n != removal)] }),
            ],
            Memory = guide.Memory with
            {
                Slots =
                [
                    .. guide.Memory.Slots.Select(s =>
                        s.Reach == removal ? s with { Reach = guide.Removals.First(r => r.Id != removal).Id } : s
                    ),
                ],
            },
        };

    private static Guide Counting(Guide guide, string removal, int count) =>
        guide with
        {
            Removals =
            [
                .. guide.Removals.Select(r =>
                    r.Id == removal ? r with { Fasteners = [.. r.Fasteners.Select(f => f with { Count = count })] } : r
                ),
            ],
        };

    private static string Code(Action act) => Assert.Throws<RefusedException>(act).Code;

    /// <summary>An agreed order on a sketch: 16 GB go into S2, and S1 is filled anew too.</summary>
    private sealed class SketchBench
    {
        private readonly Guide sketch;
        private readonly List<EntryBody> bodies;
        private DateTimeOffset now = Start;

        public SketchBench(Guide? sketch = null)
        {
            this.sketch = sketch ?? Blank;
            var guide = SketchFacts.Fill(this.sketch, Read);
            bodies =
            [
                Make.TakenIn("NV15"),
                new ReadingTaken(Phase.Before, Read, null, null),
                new PlanSet(
                    Planner.Make(
                        guide,
                        Read,
                        [new SlotChange("S1", Inspect: true), new SlotChange("S2", Make.Module(16, speed: 2666))]
                    ),
                    null
                ),
                new PlanAgreed("M. Alto", null),
            ];
        }

        public Order Order =>
            Revtal.Core.Orders.Order.Fold(
                bodies.Select((b, i) => new Entry(101, i + 1, Guid.Empty, Start.AddMinutes(i), "pell", b))
            );

        public Guide Guide => SketchWork.Drawn(sketch, Order);

        public RunSheet Sheet => Order.Sheet(Guide)!;

        public List<string> Taken { get; } = [];

        public void Add(params EntryBody[] more) => bodies.AddRange(more);

        public string Refused(string name) =>
            Assert
                .Throws<RefusedException>(() => SketchRules.TakeOff(Order, Guide, new CameOffWish(name), "pell", now))
                .Code;

        public SketchBench Isolated()
        {
            while (Sheet.Next(Order.RunState) is { Part: RunPart.Prepare or RunPart.Isolate } next)
            {
                Confirm(next.Id.ToString());
            }

            return this;
        }

        public SketchBench Off(string name, int screws = 0)
        {
            now = now.AddMinutes(3);
            var held = screws == 0 ? Array.Empty<CameOffFasteners>() : [new CameOffFasteners(screws, "PH0", 5)];
            var told = SketchRules.TakeOff(Order, Guide, new CameOffWish(name, held), "pell", now);
            bodies.Add(told);
            Taken.Add(told.What.Removal.Id);
            return this;
        }

        public SketchBench Uncover(string position) =>
            Order.RunState.Confirmed(StepId.Uncover(position)) is null
            && Sheet.Steps.Any(s => s.Id == StepId.Uncover(position))
                ? Confirm($"uncover.{position}")
                : this;

        public SketchBench Confirm(string id, Func<StepConfirmation, StepConfirmation>? change = null)
        {
            now = now.AddMinutes(2);
            var step = Sheet.Find(StepId.Parse(id));
            var wish = new StepConfirmation(
                step.Id,
                "pell",
                now,
                step.LooseFasteners > 0 ? step.LooseFasteners : null,
                Note: step.Id.Verb == StepVerb.Look ? "clean" : null
            );
            bodies.Add(BenchRules.Confirm(Order, Guide, (change ?? (w => w))(wish)));
            return this;
        }

        public SketchBench Steps(int most)
        {
            for (var i = 0; i < most && Sheet.Next(Order.RunState) is { } next; i++)
            {
                Confirm(next.Id.ToString());
            }

            return this;
        }

        public SketchBench Finish() => Steps(100);
    }
}
