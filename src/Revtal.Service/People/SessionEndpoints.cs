using Microsoft.AspNetCore.Http.HttpResults;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary><c>/api/v1/session</c>: who sits here, how they come in, and what else is open in their name.</summary>
internal static class SessionEndpoints
{
    /// <summary>How often one address may try a password or a link in a minute.</summary>
    public const string Tries = "tries";

    public static void MapSessions(this IEndpointRouteBuilder api)
    {
        var session = api.MapGroup("/session").WithTags("session");
        session
            .MapGet(
                "/",
                (HttpContext context, SessionViews views) =>
                    views.Of(Door.Of(context)?.Person, Door.Tablet(context)?.Tablet)
            )
            .WithName("getSession")
            .WithSummary("Who is signed in here");
        session
            .MapPost(
                "/",
                async (SignInRequest request, SignInDesk desk, HttpContext context) =>
                    Begin(
                        desk,
                        await desk.ProveAsync(request.Person, request.Password, request.Code, Door.From(context)),
                        request.TokenName,
                        context
                    )
            )
            .RequireRateLimiting(Tries)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("signIn")
            .WithSummary("Sign in with a password: a browser gets a cookie, a program a token");
        session
            .MapPost(
                "/demo",
                (DemoSignInRequest request, SignInDesk desk, HttpContext context) =>
                    Begin(desk, desk.OfDemo(request.Person), request.TokenName, context)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("signInToDemo")
            .WithSummary("Sign in as one of the demo's people, who have no passwords");
        session
            .MapGet("/oidc", (OidcOptions settings) => OtherDoor.Leave(settings))
            .RequireRateLimiting(Tries)
            .Produces(StatusCodes.Status302Found)
            .WithMetadata(new ApiFacts(MayBeMissing: true))
            .WithName("signInElsewhere")
            .WithSummary("Lead to the sign-in service that the shop uses; a browser comes back signed in");
        session.MapDelete("/", SignOut).WithName("signOut").WithSummary("Sign out here");
        session
            .MapGet("/set-up/{link}", (string link, SignInDesk desk) => new SetUpView(desk.LinkFor(link)))
            .RequireRateLimiting(Tries)
            .WithName("readSetUpLink")
            .WithSummary("Whose password a set-up link sets");
        session
            .MapPost(
                "/set-up/{link}",
                async (
                    string link,
                    SetUpRequest request,
                    SignInDesk desk,
                    HttpContext context,
                    CancellationToken cancel
                ) =>
                    Begin(
                        desk,
                        await desk.UseLinkAsync(link, request, Door.From(context), cancel),
                        request.TokenName,
                        context
                    )
            )
            .RequireRateLimiting(Tries)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("useSetUpLink")
            .WithSummary("Set a password by a link that works once, and sign in");
        session
            .MapPost("/password", ChangePasswordAsync)
            .RequireRateLimiting(Tries)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("changePassword")
            .WithSummary("A new password; whoever else is signed in with the old one no longer is");
        session
            .MapGet("/all", (HttpContext context, SignInStore store, TimeProvider clock) => All(context, store, clock))
            .WithName("listSessions")
            .WithSummary("Where one is signed in, and one's tokens");
        session
            .MapPost("/tokens", MakeToken)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("makeToken")
            .WithSummary("A token for a program; told once");
        session
            .MapDelete("/all/{session}", EndSession)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("endSession")
            .WithSummary("End one of one's sessions or tokens; a lead anybody's");
    }

    private static SignedInView Begin(SignInDesk desk, Person person, string? tokenName, HttpContext context)
    {
        var (session, secret) = desk.Begin(person, tokenName, Door.From(context));
        if (tokenName is null)
        {
            Door.Keep(context, secret, session.ExpiresAt);
        }

        context.Response.Headers.CacheControl = "no-store";
        return new SignedInView(person, session.ExpiresAt, tokenName is null ? null : secret);
    }

    private static NoContent SignOut(HttpContext context, SignInStore store, TimeProvider clock)
    {
        if (Door.Of(context) is { } who)
        {
            store.End(who.Session.Id, null);
            store.Note(who.Person.Id, "signed-out", clock.GetUtcNow(), from: Door.From(context));
        }

        Door.Forget(context);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> ChangePasswordAsync(
        PasswordRequest request,
        SignInDesk desk,
        HttpContext context
    )
    {
        var who = Door.Need(context);
        await desk.ChangeAsync(who.Person, request, who.Session.Id, Door.From(context));
        return TypedResults.NoContent();
    }

    // A lead sees everybody's: what was lost is theirs to end.
    private static IReadOnlyList<SessionLine> All(HttpContext context, SignInStore store, TimeProvider clock)
    {
        var who = Door.Need(context);
        return
        [
            .. store
                .Sessions(who.Person.IsLead ? null : who.Person.Id, clock.GetUtcNow())
                .Select(s => new SessionLine(s, s.Id == who.Session.Id)),
        ];
    }

    private static Created<TokenMade> MakeToken(
        TokenRequest request,
        HttpContext context,
        SignInStore store,
        TimeProvider clock
    )
    {
        const int mostDays = 365;
        if (request.Days is < 1 or > mostDays)
        {
            throw RefusedException.Invalid("token-days", $"A token works for 1 to {mostDays} days.");
        }

        var who = Door.Need(context);
        var name = Words.RequiredLine("The token's name", request.Name);
        var now = clock.GetUtcNow();
        var (session, secret) = store.Begin(
            who.Person.Id,
            SessionKind.Token,
            name,
            request.Looks,
            now,
            TimeSpan.FromDays(request.Days)
        );
        store.Note(who.Person.Id, "token-made", now, name, Door.From(context));
        context.Response.Headers.CacheControl = "no-store";
        return TypedResults.Created($"/api/v1/session/all/{session.Id}", new TokenMade(session, secret));
    }

    private static NoContent EndSession(string session, HttpContext context, SignInStore store, TimeProvider clock)
    {
        var who = Door.Need(context);
        if (!store.End(session, who.Person.IsLead ? null : who.Person.Id))
        {
            throw RefusedException.NotFound("no-such-session", "There is no such session or token of yours.");
        }

        store.Note(who.Person.Id, "session-ended", clock.GetUtcNow(), session, Door.From(context));
        return TypedResults.NoContent();
    }
}
