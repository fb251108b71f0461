using System.Text.Json;
using CsCheck;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Values that stand for one word: steps, part numbers, what may be answered, what becomes of parts.</summary>
public sealed class ValueTests
{
    // As steps were written in journals from the first version on.
    [Theory]
    [InlineData("prepare.bench", StepVerb.Prepare, "bench", null)]
    [InlineData("isolate.shut-down-not-sleep", StepVerb.Isolate, "shut-down-not-sleep", null)]
    [InlineData("open.side-panel", StepVerb.Open, "side-panel", null)]
    [InlineData("record.modules", StepVerb.Record, "modules", null)]
    [InlineData("fit.S10", StepVerb.Fit, "S10", null)]
    [InlineData("set-up.D1.format", StepVerb.SetUp, "D1", "format")]
    [InlineData("start.power-on", StepVerb.Start, "power-on", null)]
    public void A_step_is_read_as_it_was_always_written(string text, StepVerb verb, string subject, string? work)
    {
        var step = StepId.Parse(text);
        Assert.Equal(new StepId(verb, subject, work), step);
        Assert.Equal(text, step.ToString());
        Assert.Equal($"\"{text}\"", JsonSerializer.Serialize(step, RevtalJson.Options));
    }

    [Theory]
    [InlineData("")]
    [InlineData("open")]
    [InlineData("open.")]
    [InlineData("Open.hatch")]
    [InlineData("unscrew.hatch")]
    [InlineData("setup.D1.format")]
    public void What_is_no_step_is_not_taken_for_one(string text)
    {
        Assert.False(StepId.TryParse(text, out _));
        Assert.Throws<FormatException>(() => StepId.Parse(text));
        Assert.Throws<JsonException>(() =>
            JsonSerializer.Deserialize<StepId>(JsonSerializer.Serialize(text), RevtalJson.Options)
        );
    }

    [Fact]
    public void Whatever_a_guide_calls_its_parts_the_step_survives_the_way_to_text_and_back() =>
        Gen.Select(Gen.Enum<StepVerb>(), Gen.String[Gen.Char["abcxyz019-_"], 1, 12])
            .Sample((verb, subject) => StepId.Parse(new StepId(verb, subject).ToString()) == new StepId(verb, subject));

    // Sold sizes and odd ones: what leaves in a table is read again as what it was.
    [Fact]
    public void A_drives_exact_size_is_read_as_it_was() =>
        Gen.OneOf(
                Gen.Long[0, 30_000_000_000_000],
                Gen.Int[50, 30_000].Select(g => DriveSize.Sold(g).Bytes),
                Gen.Int[1, 30].Select(t => t * 1_000_000_000_000L)
            )
            .Select(b => new DriveSize(b))
            .Sample(size => DriveSize.Parse(size.Exact) == size);

    [Theory]
    [InlineData(1_000_000_000_000, "1 TB")]
    [InlineData(500_000_000_000, "500 GB")]
    [InlineData(1_000_204_886_016, "1000204886016 B")]
    [InlineData(1_149_000_000_000, "1149000000000 B")]
    public void It_is_spoken_where_the_trades_word_says_all_of_it(long bytes, string said) =>
        Assert.Equal(said, new DriveSize(bytes).Exact);

    // Walked page by page a list is whole, whatever the pages' size.
    [Fact]
    public void Pages_follow_one_another_without_a_gap() =>
        Gen.Select(Gen.Int[0, 40], Gen.Int[1, 9])
            .Sample(
                (count, most) =>
                {
                    var all = Enumerable.Range(1, count).ToArray();
                    var walked = new List<int>();
                    for (string? after = ""; after is not null; )
                    {
                        var from = after.Length == 0 ? 0 : int.Parse(after, null);
                        var page = Page.Of([.. all.Where(n => n > from).Take(most + 1)], most, count, n => $"{n}");
                        Assert.Equal(count, page.Total);
                        Assert.InRange(page.Items.Count, count == 0 ? 0 : 1, most);
                        walked.AddRange(page.Items);
                        after = page.Next;
                    }

                    Assert.Equal(all, walked);
                }
            );

    [Theory]
    [InlineData("os4u", true)]
    [InlineData("TOWER", true)]
    [InlineData("16 gb", true)]
    [InlineData("4012345", true)]
    [InlineData("harbour", true)]
    [InlineData("laptop", false)]
    [InlineData(" ", true)]
    public void A_part_is_found_by_anything_that_its_line_says(string text, bool found)
    {
        var kind = new PartKind(
            new PartNumber("OS4U-16G"),
            "16 GB tower module",
            new MemoryModule(MemorySize.Gigabytes(16), "DDR4", "DIMM", 3200),
            null,
            1,
            34,
            Barcode: "4012345678901",
            Supplier: "Harbour Supply"
        );
        Assert.Equal(found, new PartLine(kind, 1, 0, 0).Matches(text));
    }

