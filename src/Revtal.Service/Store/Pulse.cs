using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Revtal.Service.Live;
using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>
/// Says from time to time that this instance is there, and does for the store what its time has come for.
/// </summary>
internal sealed class Pulse(
    Instances instances,
    BackupDesk backups,
    DayHeads heads,
    LiveFeed feed,
    IServer server,
    IHostApplicationLifetime lifetime,
    TimeProvider clock,
    ILogger<Pulse> log
) : BackgroundService
{
    private readonly string id = Guid.CreateVersion7().ToString();

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var began = clock.GetUtcNow();
        var listens = new TaskCompletionSource();
        using var _ = lifetime.ApplicationStarted.Register(listens.SetResult);
        await listens.Task.WaitAsync(stoppingToken);
        using var beats = new PeriodicTimer(Instances.Beat, clock);
        var work = Task.CompletedTask;
        try
        {
            do
            {
                try
                {
                    instances.Tell(id, Name(), BuildVersion.Text, began, clock.GetUtcNow(), feed.Position);
                    if (work.IsCompleted)
                    {
                        work = Task.Run(() => WorkAsync(stoppingToken), CancellationToken.None);
                    }
                }
                catch (Exception e) when (StoreException.Of(e) is { } store)
                {
                    log.LogWarning("The store was not told that this instance is there: {Reason}", store.Message);
                }
            } while (await beats.WaitForNextTickAsync(stoppingToken));
        }
        catch (OperationCanceledException)
        {
            await work;
            Leave();
        }
    }

    // A day's head before the backup that has it.
    private async Task WorkAsync(CancellationToken cancel)
    {
        try
        {
            heads.Make(clock.GetUtcNow(), cancel);
            await backups.LookAsync(cancel);
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested)
        {
            // It ends; what was begun has said so.
        }
        catch (Exception e)
        {
            log.LogWarning("What the store's time had come for is not done: {Reason}", e.Message);
        }
    }

    // Whoever cannot say so is missed within a minute.
    private void Leave()
    {
        try
        {
            instances.Leave(id);
        }
        catch (Exception e) when (StoreException.Of(e) is { } store)
        {
            log.LogWarning("The store was not told that this instance ends: {Reason}", store.Message);
        }
    }

    private string Name()
    {
        var listens = server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault();
        return $"{Environment.MachineName} {listens}".Trim();
    }
}
