using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>Whether a module can work in a slot. What is unknown of the module is not held against it.</summary>
public static class FitRules
{
    /// <summary>The first reason why not, or null when it fits.</summary>
    public static RefusedException? WhyNot(Guide guide, MemorySlot slot, MemoryModule module)
    {
        var memory = guide.Memory;
        if (module.Size == MemorySize.Zero)
        {
            return RefusedException.Invalid("size-missing", $"The module for {slot.Id} has no size. Write one, like “16 GB”.");
        }

        // A virtual or old machine reports "RAM": no generation to compare.
        if (module.Generation is { } g && g.StartsWith("DDR", StringComparison.OrdinalIgnoreCase) && !MemoryModule.SameTerm(g, memory.Generation))
        {
            return RefusedException.Invalid("wrong-generation", $"{slot.Id} takes {memory.Generation}; this module is {g}. The notch sits elsewhere: it cannot go in.");
        }

        if (module.Form is { } form && MemoryModule.SameTerm(form, "SO-DIMM") != MemoryModule.SameTerm(memory.Module, "SO-DIMM") && IsStick(form))
        {
            return RefusedException.Invalid("wrong-form", $"{slot.Id} takes a {memory.Module}; this module is a {form}.");
        }

        return slot.Max is { } max && module.Size > max
            ? RefusedException.Invalid("too-large-for-slot", $"{slot.Id} takes up to {max}; this module is {module.Size}.")
            : null;
    }

    /// <summary>What fits but should be known before: total above the stated maximum, speed above the platform's.</summary>
    public static IReadOnlyList<string> Remarks(Guide guide, Plan plan)
    {
        var remarks = new List<string>();
        var total = new MemorySize(plan.Slots.Sum(s => s.Module?.Size.Bytes ?? 0));
        if (guide.Memory.ConfirmedMax is { } proved && total > guide.Memory.StatedMax && total <= proved.Size)
        {
            remarks.Add($"{total} is above the stated {guide.Memory.StatedMax}, but {proved.Size} was proved here by order {string.Join(", ", proved.Orders)}.");
        }
        else if (total > guide.Memory.StatedMax)
        {
            remarks.Add($"{total} is above the {guide.Memory.StatedMax} that {guide.Model.Maker} states for {guide.Model.Code}. Measure with the case open.");
        }

        if (guide.Memory.Speeds.Count > 0)
        {
            var top = guide.Memory.Speeds[^1];
            remarks.AddRange(plan.Slots.Where(s => s.Use == SlotUse.Fit && s.Module?.RatedSpeed > top)
                .GroupBy(s => s.Module!.RatedSpeed, s => s.Slot)
                .Select(g => $"What goes into {string.Join(", ", g)} is rated {g.Key} MT/s; this platform runs it at {top}."));
        }

        var filled = plan.Slots.Where(s => s.Module is not null).Select(s => s.Slot).ToHashSet();
        if (guide.Memory.Populate.TryGetValue(filled.Count, out var order) && !filled.SetEquals(order))
        {
            remarks.Add($"{guide.Model.Code} wants {filled.Count} {(filled.Count == 1 ? "module" : "modules")} in {string.Join(" and ", order)}.");
        }

        return remarks;
    }

    // Firmware often says "DIMM" of anything that is not soldered, so only a clear contradiction counts.
    private static bool IsStick(string form) => MemoryModule.SameTerm(form, "SO-DIMM") || form.Contains("DIMM", StringComparison.OrdinalIgnoreCase) && form.Length > 4;
}
