using Revtal.Service.People;

namespace Revtal.Service.Store;

/// <summary><c>/api/v1/shop/store</c>: whether what is kept is what was recorded.</summary>
internal static class StoreEndpoints
{
    public static IServiceCollection AddStoreCheck(this IServiceCollection services) =>
        services.AddSingleton<StoreCheck>();

    public static void MapStore(this IEndpointRouteBuilder api)
    {
        var store = api.MapGroup("/shop/store/verify").WithTags("shop");
        store
            .MapPost("/", (HttpContext context, StoreCheck check) => check.Begin(Door.Need(context).Person.Id))
            .WithName("verifyStore")
            .WithSummary("Look through the whole store beside the work (leads)")
            .WithDescription(
                "Follows the chain of hashes of each order, reads and folds its entries, compares what the board keeps "
                    + "of it with them, and hashes pictures and captures. One that goes on already is not begun anew."
            );
        store
            .MapGet("/", (StoreCheck check) => check.Now)
            .WithName("getVerification")
            .WithSummary("How far the newest look through the store is, or how it went (leads)");
    }
}
