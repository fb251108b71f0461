using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Documents.Papers;
using Revtal.Service.Http;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Bench tablets: leads enrol and revoke them, and people change at them by badge or PIN.</summary>
internal static class TabletEndpoints
{
    public static void MapTablets(this IEndpointRouteBuilder api)
    {
        var tablets = api.MapGroup("/shop/tablets").WithTags("shop");
        tablets
            .MapGet("/", (TabletStore store) => store.List())
            .WithName("listTablets")
            .WithSummary("The bench's tablets (leads)");
        tablets
            .MapPost("/", Make)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("makeTablet")
            .WithSummary("Make a link that makes the screen on which it is opened a bench tablet, once (leads)");
        tablets
            .MapDelete("/{tablet}", Drop)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("dropTablet")
            .WithSummary("A tablet is one no longer, and whoever stood at it is signed out (leads)");
        api.MapPost("/shop/people/{id}/badge", MakeBadgeAsync)
            .WithTags("shop")
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("makeBadge")
            .WithSummary("A new badge for somebody; the one before opens nothing any more (leads)");
        var session = api.MapGroup("/session").WithTags("session");
        session
            .MapPost("/tablet/{link}", Enrol)
            .RequireRateLimiting(SessionEndpoints.Tries)
            .WithName("enrolTablet")
            .WithSummary("This screen is a bench tablet from now on");
        session
            .MapPost("/hands", ComeInAsync)
            .RequireRateLimiting(SessionEndpoints.Tries)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("changeHands")
            .WithSummary("Come in at a bench tablet by badge or PIN");
        session
            .MapPost("/pin", ChoosePinAsync)
            .RequireRateLimiting(SessionEndpoints.Tries)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("choosePin")
            .WithSummary("Choose a PIN for the bench's tablets, or do without one");
    }

    private static Created<TabletMade> Make(
        TabletRequest request,
        HttpContext context,
        TabletStore tablets,
        SignInStore store,
        IOptions<ShopOptions> shop,
        TimeProvider clock
    )
    {
        var (who, now) = (Door.Need(context), clock.GetUtcNow());
        var name = Words.RequiredLine("The tablet's name", request.Name);
        var until = now + TabletDesk.LinkLasts;
        var (tablet, link) = tablets.Make(name, now, until);
        store.Note(who.Person.Id, "tablet-made", now, name, Door.From(context));
        context.Response.Headers.CacheControl = "no-store";
        var address = SetUp.Address(shop.Value, context, "tablet", link);
        return Http.Made.At(
            $"shop/tablets/{tablet.Id}",
            new TabletMade(tablet, address, until, PublicAddress.IsHereOnly(address))
        );
    }

    private static NoContent Drop(
        string tablet,
        HttpContext context,
        TabletStore tablets,
        SignInStore store,
        TimeProvider clock
    )
    {
        if (tablets.List().FirstOrDefault(t => t.Id == tablet) is not { } known || !tablets.Drop(tablet))
        {
            throw RefusedException.NotFound("no-such-tablet", "The bench has no such tablet.");
        }

        store.EndAtTablet(tablet);
        store.Note(Door.Need(context).Person.Id, "tablet-revoked", clock.GetUtcNow(), known.Name, Door.From(context));
        return TypedResults.NoContent();
    }

    private static async Task<BadgeMade> MakeBadgeAsync(
        string id,
        HttpContext context,
        PeopleStore people,
        SignInStore store,
        TabletDesk desk,
        TimeProvider clock
    )
    {
        var person = people.Need(id);
        var code = await desk.MakeBadgeAsync(id);
        store.Note(Door.Need(context).Person.Id, "badge-made", clock.GetUtcNow(), id, Door.From(context));
        context.Response.Headers.CacheControl = "no-store";
        return new BadgeMade(person, code, QrPicture.Png(code));
    }

    private static SessionView Enrol(
        string link,
        HttpContext context,
        TabletStore tablets,
        SignInStore store,
        SessionViews views,
        TimeProvider clock
    )
    {
        var now = clock.GetUtcNow();
        var secret = tablets.Enrol(link, now) ?? throw NoLink();
        var tablet = tablets.Find(secret)!;
        store.Note(tablet.Name, "tablet-enrolled", now, from: Door.From(context));
        if (Door.Of(context) is { } who)
        {
            store.End(who.Session.Id, null);
            Door.Forget(context);
        }

        Door.KeepTablet(context, secret);
        return views.Of(null, tablet);
    }

    private static async Task<SignedInView> ComeInAsync(HandsRequest request, HttpContext context, TabletDesk desk)
    {
        var (tablet, shown) =
            Door.Tablet(context)
            ?? throw new NotSignedInException(
                "This screen is no bench tablet (any more). A lead enrols it.",
                "no-tablet"
            );
        var (person, session, secret) = await desk.ComeInAsync(tablet, request, Door.From(context));
        Door.Keep(context, secret, session.ExpiresAt);

        // Browsers forget after a while what is not given again.
        Door.KeepTablet(context, shown);
        context.Response.Headers.CacheControl = "no-store";
        return new SignedInView(person, session.ExpiresAt, null);
    }

    private static async Task<NoContent> ChoosePinAsync(PinRequest request, TabletDesk desk, HttpContext context)
    {
        await desk.ChoosePinAsync(Door.Need(context).Person, request, Door.From(context));
        return TypedResults.NoContent();
    }

    private static RefusedException NoLink() =>
        RefusedException.NotFound(
            "no-such-link",
            "This link enrols nothing any more: it was used, or is older than an hour. Ask a lead for another."
        );
}
