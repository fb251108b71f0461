using Revtal.Service.Http;
using Revtal.Service.People;
using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>
/// <c>/api/v1/shop/store</c>: where the shop's data lies, its backups, and whether it is what was recorded.
/// </summary>
internal static class StoreEndpoints
{
    private const string Gzip = "application/gzip",
        Zip = "application/zip";

    public static IServiceCollection AddStoreKeeping(this IServiceCollection services, BackupOptions backups) =>
        services
            .AddSingleton(backups)
            .AddSingleton<StoreCheck>()
            .AddSingleton<BackupDesk>()
            .AddSingleton<StoreDesk>()
            .AddHostedService<Pulse>();

    public static void MapStore(this IEndpointRouteBuilder api)
    {
        var store = api.MapGroup("/shop/store").WithTags("shop");
        store
            .MapGet("/", (StoreDesk desk) => desk.Look())
            .WithName("getStore")
            .WithSummary("Where the data lies, the services on it and its backups (leads)");
        store
            .MapGet("/heads", (StoreDesk desk) => desk.Heads())
            .WithName("getHeads")
            .WithSummary("One hash a day of all that was recorded before, newest first, ten years of them (leads)");
        store
            .MapPost("/verify", (HttpContext context, StoreCheck check) => check.Begin(Door.Need(context).Person.Id))
            .WithName("verifyStore")
            .WithSummary("Look through the whole store beside the work (leads)")
            .WithDescription(
                "Follows the chain of hashes of each order, reads and folds its entries, compares what the board keeps "
                    + "of it with them, and hashes pictures and captures. One that goes on already is not begun anew."
            );
        store
            .MapGet("/verify", (StoreCheck check) => check.Now)
            .WithName("getVerification")
            .WithSummary("How far the newest look through the store is, or how it went (leads)");
        store
            .MapPost("/backups", (HttpContext context, BackupDesk desk) => desk.Begin(Door.Need(context).Person.Id))
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("makeBackup")
            .WithSummary("Make a backup in the service's own folder, now (leads)");
        store
            .MapGet("/backup", Fetch)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .Produces<byte[]>(contentType: Gzip, additionalContentTypes: [Zip])
            .WithName("fetchBackup")
            .WithSummary("All of the store as it is now, to be kept elsewhere (leads)")
            .WithDescription(
                "Gzip over JSON Lines; or a ZIP of tables as CSV, for other programs. Both are as "
                    + "docs/backup-format.md has them, both proved by what they end with, both taken in again by an "
                    + "empty store. They hold what proves people's passwords and what signs messages: keep them as you "
                    + "would keep those."
            );
    }

    private static IResult Fetch(
        HttpContext context,
        BackupDesk desk,
        SignInStore store,
        TimeProvider clock,
        CancellationToken cancel,
        Word<BackupForm>? form = null
    )
    {
        var (by, now) = (Door.Need(context).Person.Id, clock.GetUtcNow());
        var asked = form?.Value ?? BackupForm.Lines;
        var write = desk.Fetch(by, asked, cancel);
        store.Note(by, "backup-fetched", now, null, Door.From(context));
        context.Response.Headers.CacheControl = "no-store";
        return Results.Stream(write, asked == BackupForm.Tables ? Zip : Gzip, BackupFiles.Name(now, asked));
    }
}
