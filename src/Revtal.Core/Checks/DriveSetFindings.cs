using Revtal.Core.Captures;
using Revtal.Core.Hardware;

namespace Revtal.Core.Checks;

/// <summary>Which drives are in the machine after the work: gone, still there, another, in another place.</summary>
internal static class DriveSetFindings
{
    public static IEnumerable<Finding> Of(CheckFacts f)
    {
        var strangers = f.Drives.Strangers.ToList();
        foreach (var wanted in f.Drives.Wanted)
        {
            if (wanted.Seen is not null)
            {
                if (Other(f, wanted) is { } other)
                {
                    yield return other;
                }

                continue;
            }

            var instead = InItsPlace(f, wanted, strangers);
            if (instead is not null)
            {
                strangers.Remove(instead);
            }

            yield return (wanted.IsNew, instead) switch
            {
                (true, null) => Missing(f, wanted),
                (true, { } seen) => Instead(f, wanted, seen),
                (false, null) => Gone(f, wanted),
                (false, { } seen) => Foreign(f, wanted, seen),
            };
        }

        foreach (var finding in Remained(f).Concat(Moved(f)).Concat(Unplaced(f)))
        {
            yield return finding;
        }

        foreach (var unread in f.Drives.Unread.Where(w => w.IsNew))
        {
            yield return f.Finding(
                "drives-not-read",
                Severity.Remark,
                $"Nobody looked into {unread.Bay} after the work.",
                "not looked at",
                unread.Drive.ToString(),
                ["The reading names other bays alone."],
                new NextAction(ActionKind.ReadAgain, $"Take the after reading again, with {unread.Bay}.", [unread.Bay!])
            );
        }

        // Where one is gone that nobody can place, a stranger may have come for it.
        var mayHaveCome = f.Drives.Unplaced.Was.Count > f.Drives.Unplaced.Seen.Count;
        foreach (var stranger in f.After.ListsDrives ? strangers : [])
        {
            yield return f.Finding(
                "drive-stranger",
                mayHaveCome ? Severity.Short : Severity.Remark,
                $"A drive that nobody planned is listed: {Name(stranger)}.",
                Name(stranger),
                "the drives that were there, and those of the plan",
                ["A drive of another order was fitted.", "It was not listed before the work."],
                new NextAction(ActionKind.Compare, "Look where it sits and whose it is.", Bays(stranger.Bay))
            );
        }
    }

    // Whatever sits where it should, or the one stranger that there is while one drive is not seen.
    private static DriveReading? InItsPlace(CheckFacts f, WantedDrive wanted, List<DriveReading> strangers) =>
        strangers.FirstOrDefault(s => s.Bay is not null && s.Bay == wanted.Bay)
        ?? (strangers is [{ Bay: null } only] && f.Drives.Wanted.Count(w => w.Seen is null) == 1 ? only : null);

    private static Finding Missing(CheckFacts f, WantedDrive wanted) =>
        f.Finding(
            "drive-missing",
            Severity.Short,
            $"{wanted.Drive.Size} in {wanted.Bay} not listed.",
            "not listed",
            wanted.Drive.ToString(),
            Causes(f, wanted.Bay),
            f.Reseat([wanted.Bay!])
        );

    private static Finding Instead(CheckFacts f, WantedDrive wanted, DriveReading seen) =>
        seen.Drive.Size < wanted.Drive.Size
            ? f.Finding(
                "drive-smaller",
                Severity.Short,
                $"{seen.Drive.Size} in {wanted.Bay}, not {wanted.Drive.Size}.",
                $"{seen.Drive}",
                $"{wanted.Drive}",
                ["Another drive than planned was fitted.", "The drive hides part of itself."],
                DriveFindings.Compare(wanted.Bay!)
            )
            : Differs(f, wanted, seen);

    private static Finding Differs(CheckFacts f, WantedDrive wanted, DriveReading seen) =>
        f.Finding(
            "drive-other",
            Severity.Remark,
            $"{wanted.Bay} holds another drive than planned.",
            Name(seen),
            $"{wanted.Drive} {wanted.Drive.Serial}".TrimEnd(),
            ["Drives of two orders were changed over.", "The plan names another part."],
            DriveFindings.Compare(wanted.Bay!)
        );

    private static Finding? Other(CheckFacts f, WantedDrive wanted)
    {
        var seen = wanted.Seen!;
        return !wanted.IsNew ? null
            : SerialNumber.Same(wanted.Drive.Serial, seen.Drive.Serial) is false
            || DriveComparison.IsModel(wanted.Drive.PartNumber, seen.Drive.PartNumber) is false
                ? Differs(f, wanted, seen)
            : seen.Bay is { } bay && bay != wanted.Bay
                ? f.Finding(
                    "drive-other-bay",
                    Severity.Remark,
                    $"The new drive sits in {bay}, not in {wanted.Bay}.",
                    $"{Name(seen)} in {bay}",
                    $"{wanted.Drive} in {wanted.Bay}",
                    ["It was fitted into another bay.", "The guide names the bays otherwise."],
                    new NextAction(ActionKind.Compare, $"Look into {bay} and {wanted.Bay}.", [bay, wanted.Bay!])
                )
            : null;
    }

    private static Finding Gone(CheckFacts f, WantedDrive wanted) =>
        f.Finding(
            "drive-gone",
            Severity.Short,
            $"{Name(wanted)} is not listed any more; it was to stay.",
            "not listed",
            Name(wanted),
            Causes(f, wanted.Bay),
            wanted.Bay is { } bay
                ? f.Reseat([bay])
                : new NextAction(ActionKind.Compare, $"Look for {Name(wanted)}: its cable, its seat.", [])
        );

