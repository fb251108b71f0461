using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.Extensions.Time.Testing;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>What only time brings about: the service with a clock that the test turns.</summary>
public sealed class ClockTests : IAsyncLifetime
{
    private static readonly DateTimeOffset Monday = ClockedService.Monday;
    private static readonly MemoryModule Small = Story.Module(8) with { PartNumber = new PartNumber("OP-8") };

    private ClockedService service = null!;
    private FakeTimeProvider clock = null!;
    private HttpClient http = null!;
    private RevtalClient mara = null!;
    private RevtalClient sanne = null!;
    private RevtalClient ines = null!;

    public async ValueTask InitializeAsync()
    {
        service = await ClockedService.OpenAsync();
        (clock, http) = (service.Clock, service.Http);
        (ines, mara, sanne) = (service.As("ines"), service.As("mara"), service.As("sanne"));
        await mara.PutPartAsync("OP-8", new PartRequest("8 GB", 24.90m, Story.Module(8)));
        await ines.PublishGuideAsync(await File.ReadAllTextAsync(Repository.At("guides", "NS13.yaml")));
    }

    public ValueTask DisposeAsync() => service.DisposeAsync();

    [Fact]
    public async Task A_parked_order_is_taken_up_again_at_its_time_and_not_before()
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        await mara.ParkAsync(order, new ParkRequest("the array rebuilds", Monday.AddHours(3)));
        clock.Advance(TimeSpan.FromHours(2));
        await Task.Delay(200);
        Assert.Equal(Stage.Parked, (await mara.OrderAsync(order)).Stage);
        clock.Advance(TimeSpan.FromHours(1));
        for (var wait = 0; wait < 100 && (await mara.OrderAsync(order)).Stage == Stage.Parked; wait++)
        {
            await Task.Delay(100);
        }

