using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>
/// What a screen without a network stops by itself is what the service would have stopped: the console's tests read the
/// same file.
/// </summary>
public sealed class GateCaseTests
{
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);
    private static readonly TimeSpan LongAgo = TimeSpan.FromHours(1);

    private static readonly Dictionary<string, RunSheet> Sheets = new()
    {
        ["FJ14"] = Sheet("FJ14", [8, 8], new SlotChange("S1", Make.Module(16))),
        ["NS13"] = Sheet("NS13", [8, 8], new SlotChange("S1", Make.Module(16) with { Generation = "DDR5" })),
        ["TB6"] = Sheet("TB6", [4, 0], new SlotChange("M2", Make.Module(4))),
    };

    private sealed record Group(string Name, bool Captive, IReadOnlyList<string> Holes);

    private sealed record Facts(
        StepId Id,
        RunPart Part,
        string? Removal,
        int? Seconds,
        StepId? TimedFrom,
        IReadOnlyList<Group> Fasteners,
        IReadOnlyList<string> Records,
        bool IsRecord
    );

    private sealed record Saying(
        StepId Step,
        int? MinutesAgo,
        IReadOnlyList<string>? Holes,
        IReadOnlyDictionary<string, string>? Occupants,
        string? Explanation
    );

    private sealed record Find(FindKind Kind, StepId? Step);

    private sealed record Case(
        string Name,
        string Guide,
        Saying Try,
        IReadOnlyList<Saying> Told,
        IReadOnlyList<Find> Finds,
        string? Code
    );

    private sealed record CaseFile(IReadOnlyDictionary<string, IReadOnlyList<Facts>> Sheets, IReadOnlyList<Case> Cases);

    private static readonly CaseFile File = JsonSerializer.Deserialize<CaseFile>(
        System.IO.File.ReadAllText(Repository.At("tests", "data", "shared", "gates.json")),
        RevtalJson.Options
    )!;

    public static TheoryData<string> Names => [.. File.Cases.Select(c => c.Name)];

    [Fact]
    public void The_file_s_steps_are_those_of_the_sheets() =>
        Assert.All(Sheets, s => Assert.Equal(Text(s.Value.Steps.Select(Of)), Text(File.Sheets[s.Key])));

    [Theory]
    [MemberData(nameof(Names))]
    public void The_service_answers_what_the_file_says(string name)
    {
        var it = File.Cases.Single(c => c.Name == name);
        var sheet = Sheets[it.Guide];
        var tried = sheet.Find(it.Try.Step);
        var earlier = sheet.Steps.TakeWhile(s => s.Id != tried.Id);
        var state = RunState.Of([
            .. earlier.Select(s => Said(s, it.Told.FirstOrDefault(t => t.Step == s.Id) ?? Whole(s))),
        ]) with
        {
            Found = [.. it.Finds.Select(f => new BenchFind(f.Kind, f.Step, null, "mara", Now))],
            SealMayBreak = true,
            Copies = CopyWord.None with { IsWaived = true },
        };
        Assert.Equal(it.Code, Code(() => sheet.Confirm(Said(tried, it.Try with { MinutesAgo = 0 }), state)));
    }

    private static RunSheet Sheet(string code, int[] gigabytes, params SlotChange[] changes)
    {
        var guide = Repository.Guide(code);
        return RunSheetBuilder.ForPlan(guide, Planner.Make(guide, Make.Reading(guide, gigabytes), changes));
    }

    // What nobody tells was done as the sheet says, long ago.
    private static Saying Whole(RunStep step) =>
        new(
            step.Id,
            null,
            step.Part is RunPart.Open or RunPart.Close && !step.IsRecord
                ? [.. step.Fasteners.Where(g => !g.Captive).SelectMany(g => g.Holes)]
                : null,
            null,
            null
        );

    private static StepConfirmation Said(RunStep step, Saying said)
    {
        var groups = said.Holes?.GroupBy(h => h[..h.LastIndexOf('/')]).ToDictionary(g => g.Key, g => g.Count());
        return new StepConfirmation(
            step.Id,
            "mara",
            Now - (said.MinutesAgo is { } ago ? TimeSpan.FromMinutes(ago) : LongAgo),
            said.Holes?.Count,
            said.Explanation,
            Holes: said.Holes,
            Groups: groups is { Count: > 0 } ? groups : null,
            Occupants: said.Occupants
        );
    }

    private static string? Code(Action act)
    {
        try
        {
            act();
            return null;
        }
        catch (RefusedException e)
        {
            return e.Code;
        }
    }

    private static Facts Of(RunStep s) =>
        new(
            s.Id,
            s.Part,
            s.Removal,
            s.Seconds,
            s.TimedFrom,
            [.. s.Fasteners.Select(f => new Group(f.Group, f.Captive, [.. f.Holes]))],
            s.Records,
            s.IsRecord
        );

    private static string Text(IEnumerable<Facts> facts) => JsonSerializer.Serialize(facts, RevtalJson.Options);
}
