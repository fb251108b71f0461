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
}
