using System.Globalization;
using Revtal.Core.Guides;

namespace Revtal.Core.Bench;

/// <summary>Counting fasteners out and back, by group and hole.</summary>
internal static class FastenerCount
{
    private const int MostFasteners = 999;

    /// <summary>The count at opening: as the guide has it, or explained.</summary>
    public static StepConfirmation Out(RunStep step, StepConfirmation wish)
    {
        var counted = ByGroup(step, wish, _ => null) ?? Unasked(step);
        var total = counted.Values.Sum();
        var off = step
            .Loose.Where(g => counted[g.Group] != g.Count)
            .Select(g => $"{Name(g)}: the guide has {g.Count}, {counted[g.Group]} came out")
            .ToArray();
        return off.Length == 0 || wish.Explanation is not null
            ? wish with
            {
                Fasteners = total,
                Groups = counted.Count > 0 ? counted : null,
            }
            : throw RefusedException.Invalid(
                "count-differs",
                $"{string.Join("; ", off)}. Say why with an explanation: missing on arrival, or hidden ones found."
            );
    }

    // What nobody counted is not known: the guide's number is no count.
    private static Dictionary<string, int> Unasked(RunStep step) =>
        step.LooseFasteners == 0
            ? []
            : throw RefusedException.Invalid(
                "count-missing",
                $"Count what came out of the {step.RemovalTitle}: "
                    + $"{string.Join(", ", step.Loose.Select(g => $"{g.Count} {Name(g)}"))} by the guide."
            );

    /// <summary>
    /// The count at closing: what came out went back, each into a hole of its own length, or it is explained.
    /// </summary>
    public static StepConfirmation Back(RunStep step, StepConfirmation wish, RunState state)
    {
        var open = state.Confirmed(StepId.Open(step.Removal!));
        var outCount = open?.Fasteners ?? 0;
        var cameOut = open?.Groups;
        if (outCount == 0 && wish is { Fasteners: null or 0, Holes: null, Groups: null })
        {
            return wish with { Fasteners = 0 };
        }

        var back =
            ByGroup(
                step,
                wish,
                group => cameOut?.GetValueOrDefault(group) ?? step.Loose.First(g => g.Group == group).Count
            )
            ?? throw RefusedException.Rule(
                "tally-open",
                $"{outCount} fasteners came out of the {step.RemovalTitle}. Count them back and say how many."
            );
        var total = back.Values.Sum();
        var off = step
            .Loose.Select(g =>
                (
                    Group: g,
                    Out: cameOut is null ? null : cameOut.GetValueOrDefault(g.Group) as int?,
                    Back: back[g.Group]
                )
            )
            .Where(g => g.Out is { } o && o != g.Back)
            .ToArray();
        var missing = LooseMetal.MissingOnArrival(state, step.Removal!);
        if (
            (total == outCount && off.Length == 0)
            || (missing > 0 && outCount - total == missing && off.All(g => g.Out > g.Back))
            || wish.Explanation is not null
            || state.IsWaived(Gate.TallyOpen, step.Id)
        )
        {
            return wish with { Fasteners = total, Groups = back };
        }

        var difference = Math.Abs(outCount - total);
        throw RefusedException.Rule(
            "tally-open",
            total == outCount
                ? "As many went back as came out, but not of each kind: "
                    + $"{string.Join("; ", off.Select(g => $"{Name(g.Group)} {g.Out} out, {g.Back} back"))}. One sits "
                    + "in a hole of another length."
                : $"{outCount} fasteners came out of the {step.RemovalTitle} and {total} went back: {difference} "
                    + $"{(total < outCount ? "missing" : "too many")}{Which(step, wish)}. Find them, or explain the "
                    + "difference."
        );
    }

    private static string Which(RunStep step, StepConfirmation wish) =>
        wish.Holes is { } holes && All(step).Except(holes).ToArray() is { Length: > 0 and < 10 } empty
            ? $" ({string.Join(", ", empty)})"
            : "";

    private static IEnumerable<string> All(RunStep step) => step.Loose.SelectMany(g => g.Holes);

    // However it was told: hole by hole, group by group, or as one number, which can be shared out only if it leaves no
    // choice.
    private static Dictionary<string, int>? ByGroup(RunStep step, StepConfirmation wish, Func<string, int?> expected)
    {
        var loose = step.Loose.ToArray();
        if (wish.Holes is { } holes)
        {
            if (
                holes.Distinct().Count() != holes.Count
                || holes.FirstOrDefault(h => !All(step).Contains(h)) is not null
            )
            {
                throw RefusedException.Invalid(
                    "hole-unknown",
                    $"The holes of the {step.RemovalTitle} are {string.Join(", ", All(step))}, each once."
                );
            }

            return loose.ToDictionary(
                g => g.Group,
                g => holes.Count(h => h.StartsWith(g.Group + "/", StringComparison.Ordinal))
            );
        }

        if (wish.Groups is { } groups)
        {
            if (
                groups.FirstOrDefault(g => loose.All(l => l.Group != g.Key) || g.Value is < 0 or > MostFasteners) is
                { Key: { } wrong }
            )
            {
                throw RefusedException.Invalid(
                    "group-unknown",
                    $"The {step.RemovalTitle} counts {string.Join(", ", loose.Select(l => l.Group))}, "
                        + "each from 0 to 999; "
                        + $"“{wrong}” is not so."
                );
            }

            return loose.ToDictionary(g => g.Group, g => groups.GetValueOrDefault(g.Group));
        }

        if (wish.Fasteners is not { } total)
        {
            return null;
        }

        if (total is < 0 or > MostFasteners)
        {
            throw RefusedException.Invalid("count-impossible", $"A count of fasteners is from 0 to {MostFasteners}.");
        }

        var usual = loose.ToDictionary(g => g.Group, g => expected(g.Group) ?? g.Count);
        if (total == usual.Values.Sum())
        {
            return usual;
        }

        return loose.Length switch
        {
            0 => total == 0
                ? []
                : throw RefusedException.Invalid(
                    "no-fasteners-here",
                    $"The guide knows no loose fasteners of the {step.RemovalTitle}. Record a hidden one as found."
                ),
            1 => new Dictionary<string, int> { [loose[0].Group] = total },
            _ => throw RefusedException.Invalid(
                "count-by-group",
                $"{total} is not the {usual.Values.Sum()} expected. Say how many of each: "
                    + $"{string.Join(", ", loose.Select(Name))}."
            ),
        };
    }

    private static string Name(FastenerGroup g) =>
        g.Length is { } mm ? string.Create(CultureInfo.InvariantCulture, $"{g.Group} ({mm} mm)") : g.Group;
}
