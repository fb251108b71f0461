namespace Revtal.Core.Bench;

/// <summary>
/// The guided search for what is at fault: one thing, or two where one cannot explain it. Every suspect says what each
/// arrangement would show; what it gets wrong clears it. The next arrangement is the one with the fewest restarts
/// expected from there: exactly where few suspects are left, by what it tells apart otherwise.
/// </summary>
public static class SwapTest
{
    /// <summary>The most modules and slots.</summary>
    public const int Most = 8;

    // Up to so many suspects the whole tree of what may come is looked through.
    private const int Exact = 9,
        Promising = 32;

    // The likeliest that the next arrangement is weighed for; all are held against what it shows.
    private const int Weighed = 128;

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
        var explaining = Enumerable
            .Range(0, model.Suspects.Count)
            .Where(h => trials.All(t => model.Explains(h, t)))
            .ToLookup(h => h < model.AtFirst);
        // Two at fault are looked for once no single one explains it.
        int[] left = [.. explaining[true].Any() ? explaining[true] : explaining[false]];
        var sum = left.Sum(h => model.Suspects[h].Chance);
        Suspect[] suspects =
        [
            .. left.Select(h => model.Suspects[h])
                .Select(s => s with { Chance = s.Chance / sum })
                .OrderByDescending(s => s.Chance),
        ];
        var now = trials.Count > 0 ? trials[^1].Places : model.AtHome;
        var liesOpen = setup.Way is { StartsOpen: not null } && trials.Count > 0;
        var whole = now.Count == model.AtHome.Count ? now : model.AtHome;
        var search = new Search(model, left, trials.Count > 0 ? whole : null);
        if (setup.ReseatFirst && trials.Count == 0)
        {
            return Try(new(model.AtHome, false), Math.Max(1, search.Expected()));
        }

        // A setting is named only after it was tried.
        if (suspects is [{ Kind: SuspectKind.Setting }] && !trials.Any(t => t.Defaults))
        {
            return Try(new(whole, true), 1);
        }

        if (left.Length == 0 || (trials.Count > 0 && !search.CanSplit()))
        {
            var others = left.Length == 1 ? Others(model.Suspects[left[0]]) : [];
            return trials.Count < Halving(setup.Modules.Count) && Proof(model, left, others) is { } proof
                ? Try(new(proof, false), 1)
                : new(
                    suspects,
                    null,
                    liesOpen ? setup.Way!.Out : [],
                    0,
                    SwapWords.Conclude(suspects, others.Length > 0 ? model.Suspects[others[0]] : null),
                    HandsIn: false,
                    Counts: liesOpen ? setup.Way!.Fasteners : null
                );
        }

        return search.Best(now) is { } next ? Try(next, search.Expected()) : Try(new(model.AtHome, false), 1);

        SwapState Try(Arrangement next, double restarts) =>
            new(
                suspects,
                next.Places,
                SwapWords.Moves(setup, now, next.Places, next.Defaults, liesOpen),
                restarts,
                null,
                next.Defaults,
                SwapWords.HandsIn(now, next.Places, next.Defaults),
                setup.Way is { StartsOpen: null } closes && SwapWords.HandsIn(now, next.Places, next.Defaults)
                    ? closes.Fasteners
                    : null
            );

