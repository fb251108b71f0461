using System.Diagnostics.Metrics;
using Revtal.Service.Live;
using Revtal.Service.Store;
using Revtal.Storage;

namespace Revtal.Service.Telemetry;

/// <summary>What is told of the shop beside the requests: few things, each asked when somebody looks.</summary>
internal sealed class ShopMeter : IDisposable
{
    private readonly Meter meter = new(StoreMeter.Name);

    public ShopMeter(
        LiveFeed feed,
        JournalWriter writer,
        Journal journal,
        BackupDesk backups,
        WebhookStore webhooks,
        TimeProvider clock
    )
    {
        meter.CreateObservableGauge(
            "revtal.live.listeners",
            () => feed.Listeners,
            "{listener}",
            "Screens that hear of changes from this instance."
        );
        meter.CreateObservableGauge(
            "revtal.live.lag",
            () => Asked(() => (double)(journal.LastPosition() - feed.Position)),
            "{entry}",
            "Entries that this instance's listeners were not told of yet."
        );
        meter.CreateObservableGauge(
            "revtal.journal.waiting",
            () => writer.Waiting,
            "{append}",
            "Appends of this instance that wait to be written."
        );
        meter.CreateObservableGauge(
            "revtal.backup.age",
            () =>
                Asked(() =>
                    backups.All().FirstOrDefault(b => b.IsGood) is { } good
                        ? (clock.GetUtcNow() - good.BeganAt).TotalSeconds
                        : null
                ),
            "s",
            "Since the last good backup; nothing where there is none."
        );
        meter.CreateObservableGauge(
            "revtal.webhook.dead",
            () => Asked(() => (double)webhooks.List().Sum(w => w.Dead)),
            "{message}",
            "Messages to other programs that were given up."
        );
    }

    public void Dispose() => meter.Dispose();

    // A store that does not answer has no figures now.
    private static IEnumerable<Measurement<double>> Asked(Func<double?> ask)
    {
        try
        {
            return ask() is { } value ? [new Measurement<double>(value)] : [];
        }
        catch (Exception e) when (StoreException.Of(e) is not null)
        {
            return [];
        }
    }
}
