using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>The journal, whichever engine is under it.</summary>
public abstract class JournalTests : IAsyncLifetime
{
    private TestStore store = null!;

    internal TestStore Store => store;

    internal JournalWriter Writer => store.Writer;

    internal Journal Journal => store.Journal;

    internal GuideShelf Guides => store.Guides;

    /// <summary>A new store.</summary>
    protected abstract Task<IStoreEngine> NewAsync();

    public async ValueTask InitializeAsync()
    {
        store = new TestStore(await NewAsync());
        await store.Engine.PrepareAsync();
        await Guides.PublishAsync(
            [await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml"))],
            new Hand("ines", DateTimeOffset.UnixEpoch, Guid.NewGuid())
        );
    }

    public ValueTask DisposeAsync()
    {
        store?.Dispose();
        Clear();
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }

    /// <summary>Takes away where the store was.</summary>
    protected virtual void Clear() { }

    [Fact]
    public async Task Take_ins_at_one_moment_get_numbers_of_their_own()
    {
        var orders = await Task.WhenAll(Enumerable.Range(0, 50).Select(_ => TakeInAsync()));
        Assert.Equal(Enumerable.Range(101, 50), orders.Select(o => o.Number).Order());
    }

    [Fact]
    public async Task Whoever_comes_when_too_many_wait_is_told_so_and_nobody_else_loses_anything()
    {
        var (waiting, refused) = await WhileNobodyWritesAsync(() =>
        {
            Task<Order>[] all = [.. Enumerable.Range(0, 2_500).Select(_ => TakeInAsync())];
            Assert.Equal(2_048, Writer.Waiting);
            return (all, all.Where(w => w.IsFaulted).ToList());
        });
        Assert.Equal(2_500 - 2_048, refused.Count);
        Assert.All(refused, r => Assert.Contains("Try again", StoreException.Of(r.Exception!.InnerException)!.Message));
        var taken = await Task.WhenAll(waiting.Except(refused));
        Assert.Equal(Enumerable.Range(101, 2_048), taken.Select(o => o.Number).Order());
        Assert.Equal(2_048, Journal.LastPosition());
        Assert.Equal(2_049, (await TakeInAsync()).Number - 100);
    }

    [Fact]
    public async Task Only_one_of_two_writers_is_next()
    {
        var order = await TakeInAsync();
        var results = await Task.WhenAll(Enumerable.Range(0, 20).Select(i => NoteAsync(order, $"note {i}")));
        Assert.Single(results.OfType<AppendResult.Recorded>());
        Assert.Equal(19, results.OfType<AppendResult.Overtaken>().Count());
        Assert.Equal(2, Journal.Head(order.Number));
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
        Assert.Equal(2, (Journal.Entries(order.Number)).Count);
    }

    [Fact]
    public async Task Positions_grow_and_changes_can_be_caught_up()
    {
        var first = await TakeInAsync();
        var position = Journal.LastPosition();
        await NoteAsync(first, "a");
        await TakeInAsync();
        var changes = await Journal.ChangesAsync(position, 100);
        Assert.Equal(["note-added/1", "taken-in/1"], changes.Select(c => c.Kind));
        Assert.Equal(changes.Select(c => c.Position).Order(), changes.Select(c => c.Position));
        Assert.Single(await Journal.ChangesAsync(position, 1));
    }

    [Fact]
    public async Task The_projection_made_anew_equals_the_one_that_grew()
    {
        for (var i = 0; i < 5; i++)
        {
            await NoteAsync(await TakeInAsync(), "n");
        }

        var grown = Journal.OpenCards();
        Assert.Equal(5, Store.Rebuild.Run().Orders);
        Assert.Equal(grown, Journal.OpenCards());
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

        Assert.Equal(found, (await Journal.SearchAsync(text, null, false, null, 50)).Total);
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
        Assert.Equal(found, (await Journal.SearchAsync(text, null, false, null, 50)).Total);
        Store.Rebuild.Run();
        Assert.Equal(found, (await Journal.SearchAsync(text, null, false, null, 50)).Total);
    }

    [Fact]
    public async Task What_is_recorded_while_words_are_read_is_recorded_and_found()
    {
        var keeper = new TraceKeeper(Store.Connections, Writer);
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
        Assert.Equal(600, (await Journal.SearchAsync("hinge", null, false, null, 1)).Total);
    }

    [Fact]
    public async Task An_entry_that_nobody_can_read_keeps_no_other_order_from_being_found()
    {
        var order = await TakeInAsync();
        await using var db = Store.Databases.CreateDbContext();
        await db.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO entries ("Position", "Order", "Sequence", "Id", "Kind", "At", "By", "Body", "Print")
            VALUES (2, {order.Number}, 2, {Guid.NewGuid()}, 'of-another-time/1', 0, 'ines', 'x', '')
            """
        );
        await NoteAsync(await TakeInAsync(), "The left hinge squeaks");
        Assert.Equal(1, (await Journal.SearchAsync("squeaks", null, false, null, 1)).Total);
        Assert.Equal(2, (await Journal.SearchAsync("choir", null, false, null, 1)).Total);
    }

    [Fact]
    public async Task Search_says_where_it_stands_and_goes_on_page_by_page()
    {
        for (var i = 0; i < 5; i++)
        {
            await NoteAsync(await TakeInAsync(), $"hinge {i}");
        }

        var first = await Journal.SearchAsync("hinge", null, false, null, 2);
        Assert.Equal((2, 5), (first.Items.Count, first.Total));
        Assert.Equal(new FoundIn(TraceKind.Note, "hinge 4"), first.Items[0].Where);
        var next = await Journal.SearchAsync("hinge", Stage.TakenIn, false, long.Parse(first.Next!, null), 2);
        Assert.Equal(["hinge 2", "hinge 1"], next.Items.Select(o => o.Where!.Text));
        Assert.Equal(0, (await Journal.SearchAsync("hinge", Stage.Ready, false, null, 2)).Total);
        Assert.Null((await Journal.SearchAsync("103", null, false, null, 2)).Items[0].Where);
    }

    [Fact]
    public async Task A_published_guide_never_changes_and_the_same_file_is_no_new_revision()
    {
        var yaml = Guides.Yaml("FJ14", 1);
        Assert.False(
            (await Guides.PublishAsync([yaml], new Hand("ines", DateTimeOffset.UnixEpoch, Guid.NewGuid())))[0].IsNew
        );
        Assert.Equal(
            2,
            (await Guides.PublishAsync([yaml + "\n"], new Hand("ines", DateTimeOffset.UnixEpoch, Guid.NewGuid())))[0]
                .Listing
                .Revision
        );
        Assert.Equal(yaml, Guides.Yaml("FJ14", 1));
        Assert.Equal(2, Guides.Newest("FJ14"));
        Assert.Equal(RefusalKind.NotFound, Assert.Throws<RefusedException>(() => Guides.Newest("XX99")).Kind);
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
                        var now = Order.Fold((Journal.Entries(o.Number)).Select(e => e.Entry));
                        return await Record.ExceptionAsync(() =>
                            NoteAsync(now, $"{at}", newPart: i == at ? (used, part) : null)
                        );
                    }
                )
            );
            Assert.Equal("serial-here", Assert.IsType<RefusedException>(results[round]).Code);
            Assert.Equal(19, results.Count(r => r is null));
        }

        Assert.Equal(21 + (10 * 19), (await Journal.ChangesAsync(0, 1000)).Count);
        Assert.Null(Writer.WhyNotWritable());
    }

    [Fact]
    public async Task Of_two_that_take_one_part_at_once_the_later_is_not_recorded_at_all()
    {
        var orders = new List<Order>();
        for (var i = 0; i < 4; i++)
        {
            orders.Add(await TakeInAsync());
        }

        var kind = new PartKind(new PartNumber("TM-8S"), "8 GB", null, null, 1, 12);
        var part = new PartItem(0, kind.Number, "TM8S-001", PartState.InStock);
        await NoteAsync(orders[3], "it came", newPart: (kind, part));
        var round = await WhileNobodyWritesAsync(() =>
            new[] { TakeAsync(orders[0]), TakeAsync(orders[1]), NoteAsync(orders[2], "beside") }
        );
        var results = await Task.WhenAll(round);
        Assert.IsType<AppendResult.Recorded>(results[0]);
        Assert.IsType<AppendResult.Overtaken>(results[1]);
        Assert.IsType<AppendResult.Recorded>(results[2]);
        Assert.Equal([2, 1, 2], orders.Take(3).Select(o => Journal.Head(o.Number)));
        Assert.Equal([1, 2, 3, 4, 5, 6, 7], (await Journal.ChangesAsync(0, 100)).Select(c => c.Position));

        Task<AppendResult> TakeAsync(Order order) =>
            TellAsync(
                order,
                new NoteAdded("taken"),
                stock: [new StockMove(1, PartState.InStock, PartState.Reserved, order.Number, "A2")]
            );
    }

    // All that is asked meanwhile waits for one round.
    private async Task<T> WhileNobodyWritesAsync<T>(Func<T> ask)
    {
        using var begun = new ManualResetEventSlim();
        using var end = new ManualResetEventSlim();
        var busy = Task.Run(() =>
            Writer.InTurn(
                (_, _) =>
                {
                    begun.Set();
                    return end.Wait(TimeSpan.FromSeconds(30));
                }
            )
        );
        begun.Wait();
        var asked = ask();
        end.Set();
        Assert.True(await busy);
        return asked;
    }

    internal Task<Order> TakeInAsync() => Store.TakeInAsync();

    internal Task<AppendResult> NoteAsync(
        Order order,
        string text,
        Guid? id = null,
        (PartKind, PartItem)? newPart = null,
        JournalWriter? into = null
    ) => TellAsync(order, new NoteAdded(text), id, newPart, into);

    internal async Task<AppendResult> TellAsync(
        Order order,
        EntryBody body,
        Guid? id = null,
        (PartKind, PartItem)? newPart = null,
        JournalWriter? into = null,
        IReadOnlyList<StockMove>? stock = null
    )
    {
        var guide = Guides.Get("FJ14", 1);
        return await (into ?? Writer).AppendAsync(
            new Append(
                order.Number,
                order.Head,
                id ?? Guid.NewGuid(),
                DateTimeOffset.UnixEpoch,
                "mara",
                body,
                "",
                e => ProjectionRows.Project(order.Apply(e), guide),
                Stock: stock,
                NewPart: newPart
            )
        );
    }
}