        // What is named is wrong if two others are at fault that would have shown all this.
        int[] Others(Suspect one) =>
            one.Kind is SuspectKind.Two or SuspectKind.Seat or SuspectKind.Setting
                ? []
                :
                [
                    .. explaining[false]
                        .Where(h =>
                            model.Suspects[h] is var two
                            && !two.Modules.Intersect(one.Modules).Any()
                            && !two.Slots.Intersect(one.Slots).Any()
                        ),
                ];
    }

    // Who bisects seats all anew, halves the modules, and changes the last over into two other slots. Proving that
    // nothing else is at fault is worth a start, but no more than that.
    private static int Halving(int modules) => 3 + (int)Math.Ceiling(Math.Log2(modules));

    // The start that tells the one from most of these twos.
    private static IReadOnlyList<SwapPlace>? Proof(SwapModel model, int[] one, int[] twos)
    {
        if (twos.Length == 0)
        {
            return null;
        }

        var (places, told) = model
            .Candidates()
            .Select(c => (Places: c, Shows: model.Shows([.. one, .. twos], c, false)))
            .Select(c => (c.Places, Told: c.Shows.Count(s => s != c.Shows[0])))
            .MaxBy(c => c.Told);
        return told > 0 ? places : null;
    }

    private readonly record struct Arrangement(IReadOnlyList<SwapPlace> Places, bool Defaults);

    /// <summary>Looks for the arrangement that tells most apart.</summary>
    private sealed class Search
    {
        private readonly double[] weights;
        private readonly double bitsAStart;
        private readonly List<(Arrangement Next, byte[] Part)> candidates = [];
        private readonly Dictionary<UInt128, double> known = [];
        private readonly UInt128 all;
        private double[]? costs;

        /// <param name="defaults">
        /// Where the settings may be tried; null before all were seated anew, which would tell two things at once.
        /// </param>
        public Search(SwapModel model, int[] explaining, IReadOnlyList<SwapPlace>? defaults)
        {
            int[] left = [.. explaining.OrderByDescending(h => model.Suspects[h].Chance).Take(Weighed)];
            bitsAStart = model.BitsAStart;
            weights = [.. left.Select(h => Math.Pow(model.Suspects[h].Chance, Softening))];
            all = left.Length == Weighed ? UInt128.MaxValue : (UInt128.One << left.Length) - 1;
            var partitions = new HashSet<string>();
            var arrangements = model.Candidates().Select(p => new Arrangement(p, false));
            foreach (var next in defaults is null ? arrangements : arrangements.Prepend(new(defaults, true)))
            {
                // Two arrangements that tell the same apart are one; the first takes the fewest moves.
                var part = Numbered(model.Shows(left, next.Places, next.Defaults));
                if (part.Distinct().Skip(1).Any() && partitions.Add(Convert.ToHexString(part)))
                {
                    candidates.Add((next, part));
                }
            }

            // The whole tree is looked through for the most promising ones only.
            candidates = [.. candidates.OrderBy(c => Cost(all, c.Part, Bound)).Take(Promising)];
        }

        public bool CanSplit() => candidates.Count > 0;

        public double Expected() => candidates.Count == 0 ? 0 : Costs.Min();

        public Arrangement? Best(IReadOnlyList<SwapPlace> now) =>
            candidates.Count == 0
                ? null
                : candidates
                    .Zip(Costs)
                    .OrderBy(c => Math.Round(c.Second, 9))
                    .ThenBy(c => c.First.Next.Places.Count(p => !now.Contains(p)))
                    .First()
                    .First.Next;

        private double[] Costs => costs ??= [.. candidates.Select(c => Cost(all, c.Part, After))];

        // The restart itself, and what is expected after each thing that it may show.
        private double Cost(UInt128 set, byte[] part, Func<UInt128, double> after)
        {
            Span<UInt128> parts = stackalloc UInt128[Weighed];
            Span<double> weight = stackalloc double[Weighed];
            double total = 0;
            var most = 0;
            for (var rest = set; rest != 0; rest &= rest - 1)
            {
                var h = (int)UInt128.TrailingZeroCount(rest);
                parts[part[h]] |= UInt128.One << h;
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

        private double After(UInt128 set)
        {
            if ((int)UInt128.PopCount(set) is > Exact or 1)
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
        private double Bound(UInt128 set)
        {
            double total = 0,
                bits = 0;
            for (var rest = set; rest != 0; rest &= rest - 1)
            {
                total += weights[(int)UInt128.TrailingZeroCount(rest)];
            }

            for (var rest = set; rest != 0; rest &= rest - 1)
            {
                var share = weights[(int)UInt128.TrailingZeroCount(rest)] / total;
                bits -= share * Math.Log2(share);
            }

            return bits / bitsAStart;
        }

        private static bool Splits(UInt128 set, byte[] part)
        {
            var first = part[(int)UInt128.TrailingZeroCount(set)];
            for (var rest = set & (set - 1); rest != 0; rest &= rest - 1)
            {
                if (part[(int)UInt128.TrailingZeroCount(rest)] != first)
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
