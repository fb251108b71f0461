using System.Globalization;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>One drive in one bay. What is unknown of either is not held against it.</summary>
internal static class DriveFit
{
    private const string FromGuide = "guide",
        Reading = "before reading";

    /// <param name="over">The drive whose data it takes over; null where none is.</param>
    public static IEnumerable<FitNote> Of(DriveBay bay, DriveWish wish, DriveReading? over)
    {
        var drive = wish.Drive;
        FitNote?[] notes =
        [
            Size(bay, drive),
            Form(bay, drive),
            Key(bay, drive),
            Link(bay, drive),
            Stack(bay, wish),
            Room(bay, wish, over),
            Sectors(bay, wish, over),
        ];
        return notes.OfType<FitNote>();
    }

    private static FitNote? Size(DriveBay bay, Drive drive) =>
        drive.Size.Bytes is < 1_000_000_000 or > 1_000_000_000_000_000
            ? No(
                bay,
                "drive-size-impossible",
                $"A drive of {drive.Size} is not sold. Write its size as on the label, like “1 TB”.",
                "1 GB to 1000 TB",
                $"{drive.Size}"
            )
            : null;

    private static FitNote? Form(DriveBay bay, Drive drive)
    {
        if (bay.Form is not { } wanted)
        {
            return Remark(
                bay,
                "drive-form-unknown",
                $"Not known of this model: which form of drive {bay.Id} takes. Look before it is bought.",
                "not known",
                $"{drive.Form}"
            );
        }

        if (drive.Form is not { } form || SameForm(form, wanted))
        {
            return null;
        }

        var (takes, has) = (Length(wanted), Length(form));
        if (takes is null != has is null)
        {
            return No(bay, "wrong-drive-form", $"{bay.Id} takes {wanted}; this drive is {form}.", wanted, form);
        }

        if (takes is { } post && has is { } length)
        {
            return length > post
                ? No(
                    bay,
                    "drive-too-long",
                    $"{bay.Id} has room for {post} mm; this drive is {length} mm long.",
                    $"{post} mm",
                    $"{length} mm"
                )
                : Remark(
                    bay,
                    "drive-shorter",
                    $"This drive is {length} mm long, the post of {bay.Id} stands at {post} "
                        + $"mm{Phrases.When(bay.Standoff, s => $" ({s})")}: it wants a post at {length} mm.",
                    $"{post} mm",
                    $"{length} mm"
                );
        }

        return Inches(form) < Inches(wanted)
            ? Remark(
                bay,
                "drive-narrower",
                $"{bay.Id} takes {wanted}; a drive of {form} wants an adapter frame.",
                wanted,
                form
            )
            : No(bay, "wrong-drive-form", $"{bay.Id} takes {wanted}; this drive is {form}.", wanted, form);
    }

    // A B+M edge has both gaps and goes into either.
    private static FitNote? Key(DriveBay bay, Drive drive) =>
        bay.Key is { } key && drive.Key is { } has && !has.Split('+').Contains(key, StringComparer.OrdinalIgnoreCase)
            ? No(
                bay,
                "wrong-key",
                $"{bay.Id} has key {key}; this drive has key {has}. The gap in its contacts does not meet.",
                $"key {key}",
                $"key {has}",
                "PCI Express M.2 Specification"
            )
            : null;

