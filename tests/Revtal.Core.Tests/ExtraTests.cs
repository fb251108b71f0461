using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What a bench does beside the upgrade: looking, cleaning, bagging, and telling what others ask.</summary>
public sealed class ExtraTests
{
    private static readonly ShopTerms Terms = new("EUR", 60, 20, 18m);

    private static readonly PartKind Sixteen = new(
        new PartNumber("OS-16"),
        "16 GB module",
        Make.Module(16),
        null,
        1,
        36m,
        Elsewhere: new PriceElsewhere(64m, "the maker's list", new DateOnly(2026, 3, 1))
    );

    [Fact]
    public void What_was_looked_at_and_left_is_told_with_why()
    {
        var bench = new Bench("NL12", [8], new SlotChange("D1", Inspect: true)).Until("look.D1");
        Assert.Equal("look-untold", bench.Refused("look.D1", w => w with { Note = null }));
        bench.Confirm("look.D1", w => w with { Note = "pins clean, 4,000 hours: it stays" });
        Assert.True(bench.Order.RunState.Settled(StepId.Look("D1")));

        // Any other part is found and left, with why; nothing is held by it.
        Assert.Throws<RefusedException>(() =>
            BenchRules.Find(bench.Order, bench.Guide, FindKind.LeftAlone, StepId.Open("base"), "  ")
        );
        var left = BenchRules.Find(bench.Order, bench.Guide, FindKind.LeftAlone, null, "the fan: quiet");
        Assert.Equal("Looked at and left – the fan: quiet", left.Line(bench.Guide));
    }

    [Fact]
    public void A_cleaning_is_done_before_anything_is_fitted()
    {
        var bench = Cleaned();
        Assert.Equal(
            ["clean.inside", "fit.S1"],
            bench.Sheet.Steps.Where(s => s.Part == RunPart.Fit).Select(s => s.Id.ToString())
        );
        bench.Until("clean.inside");
        Assert.Equal("step-waits", bench.Refused("fit.S1"));
        bench.Confirm("clean.inside").Confirm("fit.S1");
    }

    [Fact]
    public void A_cleaning_has_its_own_price_and_adds_nothing_to_the_work()
    {
        var with = Quoted(Cleaned());
        var without = Quoted(Plain());
        Assert.Equal(without.Minutes, with.Minutes);
        Assert.Equal(18m, Assert.Single(with.Lines, l => l.Text == "Cleaning inside").Sum);
        Assert.Equal(without.Total + (18m * 1.2m), with.Total);
        Assert.Contains("It is cleaned inside while it is open.", with.Work);

        // A shop without a price for it does not sell it.
        Assert.Equal(
            "no-cleaning-price",
            Assert.Throws<RefusedException>(() => new ShopTerms("EUR", 60, 20).Need(true)).Code
        );
    }

    [Fact]
    public void A_cleaning_that_was_sold_and_skipped_holds_the_machine_until_it_is_done()
    {
        var bench = Cleaned().Until("clean.inside");
        bench.Confirm("clean.inside", w => w with { Deviation = Deviation.Skipped, Explanation = "no air" });
        Close(bench);
        Assert.Contains("cleaning-owed", Held(bench));

        // A lead lets it be: then it is not paid for.
        var let = bench.Copy();
        var quote = Quoted(let);
        var lead = CloseRules.Release(let.Order, let.Guide, Role.Lead, "cleaning-owed", "the customer is in a hurry");
        let.Add(lead).Add(CloseRules.MarkReady(let.Order, let.Guide, Role.Lead, "in a hurry"));
        let.Add(new PlanAgreed("M. Alto", null, quote)).Add(new MarkedReady(Verdict.AsPlanned, "in a hurry"));
        var invoice = Invoices.Of(let.Order, let.Guide, [Sixteen], TimeZoneInfo.Utc);
        Assert.Equal(["Cleaning inside: not done."], invoice.Uncharged);
        Assert.Equal(quote.Total - (18m * 1.2m), invoice.Total);

        // The next time it is open it is asked for again.
        bench.Add(BenchRules.Reseat(bench.Order, bench.Guide, ["S1"], "not cleaned"));
        Assert.Contains(bench.Sheet.Steps, s => s.Id == StepId.Clean);
        Close(bench);
        Assert.DoesNotContain("cleaning-owed", Held(bench));
        bench.Add(BenchRules.Reseat(bench.Order, bench.Guide, ["S1"], "once more"));
        Assert.DoesNotContain(bench.Sheet.Steps, s => s.Id == StepId.Clean);
    }

