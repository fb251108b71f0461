using Revtal.Core.Captures;
using Revtal.Core.Guides;

namespace Revtal.Core.Planning;

/// <summary>What every search for a layout of one machine looks at; what was found of its ways in is kept.</summary>
internal sealed class LayoutBoard(Guide guide, Reading before)
{
    private readonly Dictionary<ulong, (int Minutes, IReadOnlyList<string> Removals)> reach = [];

    public Platform Platform { get; } = Platform.Of(guide, before);

    public IReadOnlyList<SlotContent> Present { get; } = Occupancy.Of(guide, before);

    /// <summary>What comes off to get at these slots.</summary>
    /// <param name="touched">A bit a slot, in the guide's order.</param>
    public (int Minutes, IReadOnlyList<string> Removals) ReachOf(ulong touched)
    {
        if (!reach.TryGetValue(touched, out var way))
        {
            var removals = Reach.To(
                guide,
                guide.Memory.Slots.Where((_, i) => (touched >> i & 1) == 1).Select(s => s.Id),
                handsIn: true
            );
            reach[touched] = way = (removals.Sum(r => r.Minutes), [.. removals.Select(r => r.Title)]);
        }

        return way;
    }
}
