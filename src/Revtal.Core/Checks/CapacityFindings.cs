using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>What the totals and the slots say of capacity.</summary>
internal static class CapacityFindings
{
    public static IEnumerable<Finding> Of(CheckFacts f)
    {
        if (f.Installed is not { } installed || f.Expectation.Installed?.Bytes is not { } expected)
        {
            return f.After.Memory.UsableBytes is null ? [Incomplete(f)] : [];
        }

        var was = f.Before.Memory.InstalledBytes;
        return installed == expected ? Placed(f)
            : installed == was && SameAsBefore(f) ? [NothingChanged(f, installed, expected)]
            : installed < expected ? Short(f, installed, expected)
            : [More(f, installed, expected)];
    }

    // Another module of the same size is a change.
    private static bool SameAsBefore(CheckFacts f)
    {
        var sets = new ModuleSets(f);
        return f.Rows.All(r =>
            !r.After.Known || !r.Before.Known || (r.After.Module is null ? r.Before.Module is null : IsSame(r))
        );

        bool IsSame(CheckRow r) => r.After.Module!.Size == r.Before.Module?.Size && sets.IsOld(r) != false;
    }

    private static Finding NothingChanged(CheckFacts f, long installed, long expected)
    {
        var slots = f.Rows.Where(r => r.Use is SlotUse.Fit or SlotUse.Move).Select(r => r.Slot).ToArray();
        return f.Finding(
            "nothing-changed",
            Severity.Short,
            $"{CheckFacts.Size(installed)}, as before. Nothing of the work is seen.",
            $"{CheckFacts.Size(installed)}, the same as before",
            CheckFacts.Size(expected),
            [
                "The reading was taken before the change, or of another start.",
                "The new modules are not seated.",
                "The board does not take these modules.",
            ],
            slots.Length > 0
                ? f.Reseat(slots)
                : new NextAction(ActionKind.ReadAgain, "Take the after reading again.", [])
        ) with
        {
            Effect = FindingEffect.NothingSeen,
        };
    }

    // The slots say it outright; where only totals are known, the missing amount may still point at one module.
    private static IEnumerable<Finding> Short(CheckFacts f, long installed, long expected)
    {
        var gap = expected - installed;
        var others = f.Rows.Where(r => r.Match is SlotMatch.Different or SlotMatch.Unplanned).ToArray();
        // Several causes add up, or one of them hides behind another.
        if (f.SlotsKnown && others.Length > 0 && f.Rows.Sum(Difference) == gap)
        {
            return Explained(f, gap, others);
        }

        return [NotSeen(f, installed, expected, gap)];
    }

    private static long Difference(CheckRow row) =>
        (row.Planned?.Size.Bytes ?? 0) - (row.After.Module?.Size.Bytes ?? 0);

    private static IEnumerable<Finding> Explained(CheckFacts f, long gap, CheckRow[] others)
    {
        var sets = new ModuleSets(f);
        var missing = f.Rows.Where(r => r.Match == SlotMatch.Missing).Select(r => r.Slot).ToArray();
        var told = others.Select(r => Instead(sets, r));
        string[] all =
        [
            .. told,
            .. missing.Length > 0 ? [$"{Phrases.Listed(missing)} not seen"] : Array.Empty<string>(),
        ];
        var sum = $"{CheckFacts.Size(gap)} short: {string.Join("; ", all)}.";
        if (missing.Length > 0)
        {
            yield return f.Finding(
                missing.Length == 1 ? "module-not-seen" : "modules-not-seen",
                Severity.Short,
                sum,
                $"nothing in {Phrases.Listed(missing)}",
                string.Join(
                    ", ",
                    f.Rows.Where(r => missing.Contains(r.Slot)).Select(r => $"{r.Slot} {r.Planned!.Size}")
                ),
                ["The module is not fully seated.", "It was never fitted.", "The module or the slot is faulty."],
                f.Reseat(missing)
            );
        }

        // The sum stands with the first; what else there is follows by itself.
        var isFirst = missing.Length == 0;
        foreach (var alike in others.GroupBy(r => sets.IsOld(r) == true).OrderByDescending(g => g.Key))
        {
            yield return Otherwise(f, sets, alike.Key, [.. alike], isFirst ? sum : null);
            isFirst = false;
        }
    }

