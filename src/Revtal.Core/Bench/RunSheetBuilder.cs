using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Bench;

/// <summary>The guide's knowledge and a plan to the steps for this very order.</summary>
public static class RunSheetBuilder
{
    /// <summary>The run that carries out a plan.</summary>
    public static RunSheet ForPlan(Guide guide, Plan plan)
    {
        var pulled = plan.Slots.Where(s => s.Pulls).Select(s => s.Slot);
        var fitted = plan.Slots.Where(s => s.Use is SlotUse.Move or SlotUse.Fit);
        return Build(guide, plan.Touched, [.. pulled], [.. fitted]);
    }

    /// <summary>The run that takes the modules of these slots out and puts them back, seated anew.</summary>
    public static RunSheet ForReseat(Guide guide, Plan plan, IReadOnlyList<string> slots)
    {
        var seated = plan.Slots.Where(s => slots.Contains(s.Slot)).Select(s => s with { Use = SlotUse.Keep });
        return Build(guide, slots, slots, [.. seated]);
    }

    private static RunSheet Build(
        Guide guide, IReadOnlyList<string> touched, IReadOnlyList<string> pulled, IReadOnlyList<PlannedSlot> fitted)
    {
        var reach = Reach.To(guide, touched);
        var upperFirst = UpperFirst(guide, touched);
        var arriving = fitted.ToDictionary(f => f.Slot);
        var steps = new List<RunStep> { Prepare(reach) };
        var previous = "";
        steps.AddRange(guide.Isolate.Select(i => Chain(new RunStep($"isolate.{i.Kind}", RunPart.Isolate, Isolation.Sentence(i), Lines(i.Note), [], [], null, null, [], [], (int)(i.Duration?.TotalMinutes ?? 0)))));
        steps.AddRange(reach.Select(r => new RunStep(
            $"open.{r.Id}", RunPart.Open, $"Take off the {r.Title}", Lines(r.Open, Hidden(r)), r.Precautions, [], null, r.Id, r.Fasteners, Waits("open", r), r.Minutes)));
        previous = "";
        steps.AddRange(upperFirst.Where(s => pulled.Contains(s.Id)).Select(s => Chain(Pull(s))));
        previous = "";
        steps.AddRange(upperFirst.OrderByDescending(s => Depth(guide, s)).Where(s => arriving.ContainsKey(s.Id)).Select(s => Chain(Fit(s, arriving[s.Id]))));
        previous = "";
        steps.AddRange(reach.Reverse().Select(r => Chain(new RunStep(
            $"close.{r.Id}", RunPart.Close, $"Put the {r.Title} back", Lines(r.Close, "Start every fastener loose, in its own hole; tighten last."), [], [], null, r.Id, r.Fasteners, [], r.Minutes))));
        steps.Add(Start(guide));
        return new RunSheet([.. steps.Select(s => s with { Traps = [.. guide.Traps.Where(t => s.Id.StartsWith(t.At, StringComparison.Ordinal)).Select(t => t.Text)] })]);

        RunStep Chain(RunStep step)
        {
            var chained = previous.Length > 0 ? step with { WaitsFor = [previous] } : step;
            previous = step.Id;
            return chained;
        }

        IReadOnlyList<string> Waits(string part, Removal removal) =>
            [.. removal.Needs.Where(n => reach.Any(r => r.Id == n)).Select(n => $"{part}.{n}")];

        RunStep Pull(MemorySlot slot) => new(
            $"pull.{slot.Id}", RunPart.Pull, $"Pull the module from {slot.Id}",
            Lines(LatchOut(slot), "Hold it by its edges. Lay it beside the slot: it shows where the notch goes."),
            [new Precaution("static", "Touch bare metal before the module.")], [], slot.Id, null, [], [], 1);

        RunStep Fit(MemorySlot slot, PlannedSlot planned) => new(
            $"fit.{slot.Id}", RunPart.Fit,
            planned.Use switch
            {
                SlotUse.Move => $"Fit the module from {planned.From} into {slot.Id}",
                SlotUse.Keep => $"Seat the module of {slot.Id} again",
                _ => $"Fit {planned.Module!.Size} into {slot.Id}",
            },
            Lines(planned.Module?.ToString(), slot.Angle is { } a ? $"Goes in at {a}°." : null, PressHome(slot), Click(slot)),
            slot.Notch is { } notch ? [new Precaution("notch", $"{char.ToUpperInvariant(notch[0])}{notch[1..]}.")] : [], [], slot.Id, null, [], [], 1);
    }

    private static RunStep Prepare(IReadOnlyList<Removal> reach)
    {
        var groups = reach.SelectMany(r => r.Fasteners).ToArray();
        var drivers = groups.Select(g => g.Driver).Where(d => d != "hand").Distinct().Order().ToArray();
        var loose = groups.Where(g => !g.Captive).Sum(g => g.Count);
        return new RunStep(
            "prepare.bench", RunPart.Prepare, "Lay out mat, strap and tray",
            Lines(drivers.Length > 0 ? $"Bits: {string.Join(", ", drivers)}." : "No screwdriver is needed.", loose > 0 ? $"Tray for {loose} loose fasteners." : null),
            [], [], null, null, [], [], 2);
    }

    private static RunStep Start(Guide guide) => new(
        "start.power-on", RunPart.Start, "Connect mains and start the machine",
        [.. guide.FirstStart.Select(s => $"{s.Sees}: {s.Means.Replace('-', ' ')}{(s.Do is { } d ? $" – {d}" : "")}")], [], [], null, null, [], [], 3);

    // Upper layers come out first; the guide's order breaks ties.
    private static IReadOnlyList<MemorySlot> UpperFirst(Guide guide, IReadOnlyList<string> ids) =>
        [.. guide.Memory.Slots.Where(s => ids.Contains(s.Id)).OrderBy(s => Depth(guide, s))];

    // How many slots lie over this one.
    private static int Depth(Guide guide, MemorySlot slot)
    {
        var depth = 0;
        for (var above = slot.Below; above is not null && depth <= guide.Memory.Slots.Count; above = guide.Slot(above)?.Below)
        {
            depth++;
        }

        return depth;
    }

    private static string? Click(MemorySlot slot) => slot.Latch switch
    {
        "self-closing" => null,
        "one-side" => "The latch must click by itself.",
        _ => "Both ends must click.",
    };

    private static string LatchOut(MemorySlot slot) => slot.Latch switch
    {
        "spread-both" => "Spread both latches until the module springs up.",
        "one-side" => "Only one end has a latch: open it, then tilt the module out of the other.",
        "swing-tabs" => "Swing both tabs out; they lift the module.",
        "self-closing" => "The latch opens by itself as you pull; do not bend it.",
        _ => "Open the latches, then pull the module straight out of its angle.",
    };

    private static string PressHome(MemorySlot slot) => slot.Press switch
    {
        "hold-latches-open" => "Hold the latches open while it goes down.",
        _ => "Press straight down on both ends.",
    };

    private static string? Hidden(Removal removal) =>
        string.Join(" ", removal.Fasteners.Where(f => f.Hidden is not null).Select(f => $"{f.Group}: {f.Hidden}.")) is { Length: > 0 } text ? text : null;

    private static IReadOnlyList<string> Lines(params string?[] lines) => [.. lines.OfType<string>()];
}
