using System.Diagnostics;
using Microsoft.Data.Sqlite;
using Revtal.Core;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>A disk that lost or spoiled something: it is told, and never answered as if it were nothing.</summary>
public sealed class DamageTests : IDisposable
{
    private const int PageSize = 4096;

    private readonly string folder = Directory.CreateTempSubdirectory("revtal-damage-").FullName;

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_page_of_zeros_anywhere_is_told_or_held_nothing()
    {
        var whole = At("whole");
        System.IO.File.Copy(Repository.At("tests", "data", "databases", "terms.db"), File(whole));
        using (await TestStore.InAsync(whole)) { }
        SqliteConnection.ClearAllPools();
        var held = await HeldAsync(whole);
        SqliteConnection.ClearAllPools();
        var bytes = await System.IO.File.ReadAllBytesAsync(File(whole));
        var random = new Random(20261128);
        int[] pages = [.. Enumerable.Range(0, bytes.Length / PageSize)];
        random.Shuffle(pages);
        var told = 0;
        foreach (var page in pages.Take(50))
        {
            var spoiled = At($"page-{page}");
            var copy = bytes.ToArray();
            copy.AsSpan(page * PageSize, PageSize).Clear();
            await System.IO.File.WriteAllBytesAsync(File(spoiled), copy);
            if (await IsToldAsync(spoiled))
            {
                told++;
            }
            else
            {
                Assert.Equal(held, await HeldAsync(spoiled));
            }

            SqliteConnection.ClearAllPools();
        }

        Assert.True(told > 40, $"{told} of 50 pages");
    }

    [Fact]
    public async Task Entries_that_went_with_a_lost_log_are_missed_at_the_next_start()
    {
        var there = At("there");
        System.IO.File.Copy(Repository.At("tests", "data", "databases", "terms.db"), File(there));
        var lost = At("lost");
        using (var store = await TestStore.InAsync(there))
        {
            for (var i = 0; i < 3; i++)
            {
                await store.TakeInAsync();
            }

            // As it lies on the disk while the service is killed, but for its log.
            using var copy = Process.Start("cp", [File(there), Path.Combine(there, "revtal.lock"), lost]);
            await copy.WaitForExitAsync();
        }

        var told = await Assert.ThrowsAsync<StoreException>(() => TestStore.InAsync(lost));
        Assert.Contains("has lost 3 entries", told.Message, StringComparison.Ordinal);

        // Where it ended well nothing is missed, and where somebody says so it goes on without.
        (await TestStore.InAsync(there)).Dispose();
        System.IO.File.Delete(Path.Combine(lost, "revtal.lock"));
        using var without = await TestStore.InAsync(lost);
        Assert.Equal(335, without.Journal.LastPosition());
    }

    // Whether a start or a look through the store says that something is wrong.
    private static async Task<bool> IsToldAsync(string folder)
    {
        try
        {
            using var store = await TestStore.InAsync(folder);
            var faults = new List<StoreFault>();
            store.Verifier.Run(faults.Add, _ => { });
            return faults.Count > 0;
        }
        catch (Exception e) when (StoreException.Of(e) is not null)
        {
            return true;
        }
    }

    private static async Task<string> HeldAsync(string folder)
    {
        using var store = await TestStore.InAsync(folder);
        return (await new BackupWriter(store.Engine).WriteAsync(Stream.Null, "", DateTimeOffset.UnixEpoch, "")).Sha256;
    }

    private string At(string name) => Directory.CreateDirectory(Path.Combine(folder, name)).FullName;

    private static string File(string folder) => Path.Combine(folder, SqliteStore.FileName);
}
