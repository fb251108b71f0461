using System.Net.Http.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Several people at one bench: whose it is, what it waits for, what a change brings to a screen.</summary>
public sealed class SharedFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");
    private readonly RevtalClient tobi = fixture.Service.As("tobi");
    private readonly RevtalClient sanne = fixture.Service.As("sanne");
    private readonly RevtalClient ines = fixture.Service.As("ines");

    [Fact]
    public async Task What_is_handed_over_is_read_by_a_technician_before_the_run_goes_on()
    {
        var order = await AgreedAsync(null);
        await mara.OwnerAsync(order, new OwnerRequest("tobi", "the left clip of S1 is worn"));
        var view = await tobi.OrderAsync(order);
        Assert.Equal(("tobi", "mara"), (view.Owner, view.HandOver!.By));
        var first = view.Run!.NextStep!.Value;
        Assert.Equal(
            (409, "hand-over-unread"),
            await Story.Refused(tobi.ConfirmAsync(order, first, new ConfirmRequest()))
        );
        Assert.Equal((403, "technician-does"), await Story.Refused(sanne.ReadHandOverAsync(order)));
        Assert.Equal("In Tobi's hands: the left clip of S1 is worn", view.Journal[^1].Text);
        await tobi.ReadHandOverAsync(order);
        await tobi.ConfirmAsync(order, first, new ConfirmRequest());
        Assert.Equal((422, "no-such-hands"), await Story.Refused(mara.OwnerAsync(order, new OwnerRequest("sanne"))));
        await tobi.OwnerAsync(order, new OwnerRequest(null));
        Assert.Null((await tobi.OrderAsync(order)).Owner);
    }

    [Fact]
    public async Task A_change_brings_its_card_and_what_is_late_by_it()
    {
        var (here, gone) = (await AgreedAsync(null), await AgreedAsync(null));
        await mara.PlaceAsync(here, new PlaceRequest("revtal:place:Bench 2"));
        await mara.OwnerAsync(here, new OwnerRequest("mara"));
        await sanne.PromiseAsync(here, new PromiseRequest(DateTimeOffset.UtcNow.AddSeconds(30)));
        await sanne.CancelAsync(gone, new ReasonRequest("not wanted"));
        var view = await mara.CardsAsync([here, gone]);
        var card = Assert.Single(view.Cards);
        Assert.Equal((here, "mara", "Bench 2"), (card.Number, card.Owner, card.Place));
        Assert.True(card.MinutesLeft > 1);
        var late = Assert.Single(view.Late, l => l.Number == here);
        Assert.False(late.IsLate);
        Assert.InRange(late.Minutes, card.MinutesLeft!.Value - 1, card.MinutesLeft.Value);

        // The same as on the whole board.
        var board = await mara.BoardAsync();
        Assert.Contains(board.Late, l => l.Number == here);
        Assert.Equal(card.ChangedAt, board.Cards.Single(c => c.Number == here).ChangedAt);
        await sanne.PromiseAsync(here, new PromiseRequest(null));
        Assert.DoesNotContain((await mara.CardsAsync([here])).Late, l => l.Number == here);
        Assert.Equal((422, "too-many-cards"), await Story.Refused(mara.CardsAsync([.. Enumerable.Range(1, 101)])));
    }

    [Fact]
    public async Task An_order_parked_for_parts_is_taken_up_when_they_come_and_gets_them()
    {
        var module = new MemoryModule(MemorySize.Gigabytes(8), "DDR4", "SO-DIMM", 2666);
        await mara.PutPartAsync("SW-8", new PartRequest("8 GB", 19, module));
        var order = await AgreedAsync("SW-8");
        await sanne.ParkAsync(order, new ParkRequest("the module is ordered", Wakes: WakeOn.PartsArrive));
        var parked = (await mara.OrderAsync(order)).Waiting!;
        Assert.Equal(WaitKind.Parts, parked.Kind);

        // Another kind does not wake it.
        await mara.PutPartAsync("SW-16", new PartRequest("16 GB", 39, module with { Size = MemorySize.Gigabytes(16) }));
        await mara.ReceiveAsync("SW-16", new ReceiveRequest(1));
        await Task.Delay(TimeSpan.FromSeconds(1.5));
        Assert.Equal(Stage.Parked, (await mara.OrderAsync(order)).Stage);
        var came = Assert.Single(await mara.ReceiveAsync("SW-8", new ReceiveRequest(1)));
        var view = await WokenAsync(order);
        Assert.Equal(Stage.Agreed, view.Stage);
        Assert.Equal("revtal", view.Journal[^1].By);
        var item = Assert.Single((await mara.PartItemsAsync("SW-8")), i => i.Id == came.Id);
        Assert.Equal((PartState.Reserved, order), (item.State, item.Order!.Value));
    }

    [Fact]
    public async Task The_board_tells_which_agreed_orders_wait_for_which_parts()
    {
        await mara.PutPartAsync("SW-P", new PartRequest("8 GB", 19, Story.Module(8)));
        await mara.ReceiveAsync("SW-P", new ReceiveRequest(1));
        var (served, waits) = (await AgreedAsync("SW-P"), await AgreedAsync("SW-P"));
        var owed = (await mara.CardsAsync([waits])).PartsOwed;
        Assert.DoesNotContain(owed, o => o.Number == served);
        Assert.Equal([new PartNumber("SW-P")], Assert.Single(owed, o => o.Number == waits).Parts);
        Assert.Equivalent(owed, (await mara.BoardAsync()).PartsOwed);
        await mara.ReceiveAsync("SW-P", new ReceiveRequest(1));
        Assert.DoesNotContain((await mara.CardsAsync([waits])).PartsOwed, o => o.Number == waits);
    }

    [Fact]
    public async Task A_parked_order_hears_the_customer_and_goes_on()
    {
        await mara.PutPartAsync("SW-Q", new PartRequest("8 GB", 19, Story.Module(8)));
        var order = await PlannedAsync("SW-Q");
        Assert.Equal(
            (409, "nothing-to-wake"),
            await Story.Refused(sanne.ParkAsync(order, new ParkRequest("asks", Wakes: WakeOn.CustomerAnswers)))
        );
        var link = (await sanne.OfferAsync(order, new OfferRequest(7))).Link.Split('/')[^1];
        await sanne.ParkAsync(order, new ParkRequest("asks her brother", Wakes: WakeOn.CustomerAnswers));
        using var answer = await fixture.Service.Http.PostAsJsonAsync(
            $"api/v1/quotes/{link}/answer",
            new { name = "J. Marsk", agree = true }
        );
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        var view = await WokenAsync(order);
        Assert.Equal((Stage.Agreed, "J. Marsk"), (view.Stage, view.AgreedBy));
        Assert.Null(view.Waiting);
    }

    [Fact]
    public async Task What_concerns_somebody_is_told_to_them_alone_once_and_until_they_have_read_it()
    {
        var order = await AgreedAsync(null);
        var key = Guid.NewGuid();
        await mara.NoteAsync(order, new NoteRequest("@tobi: the cover has a crack, @sanne"), key);
        await mara.NoteAsync(order, new NoteRequest("@tobi: the cover has a crack, @sanne"), key);
        var told = Assert.Single((await tobi.NoticesAsync()).Items, n => n.Order == order);
        Assert.Equal((NoticeKind.Mentioned, "mara"), (told.Kind, told.By));
        Assert.Equal((await tobi.EntriesAsync(order))[^1].Sequence, told.Sequence);
        Assert.Single((await sanne.NoticesAsync()).Items, n => n.Order == order);
        Assert.DoesNotContain((await mara.NoticesAsync()).Items, n => n.Order == order);

        // What came after what was read stays unread.
        await mara.OwnerAsync(order, new OwnerRequest("tobi"));
        await tobi.ReadNoticesAsync(new NoticesReadRequest(told.Position));
        var (newer, older) = ((await tobi.NoticesAsync()).Items[0], (await tobi.NoticesAsync()).Items[1]);
        Assert.Equal((NoticeKind.HandedOver, true), (newer.Kind, newer.ReadAt is null));
        Assert.NotNull(older.ReadAt);
        Assert.Null(Assert.Single((await sanne.NoticesAsync()).Items, n => n.Order == order).ReadAt);
    }

    [Fact]
    public async Task An_answer_is_told_to_whoever_wrote_there_and_once_to_whoever_it_names()
    {
        var order = await AgreedAsync(null);
        var begun = (await mara.NoteAsync(order, new NoteRequest("the hinge is cracked"))).Sequence;
        await ines.NoteAsync(order, new NoteRequest("the fan is loud"));
        var first = (await tobi.NoteAsync(order, new NoteRequest("was so on arrival", Answers: begun))).Sequence;
        Assert.Equal([NoticeKind.WrittenTo], await ToldAsync(mara));

        // Whatever of them is answered, it belongs to the note that began it.
        await sanne.NoteAsync(order, new NoteRequest("@mara: the customer knows", Answers: first));
        Assert.Equal([NoticeKind.Mentioned, NoticeKind.WrittenTo], await ToldAsync(mara));
        Assert.Equal([NoticeKind.WrittenTo], await ToldAsync(tobi));
        Assert.Empty(await ToldAsync(sanne));
        Assert.Empty(await ToldAsync(ines));
        var lines = (await mara.OrderAsync(order)).Journal;
        Assert.Equal([begun, begun + 1, begun, begun], lines.Skip(begun - 1).Select(l => l.Begun));
        Assert.Equal($"To {begun}: @mara: the customer knows", lines[^1].Text);

        Assert.Equal((422, "no-such-note"), await Story.Refused(mara.NoteAsync(order, new NoteRequest("?", null, 1))));
        Assert.Equal((422, "no-such-note"), await Story.Refused(mara.NoteAsync(order, new NoteRequest("?", null, 99))));

        async Task<IEnumerable<NoticeKind>> ToldAsync(RevtalClient who) =>
            (await who.NoticesAsync()).Items.Where(n => n.Order == order).Select(n => n.Kind);
    }

    private async Task<OrderView> WokenAsync(int order)
    {
        var until = DateTimeOffset.UtcNow.AddSeconds(10);
        while (true)
        {
            var view = await mara.OrderAsync(order);
            if (view.Stage != Stage.Parked || DateTimeOffset.UtcNow > until)
            {
                return view;
            }

            await Task.Delay(100);
        }
    }

    private async Task<int> PlannedAsync(string? part)
    {
        var order = (await sanne.TakeInAsync(Story.TakeIn with { Serial = null })).Order;
        await mara.TakeReadingAsync(order, Story.Seen(Phase.Before, 0, 8));
        var module = Story.Module(8) with { PartNumber = part is null ? null : new PartNumber(part) };
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S1", module)]));
        return order;
    }

    private async Task<int> AgreedAsync(string? part)
    {
        var order = await PlannedAsync(part);
        await sanne.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        return order;
    }
}
