using Revtal.Core.Hardware;

namespace Revtal.Core.Bench;

/// <summary>What each suspect would make each arrangement show.</summary>
internal sealed class SwapModel
{
    private const long NoStart = -1,
        Seen = 1L << 40;

    // How often benches find which of them at fault; those of one kind share its weight.
    private static readonly Dictionary<SuspectKind, double> Usual = new()
    {
        [SuspectKind.Seat] = 0.55,
        [SuspectKind.Module] = 0.2,
        [SuspectKind.Slot] = 0.1,
        [SuspectKind.Make] = 0.06,
        [SuspectKind.Pair] = 0.05,
        [SuspectKind.Setting] = 0.04,
        [SuspectKind.Channel] = 0.03,
        [SuspectKind.Two] = 0.02,
    };

    private const double NewWeighs = 3,
        ReseatedWeighs = 0.1;

    private readonly SwapSetup setup;
    private readonly bool stops,
        slotsTold,
        totalOnly;
    private readonly HashSet<string> unseen;
    private readonly Suspect[] suspects;
    private readonly string[] homes,
        slotIds;
    private readonly long[] bytes;
    private readonly Marks[] marks;

    public SwapModel(SwapSetup setup)
    {
        this.setup = setup;
        homes = [.. setup.Modules.Select(m => m.Home)];
        slotIds = [.. setup.Slots];
        bytes = [.. setup.Modules.Select(m => m.Module.Size.Bytes)];
        AtHome = [.. setup.Modules.Select(m => new SwapPlace(m.Home, m.Home))];
        stops = !setup.First.Started;
        slotsTold = setup.First.Slots is not null;
        totalOnly = !stops && !slotsTold;
        unseen =
            stops ? [.. setup.Modules.Select(m => m.Home)]
            : slotsTold ? [.. setup.Modules.Select(m => m.Home).Except(setup.First.Slots!)]
            : [];
        var explaining = Ones().Concat(Twos()).Where(s => Explains(s, setup.First)).ToLookup(IsLater);
        var now = Weighted([.. explaining[false]]);
        suspects = [.. now, .. Weighted([.. explaining[true]])];
        AtFirst = now.Length;
        marks = [.. suspects.Select(Signs)];
    }

    public IReadOnlyList<SwapPlace> AtHome { get; }

    /// <summary>All, those that are suspected only once nothing likelier is left last.</summary>
    public IReadOnlyList<Suspect> Suspects => suspects;

    /// <summary>How many of them are suspected from the first start on.</summary>
    public int AtFirst { get; }

    /// <summary>How much one start can tell at best, in bits: started or not, or which slots are seen.</summary>
    public double BitsAStart => stops || setup.Modules.Count < 3 ? 1 : Math.Log2(setup.Modules.Count);

    /// <summary>What each of these suspects would make the arrangement show.</summary>
    public long[] Shows(int[] some, IReadOnlyList<SwapPlace> places, bool defaults)
    {
        var laid = Lay(places);
        var shows = new long[some.Length];
        for (var i = 0; i < some.Length; i++)
        {
            shows[i] = Shows(marks[some[i]], laid, seatedAnew: true, defaults);
        }

        return shows;
    }

    public bool Explains(int suspect, SwapTrial trial) =>
        Shows(marks[suspect], Lay(trial.Places), seatedAnew: true, trial.Defaults) == Key(trial.Outcome, trial.Places);

    private bool Explains(Suspect suspect, SwapOutcome first) =>
        Shows(Signs(suspect), Lay(AtHome), seatedAnew: false, defaults: false) == Key(first, AtHome);

    // Where nothing starts, or a module sits in its slot, one at fault explains it as well as two do.
    private bool IsLater(Suspect s) => s.Kind == SuspectKind.Two && (stops || s.Modules.Intersect(s.Slots).Any());

    /// <summary>
    /// Arrangements worth a look: everything seated anew, modules changed over, one in a slot that was empty, halves,
    /// and one alone; only what the board allows.
    /// </summary>
    public IEnumerable<IReadOnlyList<SwapPlace>> Candidates()
    {
        var modules = homes;
        yield return AtHome;
        foreach (var home in homes.Except(setup.NeverEmpty))
        {
            foreach (var empty in slotIds.Except(homes))
            {
                yield return [.. AtHome.Select(p => p.Module == home ? new SwapPlace(empty, home) : p)];
            }
        }

        for (var i = 0; i < modules.Length; i++)
        {
            for (var j = i + 1; j < modules.Length; j++)
            {
                yield return Place(Swapped(modules, i, j), homes);
            }
        }

        for (var k = 1; k < modules.Length; k++)
        {
            yield return Place([.. modules.Skip(k), .. modules.Take(k)], homes);
        }

        foreach (var slots in Sets(modules.Length))
        {
            foreach (var some in Subsets(modules, slots.Count))
            {
                yield return Keeping(some, slots);
                if (some.Length > 1)
                {
                    yield return Place([.. some.Skip(1), some[0]], [.. slots]);
                }
            }
        }
    }

