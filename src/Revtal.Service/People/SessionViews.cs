using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core.Orders;
using Revtal.Service.Outward;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>What a screen is told of who sits at it, and how they may come in.</summary>
internal sealed class SessionViews(
    SignInDesk desk,
    TabletDesk tablets,
    SignInStore store,
    OidcOptions oidc,
    MailOptions mail,
    IOptions<ShopOptions> shop
)
{
    /// <param name="person">Null for nobody.</param>
    /// <param name="tablet">Null where the screen is none.</param>
    public SessionView Of(Person? person, Tablet? tablet) =>
        new(
            person,
            shop.Value.Name,
            !desk.IsDemo && !store.HasLead(),
            desk.Demo,
            tablet is null ? null : tablets.Seat(tablet),
            person is null ? null : Own(person),
            oidc.Authority is null ? null : oidc.Name,
            mail.Host is not null
        );

    private OwnProofs Own(Person person) =>
        store.Account(person.Id) is { } account
            ? new OwnProofs(
                account.Password is not null,
                account.Pin is not null,
                account.AsksCode,
                OneTimeCodes.Left(account),
                account.Mail,
                account.MailFault
            )
            : new OwnProofs(false, false, false, 0);
}