    private static Finding Foreign(CheckFacts f, WantedDrive wanted, DriveReading seen) =>
        f.Finding(
            "drive-foreign",
            Severity.Short,
            $"{Name(wanted)} is gone; {Name(seen)} is in its place.",
            Name(seen),
            Name(wanted),
            ["Drives of two orders were changed over.", "The wrong drive was taken out."],
            new NextAction(
                ActionKind.Compare,
                "Off, and find the customer's own drive before anything is written.",
                Bays(wanted.Bay)
            )
        );

    private static IEnumerable<Finding> Remained(CheckFacts f)
    {
        foreach (var old in f.Drives.Remained)
        {
            var bay = f.Plan.Bays.FirstOrDefault(b => SerialNumber.Same(b.Before?.Serial, old.Drive.Serial) is true);
            var isAlone = f.Drives.Wanted.Any(w => w.IsNew && w.Bay == bay?.Bay && w.Seen is null);
            yield return f.Finding(
                "drive-not-changed",
                isAlone ? Severity.Short : Severity.Remark,
                $"{Name(old)} was to leave{Phrases.When(bay?.Bay, b => $" {b}")}, and is still in the machine.",
                Name(old),
                "gone",
                ["The drive was not changed.", "It was left in another bay."],
                new NextAction(ActionKind.Compare, "Look which drive sits where, by the labels.", Bays(bay?.Bay))
            );
        }
    }

    private static IEnumerable<Finding> Moved(CheckFacts f)
    {
        var moved = f.Drives.Wanted.Where(w => !w.IsNew && w.Seen is not null && HasMoved(f, w)).ToArray();
        if (moved.Length == 0)
        {
            yield break;
        }

        var bays = moved.Select(w => w.Bay).OfType<string>().ToArray();
        var which = bays.Length == moved.Length ? $"The drives of {Phrases.Listed(bays)} sit" : $"{Serials(moved)} sit";
        yield return f.Finding(
            "bay-order-changed",
            Severity.Short,
            moved.Length > 1
                ? $"{which} in other bays than before."
                : $"{Name(moved[0])} sits in another bay than before.",
            string.Join(", ", moved.Select(w => $"{w.Seen!.Bay ?? w.Seen.Path} {w.Drive.Serial}")),
            string.Join(", ", moved.Select(w => $"{w.Bay ?? w.Was!.Path} {w.Drive.Serial}")),
            ["Trays were changed over."],
            new NextAction(
                ActionKind.Compare,
                $"Off, and put {(bays.Length == moved.Length ? $"the drives of {Phrases.Listed(bays)}" : "them")} back "
                    + "by their serials, before the array rebuilds.",
                bays
            )
        );
    }

    // A path that nobody sat on before may be a new name of the old one: a card more counts the others on.
    private static bool HasMoved(CheckFacts f, WantedDrive w) =>
        w.Bay is { } bay && w.Seen!.Bay is { } now
            ? bay != now
            : w.Was?.Path is { } was
                && w.Seen!.Path is { } path
                && was != path
                && f.Drives.Wanted.Any(o => o != w && o.Was?.Path == path);

    // Where nobody knows which one was to leave, their number still tells.
    private static IEnumerable<Finding> Unplaced(CheckFacts f)
    {
        if (!f.After.ListsDrives || f.Drives.Unplaced is not { Was.Count: > 0 } unplaced)
        {
            yield break;
        }

        var gone = unplaced.Was.Count - unplaced.Seen.Count;
        if (gone > unplaced.Leaving)
        {
            yield return f.Finding(
                "drive-gone",
                Severity.Short,
                $"{Phrases.Counted(gone, "drive is", "drives are")} not listed any more; "
                    + $"{(unplaced.Leaving == 1 ? "one was" : $"{unplaced.Leaving} were")} to leave.",
                $"{unplaced.Seen.Count} of {unplaced.Was.Count}",
                $"{unplaced.Was.Count - unplaced.Leaving} or more",
                Causes(f, null),
                new NextAction(ActionKind.Compare, "Look which drive sits where, by the labels.", [])
            );
        }
    }

    private static string[] Causes(CheckFacts f, string? bay) =>
        bay is not null && f.Guide.Bay(bay)?.Link?.StartsWith("PCIe", StringComparison.Ordinal) == true
            ?
            [
                "The drive is not fully seated.",
                "The bay shares its lanes with another one in use.",
                "The firmware keeps the bay off.",
                "The drive is faulty.",
            ]
            :
            [
                "The drive or its cable is not fully seated.",
                "The firmware keeps the bay off.",
                "The drive is faulty.",
            ];

    private static string Name(WantedDrive w) =>
        $"{w.Drive.Size} {w.Drive.Serial ?? w.Drive.PartNumber?.ToString()}".TrimEnd()
        + Phrases.When(w.Bay, bay => $" of {bay}");

    private static string Name(DriveReading d) => $"{d.Drive} {d.Drive.Serial}".TrimEnd();

    private static string Serials(IEnumerable<WantedDrive> drives) =>
        Phrases.Listed(drives.Select(d => d.Drive.Serial ?? d.Drive.ToString()));

    private static string[] Bays(string? bay) => bay is null ? [] : [bay];
}
