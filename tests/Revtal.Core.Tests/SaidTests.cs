using CsCheck;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>When something was said, as far as the service can know.</summary>
public sealed class SaidTests
{
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);
    private static readonly DateTimeOffset TakenIn = Now.AddDays(-2);

    [Theory]
    // Minutes ago by the tablet, how far its clock is ahead now, when it was said, whether that can be believed.
    [InlineData(120, 0, -120, false)]
    [InlineData(120, 0.5, -120, false)]
    [InlineData(120, -0.5, -120, false)]
    [InlineData(120, 3, -120, true)]
    [InlineData(120, -61, -120, true)]
    // It says tomorrow: not later than now.
    [InlineData(-1440, 0, 0, true)]
    // Before the machine was there.
    [InlineData(4320, 0, -2880, true)]
    public void What_counts_is_how_long_it_waited(double ago, double ahead, double at, bool off)
    {
        var sent = Now.AddMinutes(ahead);
        Assert.Equal(new Said(Now.AddMinutes(at), off), Said.Of(sent.AddMinutes(-ago), sent, Now, TakenIn));
    }

    [Fact]
    public void What_arrives_at_once_was_said_now() =>
        Assert.Null(Said.Of(Now.AddSeconds(-2), Now.AddSeconds(-1), Now, TakenIn));

    [Fact]
    public void Nothing_is_said_before_its_order_or_after_now() =>
        Gen.Select(Gen.Int[-1_000_000, 1_000_000], Gen.Int[-1_000_000, 1_000_000])
            .Sample(
                (said, sent) =>
                {
                    var found = Said.Of(Now.AddSeconds(said), Now.AddSeconds(sent), Now, TakenIn);
                    return found is null || (found.At <= Now && found.At >= TakenIn);
                }
            );
}
