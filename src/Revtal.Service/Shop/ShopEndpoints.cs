using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Shop;

/// <summary>What the shop is called and where it stands; from the configuration section <c>Shop</c>.</summary>
public sealed class ShopOptions
{
    public string Name { get; set; } = "Repair bench";

    /// <summary>IANA name of the bench's time zone.</summary>
    public string Zone { get; set; } = "UTC";
}

/// <summary><c>/api/v1/shop</c>: the shop and its people.</summary>
public static class ShopEndpoints
{
    public static void MapShop(this IEndpointRouteBuilder api)
    {
        var shop = api.MapGroup("/shop").WithTags("shop");
        shop.MapGet("/", async (PeopleStore people, IOptions<ShopOptions> options, CancellationToken cancel) =>
            new ShopView(options.Value.Name, options.Value.Zone, BuildVersion.Text, await people.ListAsync(cancel)))
            .WithName("getShop").WithSummary("The shop and its people");
        shop.MapPut("/people/{id}", PutPersonAsync).WithName("putPerson").WithSummary("Add or change somebody (leads; the first person must be one)");
    }

    private static async Task<Person> PutPersonAsync(string id, PersonRequest request, HttpContext context, PeopleStore people, CancellationToken cancel)
    {
        // The first person cannot be named by anyone else.
        var first = (await people.ListAsync(cancel)).Count == 0;
        var role = first ? request.Role : (await Sender.BindAsync(context)).Person.Role;
        if (role != Role.Lead)
        {
            throw new RefusedException(RefusalKind.Role, "lead-names", first ? "The first person must be a lead." : "People are added by a lead.");
        }

        var person = new Person(id, request.Name, request.Role);
        await people.PutAsync(person, cancel);
        return person;
    }
}
