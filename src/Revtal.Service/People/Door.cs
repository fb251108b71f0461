using System.Net;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Who sends this request, as proved.</summary>
public sealed record SignedIn(Person Person, Session Session);

/// <summary>
/// Stands before every operation: who asks, and may they. The table is <see cref="WhoMayWhat"/>; an operation that has
/// no line in it keeps the service from starting to answer.
/// </summary>
internal static class Door
{
    private const string Bearer = "Bearer ";

    // What a browser keeps to this very host, and sends over no plain line.
    public const string SafeCookie = "__Host-revtal";

    // Where the bench's own network carries it in the plain.
    private const string PlainCookie = "revtal";

    // What a bench tablet shows itself by.
    private const string SafeTablet = "__Host-revtal-tablet",
        PlainTablet = "revtal-tablet";

    // As long as browsers keep anything.
    private static readonly TimeSpan TabletKept = TimeSpan.FromDays(400);

    /// <summary>Gives each operation its line of the table.</summary>
    public static void ByTable(EndpointBuilder endpoint) =>
        endpoint.Metadata.Add(
            WhoMayWhat.Of(endpoint.Metadata.OfType<IEndpointNameMetadata>().LastOrDefault()?.EndpointName ?? "")
        );

    public static void UseDoor(this WebApplication app) =>
        app.Use(
            (context, next) =>
            {
                if (context.GetEndpoint()?.Metadata.GetMetadata<Right>() is { } right)
                {
                    Admit(context, right);
                }

                return next(context);
            }
        );

    /// <summary>Who sent this; null for nobody.</summary>
    public static SignedIn? Of(HttpContext context)
    {
        if (context.Features.Get<SignedIn>() is { } known)
        {
            return known;
        }

        if (Found(context) is not { } signedIn)
        {
            return null;
        }

        context.Features.Set(signedIn);
        return signedIn;
    }

    /// <summary>Who sent this.</summary>
    /// <exception cref="NotSignedInException">Nobody known.</exception>
    public static SignedIn Need(HttpContext context) =>
        Of(context) ?? throw new NotSignedInException("Nobody is signed in here. Sign in first.");

    /// <summary>Whether who sent this is signed in now too, of a request that takes its time.</summary>
    public static bool IsStill(HttpContext context) => Found(context) is not null;

    private static SignedIn? Found(HttpContext context)
    {
        if (Secret(context.Request) is not { } secret)
        {
            return null;
        }

        var services = context.RequestServices;
        var now = services.GetRequiredService<TimeProvider>().GetUtcNow();
        if (
            services.GetRequiredService<SignInStore>().Find(secret, now, SignInDesk.Idle)
            is not { Kind: not SessionKind.Calendar } session
        )
        {
            return null;
        }

        var people = services.GetRequiredService<PeopleStore>().List();
        return people.FirstOrDefault(p => p.Id == session.Person) is { } person ? new SignedIn(person, session) : null;
    }

    /// <summary>Gives a browser its session.</summary>
    public static void Keep(HttpContext context, string secret, DateTimeOffset until) =>
        context.Response.Cookies.Append(IsSafe(context) ? SafeCookie : PlainCookie, secret, Cookie(context, until));

    /// <summary>Has this screen show itself as a bench tablet from now on.</summary>
    public static void KeepTablet(HttpContext context, string secret) =>
        context.Response.Cookies.Append(
            IsSafe(context) ? SafeTablet : PlainTablet,
            secret,
            Cookie(context, context.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow() + TabletKept)
        );

    /// <summary>Which bench tablet this is, and what it shows itself by; null for none.</summary>
    public static (Tablet Tablet, string Shown)? Tablet(HttpContext context) =>
        (context.Request.Cookies[SafeTablet] ?? context.Request.Cookies[PlainTablet]) is { } shown
        && context.RequestServices.GetRequiredService<TabletStore>().Find(shown) is { } tablet
            ? (tablet, shown)
            : null;

    /// <summary>Takes it away again.</summary>
    public static void Forget(HttpContext context)
    {
        foreach (var name in (string[])[SafeCookie, PlainCookie])
        {
            if (context.Request.Cookies.ContainsKey(name))
            {
                context.Response.Cookies.Append(name, "", Cookie(context, DateTimeOffset.UnixEpoch));
            }
        }
    }

    /// <summary>Where a request came from, for the audit list.</summary>
    public static string? From(HttpContext context) => context.Connection.RemoteIpAddress?.ToString();

    private static void Admit(HttpContext context, Right right)
    {
        var request = context.Request;
        var changes = !HttpMethods.IsGet(request.Method) && !HttpMethods.IsHead(request.Method);
        if (changes && CameFromElsewhere(request))
        {
            throw new RefusedException(
                RefusalKind.Role,
                "cross-site",
                "A page of another site sent this. Changes are taken from Revtal's own pages and from programs."
            );
        }

        if (right.IsOpen)
        {
            return;
        }

        var who = Need(context);
        right.Need(who.Person.Role, who.Session.Kind);
        if (changes && who.Session.Looks)
        {
            throw new RefusedException(
                RefusalKind.Role,
                "token-looks",
                $"The token “{who.Session.Name}” only looks. Make one that may change things."
            );
        }
    }

    // A browser says where a request began; one that says nothing could have been led here. A token is no cookie: no
    // page can send it unasked.
    private static bool CameFromElsewhere(HttpRequest request)
    {
        var site = request.Headers["Sec-Fetch-Site"].ToString();
        if (site is not "")
        {
            return site is not ("same-origin" or "none");
        }

        var origin = request.Headers.Origin.ToString();
        return origin is not ""
            ? !Uri.TryCreate(origin, UriKind.Absolute, out var from) || from.Authority != request.Host.Value
            : ByCookie(request);
    }

    private static bool ByCookie(HttpRequest request) =>
        request.Headers.Authorization.Count == 0
        && ((string[])[SafeCookie, PlainCookie, SafeTablet, PlainTablet]).Any(request.Cookies.ContainsKey);

    private static string? Secret(HttpRequest request)
    {
        var told = request.Headers.Authorization.ToString();
        return told.StartsWith(Bearer, StringComparison.OrdinalIgnoreCase)
            ? told[Bearer.Length..].Trim()
            : request.Cookies[SafeCookie] ?? request.Cookies[PlainCookie];
    }

    // A browser treats its own machine as a safe line.
    private static bool IsSafe(HttpContext context) =>
        context.Request.IsHttps
        || context.Request.Host.Host is "localhost"
        || (IPAddress.TryParse(context.Request.Host.Host.Trim('[', ']'), out var ip) && IPAddress.IsLoopback(ip));

    private static CookieOptions Cookie(HttpContext context, DateTimeOffset until) =>
        new()
        {
            HttpOnly = true,
            Secure = IsSafe(context),
            SameSite = Microsoft.AspNetCore.Http.SameSiteMode.Strict,
            Path = "/",
            Expires = until,
        };
}
