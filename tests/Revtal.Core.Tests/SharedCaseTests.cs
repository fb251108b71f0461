using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>
/// The few rules that a tablet without a network follows by itself. The console's tests read the same files.
/// </summary>
public sealed class SharedCaseTests
{
    private static readonly RunSheet Sheet = RunSheetBuilder.ForPlan(
        Make.Fjell,
        Planner.Make(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8]),
            [new SlotChange("S1", From: "S2"), new SlotChange("S2", Make.Module(16))]
        )
    );

    private sealed record Sizes(IReadOnlyList<Said> Memory, IReadOnlyList<Said> Drives);

    private sealed record Said(long Bytes, string SaidAs, string? WithBinary);

    private sealed record BayCase(
        IReadOnlyDictionary<string, string> Was,
        string Bay,
        string Told,
        string? Own,
        bool Right
    );

    private sealed record StepFacts(StepId Id, RunPart Part, IReadOnlyList<StepId> WaitsFor);

    private sealed record Walk(IReadOnlyList<StepId> Settled, StepId? Next);

    private sealed record RunOrder(IReadOnlyList<StepFacts> Steps, IReadOnlyList<Walk> Walk);

    [Fact]
    public void Sizes_are_said_alike()
    {
        var sizes = Read<Sizes>("sizes.json");
        Assert.All(sizes.Memory, s => Assert.Equal(s.SaidAs, new MemorySize(s.Bytes).ToString()));
        Assert.All(sizes.Drives, s => Assert.Equal(s.SaidAs, new DriveSize(s.Bytes).ToString()));
        Assert.All(sizes.Drives, s => Assert.Equal(s.WithBinary, new DriveSize(s.Bytes).WithBinary));
    }

    [Fact]
    public void A_drive_is_known_by_its_serial_and_an_empty_bay_is_no_drive() =>
        Assert.All(
            Read<BayCase[]>("bays.json"),
            c =>
            {
                Assert.Equal(c.Own, BayMap.OwnBay(c.Was, c.Told));
                Assert.Equal(c.Right, BayMap.IsOwn(c.Was, c.Bay, c.Told));
            }
        );

    [Fact]
    public void The_file_s_steps_are_those_of_the_sheet() =>
        Assert.Equal(
            Read<RunOrder>("run-order.json").Steps.Select(Text),
            Sheet.Steps.Select(s => Text(new StepFacts(s.Id, s.Part, s.WaitsFor)))
        );

    [Fact]
    public void The_next_step_is_the_first_that_waits_for_nothing() =>
        Assert.All(
            Read<RunOrder>("run-order.json").Walk,
            walk =>
                Assert.Equal(
                    walk.Next,
                    Sheet
                        .Next(RunState.Of([.. walk.Settled.Select(id => new StepConfirmation(id, "tobi", default))]))
                        ?.Id
                )
        );

    private static string Text(StepFacts s) => $"{s.Id} {s.Part} {string.Join(",", s.WaitsFor)}";

    private static T Read<T>(string file) =>
        JsonSerializer.Deserialize<T>(
            File.ReadAllText(Repository.At("tests", "data", "shared", file)),
            RevtalJson.Options
        )!;
}
