using System.Text;
using CsCheck;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Documents;
using Xunit;

namespace Revtal.Tests.Documents;

public sealed class PartsCsvTests
{
    // What CSV, table programs and our own apostrophe trip over.
    private static readonly Gen<string> Hostile = Gen.Char["=+-@'\",;abcÄ語 \\"]
        .Array[1, 12]
        .Select(c => new string(c).Trim())
        .Where(t => t.Length > 0);

    private static readonly Gen<PartKind> Module = Gen.Select(
        Hostile,
        Hostile,
        Gen.Int[0, 7].Select(n => 1 << n),
        Gen.Decimal[0, 999].Select(p => Math.Round(p, 2)),
        Gen.Bool,
        (name, supplier, size, price, ecc) =>
            new PartKind(
                new PartNumber($"M-{size}"),
                name,
                new MemoryModule(MemorySize.Gigabytes(size), "DDR4", "DIMM", 3200, name, Ecc: ecc, Voltage: 1.2m),
                null,
                1,
                price,
                2,
                supplier,
                supplier,
                new PriceElsewhere(price, name, new DateOnly(2026, 3, 2))
            ).Checked()
    );

    private static readonly Gen<PartKind> Drive = Gen.Select(
        Hostile,
        Gen.Int[120, 8000],
        (name, size) =>
            new PartKind(
                new PartNumber($"D-{size}"),
                name,
                null,
                new Drive(DriveSize.Parse($"{size} GB"), "M.2 2280", "M", "PCIe 4.0 x4", 2.4m, 4096, name),
                1,
                49.90m
            ).Checked()
    );

    [Fact]
    public void The_catalogue_comes_back_as_it_left() =>
        Gen.OneOf(Module, Drive)
            .Array[1, 8]
            .Select(kinds => kinds.DistinctBy(k => k.Number).ToArray())
            .Sample(kinds =>
            {
                var (read, problems) = PartsCsv.ReadKinds(new MemoryStream(PartsCsv.WriteKinds(kinds)));
                Assert.Empty(problems);
                Assert.Equal(kinds, read.Select(k => k.Kind));
            });

    [Fact]
    public void A_shelf_comes_back_as_it_left() =>
        Gen.Select(Hostile, Hostile, Gen.Decimal[0, 999].Select(c => Math.Round(c, 2)))
            .Sample(t =>
            {
                var (serial, place, cost) = t;
                var part = new PartItem(7, new PartNumber("M-8"), serial, PartState.InStock, cost, place, place);
                var (read, problems) = PartsCsv.ReadParts(new MemoryStream(PartsCsv.WriteParts([part])));
                Assert.Empty(problems);
                Assert.Equal(part with { Id = 0 }, Assert.Single(read).Part);
            });

    [Fact]
    public void Nothing_that_a_table_program_would_run_leaves()
    {
        var part = new PartItem(1, new PartNumber("M-8"), "=HYPERLINK(1)", PartState.InStock, null, "'=X", "-1+1");
        var line = Encoding.UTF8.GetString(PartsCsv.WriteParts([part])).Split('\n')[1];
        Assert.Equal("M-8,'=HYPERLINK(1),,''=X,'-1+1,,,1,in stock,,,", line);
    }

    [Theory]
    [InlineData("number,state\nM-8,sold", "only what is in stock")]
    [InlineData("number,kit\nM-8,12", "kits one by one")]
    [InlineData("number,cost\nM-8,-1", "not below nothing")]
    [InlineData("number,cost\nM-8,1.005", "wants a number")]
    [InlineData("number,serial\nM-8,A\nM-8,A", "stands on line 2 already")]
    [InlineData("number,serial\n,A", "number is missing")]
    public void A_line_that_cannot_be_used_is_said_with_its_reason(string file, string why)
    {
        var problem = Assert.Single(PartsCsv.ReadParts(new MemoryStream(Encoding.UTF8.GetBytes(file))).Problems);
        Assert.Equal(file.Split('\n').Length, problem.Line);
        Assert.Contains(why, problem.Why, StringComparison.OrdinalIgnoreCase);
    }

    [Theory]
    [InlineData("64,,2026-03-02", "who asks it")]
    [InlineData("64,a list,", "the day")]
    [InlineData("64,a list,2 March", "wants a day like")]
    [InlineData("much,a list,2026-03-02", "wants a number")]
    public void A_price_elsewhere_is_told_whole(string elsewhere, string why)
    {
        var file = $"number,name,what,size,price,elsewhere,whose,seen\nM-8,8 GB,module,8 GB,19,{elsewhere}";
        var problem = Assert.Single(PartsCsv.ReadKinds(new MemoryStream(Encoding.UTF8.GetBytes(file))).Problems);
        Assert.Contains(why, problem.Why, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("", "csv-empty")]
    [InlineData("serial\nX", "csv-columns")]
    [InlineData("number,colour\nM-8,red", "csv-columns")]
    [InlineData("number,number\nM-8,M-8", "csv-columns")]
    public void A_file_that_is_no_such_table_is_refused_whole(string file, string code) =>
        Assert.Equal(
            code,
            Assert
                .Throws<RefusedException>(() => PartsCsv.ReadParts(new MemoryStream(Encoding.UTF8.GetBytes(file))))
                .Code
        );

    [Fact]
    public void Bytes_that_are_no_text_are_refused() =>
        Assert.Equal(
            "csv-unreadable",
            Assert
                .Throws<RefusedException>(() => PartsCsv.ReadParts(new MemoryStream([.. "number\nM"u8, 0xFF, 0xFE])))
                .Code
        );
}
