using System.Data.Common;
using System.Globalization;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Documents;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

public sealed class JournalTests : IAsyncLifetime
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-store-").FullName;
    private readonly StoreFolder held;
    private readonly Databases databases;
    private readonly Connections connections;
    private readonly JournalWriter writer;
    private readonly Journal journal;
    private readonly GuideShelf guides;

    public JournalTests()
    {
        held = StoreFolder.Take(folder);
        databases = new Databases(folder);
        connections = new Connections(() => SqliteStore.Open(folder));
        writer = new JournalWriter(connections);
        journal = new Journal(databases, connections, new TraceKeeper(connections, writer));
        guides = new GuideShelf(
            databases,
            connections,
            new Road(databases, connections),
            GuideYaml.Read,
            GuideYaml.Write
        );
    }

    public async ValueTask InitializeAsync()
    {
        await SqliteStore.PrepareAsync(held);
        await guides.PublishAsync(
            [await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml"))],
            new Hand("ines", DateTimeOffset.UnixEpoch, Guid.NewGuid())
        );
    }

    public ValueTask DisposeAsync()
    {
        writer.Dispose();
        connections.Dispose();
        held.Dispose();
        Directory.Delete(folder, recursive: true);
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task Take_ins_at_one_moment_get_numbers_of_their_own()
    {
        var orders = await Task.WhenAll(Enumerable.Range(0, 50).Select(_ => TakeInAsync()));
        Assert.Equal(Enumerable.Range(101, 50), orders.Select(o => o.Number).Order());
    }

    [Fact]
    public async Task Only_one_of_two_writers_is_next()
    {
        var order = await TakeInAsync();
        var results = await Task.WhenAll(Enumerable.Range(0, 20).Select(i => NoteAsync(order, $"note {i}")));
        Assert.Single(results.OfType<AppendResult.Recorded>());
        Assert.Equal(19, results.OfType<AppendResult.Overtaken>().Count());
        Assert.Equal(2, journal.Head(order.Number));
    }

    [Fact]
    public async Task A_colliding_append_does_not_take_its_neighbours_down()
    {
        var orders = new List<Order>();
        for (var i = 0; i < 10; i++)
        {
            orders.Add(await TakeInAsync());
        }

        await NoteAsync(orders[3], "first");
        var results = await Task.WhenAll(orders.Select(o => NoteAsync(o, "second")));
        Assert.IsType<AppendResult.Overtaken>(results[3]);
        Assert.Equal(9, results.OfType<AppendResult.Recorded>().Count());
    }

    [Fact]
    public async Task The_same_id_records_once_and_gives_back_what_it_recorded()
    {
        var order = await TakeInAsync();
        var id = Guid.NewGuid();
        Assert.IsType<AppendResult.Recorded>(await NoteAsync(order, "once", id));
        var again = Assert.IsType<AppendResult.Already>(await NoteAsync(order, "once", id));
        Assert.Equal("once", Assert.IsType<NoteAdded>(again.Stored.Entry.Body).Text);
        Assert.Equal(2, (journal.Entries(order.Number)).Count);
    }

    [Fact]
    public async Task Positions_grow_and_changes_can_be_caught_up()
    {
        var first = await TakeInAsync();
        var position = journal.LastPosition();
        await NoteAsync(first, "a");
        await TakeInAsync();
        var changes = await journal.ChangesAsync(position, 100);
        Assert.Equal(["note-added/1", "taken-in/1"], changes.Select(c => c.Kind));
        Assert.Equal(changes.Select(c => c.Position).Order(), changes.Select(c => c.Position));
        Assert.Single(await journal.ChangesAsync(position, 1));
    }

    [Fact]
    public async Task The_projection_made_anew_equals_the_one_that_grew()
    {
        for (var i = 0; i < 5; i++)
        {
            await NoteAsync(await TakeInAsync(), "n");
        }

        var grown = journal.OpenCards();
        Assert.Equal(5, new Rebuild(connections, journal, guides).Run().Orders);
        Assert.Equal(grown, journal.OpenCards());
    }

    [Theory]
    [InlineData("choir", 3)]
    [InlineData("NF14-77", 3)]
    [InlineData("102", 1)]
    [InlineData("100%", 0)]
    [InlineData("_", 0)]
    public async Task Search_finds_text_and_numbers_and_takes_signs_as_they_are(string text, int found)
    {
        for (var i = 0; i < 3; i++)
        {
            await TakeInAsync();
        }

        Assert.Equal(found, (await journal.SearchAsync(text, null, false, null, 50)).Total);
    }

    [Theory]
    // As far as it is typed, in any order of words, with a letter wrong, missing, or two changed over.
    [InlineData("ch", 2)]
    [InlineData("archive choi", 2)]
    [InlineData("CHOIR'S", 2)]
    [InlineData("chojr", 2)]
    [InlineData("archve", 2)]
    [InlineData("hcoir", 2)]
    [InlineData("chxjr", 0)]
    // What somebody said of one of them, and the end of its serial, read from the label.
    [InlineData("squeaks", 1)]
    [InlineData("hinge archive", 1)]
    [InlineData("squeeks", 1)]
    [InlineData("14-77", 2)]
    [InlineData("4-7", 2)]
    [InlineData("hinge ferry", 0)]
    // The model, by its name.
    [InlineData("fjell", 2)]
    [InlineData("norrland 14", 2)]
    [InlineData("\"* OR )", 0)]
    public async Task Search_finds_what_was_said_as_it_is_typed(string text, int found)
    {
        await TakeInAsync();
        await NoteAsync(await TakeInAsync(), "The left hinge squeaks");
        Assert.Equal(found, (await journal.SearchAsync(text, null, false, null, 50)).Total);
        new Rebuild(connections, journal, guides).Run();
        Assert.Equal(found, (await journal.SearchAsync(text, null, false, null, 50)).Total);
    }

    [Fact]
    public async Task Words_are_counted_as_the_index_counts_them()
    {
        await NoteAsync(
            await TakeInAsync(),
            "The left hinge squeaks, and the LEFT foot is gone: Müller’s own Ærøskøbing"
        );
        await TellAsync(await TakeInAsync(), new IntakeCorrected("NF14-88", "Änne, 0441 123", null, "written wrong"));
        await journal.SearchAsync("hinge", null, false, null, 1);
        await using var db = databases.CreateDbContext();
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

    [Fact]
    public async Task What_is_recorded_while_words_are_read_is_recorded_and_found()
    {
        var keeper = new TraceKeeper(connections, writer);
        var taken = Task.WhenAll(
            Enumerable
                .Range(0, 600)
                .Select(i => Task.Run(async () => await NoteAsync(await TakeInAsync(), $"hinge {i}")))
        );
        var reading = Task.Run(() =>
        {
            while (!taken.IsCompleted)
            {
                keeper.CatchUp();
            }
        });
        await taken.WaitAsync(TimeSpan.FromMinutes(1));
        await reading;
        Assert.Equal(600, (await journal.SearchAsync("hinge", null, false, null, 1)).Total);
    }

    [Fact]
    public async Task An_entry_that_nobody_can_read_keeps_no_other_order_from_being_found()
    {
        var order = await TakeInAsync();
        await using var db = databases.CreateDbContext();
        await db.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO entries ("Position", "Order", "Sequence", "Id", "Kind", "At", "By", "Body", "Print")
            VALUES (2, {order.Number}, 2, {Guid.NewGuid()}, 'of-another-time/1', 0, 'ines', 'x', '')
            """
        );
        await NoteAsync(await TakeInAsync(), "The left hinge squeaks");
        Assert.Equal(1, (await journal.SearchAsync("squeaks", null, false, null, 1)).Total);
        Assert.Equal(2, (await journal.SearchAsync("choir", null, false, null, 1)).Total);
    }

    [Fact]
    public async Task Search_says_where_it_stands_and_goes_on_page_by_page()
    {
        for (var i = 0; i < 5; i++)
        {
            await NoteAsync(await TakeInAsync(), $"hinge {i}");
        }

        var first = await journal.SearchAsync("hinge", null, false, null, 2);
        Assert.Equal((2, 5), (first.Items.Count, first.Total));
        Assert.Equal(new FoundIn(TraceKind.Note, "hinge 4"), first.Items[0].Where);
        var next = await journal.SearchAsync("hinge", Stage.TakenIn, false, long.Parse(first.Next!, null), 2);
        Assert.Equal(["hinge 2", "hinge 1"], next.Items.Select(o => o.Where!.Text));
        Assert.Equal(0, (await journal.SearchAsync("hinge", Stage.Ready, false, null, 2)).Total);
        Assert.Null((await journal.SearchAsync("103", null, false, null, 2)).Items[0].Where);
    }

    [Fact]
    public async Task A_published_guide_never_changes_and_the_same_file_is_no_new_revision()
    {
        var yaml = guides.Yaml("FJ14", 1);
        Assert.False(
            (await guides.PublishAsync([yaml], new Hand("ines", DateTimeOffset.UnixEpoch, Guid.NewGuid())))[0].IsNew
        );
        Assert.Equal(
            2,
            (await guides.PublishAsync([yaml + "\n"], new Hand("ines", DateTimeOffset.UnixEpoch, Guid.NewGuid())))[0]
                .Listing
                .Revision
        );
        Assert.Equal(yaml, guides.Yaml("FJ14", 1));
        Assert.Equal(2, guides.Newest("FJ14"));
        Assert.Equal(RefusalKind.NotFound, Assert.Throws<RefusedException>(() => guides.Newest("XX99")).Kind);
    }

    [Fact]
    public async Task A_commit_is_on_disk_before_it_is_answered()
    {
        await using var db = databases.CreateDbContext();
        await db.Database.OpenConnectionAsync();
        await using var command = db.Database.GetDbConnection().CreateCommand();
        command.CommandText = "PRAGMA journal_mode";
        Assert.Equal("wal", await command.ExecuteScalarAsync());
        command.CommandText = "PRAGMA synchronous";
        Assert.Equal(2L, await command.ExecuteScalarAsync());
    }

    [Fact]
    public async Task One_that_cannot_be_recorded_fails_alone_among_twenty()
    {
        var orders = await Task.WhenAll(Enumerable.Range(0, 20).Select(_ => TakeInAsync()));
        var used = new PartKind(new PartNumber("TM-8S"), "8 GB, used", null, null, 1, 12);
        var part = new PartItem(0, used.Number, "TM8S-001", PartState.InStock);
        await NoteAsync(orders[0], "the first of this serial", newPart: (used, part));
        for (var round = 0; round < 10; round++)
        {
            var at = round;
            var results = await Task.WhenAll(
                orders.Select(
                    async (o, i) =>
                    {
                        var now = Order.Fold((journal.Entries(o.Number)).Select(e => e.Entry));
                        return await Record.ExceptionAsync(() =>
                            NoteAsync(now, $"{at}", newPart: i == at ? (used, part) : null)
                        );
                    }
                )
            );
            Assert.Equal("serial-here", Assert.IsType<RefusedException>(results[round]).Code);
            Assert.Equal(19, results.Count(r => r is null));
        }

        Assert.Equal(21 + (10 * 19), (await journal.ChangesAsync(0, 1000)).Count);
        Assert.Null(writer.WhyNotWritable());
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
        using var some = new Connections(() => limited ? Limited() : SqliteStore.Open(folder));
        using var failing = new JournalWriter(some);
        var kept = journal.Entries(order.Number);
        Exception? failure = null;
        for (var i = 0; i < 200 && failure is null; i++)
        {
            var now = Order.Fold((journal.Entries(order.Number)).Select(e => e.Entry));
            failure = await Record.ExceptionAsync(() => NoteAsync(now, new string('x', 1900), into: failing));
        }

        Assert.NotNull(failure);
        var told = StoreException.Of(failure)!;
        Assert.Equal((full, true), (told.IsFull, told.Message.Contains(said, StringComparison.Ordinal)));
        Assert.Equal(full, StoreException.Of(failing.WhyNotWritable())!.IsFull);

        // Everything that was acknowledged before is there, the rest is not, and it goes on when there is room.
        var entries = journal.Entries(order.Number);
        Assert.Equal(full, entries.Count > kept.Count);
        Assert.Equal(Enumerable.Range(1, entries.Count), entries.Select(e => e.Entry.Sequence));
        limited = false;
        Assert.Null(failing.WhyNotWritable());
        await NoteAsync(Order.Fold(entries.Select(e => e.Entry)), "room again", into: failing);
        Assert.Equal(entries.Count + 1, (journal.Entries(order.Number)).Count);

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

    private async Task<Order> TakeInAsync()
    {
        var guide = guides.Get("FJ14", 1);
        var body = IntakeRules.TakeIn(
            new Intake("Choir's archive", null, "NF14-77", "slow", null, null, null, Backup.Made, SealConsent.NoSeal),
            guide,
            1
        );
        var result = await writer.AppendAsync(
            new Append(
                null,
                0,
                Guid.NewGuid(),
                DateTimeOffset.UnixEpoch,
                "sanne",
                body,
                "",
                e => ProjectionRows.Project(Order.Fold([e]), guide)
            )
        );
        return Order.Fold([Assert.IsType<AppendResult.Recorded>(result).Stored.Entry]);
    }

    private Task<AppendResult> NoteAsync(
        Order order,
        string text,
        Guid? id = null,
        (PartKind, PartItem)? newPart = null,
        JournalWriter? into = null
    ) => TellAsync(order, new NoteAdded(text), id, newPart, into);

    private async Task<AppendResult> TellAsync(
        Order order,
        EntryBody body,
        Guid? id = null,
        (PartKind, PartItem)? newPart = null,
        JournalWriter? into = null
    )
    {
        var guide = guides.Get("FJ14", 1);
        return await (into ?? writer).AppendAsync(
            new Append(
                order.Number,
                order.Head,
                id ?? Guid.NewGuid(),
                DateTimeOffset.UnixEpoch,
                "mara",
                body,
                "",
                e => ProjectionRows.Project(order.Apply(e), guide),
                NewPart: newPart
            )
        );
    }
}
