using Revtal.Core.Guides;

namespace Revtal.Core.Bench;

/// <summary>
/// How hands get to the modules and out again, each time that an arrangement is tried: what a run asks, in a few lines.
/// </summary>
/// <param name="Off">What takes the power off the board.</param>
/// <param name="In">What comes off.</param>
/// <param name="Out">What goes back, in the order of closing.</param>
/// <param name="Fasteners">How many loose ones each removal has, by its id; those without any are left out.</param>
/// <param name="StartsOpen">How it is started with the case open; null where it is closed for each start.</param>
public sealed record SwapWay(
    IReadOnlyList<string> Off,
    IReadOnlyList<string> In,
    IReadOnlyList<string> Out,
    IReadOnlyDictionary<string, int> Fasteners,
    string? StartsOpen
)
{
    /// <summary>The way of this model to these slots.</summary>
    /// <param name="back">How many fasteners went back at the last closing, by removal: as many are out there.</param>
    public static SwapWay Of(Guide guide, IReadOnlyList<string> slots, IReadOnlyDictionary<string, int> back)
    {
        var reach = Reach.To(guide, slots, handsIn: true);
        var loose = reach
            .Select(r => (r.Id, Count: back.GetValueOrDefault(r.Id, RemovalSteps.Open(r).LooseFasteners)))
            .Where(r => r.Count > 0)
            .ToDictionary(r => r.Id, r => r.Count);
        return new SwapWay(
            [.. Isolation.Of(guide).Where(i => i.Kind != Isolation.CoolDown).Select(i => $"{i.Sentence}.")],
            [.. reach.Select(r => Said(RemovalSteps.Open(r).Title, r, "out"))],
            [
                .. Returns(guide, RunPart.Close),
                .. reach.Reverse().Select(r => Said(RemovalSteps.Close(r, []).Title, r, "back")),
                .. Returns(guide, RunPart.Start),
            ],
            loose,
            guide.MeasureOpen
        );

        string Said(string title, Removal r, string where) =>
            loose.TryGetValue(r.Id, out var count)
                ? $"{title}: {Phrases.Counted(count, "fastener", "fasteners")} {where}."
                : $"{title}.";
    }

    private static IEnumerable<string> Returns(Guide guide, RunPart part) =>
        guide
            .Isolate.Where(i => Isolation.GoesBack(i.Kind))
            .Where(i => (i.Kind == Isolation.LiftConnector) == (part == RunPart.Close))
            .Select(i => $"{Isolation.Return(i.Kind).Do}.");
}

/// <summary>Fasteners of one removal that came out and went back while arrangements were tried.</summary>
public sealed record SwapCount(string Removal, int Out, int Back);
