using CsCheck;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Storage as the goal: how full the drives are, what helps, and the system's move to another bay.</summary>
public sealed class DriveRoomTests
{
    // A mini PC: 2.5 in SATA that boots, and an empty M.2 bay with PCIe 4.0 x4.
    private static readonly Guide Mini = Repository.Guide("NM2");
    private static readonly RoomWanted Usual = new(null, 85, 200);

    private static readonly DriveOffer[] Shelf =
    [
        Offer("M500", "500 GB", "M.2 2280", "PCIe 4.0 x4", 44, 1),
        Offer("M1T", "1 TB", "M.2 2280", "PCIe 4.0 x4", 71, 2),
        Offer("S1T", "1 TB", "2.5 in", "SATA 6 Gb/s", 66, 0),
        Offer("S250", "250 GB", "2.5 in", "SATA 6 Gb/s", 20, 9),
        Offer("H8T", "8 TB", "3.5 in", "SATA 6 Gb/s", 189, 3),
    ];

    [Theory]
    [InlineData(500, 462, 0, 92)] // 92.4, cut
    [InlineData(500, 425, 0, 85)]
    [InlineData(500, 424, 0, 84)] // 84.8 is not 85
    [InlineData(500, 230, 250, 92)] // half of it in no file system
    public void Full_is_what_file_systems_hold_of_what_they_can(int size, int used, int spare, int percent)
    {
        var room = Assert.Single(DriveRooms.Of(Mini, With(Sata(size, used, spare))));
        Assert.Equal(percent, room.Percent);
        Assert.Equal((size - spare - used) * 1_000_000_000L, room.Free.Bytes);
        var order = Make.Order(
            Make.TakenIn("NM2"),
            new ReadingTaken(Phase.Before, With(Sata(size, used, spare)), null, null)
        );
        Assert.Equal(percent >= 85 ? 1 : 0, NearlyFull.Of(order, Mini, 85).Count);
        Assert.Equal(percent, OrderCard.Of(order, Mini).Fullest!.Percent);
    }

    [Fact]
    public void Nothing_is_said_of_a_drive_that_nobody_looked_into()
    {
        Assert.Empty(DriveRooms.Of(Mini, With(Sata(500, null))));
        Assert.Empty(DriveRooms.Of(Mini, With(Sata(500, 499) with { Transport = "usb" })));
    }

    [Fact]
    public void A_full_drive_is_replaced_or_its_system_moves_to_the_faster_link_or_one_comes_beside_it()
    {
        var answer = DriveOptions.Find(Mini, With(Sata(250, 231)), Shelf, Usual);
        Assert.Equal(
            [
                // By the standards SATA 6 Gb/s carries 600 MB/s, PCIe 4.0 x4 7,877. 231 GB at 200 MB/s: 19.25 min.
                (DriveWay.Add, "D2", "M500", 500, 19, 600, 0),
                (DriveWay.MoveSystem, "D2", "M500", 500, 269, 7877, 20),
                (DriveWay.Replace, "D1", "S1T", 750, 769, 600, 20),
                (DriveWay.Add, "D2", "M1T", 1000, 19, 600, 0),
                (DriveWay.MoveSystem, "D2", "M1T", 1000, 769, 7877, 20),
            ],
            answer.Options.Select(o =>
                (
                    o.Way,
                    o.Bay,
                    $"{o.Buys!.Number}",
                    Gb(o.Gain),
                    Gb(o.SystemFree!.Value),
                    o.SystemRate!.Value,
                    o.CopyMinutes
                )
            )
        );
        Assert.Equal(
            [false, true],
            answer.Options.Where(o => o.Buys!.Drive.Size.Bytes == 1_000_000_000_000).Select(o => o.IsOnShelf).Distinct()
        );
        Assert.All(
            answer.Options.Where(o => o.Way == DriveWay.Add),
            o => Assert.Contains(o.Notes, n => n.Code == "stays-full" && n.Position == "D1")
        );
        Assert.All(
            answer.Options.Where(o => o.Way == DriveWay.MoveSystem),
            o => Assert.Contains(o.Notes, n => n.Code == "boot-bay")
        );
    }

