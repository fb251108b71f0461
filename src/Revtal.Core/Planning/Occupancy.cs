using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>What a reading says of one slot of the guide.</summary>
/// <param name="Known">False when the reading lists no slots, or lists this one with an unknown size.</param>
/// <param name="Module">What sits there; null when empty or unknown.</param>
/// <param name="RunningSpeed">In MT/s.</param>
public sealed record SlotContent(string Slot, bool Known, MemoryModule? Module, int? RunningSpeed)
{
    /// <summary>“4 GB”, “empty” or “unknown”.</summary>
    public string Spoken => Module?.Size.ToString() ?? (Known ? "empty" : "unknown");
}

/// <summary>Lays the slots that a reading lists onto the slots that the guide knows.</summary>
public static class Occupancy
{
    /// <summary>
    /// One entry a slot of the guide, in its order. A reading matches by the guide's <c>reports-as</c> or by the
    /// slot's own id; where the guide gives no locators and the counts agree, by order. A slot that firmware leaves
    /// out of its list is empty; one that nobody looked at is unknown.
    /// </summary>
    public static IReadOnlyList<SlotContent> Of(Guide guide, Reading reading)
    {
        var slots = guide.Memory.Slots;
        var listed = reading.Memory.Slots;
        var byOrder =
            slots.All(s => s.ReportsAs is null)
            && slots.Count == listed.Count
            && !listed.Any(l => slots.Any(s => s.Id == l.Locator));
        var leftOutIsEmpty = listed.Count > 0 && !reading.Sources.Contains(Source.Eyes);
        return [.. slots.Select((slot, i) => Content(slot.Id, byOrder ? listed[i] : Find(slot), leftOutIsEmpty))];

        SlotReading? Find(MemorySlot slot) =>
            listed.FirstOrDefault(l => l.Locator == slot.Id)
            ?? listed.FirstOrDefault(l => slot.ReportsAs is { } r && l.Locator == r);
    }

    private static SlotContent Content(string slot, SlotReading? reading, bool leftOutIsEmpty) =>
        new(
            slot,
            reading is null ? leftOutIsEmpty : reading.SizeBytes is not null,
            reading?.Module(),
            reading?.RunningSpeed
        );
}
