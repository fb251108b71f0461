using Revtal.Contracts;
using Revtal.Core;
using Revtal.Service.Http;
using Revtal.Service.People;
using Revtal.Storage;

namespace Revtal.Service.Live;

/// <summary><c>/api/v1/orders/{number}/here</c>: who else has the order open.</summary>
internal static class HereEndpoints
{
    private const int LongestScreen = 64;

    public static void MapHere(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}/here").WithTags("orders");
        order
            .MapGet(
                "/",
                (int number, Presence presence, Journal journal) =>
                {
                    Need(journal, number);
                    return presence.At(number);
                }
            )
            .WithName("getHere")
            .WithSummary("Who has the order open now");
        order
            .MapPut("/", Tell)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("tellHere")
            .WithSummary("Say that a page of the order is open; again within 40 s while it is")
            .WithDescription("Nothing of it is recorded. Who listens to live changes is told who comes and goes.");
    }

    private static HereView Tell(
        int number,
        HereRequest request,
        HttpContext context,
        Presence presence,
        Journal journal,
        LiveFeed feed
    )
    {
        Need(journal, number);
        if (request.Screen.Length is 0 or > LongestScreen)
        {
            throw RefusedException.Invalid("screen-form", $"A page names itself with 1 to {LongestScreen} characters.");
        }

        var (now, changed) = presence.Say(number, Door.Need(context).Person.Id, request.Screen, request.Doing);
        if (changed)
        {
            feed.Tell(now);
        }

        return now;
    }

    private static void Need(Journal journal, int number)
    {
        if (journal.Head(number) is null)
        {
            throw RefusedException.NotFound("no-such-order", $"There is no order {number}.");
        }
    }
}