    private static Finding Otherwise(CheckFacts f, ModuleSets sets, bool isOld, CheckRow[] rows, string? sum)
    {
        var slots = rows.Select(r => r.Slot).ToArray();
        return f.Finding(
            isOld ? "module-not-changed" : "module-smaller",
            Severity.Short,
            sum ?? $"{Phrases.Sentence(string.Join("; ", rows.Select(r => Instead(sets, r))))}.",
            string.Join(", ", rows.Select(r => $"{r.Slot} {r.After.Spoken}")),
            string.Join(", ", rows.Select(r => $"{r.Slot} {r.Planned?.Size.ToString() ?? "empty"}")),
            isOld
                ? ["The old module went back in."]
                : ["A module smaller than planned was fitted.", "The old module is still in.", "It is seen in part."],
            new NextAction(
                ActionKind.Compare,
                $"Off, and compare the {Phrases.Plural(slots.Length, "label", "labels")} in {Phrases.Listed(slots)} "
                    + "with the plan.",
                slots
            )
        );
    }

    // What serials do not tell is not said to be the old one.
    private static string Instead(ModuleSets sets, CheckRow row) =>
        row.Planned is null ? $"{row.Slot} holds {row.After.Spoken}, planned empty"
        : sets.IsOld(row) == true ? $"{row.Slot} still holds the old {row.After.Spoken}, not {row.Planned.Size}"
        : row.Before.Module?.Size == row.After.Module?.Size
            ? $"{row.Slot} holds {row.After.Spoken} as before, not {row.Planned.Size}"
        : $"{row.Slot} holds {row.After.Spoken}, not {row.Planned.Size}";

    private static Finding NotSeen(CheckFacts f, long installed, long expected, long gap)
    {
        var missing = f.Rows.Where(r => r.Match == SlotMatch.Missing).ToArray();
        if (missing.Length == 0 && !f.SlotsKnown)
        {
            missing = [.. f.Rows.Where(r => r.Planned?.Size.Bytes == gap && r.Use != SlotUse.Keep)];
            if (missing.Length == 0)
            {
                missing = [.. f.Rows.Where(r => r.Planned?.Size.Bytes == gap)];
            }
        }

        var slots = missing.Select(r => r.Slot).ToArray();
        if (slots.Length == 0)
        {
            return f.Finding(
                "short",
                Severity.Short,
                $"{CheckFacts.Size(gap)} short. No single slot explains it.",
                CheckFacts.Size(installed),
                CheckFacts.Size(expected),
                ["A module smaller than planned was fitted.", "A module is seen only in part."],
                new NextAction(
                    ActionKind.Compare,
                    "Compare the labels of the modules with the plan.",
                    [.. f.Rows.Where(r => r.Match == SlotMatch.Different).Select(r => r.Slot)]
                )
            );
        }

        var sure = missing.All(r => r.Match == SlotMatch.Missing);
        var kept = sure && missing.All(r => r.Use is SlotUse.Keep or SlotUse.Inspect);
        var names = Phrases.Listed(slots);
        var allNew = sure && f.Rows.Where(r => r.Use == SlotUse.Fit).All(r => slots.Contains(r.Slot));
        return f.Finding(
            kept ? "kept-module-missing"
                : slots.Length == 1 || !sure ? "module-not-seen"
                : allNew ? "new-modules-not-seen"
                : "modules-not-seen",
            Severity.Short,
            sure ? $"{CheckFacts.Size(gap)} short. {names} not seen{Phrases.When(kept, ", though it stayed in")}."
                : slots.Length == 1 ? $"{CheckFacts.Size(gap)} short: exactly the module of {names}."
                : $"{CheckFacts.Size(gap)} short: exactly one module of {Phrases.Either(slots)}.",
            CheckFacts.Size(installed),
            CheckFacts.Size(expected),
            kept
                ?
                [
                    "It was loosened while the other module went in.",
                    "It does not work together with the new module.",
                    "Its slot took harm.",
                ]
                :
                [
                    .. OutOfOrder(f),
                    .. allNew && slots.Length > 1
                        ? (string[])["The board does not take these modules.", "They are not fully seated."]
                        :
                        [
                            "The module is not fully seated.",
                            "The module is faulty.",
                            "The slot is faulty.",
                            "The module does not suit the board.",
                        ],
                ],
            f.Reseat(slots)
        );
    }

