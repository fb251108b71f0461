using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>A reading that cannot be of the machine is a question; nothing is planned before an answer.</summary>
public sealed class DoubtTests
{
    private static readonly Guide Fjell = Make.Fjell with
    {
        Model = Make.Fjell.Model with { ReportsAs = ["Fjell 14", "FJ-14"] },
    };

    private static readonly Reading Right = Make.Reading(Fjell, [0, 8], machine: "NF14-0417");

    public static TheoryData<string, string?> Readings =>
        new()
        {
            { "right", null },
            { "product", "It tells the product Kliff 24; FJ14 reports as Fjell 14 or FJ-14." },
            { "serial", "It tells the serial NF14-9999; NF14-0417 was written down at take-in." },
            { "generation", "SODIMM 0 tells DDR5; FJ14 takes DDR4." },
            { "sum", "The slots hold 8 GB together; the total is 16 GB." },
            { "blank", null },
        };

    [Theory]
    [MemberData(nameof(Readings))]
    public void What_cannot_be_is_asked_and_what_may_be_is_not(string which, string? doubt)
    {
        var reading = Named(which);
        Assert.Equal(doubt is null ? [] : [doubt], ReadingDoubts.Of(Fjell, "NF14-0417", reading));
        var order = Make.Order(Taken("NF14-0417"), new ReadingTaken(Phase.Before, reading, null, null));
        Assert.Equal(doubt is null ? null : "reading-doubted", Make.WhyNot(OrderAct.SetPlan, order, Fjell));
        var vouched = Make.Order(
            Taken("NF14-0417"),
            new ReadingTaken(Phase.Before, reading, null, null),
            new ReadingVouched(2, "the board was changed")
        );
        Assert.Null(Make.WhyNot(OrderAct.SetPlan, vouched, Fjell));
        // The word was of that reading; the next is asked anew.
        var again = Make.Order(
            Taken("NF14-0417"),
            new ReadingTaken(Phase.Before, reading, null, null),
            new ReadingVouched(2, "the board was changed"),
            new NoteAdded("read again"),
            new ReadingTaken(Phase.Before, reading, null, null)
        );
        Assert.Equal(doubt is null ? null : "reading-doubted", Make.WhyNot(OrderAct.SetPlan, again, Fjell));
    }

    [Fact]
    public void A_serial_that_nobody_typed_is_taken_over_from_the_machine_and_may_be_corrected()
    {
        var read = new ReadingTaken(Phase.Before, Right, null, null);
        Assert.Equal("NF14-0417", Make.Order(Taken(null), read).Intake.Serial);
        Assert.Equal("NF14-1", Make.Order(Taken("NF14-1"), read).Intake.Serial);
        Assert.Null(Make.Order(Taken(null), read with { Reading = Named("blank") }).Intake.Serial);
        var mended = IntakeRules.Correct("NF14-0417", null, Backup.Waived, "one digit was mistyped");
        var order = Make.Order(Taken("NF14-1"), read, mended);
        Assert.Equal(("NF14-0417", Backup.Waived), (order.Intake.Serial, order.Intake.Backup));
        Assert.Empty(order.Doubts(Fjell));
        Assert.Equal(
            "nothing-corrected",
            Assert.Throws<RefusedException>(() => IntakeRules.Correct(null, " ", null, "why")).Code
        );
    }

    // 16 GB, as the firmware's setup shows it; then, in the system, 15.5.
    [Fact]
    public void Two_typed_readings_one_after_the_other_are_one_set_where_each_tells_what_the_other_does_not()
    {
        var firmware = EyeReading.Make(MemorySize.Gigabytes(16), null, [], null);
        var system = EyeReading.Make(null, MemorySize.Megabytes(15872), [], null);
        var both = Make.Order(
            Taken(null),
            new ReadingTaken(Phase.Before, firmware, null, null),
            new ReadingTaken(Phase.Before, system, null, null)
        );
        Assert.Equal(
            (MemorySize.Gigabytes(16).Bytes, MemorySize.Megabytes(15872).Bytes),
            (both.Before!.Value.Memory.InstalledBytes, both.Before.Value.Memory.UsableBytes)
        );
        // A second look at the same figure is a new reading, and replaces the first.
        var twice = Make.Order(
            Taken(null),
            new ReadingTaken(Phase.Before, firmware, null, null),
            new ReadingTaken(Phase.Before, EyeReading.Make(MemorySize.Gigabytes(8), null, [], null), null, null)
        );
        Assert.Equal(MemorySize.Gigabytes(8).Bytes, twice.Before!.Value.Memory.InstalledBytes);
        Assert.Empty(twice.Before.Value.Conflicts);
    }

    // Eyes told no serial before: then the label that the desk read tells whose reading the after one is.
    [Theory]
    [InlineData("NF14-0417", "Fjell 14", Verdict.AsPlanned)]
    [InlineData("NF14-9999", "Fjell 14", Verdict.Unknown)]
    [InlineData("Default string", "Fjell 14", Verdict.AsPlanned)]
    [InlineData("nf14-0417 ", "Kliff 24", Verdict.Unknown)]
    public void An_after_reading_of_another_machine_proves_nothing(string serial, string product, Verdict verdict)
    {
        var before = Make.Reading(Fjell, [0, 8]) with { System = new("Norrland", "Fjell 14", null) };
        var order = Make.Order(
            Taken("NF14-0417"),
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(Planner.Make(Fjell, before, [new SlotChange("S1", Make.Module(8))]), null),
            new PlanAgreed("M. Alto", null),
            new ReadingTaken(
                Phase.After,
                Make.Reading(Fjell, [8, 8]) with
                {
                    System = new("Norrland", product, serial),
                },
                null,
                null
            )
        );
        Assert.Equal(verdict, order.Check(Fjell)!.Verdict);
    }

    // Run again after the reseat, the case still open: what was short before is history.
    [Fact]
    public void A_good_reading_with_the_case_open_makes_the_earlier_short_history()
    {
        EntryBody[] bodies =
        [
            .. Make.Run(),
            new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 8]), null, null),
        ];
        Assert.Equal(Verdict.NotSeen, Make.Order(bodies).Check(Make.Fjell)!.Verdict);
        var order = Make.Order([
            .. bodies,
            BenchRules.Reseat(Make.Order(bodies), Make.Fjell, ["S1"], null),
            new ReadingTaken(Phase.During, Make.Reading(Make.Fjell, [8, 8]), null, null),
        ]);
        Assert.Equal(Verdict.AsPlanned, order.Check(Make.Fjell)!.Verdict);
        Assert.DoesNotContain(Holds.Open(order, Make.Fjell), h => h.Kind == HoldKind.Short);
    }

    private static Reading Named(string which) =>
        which switch
        {
            "product" => Right with { System = new("Pellworm", "Kliff 24", "NF14-0417") },
            "serial" => Right with { System = new(null, null, "NF14-9999") },
            "blank" => Right with { System = new("Default string", "To Be Filled By O.E.M.", "00000000") },
            "generation" => Right with
            {
                Memory = Right.Memory with
                {
                    Slots = [Right.Memory.Slots[0], Right.Memory.Slots[1] with { Type = "DDR5" }],
                },
            },
            "sum" => Right with { Memory = Right.Memory with { InstalledBytes = MemorySize.Gigabytes(16).Bytes } },
            _ => Right with { System = new("Norrland", "Fjell 14", "NF14-0417") },
        };

    private static TakenIn Taken(string? serial)
    {
        var taken = Make.TakenIn();
        return taken with { Intake = taken.Intake with { Serial = serial } };
    }
}
