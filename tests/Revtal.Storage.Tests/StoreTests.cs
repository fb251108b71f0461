using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>The store at its edges: who has it in hand, what lies there instead, what was asked twice.</summary>
public sealed class StoreTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-edge-").FullName;

    private string File => Path.Combine(folder, SqliteStore.FileName);

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_folder_is_in_one_hand_at_a_time()
    {
        using (await PreparedAsync())
        {
            Assert.Contains("in hand", Assert.Throws<StoreException>(() => StoreFolder.Take(folder)).Message);
        }

        StoreFolder.Take(folder).Dispose();
    }

    [Fact]
    public async Task What_the_shop_keeps_is_its_owner_s_alone()
    {
        var inside = Path.Combine(folder, "shop");
        using var held = StoreFolder.Take(inside);
        await SqliteStore.PrepareAsync(held);
        const UnixFileMode owner = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        Assert.Equal(owner | UnixFileMode.UserExecute, System.IO.File.GetUnixFileMode(inside));
        Assert.All(Directory.GetFiles(inside), f => Assert.Equal(owner, System.IO.File.GetUnixFileMode(f)));
    }

    [Fact]
    public async Task Whoever_comes_in_at_a_tablet_in_the_moment_that_it_is_ended_is_not_in()
    {
        using var engine = new SqliteEngine(StoreFolder.Take(folder));
        await engine.PrepareAsync();
        var (tablets, store) = (new TabletStore(engine.Connections), new SignInStore(engine.Connections));
        var now = DateTimeOffset.UnixEpoch.AddYears(56);
        var (tablet, link) = tablets.Make("Bench 2", now, now.AddHours(1));
        Assert.NotNull(tablets.Enrol(link, now));
        string ComeIn() =>
            store.Begin("mara", SessionKind.Tablet, "Bench 2", false, now, TimeSpan.FromHours(12), tablet.Id).Secret;
        bool IsIn(string secret) => store.Find(secret, now, _ => TimeSpan.FromHours(1)) is not null;

        Assert.True(IsIn(ComeIn()));
        Assert.True(tablets.Drop(tablet.Id));
        store.EndAtTablet(tablet.Id);
        Assert.False(IsIn(ComeIn()));
        Assert.Empty(store.Sessions("mara", now));
    }

    [Fact]
    public async Task A_start_that_was_killed_while_it_migrated_is_gone_on_with()
    {
        // The shape before the last, with the lock that whoever was killed has left.
        System.IO.File.Copy(Repository.At("tests", "data", "databases", "search.db"), File);
        await DoAsync("""INSERT INTO "__EFMigrationsLock" VALUES (1, '2026-03-02 09:30:00')""");
        using var again = await PreparedAsync().WaitAsync(TimeSpan.FromSeconds(20));
    }

    [Theory]
    [InlineData("garbage", "is no database")]
    [InlineData("half", "damaged")]
    [InlineData("holes", "damaged")]
    [InlineData("foreign", "of another program")]
    [InlineData("newer", "newer Revtal")]
    [InlineData("empty", "empty, and this folder had a shop")]
    [InlineData("gone", "gone, and this folder had a shop")]
    public async Task What_is_no_store_of_ours_is_said_in_a_sentence(string what, string said)
    {
        (await PreparedAsync()).Dispose();
        if (what is "newer")
        {
            await DoAsync("INSERT INTO \"__EFMigrationsHistory\" VALUES ('29990101000000_Later', '99.0')");
        }

        SqliteConnection.ClearAllPools();
        foreach (var beside in Directory.GetFiles(folder, "*.db-*"))
        {
            System.IO.File.Delete(beside);
        }

        var whole = await System.IO.File.ReadAllBytesAsync(File);
        switch (what)
        {
            case "garbage":
                await System.IO.File.WriteAllTextAsync(File, new string('x', 5000));
                break;
            case "half":
                await System.IO.File.WriteAllBytesAsync(File, whole[..(whole.Length / 2)]);
                break;
            case "holes":
                whole.AsSpan(100, whole.Length - 100).Clear();
                await System.IO.File.WriteAllBytesAsync(File, whole);
                break;
            case "foreign":
                System.IO.File.Delete(File);
                await DoAsync("CREATE TABLE recipes (Name TEXT)");
                break;
            case "empty":
                await System.IO.File.WriteAllBytesAsync(File, []);
                break;
            case "gone":
                System.IO.File.Delete(File);
                break;
        }

        var told = await Assert.ThrowsAsync<StoreException>(PreparedAsync);
        Assert.Contains(said, told.Message, StringComparison.Ordinal);
        Assert.DoesNotContain(" at ", told.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_file_that_was_taken_away_takes_no_more_changes()
    {
        using var held = await PreparedAsync();
        held.Prove();
        System.IO.File.Move(File, File + ".aside");
        Assert.Contains("moved or removed", Assert.Throws<StoreException>(held.Prove).Message);
        System.IO.File.Move(File + ".aside", File);
        held.Prove();
        System.IO.File.Delete(File);
        Assert.Throws<StoreException>(held.Prove);
    }

    [Fact]
    public async Task Retries_that_overlap_are_done_once_and_told_the_same()
    {
        using var store = await TestStore.InAsync(folder);
        var (databases, road) = (store.Databases, store.Road);
        for (var round = 0; round < 20; round++)
        {
            var hand = new Hand("mara", DateTimeOffset.UnixEpoch, Guid.NewGuid(), "receive four");
            var told = await Task.WhenAll(
                Enumerable
                    .Range(0, 4)
                    .Select(_ => Task.Run(() => road.TakeAsync(ShopTopic.Dummies, hand, db => AddAsync(db, round))))
            );
            Assert.Single(told.Distinct());
        }

        await using var db = databases.CreateDbContext();
        Assert.Equal(20, await db.Dummies.CountAsync());
    }

    [Fact]
    public async Task One_key_does_not_stand_for_two_things()
    {
        using var store = await TestStore.InAsync(folder);
        var road = store.Road;
        var hand = new Hand("mara", DateTimeOffset.UnixEpoch, Guid.NewGuid(), "one");
        await road.TakeAsync(ShopTopic.Dummies, hand, db => AddAsync(db, 1));
        var refused = await Assert.ThrowsAsync<RefusedException>(() =>
            road.TakeAsync(ShopTopic.Dummies, hand with { Print = "another" }, db => AddAsync(db, 2))
        );
        Assert.Equal("key-reused", refused.Code);
    }

    [Fact]
    public async Task A_change_that_refuses_keeps_nothing_and_its_key_is_still_free()
    {
        using var store = await TestStore.InAsync(folder);
        var (databases, road) = (store.Databases, store.Road);
        var hand = new Hand("mara", DateTimeOffset.UnixEpoch, Guid.NewGuid(), "one");
        await Assert.ThrowsAsync<RefusedException>(() =>
            road.TakeAsync<string>(
                ShopTopic.Dummies,
                hand,
                async db =>
                {
                    await AddAsync(db, 1);
                    await db.SaveChangesAsync();
                    throw RefusedException.Rule("no", "Not now.");
                }
            )
        );
        await using (var db = databases.CreateDbContext())
        {
            Assert.Equal(0, await db.Dummies.CountAsync());
        }

        Assert.StartsWith(
            "d1",
            await road.TakeAsync(ShopTopic.Dummies, hand, db => AddAsync(db, 1)),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(13, true)]
    [InlineData(8, false)]
    [InlineData(11, false)]
    public void What_the_disk_fails_at_is_never_taken_for_somebody_who_was_first(int code, bool full)
    {
        var failed = new DbUpdateException("saving", new SqliteException("low words", code, code));
        Assert.False(StoreException.IsTaken(failed));
        Assert.Equal(full, StoreException.Of(failed)!.IsFull);
        Assert.DoesNotContain("low words", StoreException.Of(failed)!.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_key_is_remembered_for_thirty_days()
    {
        using var store = await TestStore.InAsync(folder);
        var road = store.Road;
        var first = new Hand("mara", DateTimeOffset.UnixEpoch.AddDays(100), Guid.NewGuid(), "one");
        var told = await AddedAsync(first);
        await AddedAsync(first with { Key = Guid.NewGuid(), At = first.At.AddDays(29) });
        Assert.Equal(told, await AddedAsync(first));
        await AddedAsync(first with { Key = Guid.NewGuid(), At = first.At.AddDays(31) });
        Assert.NotEqual(told, await AddedAsync(first));

        Task<string> AddedAsync(Hand hand) => road.TakeAsync(ShopTopic.Dummies, hand, db => AddAsync(db, 1));
    }

    [Fact]
    public async Task Each_change_is_told_once_and_none_that_was_not_kept()
    {
        using var store = await TestStore.InAsync(folder);
        var road = store.Road;
        var told = new List<(ShopTopic?, string?)>();
        store.Changes.Shop += (topic, by) => told.Add((topic, by?.By));
        var hand = new Hand("mara", DateTimeOffset.UnixEpoch, Guid.NewGuid(), "one");
        await road.TakeAsync(ShopTopic.Parts, hand, db => AddAsync(db, 1));
        await road.TakeAsync(ShopTopic.Parts, hand, db => AddAsync(db, 1));
        await Assert.ThrowsAsync<RefusedException>(() =>
            road.TakeAsync<string>(
                ShopTopic.Guides,
                hand with
                {
                    Key = Guid.NewGuid(),
                },
                _ => throw RefusedException.Rule("no", "Not now.")
            )
        );
        Assert.Equal([(ShopTopic.Parts, "mara")], told);
    }

    // Its answer differs from call to call, so that a second one would be seen.
    private static Task<string> AddAsync(RevtalDb db, int number)
    {
        db.Dummies.Add(
            new DummyRow
            {
                Name = $"d{number}-{Guid.NewGuid():N}",
                State = "{}",
                Version = 1,
            }
        );
        return Task.FromResult($"d{number} {Guid.NewGuid()}");
    }

    private async Task<StoreFolder> PreparedAsync()
    {
        var held = StoreFolder.Take(folder);
        try
        {
            await SqliteStore.PrepareAsync(held);
            return held;
        }
        catch
        {
            held.Dispose();
            throw;
        }
    }

    private async Task DoAsync(string sql)
    {
        await using var connection = new SqliteConnection($"Data Source={File};Pooling=False");
        await connection.OpenAsync();
        await using var command = connection.CreateCommand();
        command.CommandText = sql;
        await command.ExecuteNonQueryAsync();
    }
}
