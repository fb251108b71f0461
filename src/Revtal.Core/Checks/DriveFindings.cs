using System.Globalization;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>What the drives say after the work.</summary>
internal static class DriveFindings
{
    // A drive out of its box was switched on at the factory, and hardly written to.
    private const int NewHours = 100,
        NewWearPercent = 3,
        WornPercent = 80;

    // A start region and the file system's own lists take a few percent.
    private const int SparePercent = 10;

    public static IEnumerable<Finding> Of(CheckFacts f) =>
        f.After.Drives.Count == 0 && f.After.EmptyBays.Count == 0
            ? NotRead(f)
            : [.. DriveSetFindings.Of(f), .. f.Drives.Rows.SelectMany(row => OfBay(f, row)), .. BootsOld(f)];

    private static IEnumerable<Finding> OfBay(CheckFacts f, DriveRow row)
    {
        if (row is not { After: { } seen, Planned: { } planned } || row.Match is SlotMatch.Unknown)
        {
            yield break;
        }

        var isNew = row.Use == BayUse.Fit;
        if (isNew && seen.Initialised == false)
        {
            var setup = f.Plan.Bay(row.Bay)?.Wish?.Setup;
            yield return f.Finding(
                "drive-raw",
                Severity.Remark,
                $"{seen.Drive.Size} in {row.Bay} is listed, but raw.",
                "no partition table",
                setup is null ? "ready for use" : Say(setup),
                ["It was not initialised yet.", "The copy did not reach it."],
                new NextAction(
                    ActionKind.SetUp,
                    $"Initialise {row.Bay}: {Say(setup ?? new DriveSetup(true))}.",
                    [row.Bay]
                )
            );
        }
        else if (isNew && seen.SpareBytes is { } spare && spare > seen.Drive.Size.Bytes / 100 * SparePercent)
        {
            yield return f.Finding(
                "drive-space-unused",
                Severity.Remark,
                $"{new DriveSize(spare)} of {seen.Drive.Size} in {row.Bay} not in use.",
                $"{new DriveSize(spare)} outside the file system",
                "the whole drive",
                ["The copy kept the old drive's size.", "The partition was made too small."],
                new NextAction(ActionKind.SetUp, $"Grow the file system of {row.Bay} to the full size.", [row.Bay])
            );
        }

        if (isNew && seen.Initialised != false && f.Plan.Bay(row.Bay)?.Wish?.Setup is { } sold)
        {
            foreach (var unlike in NotAsSold(f, row.Bay, sold, seen))
            {
                yield return unlike;
            }
        }

        if (Slower(f.Guide.Bay(row.Bay)!, planned, seen) is var (now, could))
        {
            yield return f.Finding(
                "link-slower",
                Severity.Remark,
                $"{row.Bay} runs at {now}, not {could}.",
                $"{now}",
                $"{could}",
                now.Lanes < could.Lanes
                    ?
                    [
                        "A contact of the drive is not made: not fully seated, or dust.",
                        "The bay shares its lanes with another one in use.",
                        "The firmware gives the bay fewer lanes.",
                    ]
                    :
                    [
                        "The firmware holds the bay at an older generation.",
                        "A cable or riser is of an older generation.",
                        "The drive is not fully seated.",
                    ],
                f.Reseat([row.Bay])
            );
        }

        if (Poor(seen.Health, isNew) is { } state)
        {
            yield return isNew
                ? f.Finding(
                    "drive-poor",
                    Severity.Short,
                    $"The new drive in {row.Bay} is not in good health: {state}.",
                    state,
                    "a drive without wear or errors",
                    ["A used drive came as new.", "The drive is faulty."],
                    Compare(row.Bay)
                )
                : f.Finding(
                    "drive-failing",
                    Severity.Remark,
                    $"The drive in {row.Bay} reports trouble: {state}.",
                    state,
                    "no errors",
                    ["The drive wears out.", "A cable makes errors on the way."],
                    new NextAction(
                        ActionKind.Compare,
                        $"Copy the data of {row.Bay} before anything else; offer another drive.",
                        [row.Bay]
                    )
                );
        }

        if (isNew && row.Match == SlotMatch.Same)
        {
            yield return f.Finding(
                "drive-size-explained",
                Severity.Note,
                $"{row.Bay} has its full {seen.Drive.Size}; systems that count in binary show "
                    + $"{Math.Round(seen.Drive.Size.Bytes / (decimal)(1L << 30)):0} GiB of it.",
                seen.Drive.Size.WithBinary,
                $"{planned.Size.WithBinary}",
                ["Drives are sold by powers of ten, systems count by powers of two."],
                CheckFacts.Nothing
            );
        }
    }

    // What the reading hides is not said to differ.
    private static IEnumerable<Finding> NotAsSold(CheckFacts f, string bay, DriveSetup sold, DriveReading seen)
    {
        if (
            sold.Label is { } label
            && seen.Labels is { } labels
            && !labels.Any(l =>
                l is DriveReading.HiddenLabel || string.Equals(l, label, StringComparison.OrdinalIgnoreCase)
            )
        )
        {
            yield return f.Finding(
                "drive-unlabelled",
                Severity.Remark,
                labels.Count == 0
                    ? $"The file system in {bay} has no label; “{label}” was planned."
                    : $"The file system in {bay} is labelled “{labels[0]}”, not “{label}”.",
                labels.Count == 0 ? "no label" : string.Join(", ", labels),
                label,
                ["It was not labelled yet.", "A copy brought its old label along."],
                new NextAction(ActionKind.SetUp, $"Label the file system in {bay} “{label}”.", [bay])
            );
        }

        if (
            sold.Mount is { } mount
            && seen.Mounts is { } mounts
            && !mounts.Any(m => m is DriveReading.HiddenMount || IsPlace(m, mount))
        )
        {
            yield return f.Finding(
                "drive-not-mounted",
                Severity.Remark,
                mounts.Count == 0
                    ? $"The drive in {bay} is not mounted; {mount} was planned."
                    : $"The drive in {bay} is mounted as {mounts[0]}, not as {mount}.",
                mounts.Count == 0 ? "not mounted" : string.Join(", ", mounts),
                mount,
                ["It was not mounted yet.", "It does not come back after a restart."],
                new NextAction(ActionKind.SetUp, $"Mount {bay} as {mount}, and start again.", [bay])
            );
        }
    }

