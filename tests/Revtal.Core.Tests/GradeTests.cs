using Revtal.Core.Hardware;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Names, bandwidths and sizes as the standards' tables have them.</summary>
public sealed class GradeTests
{
    // JESD79-3 table 68 and JESD21-C module names; JESD79-4 table 1; JESD79-5.
    [Theory]
    [InlineData("DDR3-800", "PC3-6400", 6.4)]
    [InlineData("DDR3-1066", "PC3-8500", 8.528)]
    [InlineData("DDR3-1333", "PC3-10600", 10.664)]
    [InlineData("DDR3-1600", "PC3-12800", 12.8)]
    [InlineData("DDR3L-1600", "PC3L-12800", 12.8)]
    [InlineData("DDR3-1866", "PC3-14900", 14.928)]
    [InlineData("DDR3-2133", "PC3-17000", 17.064)]
    [InlineData("DDR4-1600", "PC4-12800", 12.8)]
    [InlineData("DDR4-1866", "PC4-14900", 14.928)]
    [InlineData("DDR4-2133", "PC4-17000", 17.064)]
    [InlineData("DDR4-2400", "PC4-19200", 19.2)]
    [InlineData("DDR4-2666", "PC4-21300", 21.328)]
    [InlineData("DDR4-2933", "PC4-23400", 23.464)]
    [InlineData("DDR4-3200", "PC4-25600", 25.6)]
    [InlineData("DDR5-4800", "PC5-38400", 38.4)]
    [InlineData("DDR5-5600", "PC5-44800", 44.8)]
    [InlineData("DDR5-6400", "PC5-51200", 51.2)]
    public void A_grade_has_two_names_and_one_bandwidth(string grade, string module, decimal bandwidth)
    {
        Assert.True(MemoryGrade.TryParse(grade, out var a));
        Assert.True(MemoryGrade.TryParse(module, out var b));
        Assert.Equal((a, module, bandwidth), (b, a.ModuleName, a.Bandwidth));
        Assert.Equal(grade, b.ToString());
    }

    [Theory]
    [InlineData("PC4-3200AA-SA2-11", "DDR4-3200")]
    [InlineData("pc3l-12800s-11-13-b4", "DDR3L-1600")]
    [InlineData("PC4-2400T-SC0-11", "DDR4-2400")]
    [InlineData("PC5-4800B-SA0-1010-XT", "DDR5-4800")]
    public void A_modules_label_is_read(string label, string grade)
    {
        Assert.True(MemoryGrade.TryParse(label, out var read));
        Assert.Equal(grade, read.ToString());
    }

    [Theory]
    [InlineData("DDR4-3300")]
    [InlineData("PC4-99999")]
    [InlineData("DDR6-9600")]
    [InlineData("3200")]
    [InlineData("")]
    [InlineData(null)]
    public void What_no_standard_names_is_no_grade(string? text) => Assert.False(MemoryGrade.TryParse(text, out _));

    // SFF-8447, and the sectors that drives of these sizes are known to have.
    [Theory]
    [InlineData(120, 234_441_648)]
    [InlineData(256, 500_118_192)]
    [InlineData(500, 976_773_168)]
    [InlineData(1000, 1_953_525_168)]
    [InlineData(2000, 3_907_029_168)]
    [InlineData(4000, 7_814_037_168)]
    public void A_drive_holds_what_the_industrys_rule_says(int gigabytes, long sectors) =>
        Assert.Equal(sectors * 512, DriveSize.Sold(gigabytes).Bytes);

    [Theory]
    [InlineData("1 TB", 1_000_000_000_000, "1 TB", "1 TB · 931 GiB")]
    [InlineData("500GB", 500_000_000_000, "500 GB", "500 GB · 465 GiB")]
    [InlineData("480 GB", 480_000_000_000, "480 GB", "480 GB · 447 GiB")]
    [InlineData("1.92 TB", 1_920_000_000_000, "1.92 TB", "1.92 TB · 1788 GiB")]
    [InlineData("1 GiB", 1_073_741_824, "1 GB", "1 GB · 1 GiB")]
    public void Drives_are_decimal_with_the_binary_beside(string text, long bytes, string spoken, string both)
    {
        var size = DriveSize.Parse(text);
        Assert.Equal((bytes, spoken, both), (size.Bytes, size.ToString(), size.WithBinary));
    }

    // PCI Express Base Specification: GT/s a lane after coding; SATA: 8b/10b.
    [Theory]
    [InlineData("PCIe 3.0 x4", 3938)]
    [InlineData("PCIe 4.0 x4", 7877)]
    [InlineData("PCIe 4.0 x2", 3938)]
    [InlineData("PCIe 2.0 x2", 1000)]
    [InlineData("PCIe 5.0 x4", 15754)]
    [InlineData("SATA 6 Gb/s", 600)]
    [InlineData("SATA 3 Gb/s", 300)]
    [InlineData("SAS 12 Gb/s", 1200)]
    public void A_link_carries(string text, int megabytes)
    {
        Assert.True(DriveLink.TryParse(text, out var link));
        Assert.Equal((text, megabytes), (link.ToString(), link.MegabytesPerSecond));
    }

    [Theory]
    [InlineData("PCIe 9.0 x4")]
    [InlineData("PCIe 4.0 x3")]
    [InlineData("USB 3")]
    [InlineData(null)]
    public void What_is_no_link_is_none(string? text) => Assert.False(DriveLink.TryParse(text, out _));
}
