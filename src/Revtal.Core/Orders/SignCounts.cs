using System.Globalization;
using Revtal.Core.Bench;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>How often the starts of a model showed one sign.</summary>
/// <param name="Means">As the guide says; null where it does not know the sign.</param>
/// <param name="Times">In how many runs it was told.</param>
/// <param name="Passed">In how many of them it then started normally, with no hand in the machine between.</param>
/// <param name="Last">The newest order that told it; null where none did.</param>
/// <param name="Advice">What a lead might change; null for nothing.</param>
public sealed record SignCount(string Sees, string? Means, int Times, int Passed, int? Last, string? Advice);

/// <summary>What the orders of a model showed at their starts, counted for its guide.</summary>
/// <param name="Starts">Starts after a run that were confirmed.</param>
/// <param name="Orders">How many orders it rests on.</param>
public sealed record SignCounts(int Starts, int Orders, IReadOnlyList<SignCount> Signs)
{
    /// <summary>From so many starts on, a sign that none of them showed is worth a word.</summary>
    public const int EnoughStarts = 10;

    /// <summary>From so many times on, a sign that always passed is worth a word.</summary>
    public const int EnoughTimes = 3;

    /// <param name="orders">What was recorded of the model's orders, oldest first within each.</param>
    public static SignCounts Of(Guide guide, IReadOnlyList<(int Order, IReadOnlyList<EntryBody> Bodies)> orders)
    {
        var starts = orders.Sum(o => o.Bodies.Count(b => b is StepConfirmed { Step: var s } && s == StepId.PowerOn));
        var seen = orders
            .SelectMany(o => Seen(o.Order, o.Bodies))
            .ToLookup(s => s.Sees, StringComparer.OrdinalIgnoreCase);
        return new(
            starts,
            orders.Count,
            [
                .. guide.FirstStart.Select(s => Count(s.Sees, s.Meaning, s.IsNormal, [.. seen[s.Sees]], starts)),
                .. seen.Where(s => StartSign.Of(guide, s.Key).Known is null)
                    .Select(s => Count(s.First().Sees, null, false, [.. s], starts)),
            ]
        );
    }

    private static IEnumerable<(string Sees, int Order, bool Passed)> Seen(
        int order,
        IReadOnlyList<EntryBody> bodies
    ) =>
        bodies
            .OfType<FoundInside>()
            .Where(f => f is { Kind: FindKind.Sign, Text: not null })
            .DistinctBy(f => (f.Run, f.Text!.ToUpperInvariant()))
            .Select(f =>
                (
                    f.Text!,
                    order,
                    bodies
                        .SkipWhile(b => b != f)
                        .TakeWhile(b => b is not StepTakenBack)
                        .Any(b => b is FoundInside { Kind: FindKind.NormalStart, Run: var run } && run == f.Run)
                )
            );

    private static SignCount Count(
        string sees,
        string? means,
        bool isNormal,
        (string Sees, int Order, bool Passed)[] seen,
        int starts
    )
    {
        var passed = seen.Count(s => s.Passed);
        return new(
            sees,
            means,
            seen.Length,
            passed,
            seen.Length > 0 ? seen.Max(s => s.Order) : null,
            Advice(means, isNormal, seen, passed, starts)
        );
    }

    private static string? Advice(
        string? means,
        bool isNormal,
        (string Sees, int Order, bool Passed)[] seen,
        int passed,
        int starts
    ) =>
        means is null ? string.Create(CultureInfo.InvariantCulture, $"Not in the guide. What does it mean?")
        : seen.Length == 0 && starts >= EnoughStarts
            ? string.Create(CultureInfo.InvariantCulture, $"Never told in {starts} starts. Does it belong here?")
        : !isNormal && seen.Length >= EnoughTimes && passed == seen.Length
            ? string.Create(
                CultureInfo.InvariantCulture,
                $"Told {seen.Length} times, and each time it started normally after it. Is it normal?"
            )
        : null;
}
