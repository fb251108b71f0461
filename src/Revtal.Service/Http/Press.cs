using Microsoft.Extensions.Options;
using Revtal.Documents.Papers;
using Revtal.Service.Shop;

namespace Revtal.Service.Http;

/// <summary>Where papers are printed: in the shop's name, by its clock, on its size of paper.</summary>
public sealed class Press(IOptions<ShopOptions> shop, TimeProvider clock)
{
    /// <param name="name">Of the file: <c>run-104.pdf</c>.</param>
    public IResult Print(HttpResponse response, string name, Func<Printing, byte[]> write)
    {
        // The browser shows a PDF in a page of its own making, which the policy for the API would leave without style.
        response.Headers.ContentSecurityPolicy = "frame-ancestors 'none'";
        response.Headers.ContentDisposition = $"inline; filename=\"{name}\"";
        return Results.Bytes(
            write(new Printing(shop.Value.Name, clock.GetUtcNow(), shop.Value.TimeZone, shop.Value.Paper)),
            "application/pdf"
        );
    }
}
