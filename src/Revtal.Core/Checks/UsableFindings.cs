using Revtal.Core.Hardware;

namespace Revtal.Core.Checks;

/// <summary>What the system may use against what the firmware counts.</summary>
internal static class UsableFindings
{
    private static readonly MemorySize ThirtyTwoBitLimit = MemorySize.Gigabytes(4);

    public static IEnumerable<Finding> Of(CheckFacts f)
    {
        if (f.After.Memory.UsableBytes is not { } usable)
        {
            yield break;
        }

        if (f.Installed is not { } installed)
        {
            // Only the system was asked: its figure alone can still show that something is missing.
            if (f.Expectation.UsableLow?.Bytes is { } low && usable < low)
            {
                yield return f.Finding(
                    "short-by-system",
                    Measured(f) || usable < f.Before.Memory.InstalledBytes ? Severity.Short : Severity.Remark,
                    $"{CheckFacts.Size(low - usable)} short, as the system counts.",
                    CheckFacts.Size(usable),
                    $"{CheckFacts.Size(low)} or more",
                    ["A module is not seen.", "The system keeps some of it back."],
                    new NextAction(ActionKind.ReadAgain, "Read the firmware tables too: they name the slot.", [])
                ) with
                {
                    // How much the system keeps back is not known: it may all be there.
                    Effect =
                        Measured(f) || usable < f.Before.Memory.InstalledBytes
                            ? FindingEffect.Weight
                            : FindingEffect.ProvesNothing,
                };
            }

            yield break;
        }

        if (usable > installed)
        {
            yield return f.Finding(
                "system-above-firmware",
                Severity.Remark,
                $"The system uses {CheckFacts.Size(usable)}, more than the {CheckFacts.Size(installed)} that firmware "
                    + "counts.",
                CheckFacts.Size(usable),
                $"{CheckFacts.Size(installed)} or less",
                ["The two readings are of different starts.", "The firmware leaves soldered memory out of its list."],
                new NextAction(ActionKind.ReadAgain, "Take both readings again, from one start.", [])
            );
            yield break;
        }

        var kept = installed - usable;
        var allowed = Allowed(f, installed);
        if (kept > allowed)
        {
            yield return Below(f, usable, installed, kept, allowed);
        }
        else if (kept > 0)
        {
            var before = f.Before.Memory.InstalledBytes - f.Before.Memory.UsableBytes;
            yield return f.Finding(
                "usable-explained",
                Severity.Note,
                $"{CheckFacts.Size(usable)} of {CheckFacts.Size(installed)} is usable: {CheckFacts.Size(kept)} is kept "
                    + $"back{(before is >= 0 ? $", {CheckFacts.Size(before)} before" : "")}.",
                CheckFacts.Size(kept),
                $"up to {CheckFacts.Size(allowed)}",
                ["Firmware, graphics and the system's own tables keep a share, which grows with the memory."],
                CheckFacts.Nothing
            );
        }
    }

    // Whether the system was asked before: only then is it known what it keeps back.
    private static bool Measured(CheckFacts f) =>
        f.Before.Memory is { InstalledBytes: not null, UsableBytes: not null }
        || f.Guide.Memory.SharedGraphics is not null;

    // Who keeps it: a limit of the system, a setting it was started with, or a share that grew.
    private static Finding Below(CheckFacts f, long usable, long installed, long kept, long allowed)
    {
        var was = f.Before.Memory.InstalledBytes - f.Before.Memory.UsableBytes;
        var host = f.After.Host;
        if (
            host is { Is64Bit: true, LimitBytes: null }
            && was is { } before
            && kept - before is > 0 and var grown
            && grown <= installed / 4
        )
        {
            return f.Finding(
                "reservation-grown",
                Severity.Remark,
                $"{CheckFacts.Size(kept)} is kept back, {CheckFacts.Size(before)} before: the reservation grew by "
                    + $"{CheckFacts.Size(grown)}.",
                $"{CheckFacts.Size(usable)} usable of {CheckFacts.Size(installed)}",
                $"at least {CheckFacts.Size(installed - allowed)} usable",
                [
                    "The graphics take a larger share once there is more memory.",
                    "A reservation is set in the firmware.",
                ],
                new NextAction(
                    ActionKind.Setting,
                    "Look at the graphics share in the firmware "
                        + $"setup{Phrases.When(f.Guide.Firmware, fw => $" ({fw.Enter})")}.",
                    []
                )
            );
        }

        if (!Measured(f) && host?.Limit is null && host?.Is64Bit != false)
        {
            return f.Finding(
                "kept-back-unknown",
                Severity.Remark,
                $"{CheckFacts.Size(usable)} of {CheckFacts.Size(installed)} is usable; what was kept back before was "
                    + "not read.",
                $"{CheckFacts.Size(kept)} kept back",
                "as much as before",
                [
                    "The graphics keep a share of it.",
                    "A start setting caps the memory.",
                    "The board maps part of it away.",
                ],
                new NextAction(
                    ActionKind.Setting,
                    "Look at the graphics share in the firmware setup, and for a memory limit in the start settings.",
                    []
                )
            );
        }

        var bits = usable <= ThirtyTwoBitLimit.Bytes && installed > ThirtyTwoBitLimit.Bytes && host?.Is64Bit != true;
        var causes = new[]
        {
            host?.Limit is { } limit ? $"It was started with a limit: {limit}." : null,
            bits ? "The system is a 32-bit one and ends at 4 GB." : null,
            host?.Limit is null ? "A start setting caps the memory." : null,
            "The edition of the system has a limit.",
            "The graphics keep more than before.",
            "The board maps part of it away.",
        };
        return f.Finding(
            "system-below-firmware",
            Severity.Short,
            $"{CheckFacts.Size(kept)} not usable. Firmware counts {CheckFacts.Size(installed)}, the system "
                + $"{CheckFacts.Size(usable)}.",
            $"{CheckFacts.Size(usable)} usable of {CheckFacts.Size(installed)}",
            $"at least {CheckFacts.Size(installed - allowed)} usable",
            [.. causes.OfType<string>()],
            new NextAction(
                ActionKind.Setting,
                host?.Limit is { } set ? $"Take “{set}” out of the start settings."
                    : bits ? "Look whether the system is 64-bit; no module will mend this."
                    : "Look for a memory limit in the start settings, then at the graphics share in the firmware.",
                []
            )
        );
    }

    // The expectation's own slack, moved to what is really installed: a missing module must not be told twice.
    private static long Allowed(CheckFacts f, long installed) =>
        f.Expectation is { Installed: { } planned, UsableLow: { } low }
            ? planned.Bytes - low.Bytes
            : Math.Max(MemorySize.Megabytes(512).Bytes, installed / 10);
}
