using Revtal.Core.Captures;

namespace Revtal.Core.Checks;

/// <summary>How loaded a machine was when it was read.</summary>
/// <param name="InUseShare">Of what the system may use, in percent; what was moved out counts, so it may exceed
/// 100.</param>
/// <param name="StorageFreeBytes">On all drives whose file systems tell.</param>
/// <param name="UpMinutes">Since the system started.</param>
public sealed record LoadReading(
    long? InUseBytes,
    decimal? InUseShare,
    long? PagedOutBytes,
    long? StorageFreeBytes,
    long? UpMinutes
)
{
    /// <summary>Null where the reading tells none of it.</summary>
    public static LoadReading? Of(Reading reading)
    {
        var m = reading.Memory;
        var told = reading.Drives.Where(d => d.UsedBytes is not null).ToArray();
        var load = new LoadReading(
            m.InUseBytes,
            m is { InUseBytes: { } used, UsableBytes: > 0 and { } usable } ? Math.Round(100m * used / usable, 1) : null,
            m.PagedOutBytes,
            told.Length > 0 ? told.Sum(d => Math.Max(0, d.Drive.Size.Bytes - d.UsedBytes!.Value)) : null,
            reading.Host?.UpSeconds / 60
        );
        return load is { InUseBytes: null, PagedOutBytes: null, StorageFreeBytes: null } ? null : load;
    }
}

/// <summary>Load before and after.</summary>
/// <param name="Unlike">Why the two should not be compared; null when they were taken at like conditions, as far as is
/// known.</param>
public sealed record LoadChange(LoadReading? Before, LoadReading? After, string? Unlike)
{
    private const int SettledMinutes = 10;

    /// <summary>Null where one of the two has no load.</summary>
    public static LoadChange? Of(Reading? before, Reading? after)
    {
        var (was, now) = (before is null ? null : LoadReading.Of(before), after is null ? null : LoadReading.Of(after));
        return was is null && now is null
            ? null
            : new LoadChange(
                was,
                now,
                was is { UpMinutes: { } a } && now is { UpMinutes: { } b } && a < SettledMinutes != b < SettledMinutes
                    ? $"One was read {Math.Min(a, b)} min after the start, the other after {Math.Max(a, b)} min: read "
                        + "again when it has settled."
                    : null
            );
    }
}
