using Revtal.Core.Guides;

namespace Revtal.Core.Planning;

/// <summary>
/// Which slots a board wants filled, and which it does not start without: the one place for each of the two. The
/// first is a preference that forbids nothing; soldered slots count as filled in both.
/// </summary>
public static class Population
{
    /// <summary>What the board would have with so many slots filled.</summary>
    /// <param name="Filled">These in any case.</param>
    /// <param name="Rest">The others from among these, in the order in which their channels are filled.</param>
    public sealed record Wish(int Count, IReadOnlyList<string> Filled, IReadOnlyList<string> Rest)
    {
        /// <summary>“A2 and B2”, “A2 and B2 filled first, and the rest in A1 or B1”.</summary>
        public string Spoken =>
            Rest.Count == 0 ? Phrases.Listed(Filled)
            : Filled.Count == 0 ? string.Join(" or ", Rest)
            : $"{Phrases.Listed(Filled)} first, then in {string.Join(" or ", Rest)}";
    }

    /// <summary>
    /// The guide's line for this count. Where it has none it is derived: what the nearest smaller line fills is filled,
    /// the rest comes from the next larger one, a channel's first slot before its second.
    /// </summary>
    /// <param name="count">Of occupied slots, soldered ones included.</param>
    /// <returns>Null where any slots will do.</returns>
    public static Wish? Wanted(MemoryFacts memory, int count)
    {
        if (memory.Populate.Any || count == 0 || count >= memory.Slots.Count)
        {
            return null;
        }

        // A line without a soldered slot speaks of a machine that cannot be.
        var soldered = memory.Slots.Where(s => s.Soldered).Select(s => s.Id).ToArray();
        var lines = memory.Populate.Lines.Where(l => soldered.All(l.Value.Contains)).OrderBy(l => l.Key).ToArray();
        if (lines.FirstOrDefault(l => l.Key == count).Value is { } exact)
        {
            return new Wish(count, exact, []);
        }

        IReadOnlyList<string> filled = lines.LastOrDefault(l => l.Key < count).Value ?? soldered;
        IReadOnlyList<string> larger =
            lines.FirstOrDefault(l => l.Key > count).Value ?? [.. memory.Slots.Select(s => s.Id)];
        return new Wish(
            count,
            filled,
            [
                .. memory
                    .Slots.Select(s => s.Id)
                    .Where(id => larger.Contains(id) && !filled.Contains(id))
                    .OrderBy(id => lines.FirstOrDefault(l => l.Value.Contains(id), new(int.MaxValue, [])).Key),
            ]
        );
    }

    /// <summary>What the board would have instead of exactly these slots; null where it has them so.</summary>
    /// <param name="filled">Soldered ones too.</param>
    public static Wish? Missed(MemoryFacts memory, IReadOnlyCollection<string> filled) =>
        Wanted(memory, filled.Count) is { } wish
        && !(
            wish.Filled.All(filled.Contains)
            && filled.All(id => wish.Filled.Contains(id) || wish.Rest.Contains(id))
            && wish.Rest.Where(filled.Contains).All(id => Before(memory, wish, id).All(filled.Contains))
        )
            ? wish
            : null;

    /// <summary>The slots of its channel that come before this one of the rest.</summary>
    internal static IEnumerable<string> Before(MemoryFacts memory, Wish wish, string slot) =>
        Channel(memory, slot) is { } channel
            ? wish.Rest.TakeWhile(id => id != slot).Where(id => Channel(memory, id) == channel)
            : [];

    /// <summary>Why the board does not start with just these slots filled; null where it does, as far as is
    /// known.</summary>
    public static string? WhyNoStart(MemoryFacts memory, IReadOnlyCollection<string> filled) =>
        memory.NeverEmpty.Where(id => !filled.Contains(id)).ToArray() is { Length: > 0 } missing
            ? $"The board does not start while {Phrases.Listed(missing)} "
                + $"{Phrases.Plural(missing.Length, "is", "are")} empty."
            : null;

    private static string? Channel(MemoryFacts memory, string slot) =>
        memory.Slots.FirstOrDefault(s => s.Id == slot)?.Channel;
}