    // Slots that are filled with fewer modules, fewest moves first: as the guide prefers for a number, then any
    // neighbours. The order of filling is a preference, and forbids nothing.
    private IEnumerable<IReadOnlyList<string>> Sets(int most) =>
        Enumerable
            .Range(1, most - 1)
            .Reverse()
            .SelectMany(n =>
                Enumerable
                    .Range(0, homes.Length - n + 1)
                    .Select(from =>
                        (IReadOnlyList<string>)[.. setup.NeverEmpty.Concat(homes[from..(from + n)]).Distinct().Take(n)]
                    )
                    .Prepend(setup.Preferred.GetValueOrDefault(n) ?? [])
            )
            .Where(s => s.Count > 0 && s.All(setup.Slots.Contains) && setup.NeverEmpty.All(s.Contains));

    // Halves in several ways, neighbours, and each alone: enough to bisect by, and few enough to weigh.
    private static IEnumerable<string[]> Subsets(string[] modules, int count)
    {
        for (var from = 0; from < modules.Length; from++)
        {
            yield return [.. Enumerable.Range(0, count).Select(i => modules[(from + i) % modules.Length])];
        }

        for (var bit = 1; bit < modules.Length; bit <<= 1)
        {
            foreach (var side in new[] { 0, bit })
            {
                var half = modules.Where((_, i) => (i & bit) == side).Take(count).ToArray();
                if (half.Length == count)
                {
                    yield return half;
                }
            }
        }
    }

    private static string[] Swapped(string[] modules, int i, int j)
    {
        var copy = (string[])modules.Clone();
        (copy[i], copy[j]) = (copy[j], copy[i]);
        return copy;
    }

    private static SwapPlace[] Place(IReadOnlyList<string> modules, IReadOnlyList<string> slots) =>
        [.. modules.Zip(slots, (m, s) => new SwapPlace(s, m))];

    // Who is at home in one of these slots stays there.
    private static SwapPlace[] Keeping(string[] modules, IReadOnlyList<string> slots)
    {
        var moving = new Queue<string>(modules.Where(m => !slots.Contains(m)));
        return [.. slots.Select(s => new SwapPlace(s, modules.Contains(s) ? s : moving.Dequeue()))];
    }

    // Any two of the modules and slots.
    private IEnumerable<Suspect> Twos()
    {
        (string? Module, string? Slot)[] all =
        [
            .. homes.Select(h => ((string?)h, (string?)null)),
            .. homes.Select(h => ((string?)null, (string?)h)),
        ];
        return all.SelectMany(
                (a, i) =>
                    all.Skip(i + 1)
                        .Select(b => new Suspect(
                            SuspectKind.Two,
                            [.. new[] { a.Module, b.Module }.OfType<string>()],
                            [.. new[] { a.Slot, b.Slot }.OfType<string>()],
                            1
                        ))
            )
            // Both slots of a channel are the channel.
            .Where(two => !setup.Channels.Any(c => c.Intersect(homes).ToHashSet().SetEquals(two.Slots)));
    }

    private IEnumerable<Suspect> Ones()
    {
        var suspected = unseen.Count > 0 ? homes.Where(unseen.Contains).ToArray() : homes;
        foreach (var seat in totalOnly ? suspected.Select(h => (string[])[h]) : [suspected])
        {
            yield return new(SuspectKind.Seat, [], seat, 1);
        }

        foreach (var home in homes)
        {
            yield return new(SuspectKind.Module, [home], [], 1);
            yield return new(SuspectKind.Slot, [], [home], 1);
        }

        foreach (
            var make in setup
                .Modules.GroupBy(m => m.Module with { Serial = null })
                .Where(g => g.Count() > 1 && g.Count() < homes.Length)
        )
        {
            yield return new(SuspectKind.Make, [.. make.Select(m => m.Home)], [], 1);
        }

        foreach (var module in suspected)
        {
            foreach (var beside in homes.Where(h => h != module && (Tells(module, h) || Before(module, h))))
            {
                yield return new(SuspectKind.Pair, [module, beside], [], 1);
            }
        }

        yield return new(SuspectKind.Setting, [], suspected, 1);
        foreach (var channel in setup.Channels.Where(c => homes.Except(c).Any()))
        {
            yield return new(SuspectKind.Channel, [], channel, 1);
        }
    }

    // Whether a start can show which of the two is hidden by the other.
    private bool Tells(string one, string other) => slotsTold || (totalOnly && Size(one) != Size(other));

    private bool Before(string one, string other) => Array.IndexOf(homes, one) < Array.IndexOf(homes, other);

    private long Size(string home) => bytes[Array.IndexOf(homes, home)];