    [Theory]
    [InlineData("OS4U-16G", "os4u-16g ", true)]
    [InlineData("OS4U-16G", " OS4U-16G", true)]
    [InlineData("OS4U-16G", "OS4U-16", false)]
    [InlineData("OS4U-16G", "OS4U 16G", false)]
    public void A_part_number_minds_neither_capitals_nor_blanks_around_it(string a, string b, bool same)
    {
        Assert.Equal(same, new PartNumber(a) == new PartNumber(b));
        Assert.Equal(same ? 1 : 2, new[] { new PartNumber(a), new PartNumber(b) }.Distinct().Count());
        Assert.Equal(same ? 1 : 2, new SortedSet<PartNumber> { new(a), new(b) }.Count);
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("  ")]
    public void A_text_that_says_nothing_is_no_part_number(string? text) => Assert.Null(PartNumber.Of(text));

    [Theory]
    [InlineData("tally-open", new[] { RefusalAnswer.Explanation, RefusalAnswer.Waiver })]
    [InlineData("count-differs", new[] { RefusalAnswer.Explanation })]
    [InlineData("still-cooling", new[] { RefusalAnswer.Waiver })]
    [InlineData("wrong-bay", new[] { RefusalAnswer.Waiver })]
    [InlineData("count-by-group", new RefusalAnswer[0])]
    [InlineData("step-waits", new RefusalAnswer[0])]
    public void A_refusal_says_how_it_may_be_answered(string code, RefusalAnswer[] answers) =>
        Assert.Equal(answers, RefusalAnswers.To(code));

    [Theory]
    [InlineData(PartFate.Kept, false)]
    [InlineData(PartFate.Returned, false)]
    [InlineData(PartFate.Wiped, true)]
    [InlineData(PartFate.Recycled, true)]
    [InlineData(PartFate.BoughtIn, true)]
    public void A_drive_is_cleared_before_it_goes_anywhere_but_home(PartFate fate, bool wiped) =>
        Assert.Equal(wiped, fate.WantsWipe());

    [Theory]
    [InlineData("DDR4", "SO-DIMM", null)]
    [InlineData("ddr4", "SODIMM", null)]
    [InlineData(null, null, null)]
    [InlineData("DDR5", "SO-DIMM", "DDR4")]
    [InlineData("DDR4", "DIMM", "SO-DIMM")]
    public void The_shelf_says_why_a_module_suits_nothing_of_a_machine(string? generation, string? form, string? wants)
    {
        var module = new MemoryModule(MemorySize.Gigabytes(16), generation, form, 3200, null, null, null);
        var kind = new PartKind(new PartNumber("X-16"), "16 GB module", module, null, Pieces: 1, Price: 40);
        var why = PlanParts.WhyUnsuited(kind, Make.Fjell, null);
        Assert.Equal(wants is null, why is null);
        Assert.Contains(wants ?? "", why ?? "", StringComparison.Ordinal);
    }

    [Fact]
    public void Three_things_are_listed_with_one_and() =>
        Assert.Equal(
            ["A1", "A1 and B1", "A1, B1 and C1"],
            new[] { new[] { "A1" }, ["A1", "B1"], ["A1", "B1", "C1"] }.Select(Phrases.Listed)
        );

    [Theory]
    [InlineData(PartState.Sold, true)]
    [InlineData(PartState.Scrapped, true)]
    [InlineData(PartState.Returned, true)]
    [InlineData(PartState.Pulled, false)]
    [InlineData(PartState.Fitted, false)]
    [InlineData(PartState.InStock, false)]
    public void What_left_the_shop_is_not_looked_for_on_the_shelf(PartState state, bool gone) =>
        Assert.Equal(gone, state.IsGone());

    [Fact]
    public void The_traps_of_the_guides_each_stand_at_a_step_and_at_its_kind()
    {
        foreach (var guide in new[] { Make.Fjell, Make.Kliff })
        {
            Assert.All(
                guide.Traps,
                trap =>
                {
                    var places = guide.TrapsAt.Where(p => p.Value.Contains(trap.Text)).Select(p => p.Key).ToArray();
                    Assert.NotEmpty(places);
                    Assert.All(
                        places,
                        place => Assert.StartsWith(trap.At.Split('.')[0], place, StringComparison.Ordinal)
                    );
                }
            );
        }
    }
}
