using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>Whether these are the machine and the modules that the plan speaks of.</summary>
internal static class IdentityFindings
{
    // The system's serial tells the machine; where its maker left that out, the board's does. Where nothing told it
    // before, the label that the desk read does.
    public static Finding? WrongMachine(CheckFacts f)
    {
        var (system, board) = (ReadingDoubts.Told(f.Before.System.Serial), ReadingDoubts.Told(f.Before.Board?.Serial));
        var now = ReadingDoubts.Told(f.After.System.Serial);
        return (system ?? (board is null ? f.History.Serial : null)) is { } was && SerialNumber.Same(was, now) == false
                ? OtherMachine(f, "serial", now!, was)
            : system is null
            && now is null
            && ReadingDoubts.Told(f.After.Board?.Serial) is { } other
            && SerialNumber.Same(board, other) == false
                ? OtherMachine(f, "serial", other, board!)
            : ReadingDoubts.Told(f.Before.System.Product) is { } product
            && ReadingDoubts.Told(f.After.System.Product) is { } seen
            && !string.Equals(product, seen, StringComparison.OrdinalIgnoreCase)
                ? OtherMachine(f, "product", seen, product)
            : null;
    }

    private static Finding OtherMachine(CheckFacts f, string what, string now, string was) =>
        f.Finding(
            "wrong-machine",
            Severity.Short,
            $"This reading is of another machine: {what} {now}, not {was}.",
            now,
            was,
            ["The capture of another order was taken.", "The board was changed."],
            new NextAction(ActionKind.ReadAgain, "Take the after reading of this machine.", [])
        ) with
        {
            Effect = FindingEffect.ProvesNothing,
        };

    public static IEnumerable<Finding> Of(CheckFacts f)
    {
        var sets = new ModuleSets(f);
        if (sets.Repeats)
        {
            yield return f.Finding(
                "serials-repeat",
                Severity.Note,
                "The firmware gives several modules one serial; modules are compared by size alone.",
                string.Join(", ", f.Rows.Select(r => r.After.Module?.Serial).OfType<string>()),
                "a serial of its own for each module",
                ["The firmware copies the first module's identity to all."],
                CheckFacts.Nothing
            );
            yield break;
        }

        // Another size is told by what is short or too much; two that were changed over are told once.
        foreach (
            var finding in f
                .Rows.Where(r => r is { Match: SlotMatch.Same, Planned: not null, After.Module: not null })
                .Select(r => Of(f, sets, r))
                .OfType<Finding>()
                .DistinctBy(n => (n.Code, string.Join(' ', n.Action.Slots.Order())))
        )
        {
            yield return finding;
        }
    }

    private static Finding? Of(CheckFacts f, ModuleSets sets, CheckRow row)
    {
        var (planned, seen) = (row.Planned!, row.After.Module!);
        if (sets.IsRight(row) == true)
        {
            return null;
        }

        if (row.Use is SlotUse.Fit or SlotUse.Move && sets.IsOld(row) == true)
        {
            return NotChanged(f, row);
        }

        if (sets.IsRight(row) == false)
        {
            return f.Rows.FirstOrDefault(r => r != row && ModuleSets.Same(sets.Expected(r), seen.Serial) == true)
                    is { } own
                    ? Moved(f, own, row)
                : sets.Where(sets.Expected(row)) is { } now ? Moved(f, row, now)
                : row.Stays || row.Use == SlotUse.Move ? Gone(f, sets, row)
                : NotBooked(f, sets, row);
        }

        return planned.PartNumber is { } p && seen.PartNumber is { } q && p != q ? Another(f, row) : null;
    }

    private static Finding NotChanged(CheckFacts f, CheckRow row) =>
        f.Finding(
            "module-not-changed",
            Severity.Short,
            $"{row.Slot} still holds the old module of {row.Before.Spoken}.",
            Named(row.After.Module!),
            Named(row.Planned!),
            ["The old module went back in.", "The reading is of before the change."],
            new NextAction(
                ActionKind.Compare,
                $"Take the old module out of {row.Slot}, and fit the new one.",
                [row.Slot]
            )
        );

    private static Finding Moved(CheckFacts f, CheckRow row, CheckRow now) =>
        f.Finding(
            "in-other-slot",
            Severity.Remark,
            $"The module of {row.Slot} sits in {now.Slot}: modules of one size were changed over.",
            $"{Named(row.Planned!)} in {now.Slot}",
            $"in {row.Slot}",
            ["The modules were fitted into each other's slots."],
            new NextAction(
                ActionKind.Compare,
                $"Change the modules of {row.Slot} and {now.Slot} over.",
                [row.Slot, now.Slot]
            )
        );

    // A serial that is not told may be the one that is missed.
    private static Finding? Gone(CheckFacts f, ModuleSets sets, CheckRow row) =>
        f.Finding(
            "kept-module-gone",
            sets.IsWhole ? Severity.Short : Severity.Remark,
            $"The module that stayed in {row.Slot} is not there: another of {row.After.Spoken} sits in its place.",
            Named(row.After.Module!),
            Named(row.Planned!),
            ["Modules of two orders were changed over.", "The serial was mistyped before."],
            new NextAction(
                ActionKind.Compare,
                $"Compare the label of the module in {row.Slot} with the serial of before; look on the bench "
                    + "for the customer's own.",
                [row.Slot]
            )
        );

    private static Finding NotBooked(CheckFacts f, ModuleSets sets, CheckRow row) =>
        f.Finding(
            "module-not-booked",
            Severity.Remark,
            $"{row.Slot} holds the module {row.After.Module!.Serial}; {sets.Expected(row)} was booked for it.",
            Named(row.After.Module),
            $"serial {sets.Expected(row)}",
            ["Another piece was taken from the shelf.", "Modules of two orders were changed over."],
            new NextAction(
                ActionKind.Compare,
                $"Compare the label of the module in {row.Slot}: fit the one that is booked, or correct the stock.",
                [row.Slot]
            )
        );

    private static Finding Another(CheckFacts f, CheckRow row) =>
        f.Finding(
            "another-module",
            Severity.Remark,
            $"{row.Slot} holds another module than planned, of the same size.",
            Named(row.After.Module!),
            Named(row.Planned!),
            ["Modules of two orders were changed over.", "The plan names another part."],
            new NextAction(
                ActionKind.Compare,
                $"Compare the label of the module in {row.Slot} with the plan.",
                [row.Slot]
            )
        );

    private static string Named(MemoryModule module) => $"{module} {module.Serial}".TrimEnd();
}
