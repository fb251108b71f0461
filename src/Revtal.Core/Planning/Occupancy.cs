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

/// <summary>How the slots that a reading lists were laid onto those of the guide.</summary>
public enum SlotNaming
{
    /// <summary>By their names: sure.</summary>
    Named,

    /// <summary>By their order, since there are as many: likely.</summary>
    ByOrder,

    /// <summary>Not at all: the slots are unknown, and the total alone counts.</summary>
    Unmatched,
}

/// <summary>Lays the slots that a reading lists onto the slots that the guide knows.</summary>
public static class Occupancy
{
    /// <summary>
    /// One entry a slot of the guide, in its order. A slot is found by the guide's <c>reports-as</c> and
    /// <c>reports-bank</c> or by its own id; where names fit in part only, they are no help, and slots of the same
    /// number are laid on by order. A slot that firmware leaves out of a list of known names is empty; one that nobody
    /// looked at, or whose list cannot be laid on, is unknown.
    /// </summary>
    public static IReadOnlyList<SlotContent> Of(Guide guide, Reading reading)
    {
        var (found, naming) = Match(guide, reading);
        var leftOutIsEmpty =
            naming == SlotNaming.Named && reading.Memory.Slots.Count > 0 && !reading.Sources.Contains(Source.Eyes);
        return [.. guide.Memory.Slots.Select((slot, i) => Content(slot.Id, found[i], leftOutIsEmpty))];
    }

    /// <summary>How sure the places are.</summary>
    public static SlotNaming NamingOf(Guide guide, Reading reading) => Match(guide, reading).Naming;

    private static (SlotReading?[] Found, SlotNaming Naming) Match(Guide guide, Reading reading)
    {
        var slots = guide.Memory.Slots;
        var listed = reading.Memory.Slots;
        string?[] names = [.. listed.Select(l => Name(l.Locator))];
        SlotReading?[] named = [.. slots.Select(s => Find(s, listed, names))];
        var distinct = named.OfType<SlotReading>().Distinct(ReferenceEqualityComparer.Instance).Count();
        var wanted = named.Count(n => n is not null);
        return distinct == wanted && distinct >= Math.Min(slots.Count, listed.Count) ? (named, SlotNaming.Named)
            : listed.Count == slots.Count ? ([.. listed], SlotNaming.ByOrder)
            : (new SlotReading?[slots.Count], SlotNaming.Unmatched);
    }

    private static SlotReading? Find(MemorySlot slot, IReadOnlyList<SlotReading> listed, string?[] names)
    {
        var (reported, id) = (Name(slot.ReportsAs), Name(slot.Id));
        SlotReading[] called = [.. listed.Where((_, i) => names[i] is { } name && (name == reported || name == id))];
        return slot.ReportsBank is { } bank ? called.FirstOrDefault(l => Name(l.Bank) == Name(bank))
            : called is [var only] ? only
            : null;
    }

    // Blanks and marks between letters and digits differ from version to version.
    private static string? Name(string? locator) =>
        locator is null ? null
        : string.Concat(locator.Where(char.IsLetterOrDigit)).ToUpperInvariant() is { Length: > 0 } name ? name
        : null;

    private static SlotContent Content(string slot, SlotReading? reading, bool leftOutIsEmpty) =>
        new(
            slot,
            reading is null ? leftOutIsEmpty : reading.SizeBytes is not null,
            reading?.Module(),
            reading?.RunningSpeed
        );
}
