using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>
/// Lays the drives that a reading lists onto the bays of the plan. Few sources know bays: serial, then name and size
/// tell which drive it is.
/// </summary>
internal static class DriveMatching
{
    // What is sold as one size differs by less than this.
    private const int SameSizePercent = 2;

    public static IReadOnlyList<DriveRow> Of(Guide guide, Reading before, Plan plan, Reading after)
    {
        var left = after.Drives.Where(d => d.Transport != "usb").ToList();
        var wanted = guide
            .Drives.Select(bay => (Bay: bay.Id, Was: Was(bay.Id), Use: plan.Bay(bay.Id), Planned: Planned(bay.Id)))
            .ToArray();
        var found = new DriveReading?[wanted.Length];
        // The surest sign of all bays first, so that a guess never takes what another one knows.
        foreach (
            var same in new Func<DriveReading, string, Drive, bool>[]
            {
                (d, _, p) =>
                    p.Serial is { } serial && string.Equals(d.Drive.Serial, serial, StringComparison.OrdinalIgnoreCase),
                (d, bay, _) => d.Bay == bay,
                (d, _, p) =>
                    d.Bay is null
                    && p.PartNumber is not null
                    && d.Drive.PartNumber == p.PartNumber
                    && SameSize(d.Drive.Size, p.Size)
                    && Agrees(d.Drive, p),
                (d, _, p) => d.Bay is null && SameSize(d.Drive.Size, p.Size) && Agrees(d.Drive, p),
            }
        )
        {
            for (var i = 0; i < wanted.Length; i++)
            {
                if (
                    found[i] is null
                    && wanted[i].Planned is { } planned
                    && left.FirstOrDefault(d => same(d, wanted[i].Bay, planned)) is { } drive
                )
                {
                    found[i] = drive;
                    left.Remove(drive);
                }
            }
        }

        // What stays over sits where a drive should be and none was found, or where none should be.
        for (var i = 0; i < wanted.Length; i++)
        {
            if (
                found[i] is null
                && left.FirstOrDefault(d =>
                    d.Bay == wanted[i].Bay || (d.Bay is null && wanted[i].Use is { Use: BayUse.Fit })
                )
                    is { } drive
            )
            {
                found[i] = drive;
                left.Remove(drive);
            }
        }

        return
        [
            .. wanted.Select(
                (w, i) =>
                    new DriveRow(
                        w.Bay,
                        w.Was,
                        w.Planned,
                        w.Use?.Use,
                        found[i],
                        Match(after, w.Planned, w.Use is not null || w.Was is not null, found[i])
                    )
            ),
        ];

        Drive? Was(string bay) => before.Drives.FirstOrDefault(d => d.Bay == bay)?.Drive;

        Drive? Planned(string bay) =>
            plan.Bay(bay) switch
            {
                { Use: BayUse.Fit, Wish: { } wish } => wish.Drive,
                { Use: BayUse.Move, From: { } from } => Was(from),
                { Use: BayUse.Empty } => null,
                _ => Was(bay),
            };
    }

    public static bool SameSize(DriveSize a, DriveSize b) =>
        Math.Abs(a.Bytes - b.Bytes) <= Math.Max(a.Bytes, b.Bytes) / 100 * SameSizePercent;

    // A serial that differs is another drive, whatever its size.
    private static bool Agrees(Drive a, Drive b) =>
        a.Serial is null || b.Serial is null || string.Equals(a.Serial, b.Serial, StringComparison.OrdinalIgnoreCase);

    private static SlotMatch Match(Reading after, Drive? planned, bool told, DriveReading? found) =>
        (planned, found) switch
        {
            _ when after.Drives.Count == 0 || !told => SlotMatch.Unknown,
            (null, null) => SlotMatch.Same,
            (null, _) => SlotMatch.Unplanned,
            (_, null) => SlotMatch.Missing,
            ({ } p, { } d) => SameSize(p.Size, d.Drive.Size) && Agrees(p, d.Drive)
                ? SlotMatch.Same
                : SlotMatch.Different,
        };
}
