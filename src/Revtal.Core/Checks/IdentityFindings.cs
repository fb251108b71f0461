using Revtal.Core.Hardware;

namespace Revtal.Core.Checks;

/// <summary>Whether these are the machine and the modules that the plan speaks of.</summary>
internal static class IdentityFindings
{
    // The system's serial tells the machine; where its maker left that out, the board's does.
    public static Finding? WrongMachine(CheckFacts f) =>
        (f.Before.System.Serial ?? f.Before.Board?.Serial) is { } was
        && (f.After.System.Serial ?? f.After.Board?.Serial) is { } now
        && was != now
        && f.Before.System.Serial is null == f.After.System.Serial is null
            ? f.Finding(
                "wrong-machine",
                Severity.Short,
                $"This reading is of another machine: serial {now}, not {was}.",
                now,
                was,
                ["The capture of another order was taken.", "The board was changed."],
                new NextAction(ActionKind.ReadAgain, "Take the after reading of this machine.", [])
            ) with
            {
                Effect = FindingEffect.ProvesNothing,
            }
            : null;

    public static IEnumerable<Finding> Of(CheckFacts f)
    {
        var modules = f.Rows.Select(r => r.After.Module).OfType<MemoryModule>().ToArray();
        var serials = modules.Select(m => m.Serial).OfType<string>().ToArray();
        var repeated = serials.Distinct().Count() < serials.Length;
        if (repeated)
        {
            yield return f.Finding(
                "serials-repeat",
                Severity.Note,
                "The firmware gives several modules one serial; modules are compared by size alone.",
                string.Join(", ", serials),
                "a serial of its own for each module",
                ["The firmware copies the first module's identity to all."],
                CheckFacts.Nothing
            );
        }
        else
        {
            foreach (
                var row in f.Rows.Where(r =>
                    r.Match == SlotMatch.Same && r.Planned is not null && Differs(r.Planned, r.After.Module!)
                )
            )
            {
                var (planned, seen) = (row.Planned!, row.After.Module!);
                yield return f.Finding(
                    "another-module",
                    Severity.Remark,
                    $"{row.Slot} holds another module than planned, of the same size.",
                    $"{seen} {seen.Serial}".TrimEnd(),
                    $"{planned} {planned.Serial}".TrimEnd(),
                    ["Modules of two orders were changed over.", "The plan names another part."],
                    new NextAction(
                        ActionKind.Compare,
                        $"Compare the label of the module in {row.Slot} with the plan.",
                        [row.Slot]
                    )
                );
            }
        }
    }

    private static bool Differs(MemoryModule planned, MemoryModule seen) =>
        (planned.Serial is { } s && seen.Serial is { } t && s != t)
        || (planned.PartNumber is { } p && seen.PartNumber is { } q && p != q);
}
