using Microsoft.Extensions.Options;
using Revtal.Core;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>Makes backups: files of its own when their time has come, and streams for whoever fetches one.</summary>
internal sealed class BackupDesk(
    BackupWriter writer,
    TablesWriter tables,
    StoreTasks tasks,
    BackupOptions options,
    IOptions<ShopOptions> shop,
    TimeProvider clock,
    IHostApplicationLifetime lifetime,
    ILogger<BackupDesk> log
)
{
    private const int MostShown = 20;

    /// <summary>Those of the service's own and those that were fetched, newest first.</summary>
    public IReadOnlyList<BackupMade> All() =>
        [.. Of(StoreTask.Backup).Concat(Of(StoreTask.Fetch)).OrderByDescending(b => b.BeganAt).Take(MostShown)];

    /// <summary>Makes one where its time has come and no other instance makes it.</summary>
    public async Task LookAsync(CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        if (
            options.Plan is { } plan
            && BackupRules.IsDue(plan, Of(StoreTask.Backup), now)
            && tasks.Begin(StoreTask.Backup, Begun(now, null), now, now - BackupRules.BetweenTries(plan)) is { } id
        )
        {
            await MakeAsync(id, Begun(now, null), cancel);
        }
    }

    /// <summary>Begins one now, for the service's own folder.</summary>
    /// <exception cref="RefusedException">There is no folder, or one is made already.</exception>
    public BackupMade Begin(string by)
    {
        if (options.Plan is null)
        {
            throw RefusedException.Rule(
                "no-backup-folder",
                "This service has no folder for backups: start it with --backup:folder FOLDER, or fetch one."
            );
        }

        var begun = Begun(clock.GetUtcNow(), by);
        var id = tasks.Begin(StoreTask.Backup, begun, begun.BeganAt) ?? throw GoesOn();
        _ = Task.Run(() => MakeAsync(id, begun, lifetime.ApplicationStopping));
        return begun;
    }

    /// <summary>One to be streamed to whoever asked.</summary>
    /// <exception cref="RefusedException">Another is fetched already.</exception>
    public Func<Stream, Task> Fetch(string by, BackupForm form, CancellationToken cancel)
    {
        var begun = Begun(clock.GetUtcNow(), by);
        var id = tasks.Begin(StoreTask.Fetch, begun, begun.BeganAt) ?? throw GoesOn();
        return async to =>
        {
            using var task = Running(id, begun);
            try
            {
                var end = await WriteAsync(task, form, to, cancel);
                End(task, begun with { Rows = end.Rows, Sha256 = end.Sha256 });
            }
            catch (Exception e)
            {
                End(
                    task,
                    begun with
                    {
                        Trouble = cancel.IsCancellationRequested ? "Whoever fetched it left." : Why(e),
                    }
                );
                throw;
            }
        };
    }

    private IReadOnlyList<BackupMade> Of(StoreTask task) =>
        [
            .. tasks
                .Of<BackupMade>(task, MostShown)
                .Select(t =>
                    t.EndedAt is null && t.ToldAt < clock.GetUtcNow() - StoreTasks.Silence
                        ? t.So with
                        {
                            EndedAt = t.ToldAt,
                            Trouble = "The service that made it ended.",
                        }
                        : t.So
                ),
        ];

    private static BackupMade Begun(DateTimeOffset now, string? by) =>
        new(now, by, null, null, 0, 0, null, null, 0, null, null);

    private async Task MakeAsync(string id, BackupMade begun, CancellationToken cancel)
    {
        using var task = Running(id, begun);
        var files = new BackupFiles(Path.GetFullPath(options.Folder!));
        try
        {
            var name = BackupFiles.Name(begun.BeganAt);
            var (path, bytes, proof) = await files.MakeAsync(
                name,
                to => WriteAsync(task, BackupForm.Lines, to, cancel),
                cancel
            );
            End(
                task,
                begun with
                {
                    File = path,
                    Bytes = bytes,
                    Rows = proof.End.Rows,
                    Orders = proof.Orders,
                    Entries = proof.Entries,
                    Faults = proof.Faults,
                    Sha256 = proof.End.Sha256,
                }
            );
            log.LogInformation("Backup {File}: {Rows} rows, {Bytes} bytes", path, proof.End.Rows, bytes);
            if (proof.Faults > 0)
            {
                return;
            }
        }
        catch (Exception e)
        {
            log.LogWarning("No backup was made: {Reason}", e.Message);
            var why = cancel.IsCancellationRequested ? "The service that made it ended." : Why(e);
            End(task, begun with { Trouble = why });
            return;
        }

        Prune(files);
    }

    // Old ones that stay are no fault of the new one.
    private void Prune(BackupFiles files)
    {
        try
        {
            files.Keep(options.Keep);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            log.LogWarning("Old backups are not removed: {Reason}", e.Message);
        }
    }

    private RunningTask<BackupMade> Running(string id, BackupMade begun) => new(tasks, id, begun, clock, log);

    private Task<BackupEnd> WriteAsync(
        RunningTask<BackupMade> task,
        BackupForm form,
        Stream to,
        CancellationToken cancel
    )
    {
        var (name, made, version) = (shop.Value.Name, task.So.BeganAt, BuildVersion.Text);
        return form == BackupForm.Tables
            ? tables.WriteAsync(to, name, made, version, Told, cancel)
            : writer.WriteAsync(to, name, made, version, Told, cancel);

        void Told(long rows) => task.So = task.So with { Rows = rows };
    }

    private void End(RunningTask<BackupMade> task, BackupMade made) =>
        task.End(made with { EndedAt = clock.GetUtcNow() });

    private static string Why(Exception e) =>
        StoreException.Of(e)?.Message
        ?? (e is IOException or UnauthorizedAccessException ? e.Message : "It broke off: the service's log says why.");

    private static RefusedException GoesOn() =>
        RefusedException.Rule("backup-goes-on", "A backup is made already. Wait until it is done.");
}
