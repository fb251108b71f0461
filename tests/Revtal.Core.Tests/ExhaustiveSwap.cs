using Revtal.Core.Bench;

namespace Revtal.Tests.Core;

/// <summary>The least expected restarts over every arrangement of every subset, in the plainest way.</summary>
internal sealed class ExhaustiveSwap
{
    private readonly double[] weights;
    private readonly SwapSetup setup;
    private readonly IReadOnlyList<Suspect> suspects;
    private readonly List<string[]> shows = [];
    private readonly Dictionary<int, double> known = [];

    public ExhaustiveSwap(SwapSetup setup, IReadOnlyList<Suspect> suspects)
    {
        (this.setup, this.suspects) = (setup, suspects);
        weights = [.. suspects.Select(s => s.Chance)];
        foreach (var places in Arrangements([.. setup.Modules.Select(m => m.Home)], [.. setup.Slots]))
        {
            shows.Add([.. suspects.Select(s => Shows(s, places, false))]);
            shows.Add([.. suspects.Select(s => Shows(s, places, true))]);
        }
    }

    /// <summary>What somebody's way needs on average, played out for every suspect.</summary>
    public double Played(Func<IReadOnlyList<SwapTrial>, SwapState> next, bool started) =>
        suspects.Sum(s =>
        {
            var trials = new List<SwapTrial>();
            // That one is left is what is compared; that it is the only one is proved after that.
            while (next(trials) is { Suspects.Count: > 1, Next: { } places, Defaults: var defaults })
            {
                var shown = Shows(s, places, defaults);
                trials.Add(
                    new(
                        places,
                        shown == "none" ? new SwapOutcome(false)
                            : started ? new SwapOutcome(true, shown.Split(' '))
                            : new SwapOutcome(true),
                        defaults
                    )
                );
                Xunit.Assert.True(trials.Count < 20, "it does not end");
            }

            return s.Chance * trials.Count;
        });

    private string Shows(Suspect s, IReadOnlyList<SwapPlace> places, bool defaults)
    {
        var hidden = places
            .Where(p =>
                s.Kind switch
                {
                    SuspectKind.Seat => false,
                    SuspectKind.Module or SuspectKind.Make => s.Modules.Contains(p.Module),
                    SuspectKind.Slot => s.Slots.Contains(p.Slot),
                    SuspectKind.Pair => p.Module == s.Modules[0] && places.Any(o => o.Module == s.Modules[1]),
                    SuspectKind.Setting => !defaults && places.Count == setup.Modules.Count && s.Slots.Contains(p.Slot),
                    _ => throw new InvalidOperationException($"{s.Kind} is not played"),
                }
            )
            .ToArray();
        return hidden.Length > 0 && (!setup.First.Started || hidden.Length == places.Count)
            ? "none"
            : string.Join(' ', places.Except(hidden).Select(p => p.Slot).Order());
    }

    public double Expected() => Of((1 << weights.Length) - 1);

    private double Of(int set)
    {
        if (known.TryGetValue(set, out var cost))
        {
            return cost;
        }

        var members = Enumerable.Range(0, weights.Length).Where(i => (set >> i & 1) == 1).ToArray();
        var total = members.Sum(i => weights[i]);
        var best = double.PositiveInfinity;
        foreach (var show in shows)
        {
            var parts = members
                .GroupBy(i => show[i])
                .Select(g => g.Aggregate(0, (mask, i) => mask | (1 << i)))
                .ToArray();
            if (parts.Length > 1)
            {
                best = Math.Min(
                    best,
                    1
                        + parts.Sum(p =>
                            Enumerable.Range(0, weights.Length).Where(i => (p >> i & 1) == 1).Sum(i => weights[i])
                            / total
                            * Of(p)
                        )
                );
            }
        }

        return known[set] = double.IsPositiveInfinity(best) ? 0 : best;
    }

    private static IEnumerable<List<SwapPlace>> Arrangements(string[] modules, string[] slots)
    {
        if (modules.Length == 0)
        {
            return
            [
                [],
            ];
        }

        return Arrangements(modules[1..], slots)
            .SelectMany(rest =>
                slots
                    .Where(s => rest.All(p => p.Slot != s))
                    .Select(s => new List<SwapPlace>(rest) { new(s, modules[0]) })
                    .Append(rest)
            );
    }
}
