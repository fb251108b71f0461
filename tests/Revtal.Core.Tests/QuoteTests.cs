using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Prices, copies and the stock's rules, on their own.</summary>
public sealed class QuoteTests
{
    private static readonly PartKind Kind = new(
        new PartNumber("TM-8S"),
        "8 GB module",
        Make.Module(8),
        null,
        1,
        19.90m
    );
    private static readonly PartKind Kit = new(new PartNumber("TM-K"), "Two modules", Make.Module(8), null, 2, 35m);

    [Theory]
    [InlineData(0, 19, 49.90, 9.48, 59.38)]
    [InlineData(10, 19, 44.91, 8.53, 53.44)]
    [InlineData(0, 0, 49.90, 0, 49.90)]
    [InlineData(100, 19, 0, 0, 0)]
    [InlineData(33.3, 7, 33.28, 2.33, 35.61)]
    public void A_quote_adds_up_to_the_cent(double discount, double tax, double net, double taxAmount, double total)
    {
        var order = Planned(discount: (decimal)discount, new SlotChange("S1", Make.Module(8, part: "TM-8S")));
        var quote = Quotes.Of(order, Make.Fjell, [Kind], new WorkTime(30, 0), new ShopTerms("EUR", 60, (decimal)tax));
        Assert.Equal(((decimal)net, (decimal)taxAmount, (decimal)total), (quote.Net, quote.Tax, quote.Total));
        Assert.Equal(quote.Lines.Sum(l => l.Sum) - quote.Discount + quote.Tax, quote.Total);
        Assert.Empty(quote.Unpriced);
    }

    [Fact]
    public void A_kit_is_one_line_and_a_part_without_a_price_says_so()
    {
        var both = Planned(
            0,
            new SlotChange("S1", Make.Module(8, part: "TM-K")),
            new SlotChange("S2", Make.Module(8, part: "TM-K"))
        );
        Assert.Equal(
            (1, 35m),
            Quotes.Of(both, Make.Fjell, [Kit], new WorkTime(30, 0), new ShopTerms("EUR", 60, 0)).Lines[0] is var l
                ? (l.Count, l.Sum)
                : default
        );
        var unknown = Planned(
            0,
            new SlotChange("S1", Make.Module(8, part: "X-1")),
            new SlotChange("S2", Make.Module(8))
        );
        Assert.Equal(
            ["X-1", "8 GB for S2"],
            Quotes.Of(unknown, Make.Fjell, [], new WorkTime(30, 0), new ShopTerms("EUR", 60, 0)).Unpriced
        );
    }

