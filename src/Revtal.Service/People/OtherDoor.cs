using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.OpenIdConnect;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Revtal.Core;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Another service that knows the shop's people; from the configuration section <c>Oidc</c>.</summary>
public sealed class OidcOptions
{
    /// <summary>Where it is: <c>https://id.example</c>; null where there is none.</summary>
    public string? Authority { get; set; }

    /// <summary>What this shop is called there.</summary>
    public string ClientId { get; set; } = "";

    public string ClientSecret { get; set; } = "";

    /// <summary>What people call it.</summary>
    public string Name { get; set; } = "the shop's account";

    /// <summary>The claim that is a person's id here.</summary>
    public string Claim { get; set; } = "preferred_username";

    /// <summary>What keeps these settings from being used; null for nothing.</summary>
    public string? Problem =>
        Authority is null ? null
        : !Uri.TryCreate(Authority, UriKind.Absolute, out var at) || !(at.Scheme == Uri.UriSchemeHttps || at.IsLoopback)
            ? $"“{Authority}” is no address of a sign-in service. Write one like https://id.example."
        : ClientId is "" || ClientSecret is "" ? "A sign-in service wants --oidc:clientId and --oidc:clientSecret."
        : null;
}

/// <summary>
/// Sign-in by another service (OpenID Connect Core 1.0, the code flow with PKCE, RFC 7636). It proves who somebody is;
/// who belongs to the shop is what its leads say.
/// </summary>
internal static class OtherDoor
{
    private const string Scheme = "oidc",
        Unused = "oidc-unused";

    /// <summary>What the console reads where the shop has nobody of that name.</summary>
    public const string Stranger = "/?stranger=";

    public static void AddOtherDoor(this IServiceCollection services, OidcOptions settings)
    {
        services.AddSingleton(settings);
        if (settings.Authority is null)
        {
            return;
        }

        services.AddDataProtection().SetApplicationName("revtal");
        services
            .AddOptions<KeyManagementOptions>()
            .Configure<KeyStore>((options, keys) => options.XmlRepository = new KeptKeys(keys));
        services
            .AddAuthentication()
            // The handler wants one; sessions are the door's own.
            .AddCookie(Unused)
            .AddOpenIdConnect(Scheme, o => Configure(o, settings));
    }

    public static void UseOtherDoor(this WebApplication app)
    {
        if (app.Services.GetRequiredService<OidcOptions>().Authority is not null)
        {
            app.UseAuthentication();
        }
    }

    /// <summary>Leads to the other service.</summary>
    /// <exception cref="RefusedException">None is configured.</exception>
    public static IResult Leave(OidcOptions settings) =>
        settings.Authority is null
            ? throw RefusedException.NotFound("no-oidc", "No other sign-in is set up here: sign in with a password.")
            : Results.Challenge(new AuthenticationProperties { RedirectUri = "/" }, [Scheme]);

    private static void Configure(OpenIdConnectOptions to, OidcOptions settings)
    {
        to.SignInScheme = Unused;
        to.Authority = settings.Authority;
        to.ClientId = settings.ClientId;
        to.ClientSecret = settings.ClientSecret;
        to.RequireHttpsMetadata = !new Uri(settings.Authority!).IsLoopback;
        to.ResponseType = "code";
        // A plain page change brings people back: nothing is posted from another site.
        to.ResponseMode = "query";
        to.NonceCookie.SameSite = to.CorrelationCookie.SameSite = SameSiteMode.Lax;
        to.CallbackPath = "/oidc/callback";
        to.GetClaimsFromUserInfoEndpoint = true;
        to.MapInboundClaims = false;
        to.TokenValidationParameters.NameClaimType = settings.Claim;
        to.ClaimActions.MapUniqueJsonKey(settings.Claim, settings.Claim);
        to.Events.OnTicketReceived = received => Done(() => ComeIn(received, settings));
        to.Events.OnRemoteFailure = failed => Done(() => Refuse(failed));
    }

    private static Task Done(Action work)
    {
        work();
        return Task.CompletedTask;
    }

    private static void ComeIn(TicketReceivedContext received, OidcOptions settings)
    {
        var context = received.HttpContext;
        var id = received.Principal?.FindFirst(settings.Claim)?.Value ?? "";
        var services = context.RequestServices;
        received.HandleResponse();
        if (services.GetRequiredService<PeopleStore>().List().FirstOrDefault(p => p.Id == id) is not { } person)
        {
            services
                .GetRequiredService<SignInStore>()
                .Note(
                    SignInDesk.Shortened(id),
                    "sign-in-failed",
                    services.GetRequiredService<TimeProvider>().GetUtcNow(),
                    settings.Name,
                    Door.From(context)
                );
            context.Response.Redirect(Stranger + Uri.EscapeDataString(id));
            return;
        }

        var (session, secret) = services
            .GetRequiredService<SignInDesk>()
            .Begin(person, null, Door.From(context), settings.Name);
        Door.Keep(context, secret, session.ExpiresAt);
        context.Response.Redirect("/");
    }

    // Who turned back there, or came with what was used already, begins again here.
    private static void Refuse(RemoteFailureContext failed)
    {
        failed.HandleResponse();
        failed.HttpContext.Response.Redirect("/");
    }
}
