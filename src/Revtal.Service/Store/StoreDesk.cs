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
    // Ten years.
    private const int MostHeads = 3_660;

    /// <summary>One hash a day of all that was recorded before, newest first.</summary>
    public IReadOnlyList<DayHead> Heads() => heads.Newest(MostHeads);

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
            heads.Newest(1) is [var newest] ? newest : null,
            webhooks.List().Sum(w => w.Dead)
        );
    }
}
