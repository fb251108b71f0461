using System.Net;
using Revtal.Client;
using Revtal.Core;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Backups that the service makes by itself, and those that are fetched.</summary>
public sealed class BackupTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-backups-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task The_service_makes_one_a_day_proves_it_and_keeps_as_many_as_it_was_told()
    {
        await File.WriteAllTextAsync(Path.Combine(folder, "letters.txt"), "not ours");
        await using var service = await ClockedService.OpenAsync("--backup:folder", folder, "--backup:keep", "2");
        var ines = service.As("ines");
        await ines.TakeInAsync(Story.TakeIn);
        var first = await MadeAsync(service, 1);
        Assert.Empty((await ines.StoreAsync()).Warnings);
        await service.PassAsync(TimeSpan.FromHours(23));
        Assert.Single((await ines.StoreAsync()).Backups);
        await service.PassAsync(TimeSpan.FromHours(2));
        await MadeAsync(service, 2);
        await service.PassAsync(TimeSpan.FromHours(25));
        var last = await MadeAsync(service, 3);

        Assert.Equal(3, Directory.GetFiles(folder).Length);
        Assert.True(File.Exists(Path.Combine(folder, "letters.txt")));
        Assert.False(File.Exists(first.File));
        Assert.Equal((1, 1L, 0), (last.Orders, last.Entries, last.Faults));
        await using var file = File.OpenRead(last.File!);
        var proof = await BackupProver.ProveAsync(file, "last", cancel: TestContext.Current.CancellationToken);
        Assert.Equal((last.Sha256, last.Rows), (proof.End.Sha256, proof.End.Rows));
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(last.File!));
    }

    [Fact]
    public async Task Where_it_cannot_be_written_a_lead_is_told_why_and_it_is_tried_again()
    {
        var taken = Path.Combine(folder, "taken");
        await File.WriteAllTextAsync(taken, "a file where the folder should be");
        await using var service = await ClockedService.OpenAsync("--backup:folder", taken);
        var failed = await MadeAsync(service, 1);
        Assert.NotNull(failed.Trouble);
        var warnings = (await service.As("ines").StoreAsync()).Warnings;
        Assert.Equal("There is no backup yet.", warnings[0]);
        Assert.Contains(failed.Trouble, warnings[1], StringComparison.Ordinal);

        File.Delete(taken);
        await service.PassAsync(TimeSpan.FromMinutes(70));
        Assert.Null((await MadeAsync(service, 2)).Trouble);
        Assert.Empty((await service.As("ines").StoreAsync()).Warnings);
    }

    [Fact]
    public async Task Only_a_lead_fetches_one_and_it_is_written_down_who_did()
    {
        await using var service = await ServiceProcess.StartAsync();
        var (ines, mara) = (service.As("ines"), service.As("mara"));
        var refused = await Assert.ThrowsAsync<ProblemException>(() => mara.FetchBackupAsync(Stream.Null));
        Assert.Equal((HttpStatusCode.Forbidden, "lead-keeps"), (refused.Status, refused.Code));
        refused = await Assert.ThrowsAsync<ProblemException>(() => ines.MakeBackupAsync());
        Assert.Equal("no-backup-folder", refused.Code);
        Assert.Contains("none is made by itself", Assert.Single((await ines.StoreAsync()).Warnings));

        var to = new MemoryStream();
        await ines.FetchBackupAsync(to);
        to.Position = 0;
        var proof = await BackupProver.ProveAsync(to, "fetched", cancel: TestContext.Current.CancellationToken);
        Assert.Equal(0, proof.Faults);
        Assert.Contains((await ines.AuditAsync()).Items, l => l is { What: "backup-fetched", By: "ines" });
        var store = await ines.StoreAsync();
        Assert.Equal(("ines", null), (store.Backups[0].By, store.Backups[0].File));
        Assert.Empty(store.Warnings);
        Assert.Single(store.Instances);
    }

    // The newest, once there are so many and it is done.
    private static async Task<BackupMade> MadeAsync(ClockedService service, int count)
    {
        for (var tries = 0; tries < 100; tries++)
        {
            var made = (await service.As("ines").StoreAsync()).Backups;
            // A clock that is turned on by hours makes whoever is at work look silent.
            if (made.Count == count && made[0] is { EndedAt: not null, Trouble: not "The service that made it ended." })
            {
                return made[0];
            }

            await Task.Delay(100);
        }

        throw new TimeoutException($"There are no {count} backups.");
    }
}
