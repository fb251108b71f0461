using Revtal.Core.Hardware;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class SerialNumberTests
{
    [Theory]
    [InlineData("BN1T-0042", "bn1t-0042", true)]
    [InlineData("  BN1T-0042   ", "BN1T-0042", true)]
    [InlineData("BN1T-0042", "BN1T-0043", false)]
    // The words of an ATA identity with their letters changed over, of even and odd length, padded before or behind.
    [InlineData("BNT10042", "NB1T0024", true)]
    [InlineData("BN1T-0042", "NBT10-402", false)]
    [InlineData("BN1T-0042", "NBT10-40 2", true)]
    [InlineData("BN1T-0042", "B 1N-T0024", true)]
    // A namespace's identifier is no serial: nothing follows from comparing it with one.
    [InlineData("0025_3854_91B0_2C6E.", "S64DNX0R", null)]
    [InlineData("0025_3854_91B0_2C6E.", "0025_3854_91b0_2c6e.", true)]
    [InlineData("0025_3854_91B0_2C6E.", "0025_3854_91B0_2C6F.", false)]
    // What a maker left blank tells nothing.
    [InlineData("00000000", "BN1T-0042", null)]
    [InlineData("", "BN1T-0042", null)]
    [InlineData(null, "BN1T-0042", null)]
    public void Two_serials_are_of_one_thing_or_of_two_or_it_cannot_be_told(string? a, string? b, bool? same)
    {
        Assert.Equal(same, SerialNumber.Same(a, b));
        Assert.Equal(same, SerialNumber.Same(b, a));
    }
}