    [Fact]
    public void What_is_at_risk_is_told()
    {
        var skarv = Repository.Guide("NS13");
        var before = Make.Reading(skarv, [8, 8]);
        var order = Make.Order(
            Make.TakenIn("NS13") with
            {
                Intake = Make.TakenIn().Intake with { Backup = Backup.Unknown, SealConsent = SealConsent.Refused },
            },
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(
                Planner.Make(
                    skarv,
                    before,
                    [
                        new SlotChange(
                            "D1",
                            Drive: new DriveWish(new Drive(DriveSize.Parse("1 TB")), DataPath.CleanInstall)
                        ),
                    ]
                ),
                null
            )
        );
        var quote = Quotes.Of(order, skarv, [], new WorkTime(30, 0), new ShopTerms("EUR", 60, 0));
        Assert.Contains(quote.Risks, r => r.Contains("warranty seal is broken", StringComparison.Ordinal));
        Assert.Contains(quote.Risks, r => r.Contains("Nobody knows of a backup", StringComparison.Ordinal));
        Assert.Contains(quote.Risks, r => r.Contains("not carried over", StringComparison.Ordinal));
        Assert.Contains(quote.Work, w => w.Contains("set up anew", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData(new int[0], 0)]
    [InlineData(new[] { 5, 50, 20, 30 }, 0)]
    [InlineData(new[] { 50, 10, 30, 20, 40 }, 30)]
    public void Five_past_runs_tell_the_time_by_their_median(int[] past, int minutes)
    {
        var sheet = Make.Order(Make.Agreed()).Sheet(Make.Fjell)!;
        var time = WorkTime.Of(sheet, past);
        Assert.Equal(
            minutes > 0 ? (minutes, past.Length) : (sheet.Steps.Sum(s => s.Minutes), 0),
            (time.Minutes, time.PastRuns)
        );
    }

    [Fact]
    public void A_reservation_takes_the_named_one_then_the_oldest_and_whole_kits()
    {
        var order = Planned(
            0,
            new SlotChange("S1", Make.Module(8, serial: "C", part: "TM-8S")),
            new SlotChange("S2", Make.Module(8, part: "TM-8S"))
        );
        PartItem[] shelf = [Item(1, PartState.Reserved), Item(2), Item(3), Item(4) with { Serial = "C" }];
        var effect = StockEffects.Of(order, new PlanAgreed("M. Alto", null), [], shelf, [Kind]);
        Assert.Equal([(4, "S1"), (2, "S2")], effect.Moves.Select(m => (m.Item, m.Position!)));
        Assert.Equal(
            "S2",
            Assert
                .Single(StockEffects.Of(order, new PlanAgreed("M. Alto", null), [], [shelf[3]], [Kind]).Missing)
                .Position
        );
        PartItem[] taken = [Item(4, PartState.Reserved) with { Serial = "C", Order = 7 }];
        Assert.Equal(
            "part-reserved",
            Assert
                .Throws<RefusedException>(() =>
                    StockEffects.Of(order, new PlanAgreed("M. Alto", null), [], taken, [Kind])
                )
                .Code
        );

        var kits = Planned(
            0,
            new SlotChange("S1", Make.Module(8, part: "TM-K")),
            new SlotChange("S2", Make.Module(8, part: "TM-K"))
        );
        PartItem[] pieces =
        [
            Item(10) with
            {
                Kind = new PartNumber("TM-K"),
                Kit = 10,
            },
            Item(12) with
            {
                Kind = new PartNumber("TM-K"),
                Kit = 12,
            },
            Item(13) with
            {
                Kind = new PartNumber("TM-K"),
                Kit = 12,
            },
        ];
        Assert.Equal(
            [12, 13],
            StockEffects.Of(kits, new PlanAgreed("M. Alto", null), [], pieces, [Kit]).Moves.Select(m => m.Item)
        );
    }

    private static readonly Claim Claimed = new("R-4711", new DateOnly(2026, 3, 4), "not seen in any slot");

    [Fact]
    public void A_faulty_part_goes_back_under_a_claim_and_nothing_else_does()
    {
        Assert.Equal("claim-missing", Code(() => StockRules.Move(Item(1, PartState.Faulty), PartState.Returned, "x")));
        Assert.Equal(
            "claim-elsewhere",
            Code(() => StockRules.Move(Item(1, PartState.Faulty), PartState.Scrapped, null, Claimed))
        );
        Assert.Equal(
            "claim R-4711 of 2026-03-04: not seen in any slot; by post",
            StockRules.Move(Item(1, PartState.Faulty), PartState.Returned, "by post", Claimed).Note
        );
        // What was never faulty goes back as it is.
        Assert.Null(StockRules.Move(Item(1, PartState.InStock), PartState.Returned, null).Note);
    }

    // Item 1 was booked for S1, item 2 was taken in its place, and the machine tells the serial of 2.
    [Fact]
    public void The_piece_that_the_machine_tells_of_is_the_one_that_is_booked()
    {
        var booked = Item(1, PartState.Fitted) with { Serial = "000A11", Order = 101, Position = "S1" };
        var other = Item(2) with { Serial = "0B22" };
        var after = Make.Reading(Make.Fjell, [8, 8]);
        Assert.Equal(
            [(1L, PartState.InStock, null), (2L, PartState.Fitted, "S1")],
            Rebooked(after, "0b22").Select(m => (m.Item, m.To, m.Position))
        );
        // The very one that is booked is there, or nothing that lies on the shelf: nothing moves by itself.
        Assert.Empty(Rebooked(after, "A11"));
        Assert.Empty(Rebooked(after, "C33"));
        Assert.Empty(StockEffects.Rebooked(101, [booked, booked with { Id = 3, Serial = "D4" }], [other], after));

        IReadOnlyList<StockMove> Rebooked(Reading reading, string serial) =>
            StockEffects.Rebooked(
                101,
                [booked],
                [booked, other],
                reading with
                {
                    Memory = reading.Memory with
                    {
                        Slots = [reading.Memory.Slots[0] with { Serial = serial }, .. reading.Memory.Slots.Skip(1)],
                    },
                }
            );
    }

    [Fact]
    public void A_pull_that_is_taken_back_puts_the_part_back_too()
    {
        var order = Planned(0, new SlotChange("S1", Make.Module(8, part: "TM-8S")));
        var pulled = Item(1, PartState.Pulled) with { Order = 101, Position = "S1" };
        var move = Assert.Single(
            StockEffects.Of(order, new StepTakenBack(2, StepId.Pull("S1"), null), [pulled], [], []).Moves
        );
        Assert.Equal((PartState.Pulled, PartState.Fitted, "S1"), (move.From, move.To, move.Position));
    }

    [Fact]
    public void By_hand_a_part_goes_only_where_it_can()
    {
        foreach (var from in Enum.GetValues<PartState>())
        {
            foreach (var to in Enum.GetValues<PartState>().Where(t => t != from))
            {
                var item = Item(1, from);
                if (
                    StockRules.IsWay(from, to)
                    && to is not (PartState.Reserved or PartState.Fitted)
                    && from is not (PartState.Reserved or PartState.Fitted)
                )
                {
                    var claim = (from, to) is (PartState.Faulty, PartState.Returned) ? Claimed : null;
                    Assert.Equal(to, StockRules.Move(item, to, null, claim).To);
                }
                else
                {
                    Assert.Throws<RefusedException>(() => StockRules.Move(item, to, null));
                }
            }
        }
    }

    [Fact]
    public void The_end_of_a_copy_follows_from_its_rate()
    {
        var start = new DateTimeOffset(2026, 3, 2, 10, 0, 0, TimeSpan.Zero);
        var copy = new DriveCopy(
            "D1",
            "old",
            "new",
            "image",
            DriveSize.Parse("400 GB"),
            [new CopyPoint(default, start)],
            null,
            null
        );
        Assert.Null(copy.EstimatedEnd);
        copy = copy with { Points = copy.Points.Add(new CopyPoint(DriveSize.Parse("100 GB"), start.AddMinutes(20))) };
        Assert.Equal(start.AddMinutes(80), copy.EstimatedEnd);
        copy = copy with { Points = copy.Points.Add(new CopyPoint(DriveSize.Parse("400 GB"), start.AddMinutes(90))) };
        Assert.Equal(start.AddMinutes(90), copy.EstimatedEnd);
    }

    [Fact]
    public void Lists_of_hashes_are_laid_beside_each_other_by_path()
    {
        var (a, b, c) = (new string('a', 64), new string('b', 64), new string('C', 64));
        Assert.Equal(
            (2, 2),
            HashLists.Compare($"{a}  x/one\n{c}  x/two three\n", $"{c.ToLowerInvariant()} *x/two three\r\n{a}  x/one\n")
                is var same
                ? (same.Sampled, same.Matched)
                : default
        );
        var other = HashLists.Compare($"{a}  one\n{b}  two\n", $"{a}  one\n");
        Assert.Equal((2, 1, "two"), (other.Sampled, other.Matched, other.Differ.Single()));
        foreach (var bad in new[] { "", "not a hash", $"{a}", "zz  one" })
        {
            Assert.Throws<RefusedException>(() => HashLists.Compare(bad, $"{a}  one"));
        }
    }

    [Fact]
    public void A_moved_boot_drive_is_told_and_an_array_is_written_down_before()
    {
        var skarv = Repository.Guide("NS13");
        var before = Make.Reading(skarv, [8, 8]);
        before = new Revtal.Core.Captures.Reading(
            before.Sources,
            before.System,
            before.Firmware,
            before.Memory,
            null,
            [new("D1", new Drive(DriveSize.Parse("500 GB"), "M.2 2242", "M"), null, true, Transport: "nvme")]
        );
        var plan = Planner.Make(skarv, before, [new SlotChange("D2", From: "D1")]);
        Assert.Equal([("D2", BayUse.Move), ("D1", BayUse.Empty)], plan.Bays.Select(b => (b.Bay, b.Use)));
        Assert.Empty(plan.ComesOut);
        Assert.Contains(FitRules.Of(skarv, before, plan), n => n.Code == "boot-bay");
        Assert.Equal("nothing-to-move", Code(() => Planner.Make(skarv, before, [new SlotChange("D1", From: "D2")])));
        Assert.Equal("bay-empty", Code(() => Planner.Make(skarv, before, [new SlotChange("D2", Empty: true)])));
        Assert.Equal(
            "slot-not-bay",
            Code(() =>
                Planner.Make(
                    skarv,
                    before,
                    [new SlotChange("S1", Drive: new DriveWish(new Drive(DriveSize.Parse("1 TB"))))]
                )
            )
        );
        var bastion = Repository.Guide("TB6");
        Assert.Equal(
            "array-state-missing",
            Code(() =>
                Planner.Make(
                    bastion,
                    Make.Reading(bastion, [4, 0]),
                    [
                        new SlotChange(
                            "B2",
                            Drive: new DriveWish(new Drive(DriveSize.Parse("8 TB")), DataPath.CleanInstall)
                        ),
                    ]
                )
            )
        );
    }

    private static string Code(Action action) => Assert.Throws<RefusedException>(action).Code;

    private static PartItem Item(long id, PartState state = PartState.InStock) =>
        new(id, new PartNumber("TM-8S"), null, state);

    private static Order Planned(decimal discount, params SlotChange[] changes)
    {
        var before = Make.Reading(Make.Fjell, [0, 8]);
        return Make.Order(
            Make.TakenIn(),
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(Planner.Make(Make.Fjell, before, changes), null, discount)
        );
    }
}