    private static FitNote? Link(DriveBay bay, Drive drive)
    {
        if (!DriveLink.TryParse(bay.Link, out var slot) || !DriveLink.TryParse(drive.Link, out var speaks))
        {
            return null;
        }

        if (DriveLink.Common(speaks, slot) is not { } common)
        {
            return No(
                bay,
                "wrong-link",
                $"{bay.Id} speaks {slot}; this drive speaks {speaks}. The machine would not see it.",
                $"{slot}",
                $"{speaks}"
            );
        }

        return common.MegabytesPerSecond < speaks.MegabytesPerSecond
            ? Remark(
                bay,
                "slower-link",
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"This drive speaks {speaks}, {bay.Id} {slot}: it will reach {common.MegabytesPerSecond:N0} MB/s "
                        + $"of {speaks.MegabytesPerSecond:N0}."
                ),
                $"{slot}",
                $"{speaks}"
            )
            : null;
    }

    // Drive and pad together must go under the latch or the cover.
    private static FitNote? Stack(DriveBay bay, DriveWish wish)
    {
        if (wish.Drive.Height is { } height && bay.Height is { } most && height > most)
        {
            return No(
                bay,
                "drive-too-high",
                $"{bay.Id} has room for {Mm(most)}; this drive is {Mm(height)} high.",
                Mm(most),
                Mm(height)
            );
        }

        if (wish.Pad is not { } pad || bay.Pad is not { } right)
        {
            return null;
        }

        // What a lower drive leaves may go to its pad.
        var room = right + ((bay.Height - wish.Drive.Height) ?? 0);
        return pad > room
                ? No(
                    bay,
                    "pad-too-thick",
                    $"A pad of {Mm(pad)} is too thick for {bay.Id}: the cover or the latch would press on the drive. "
                        + $"{Mm(room)} at most.",
                    Mm(room),
                    Mm(pad)
                )
            : pad < right
                ? Remark(
                    bay,
                    "pad-too-thin",
                    $"A pad of {Mm(pad)} is thinner than the {Mm(right)} of {bay.Id}: the drive would run hot.",
                    Mm(right),
                    Mm(pad)
                )
            : null;
    }

    private static FitNote? Room(DriveBay bay, DriveWish wish, DriveReading? over) =>
        wish.Path == DataPath.CopyFirst && over?.UsedBytes is { } used && wish.Drive.Size.Bytes < used
            ? No(
                bay,
                "drive-too-small",
                $"{new DriveSize(used)} are in use on the old drive; this one holds {wish.Drive.Size}.",
                $"{new DriveSize(used)} used",
                $"{wish.Drive.Size}",
                Reading
            )
            : null;

    private static FitNote? Sectors(DriveBay bay, DriveWish wish, DriveReading? over) =>
        wish.Path == DataPath.CopyFirst
        && over?.Drive.SectorSize is { } old
        && wish.Drive.SectorSize is { } now
        && old != now
            ? Remark(
                bay,
                "sector-size",
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The old drive shows sectors of {old} bytes, this one {now}: copy by file system, not sector by "
                        + $"sector."
                ),
                $"{old} bytes",
                $"{now} bytes",
                Reading
            )
            : null;

    private static string Mm(decimal mm) => string.Create(CultureInfo.InvariantCulture, $"{mm} mm");

    // “2.5 in SATA” of a bay and “2.5 in” of a drive are one form.
    private static bool SameForm(string drive, string bay) =>
        bay.StartsWith(drive, StringComparison.OrdinalIgnoreCase)
        || drive.StartsWith(bay, StringComparison.OrdinalIgnoreCase);

    // M.2 names width and length in mm: 2280 is 22 by 80.
    private static int? Length(string form) =>
        form.StartsWith("M.2 22", StringComparison.OrdinalIgnoreCase)
        && int.TryParse(form.AsSpan(6).Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var length)
            ? length
            : null;

    private static decimal Inches(string form) =>
        decimal.TryParse(
            form.Split(' ')[0],
            NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var inches
        )
            ? inches
            : 0;

    private static FitNote No(
        DriveBay bay,
        string code,
        string sentence,
        string takes,
        string has,
        string source = FromGuide
    ) => new(code, FitWeight.Refusal, bay.Id, sentence, takes, has, source);

    private static FitNote Remark(
        DriveBay bay,
        string code,
        string sentence,
        string takes,
        string has,
        string source = FromGuide
    ) => new(code, FitWeight.Remark, bay.Id, sentence, takes, has, source);
}
