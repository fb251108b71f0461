using Revtal.Service.Http;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Links that set a password once.</summary>
internal static class SetUp
{
    /// <summary>The log's category of what opens the shop: for this machine's eyes alone.</summary>
    public const string Category = "revtald.set-up";

    /// <summary>A link's address. What opens it stands behind #, which a browser sends to nobody.</summary>
    /// <param name="page">That takes it: <c>set-up</c>, <c>tablet</c>.</param>
    public static string Address(ShopOptions shop, HttpContext context, string page, string link) =>
        At(PublicAddress.Of(shop, context), page, link);

    /// <summary>Says at the start how the shop gets its first lead; nothing once it has one who can sign in.</summary>
    public static void TellFirst(WebApplication app)
    {
        var store = app.Services.GetRequiredService<SignInStore>();
        if (app.Services.GetRequiredService<DemoSignIn>().IsOffered || store.HasLead())
        {
            return;
        }

        var now = app.Services.GetRequiredService<TimeProvider>().GetUtcNow();
        var link = store.Link(null, now + SignInDesk.LinkLasts);
        var log = app.Services.GetRequiredService<ILoggerFactory>().CreateLogger(Category);
        log.LogWarning(
            "No lead of this shop has a password yet. Within a day, open {Link} once to become the first.",
            At(app.Urls.First(), "set-up", link)
        );
    }

    private static string At(string address, string page, string link) => $"{address.TrimEnd('/')}/{page}#{link}";
}