    [Fact]
    public void A_part_gets_its_bag_once_it_is_out()
    {
        var bench = new Bench("FJ14", [0, 8], new SlotChange("S2", Make.Module(16)));
        Assert.Empty(Bags.Of(bench.Order, bench.Guide));
        Assert.Equal("not-out-yet", BagRefused(bench, "S2"));
        Assert.Equal("nothing-comes-out", BagRefused(bench, "S1"));

        bench.Until("record.modules");
        bench.Confirm(
            "record.modules",
            w => w with { Occupants = new Dictionary<string, string> { ["S2"] = "8 GB, label torn" } }
        );
        bench.Until("fit.S2");
        var label = Assert.Single(Bags.Of(bench.Order, bench.Guide));
        Assert.Equal(
            ("101-S2", "revtal:bag:101-S2", "8 GB, label torn", null, null),
            (label.Code, label.Scan, label.Mark, label.Place, label.Fate)
        );
        Assert.Equal("tobi", label.OutBy);

        bench.Add(DriveRules.Bag(bench.Order, bench.Guide, "S2", " shelf 3 "));
        bench.Add(DriveRules.Settle(bench.Order, bench.Guide, "S2", PartFate.ForLater, null, null));
        bench.Add(DriveRules.Bag(bench.Order, bench.Guide, "S2", "drawer 1"));
        label = Assert.Single(Bags.Of(bench.Order, bench.Guide));
        Assert.Equal(("drawer 1", "kept in this machine's bag for a later visit"), (label.Place, label.Fate));

        static string BagRefused(Bench bench, string position) =>
            Assert.Throws<RefusedException>(() => DriveRules.Bag(bench.Order, bench.Guide, position, "x")).Code;
    }

    [Fact]
    public void What_others_ask_is_told_beside_what_it_costs_here()
    {
        Assert.Equal(
            [
                "The maker's list asked 64.00 EUR for 16 GB module on 2026-03-01; here it is 36.00 EUR, both without "
                    + "tax.",
            ],
            Quoted(Plain()).Compared
        );
        Assert.Null(Quoted(Plain(), Sixteen with { Elsewhere = null }).Compared);
    }

    [Fact]
    public void A_sum_elsewhere_is_told_only_where_each_part_has_a_price_there()
    {
        var other = Sixteen with { Number = new PartNumber("X-1"), Elsewhere = null };
        PartKind[] kinds = [Sixteen, other];
        Assert.Equal(128m, PriceElsewhere.Sum(kinds, [(Sixteen.Number, 2)]));
        Assert.Null(PriceElsewhere.Sum(kinds, [(Sixteen.Number, 2), (other.Number, 1)]));
        Assert.Null(PriceElsewhere.Sum(kinds, []));
        Assert.Equal(
            "price-impossible",
            Assert
                .Throws<RefusedException>(() =>
                    (Sixteen with { Elsewhere = Sixteen.Elsewhere! with { Price = -1 } }).Checked()
                )
                .Code
        );
    }

    private static Bench Plain() => new("FJ14", [0, 8], new SlotChange("S1", Make.Module(16, part: "OS-16")));

    private static Bench Cleaned() =>
        new("FJ14", [0, 8], new SlotChange("S1", Make.Module(16, part: "OS-16"))) { Cleans = true };

    private static Quote Quoted(Bench bench, PartKind? kind = null) =>
        Quotes.Of(bench.Order, bench.Guide, [kind ?? Sixteen], WorkTime.Of(bench.Sheet, []), Terms);

    // To the end of the run, and what was read then is as planned.
    private static void Close(Bench bench)
    {
        bench.Until("none");
        var read = Make.Reading(bench.Guide, [16, 8]);
        bench.Add(
            MeasureRules.TakeReading(bench.Order, bench.Guide, Revtal.Core.Captures.Phase.After, read, null, null)
        );
    }

    private static string[] Held(Bench bench) =>
        [.. Holds.Open(bench.Order, bench.Guide).Where(h => h.StopsReady).Select(h => h.Key)];
}
