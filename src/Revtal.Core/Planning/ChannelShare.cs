using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>How capacity spreads over the channels.</summary>
public enum ChannelBalance
{
    /// <summary>Too little is known to say.</summary>
    Unknown,

    /// <summary>One channel holds it all.</summary>
    SingleChannel,

    /// <summary>More than one channel, not alike: part of it interleaves.</summary>
    Uneven,

    /// <summary>Every channel holds the same: all of it interleaves.</summary>
    Equal,
}

/// <summary>Balances as they are said.</summary>
public static class ChannelWords
{
    /// <summary>“equal on all channels”, “24 GB of 32 GB interleaved”, “one channel only”.</summary>
    public static string Spoken(this ChannelBalance balance, long interleaved, MemorySize? installed) =>
        balance switch
        {
            ChannelBalance.Equal => "equal on all channels",
            ChannelBalance.Uneven when installed is { } all => $"{new MemorySize(interleaved)} of {all} interleaved",
            ChannelBalance.Uneven => $"{new MemorySize(interleaved)} interleaved",
            ChannelBalance.SingleChannel => "one channel only",
            _ => "unknown",
        };
}

/// <summary>What one channel holds.</summary>
public sealed record ChannelLoad(string Channel, long Bytes);

/// <summary>How the capacity spreads over the channels.</summary>
/// <param name="Bandwidth">From 0 to 1: memory is cut into regions from the bottom up, each interleaved over the
/// channels that reach so far; the sum of bytes × ways over all bytes × channels. Two of four channels are one
/// half.</param>
/// <param name="Interleaved">What at least two channels reach together, in bytes: all but what the fullest has above
/// the next.</param>
/// <param name="Shared">What each pair of channels holds alike, summed over all pairs, in bytes: the more channels and
/// the more alike, the more.</param>
public sealed record ChannelShare(
    ChannelBalance Balance,
    long Interleaved,
    long Shared,
    double Bandwidth,
    IReadOnlyList<ChannelLoad> Loads
)
{
    /// <param name="slots">Each slot's channel and what it holds, in bytes; slots without a channel do not
    /// count.</param>
    public static ChannelShare Of(IEnumerable<(string? Channel, long Bytes)> slots)
    {
        var loads = slots
            .Where(s => s.Channel is not null)
            .GroupBy(s => s.Channel!, s => s.Bytes)
            .Select(g => new ChannelLoad(g.Key, g.Sum()))
            .ToArray();
        var sorted = loads.Select(l => l.Bytes).Order().ToArray();
        var filled = sorted.Count(b => b > 0);
        if (filled == 0)
        {
            return new ChannelShare(ChannelBalance.Unknown, 0, 0, 0, loads);
        }

        var balance =
            filled == 1 ? ChannelBalance.SingleChannel
            : sorted[0] == sorted[^1] ? ChannelBalance.Equal
            : ChannelBalance.Uneven;
        return new ChannelShare(
            balance,
            filled > 1 ? sorted.Sum() - (sorted[^1] - sorted[^2]) : 0,
            PairSum(sorted),
            Share(sorted),
            loads
        );
    }

    // Σ(2k − 1)·L_k ÷ (total × channels), with the largest load first.
    private static double Share(ReadOnlySpan<long> ascending)
    {
        double ways = 0,
            total = 0;
        for (var i = 0; i < ascending.Length; i++)
        {
            ways += (double)ascending[i] * ((2 * (ascending.Length - i)) - 1);
            total += ascending[i];
        }

        return ways / (total * ascending.Length);
    }

    /// <summary>The sum over all pairs of the smaller one of each.</summary>
    internal static long PairSum(ReadOnlySpan<long> ascending)
    {
        long sum = 0;
        for (var i = 0; i < ascending.Length; i++)
        {
            sum += ascending[i] * (ascending.Length - 1 - i);
        }

        return sum;
    }
}