    // “D”, “D:” and “D:\” are one place, and so are /srv and /srv/.
    private static bool IsPlace(string seen, string planned) =>
        string.Equals(
            seen.TrimEnd('/', '\\', ':'),
            planned.TrimEnd('/', '\\', ':'),
            StringComparison.OrdinalIgnoreCase
        );

    private static (DriveLink Now, DriveLink Could)? Slower(DriveBay bay, Drive planned, DriveReading seen) =>
        seen.Health?.LinkNow is { } text
        && DriveLink.TryParse(text, out var now)
        && (
            DriveLink.TryParse(seen.Health.LinkMost ?? planned.Link, out var drive)
            || DriveLink.TryParse(planned.Link, out drive)
        )
        && (DriveLink.TryParse(bay.Link, out var link) ? DriveLink.Common(drive, link) : drive) is { } could
        && now.MegabytesPerSecond < could.MegabytesPerSecond
            ? (now, could)
            : null;

    private static string? Poor(DriveHealth? h, bool isNew)
    {
        if (h is null)
        {
            return null;
        }

        var signs = new[]
        {
            h.Passed == false ? "its own test fails" : null,
            h.Reallocated is > 0 and var moved ? Count(moved, "sector replaced", "sectors replaced") : null,
            h.Pending is > 0 and var pending
                ? Count(pending, "sector waits to be replaced", "sectors wait to be replaced")
                : null,
            h.Errors is > 0 and var errors ? Count(errors, "error", "errors") : null,
            h.WearPercent >= (isNew ? NewWearPercent : WornPercent)
                ? string.Create(CultureInfo.InvariantCulture, $"{h.WearPercent} % worn")
                : null,
            isNew && h.Hours > NewHours ? string.Create(CultureInfo.InvariantCulture, $"{h.Hours} hours on") : null,
        };
        var text = string.Join(", ", signs.OfType<string>());
        return text.Length > 0 ? text : null;
    }

    private static string Count(int n, string one, string many) =>
        string.Create(CultureInfo.InvariantCulture, $"{n} {(n == 1 ? one : many)}");

    private static IEnumerable<Finding> BootsOld(CheckFacts f)
    {
        var fitted =
            f.Drives.Rows.FirstOrDefault(r => f.Plan.Bay(r.Bay) is { StartsHere: true })
            ?? f.Drives.Rows.FirstOrDefault(r =>
                r.Use is BayUse.Fit or BayUse.Move && f.Guide.Bay(r.Bay)?.Boots == true
            );
        if (
            fitted?.After is { Boots: not true }
            && f.After.Drives.FirstOrDefault(d => d.Boots == true && d != fitted.After) is { } other
        )
        {
            yield return f.Finding(
                "boots-old",
                Severity.Short,
                $"It still starts from another drive: {other.Drive} {other.Device}".TrimEnd() + ".",
                $"{other.Drive} {other.Drive.Serial}".TrimEnd(),
                $"the drive in {fitted.Bay}",
                ["The firmware's start order names the old drive.", "The copy lacks its start region."],
                new NextAction(
                    ActionKind.Setting,
                    "Set the start order to the drive in "
                        + $"{fitted.Bay}{Phrases.When(f.Guide.Firmware, fw => $" ({fw.Enter})")}.",
                    [fitted.Bay]
                )
            );
        }
    }

    private static string Say(DriveSetup setup) =>
        string.Join(
            ", ",
            new[]
            {
                setup.Initialise || setup.Partition is not null ? setup.Partition ?? "a partition table" : null,
                setup.FileSystem,
                setup.Label is { } label ? $"label {label}" : null,
                setup.Mount is { } mount ? $"mounted as {mount}" : null,
                setup.Grow ? "grown to full size" : null,
            }
                .OfType<string>()
                .DefaultIfEmpty("a partition table and a file system")
        );

    internal static NextAction Compare(string bay) =>
        new(ActionKind.Compare, $"Compare the label of the drive in {bay} with the plan.", [bay]);

    // Where the plan touches no drive it is only said that none was compared.
    private static IEnumerable<Finding> NotRead(CheckFacts f)
    {
        var changed = f.Plan.Bays.Where(b => b.Changes).Select(b => b.Bay).ToArray();
        if (changed.Length == 0 && f.Before.Drives.Count == 0)
        {
            yield break;
        }

        yield return f.Finding(
            "drives-not-read",
            changed.Length > 0 ? Severity.Remark : Severity.Note,
            "No drive was read after the work.",
            "no drives",
            string.Join(", ", changed.Length > 0 ? changed : f.Before.Drives.Select(d => d.Drive.ToString())),
            ["The capture lacks the list of drives."],
            new NextAction(ActionKind.ReadAgain, "Take the after reading again, with the drives.", [])
        );
    }
}
