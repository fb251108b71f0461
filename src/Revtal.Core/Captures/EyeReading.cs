using Revtal.Core.Hardware;

namespace Revtal.Core.Captures;

/// <summary>What a technician sees in one slot.</summary>
/// <param name="Module">Null when the slot is empty.</param>
public sealed record SeenSlot(string Slot, MemoryModule? Module, int? RunningSpeed = null);

/// <summary>What a technician sees of the drive in one bay.</summary>
/// <param name="Used">What is stored on it.</param>
/// <param name="Drive">Null when the bay is empty.</param>
public sealed record SeenDrive(string Bay, Drive? Drive, DriveSize? Used = null);

/// <summary>A reading by eye: as good as any other, and it says that it is one.</summary>
public static class EyeReading
{
    /// <param name="firmwareShows">What the firmware's setup shows.</param>
    /// <param name="systemShows">What the operating system shows.</param>
    /// <param name="slots">What sits in the slots that were looked at, by the guide's slot ids.</param>
    /// <param name="serial">The machine's serial, from its label.</param>
    /// <param name="drives">What sits in the bays that were looked at.</param>
    /// <exception cref="RefusedException">Nothing was seen at all, a slot stands twice, or a size or speed is out of
    /// range.</exception>
    public static Reading Make(
        MemorySize? firmwareShows,
        MemorySize? systemShows,
        IReadOnlyList<SeenSlot> slots,
        string? serial,
        IReadOnlyList<SeenDrive>? drives = null
    )
    {
        if (firmwareShows is null && systemShows is null && slots.Count == 0 && drives is not { Count: > 0 })
        {
            throw RefusedException.Invalid(
                "reading-empty",
                "The reading says nothing. Give what the firmware shows, what the system shows, or what sits in the "
                    + "slots."
            );
        }

        if (slots.DistinctBy(s => s.Slot).Count() < slots.Count)
        {
            throw RefusedException.Invalid("slot-seen-twice", "A slot stands twice in the reading.");
        }

        foreach (var seen in drives ?? [])
        {
            if (
                drives!.Count(d => d.Bay == seen.Bay) > 1
                || seen.Drive?.Size.Bytes == 0
                || (seen.Used is { } used && !(used <= seen.Drive?.Size))
            )
            {
                throw RefusedException.Invalid(
                    "drive-impossible",
                    $"The drive in {seen.Bay} stands once, holds more than nothing, and stores no more than it holds."
                );
            }
        }

        if (
            slots.Any(s =>
                s.RunningSpeed is < 1 or > 100_000
                || s.Module?.RatedSpeed is < 1 or > 100_000
                || s.Module?.Size == MemorySize.Zero
            )
        )
        {
            throw RefusedException.Invalid(
                "value-impossible",
                "A module's size is more than zero, and a speed is from 1 to 100000 MT/s."
            );
        }

        return new Reading(
            [Source.Eyes],
            new SystemIdentity(null, null, serial),
            FirmwareIdentity.Unknown,
            new MemoryReading(firmwareShows?.Bytes, systemShows?.Bytes, null, null, [.. slots.Select(Slot)]),
            null,
            [
                .. (drives ?? [])
                    .Where(d => d.Drive is not null)
                    .Select(d => new DriveReading(d.Bay, d.Drive!, d.Used?.Bytes)),
            ],
            EmptyBays: [.. (drives ?? []).Where(d => d.Drive is null).Select(d => d.Bay)]
        );
    }

    private static SlotReading Slot(SeenSlot seen) =>
        seen.Module is { } m
            ? new SlotReading(
                seen.Slot,
                null,
                m.Size.Bytes,
                m.Form,
                m.Generation,
                m.RatedSpeed,
                seen.RunningSpeed,
                m.Maker,
                m.Serial,
                m.PartNumber?.ToString()
            )
            : new SlotReading(seen.Slot, null, 0);
}