    private Suspect[] Weighted(Suspect[] suspects) =>
        [
            .. suspects
                .GroupBy(s => s.Kind)
                .SelectMany(kind =>
                {
                    var raw = kind.Select(s =>
                            (
                                Suspect: s,
                                Weight: s
                                    .Modules.Concat(s.Slots)
                                    .Any(h => setup.Modules.FirstOrDefault(m => m.Home == h)?.IsNew == true)
                                    ? NewWeighs
                                    : 1
                            )
                        )
                        .ToArray();
                    var sum = raw.Sum(r => r.Weight);
                    return raw.Select(r =>
                        r.Suspect with
                        {
                            Chance =
                                Usual[kind.Key]
                                * r.Weight
                                / sum
                                * (kind.Key == SuspectKind.Seat && setup.Reseated ? ReseatedWeighs : 1),
                        }
                    );
                }),
        ];

    // What is seen, as one number: which slots, or how much; whatever the first start told.
    private long Shows(in Marks s, in Laid places, bool seatedAnew, bool defaults)
    {
        if (totalOnly && s.Kind == SuspectKind.Setting && !defaults)
        {
            return Math.Min(places.Total, setup.First.Seen?.Bytes ?? 0);
        }

        var together = (places.Modules & s.Beside) != 0;
        var hidden = 0;
        long seen = 0;
        for (var i = 0; i < places.Module.Length; i++)
        {
            var (module, slot) = (1L << places.Module[i], 1L << places.Slot[i]);
            var hides = s.Kind switch
            {
                SuspectKind.Seat => !seatedAnew && (s.Slots & slot) != 0,
                SuspectKind.Module or SuspectKind.Make => (s.Modules & module) != 0,
                SuspectKind.Slot or SuspectKind.Channel => (s.Slots & slot) != 0,
                SuspectKind.Two => (s.Modules & module) != 0 || (s.Slots & slot) != 0,
                SuspectKind.Pair => together && (s.Modules & module) != 0,
                _ => !defaults && places.Module.Length == homes.Length && (s.Slots & slot) != 0,
            };
            hidden += hides ? 1 : 0;
            seen +=
                hides ? 0
                : totalOnly ? bytes[places.Module[i]]
                : slot;
        }

        return hidden > 0 && (stops || hidden == places.Module.Length) ? NoStart
            : totalOnly ? seen
            : Seen | seen;
    }

    private Laid Lay(IReadOnlyList<SwapPlace> places)
    {
        var (module, slot) = (new int[places.Count], new int[places.Count]);
        long modules = 0,
            total = 0;
        for (var i = 0; i < places.Count; i++)
        {
            module[i] = Array.IndexOf(homes, places[i].Module);
            slot[i] = Array.IndexOf(slotIds, places[i].Slot);
            modules |= 1L << module[i];
            total += bytes[module[i]];
        }

        return new Laid(module, slot, modules, total);
    }

    private Marks Signs(Suspect s) =>
        s.Kind == SuspectKind.Pair
            ? new(s.Kind, Bit(homes, s.Modules[0]), Bit(homes, s.Modules[1]), 0)
            : new(s.Kind, Mask(s.Modules, homes), 0, Mask(s.Slots, slotIds));

    // An arrangement and a suspect, as numbers that are quick to compare.
    private readonly record struct Laid(int[] Module, int[] Slot, long Modules, long Total);

    private readonly record struct Marks(SuspectKind Kind, long Modules, long Beside, long Slots);

    private static long Mask(IReadOnlyList<string> some, string[] all)
    {
        long mask = 0;
        foreach (var one in some)
        {
            mask |= Bit(all, one);
        }

        return mask;
    }

    private static long Bit(string[] all, string one) => Array.IndexOf(all, one) is >= 0 and var at ? 1L << at : 0;

    private long Key(SwapOutcome outcome, IReadOnlyList<SwapPlace> places)
    {
        if (!outcome.Started || outcome is { Slots.Count: 0 } or { Slots: null, Seen.Bytes: 0 })
        {
            return NoStart;
        }

        if (stops)
        {
            return Key(places, outcome.Slots is { } seen ? places.Where(p => seen.Contains(p.Slot)) : places);
        }

        return slotsTold
            ? Key(
                places,
                outcome.Slots is { } slots ? places.Where(p => slots.Contains(p.Slot)) : Fitting(places, outcome.Seen)
            )
            : outcome.Seen?.Bytes
                ?? (
                    outcome.Slots is { } told ? Sum(places.Where(p => told.Contains(p.Slot))).Bytes : Sum(places).Bytes
                );
    }

    // Only a total, where slots were told before: all, or the ones that make it up if there is one way.
    private IEnumerable<SwapPlace> Fitting(IReadOnlyList<SwapPlace> places, MemorySize? seen) =>
        seen is null || seen == Sum(places) ? places
        : places.Where(p => Sum(places.Where(o => o != p)) == seen).ToArray() is [var missing]
            ? places.Where(p => p != missing)
        : [];

    private long Key(IReadOnlyList<SwapPlace> places, IEnumerable<SwapPlace> seen) =>
        slotsTold || stops ? seen.Aggregate(Seen, (mask, p) => mask | Bit(slotIds, p.Slot)) : Sum(seen).Bytes;

    private MemorySize Sum(IEnumerable<SwapPlace> places) =>
        new(places.Sum(p => setup.Modules.First(m => m.Home == p.Module).Module.Size.Bytes));
}
