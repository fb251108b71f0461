using Microsoft.EntityFrameworkCore;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>A store in a database of a server: how it begins, what it refuses, what its instances hear.</summary>
public sealed class PostgresTests
{
    private const string Nobody = "Host=127.0.0.1;Port=1;Database=revtal;Username=revtal;Timeout=2";

    [Fact]
    public void Both_engines_have_the_same_tables_and_migrations_up_to_what_they_are_now()
    {
        using var file = new Databases<RevtalDb>(o => SqliteStore.Use(o, Path.GetTempPath())).CreateDbContext();
        using var server = new Databases<PostgresDb>(o => o.UseNpgsql(Nobody)).CreateDbContext();
        Assert.False(file.Database.HasPendingModelChanges());
        Assert.False(server.Database.HasPendingModelChanges());

        // An index of SQLite's own holds what is a table here.
        Assert.Equal(
            Columns(file).Order(),
            Columns(server).Where(c => !c.StartsWith("traces.", StringComparison.Ordinal)).Order()
        );
    }

    [Fact]
    public async Task Four_starts_at_once_make_the_tables_once()
    {
        var database = PostgresServer.Here.NewDatabase();
        var engines = Enumerable.Range(0, 4).Select(_ => new PostgresEngine(database)).ToArray();
        await Task.WhenAll(engines.Select(e => Task.Run(e.PrepareAsync)));
        await using var db = engines[0].Databases.CreateDbContext();
        Assert.Equal(db.Database.GetMigrations(), await db.Database.GetAppliedMigrationsAsync());
        Assert.All(engines, e => e.Dispose());
    }

    [Theory]
    [InlineData("CREATE TABLE letters (id int)", "of another program")]
    [InlineData(
        """
            CREATE TABLE "__EFMigrationsHistory" ("MigrationId" text PRIMARY KEY, "ProductVersion" text);
            INSERT INTO "__EFMigrationsHistory" VALUES ('29990101000000_Later', '30')
            """,
        "newer Revtal"
    )]
    public async Task What_is_not_this_version_s_is_left_alone(string there, string said)
    {
        var database = PostgresServer.Here.NewDatabase();
        PostgresServer.Here.Sql(there, database.Split("Database=")[1].Split(';')[0]);
        using var engine = new PostgresEngine(database);
        Assert.Contains(said, (await Assert.ThrowsAsync<StoreException>(engine.PrepareAsync)).Message);
    }

    [Theory]
    [InlineData(Nobody, "does not answer")]
    [InlineData("Host=127.0.0.1", "--store cannot be read")]
    [InlineData("Hst=127.0.0.1;Database=x", "--store cannot be read")]
    [InlineData("Host=127.0.0.1;Database=x;Port=many", "--store cannot be read")]
    public async Task What_cannot_be_reached_is_said(string store, string said)
    {
        var told = await Assert.ThrowsAsync<StoreException>(async () =>
        {
            using var engine = new PostgresEngine(store);
            await engine.PrepareAsync();
        });
        Assert.Contains(said, told.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Each_instance_hears_of_every_entry_once_and_in_order_whoever_recorded_it()
    {
        var database = PostgresServer.Here.NewDatabase();
        using var one = new TestStore(new PostgresEngine(database));
        using var two = new TestStore(new PostgresEngine(database));
        await one.Engine.PrepareAsync();
        await one.Guides.PublishAsync(
            [await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml"))],
            new Hand("ines", DateTimeOffset.UnixEpoch, Guid.NewGuid())
        );
        using var ends = new CancellationTokenSource();
        var heard = new List<long>[] { [], [] };
        var ears = new[] { one, two }.Select((s, i) => ListenAsync(s, heard[i], ends.Token)).ToArray();
        const int each = 60;
        await Task.WhenAll(
            Enumerable.Range(0, 2 * each).Select(i => Task.Run(() => (i % 2 == 0 ? one : two).TakeInAsync()))
        );
        for (var i = 0; i < 100 && heard.Any(h => h.Count < 2 * each); i++)
        {
            await Task.Delay(50);
        }

        Assert.All(heard, h => Assert.Equal(Enumerable.Range(1, 2 * each).Select(n => (long)n), h));
        Assert.Equal(2 * each, (await one.Journal.SearchAsync(null, null, false, null, 1)).Total);
        await ends.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => Task.WhenAll(ears));
    }

    [Fact]
    public async Task A_commit_that_is_late_is_skipped_by_nobody_and_a_guide_is_new_for_all()
    {
        var database = PostgresServer.Here.NewDatabase();
        using var one = new TestStore(new PostgresEngine(database));
        using var two = new TestStore(new PostgresEngine(database));
        await one.Engine.PrepareAsync();
        var yaml = await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml"));
        var hand = new Hand("ines", DateTimeOffset.UnixEpoch, Guid.NewGuid());
        await one.Guides.PublishAsync([yaml], hand);
        using var ends = new CancellationTokenSource();
        var heard = new List<long>();
        var ear = ListenAsync(two, heard, ends.Token);
        Assert.Equal(1, two.Guides.Newest("FJ14"));

        // One instance holds its transaction open; another's entry neither overtakes it nor gets its position.
        using var slow = one.Connections.Open();
        var late = slow.Begin();
        slow.Command("""UPDATE readers SET "Position" = "Position" """, late).ExecuteNonQuery();
        var after = Task.Run(two.TakeInAsync);
        Assert.NotSame(after, await Task.WhenAny(after, Task.Delay(500)));
        late.Commit();
        await after;
        await one.Guides.PublishAsync([yaml + "\n# again\n"], hand with { Key = Guid.NewGuid() });
        for (var i = 0; i < 100 && (heard.Count < 1 || two.Guides.Newest("FJ14") == 1); i++)
        {
            await Task.Delay(50);
        }

        Assert.Equal([1L], heard);
        Assert.Equal(2, two.Guides.Newest("FJ14"));
        await ends.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => ear);
    }

    private static IEnumerable<string> Columns(RevtalDb db) =>
        db
            .Model.GetEntityTypes()
            .SelectMany(e => e.GetProperties().Select(p => $"{e.GetTableName()}.{p.Name}:{p.IsNullable}"));

    private static async Task ListenAsync(TestStore store, List<long> heard, CancellationToken cancel)
    {
        store.Changes.Recorded += changes => heard.AddRange(changes.Select(c => c.Position));
        var ear = new PostgresEar((PostgresEngine)store.Engine, store.Journal, store.Changes);
        ear.Begin();
        var listening = ear.ListenAsync(cancel);
        while (!store.Changes.Hears)
        {
            await Task.Delay(10, cancel);
        }

        await listening;
    }
}
