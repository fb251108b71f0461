using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>One drive that should be in the machine after the work, and what was found of it.</summary>
/// <param name="Drive">As it was read before, or as it was planned.</param>
/// <param name="Bay">Where it should sit; null where nobody knows.</param>
/// <param name="IsNew">It comes from outside; a kept one otherwise.</param>
/// <param name="Was">The before reading of a kept one.</param>
/// <param name="Seen">What was read after the work; null where it was not.</param>
internal sealed record WantedDrive(Drive Drive, string? Bay, bool IsNew, DriveReading? Was, DriveReading? Seen = null);

/// <summary>Drives that were there before, in a bay that nobody told, while the plan replaces some.</summary>
/// <param name="Was">All of them.</param>
/// <param name="Seen">Those that are still read.</param>
/// <param name="Leaving">How many were to leave.</param>
internal sealed record UnplacedDrives(IReadOnlyList<DriveReading> Was, IReadOnlyList<DriveReading> Seen, int Leaving);

/// <summary>
/// The drives before, planned and after, compared as sets first and by place then: what is gone, what stayed that
/// should have left, what nobody planned.
/// </summary>
/// <param name="Wanted">All that should be in the machine.</param>
/// <param name="Unread">Those of them of which the reading tells nothing.</param>
/// <param name="Remained">Drives that should have left, and are still read.</param>
/// <param name="Strangers">Drives that were neither there before nor planned.</param>
/// <param name="Unplaced">Drives of the before reading of which nobody knows whether they should have left.</param>
internal sealed record DriveComparison(
    IReadOnlyList<DriveRow> Rows,
    IReadOnlyList<WantedDrive> Wanted,
    IReadOnlyList<WantedDrive> Unread,
    IReadOnlyList<DriveReading> Remained,
    IReadOnlyList<DriveReading> Strangers,
    UnplacedDrives Unplaced
)
{
    public static DriveComparison Of(
        Guide guide,
        Reading before,
        Plan plan,
        Reading after,
        IReadOnlyDictionary<string, string>? recorded = null
    )
    {
        var was = DrivePlaces.Of(guide, before);
        var pool = DrivePlaces.Of(guide, after, DrivePlaces.Paths(was), recorded).ToList();
        var (kept, leaving, unsure) = Sort(plan, was);
        var wanted = kept.Concat(New(plan)).ToArray();

        // Who is known by name is taken first, so that nobody else is taken for it.
        Claim(wanted, pool, (w, d) => SerialNumber.Same(w.Drive.Serial, d.Drive.Serial) is true);
        var remained = Take(pool, d => leaving.Any(l => SerialNumber.Same(l.Drive.Serial, d.Drive.Serial) is true));
        var perhaps = Take(pool, d => unsure.Any(l => SerialNumber.Same(l.Drive.Serial, d.Drive.Serial) is true));
        foreach (
            var alike in new Func<WantedDrive, DriveReading, bool>[]
            {
                (w, d) => d.Bay == w.Bay && SameKind(w, d),
                (w, d) => IsModel(w.Drive.PartNumber, d.Drive.PartNumber) is true && SameKind(w, d),
                (w, d) => SameKind(w, d),
            }
        )
        {
            Claim(wanted, pool, (w, d) => MayBe(w, d) && alike(w, d));
        }

        // Eyes look into single bays: of the others nothing is said.
        var unread = after.ListsDrives
            ? []
            : wanted.Where(w => w.Seen is null && !(w.Bay is { } bay && IsLookedAt(after, bay))).ToArray();
        wanted = [.. wanted.Except(unread)];
        return new(
            [.. guide.Drives.Select(bay => Row(bay.Id, plan, was, after, wanted, remained, pool))],
            wanted,
            unread,
            remained,
            pool,
            new UnplacedDrives(unsure, perhaps, plan.Bays.Count(b => Replaces(b, was)))
        );
    }

    /// <summary>
    /// Whether a system's name of a model is that of the catalogue; null where one is not known. Systems write the
    /// maker before it.
    /// </summary>
    public static bool? IsModel(PartNumber? planned, PartNumber? seen)
    {
        if (planned is null || seen is null)
        {
            return null;
        }

        var (p, s) = (Letters(planned), Letters(seen));
        return p.Contains(s, StringComparison.Ordinal) || s.Contains(p, StringComparison.Ordinal);
    }

    private static string Letters(PartNumber? number) =>
        string.Concat(number.ToString()!.Where(char.IsAsciiLetterOrDigit)).ToUpperInvariant();

    private static bool IsLookedAt(Reading after, string bay) =>
        after.EmptyBays.Contains(bay) || after.Drives.Any(d => d.Bay == bay);

    // What the plan does with each drive that was there.
    private static (WantedDrive[] Kept, DriveReading[] Leaving, DriveReading[] Unsure) Sort(
        Plan plan,
        IReadOnlyList<DriveReading> was
    )
    {
        var kept = new List<WantedDrive>();
        var leaving = new List<DriveReading>();
        var unsure = new List<DriveReading>();
        var replaced = plan.Bays.Any(b => Replaces(b, was));
        foreach (var drive in was)
        {
            if (drive.Bay is null && replaced)
            {
                unsure.Add(drive);
            }
            else if (plan.Bays.FirstOrDefault(b => b.From is { } from && from == drive.Bay) is { } moves)
            {
                kept.Add(new WantedDrive(drive.Drive, moves.Bay, false, drive));
            }
            else if (drive.Bay is { } bay && plan.Bay(bay) is { Changes: true })
            {
                leaving.Add(drive);
            }
            else
            {
                kept.Add(new WantedDrive(drive.Drive, drive.Bay, false, drive));
            }
        }

        return ([.. kept], [.. leaving], [.. unsure]);
    }

    // A drive leaves it, and nobody knows which.
    private static bool Replaces(PlannedBay bay, IReadOnlyList<DriveReading> was) =>
        bay is { Changes: true, WasEmpty: false } && was.All(d => d.Bay != bay.Bay);

    private static IEnumerable<WantedDrive> New(Plan plan) =>
        plan
            .Bays.Where(b => b is { Use: BayUse.Fit, Wish: not null })
            .Select(b => new WantedDrive(b.Wish!.Drive, b.Bay, true, null));

    // A kept drive whose serial was read is that one or none; of a new one the plan may name another piece.
    private static bool MayBe(WantedDrive wanted, DriveReading drive) =>
        wanted.IsNew || SerialNumber.Same(wanted.Drive.Serial, drive.Drive.Serial) is null;

    private static bool SameKind(WantedDrive wanted, DriveReading drive) =>
        wanted.Drive.Size.IsSoldAs(drive.Drive.Size)
        && (wanted.IsNew || drive.Bay is null || wanted.Bay is null || drive.Bay == wanted.Bay);

    private static void Claim(WantedDrive[] wanted, List<DriveReading> pool, Func<WantedDrive, DriveReading, bool> isIt)
    {
        for (var i = 0; i < wanted.Length; i++)
        {
            if (wanted[i].Seen is null && pool.FirstOrDefault(d => isIt(wanted[i], d)) is { } drive)
            {
                wanted[i] = wanted[i] with { Seen = drive };
                pool.Remove(drive);
            }
        }
    }

    private static IReadOnlyList<DriveReading> Take(List<DriveReading> pool, Func<DriveReading, bool> isIt)
    {
        var taken = pool.Where(isIt).ToArray();
        pool.RemoveAll(taken.Contains);
        return taken;
    }

    private static DriveRow Row(
        string bay,
        Plan plan,
        IReadOnlyList<DriveReading> was,
        Reading after,
        IReadOnlyList<WantedDrive> wanted,
        IReadOnlyList<DriveReading> remained,
        IReadOnlyList<DriveReading> strangers
    )
    {
        var here = wanted.FirstOrDefault(w => w.Bay == bay);
        var sits = wanted.Select(w => w.Seen).Concat(remained).Concat(strangers).FirstOrDefault(d => d?.Bay == bay);

        // Where the place was not read, the drive that should be here and is in the machine is taken to be here.
        var seen = sits ?? (here?.Seen is { Bay: null } unplaced ? unplaced : null);
        var told = plan.Bay(bay) is not null || was.Any(d => d.Bay == bay);
        var match =
            !told || (!after.ListsDrives && !IsLookedAt(after, bay))
                ? SlotMatch.Unknown
                : (here, seen) switch
                {
                    (null, null) => SlotMatch.Same,
                    (null, _) => SlotMatch.Unplanned,
                    (_, null) => SlotMatch.Missing,
                    ({ } w, { } d) => w.Seen == d && w.Drive.Size.IsSoldAs(d.Drive.Size)
                        ? SlotMatch.Same
                        : SlotMatch.Different,
                };
        return new DriveRow(
            bay,
            was.FirstOrDefault(d => d.Bay == bay)?.Drive,
            here?.Drive,
            plan.Bay(bay)?.Use,
            seen,
            match
        );
    }
}
