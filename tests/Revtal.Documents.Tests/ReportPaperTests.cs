using Revtal.Core.Checks;
using Revtal.Core.Reports;
using Revtal.Documents.Papers;
using Xunit;

namespace Revtal.Tests.Documents;

/// <summary>The report on paper, read back by Debian's PDF tools.</summary>
public sealed class ReportPaperTests
{
    private const string Id = "107-7K3M-Q9ZT-W2XB",
        Address = "https://bench.example/proof/107-7K3M-Q9ZT-W2XB";

    private static readonly Printing Printing = new(
        "Saltmarsh Road",
        new DateTimeOffset(2026, 3, 2, 9, 30, 0, TimeSpan.Zero),
        TimeZoneInfo.Utc
    );

    private static readonly Report Report = new(
        "Saltmarsh Road",
        107,
        41,
        Printing.Now,
        "Norrland Fjell 14",
        "FJ14-2",
        "NF14-0417",
        "Choir's archive",
        Printing.Now.AddDays(-3),
        null,
        "slow since the storm",
        "two stations at once",
        ["16 GB of memory went into slot S2; the 4 GB there came out."],
        [
            new ReportPart("S2", "16 GB laptop module", "OS4S-16G", "OS4S16G-003", 24, new DateOnly(2028, 3, 2)),
            new ReportPart("D1", "1 TB M.2 2280", null, null, null, null),
        ],
        Verdict.AsPlanned,
        "24 GB installed, 23.4 GB usable.",
        [
            new ReportSlot(
                "S1",
                "8 GB",
                "8 GB",
                "8 GB",
                SlotMatch.Same,
                true,
                8L << 30,
                8L << 30,
                8L << 30,
                "TM-8S",
                "A1"
            ),
            new ReportSlot(
                "S2",
                "4 GB",
                "16 GB",
                "not seen",
                SlotMatch.Missing,
                false,
                4L << 30,
                16L << 30,
                0,
                null,
                null
            ),
        ],
        new CheckTotal(12L << 30, 24L << 30, 24L << 30, 24L << 30),
        new CheckTotal(11L << 30, 23L << 30, 24L << 30, 23L << 30),
        [
            new ReportDrive(
                "D1",
                "512 GB · 476 GiB",
                "1 TB · 931 GiB",
                null,
                SlotMatch.Missing,
                null,
                null,
                "sound by its own word, 12 h"
            ),
        ],
        [new ReportFigure("open the chart", "s", 12.5m, 10m, -20m, true)],
        ["A small share of the memory is always kept back by the machine itself."],
        ["Still cooling, let be: came in cold (Ines)"],
        ["4 GB DDR4, out of S2: the customer keeps it."],
        null,
        "32 GB when the second station comes"
    );

    [Fact]
    public void All_that_was_signed_stands_on_one_page()
    {
        var pdf = ReportPaper.Write(Report, Id, Address, Printing);
        var text = Pdf.Bare(Pdf.Text(pdf));
        string[] told =
        [
            "Norrland Fjell 14",
            "Order 107 · FJ14-2 · NF14-0417 · Choir's archive",
            "You asked: slow since the storm You wished: two stations at once",
            "✓ As planned. 24 GB installed, 23.4 GB usable.",
            "! not seen",
            "Installed: 12 GB before, 24 GB planned, 24 GB measured.",
            "D1 512 GB · 476 GiB 1 TB · 931 GiB ! not seen",
            "OS4S16G-003 until 2028-03-02",
            "not known not told",
            "open the chart, s 12.5 10 −20 %, better",
            .. Report.Done,
            .. Report.Found,
            .. Report.LetBe,
            .. Report.CameOut,
            Report.Later!,
            Id,
        ];
        Assert.All(told, t => Assert.Contains(Pdf.Bare(t), text, StringComparison.Ordinal));
        var info = Pdf.Info(pdf);
        Assert.Matches(@"Pages: +1\n", info);
        Assert.Matches(@"Title: +Report of order 107\n", info);
        Assert.Matches(@"Author: +Saltmarsh Road\n", info);
        Assert.Matches(@"Page size: +595 x 842", info);
        Assert.Equal(Address, Pdf.Codes(pdf));
    }

    [Fact]
    public void One_that_was_not_made_has_no_code_and_says_so()
    {
        var pdf = ReportPaper.Write(Report, null, Address, Printing with { Size = PaperSize.Letter });
        Assert.Contains(Pdf.Bare("nothing vouches for it"), Pdf.Bare(Pdf.Text(pdf)), StringComparison.Ordinal);
        Assert.Equal("", Pdf.Codes(pdf));
        Assert.Matches(@"Page size: +612 x 792", Pdf.Info(pdf));
    }

    [Fact]
    public void Where_customers_reach_no_page_the_code_is_the_id()
    {
        var pdf = ReportPaper.Write(Report, Id, null, Printing);
        Assert.Equal(Id, Pdf.Codes(pdf));
        Assert.DoesNotContain("http", Pdf.Text(pdf), StringComparison.Ordinal);
    }

    /// <summary>Each name is of one script: Latin with marks, Greek, Cyrillic, Chinese, Japanese, Korean.</summary>
    [Theory]
    [InlineData("Zoë Åström-Ÿağcı")]
    [InlineData("Ελένη Παπαδοπούλου")]
    [InlineData("Ольга Щербакова")]
    [InlineData("王小明")]
    [InlineData("さくら 田中")]
    [InlineData("김민준")]
    public void A_name_is_written_in_its_own_letters(string name)
    {
        var pdf = ReportPaper.Write(Report with { Customer = name }, Id, Address, Printing);
        Assert.Contains(Pdf.Bare(name), Pdf.Bare(Pdf.Text(pdf)), StringComparison.Ordinal);
        Assert.All(Pdf.Fonts(pdf), f => Assert.Contains(" yes ", f, StringComparison.Ordinal));
    }

    /// <summary>Letters that run leftwards stand in the order in which they are drawn: the last one first.</summary>
    [Theory]
    [InlineData("נעמי לוי", "Hebrew")]
    [InlineData("ليلى حداد", "Arabic")]
    public void A_name_that_runs_leftwards_has_a_face_of_its_own(string name, string script)
    {
        var fonts = Pdf.Fonts(ReportPaper.Write(Report with { Customer = name }, Id, Address, Printing));
        Assert.Contains(fonts, f => f.Contains(script, StringComparison.Ordinal));
        var none = Pdf.Fonts(ReportPaper.Write(Report, Id, Address, Printing));
        Assert.DoesNotContain(none, f => f.Contains(script, StringComparison.Ordinal));
    }

    [Fact]
    public void Many_slots_and_long_lists_turn_the_page_and_lose_nothing()
    {
        var slots = Enumerable
            .Range(1, 32)
            .Select(n => Report.Slots[0] with { Slot = $"M{n}", Serial = $"SER-{n:000}" });
        var found = Enumerable.Range(1, 90).Select(n => $"Finding number {n} of a long day.");
        var pdf = ReportPaper.Write(Report with { Slots = [.. slots], Found = [.. found] }, Id, Address, Printing);
        var text = Pdf.Bare(Pdf.Text(pdf));
        Assert.All(Enumerable.Range(1, 32), n => Assert.Contains($"SER-{n:000}", text, StringComparison.Ordinal));
        Assert.All(found, f => Assert.Contains(Pdf.Bare(f), text, StringComparison.Ordinal));
        Assert.Matches(@"Pages: +[3-5]\n", Pdf.Info(pdf));
    }
}
