using System.Globalization;
using System.Text;

namespace Revtal.Core.Captures.Systems;

/// <summary>
/// What the collector's scripts write while they watch: the first line <c>revtal-load/1</c>, then a sample a line:
/// seconds, KiB in use, KiB moved out, processor in percent, KiB/s of the drives, KiB/s of the network; <c>-</c> for
/// what the system does not tell (docs/capture-format.md).
/// </summary>
public static class LoadLines
{
    /// <summary>The most samples that one series may hold: two hours, one every five seconds, and some.</summary>
    public const int MostSamples = 1500;

    private const int LongestText = 256 << 10,
        LongestSeconds = 86_400,
        Fields = 6;

    public static bool IsAt(ReadOnlySpan<byte> bytes) => bytes.StartsWith("revtal-load/1"u8);

    /// <exception cref="RefusedException">It is longer than the scripts write, a line is no sample, or time runs
    /// back.</exception>
    public static Reading Decode(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > LongestText)
        {
            throw TooLong();
        }

        var lines = Encoding
            .UTF8.GetString(bytes)
            .Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Skip(1)
            .ToArray();
        if (lines.Length > MostSamples)
        {
            throw TooLong();
        }

        var samples = lines.Select((l, i) => Sample(l, i + 2)).ToArray();
        for (var i = 1; i < samples.Length; i++)
        {
            if (samples[i][0] <= samples[i - 1][0])
            {
                throw Broken(i + 2, "its time is not after the one before");
            }
        }

        return samples.Length == 0
            ? throw Broken(2, "there is no sample")
            : Reading.Nothing with
            {
                Load = new LoadSeries(
                    [.. samples.Select(s => (int)s[0]!.Value)],
                    [.. samples.Select(s => s[1] << 10)],
                    [.. samples.Select(s => s[2] << 10)],
                    [.. samples.Select(s => (int?)s[3])],
                    [.. samples.Select(s => s[4] << 10)],
                    [.. samples.Select(s => s[5] << 10)]
                ),
            };
    }

    private static long?[] Sample(string line, int number)
    {
        var fields = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (fields.Length != Fields)
        {
            throw Broken(number, $"it has {fields.Length} fields, not {Fields}");
        }

        long?[] values =
        [
            .. fields.Select(f =>
                f == "-" ? null as long?
                : long.TryParse(f, NumberStyles.None, CultureInfo.InvariantCulture, out var v) && v < 1L << 43 ? v
                : throw Broken(number, $"“{Words.Plain(f)}” is no number")
            ),
        ];
        return values[0] is null or > LongestSeconds ? throw Broken(number, "its time cannot be")
            : values[3] > 100 ? throw Broken(number, "a processor does no more than 100 %")
            : values;
    }

    private static RefusedException Broken(int line, string why) =>
        RefusedException.Invalid("load-unreadable", $"Line {line} of the load series: {why}. Watch again.");

    private static RefusedException TooLong() =>
        RefusedException.Invalid(
            "load-too-long",
            $"The load series has more than {MostSamples} samples. Watch for two hours at most."
        );
}
