using System.Numerics;

namespace Revtal.Core.Bench;

/// <summary>
/// The guided search for what is at fault, one fault assumed. Every suspect says what each arrangement would show;
/// what it gets wrong clears it. The next arrangement is the one with the fewest restarts expected from there:
/// exactly where few suspects are left, by what it tells apart otherwise.
/// </summary>
public static class SwapTest
{
    /// <summary>The most modules and slots.</summary>
    public const int Most = 8;

    // Up to so many suspects the whole tree of what may come is looked through.
    private const int Exact = 9,
        Promising = 32;

    // A way that is best on average but long for the rare fault is not what a bench wants.
    private const double Softening = 0.6;

    /// <summary>Where the test stands after these trials.</summary>
    /// <exception cref="ArgumentException">None, or more than eight, modules or slots.</exception>
    public static SwapState Of(SwapSetup setup, IReadOnlyList<SwapTrial> trials)
    {
        if (setup.Modules.Count is 0 or > Most || setup.Slots.Count is 0 or > Most)
        {
            throw new ArgumentException($"A swap test takes one to {Most} modules and slots.", nameof(setup));
        }

        var model = new SwapModel(setup);
        var left = model.Suspects.Where((_, h) => trials.All(t => model.Explains(h, t))).ToArray();
        var sum = left.Sum(s => s.Chance);
        var suspects = left.Select(s => s with { Chance = s.Chance / sum }).OrderByDescending(s => s.Chance).ToArray();
        var now = trials.Count > 0 ? trials[^1].Places : model.AtHome;
        if (setup.ReseatFirst && trials.Count == 0)
        {
            return new(
                suspects,
                model.AtHome,
                SwapWords.Moves(setup, now, model.AtHome),
                Math.Max(1, new Search(model, left).Expected()),
                null
            );
        }

        var search = new Search(model, left);
        if (left.Length == 0 || (trials.Count > 0 && !search.CanSplit()))
        {
            return new(suspects, null, [], 0, SwapWords.Conclude(suspects));
        }

        var next = search.Best(now);
        return next is null
            ? new(suspects, model.AtHome, SwapWords.Moves(setup, now, model.AtHome), 1, null)
            : new(suspects, next, SwapWords.Moves(setup, now, next), search.Expected(), null);
    }

    /// <summary>Looks for the arrangement that tells most apart.</summary>
    private sealed class Search
    {
        private readonly double[] weights;
        private readonly double bitsAStart;
        private readonly List<(IReadOnlyList<SwapPlace> Places, byte[] Part)> candidates = [];
        private readonly Dictionary<ulong, double> known = [];
        private readonly ulong all;
        private double[]? costs;

        public Search(SwapModel model, Suspect[] left)
        {
            bitsAStart = model.BitsAStart;
            weights = [.. left.Select(s => Math.Pow(s.Chance, Softening))];
            all = left.Length >= 64 ? ulong.MaxValue : (1UL << left.Length) - 1;
            var indexes = left.Select(model.IndexOf).ToArray();
            var partitions = new HashSet<string>();
            foreach (var places in model.Candidates())
            {
                // Two arrangements that tell the same apart are one; the first takes the fewest moves.
                var part = Numbered(model.Shows(indexes, places));
                if (part.Distinct().Skip(1).Any() && partitions.Add(Convert.ToHexString(part)))
                {
                    candidates.Add((places, part));
                }
            }

            // The whole tree is looked through for the most promising ones only.
            candidates = [.. candidates.OrderBy(c => Cost(all, c.Part, Bound)).Take(Promising)];
        }

        public bool CanSplit() => candidates.Count > 0;

        public double Expected() => candidates.Count == 0 ? 0 : Costs.Min();

        public IReadOnlyList<SwapPlace>? Best(IReadOnlyList<SwapPlace> now) =>
            candidates.Count == 0
                ? null
                : candidates
                    .Zip(Costs)
                    .OrderBy(c => Math.Round(c.Second, 9))
                    .ThenBy(c => c.First.Places.Count(p => !now.Contains(p)))
                    .First()
                    .First.Places;

        private double[] Costs => costs ??= [.. candidates.Select(c => Cost(all, c.Part, After))];

        // The restart itself, and what is expected after each thing that it may show.
        private double Cost(ulong set, byte[] part, Func<ulong, double> after)
        {
            Span<ulong> parts = stackalloc ulong[64];
            Span<double> weight = stackalloc double[64];
            double total = 0;
            var most = 0;
            for (var rest = set; rest != 0; rest &= rest - 1)
            {
                var h = BitOperations.TrailingZeroCount(rest);
                parts[part[h]] |= 1UL << h;
                weight[part[h]] += weights[h];
                total += weights[h];
                most = Math.Max(most, part[h]);
            }

            double cost = 1;
            for (var i = 0; i <= most; i++)
            {
                cost += parts[i] == 0 ? 0 : weight[i] / total * after(parts[i]);
            }

            return cost;
        }

        private double After(ulong set)
        {
            if (BitOperations.PopCount(set) is > Exact or 1)
            {
                return Bound(set);
            }

            if (known.TryGetValue(set, out var cost))
            {
                return cost;
            }

            var best = double.PositiveInfinity;
            foreach (var (_, part) in candidates)
            {
                if (Splits(set, part))
                {
                    best = Math.Min(best, Cost(set, part, After));
                }
            }

            // What nothing tells apart costs no more restarts.
            return known[set] = double.IsPositiveInfinity(best) ? 0 : best;
        }

        // No search can do with fewer restarts than the bits that are missing, of what one restart tells at best.
        private double Bound(ulong set)
        {
            double total = 0,
                bits = 0;
            for (var rest = set; rest != 0; rest &= rest - 1)
            {
                total += weights[BitOperations.TrailingZeroCount(rest)];
            }

            for (var rest = set; rest != 0; rest &= rest - 1)
            {
                var share = weights[BitOperations.TrailingZeroCount(rest)] / total;
                bits -= share * Math.Log2(share);
            }

            return bits / bitsAStart;
        }

        private static bool Splits(ulong set, byte[] part)
        {
            var first = part[BitOperations.TrailingZeroCount(set)];
            for (var rest = set & (set - 1); rest != 0; rest &= rest - 1)
            {
                if (part[BitOperations.TrailingZeroCount(rest)] != first)
                {
                    return true;
                }
            }

            return false;
        }

        private static byte[] Numbered(long[] shows)
        {
            var part = new byte[shows.Length];
            byte next = 0;
            for (var i = 0; i < shows.Length; i++)
            {
                var earlier = Array.IndexOf(shows, shows[i]);
                part[i] = earlier < i ? part[earlier] : next++;
            }

            return part;
        }
    }
}
