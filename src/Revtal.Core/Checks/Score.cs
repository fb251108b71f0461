using System.Globalization;

namespace Revtal.Core.Checks;

/// <summary>One figure of a benchmark.</summary>
/// <param name="Name">The same before and after, and on other machines.</param>
/// <param name="Unit">“MB/s”, “s”, “points”.</param>
/// <param name="HigherIsBetter">False for times.</param>
public sealed record Score(string Name, string Unit, decimal Value, bool HigherIsBetter)
{
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Name} {Value:0.###} {Unit}");
}

/// <summary>One figure before and after, and where it stands among like machines.</summary>
/// <param name="Percent">How much it changed; null where only one side was measured, or it was zero before.</param>
/// <param name="Better">Null where there is no difference to judge.</param>
/// <param name="Among">Null below five.</param>
/// <param name="Place">From 1, the best; null without a baseline or an after figure.</param>
public sealed record ScoreLine(
    string Name,
    string Unit,
    bool HigherIsBetter,
    decimal? Before,
    decimal? After,
    decimal? Percent,
    bool? Better,
    Baseline? Among,
    int? Place
)
{
    /// <summary>Figures of one order, side by side, in the order in which they were first told.</summary>
    /// <param name="others">After figures of other orders of the same model, by name and unit.</param>
    public static IReadOnlyList<ScoreLine> Of(
        IReadOnlyList<Score> before,
        IReadOnlyList<Score> after,
        ILookup<(string Name, string Unit), decimal> others
    ) =>
        [
            .. before
                .Concat(after)
                .Select(s => (s.Name, s.Unit))
                .Distinct()
                .Select(key =>
                {
                    var (was, now) = (
                        before.LastOrDefault(s => (s.Name, s.Unit) == key),
                        after.LastOrDefault(s => (s.Name, s.Unit) == key)
                    );
                    var higher = (now ?? was)!.HigherIsBetter;
                    var percent =
                        was is { Value: not 0 } && now is not null
                            ? Math.Round((now.Value - was.Value) / Math.Abs(was.Value) * 100, 1)
                            : (decimal?)null;
                    var values = others[key].ToArray();
                    var among = Baseline.Of(values);
                    return new ScoreLine(
                        key.Name,
                        key.Unit,
                        higher,
                        was?.Value,
                        now?.Value,
                        percent,
                        percent is null or 0 ? null : percent > 0 == higher,
                        among,
                        among is null || now is null
                            ? null
                            : 1 + values.Count(v => higher ? v > now.Value : v < now.Value)
                    );
                }),
        ];
}

/// <summary>
/// Where like machines stand: quartiles by the middle of what lies on each side (the median itself left out of both).
/// </summary>
public sealed record Baseline(int Count, decimal Least, decimal Lower, decimal Median, decimal Upper, decimal Most)
{
    /// <summary>Fewer say nothing of a model.</summary>
    public const int Fewest = 5;

    /// <summary>Null below <see cref="Fewest"/>.</summary>
    public static Baseline? Of(IEnumerable<decimal> values)
    {
        var sorted = values.Order().ToArray();
        return sorted.Length < Fewest
            ? null
            : new(
                sorted.Length,
                sorted[0],
                Middle(sorted[..(sorted.Length / 2)]),
                Middle(sorted),
                Middle(sorted[((sorted.Length + 1) / 2)..]),
                sorted[^1]
            );
    }

    private static decimal Middle(decimal[] sorted) =>
        sorted.Length % 2 == 1
            ? sorted[sorted.Length / 2]
            : (sorted[(sorted.Length / 2) - 1] + sorted[sorted.Length / 2]) / 2;
}
