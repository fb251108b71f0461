using Revtal.Contracts;
using Revtal.Core;
using Revtal.Service.Shop;

namespace Revtal.Service.Http;

/// <summary>The addresses that are handed out: to customers, to machines, to other screens.</summary>
internal static class PublicAddress
{
    /// <summary>The shop's own, or the one by which this was asked; without a slash at its end.</summary>
    public static string Of(ShopOptions shop, HttpContext context) => Own(shop) ?? Asked(context);

    /// <summary>A customer's link, shown once it is recorded.</summary>
    /// <param name="kept">The hash that the journal has of it.</param>
    /// <param name="page">What it opens: <c>quote</c>, <c>report</c>.</param>
    /// <exception cref="RefusedException">A retry is answered with what was recorded first, and that link's secret is
    /// kept nowhere.</exception>
    public static OfferView Offer(
        CustomerLink link,
        string kept,
        string page,
        Receipt receipt,
        ShopOptions shop,
        HttpContext context
    ) =>
        kept == link.Hash
            ? new OfferView(
                receipt,
                $"{Of(shop, context)}/{page}/{link.Of(receipt.Order)}",
                link.Until,
                shop.Url is null
            )
            : throw RefusedException.Rule(
                "link-shown-once",
                "This link was made before, and it is shown once. Make another; it closes the first."
            );

    /// <summary>The shop's own; null where no setting tells it.</summary>
    public static string? Own(ShopOptions shop) => shop.Url?.TrimEnd('/');

    /// <summary>A page of it for whoever stands elsewhere; null where nobody there reaches one.</summary>
    public static string? Reached(ShopOptions shop, HttpContext context, string page) =>
        Own(shop) is { } own ? $"{own}/{page}"
        : IsHereOnly(Asked(context)) ? null
        : $"{Asked(context)}/{page}";

    /// <summary>The one by which this was asked.</summary>
    public static string Asked(HttpContext context) => $"{context.Request.Scheme}://{context.Request.Host}";

    /// <summary>Whether it leads every other machine to itself.</summary>
    public static bool IsHereOnly(string address) => new Uri(address).IsLoopback;
}
