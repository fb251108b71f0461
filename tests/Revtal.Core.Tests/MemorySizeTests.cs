using CsCheck;
using Revtal.Core;
using Revtal.Core.Hardware;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class MemorySizeTests
{
    [Theory]
    [InlineData("16 GB", 17_179_869_184)]
    [InlineData("16GB", 17_179_869_184)]
    [InlineData("16 GiB", 17_179_869_184)]
    [InlineData("512 mb", 536_870_912)]
    [InlineData("1.5 GB", 1_610_612_736)]
    [InlineData("0 GB", 0)]
    public void Reads_what_people_write(string text, long bytes) => Assert.Equal(bytes, MemorySize.Parse(text).Bytes);

    [Theory]
    [InlineData("16")]
    [InlineData("GB")]
    [InlineData("-4 GB")]
    [InlineData("16 GX")]
    [InlineData("1,5 GB")]
    [InlineData("9999999999 TB")]
    [InlineData("")]
    public void Refuses_what_could_mean_anything(string text) =>
        Assert.Equal("size-unreadable", Assert.Throws<RefusedException>(() => MemorySize.Parse(text)).Code);

    [Theory]
    [InlineData(20_972_941_312, "19.5 GB")]
    [InlineData(17_179_869_184, "16 GB")]
    [InlineData(536_870_912, "512 MB")]
    [InlineData(0, "0 GB")]
    public void Is_spoken_the_trades_way(long bytes, string spoken) =>
        Assert.Equal(spoken, new MemorySize(bytes).ToString());

    [Fact]
    public void Whole_gigabytes_survive_being_spoken_and_read() =>
        Gen.Long[1, 1023].Sample(n => MemorySize.Parse(MemorySize.Gigabytes(n).ToString()) == MemorySize.Gigabytes(n));

    [Fact]
    public void Is_never_negative() => Assert.Throws<ArgumentOutOfRangeException>(() => new MemorySize(-1));
}
