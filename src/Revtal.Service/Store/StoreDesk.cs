using Revtal.Contracts;
using Revtal.Core;
using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>What a lead sees of the store.</summary>
internal sealed class StoreDesk(
    IStoreEngine engine,
    Journal journal,
    Instances instances,
    BackupDesk backups,
    BackupOptions options,
    StoreCheck check,
    WebhookStore webhooks,
    DayHeads heads,
    TimeProvider clock
)
{
    private const int MostHeads = 400;

    public StoreView Look()
    {
        var now = clock.GetUtcNow();
        var made = backups.All();
        return new StoreView(
            engine.Place,
            BuildVersion.Text,
            engine.Room,
            journal.LastPosition(),
            instances.All(now),
            options.Plan,
            made,
            BackupRules.Warnings(options.Plan, made, now),
            check.Now,
            heads.Newest(MostHeads),
            webhooks.List().Sum(w => w.Dead)
        );
    }
}
