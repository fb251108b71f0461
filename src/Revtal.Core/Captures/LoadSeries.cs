namespace Revtal.Core.Captures;

/// <summary>
/// What a machine had to do over some minutes: one value a sample in each list, null where it was not told.
/// </summary>
/// <param name="Seconds">When each sample was taken, from the first; ascending.</param>
/// <param name="InUseBytes">Memory in use, in bytes; what was moved out not counted.</param>
/// <param name="PagedOutBytes">What had been moved out of memory, in bytes.</param>
/// <param name="CpuPercent">Of all processors together, 0 to 100, since the sample before.</param>
/// <param name="DiskBytes">Read and written, in bytes a second, since the sample before.</param>
/// <param name="NetBytes">Received and sent, in bytes a second, since the sample before.</param>
public sealed record LoadSeries(
    IReadOnlyList<int> Seconds,
    IReadOnlyList<long?> InUseBytes,
    IReadOnlyList<long?> PagedOutBytes,
    IReadOnlyList<int?> CpuPercent,
    IReadOnlyList<long?> DiskBytes,
    IReadOnlyList<long?> NetBytes
)
{
    /// <summary>What it says in figures.</summary>
    public LoadPeaks Peaks =>
        new(
            (Seconds.Count == 0 ? 0 : Seconds[^1] + 59) / 60,
            InUseBytes.Max(),
            PagedOutBytes.Max(),
            InUseBytes.Zip(PagedOutBytes, (used, paged) => used + (paged ?? 0)).Max(),
            CpuPercent.Max(),
            DiskBytes.Max(),
            NetBytes.Max()
        );
}

/// <summary>The highest of each figure over some minutes; null where it was not told.</summary>
/// <param name="Minutes">Begun ones count.</param>
/// <param name="WantedBytes">Of memory: in use and moved out together, at one time.</param>
public sealed record LoadPeaks(
    int Minutes,
    long? InUseBytes,
    long? PagedOutBytes,
    long? WantedBytes,
    int? CpuPercent,
    long? DiskBytes,
    long? NetBytes
);
