using Revtal.Storage;

namespace Revtal.Service.Live;

/// <summary>Listens to the store for what other instances record, and again whenever that was cut off.</summary>
internal sealed class Ear(IStoreEngine engine, Journal journal, Changes changes, TimeProvider clock, ILogger<Ear> log)
    : BackgroundService
{
    private static readonly TimeSpan BetweenTries = TimeSpan.FromSeconds(1);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (engine is not PostgresEngine shared)
        {
            return;
        }

        var ear = new PostgresEar(shared, journal, changes);
        ear.Begin();
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await ear.ListenAsync(stoppingToken);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogWarning("What other instances record is not heard now: {Reason}", e.Message);
                await Task.Delay(BetweenTries, clock, stoppingToken);
            }
        }
    }
}
