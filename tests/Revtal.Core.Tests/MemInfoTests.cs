using System.Text;
using Revtal.Core;
using Revtal.Core.Captures.Systems;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class MemInfoTests
{
    [Theory]
    [InlineData("MemTotal:       4009404 kB\nMemFree: 1 kB\n", 4_009_404L * 1024)]
    [InlineData("# copied by hand\nMemTotal: 8 kB", 8192)]
    public void Reads_what_the_system_may_use(string lines, long bytes) =>
        Assert.Equal(bytes, MemInfo.Decode(Encoding.ASCII.GetBytes(lines)).Memory.UsableBytes);

    [Theory]
    [InlineData("MemTotal: kB")]
    [InlineData("MemTotal: -5 kB")]
    [InlineData("MemTotal: 99999999999999999999 kB")]
    [InlineData("MemTotal: 5 MB")]
    [InlineData("MemFree: 5 kB")]
    [InlineData("")]
    public void Refuses_what_is_no_such_line(string lines) =>
        Assert.Equal(
            "meminfo-unreadable",
            Assert.Throws<RefusedException>(() => MemInfo.Decode(Encoding.ASCII.GetBytes(lines))).Code
        );
}