    // A board that wants its slots filled in order may leave out what sits elsewhere.
    private static IEnumerable<string> OutOfOrder(CheckFacts f)
    {
        var filled = f.Rows.Where(r => r.Planned is not null).Select(r => r.Slot).ToArray();
        return Population.Missed(f.Guide.Memory, filled) is { } wish
            ? [$"The board wants {Phrases.Counted(filled.Length, "module", "modules")} in {wish.Spoken}."]
            : [];
    }

    private static Finding More(CheckFacts f, long installed, long expected) =>
        f.Finding(
            "more-than-expected",
            Severity.Remark,
            $"{CheckFacts.Size(installed - expected)} more than planned{MoreWhere(f)}.",
            CheckFacts.Size(installed),
            CheckFacts.Size(expected),
            ["A larger module than planned was fitted.", "A module that should have left is still in."],
            new NextAction(
                ActionKind.Compare,
                "Compare the labels of the modules with the plan.",
                [.. f.Rows.Where(r => r.Match is SlotMatch.Different or SlotMatch.Unplanned).Select(r => r.Slot)]
            )
        );

    private static string MoreWhere(CheckFacts f)
    {
        var sets = new ModuleSets(f);
        var rows = f.Rows.Where(r => r.Match is SlotMatch.Different or SlotMatch.Unplanned).ToArray();
        return f.SlotsKnown && rows.Length > 0 ? $": {string.Join("; ", rows.Select(r => Instead(sets, r)))}" : "";
    }

    // The total is right; are the modules where they should be?
    private static IEnumerable<Finding> Placed(CheckFacts f)
    {
        var off = f.Rows.Where(r => r.Match is not (SlotMatch.Same or SlotMatch.Unknown)).ToArray();
        if (off.Length == 0)
        {
            yield break;
        }

        var slots = off.Select(r => r.Slot).ToArray();
        var seen = string.Join(", ", off.Select(r => $"{r.Slot} {r.After.Spoken}"));
        var planned = string.Join(", ", off.Select(r => $"{r.Slot} {r.Planned?.Size.ToString() ?? "empty"}"));
        var samePieces = Pieces(off.Select(r => r.After.Module)).SequenceEqual(Pieces(off.Select(r => r.Planned)));
        yield return samePieces
            ? f.Finding(
                "in-other-slot",
                Severity.Remark,
                $"The total is right, but the modules of {Phrases.Listed(slots)} sit otherwise than planned.",
                seen,
                planned,
                [
                    "The modules were fitted into each other's slots.",
                    "The firmware numbers its slots otherwise than the guide says.",
                ],
                new NextAction(
                    ActionKind.Compare,
                    $"Look which module sits in {slots[0]}. Either change them over, or tell the lead that the guide "
                        + "has the slots wrong.",
                    slots
                )
            )
            : f.Finding(
                "other-modules",
                Severity.Remark,
                $"The total is right, but made of other modules than planned in {Phrases.Listed(slots)}.",
                seen,
                planned,
                ["Other modules than planned were fitted."],
                new NextAction(ActionKind.Compare, "Compare the labels of the modules with the plan.", slots)
            );
    }

    private static Finding Incomplete(CheckFacts f) =>
        f.Finding(
            "reading-incomplete",
            Severity.Remark,
            "The after reading gives no total.",
            "no total",
            CheckFacts.Size(f.Expectation.Installed?.Bytes),
            ["The capture lacks the firmware tables and the memory lines."],
            new NextAction(ActionKind.ReadAgain, "Take the after reading again, with the firmware tables.", [])
        );

    private static IEnumerable<long> Pieces(IEnumerable<MemoryModule?> modules) =>
        modules.OfType<MemoryModule>().Select(m => m.Size.Bytes).Order();
}
