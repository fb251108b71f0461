using System.Globalization;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>How fast the modules run, and across how many channels.</summary>
internal static class SpeedFindings
{
    public static IEnumerable<Finding> Of(CheckFacts f) => [.. Speed(f), .. Balance(f), .. Mapped(f)];

    private static IEnumerable<Finding> Speed(CheckFacts f)
    {
        if (f.Expectation.RunningSpeed is not { } expected)
        {
            yield break;
        }

        var running = f.Rows.Where(r => r.After is { Module: not null, RunningSpeed: not null }).ToArray();
        var lower = f.Rows.Where(r => IsRatedLower(f, r)).ToArray();
        if (lower.Length > 0)
        {
            yield return Slower(f, lower);
            expected = Math.Min(expected, lower.Min(r => r.After.Module!.RatedSpeed!.Value));
        }

        var slow = running.Where(r => r.After.RunningSpeed < expected).ToArray();
        if (slow.Length > 0)
        {
            var now = slow.Min(r => r.After.RunningSpeed);
            var setting = Profile(f) is { } profile ? $"{Phrases.Sentence(profile)}." : null;
            yield return f.Finding(
                "speed-below-rated",
                Severity.Remark,
                $"{now} MT/s, not {expected}.",
                $"{now} MT/s in {Phrases.Listed(slow.Select(r => r.Slot))}",
                $"{expected} MT/s",
                [
                    setting is null
                        ? "The firmware keeps to a lower grade."
                        : "The memory profile is off in the firmware.",
                    "The board runs this many modules slower.",
                    "A kept module's rating is unknown and lower.",
                ],
                new NextAction(
                    ActionKind.Setting,
                    setting ?? "Look for the memory's speed in the firmware setup.",
                    [.. slow.Select(r => r.Slot)]
                )
            );
            yield break;
        }

        var fastest = f.Rows.Max(r => r.Planned?.RatedSpeed);
        if (running.Length > 0 && fastest > expected)
        {
            var slowest = f.Rows.Min(r => r.Planned?.RatedSpeed);
            yield return f.Finding(
                "speed-explained",
                Severity.Note,
                slowest <= expected ? $"All run at {expected} MT/s, as the slowest module does."
                    : f.Expectation.RunningSpeed < (f.Guide.Memory.Speeds is [.., var top] ? top : 0)
                        ? $"All run at {expected} MT/s: with so many modules a channel the board goes no faster."
                    : $"All run at {expected} MT/s, the board's top grade.",
                $"{expected} MT/s",
                $"up to {fastest} MT/s by the modules' rating",
                ["Modules of one board run at one speed."],
                CheckFacts.Nothing
            );
        }
    }

    // The very part that was planned, or a rating that the board itself ends at, shows no wrong part.
    private static bool IsRatedLower(CheckFacts f, CheckRow row) =>
        row is { Planned: { RatedSpeed: { } planned } part, After.Module: { RatedSpeed: { } rated } seen }
        && rated < planned
        && (part.PartNumber is null || part.PartNumber != seen.PartNumber)
        && !(f.Guide.Memory.Speeds is [.., var top] && rated == top);

    private static Finding Slower(CheckFacts f, CheckRow[] rows)
    {
        var slots = rows.Select(r => r.Slot).ToArray();
        var labels = $"the {Phrases.Plural(slots.Length, "label", "labels")} in {Phrases.Listed(slots)}";
        var setting = Profile(f);
        return f.Finding(
            "module-slower",
            Severity.Remark,
            string.Join(" ", rows.Select(r => Rating(r, setting is not null))),
            string.Join(", ", rows.Select(r => $"{r.Slot} {r.After.Module}")),
            string.Join(", ", rows.Select(r => $"{r.Slot} {r.Planned}")),
            [
                "A slower module than planned was fitted.",
                .. setting is null
                    ? Array.Empty<string>()
                    : ["The profile is off, and the firmware tells the rating without it."],
            ],
            new NextAction(
                ActionKind.Compare,
                $"Compare {labels} with the plan{Phrases.When(setting, s => $"; if they are right, {s}")}.",
                slots
            )
        );
    }

    // Where the firmware has a profile to turn on, some tell the rating without it: then the label decides.
    private static string Rating(CheckRow row, bool hasProfile)
    {
        var (planned, seen) = (row.Planned!, row.After.Module!);
        var isOther = !hasProfile || (planned.PartNumber is not null && seen.PartNumber is not null);
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{row.Slot} {(isOther ? "holds a" : "tells a rating of")} {seen.RatedSpeed}{(isOther ? " module" : "")}; "
                + $"{planned.RatedSpeed} was planned."
        );
    }

    private static string? Profile(CheckFacts f) =>
        f.Guide.Firmware is { RatedSpeed: { } rated } firmware
            ? $"turn the profile on: {firmware.Enter}, then {rated}"
            : null;

    // The capacity may be whole while its channels are no longer alike.
    private static IEnumerable<Finding> Balance(CheckFacts f)
    {
        if (!f.SlotsKnown || f.Installed != f.Expectation.Installed?.Bytes)
        {
            yield break;
        }

        var seen = ChannelShare.Of(
            f.Guide.Memory.Slots.Zip(f.Rows, (s, r) => (s.Channel, r.After.Module?.Size.Bytes ?? 0))
        );
        if (seen.Interleaved >= f.Expectation.InterleavedBytes)
        {
            yield break;
        }

        var wish = Population.Wanted(f.Guide.Memory, f.Rows.Count(r => r.After.Module is not null));
        yield return f.Finding(
            "balance-lost",
            Severity.Remark,
            $"{CheckFacts.Size(seen.Interleaved)} of {CheckFacts.Size(f.Installed)} interleave, not "
                + $"{CheckFacts.Size(f.Expectation.InterleavedBytes)}.",
            string.Join(
                ", ",
                seen.Loads.Select(l =>
                    string.Create(CultureInfo.InvariantCulture, $"channel {l.Channel} {CheckFacts.Size(l.Bytes)}")
                )
            ),
            f.Expectation.Balance == ChannelBalance.Equal
                ? "the same on each channel"
                : $"{CheckFacts.Size(f.Expectation.InterleavedBytes)} interleaved",
            ["Modules sit in slots of one channel.", "Unlike sizes stand opposite each other."],
            new NextAction(
                ActionKind.Compare,
                $"Move the modules as planned{Phrases.When(wish, w => $"; the board wants them in {w.Spoken}")}.",
                [.. f.Rows.Where(r => r.Match is not SlotMatch.Same).Select(r => r.Slot)]
            )
        );
    }

    private static IEnumerable<Finding> Mapped(CheckFacts f)
    {
        // A range or two for the firmware itself may be left out of the map.
        if (
            f.After.Memory.MappedBytes is { } mapped
            && f.Installed is { } installed
            && installed - mapped > Math.Max(MemorySize.Megabytes(512).Bytes, installed / 16)
        )
        {
            yield return f.Finding(
                "mapped-below-installed",
                Severity.Remark,
                $"Firmware counts {CheckFacts.Size(installed)} and maps {CheckFacts.Size(mapped)} of it.",
                CheckFacts.Size(mapped),
                CheckFacts.Size(installed),
                [
                    "The firmware leaves a module out that it cannot train.",
                    "A setting maps part of it away.",
                    "Its address tables are incomplete: the system's own count tells.",
                ],
                new NextAction(
                    ActionKind.Setting,
                    "Look whether the system may use it all; if not, look for memory remapping in the firmware setup.",
                    []
                )
            );
        }
    }
}
