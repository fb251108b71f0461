using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Bench;

/// <summary>A sign that a start showed, and what follows from it for this very order.</summary>
/// <param name="Sees">As it was told.</param>
/// <param name="Meaning">“normal”, or what is wrong; “not in the guide”.</param>
/// <param name="Do">What the guide says to do; null where it says nothing.</param>
/// <param name="Follow">The step that follows, in a sentence; null where none does.</param>
/// <param name="Reseat">Slots or bays of this plan that are seated anew for it; empty for none.</param>
/// <param name="At">When it was told.</param>
/// <param name="Until">So long it may go on, from when it was told; null where the guide does not say.</param>
/// <param name="IsOver">It started normally since.</param>
public sealed record SignAnswer(
    string Sees,
    string Meaning,
    bool IsNormal,
    string? Do,
    string? Follow,
    IReadOnlyList<string> Reseat,
    StepId? Step,
    string By,
    DateTimeOffset At,
    DateTimeOffset? Until,
    bool IsOver
);

/// <summary>What the starts of one run showed, answered.</summary>
public static class SignAnswers
{
    /// <summary>Oldest first.</summary>
    public static IReadOnlyList<SignAnswer> Of(Guide guide, Plan plan, RunState run) =>
        [
            .. run
                .Found.Select((f, i) => (Find: f, Later: run.Found.Skip(i + 1)))
                .Where(f => f.Find is { Kind: FindKind.Sign, Text: not null })
                .Select(f => Of(guide, plan, f.Find, f.Later.Any(l => l.Kind == FindKind.NormalStart))),
        ];

    private static SignAnswer Of(Guide guide, Plan plan, BenchFind find, bool isOver)
    {
        var sign = StartSign.Of(guide, find.Text!);
        var follow = sign.Known?.Follow;
        IReadOnlyList<string> reseat = follow switch
        {
            SignFollow.Reseat =>
            [
                .. Layers.UpperFirst(guide, [.. plan.Slots.Where(s => s.Fits).Select(s => s.Slot)]).Select(s => s.Id),
            ],
            SignFollow.ReseatDrives => [.. plan.Bays.Where(b => b.Fits).Select(b => b.Bay)],
            _ => [],
        };
        var enter = Phrases.When(guide.Firmware, f => $" ({f.Enter})");
        var most = Phrases.When(sign.Known?.Lasts, l => $", up to {Durations.Text(l)}");
        return new SignAnswer(
            find.Text!,
            sign.Known?.Meaning ?? "not in the guide",
            sign.IsNormal,
            // What is named here are the slots of this plan; the guide's own words may name others.
            reseat.Count > 0
                ? null
                : sign.Known?.Do,
            follow switch
            {
                SignFollow.Wait => $"Wait{most}.",
                SignFollow.Accept => $"Accept it in the firmware's set-up{enter}, save, and let it start again.",
                SignFollow.PowerCycle => "Off, ten seconds, and start it once more.",
                SignFollow.Mains => "Its battery is flat: mains in, ten minutes, and start it again.",
                SignFollow.Reseat or SignFollow.ReseatDrives when reseat.Count == 0 =>
                    "This plan fitted nothing of that kind: look what was moved on the way in.",
                SignFollow.Reseat or SignFollow.ReseatDrives =>
                    $"Off, unplugged, drained; then seat {string.Join(", then ", reseat)} anew.",
                _ => sign.Known is null ? "Find out what it means, and tell the lead."
                : sign.Known.Lasts is not null ? $"Wait{most}."
                : null,
            },
            reseat,
            find.Step,
            find.By,
            find.At,
            find.At + sign.Known?.Lasts,
            isOver
        );
    }
}