        Assert.Equal(Stage.TakenIn, (await mara.OrderAsync(order)).Stage);
        Assert.Equal("revtal", (await mara.EntriesAsync(order))[^1].By);
    }

    [Fact]
    public async Task Who_has_an_order_open_is_there_until_the_page_says_so_no_more()
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        await mara.TellHereAsync(order, new HereRequest("one", Doing.Looks));
        clock.Advance(TimeSpan.FromSeconds(20));
        await mara.TellHereAsync(order, new HereRequest("two", Doing.Types));
        await sanne.TellHereAsync(order, new HereRequest("one", Doing.Looks));
        var later = Monday.AddSeconds(20);
        Assert.Equal([new("mara", true, Monday), new("sanne", false, later)], (await ines.HereAsync(order)).People);

        // The first page is silent; the second stopped writing; Sanne has closed hers.
        clock.Advance(TimeSpan.FromSeconds(21));
        await mara.TellHereAsync(order, new HereRequest("two", Doing.Looks));
        await sanne.TellHereAsync(order, new HereRequest("one", Doing.Leaves));
        // What was said before arrives after it.
        await sanne.TellHereAsync(order, new HereRequest("one", Doing.Looks));
        Assert.Equal([new("mara", false, later)], (await ines.HereAsync(order)).People);
        clock.Advance(TimeSpan.FromSeconds(40));
        Assert.Empty((await ines.HereAsync(order)).People);
        Assert.Equal((404, "no-such-order"), await Story.Refused(ines.HereAsync(999)));
    }

    [Fact]
    public async Task An_entry_keeps_the_moment_at_which_it_was_recorded()
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        clock.Advance(TimeSpan.FromMinutes(75));
        await mara.NoteAsync(order, new NoteRequest("rang back"));
        var journal = await mara.EntriesAsync(order);
        Assert.Equal([Monday, Monday.AddMinutes(75)], journal.Select(e => e.At));
    }

    [Fact]
    public async Task A_browser_that_lies_unused_is_signed_out_a_bench_tablet_sooner()
    {
        using var desk = new Screen(http.BaseAddress!);
        await desk.PostAsync("session", new { person = "mara", password = Staff.Password });

        // Each use begins the hours anew.
        clock.Advance(TimeSpan.FromHours(15));
        Assert.Equal("mara", await desk.WhoAsync());
        clock.Advance(TimeSpan.FromHours(15));
        Assert.Equal("mara", await desk.WhoAsync());
        clock.Advance(TimeSpan.FromHours(16));
        Assert.Null(await desk.WhoAsync());

        using var tablet = new Screen(http.BaseAddress!);
        await mara.ChoosePinAsync(new PinRequest("4071", Staff.Password));
        var link = (await ines.MakeTabletAsync(new TabletRequest("Bench 1"))).Link.Split('#')[1];
        await tablet.PostAsync($"session/tablet/{link}", new { });
        await tablet.PostAsync("session/hands", new { person = "mara", pin = "4071" });
        clock.Advance(TimeSpan.FromMinutes(90));
        Assert.Equal("mara", await tablet.WhoAsync());
        clock.Advance(TimeSpan.FromHours(2));
        Assert.Null(await tablet.WhoAsync());
        Assert.Equal("Bench 1", (string)(await tablet.SessionAsync())["tablet"]!["name"]!);
    }

    [Fact]
    public async Task What_was_locked_opens_after_its_time_and_what_was_sent_opens_no_longer()
    {
        using var tablet = new Screen(http.BaseAddress!);
        await mara.ChoosePinAsync(new PinRequest("4071", Staff.Password));
        var late = (await ines.MakeTabletAsync(new TabletRequest("Bench 2"))).Link.Split('#')[1];
        var link = (await ines.MakeTabletAsync(new TabletRequest("Bench 1"))).Link.Split('#')[1];
        await tablet.PostAsync($"session/tablet/{link}", new { });
        for (var wrong = 0; wrong < 5; wrong++)
        {
            Assert.Equal("wrong-pin", await TryAsync("4072"));
        }

        Assert.Equal("locked-out", await TryAsync("4071"));
        clock.Advance(TimeSpan.FromMinutes(5));
        await tablet.PostAsync("session/hands", new { person = "mara", pin = "4071" });

        // A tablet's link works for an hour, a person's for a day, a token as long as it was made for.
        clock.Advance(TimeSpan.FromMinutes(56));
        Assert.Equal("no-such-link", await tablet.RefusalAsync($"session/tablet/{late}", new { }));
        var invited = (await ines.InvitePersonAsync("tobi")).Link.Split('#')[1];
        var token = new RevtalClient(http, (await ines.MakeTokenAsync(new TokenRequest("nightly", Days: 2))).Token);
        clock.Advance(TimeSpan.FromHours(25));
        Assert.Equal((404, "no-such-link"), await Story.Refused(mara.ReadSetUpAsync(invited)));
        Assert.Equal("ines", (await token.SessionAsync()).Person!.Id);
        clock.Advance(TimeSpan.FromHours(24));
        Assert.Null((await token.SessionAsync()).Person);

        Task<string> TryAsync(string pin) => tablet.RefusalAsync("session/hands", new { person = "mara", pin });
    }

    [Fact]
    public async Task A_code_for_a_reading_closes_when_its_time_is_over()
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        var invite = await mara.InviteAsync(order, new InviteRequest(Phase.Before, 30));
        Assert.Equal(Monday.AddMinutes(30), invite.Until);
        clock.Advance(TimeSpan.FromMinutes(29));
        Assert.StartsWith("#!/bin/sh", await http.GetStringAsync($"c/{invite.Code}"), StringComparison.Ordinal);
        clock.Advance(TimeSpan.FromMinutes(1));
        Assert.Equal(HttpStatusCode.NotFound, (await http.GetAsync($"c/{invite.Code}")).StatusCode);
        Assert.Equal(Stage.TakenIn, (await mara.OrderAsync(order)).Stage);
    }

    [Fact]
    public async Task A_clock_that_is_set_back_opens_nothing_again_and_no_entry_is_older_than_the_last()
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        var invite = await mara.InviteAsync(order, new InviteRequest(Phase.Before, 30));
        clock.Advance(TimeSpan.FromMinutes(40));
        await mara.NoteAsync(order, new NoteRequest("after forty minutes"));
        clock.AdjustTime(Monday);
        Assert.Equal(HttpStatusCode.NotFound, (await http.GetAsync($"c/{invite.Code}")).StatusCode);
        clock.Advance(TimeSpan.FromMinutes(5));
        await mara.NoteAsync(order, new NoteRequest("five minutes later"));
        var at = (await mara.EntriesAsync(order)).Select(e => e.At).ToArray();
        Assert.Equal(at.Order(), at);
        Assert.Equal(TimeSpan.FromMinutes(5), at[^1] - at[^2]);
    }

    [Fact]
    public async Task A_code_is_open_for_a_day_at_most()
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        var most = (int)TimeSpan.FromHours(24).TotalMinutes;
        Assert.Equal(Monday.AddDays(1), (await mara.InviteAsync(order, new InviteRequest(Phase.Before, most))).Until);
        var (status, _) = await Story.Refused(mara.InviteAsync(order, new InviteRequest(Phase.Before, most + 1)));
        Assert.Equal(422, status);
    }

    [Fact]
    public async Task A_link_opens_its_quote_until_its_day_and_nothing_after_it()
    {
        var order = await PlannedAsync();
        var offer = await sanne.OfferAsync(order, new OfferRequest(3));
        var link = new Uri(offer.Link).Segments[^1];
        Assert.Equal(Monday.AddDays(3), offer.Until);
        var customer = new RevtalClient(http, null);
        clock.Advance(TimeSpan.FromDays(3) - TimeSpan.FromSeconds(1));
        Assert.Equal(order, (await customer.ReadQuoteAsync(link)).Order);
        clock.Advance(TimeSpan.FromSeconds(1));
        Assert.Equal((404, "no-such-quote"), await Story.Refused(customer.ReadQuoteAsync(link)));
        var (_, code) = await Story.Refused(customer.AnswerQuoteAsync(link, new(true, "J. Marsk")));
        Assert.Equal("no-such-quote", code);
        Assert.Equal(Stage.Planned, (await mara.OrderAsync(order)).Stage);
    }

    [Fact]
    public async Task A_machine_that_cools_is_opened_when_its_time_is_over_and_not_before()
    {
        var order = await PlannedAsync("NS13", "DDR5");
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        var waited = false;
        while ((await mara.OrderAsync(order)).Run is { NextStep: { } id } run)
        {
            var step = run.Steps.Single(s => s.Step.Id == id).Step;
            if (step.TimedFrom is not null)
            {
                // NS13 cools for ten minutes from when it was shut down.
                var (_, code) = await Story.Refused(mara.ConfirmAsync(order, id, new ConfirmRequest()));
                Assert.Equal("still-cooling", code);
                clock.Advance(TimeSpan.FromMinutes(10) - TimeSpan.FromSeconds(1));
                await Story.Refused(mara.ConfirmAsync(order, id, new ConfirmRequest()));
                clock.Advance(TimeSpan.FromSeconds(1));
                waited = true;
            }

            await mara.ConfirmAsync(
                order,
                id,
                new ConfirmRequest(step.LooseFasteners > 0 ? step.LooseFasteners : null)
            );
        }

        Assert.True(waited);
        Assert.Equal(Stage.OnBench, (await mara.OrderAsync(order)).Stage);
    }

    [Fact]
    public async Task What_was_said_without_a_network_counts_from_when_it_was_said()
    {
        var order = await PlannedAsync("NS13", "DDR5");
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        clock.Advance(TimeSpan.FromHours(3));
        var tablet = new Tablet(http, (await Staff.TokensAsync())["mara"]);
        var run = (await mara.OrderAsync(order)).Run!;
        var cools = run.Steps.Single(s => s.Step.TimedFrom is not null).Step;

        // Each step took a minute, an hour and a half ago; then eleven minutes to cool.
        var said = Monday.AddMinutes(90);
        foreach (var step in run.Steps.TakeWhile(s => s.Step.Id != cools.Id))
        {
            said = said.AddMinutes(1);
            Assert.Null(await tablet.ConfirmAsync(order, step.Step.Id, said, clock.GetUtcNow()));
        }

        Assert.Equal("still-cooling", await tablet.ConfirmAsync(order, cools.Id, said, clock.GetUtcNow()));
        Assert.Null(await tablet.ConfirmAsync(order, cools.Id, said.AddMinutes(11), clock.GetUtcNow()));
        var lines = (await mara.OrderAsync(order)).Journal;
        Assert.Equal(new Said(said.AddMinutes(11), ClockOff: false), lines[^1].Said);
        Assert.Equal(Monday.AddHours(3), lines[^1].At);
        Assert.Null(lines.Single(l => l.Kind.StartsWith("plan-agreed", StringComparison.Ordinal)).Said);
        var done = (await mara.OrderAsync(order)).Run!.Steps.Single(s => s.Step.Id == cools.Id).Done!;
        Assert.Equal(said.AddMinutes(11), done.At);
    }

    [Fact]
    public async Task A_screen_whose_clock_was_set_meanwhile_opens_nothing_early()
    {
        var order = await PlannedAsync("NS13", "DDR5");
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        clock.Advance(TimeSpan.FromHours(1));
        var tablet = new Tablet(http, (await Staff.TokensAsync())["mara"]);
        var run = (await mara.OrderAsync(order)).Run!;
        var cools = run.Steps.Single(s => s.Step.TimedFrom is not null).Step;

        // Wrong by twenty minutes all along: no harm, as long as it is known by how much.
        var wrong = clock.GetUtcNow().AddMinutes(20);
        Assert.Null(await tablet.ConfirmAsync(order, run.Steps[0].Step.Id, wrong.AddMinutes(-2), wrong));
        var first = (await mara.OrderAsync(order)).Journal[^1];
        Assert.Equal(new Said(clock.GetUtcNow().AddMinutes(-2), ClockOff: true), first.Said);

        foreach (var step in run.Steps.Skip(1).TakeWhile(s => s.Step.Id != cools.Id))
        {
            Assert.Null(await tablet.ConfirmAsync(order, step.Step.Id, wrong.AddMinutes(-19), wrong));
        }

        // It says that twenty minutes went by, and its clock says that it cannot know.
        Assert.Equal("still-cooling", await tablet.ConfirmAsync(order, cools.Id, wrong, wrong));
        clock.Advance(TimeSpan.FromMinutes(10));
        Assert.Null(await tablet.ConfirmAsync(order, cools.Id, wrong, wrong));
        Assert.Equal("bad-request", await tablet.ConfirmAsync(order, cools.Id, null, wrong));
    }

    /// <summary>Sends what it kept.</summary>
    private sealed class Tablet(HttpClient http, string token)
    {
        /// <summary>The refusal's code; null where it was taken.</summary>
        public async Task<string?> ConfirmAsync(int order, StepId step, DateTimeOffset? said, DateTimeOffset sent)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"api/v1/orders/{order}/steps/{step}");
            request.Content = JsonContent.Create(new ConfirmRequest(), options: RevtalJson.Options);
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", token);
            request.Headers.Add("Said-At", $"{said:o}");
            request.Headers.Add("Sent-At", $"{sent:o}");
            using var answer = await http.SendAsync(request);
            return answer.IsSuccessStatusCode
                ? null
                : (string)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["code"]!;
        }
    }

    [Fact]
    public async Task A_watch_asks_every_so_many_days_and_never_after_its_last()
    {
        var order = await CheckedAsync();
        await mara.BeginWatchAsync(order, new WatchRequest(7, 3, "It freezes"));
        var asked = new List<DateOnly?> { await DueAsync(order) };
        for (var day = 0; day < 2; day++)
        {
            clock.Advance(TimeSpan.FromDays(3));
            var today = DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
            await mara.NoteWatchAsync(order, new WatchNoteRequest(WatchSign.None, today));
            asked.Add(await DueAsync(order));
        }

        Assert.Equal([new(2026, 3, 5), new(2026, 3, 8), new(2026, 3, 9)], asked);
    }

    [Fact]
    public async Task A_day_that_is_not_yet_is_no_day_of_a_watch()
    {
        var order = await CheckedAsync();
        await mara.BeginWatchAsync(order, new WatchRequest(7, 3, "It freezes"));
        var late = DateOnly.FromDateTime(Monday.UtcDateTime).AddDays(2);
        var (status, _) = await Story.Refused(mara.NoteWatchAsync(order, new WatchNoteRequest(WatchSign.None, late)));
        Assert.Equal(422, status);
    }

    private async Task<DateOnly?> DueAsync(int order) =>
        (await mara.BoardAsync()).Cards.Single(c => c.Number == order).DueOn;

    private async Task<int> PlannedAsync(string model = "FJ14", string generation = "DDR4")
    {
        var order = (
            await mara.TakeInAsync(Story.TakeIn with { Model = model, SealConsent = SealConsent.Given })
        ).Order;
        // The catalogue knows the part as DDR4.
        var seen = generation == "DDR4" ? Small : Small with { Generation = generation, PartNumber = null };
        await mara.TakeReadingAsync(
            order,
            new ReadingRequest(
                Phase.Before,
                Seen: new SeenReading(seen.Size, Slots: [new("S1", seen), new("S2", null)])
            )
        );
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S2", seen)]));
        return order;
    }

    private async Task<int> CheckedAsync()
    {
        var order = await PlannedAsync();
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        await Story.RunAsync(mara, order, lead: ines);
        await mara.TakeReadingAsync(order, Story.Seen(Phase.After, 8, 8));
        return order;
    }
}
