using System.Globalization;
using Revtal.Core.Guides;

namespace Revtal.Core.Bench;

/// <summary>Taking one removal off and putting it back, in words.</summary>
internal static class RemovalSteps
{
    public static RunStep Open(Removal r) =>
        RunStep.Of(
            StepId.Open(r.Id),
            RunPart.Open,
            r.Isolates ? $"Lift the {r.Title}: power leaves the board" : $"Take off the {r.Title}"
        ) with
        {
            Details =
            [
                .. RunSheetBuilder.Lines(r.Open),
                .. Turning(r, back: false),
                .. RunSheetBuilder.Lines(
                    r.Cables.Count > 0 ? $"Cables: {string.Join("; ", r.Cables)}." : null,
                    r.PadsStay is { } pads ? $"Pads: {pads}." : null
                ),
            ],
            Precautions = [.. r.Precautions.Where(p => p.AtOpening)],
            Removal = r.Id,
            RemovalTitle = r.Title,
            Face = r.Face,
            Fasteners = r.Fasteners,
            Clips = r.Clips,
            Pry = r.Pry,
            Isolates = r.Isolates,
            IsSealed = r.IsSealed,
            Stuck = [.. Stuck(r)],
            Pictures = r.Pictures.Open,
            Minutes = r.Minutes,
        };

    /// <summary>Of a sketch: whatever must come off, said as it comes off.</summary>
    public static RunStep Uncover(Guide guide, string position, IReadOnlyList<Removal> known) =>
        RunStep.Of(StepId.Uncover(position), RunPart.Open, $"Open it until {position} lies open") with
        {
            Details =
            [
                "Nobody wrote down the way in yet. Say each thing as it comes off, and what held it.",
                $"When {position} lies open, this step is done.",
            ],
            Precautions = Opening.Of(guide.Model.Kind),
            Position = position,
            WaitsFor = [.. known.Select(r => r.TakesOut.Count > 0 ? StepId.Record(r.Id) : StepId.Open(r.Id))],
        };

    /// <param name="back">The bays whose own drives come back with it.</param>
    public static RunStep Close(Removal r, IReadOnlyList<string> back) =>
        RunStep.Of(StepId.Close(r.Id), RunPart.Close, $"Put the {r.Title} back") with
        {
            Details =
            [
                .. RunSheetBuilder.Lines(
                    r.Close,
                    r.Orient,
                    back.Count > 0 ? $"Each drive into its own bay: {string.Join(", ", back)}." : null,
                    r.Cables.Count > 0 ? $"Cables back: {string.Join("; ", r.Cables)}." : null,
                    r.PadsStay is not null ? "Pads back in their places." : null,
                    r.Fasteners.Count > 0 ? "Start every fastener loose, in its own hole; tighten last." : null
                ),
                .. Turning(r, back: true),
                .. RunSheetBuilder.Lines(r.SitsRight is { } right ? $"It sits right when {right}." : null),
            ],
            Precautions = [.. r.Precautions.Where(p => p.AtClosing)],
            Removal = r.Id,
            RemovalTitle = r.Title,
            Face = r.Face,
            Fasteners = r.Fasteners,
            Clips = r.Clips,
            Records = back,
            Stuck =
            [
                .. r.Cables.Select(c => $"A cable is caught: {c}."),
                .. r.Clips.Select(c => $"Press the clips home one by one: {Spoken(c)}."),
                .. RunSheetBuilder.Lines(r.Orient),
            ],
            Pictures = r.Pictures.Close,
            Minutes = r.Minutes,
        };

    // How its fasteners and clips are turned and in which order; what is said of the way off does not hold for the way
    // back.
    private static IEnumerable<string> Turning(Removal r, bool back) =>
        [
            .. back ? [] : r.Fasteners.Where(f => f.Order is not null).Select(f => $"{f.Group}: {f.Order}."),
            .. r
                .Fasteners.Where(f => f.ByHand)
                .Select(f => $"{f.Group} by hand, no powered driver: what they go into is soft."),
            .. r
                .Fasteners.Where(f => f.ExactFit)
                .Select(f => $"{f.Group} with {f.Driver} and no other: a near bit rounds the heads."),
            .. back ? [] : r.Clips.Where(c => c.Order is not null).Select(c => $"Clips: {c.Order}."),
        ];

    // What usually holds it, likeliest first.
    private static IEnumerable<string> Stuck(Removal r) =>
        [
            .. r
                .Fasteners.Where(f => f.Hidden is not null)
                .Select(f => $"A fastener is still in: {f.Group}, {f.Hidden}."),
            .. r.Fasteners.Where(f => f.Seal).Select(f => $"One of {f.Group} sits under the warranty seal."),
            .. r
                .Fasteners.Where(f => f.Captive)
                .Select(f =>
                    $"{f.Group} {Phrases.Plural(f.Count, "stays", "stay")} in the part: turn until "
                    + $"{Phrases.Plural(f.Count, "it turns", "they turn")} free, do not pull."
                ),
            .. r.Clips.Select(c => $"Clips still hold: {Spoken(c)}."),
            .. r.Pry.Select(p => $"Begin with the {p.Tool}{Phrases.When(p.Text, t => $": {t}")}."),
            .. r.Cables.Select(c => $"A cable is still on: {c}."),
        ];

    private static string Spoken(Clips c) =>
        string.Create(CultureInfo.InvariantCulture, $"{c.Count}{Phrases.When(c.Text, t => $", {t}")}");
}
