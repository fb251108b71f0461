using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class PlanningTests
{
    private static readonly Reading OneModule = Make.Reading(Make.Fjell, [0, 8]);

    [Theory]
    [InlineData("DDR5", "SO-DIMM", 8, "wrong-generation")]
    [InlineData("DDR4", "UDIMM", 8, "wrong-form")]
    [InlineData("DDR4", "SO-DIMM", 32, "too-large-for-slot")]
    [InlineData("DDR4", "SO-DIMM", 0, "size-missing")]
    public void What_does_not_fit_is_refused(string generation, string form, int gigabytes, string code) =>
        Assert.Equal(
            code,
            Refused(
                Make.Fjell,
                OneModule,
                new SlotChange("S1", new MemoryModule(MemorySize.Gigabytes(gigabytes), generation, form))
            )
        );

    [Theory]
    [InlineData("RAM", null)]
    [InlineData(null, null)]
    [InlineData("DDR4", "SODIMM")]
    public void What_is_unknown_of_a_module_is_not_held_against_it(string? generation, string? form) =>
        Assert.Equal(
            ["S1"],
            Planner
                .Make(
                    Make.Fjell,
                    OneModule,
                    [new SlotChange("S1", new MemoryModule(MemorySize.Gigabytes(8), generation, form))]
                )
                .Touched
        );

    [Fact]
    public void Wishes_that_cannot_be_are_refused()
    {
        Assert.Equal("no-such-slot", Refused(Make.Fjell, OneModule, new SlotChange("S9", Make.Module(8))));
        Assert.Equal("nothing-to-move", Refused(Make.Fjell, OneModule, new SlotChange("S2", From: "S1")));
        Assert.Equal("no-such-slot", Refused(Make.Fjell, OneModule, new SlotChange("S2", From: "S7")));
        Assert.Equal(
            "slot-planned-twice",
            Refused(Make.Fjell, OneModule, new SlotChange("S1", Make.Module(8)), new SlotChange("S1", Empty: true))
        );
        Assert.Equal("slot-planned-twice", Refused(Make.Fjell, OneModule, new SlotChange("S1")));
        Assert.Equal("plan-changes-nothing", Refused(Make.Fjell, OneModule));
        var soldered = Repository.Guide("NL12");
        Assert.Equal(
            "slot-soldered",
            Refused(soldered, Make.Reading(soldered, [8]), new SlotChange("M1", Make.Module(16)))
        );
    }

    [Fact]
    public void A_moved_module_leaves_its_slot_empty_unless_another_comes()
    {
        var moved = Planner.Make(Make.Fjell, OneModule, [new SlotChange("S1", From: "S2")]);
        Assert.Equal([SlotUse.Move, SlotUse.Empty], moved.Slots.Select(s => s.Use));
        Assert.Equal(MemorySize.Gigabytes(8), moved.Slots[0].Module!.Size);
        var replaced = Planner.Make(
            Make.Fjell,
            OneModule,
            [new SlotChange("S1", From: "S2"), new SlotChange("S2", Make.Module(16))]
        );
        Assert.Equal([SlotUse.Move, SlotUse.Fit], replaced.Slots.Select(s => s.Use));
    }

    [Theory]
    [InlineData(8, ChannelBalance.Equal, 16)]
    [InlineData(4, ChannelBalance.Uneven, 8)]
    public void Channels_are_weighed(int added, ChannelBalance balance, int interleaved)
    {
        var expected = Expect(OneModule, new SlotChange("S1", Make.Module(added)));
        Assert.Equal((balance, MemorySize.Gigabytes(interleaved).Bytes), (expected.Balance, expected.InterleavedBytes));
    }

    [Fact]
    public void One_channel_interleaves_nothing() =>
        Assert.Equal(
            (ChannelBalance.SingleChannel, 0),
            Expect(OneModule, new SlotChange("S2", Make.Module(16))) is var e
                ? (e.Balance, e.InterleavedBytes)
                : default
        );

    [Fact]
    public void Usable_is_what_the_system_kept_back_before_and_its_tables_for_what_is_added()
    {
        var before = CaptureDecoder.Decode(Repository.Capture("vm-before-4g"));
        var expected = Expect(before, new SlotChange("S1", From: "S2"), new SlotChange("S2", Make.Module(16)));
        var really = CaptureDecoder.Decode(Repository.Capture("vm-after-20g")).Memory.UsableBytes!.Value;
        Assert.InRange(really, expected.UsableLow!.Value.Bytes, expected.UsableHigh!.Value.Bytes);
        Assert.InRange(
            expected.UsableHigh.Value.Bytes - expected.UsableLow.Value.Bytes,
            0,
            MemorySize.Gigabytes(1).Bytes
        );
    }

    [Fact]
    public void A_reading_of_totals_alone_still_gives_a_total()
    {
        var before = EyeReading.Make(MemorySize.Gigabytes(8), null, [], null);
        Assert.Equal(MemorySize.Gigabytes(16), Expect(before, new SlotChange("S1", Make.Module(8))).Installed);
        Assert.Null(Expect(before, new SlotChange("S1", Empty: true)).Installed);
    }

    [Fact]
    public void The_slowest_module_and_the_platform_set_the_speed()
    {
        var before = Make.Reading(Make.Fjell, [0, 8], speed: 3200);
        Assert.Equal(2666, Expect(before, new SlotChange("S1", Make.Module(8, speed: 2666))).RunningSpeed);
        Assert.Equal(3200, Expect(before, new SlotChange("S1", Make.Module(8, speed: 3600))).RunningSpeed);
        Assert.Null(Expect(OneModule, new SlotChange("S1", Make.Module(8))).RunningSpeed);
    }

    [Fact]
    public void More_than_anybody_states_or_proved_is_for_a_lead()
    {
        var guide = Make.Fjell with { Memory = Make.Fjell.Memory with { StatedMax = MemorySize.Gigabytes(12) } };
        var note = FitRules
            .Of(guide, OneModule, Planner.Make(guide, OneModule, [new SlotChange("S1", Make.Module(8))]))
            .Single(n => n.Code == "above-all-maxima");
        Assert.Equal((FitWeight.Lead, "12 GB", "16 GB"), (note.Weight, note.Takes, note.Has));
    }

    [Fact]
    public void A_slot_that_firmware_leaves_out_is_empty_but_one_that_nobody_looked_at_is_unknown()
    {
        var listed = CaptureDecoder.Decode(Repository.Capture("vm-before-4g"));
        Assert.Equal("empty", Occupancy.Of(Make.Fjell, listed).Single(c => c.Slot == "S1").Spoken);
        var seen = EyeReading.Make(null, null, [new SeenSlot("S2", Make.Module(8))], null);
        Assert.Equal("unknown", Occupancy.Of(Make.Fjell, seen).Single(c => c.Slot == "S1").Spoken);
    }

    [Fact]
    public void A_reading_by_eye_wants_something_seen_and_nothing_twice()
    {
        Assert.Throws<RefusedException>(() => EyeReading.Make(null, null, [], null));
        Assert.Throws<RefusedException>(() =>
            EyeReading.Make(null, null, [new SeenSlot("S1", null), new SeenSlot("S1", null)], null)
        );
    }

    private static Expectation Expect(Reading before, params SlotChange[] changes) =>
        Expectation.Of(Make.Fjell, before, Planner.Make(Make.Fjell, before, changes));

    private static string Refused(Revtal.Core.Guides.Guide guide, Reading before, params SlotChange[] changes) =>
        Assert.Throws<RefusedException>(() => Planner.Make(guide, before, changes)).Code;
}
