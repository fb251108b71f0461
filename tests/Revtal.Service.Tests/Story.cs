using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Requests that the stories share.</summary>
internal static class Story
{
    public static readonly TakeInRequest TakeIn = new(
        "FJ14",
        "Tide-gauge office",
        "The chart program stops",
        Serial: "NF14-0417",
        Goal: "Two stations at once"
    );

    public static readonly PlanRequest Plan = new([new SlotChange("S1", From: "S2"), new SlotChange("S2", Module(16))]);

    public static MemoryModule Module(int gigabytes) => new(MemorySize.Gigabytes(gigabytes), "DDR4", "SO-DIMM");

    public static ReadingRequest Read(Phase phase, string capture) =>
        new(phase, CaptureBundle.Of(Repository.Capture(capture)));

    /// <summary>Seen by eye in S1, S2 …, in GB.</summary>
    public static ReadingRequest Seen(Phase phase, params int[] gigabytes) =>
        new(
            phase,
            Seen: new SeenReading(
                MemorySize.Gigabytes(gigabytes.Sum()),
                Slots: [.. gigabytes.Select((g, i) => new SeenSlot($"S{i + 1}", g == 0 ? null : Module(g)))]
            )
        );

    /// <summary>Confirms step after step until none is left.</summary>
    public static async Task RunAsync(
        RevtalClient client,
        int number,
        Func<RunStep, Task>? before = null,
        RevtalClient? lead = null,
        Dictionary<string, string>? occupants = null
    )
    {
        while ((await client.OrderAsync(number)).Run is { NextStep: { } id } run)
        {
            var step = run.Steps.Single(s => s.Step.Id == id).Step;
            await (before?.Invoke(step) ?? Task.CompletedTask);
            if (step.TimedFrom is not null && lead is not null)
            {
                await lead.WaiveAsync(number, new WaiveRequest(Gate.StillCooling, id, "came in cold"));
            }

            await client.ConfirmAsync(
                number,
                id,
                new ConfirmRequest(
                    step.LooseFasteners > 0 ? step.LooseFasteners : null,
                    Note: step.Id.Verb == StepVerb.Look ? "clean, whole: it stays" : null,
                    Occupants: step.Id.ToString() == "record.bays" ? occupants : null,
                    Seen: step.Part == RunPart.Measure
                        ? (await client.OrderAsync(number)).Plan!.Expectation.Installed
                        : null
                )
            );
        }
    }

    /// <summary>The status and the code with which the service refuses.</summary>
    public static async Task<(int Status, string Code)> Refused(Task task)
    {
        var problem = await Assert.ThrowsAsync<ProblemException>(() => task);
        return ((int)problem.Status, problem.Code);
    }
}
