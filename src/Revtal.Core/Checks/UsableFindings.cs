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
                    "short-by-system", Severity.Short, $"{CheckFacts.Say(low - usable)} short, as the system counts.",
                    CheckFacts.Say(usable), $"{CheckFacts.Say(low)} or more",
                    ["A module is not seen.", "The system keeps some of it back."],
                    new NextAction(ActionKind.ReadAgain, "Read the firmware tables too: they name the slot.", []));
            }

            yield break;
        }

        if (usable > installed)
        {
            yield return f.Finding(
                "system-above-firmware", Severity.Remark, $"The system uses {CheckFacts.Say(usable)}, more than the {CheckFacts.Say(installed)} that firmware counts.",
                CheckFacts.Say(usable), $"{CheckFacts.Say(installed)} or less",
                ["The two readings are of different starts.", "The firmware leaves soldered memory out of its list."],
                new NextAction(ActionKind.ReadAgain, "Take both readings again, from one start.", []));
            yield break;
        }

        var kept = installed - usable;
        var allowed = Allowed(f, installed);
        if (kept > allowed)
        {
            var limit = usable <= ThirtyTwoBitLimit.Bytes && installed > ThirtyTwoBitLimit.Bytes;
            string[] causes = ["A start setting caps the memory.", "The graphics keep more than before.", "The board maps part of it away."];
            yield return f.Finding(
                "system-below-firmware", Severity.Short,
                $"{CheckFacts.Say(kept)} not usable. Firmware counts {CheckFacts.Say(installed)}, the system {CheckFacts.Say(usable)}.",
                $"{CheckFacts.Say(usable)} usable of {CheckFacts.Say(installed)}", $"at least {CheckFacts.Say(installed - allowed)} usable",
                limit ? ["The system is a 32-bit one and ends at 4 GB.", .. causes] : causes,
                new NextAction(ActionKind.Setting, limit ? "Look whether the system is 64-bit; no module will mend this." : "Look for a memory limit in the start settings, then at the graphics share in the firmware.", []));
        }
        else if (kept > 0)
        {
            var before = f.Before.Memory.InstalledBytes - f.Before.Memory.UsableBytes;
            yield return f.Finding(
                "usable-explained", Severity.Note,
                $"{CheckFacts.Say(usable)} of {CheckFacts.Say(installed)} is usable: {CheckFacts.Say(kept)} is kept back{(before is >= 0 ? $", {CheckFacts.Say(before)} before" : "")}.",
                CheckFacts.Say(kept), $"up to {CheckFacts.Say(allowed)}",
                ["Firmware, graphics and the system's own tables keep a share, which grows with the memory."],
                CheckFacts.Nothing);
        }
    }

    // The expectation's own slack, moved to what is really installed: a missing module must not be told twice.
    private static long Allowed(CheckFacts f, long installed) =>
        f.Expectation is { Installed: { } planned, UsableLow: { } low }
            ? planned.Bytes - low.Bytes
            : Math.Max(MemorySize.Megabytes(512).Bytes, installed / 10);
}
