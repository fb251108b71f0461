using System.Data.Common;
using System.Globalization;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Revtal.Core.Orders;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>The journal in a file, and what only files do.</summary>
public sealed class SqliteJournalTests : JournalTests
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-store-").FullName;

    protected override Task<IStoreEngine> NewAsync() =>
        Task.FromResult<IStoreEngine>(new SqliteEngine(StoreFolder.Take(folder)));

    protected override void Clear() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task A_commit_is_on_disk_before_it_is_answered()
    {
        await using var db = Store.Databases.CreateDbContext();
        await db.Database.OpenConnectionAsync();
        await using var command = db.Database.GetDbConnection().CreateCommand();
        command.CommandText = "PRAGMA journal_mode";
        Assert.Equal("wal", await command.ExecuteScalarAsync());
        command.CommandText = "PRAGMA synchronous";
        Assert.Equal(2L, await command.ExecuteScalarAsync());
    }

    [Fact]
    public async Task Words_are_counted_as_the_index_counts_them()
    {
        await NoteAsync(
            await TakeInAsync(),
            "The left hinge squeaks, and the LEFT foot is gone: Müller’s own Ærøskøbing"
        );
        await TellAsync(await TakeInAsync(), new IntakeCorrected("NF14-88", "Änne, 0441 123", null, "written wrong"));
        await Journal.SearchAsync("hinge", null, false, null, 1);
        await using var db = Store.Databases.CreateDbContext();
        await db.Database.ExecuteSqlAsync($"CREATE VIRTUAL TABLE told USING fts5vocab(trace_words, 'row')");
        Assert.Equal(
            await db
                .Database.SqlQuery<string>($"SELECT term || ' ' || doc AS Value FROM told ORDER BY 1")
                .ToListAsync(),
            await db
                .Database.SqlQuery<string>($"""SELECT "Term" || ' ' || "Uses" AS Value FROM terms ORDER BY 1""")
                .ToListAsync()
        );
    }

    // The engine's own limits, so that the failures are the engine's own.
    [Theory]
    [InlineData("PRAGMA max_page_count = {0}", true, "disk is full")]
    [InlineData("PRAGMA query_only = 1", false, "cannot be written to")]
    public async Task What_the_store_cannot_take_is_not_acknowledged_and_is_said(string limit, bool full, string said)
    {
        var order = await TakeInAsync();
        var limited = true;
        var most = 0L;
        using var some = new Connections(() => limited ? Limited() : SqliteStore.Open(folder), new SqliteDialect());
        using var failing = new JournalWriter(some, Store.Changes);
        var kept = Journal.Entries(order.Number);
        Exception? failure = null;
        for (var i = 0; i < 200 && failure is null; i++)
        {
            var now = Order.Fold((Journal.Entries(order.Number)).Select(e => e.Entry));
            failure = await Record.ExceptionAsync(() => NoteAsync(now, new string('x', 1900), into: failing));
        }

        Assert.NotNull(failure);
        var told = StoreException.Of(failure)!;
        Assert.Equal((full, true), (told.IsFull, told.Message.Contains(said, StringComparison.Ordinal)));
        Assert.Equal(full, StoreException.Of(failing.WhyNotWritable())!.IsFull);

        // Everything that was acknowledged before is there, the rest is not, and it goes on when there is room.
        var entries = Journal.Entries(order.Number);
        Assert.Equal(full, entries.Count > kept.Count);
        Assert.Equal(Enumerable.Range(1, entries.Count), entries.Select(e => e.Entry.Sequence));
        limited = false;
        Assert.Null(failing.WhyNotWritable());
        await NoteAsync(Order.Fold(entries.Select(e => e.Entry)), "room again", into: failing);
        Assert.Equal(entries.Count + 1, (Journal.Entries(order.Number)).Count);

        DbConnection Limited()
        {
            // Not pooled: a limit would stay with the connection.
            var connection = new SqliteConnection($"Data Source={folder}/{SqliteStore.FileName};Pooling=False");
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText = "PRAGMA page_count";
            most = most == 0 ? (long)command.ExecuteScalar()! + 3 : most;
            command.CommandText = string.Format(CultureInfo.InvariantCulture, limit, most);
            command.ExecuteNonQuery();
            return connection;
        }
    }
}
