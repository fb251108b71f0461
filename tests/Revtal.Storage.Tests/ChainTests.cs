using System.Security.Cryptography;
using System.Text;
using Microsoft.Data.Sqlite;
using Revtal.Core;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>What was recorded is proved by what follows it: whoever changes the file afterwards is found out.</summary>
public sealed class ChainTests : IAsyncLifetime
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-chain-").FullName;
    private TestStore store = null!;

    public ChainTests()
    {
        // A shop of twenty orders, recorded before there was a chain.
        File.Copy(
            Repository.At("tests", "data", "databases", "readers.db"),
            Path.Combine(folder, SqliteStore.FileName)
        );
    }

    public async ValueTask InitializeAsync()
    {
        store = await TestStore.InAsync(folder);
        Rebuild();
        var picture = "a picture's bytes"u8.ToArray();
        Do(
            $"""
            INSERT INTO pictures ("Hash", "Content", "Small", "Width", "Height") VALUES
            ('{Convert.ToHexStringLower(SHA256.HashData(picture))}', x'{Convert.ToHexString(picture)}', x'00', 1, 1)
            """
        );
    }

    public ValueTask DisposeAsync()
    {
        store.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
        return ValueTask.CompletedTask;
    }

    [Fact]
    public void The_form_that_is_hashed_stays_as_it_is_written_down()
    {
        var first = new EntryRow
        {
            Order = 104,
            Sequence = 1,
            Id = Guid.Parse("019AB0C2-D3E4-7F00-A1B2-C3D4E5F60718"),
            At = 1_764_316_800_000,
            By = "mara",
            Kind = "note-added/1",
            Print = "9f2c",
            Body = """{"text":"läuft\n – ok"}""",
            Before = EntryChain.None,
        };
        // By another program's SHA-256, over the lines of docs/journal-format.md.
        Assert.Equal("f138b45f187db20011a9e4ca309324b0aae4e211288ef1fe0a2acf99f881dee6", Hex(first));
        var next = new EntryRow
        {
            Order = 104,
            Sequence = 2,
            Id = Guid.Parse("019AB0C2-D3E4-7F00-A1B2-C3D4E5F60719"),
            At = 1_764_316_805_000,
            By = "tobi",
            Kind = "note-added/1",
            Print = "",
            SaidAt = 1_764_316_800_500,
            ClockOff = true,
            Body = """{"text":"later"}""",
            Before = EntryChain.HashOf(first),
        };
        Assert.Equal("425bb095ecd60dea93c5484299b083516bd2a1d0b14f91aa5fba51a436f64916", Hex(next));
    }

    [Fact]
    public void What_nobody_touched_is_as_it_was_recorded()
    {
        var (verified, faults) = Verify();
        Assert.Empty(faults);
        Assert.Equal((20, 20, 335), (verified.Orders, verified.Of, verified.Entries));
        Assert.Equal((1, 26), (verified.Pictures, verified.Captures));
    }

    [Theory]
    [InlineData("the first", 1)]
    [InlineData("one amid", 4)]
    [InlineData("the last", 16)]
    public void A_changed_entry_is_named(string which, int sequence)
    {
        foreach (
            var change in new[]
            {
                """ "Body" = replace("Body", ':', ': ')""",
                """ "By" = "By" || 'a'""",
                """ "At" = "At" + 1""",
                """ "Id" = '019AB0C2-D3E4-7F00-A1B2-C3D4E5F60718'""",
                """ "Print" = "Print" || '0'""",
                """ "SaidAt" = "At", "ClockOff" = 0""",
            }
        )
        {
            var before = Whole();
            Do($"""UPDATE entries SET {change} WHERE "Order" = 110 AND "Sequence" = {sequence}""");
            var named = Assert.Single(Verify().Faults, f => f.Order == 110 && f.Sequence is not null);
            Assert.Equal((which, sequence), (which, named.Sequence));
            Put(before);
        }
    }

    [Fact]
    public void What_an_entry_carries_of_the_one_before_is_part_of_it()
    {
        Do("""UPDATE entries SET "Before" = zeroblob(32) WHERE "Order" = 110 AND "Sequence" = 6""");
        Assert.Equal((110, 6), Found());
    }

    [Theory]
    [InlineData("""DELETE FROM entries WHERE "Order" = 110 AND "Sequence" = 1""", 1)]
    [InlineData("""DELETE FROM entries WHERE "Order" = 110 AND "Sequence" = 5""", 5)]
    [InlineData("""DELETE FROM entries WHERE "Order" = 110 AND "Sequence" = 16""", 16)]
    // The gap is closed up, so that only the chain tells.
    [InlineData(
        """
            DELETE FROM entries WHERE "Order" = 110 AND "Sequence" = 5;
            UPDATE entries SET "Sequence" = "Sequence" - 1 WHERE "Order" = 110 AND "Sequence" > 5;
            UPDATE orders SET "Head" = "Head" - 1 WHERE "Number" = 110
            """,
        5
    )]
    [InlineData(
        """
            INSERT INTO entries ("Position", "Order", "Sequence", "Id", "Kind", "At", "By", "Body", "Print", "Before")
            SELECT 9000, "Order", 17, 'AAAAAAAA-D3E4-7F00-A1B2-C3D4E5F60718', "Kind", "At", "By", "Body", "Print",
            "Before"
            FROM entries WHERE "Order" = 110 AND "Sequence" = 16
            """,
        17
    )]
    public void What_was_taken_out_or_put_in_is_named(string sql, int sequence)
    {
        Do(sql);
        Assert.Equal((110, sequence), Found());
    }

    [Fact]
    public void An_order_that_is_gone_is_named()
    {
        Do("""DELETE FROM entries WHERE "Order" = 112; DELETE FROM orders WHERE "Number" = 112""");
        var fault = Assert.Single(Verify().Faults);
        Assert.Equal((112, null), (fault.Order, fault.Sequence));
        Assert.Contains("is gone", fault.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void A_board_row_that_says_something_else_is_named_and_no_entry_with_it()
    {
        Do("""UPDATE orders SET "Stage" = 'Ready' WHERE "Number" = 110""");
        var fault = Assert.Single(Verify().Faults);
        Assert.Equal((110, null), (fault.Order, fault.Sequence));
        Assert.Contains("--rebuild", fault.Sentence, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("pictures", "picture")]
    [InlineData("captures", "capture")]
    public void A_byte_of_a_picture_or_capture_that_changed_is_found(string table, string noun)
    {
        Do(
            $"""
            UPDATE {table} SET "Content" = CAST(substr("Content", 1, 9) || x'00' || substr("Content", 11) AS BLOB)
            WHERE rowid = (SELECT min(rowid) FROM {table})
            """
        );
        Assert.StartsWith($"The {noun} ", Assert.Single(Verify().Faults).Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void Rows_made_anew_keep_the_evidence_of_what_was_changed_before()
    {
        Do("""UPDATE entries SET "By" = 'tobi' WHERE "Order" = 110 AND "Sequence" = 16""");
        Rebuild();
        Assert.Equal((110, 16), Found());
    }

    private static string Hex(EntryRow entry) => Convert.ToHexStringLower(EntryChain.HashOf(entry));

    // As the first start of this version does.
    private void Rebuild()
    {
        Assert.Empty(store.Rebuild.Run().Unread);
        Assert.False(store.Rebuild.IsDue());
    }

    [Fact]
    public void A_day_s_head_counts_what_was_recorded_until_its_end_and_is_made_once()
    {
        var days = Days();
        Assert.True(days.Count > 1);
        foreach (var (day, _) in days)
        {
            // Whoever ends does not wait for it, and what was counted so far is no head.
            Assert.Throws<OperationCanceledException>(() => store.Heads.Make(day.AddHours(26), new(canceled: true)));
            Assert.True(store.Heads.Make(day.AddHours(26)));
            Assert.False(store.Heads.Make(day.AddHours(26)));
            Assert.False(store.Heads.Make(day.AddHours(30)));
        }

        // As docs/journal-format.md has it, over the entries as the file has them.
        var (before, from) = (new string('0', 64), 0L);
        foreach (var ((day, to), head) in days.Zip(store.Heads.Newest(100).Reverse()))
        {
            var lines = $"revtal-day/1\n{before}\n{day:yyyy-MM-dd}\n";
            foreach (var entry in store.Connections.Read(db => ChainRows.Between(db, from, to, 1000)))
            {
                lines += $"{entry.Position} {Hash(EntryChain.Canonical(entry))}\n";
            }

            Assert.Equal(($"{day:yyyy-MM-dd}", to, Hash(lines)), (head.Day, head.Position, head.Hash));
            (before, from) = (head.Hash, to);
        }

        Assert.Empty(Verify().Faults);
    }

    [Fact]
    public void A_whole_new_chain_does_not_fit_the_head_of_its_day_and_another_head_is_not_signed()
    {
        var days = Days();
        foreach (var (day, _) in days)
        {
            store.Heads.Make(day.AddHours(26));
        }

        // A price of long ago, and all that proves it written anew.
        Do("""UPDATE entries SET "Print" = 'another' WHERE "Position" = 3""");
        Do("""UPDATE entries SET "Before" = NULL WHERE "Order" = (SELECT "Order" FROM entries WHERE "Position" = 3)""");
        Do("""UPDATE orders SET "Hash" = NULL WHERE "Number" = (SELECT "Order" FROM entries WHERE "Position" = 3)""");
        using (var db = store.Connections.Open())
        {
            ChainRows.Fill(db);
        }

        // What follows in the same order on later days carries it.
        var fault = Verify().Faults[0];
        Assert.Contains($"until the end of {days[0].Day:yyyy-MM-dd} is not", fault.Sentence, StringComparison.Ordinal);

        Do("""UPDATE day_heads SET "Position" = "Position" - 1 WHERE "Day" = (SELECT max("Day") FROM day_heads)""");
        Assert.Contains(
            Verify().Faults,
            f => f.Sentence.Contains("is not signed by this shop", StringComparison.Ordinal)
        );
    }

    // An entry an hour; each day, and its last position.
    private List<(DateTimeOffset Day, long Position)> Days()
    {
        Do("""UPDATE entries SET "Before" = NULL, "At" = 1772409600000 + "Position" * 3600000""");
        Do("""UPDATE orders SET "Hash" = NULL""");
        store.Rebuild.Run();
        return
        [
            .. store
                .Connections.Read(db => ChainRows.Between(db, 0, long.MaxValue, 1000))
                .GroupBy(e => DateTimeOffset.FromUnixTimeMilliseconds(e.At).Date)
                .Select(g => (new DateTimeOffset(g.Key, TimeSpan.Zero), g.Max(e => e.Position))),
        ];
    }

    private static string Hash(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));

    private (int? Order, int? Sequence) Found()
    {
        var fault = Verify().Faults.First(f => f.Sequence is not null);
        return (fault.Order, fault.Sequence);
    }

    private (Verified Verified, List<StoreFault> Faults) Verify()
    {
        var faults = new List<StoreFault>();
        return (store.Verifier.Run(faults.Add, _ => { }), faults);
    }

    private void Do(string sql)
    {
        using var connection = SqliteStore.Open(folder);
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    private byte[] Whole()
    {
        Do("PRAGMA wal_checkpoint(TRUNCATE)");
        return File.ReadAllBytes(Path.Combine(folder, SqliteStore.FileName));
    }

    private void Put(byte[] whole)
    {
        SqliteConnection.ClearAllPools();
        Do("PRAGMA wal_checkpoint(TRUNCATE)");
        SqliteConnection.ClearAllPools();
        File.WriteAllBytes(Path.Combine(folder, SqliteStore.FileName), whole);
    }
}
