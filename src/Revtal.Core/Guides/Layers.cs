namespace Revtal.Core.Guides;

/// <summary>Slots that lie over one another and are reached from the same side.</summary>
public static class Layers
{
    /// <summary>
    /// The slots whose modules must be out of the way before this one can be worked at, the nearest first. One that is
    /// reached from another side lies over it too, and is no hindrance.
    /// </summary>
    /// <param name="guide">A guide that the checker passed.</param>
    public static IEnumerable<string> Over(Guide guide, MemorySlot slot)
    {
        var above = slot.Below;
        for (var steps = 0; above is not null && steps < guide.Memory.Slots.Count; steps++)
        {
            var upper = guide.Slot(above);
            if (upper is null)
            {
                yield break;
            }

            if (upper.Reach == slot.Reach && !upper.Soldered)
            {
                yield return upper.Id;
            }

            above = upper.Below;
        }
    }

    /// <summary>These slots of the guide, those that nothing lies over first.</summary>
    public static IReadOnlyList<MemorySlot> UpperFirst(Guide guide, IReadOnlyCollection<string> ids) =>
        [.. guide.Memory.Slots.Where(s => ids.Contains(s.Id)).OrderBy(s => Depth(guide, s))];

    /// <summary>How many slots lie over this one.</summary>
    public static int Depth(Guide guide, MemorySlot slot)
    {
        var depth = 0;
        for (
            var above = slot.Below;
            above is not null && depth <= guide.Memory.Slots.Count;
            above = guide.Slot(above)?.Below
        )
        {
            depth++;
        }

        return depth;
    }
}
