using System.Text.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Invoices from the counter to the shop's book-keeping.</summary>
public sealed class InvoiceFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");
    private readonly RevtalClient sanne = fixture.Service.As("sanne");

    [Fact]
    public async Task An_invoice_is_made_paid_taken_back_and_made_anew()
    {
        var order = await ReadyAsync();
        await sanne.AgreeExtraAsync(order, new ExtraRequest("New rubber feet", 8.5m, "J. Marsk"));
        var draft = await sanne.InvoiceAsync(order);
        Assert.Null(draft.Number);
        Assert.Equal(8.5m, Assert.Single(draft.Invoice.Later).Sum);
        Assert.Equal((409, "no-invoice"), await Story.Refused(sanne.TakePaymentAsync(order, Cash(1))));

        await sanne.MakeInvoiceAsync(order);
        var made = await sanne.InvoiceAsync(order);
        Assert.Equal((draft.Invoice.Total, "Sanne"), (made.Open, made.MadeBy));
        Assert.Equal((409, "invoice-stands"), await Story.Refused(sanne.MakeInvoiceAsync(order)));
        Assert.Equal((409, "more-than-open"), await Story.Refused(sanne.TakePaymentAsync(order, Cash(made.Open + 1))));
        await sanne.TakePaymentAsync(order, Cash(made.Open));
        Assert.Equal((0m, made.Open), ((await sanne.InvoiceAsync(order)).Open, (await LineAsync(made.Number)).Paid));

        await sanne.ReverseInvoiceAsync(order, new ReverseRequest("the feet were ours"));
        var reversed = Assert.Single((await sanne.InvoiceAsync(order)).Reversed);
        Assert.Equal((made.Number, made.Open), (reversed.Number, reversed.ToPay));
        await sanne.DropExtraAsync(order, Assert.Single(made.Extras).Sequence);
        await sanne.MakeInvoiceAsync(order);
        var last = await sanne.InvoiceAsync(order);
        Assert.Empty(last.Invoice.Later);
        Assert.True(last.Open < 0);

        // What was told once stays told: the first, what took it back, and the last.
        var (first, back) = (await LineAsync(made.Number), await LineAsync(reversed.By));
        Assert.Equal((reversed.By, 0m), (first.ReversedBy, first.Paid));
        Assert.Equal((made.Number, -first.Total, "the feet were ours"), (back.Reverses, back.Total, back.Reason));
        Assert.Equal(made.Open, (await LineAsync(last.Number)).Paid);
        Assert.Equal("%PDF"u8.ToArray(), (await sanne.InvoicePaperAsync(reversed.By))[..4]);
        Assert.Equal((404, "no-such-invoice"), await Story.Refused(sanne.FindInvoiceAsync(0)));
    }

    [Fact]
    public async Task Numbers_are_given_without_gaps_however_many_ask_at_once_and_the_file_has_them_all()
    {
        var orders = new List<int>();
        for (var i = 0; i < 4; i++)
        {
            orders.Add(await ReadyAsync());
        }

        // Each is asked for by three at once: one makes it, the others are told that it stands.
        var asked = orders.SelectMany(o => Enumerable.Range(0, 3).Select(_ => MakeAsync(o))).ToArray();
        Assert.Equal(orders.Count, (await Task.WhenAll(asked)).Count(made => made));
        Assert.Equal((409, "wrong-stage"), await Story.Refused(sanne.MakeInvoiceAsync(await TakenInAsync())));

        var all = await AllAsync();
        Assert.Equal(Enumerable.Range(1, all.Count), all.Select(l => l.Number));
        Assert.Equal(orders, all.Where(l => orders.Contains(l.Order)).Select(l => l.Order).Order());

        var file = System.Text.Encoding.UTF8.GetString(await sanne.InvoicesFileAsync());
        var lines = file.Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => JsonSerializer.Deserialize<InvoiceLine>(l, RevtalJson.Options)!);
        Assert.Equal(all.Select(l => (l.Number, l.Total)), lines.Select(l => (l.Number, l.Total)));

        var ines = fixture.Service.As("ines");
        await ines.VerifyStoreAsync();
        VerifyView look;
        while ((look = await ines.VerificationAsync()).EndedAt is null)
        {
            await Task.Delay(50);
        }

        Assert.Empty(look.First);
    }

    [Fact]
    public async Task Without_an_agreed_price_nothing_is_charged() =>
        Assert.Equal((409, "nothing-agreed"), await Story.Refused(sanne.InvoiceAsync(await TakenInAsync())));

    private static PaymentRequest Cash(decimal amount) => new(amount, PaymentWay.Cash);

    private async Task<bool> MakeAsync(int order)
    {
        try
        {
            await sanne.MakeInvoiceAsync(order);
            return true;
        }
        catch (ProblemException e) when (e.Code == "invoice-stands")
        {
            return false;
        }
    }

    private Task<InvoiceLine> LineAsync(int? number) => sanne.FindInvoiceAsync(number!.Value);

    // Page after page, as a program reads them.
    private async Task<List<InvoiceLine>> AllAsync()
    {
        var all = new List<InvoiceLine>();
        string? next = null;
        do
        {
            var page = await sanne.InvoicesAsync(next, 2);
            all.AddRange(page.Items);
            next = page.Next;
        } while (next is not null);

        return all;
    }

    private async Task<int> TakenInAsync() => (await sanne.TakeInAsync(Story.TakeIn)).Order;

    /// <summary>8 GB before; 8 GB comes into S2, named by its number.</summary>
    private async Task<int> ReadyAsync()
    {
        var order = await TakenInAsync();
        await mara.TakeReadingAsync(order, Story.Seen(Phase.Before, 8, 0));
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S2", Story.Module(8))]));
        await sanne.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        await mara.TakeReadingAsync(order, Story.Seen(Phase.After, 8, 8));
        await mara.ReadyAsync(order, new ReasonRequest(""));
        return order;
    }
}
