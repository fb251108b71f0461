using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Revtal.Core.Guides;

namespace Revtal.Storage;

/// <summary>The stores of one shop, for a service's container.</summary>
public static class StorageServices
{
    /// <param name="engine">The database under it; ended by whoever opened it.</param>
    /// <param name="read">Understands a guide file, a new or a published one; files are not this project's
    /// business.</param>
    /// <param name="write">A guide as a file.</param>
    /// <param name="signKey">The file of the key by which the shop signs; null for one of the store's own.</param>
    public static IServiceCollection AddStorage(
        this IServiceCollection services,
        IStoreEngine engine,
        Func<string, bool, GuideResult> read,
        Func<Guide, string> write,
        string? signKey
    ) =>
        services
            .AddSingleton(engine)
            .AddSingleton(engine.Databases)
            .AddSingleton(engine.Connections)
            .AddSingleton(new Changes(engine.IsShared))
            .AddSingleton<Journal>()
            .AddSingleton<JournalWriter>()
            .AddSingleton<TraceKeeper>()
            .AddSingleton<Road>()
            .AddSingleton<PeopleStore>()
            .AddSingleton<SignInStore>()
            .AddSingleton<TabletStore>()
            .AddSingleton<NoticeStore>()
            .AddSingleton<WebhookStore>()
            .AddSingleton<PartStore>()
            .AddSingleton<PictureStore>()
            .AddSingleton<DummyStore>()
            .AddSingleton(s => new GuideShelf(
                s.GetRequiredService<IDbContextFactory<RevtalDb>>(),
                s.GetRequiredService<Connections>(),
                s.GetRequiredService<Road>(),
                s.GetRequiredService<Changes>(),
                read,
                write
            ))
            .AddSingleton<DraftShelf>()
            .AddSingleton<Verifier>()
            .AddSingleton<Rebuild>()
            .AddSingleton<StoreTasks>()
            .AddSingleton<Instances>()
            .AddSingleton<BackupWriter>()
            .AddSingleton<TablesWriter>()
            .AddSingleton<Restore>()
            .AddSingleton<Histories>()
            .AddSingleton<KeyStore>()
            .AddSingleton(s => new ShopKey(s.GetRequiredService<KeyStore>(), signKey))
            .AddSingleton<DayHeads>()
            .AddSingleton<ArrivalStore>();
}
