using Revtal.Core.Hardware;

namespace Revtal.Core.Captures;

/// <summary>The drives that two sources tell of, as one list.</summary>
internal static class DriveJoin
{
    /// <summary>
    /// One source knows the bay, another the size, a third the health. The serial tells that it is one drive, or the
    /// system's name of it; else that nothing but one drive of this size can be meant.
    /// </summary>
    public static IReadOnlyList<DriveReading> Of(IReadOnlyList<DriveReading> a, IReadOnlyList<DriveReading> b)
    {
        var joined = a.ToList();
        foreach (var drive in b)
        {
            var at = Find(joined, drive, b);
            if (at < 0)
            {
                joined.Add(drive);
            }
            else
            {
                joined[at] = joined[at].With(drive);
            }
        }

        return joined;
    }

    private static int Find(List<DriveReading> joined, DriveReading drive, IReadOnlyList<DriveReading> others)
    {
        var known = joined.FindIndex(d =>
            SerialNumber.Same(d.Drive.Serial, drive.Drive.Serial) ?? (d.Device is not null && d.Device == drive.Device)
        );
        if (known >= 0 || drive.Drive.Size.Bytes == 0)
        {
            return known;
        }

        var alike = joined.Where(d => MayBeOne(d, drive)).ToArray();
        return alike is [var one] && others.Count(o => MayBeOne(one, o)) == 1 ? joined.IndexOf(one) : -1;
    }

    // Eyes see a bay and no name, a system a name and no bay.
    private static bool MayBeOne(DriveReading a, DriveReading b) =>
        (a.Bay is null) != (b.Bay is null)
        && (a.Device is null) != (b.Device is null)
        && SerialNumber.Same(a.Drive.Serial, b.Drive.Serial) is not false
        && a.Transport != "usb"
        && b.Transport != "usb"
        && a.Drive.Size.IsSoldAs(b.Drive.Size);
}
