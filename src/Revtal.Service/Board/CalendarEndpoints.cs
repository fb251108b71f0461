using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Service.People;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Board;

/// <summary>
/// The bench's dates for the calendars of those who work there: by a link that opens nothing else, since a calendar
/// cannot sign in.
/// </summary>
public static class CalendarEndpoints
{
    private static readonly TimeSpan Lasts = TimeSpan.FromDays(365);

    public static void MapCalendar(this IEndpointRouteBuilder api)
    {
        api.MapGet(
                "/board/dates.ics",
                (OpenOrders open, IOptions<ShopOptions> shop, TimeProvider clock, HttpContext context) =>
                    File(open, shop.Value, clock, context)
            )
            .WithTags("board")
            .WithName("getDates")
            .Produces<string>(contentType: CalendarFile.MediaType)
            .WithSummary("What is promised, watched, rebuilt and taken up again when, as a calendar (RFC 5545)");
        api.MapPost("/session/calendar", Make)
            .WithTags("session")
            .WithName("makeCalendar")
            .WithSummary("Make a link for your calendar; it is shown once, and ends like a sign-in");
        api.MapGet(
                "/calendars/{link}/dates.ics",
                (
                    string link,
                    SignInStore store,
                    PeopleStore people,
                    OpenOrders open,
                    IOptions<ShopOptions> shop,
                    TimeProvider clock,
                    HttpContext context
                ) =>
                {
                    context.Response.Headers.CacheControl = "no-store";
                    return
                        store.Find(link, clock.GetUtcNow(), SignInDesk.Idle) is { Kind: SessionKind.Calendar } own
                        && people.List().Any(p => p.Id == own.Person)
                        ? File(open, shop.Value, clock, context)
                        : throw RefusedException.NotFound(
                            "no-such-calendar",
                            "This link opens no calendar: it is mistyped, or it was ended. Make another."
                        );
                }
            )
            .WithTags("board")
            .WithName("readDates")
            .Produces<string>(contentType: CalendarFile.MediaType)
            .WithSummary("The same behind a link");
    }

    private static CalendarMade Make(
        SignInStore store,
        IOptions<ShopOptions> shop,
        TimeProvider clock,
        HttpContext context
    )
    {
        var who = Door.Need(context);
        var now = clock.GetUtcNow();
        var (session, secret) = store.Begin(who.Person.Id, SessionKind.Calendar, "calendar", true, now, Lasts);
        store.Note(who.Person.Id, "calendar-made", now, null, Door.From(context));
        context.Response.Headers.CacheControl = "no-store";
        return new CalendarMade(
            session,
            $"{PublicAddress.Of(shop.Value, context)}/api/v1/calendars/{secret}/dates.ics",
            shop.Value.Url is null
        );
    }

    private static IResult File(OpenOrders open, ShopOptions shop, TimeProvider clock, HttpContext context) =>
        Results.Text(
            CalendarFile.Write(
                open.Now().Cards.SelectMany(c => BenchDates.Of(c.Card)),
                shop.Name,
                PublicAddress.Reached(shop, context, "")?.TrimEnd('/'),
                clock.GetUtcNow()
            ),
            CalendarFile.MediaType
        );
}
