using Revtal.Core.Captures;
using Revtal.Core.Hardware;

namespace Revtal.Demo;

/// <summary>Ten minutes of made-up work: a large file is opened, turned, and closed again.</summary>
internal static class DemoLoad
{
    private const int Every = 5,
        Samples = 121;

    /// <param name="most">Of memory in use at the peak, in GB.</param>
    /// <param name="paged">Moved out at the end, in GB.</param>
    public static LoadSeries Of(double most, double paged)
    {
        int[] at = [.. Enumerable.Range(0, Samples).Select(i => i * Every)];
        return new(
            at,
            [.. at.Select(s => (long?)(MemorySize.Gigabytes(1).Bytes * (2.4 + ((most - 2.4) * Work(s)) + Ripple(s))))],
            [.. at.Select(s => (long?)(MemorySize.Gigabytes(1).Bytes * paged * Math.Clamp((s - 120) / 200.0, 0, 1)))],
            [.. at.Select(s => (int?)Math.Clamp((int)(12 + (70 * Work(s)) + (90 * Ripple(s))), 0, 100))],
            [.. at.Select(s => (long?)((paged > 0 ? 60e6 : 4e6) * Work(s)))],
            [.. at.Select(s => (long?)(2e5 * Work(s)))]
        );
    }

    // Up in two minutes, at work for five, and back.
    private static double Work(int second) => Math.Clamp(Math.Min(second / 120.0, (560 - second) / 100.0), 0, 1);

    private static double Ripple(int second) => 0.12 * Math.Sin(second / 11.0);
}
