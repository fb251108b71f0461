using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>
/// What belongs together: the slots of one place in every channel are a pair, which the guide may want alike (size,
/// ranks, part number), and in which the pieces of a kit are at home.
/// </summary>
internal sealed class PairRule
{
    /// <summary>The guide's word for it.</summary>
    public const string InPairs = "alike-in-pairs";

    private readonly int[][] places;
    private readonly bool[,]? unlike;
    private readonly (int Kind, int Pieces, int Kits)[] kits;

    /// <param name="slotsOf">The slots of each channel, by their index.</param>
    /// <param name="makes">Every make that sits in a slot or may.</param>
    /// <param name="modules">Of each that is seated its make, and the size of the kit it came in.</param>
    public PairRule(
        MemoryFacts memory,
        int[][] slotsOf,
        IReadOnlyList<MemoryModule> makes,
        IEnumerable<(int Kind, int KitOf)> modules
    )
    {
        places =
        [
            .. Enumerable
                .Range(0, slotsOf.Select(s => s.Length).DefaultIfEmpty(0).Max())
                .Select(p => slotsOf.Where(s => p < s.Length).Select(s => s[p]).ToArray()),
        ];
        kits =
        [
            .. modules
                .Where(m => m.KitOf > 1)
                .GroupBy(m => m)
                .Select(g => (g.Key.Kind, g.Key.KitOf, g.Count() / g.Key.KitOf)),
        ];
        if (memory.Pairing == InPairs)
        {
            unlike = new bool[makes.Count, makes.Count];
            for (var a = 0; a < makes.Count; a++)
            {
                for (var b = 0; b < makes.Count; b++)
                {
                    unlike[a, b] = !AreAlike(makes[a], makes[b]);
                }
            }
        }
    }

    /// <summary>Whether it matters at all which place of its channel a module sits in.</summary>
    public bool Matters => unlike is not null || kits.Length > 0;

    /// <summary>Unknown is not taken to differ.</summary>
    public static bool AreAlike(MemoryModule a, MemoryModule b) =>
        a.Size == b.Size
        && (a.Ranks is null || b.Ranks is null || a.Ranks == b.Ranks)
        && (a.PartNumber is null || b.PartNumber is null || a.PartNumber == b.PartNumber);

    /// <summary>
    /// Pairs that are not alike, and kits that are in no one pair, so far; more that is seated makes it no less.
    /// </summary>
    /// <param name="kindAt">The make in each slot; −1 for none.</param>
    /// <param name="settled">Kits of makes below this one are seated to the last piece.</param>
    public int Unlike(int[] kindAt, int settled)
    {
        if (!Matters)
        {
            return 0;
        }

        var count = 0;
        foreach (var place in unlike is null ? [] : places)
        {
            count += Differs(place, kindAt) ? 1 : 0;
        }

        foreach (var (kind, pieces, number) in kits)
        {
            if (kind < settled)
            {
                count += Math.Max(0, number - places.Sum(p => p.Count(i => kindAt[i] == kind) / pieces));
            }
        }

        return count;
    }

    private bool Differs(int[] place, int[] kindAt)
    {
        for (var i = 0; i < place.Length; i++)
        {
            for (var j = i + 1; j < place.Length; j++)
            {
                var (a, b) = (kindAt[place[i]], kindAt[place[j]]);
                if (a >= 0 && b >= 0 && unlike![a, b])
                {
                    return true;
                }
            }
        }

        return false;
    }
}
