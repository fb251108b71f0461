using System.Net;
using System.Text;
using Ical.Net;
using Revtal.Client;
using Revtal.Contracts;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The bench's dates in somebody's calendar, which cannot sign in.</summary>
public sealed class CalendarTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private static readonly DateTimeOffset Promised = new(2027, 5, 4, 15, 30, 0, TimeSpan.Zero);
    private readonly RevtalClient mara = fixture.Service.As("mara");

    [Fact]
    public async Task A_promise_stands_in_the_calendar_and_moves_with_it()
    {
        using var stranger = Stranger();
        var order = (await mara.TakeInAsync(Story.TakeIn with { Customer = "Bird; ringing, \"station\" ☂" })).Order;
        await mara.PromiseAsync(order, new PromiseRequest(Promised));
        var made = await mara.MakeCalendarAsync();
        var path = new Uri(made.Link).AbsolutePath;
        var first = Event(await stranger.GetStringAsync(path), order);
        Assert.Equal(Promised.UtcDateTime, first.Start!.AsUtc);
        Assert.StartsWith("Bird; ringing, \"station\" ☂\n", first.Description, StringComparison.Ordinal);

        await mara.PromiseAsync(order, new PromiseRequest(Promised.AddDays(1)));
        var moved = Event(await stranger.GetStringAsync(path), order);
        Assert.Equal((first.Uid, Promised.AddDays(1).UtcDateTime), (moved.Uid, moved.Start!.AsUtc));
        Assert.Equal(moved.Uid, Event(Encoding.UTF8.GetString(await mara.DatesAsync()), order).Uid);

        // RFC 5545, 3.1: lines end in CR LF, and none is longer than 75 octets.
        var text = await stranger.GetStringAsync(path);
        Assert.All(text.Split("\r\n"), l => Assert.InRange(Encoding.UTF8.GetByteCount(l), 0, 75));
        Assert.DoesNotContain('\n', text.Replace("\r\n", "", StringComparison.Ordinal));
    }

    [Fact]
    public async Task The_link_opens_nothing_else_and_is_ended_like_a_sign_in()
    {
        using var stranger = Stranger();
        var made = await mara.MakeCalendarAsync();
        var path = new Uri(made.Link).AbsolutePath;
        var secret = path.Split('/')[^2];
        var refused = await Assert.ThrowsAsync<ProblemException>(() =>
            new RevtalClient(fixture.Service.Http, secret).BoardAsync()
        );
        Assert.Equal(HttpStatusCode.Unauthorized, refused.Status);

        // A token that may look at everything is no calendar's link.
        var token = (await mara.MakeTokenAsync(new TokenRequest("books", 3, true))).Token;
        foreach (var wrong in (string[])[token, secret[..^1], new string('0', 64), fixture.Service.Token("mara")])
        {
            var answer = await stranger.GetAsync($"/api/v1/calendars/{wrong}/dates.ics");
            Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
        }

        Assert.Equal(HttpStatusCode.OK, (await stranger.GetAsync(path)).StatusCode);
        Assert.Contains(await mara.SessionsAsync(), s => s.Session.Id == made.Session.Id);
        await mara.EndSessionAsync(made.Session.Id);
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync(path)).StatusCode);
    }

    // Who is signed in nowhere.
    private HttpClient Stranger() => new() { BaseAddress = fixture.Service.Address };

    private static Ical.Net.CalendarComponents.CalendarEvent Event(string text, int order) =>
        Calendar.Load(text)!.Events.Single(e => e.Summary!.StartsWith($"{order} promised: ", StringComparison.Ordinal));
}
