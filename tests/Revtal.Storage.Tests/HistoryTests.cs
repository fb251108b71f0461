using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>A shop that was made large is a shop like any other.</summary>
public sealed class HistoryTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-many-").FullName;

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task Its_orders_are_folded_chained_and_found_and_its_shelf_says_what_its_ledger_says()
    {
        // Twenty orders by an earlier version; their rows are made anew, so that all are this one's.
        File.Copy(Repository.At("tests", "data", "databases", "terms.db"), Path.Combine(folder, SqliteStore.FileName));
        using var store = await TestStore.InAsync(folder);
        store.Rebuild.Run();
        var now = new DateTimeOffset(2026, 11, 28, 12, 0, 0, TimeSpan.Zero);
        await new Histories(store.Engine, store.Journal, store.Guides).MakeAsync(1_500, now);

        var faults = new List<StoreFault>();
        Assert.Equal(1_500, store.Verifier.Run(faults.Add, _ => { }).Orders);
        Assert.Empty(faults);
        Assert.InRange(store.Journal.OpenCards().Count, 200, 220);
        Assert.Equal(now, store.Journal.Entries(1_600)[^1].Entry.At);

        // Words that many have and that few have, written by the made orders alone.
        Assert.True((await store.Journal.SearchAsync("latch", null, false, null, 10)).Total > 100);
        var tag = store.Journal.Entries(1_000)[1].Entry.Body.ToString()!.Split("tagged ")[1].Split(' ')[0].Trim(',');
        Assert.Contains(
            (await store.Journal.SearchAsync(tag, null, false, null, 10)).Items,
            f => f.Card.Contains("\"number\":1000,", StringComparison.Ordinal)
        );

        await using var db = store.Databases.CreateDbContext();
        foreach (var item in await db.PartItems.Where(i => i.Order > 200).ToListAsync())
        {
            var last = await db.StockMoves.Where(m => m.Item == item.Id).OrderBy(m => m.Id).LastAsync();
            Assert.Equal((item.State, item.Order), (last.To, last.Order));
        }

        Assert.Equal(1_601, (await store.TakeInAsync()).Number);
    }

    [Fact]
    public async Task Rows_that_are_made_anew_when_it_is_killed_are_gone_on_with()
    {
        File.Copy(Repository.At("tests", "data", "databases", "terms.db"), Path.Combine(folder, SqliteStore.FileName));
        using (var store = await TestStore.InAsync(folder))
        {
            store.Rebuild.Run();
            await new Histories(store.Engine, store.Journal, store.Guides).MakeAsync(1_500, DateTimeOffset.UtcNow);
            Do("""UPDATE readers SET "Position" = 0 WHERE "Name" = 'rows'""");
            Do("""UPDATE orders SET "Card" = '{}'""");
            // As a kill would: nothing after the first commit happens.
            Assert.Throws<OperationCanceledException>(() =>
                store.Rebuild.Run(all: false, _ => throw new OperationCanceledException())
            );
        }

        using var again = await TestStore.InAsync(folder);
        Assert.True(again.Rebuild.IsDue());
        // Somebody spoils a row of those that are made: it would be whole again, were they made again.
        Do("""UPDATE orders SET "Card" = '{}' WHERE "Number" = 101""");
        var progress = new List<int>();
        Assert.Equal(1_500, again.Rebuild.Run(all: false, progress.Add).Orders);
        Assert.Equal([1_000, 1_500, 1_500], progress);
        Assert.False(again.Rebuild.IsDue());
        Assert.Equal(["{}"], Read("""SELECT "Card" FROM orders WHERE length("Card") < 10"""));

        // Asked for by hand, all are made, and what was begun is no beginning any more.
        again.Rebuild.Run();
        Assert.Empty(Read("""SELECT "Card" FROM orders WHERE length("Card") < 10"""));
        Assert.Equal(["rows", "traces", "words"], Read("""SELECT "Name" FROM readers ORDER BY "Name" """));
    }

    private void Do(string sql) => Read(sql);

    private List<string> Read(string sql)
    {
        using var db = new SqliteConnection($"Data Source={Path.Combine(folder, SqliteStore.FileName)};Pooling=False");
        db.Open();
        using var command = db.CreateCommand();
        command.CommandText = sql;
        using var rows = command.ExecuteReader();
        var all = new List<string>();
        while (rows.Read())
        {
            all.Add(rows.GetString(0));
        }

        return all;
    }

    [Fact]
    public async Task A_shop_without_orders_is_not_made_large_of_nothing()
    {
        using var store = await TestStore.InAsync(folder);
        await Assert.ThrowsAsync<StoreException>(() =>
            new Histories(store.Engine, store.Journal, store.Guides).MakeAsync(100, DateTimeOffset.UtcNow)
        );
    }
}
