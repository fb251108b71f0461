using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>In which bay each drive of a reading sits, as far as that is sure.</summary>
public static class DrivePlaces
{
    /// <summary>
    /// The drives inside the machine, with the bay where one is known: somebody saw it there, the guide names the path
    /// that the system links it by, the path or the serial was told of a bay before, or no other bay is left for it.
    /// </summary>
    /// <param name="paths">Bays by the path of what sat there in another reading of this machine.</param>
    /// <param name="serials">Serials by bay, as the run wrote them down.</param>
    public static IReadOnlyList<DriveReading> Of(
        Guide guide,
        Reading reading,
        IReadOnlyDictionary<string, string>? paths = null,
        IReadOnlyDictionary<string, string>? serials = null
    )
    {
        var inside = reading
            .Drives.Where(d => d.Transport != "usb")
            .Select(d => d with { Bay = d.Bay ?? ByPath(guide, d.Path, paths) ?? ByRecord(d.Drive.Serial, serials) })
            .ToArray();
        return reading.ListsDrives ? OnlyPossible(guide, inside, reading.EmptyBays) : inside;
    }

    /// <summary>Bays by path, of drives whose bay is known.</summary>
    public static IReadOnlyDictionary<string, string> Paths(IReadOnlyList<DriveReading> placed) =>
        placed
            .Where(d => d is { Bay: not null, Path: not null })
            .DistinctBy(d => d.Path)
            .ToDictionary(d => d.Path!, d => d.Bay!);

    // The guide names the end of a path: where its controller sits in the machine may change with a card.
    private static string? ByPath(Guide guide, string? path, IReadOnlyDictionary<string, string>? paths) =>
        path is null ? null
        : paths?.GetValueOrDefault(path) is { } known ? known
        : guide
            .Drives.FirstOrDefault(b => b.Path is { } end && $"-{path}".EndsWith($"-{end}", StringComparison.Ordinal))
            ?.Id;

    private static string? ByRecord(string? serial, IReadOnlyDictionary<string, string>? serials) =>
        serials?.FirstOrDefault(s => SerialNumber.Same(s.Value, serial) is true).Key;

    private static IReadOnlyList<DriveReading> OnlyPossible(
        Guide guide,
        IReadOnlyList<DriveReading> drives,
        IReadOnlyList<string> empty
    )
    {
        var free = guide.Drives.Where(b => drives.All(d => d.Bay != b.Id) && !empty.Contains(b.Id)).ToArray();
        var open = drives.Where(d => d.Bay is null).ToArray();
        return
        [
            .. drives.Select(d =>
                d.Bay is null
                && free.Where(b => MaySit(d, b)).ToArray() is [var only]
                && open.Count(o => MaySit(o, only)) == 1
                    ? d with
                    {
                        Bay = only.Id,
                    }
                    : d
            ),
        ];
    }

    private static bool MaySit(DriveReading drive, DriveBay bay) =>
        drive.Transport switch
        {
            "nvme" => bay.Link?.StartsWith("SATA", StringComparison.Ordinal) != true,
            "sata" or "ata" => bay.Link?.StartsWith("PCIe", StringComparison.Ordinal) != true,
            _ => true,
        };
}
