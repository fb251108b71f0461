using Revtal.Service.Shop;

namespace Revtal.Service.Http;

/// <summary>The addresses that are handed out: to customers, to machines, to other screens.</summary>
internal static class PublicAddress
{
    /// <summary>The shop's own, or the one by which this was asked; without a slash at its end.</summary>
    public static string Of(ShopOptions shop, HttpContext context) => Own(shop) ?? Asked(context);

    /// <summary>The shop's own; null where no setting tells it.</summary>
    public static string? Own(ShopOptions shop) => shop.Url?.TrimEnd('/');

    /// <summary>The one by which this was asked.</summary>
    public static string Asked(HttpContext context) => $"{context.Request.Scheme}://{context.Request.Host}";

    /// <summary>Whether it leads every other machine to itself.</summary>
    public static bool IsHereOnly(string address) => new Uri(address).IsLoopback;
}
