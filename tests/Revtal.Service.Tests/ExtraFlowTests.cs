using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Looking, cleaning, bagging, and a price to compare with, through the service.</summary>
public sealed class ExtraFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private static readonly MemoryModule Large = new(MemorySize.Gigabytes(16), "DDR4", "SO-DIMM", 3200);
    private static readonly PriceElsewhere Asked = new(64, "the maker's list", new DateOnly(2026, 11, 20));

    [Fact]
    public async Task A_cleaning_is_sold_where_the_shop_has_a_price_for_it_and_nowhere_else()
    {
        var mara = fixture.Service.As("mara");
        var order = await MeasuredAsync(mara);
        var wish = new PlanRequest([new SlotChange("S2", Large)], Cleans: true);
        Assert.Equal((409, "no-cleaning-price"), await Story.Refused(mara.SetPlanAsync(order, wish)));
        Assert.Null((await mara.ShopAsync()).Terms.CleaningPrice);

        await using (var service = await ServiceProcess.StartAsync(arguments: ["--shop:cleaningPrice", "17.50"]))
        {
            var lead = service.As("ines");
            order = await MeasuredAsync(lead);
            var preview = await lead.PreviewAsync(order, wish);
            Assert.Contains(preview.Quote.Lines, l => l is { Text: "Cleaning inside", Sum: 17.5m });
            await lead.SetPlanAsync(order, wish);
            await lead.AgreeAsync(order, new AgreeRequest("J. Marsk"));
            await Story.RunAsync(lead, order, lead: lead);
            var done = await lead.OrderAsync(order);
            Assert.Contains(done.Run!.Steps, s => s.Step.Id == StepId.Clean && s.Done is not null);
            Assert.DoesNotContain(done.Holds, h => h.Key == "cleaning-owed");
        }
    }

    [Fact]
    public async Task What_came_out_is_bagged_and_its_label_comes_as_a_page()
    {
        var mara = fixture.Service.As("mara");
        var order = await MeasuredAsync(mara);
        await mara.SetPlanAsync(
            order,
            new PlanRequest([new SlotChange("S1", Inspect: true), new SlotChange("S2", Large)])
        );
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        Assert.Equal((409, "nothing-out"), await Story.Refused(mara.BagPaperAsync(order)));
        Assert.Equal((409, "wrong-stage"), await Story.Refused(mara.BagAsync(order, "S2", new BagRequest("shelf"))));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));

        await mara.BagAsync(order, "S2", new BagRequest("shelf 3"));
        await mara.BagAsync(order, "S2", new BagRequest("drawer 1"));
        var view = await mara.OrderAsync(order);
        Assert.Equal($"{order}-S2", Assert.Single(view.ComesOut).Bag!.Code);
        Assert.Equal("drawer 1", view.ComesOut[0].Bag!.Place);
        Assert.Contains(view.Journal, l => l.Text == "Looked at S1 – clean, whole: it stays");
        Assert.Equal("%PDF"u8.ToArray(), (await mara.BagPaperAsync(order))[..4]);
    }

    [Fact]
    public async Task A_price_elsewhere_stands_on_options_and_on_the_frozen_quote()
    {
        var mara = fixture.Service.As("mara");
        await mara.PutPartAsync("EX-16", new PartRequest("16 GB fast", 36, Large, Elsewhere: Asked));
        await mara.PutPartAsync("EX-15", new PartRequest("16 GB plain", 35, Large));
        var order = await MeasuredAsync(mara);
        var options = (await mara.OptionsAsync(order, target: "24 GB")).Options;
        Assert.All(
            options.Where(o => o.Option.Buys.All(b => b.Offer.Number.ToString() is "EX-15" or "EX-16")),
            o => Assert.Equal(o.Option.Buys.All(b => $"{b.Offer.Number}" == "EX-16") ? 64m : null, o.Elsewhere)
        );
        var part = new MemoryModule(MemorySize.Zero, PartNumber: new PartNumber("EX-16"));
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S2", part)]));
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));

        // What was agreed stays as it was told, whatever is asked there later.
        await mara.PutPartAsync(
            "EX-16",
            new PartRequest("16 GB fast", 36, Large, Elsewhere: Asked with { Price = 20 })
        );
        Assert.StartsWith(
            "The maker's list asked 64.00 EUR for 16 GB fast on 2026-11-20",
            Assert.Single((await mara.QuoteAsync(order)).Compared!),
            StringComparison.Ordinal
        );
    }

    private static async Task<int> MeasuredAsync(RevtalClient client)
    {
        var order = (await client.TakeInAsync(Story.TakeIn with { Serial = null })).Order;
        await client.TakeReadingAsync(order, Story.Seen(Phase.Before, 0, 8));
        return order;
    }
}
