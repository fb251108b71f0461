using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Bench;

/// <summary>Pulling a module and fitting one, in words.</summary>
internal static class SlotSteps
{
    public static RunStep Pull(MemorySlot slot) =>
        RunStep.Of(StepId.Pull(slot.Id), RunPart.Pull, $"Pull the module from {slot.Id}") with
        {
            Details = RunSheetBuilder.Lines(
                Where(slot),
                LatchOut(slot),
                slot.PadUnder is not null || slot.PadOn is not null
                    ? "Its pads come along or stay behind: keep them whole."
                    : null,
                "Hold it by its edges. Lay it beside the slot: it shows where the notch goes."
            ),
            Precautions = [new Precaution("static", "Touch bare metal before the module.")],
            Position = slot.Id,
            Stuck = RunSheetBuilder.Lines(
                slot.Latch is "self-closing"
                    ? "The latch gives by itself: pull along the slot's angle, do not lever."
                    : "One latch is still closed: open both ends again, by their outer edge.",
                "It sits tight from heat: rock it a little along its length, never across."
            ),
        };

    public static RunStep Fit(MemorySlot slot, PlannedSlot planned) =>
        RunStep.Of(
            StepId.Fit(slot.Id),
            RunPart.Fit,
            planned.Use switch
            {
                SlotUse.Move => $"Fit the module from {planned.From} into {slot.Id}",
                SlotUse.Reseat => $"Seat the module of {slot.Id} again",
                _ => $"Fit {planned.Module!.Size} into {slot.Id}",
            }
        ) with
        {
            Details = RunSheetBuilder.Lines(
                planned.Module?.ToString(),
                Where(slot),
                slot.PadUnder is { } under ? $"Pad of {under} mm under it, film off." : null,
                slot.Angle is { } a ? $"Goes in at {a}°." : null,
                PressHome(slot),
                Click(slot),
                slot.Seated is { } s ? $"Seated: {s}." : null,
                slot.PadOn is { } on ? $"Pad of {on} mm on it, film off." : null
            ),
            Precautions = slot.Notch is { } notch
                ? [new Precaution("notch", $"{char.ToUpperInvariant(notch[0])}{notch[1..]}.")]
                : [],
            Position = slot.Id,
            Stuck = RunSheetBuilder.Lines(
                "The notch does not meet its key: take it out and turn it round.",
                slot.Press == "hold-latches-open"
                    ? "The latches sprang back: hold both open until it lies level."
                    : "It went in at the wrong angle: lift, and begin again at the slot's edge.",
                slot.Below is { } above ? $"{above} lies over it: that one must still be out." : null,
                "The key still does not meet: it is a module of another generation. Do not force it."
            ),
        };

    private static string? Where(MemorySlot slot) =>
        slot.Label is { } label ? $"On the board {slot.Id} is {label}." : null;

    private static string? Click(MemorySlot slot) =>
        slot.Latch switch
        {
            "self-closing" => "The latch closes by itself: do not close it by hand.",
            "one-side" => "The latch must click by itself.",
            "ribbons" => "Lay the ribbons back flat.",
            null => "It sits as deep at both ends, and its latches hold it.",
            _ => "Both ends must click.",
        };

    private static string LatchOut(MemorySlot slot) =>
        slot.Latch switch
        {
            "spread-both" => "Spread both latches until the module springs up.",
            "one-side" => "Only one end has a latch: open it, then tilt the module out of the other.",
            "swing-tabs" => "Swing both tabs out; they lift the module.",
            "ribbons" => "Pull both ribbons evenly; they lift the module.",
            "self-closing" => "The latch opens by itself as you pull; do not bend it.",
            _ => "Open the latches, then pull the module straight out of its angle.",
        };

    private static string PressHome(MemorySlot slot) =>
        slot.Press switch
        {
            "hold-latches-open" => "Hold the latches open while it goes down.",
            null => "Press it home; how is not written down: look at its latches first.",
            _ => "Press straight down on both ends.",
        };
}