    [Fact]
    public void What_is_to_come_must_have_room_and_a_budget_is_kept()
    {
        // 231 GB and 300 more want 531; at 85 % only a terabyte has them. Beside it 500 GB hold 300.
        var answer = DriveOptions.Find(
            Mini,
            With(Sata(250, 231)),
            Shelf,
            Usual with
            {
                Growth = DriveSize.Parse("300 GB"),
            }
        );
        Assert.Equal(
            ["Add M500", "Replace S1T", "Add M1T", "MoveSystem M1T"],
            answer.Options.Select(o => $"{o.Way} {o.Buys!.Number}")
        );
        var cheap = DriveOptions.Find(Mini, With(Sata(250, 231)), Shelf, Usual with { Budget = 50 });
        Assert.All(cheap.Options, o => Assert.True(o.Price <= 50));
        Assert.Contains(
            cheap.Closed,
            c => c.StartsWith("D1: what fits of the catalogue leaves too little room", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Where_nobody_read_how_full_it_is_only_a_larger_one_is_sure_to_hold_it()
    {
        var answer = DriveOptions.Find(Mini, With(Sata(500, null)), Shelf, Usual);
        var moved = answer.Options.Single(o => (o.Way, $"{o.Buys!.Number}") == (DriveWay.MoveSystem, "M500"));
        Assert.Null(moved.SystemFree);
        Assert.StartsWith("Up to 500 GB are copied", moved.DataWords, StringComparison.Ordinal);
        Assert.DoesNotContain(
            DriveOptions.Find(Mini, With(Sata(1000, null)), Shelf, Usual).Options,
            o => o.Way == DriveWay.MoveSystem && o.Buys!.Drive.Size.Bytes < 1_000_000_000_000
        );
    }

    [Fact]
    public void A_bay_that_nobody_looked_into_is_not_taken_for_empty()
    {
        var seen = Make.Reading(Mini, [8, 8]) with
        {
            Drives = [Sata(250, 231) with { Transport = null, Initialised = null }],
        };
        var answer = DriveOptions.Find(Mini, seen, Shelf, Usual);
        Assert.All(answer.Options, o => Assert.Equal("D1", o.Bay));
        Assert.Contains("D2: nobody read whether a drive sits there.", answer.Closed);
        var box = DriveOptions.Find(Repository.Guide("TB6"), Reading.Nothing, Shelf, Usual);
        Assert.Empty(box.Options);
        Assert.Contains("array", Assert.Single(box.Closed), StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_offered_can_be_planned_and_the_plan_leaves_what_was_offered() =>
        Gen.Select(Gen.Int[100, 1000], Gen.Int[1, 100], Gen.Int[0, 3], Gen.Int)
            .Sample(
                (size, share, offers, seed) =>
                {
                    var random = new Random(seed);
                    DriveOffer[] shelf =
                    [
                        .. Enumerable
                            .Range(0, 4 + offers)
                            .Select(i =>
                                Offer(
                                    $"X{i}",
                                    $"{50 * random.Next(1, 60)} GB",
                                    random.Next(3) == 0 ? "2.5 in" : "M.2 2280",
                                    random.Next(3) == 0 ? "PCIe 3.0 x4"
                                        : random.Next(2) == 0 ? "PCIe 4.0 x4"
                                        : "SATA 6 Gb/s",
                                    random.Next(10, 200),
                                    random.Next(2)
                                )
                            ),
                    ];
                    var before = With(Sata(size, size * share / 100));
                    var answer = DriveOptions.Find(Mini, before, shelf, Usual);
                    foreach (var option in answer.Options)
                    {
                        Assert.DoesNotContain(answer.Options, o => o.Beats(option));
                        var plan = Planner.Make(Mini, before, option.Changes);
                        var after = AfterPlan.Of(Mini, before, plan);
                        Assert.Equal(option.Total.Bytes, after.Drives.Sum(d => d.Drive.Size.Bytes));
                        var system = after.Drives.Single(d =>
                            d.Bay == (option.Way is DriveWay.MoveSystem or DriveWay.Move ? option.Bay : "D1")
                        );
                        Assert.Equal(option.SystemFree!.Value.Bytes, system.Drive.Size.Bytes - system.UsedBytes);
                    }
                }
            );

    [Fact]
    public void The_machine_after_a_plan_reads_as_the_plan_says() =>
        Gen.Select(Gen.Int[-1, 2], Gen.Int[-1, 2], Gen.Int[0, 4])
            .Sample(
                (first, second, what) =>
                {
                    var fjell = Make.Fjell;
                    var before = Make.Reading(fjell, [first < 0 ? -1 : first * 8, second < 0 ? -1 : second * 8]);
                    SlotChange[] changes = what switch
                    {
                        0 => [new("S1", Make.Module(16))],
                        1 when first > 0 => [new("S2", From: "S1")],
                        2 when first > 0 => [new("S1", Empty: true)],
                        3 => [new("S1", Make.Module(8)), new("S2", Make.Module(16))],
                        _ => [new("S1", Inspect: true)],
                    };
                    var plan = Planner.Make(fjell, before, changes);
                    var after = Occupancy.Of(fjell, AfterPlan.Of(fjell, before, plan));
                    Assert.Equal(
                        plan.Slots.Select(s => s.Stays && !s.Before.Known ? (long?)null : s.Module?.Size.Bytes ?? 0),
                        after.Select(a => a.Known ? a.Module?.Size.Bytes ?? 0 : (long?)null)
                    );
                }
            );

    [Fact]
    public void A_system_that_moves_is_copied_first_and_the_start_order_is_set_after_the_first_start()
    {
        var before = With(Sata(250, 231));
        var wish = new DriveWish(Shelf[1].Drive, DataPath.CopyFirst, SystemFrom: "D1");
        var plan = Planner.Make(Mini, before, [new SlotChange("D2", Drive: wish), new SlotChange("D1", Empty: true)]);
        var order = Make.Order(
            Make.TakenIn("NM2"),
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(plan, null)
        );
        Assert.Equal(["D2"], order.CopiesOwed);
        var steps = order.Sheet(Mini)!.Steps;
        var pull = steps.Single(s => s.Id == StepId.Pull("D1") || s.CopiedFirst.Count > 0);
        Assert.Equal(["D2"], pull.CopiedFirst);
        var ids = steps.Select(s => s.Id).ToList();
        Assert.True(ids.IndexOf(StepId.StartOrder) > ids.IndexOf(StepId.PowerOn));
        Assert.Contains("D2", steps.Single(s => s.Id == StepId.StartOrder).Title, StringComparison.Ordinal);
        Assert.DoesNotContain(
            Make.Order(
                    Make.TakenIn("NM2"),
                    new ReadingTaken(Phase.Before, before, null, null),
                    new PlanSet(
                        Planner.Make(Mini, before, [new SlotChange("D2", Drive: new DriveWish(Shelf[1].Drive))]),
                        null
                    )
                )
                .Sheet(Mini)!
                .Steps,
            s => s.Id == StepId.StartOrder
        );
    }

    [Theory]
    [InlineData("D1", true)] // the old copy starts
    [InlineData("D2", false)]
    public void A_machine_that_still_starts_from_the_old_drive_is_short(string boots, bool isShort)
    {
        var before = With(Sata(250, 231));
        var wish = new DriveWish(Shelf[1].Drive, DataPath.CopyFirst, SystemFrom: "D1");
        var after = Make.Reading(Mini, [8, 8]) with
        {
            Drives =
            [
                Sata(250, 231) with
                {
                    Boots = boots == "D1",
                },
                new DriveReading(
                    "D2",
                    Shelf[1].Drive,
                    231_000_000_000,
                    boots == "D2",
                    Transport: "nvme",
                    Initialised: true
                ),
            ],
        };
        var check = Make.Check(Mini, before, after, new SlotChange("D2", Drive: wish));
        Assert.Equal(isShort, check.Findings.Any(f => f.Code == "boots-old"));
        Assert.Equal(isShort, check.Verdict == Verdict.Short);
    }

    [Fact]
    public void A_system_comes_only_from_a_drive_and_only_into_an_empty_bay()
    {
        var both = With(Sata(250, 100), new DriveReading("D2", Shelf[0].Drive, 1, Transport: "nvme"));
        Assert.Equal("system-bay-full", Refused(both, Wish("D1"), "D2"));
        Assert.Equal("system-from", Refused(With(Sata(250, 100)), Wish("D2"), "D2"));
        Assert.Equal("system-from", Refused(With(Sata(250, 100)), Wish("D9"), "D2"));
        Assert.Equal("system-path", Refused(With(Sata(250, 100)), Wish("D1") with { Path = null }, "D2"));
        // 231 GB do not go onto 100.
        Assert.Equal(
            "drive-too-small",
            Refused(
                With(Sata(250, 231)),
                Wish("D1") with
                {
                    Drive = Offer("M100", "100 GB", "M.2 2280", "PCIe 4.0 x4", 9, 1).Drive,
                },
                "D2"
            )
        );

        static DriveWish Wish(string from) => new(Shelf[1].Drive, DataPath.CopyFirst, SystemFrom: from);

        static string Refused(Reading before, DriveWish wish, string bay) =>
            Assert.Throws<RefusedException>(() => Planner.Make(Mini, before, [new SlotChange(bay, Drive: wish)])).Code;
    }

    [Fact]
    public void A_later_visit_is_planned_on_the_machine_as_it_is_left()
    {
        // S2's 8 GB are taken out by this plan: only what it leaves can be moved later.
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S2", Make.Module(16)));
        var noted = LaterRules.Note(bench.Order, bench.Guide, [new SlotChange("S1", From: "S2")], "when it is back");
        Assert.Equal("16 GB from S2 to S1; S2 left empty – when it is back", noted.Words);
        bench.Add(noted);
        Assert.Equal(noted.Words, bench.Order.Later!.Words);
        Assert.Equal(
            "slot-soldered",
            Assert
                .Throws<RefusedException>(() =>
                    LaterRules.Note(
                        new Bench("NL12", [8], new SlotChange("M1", Inspect: true)).Order,
                        Repository.Guide("NL12"),
                        [new SlotChange("M1", Make.Module(8))],
                        null
                    )
                )
                .Code
        );
        Assert.Equal(
            "no-reading",
            Assert
                .Throws<RefusedException>(() =>
                    LaterRules.Note(
                        Make.Order(Make.TakenIn()),
                        Make.Fjell,
                        [new SlotChange("S1", Make.Module(8))],
                        null
                    )
                )
                .Code
        );
    }

    [Fact]
    public void A_new_plan_drops_its_own_second_stage_and_leaves_what_was_noted()
    {
        var before = Make.Reading(Make.Fjell, [0, 8]);
        var plan = Planner.Make(Make.Fjell, before, [new SlotChange("S1", Make.Module(8))]);
        var stage = new LaterStage(new PartNumber("OP-16"), 1, 39, "16 GB into S2");
        EntryBody[] planned =
        [
            Make.TakenIn(),
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(plan, null, 0, stage),
        ];
        Assert.Equal("16 GB into S2", Make.Order(planned).Later!.Words);
        Assert.Null(Make.Order([.. planned, new PlanSet(plan, null)]).Later);
        EntryBody[] noted = [.. planned, new LaterNoted([], "a larger drive", null)];
        Assert.Equal("a larger drive", Make.Order([.. noted, new PlanSet(plan, null)]).Later!.Words);
        Assert.Equal("16 GB into S2", Make.Order([.. noted, new PlanSet(plan, null, 0, stage)]).Later!.Words);
        Assert.Null(Make.Order([.. noted, new LaterDropped(null)]).Later);
        Assert.Equal("nothing-noted", Make.WhyNot(OrderAct.DropLater, Make.Order(Make.TakenIn())));
    }

    [Fact]
    public void A_full_drive_is_a_remark_until_the_plan_or_a_later_visit_eases_it()
    {
        var before = With(Sata(500, 462));
        EntryBody[] read = [Make.TakenIn("NM2"), new ReadingTaken(Phase.Before, before, null, null)];
        var memory = new PlanSet(Planner.Make(Mini, before, [new SlotChange("S1", Reseat: true)]), null);
        Assert.Single(NearlyFull.Notes(Make.Order([.. read, memory]), Mini, 85));
        var larger = new SlotChange("D1", Drive: new DriveWish(Shelf[2].Drive, DataPath.CopyFirst));
        var eased = Make.Order([.. read, new PlanSet(Planner.Make(Mini, before, [larger]), null)]);
        Assert.Empty(NearlyFull.Of(eased, Mini, 85));
        Assert.Equal(46, NearlyFull.Of(eased, Mini)[0].Drive.Percent);
        var noted = Make.Order([.. read, memory, LaterRules.Note(Make.Order([.. read, memory]), Mini, [larger], null)]);
        Assert.True(Assert.Single(NearlyFull.Of(noted, Mini, 85)).IsNoted);
        Assert.Empty(NearlyFull.Notes(noted, Mini, 85));
        Assert.Null(OrderCard.Of(noted, Mini).Fullest);
    }

    private static int Gb(DriveSize size) => (int)(size.Bytes / 1_000_000_000);

    private static DriveReading Sata(int size, int? used, int spare = 0) =>
        new(
            "D1",
            new Drive(new DriveSize(size * 1_000_000_000L), "2.5 in", Link: "SATA 6 Gb/s", Serial: "BS-77"),
            used * 1_000_000_000L,
            true,
            Transport: "sata",
            Initialised: true,
            SpareBytes: spare * 1_000_000_000L
        );

    private static Reading With(params DriveReading[] drives) => Make.Reading(Mini, [8, 8]) with { Drives = drives };

    private static DriveOffer Offer(string number, string size, string form, string link, decimal price, int shelf) =>
        new(
            new PartNumber(number),
            new Drive(
                DriveSize.Parse(size),
                form,
                form == "M.2 2280" ? "M" : null,
                link,
                PartNumber: new PartNumber(number)
            ),
            price,
            shelf
        );
}
