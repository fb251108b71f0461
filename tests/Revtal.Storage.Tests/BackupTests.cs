using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using Microsoft.Data.Sqlite;
using Revtal.Storage;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>A backup holds the whole shop or says that it does not, and makes the same shop again.</summary>
public sealed class BackupTests : IAsyncLifetime
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-backup-").FullName;
    private TestStore store = null!;

    public async ValueTask InitializeAsync()
    {
        // Twenty orders with parts, guides and dummies, as an earlier version wrote them; and a row of all else.
        var from = Directory.CreateDirectory(Path.Combine(folder, "from")).FullName;
        File.Copy(Repository.At("tests", "data", "databases", "terms.db"), Path.Combine(from, SqliteStore.FileName));
        store = await TestStore.InAsync(from);
        var picture = "a picture's bytes"u8.ToArray();
        Do(
            $"""
            INSERT INTO pictures VALUES
                ('{Convert.ToHexStringLower(SHA256.HashData(picture))}', x'{Convert.ToHexString(
                picture
            )}', x'00', 1, 1);
            INSERT INTO guide_drafts VALUES ('NM2', 'model: "N\\u00e9m"', 3, 'mara', 7);
            INSERT INTO guide_names VALUES ('NM2', 'NEM', '', 1);
            INSERT INTO requests VALUES ('019AB0C2-D3E4-7F00-A1B2-C3D4E5F60718', 'p', 'null', 9223372036854775807);
            INSERT INTO accounts ("Person", "Failed", "AsksCode", "LastStep", "PinFailed") VALUES ('mara', 2, 1, 5, 0);
            INSERT INTO audit ("At", "By", "What") VALUES (1, 'mara', 'signed-in');
            INSERT INTO sessions ("Id", "Hash", "Person", "Kind", "Name", "Looks", "MadeAt", "UsedAt", "ExpiresAt")
                VALUES ('s', 'h', 'mara', 'Token', 'nightly ✓ "x"', 1, 1, 2, 3);
            INSERT INTO tablets ("Id", "Name", "Hash", "MadeAt") VALUES ('t', 'Bench 2', 'h', 1);
            INSERT INTO notices ("Person", "Order", "Sequence", "Kind", "Text", "By", "At")
                VALUES ('mara', 101, 1, 'Mentioned', 'line
            and line', 'tobi', 1);
            INSERT INTO webhooks ("Id", "Name", "Address", "Kinds", "InWords", "Active", "Secret", "Position", "MadeAt")
                VALUES ('w', 'books', 'http://127.0.0.1', '', 0, 1, 's', 300, 1);
            INSERT INTO webhook_messages ("Id", "Webhook", "Type", "Body", "State", "Tries", "At", "NextAt")
                VALUES ('m', 'w', 't', '', 'Dead', 9, 1, 2);
            INSERT INTO arrivals ("Id", "By", "At") VALUES ('a', 'mara', 1);
            INSERT INTO door_keys VALUES ('k', '<key/>');
            INSERT INTO invoices VALUES (1, 101, 3);
            INSERT INTO day_heads VALUES ('2026-03-02', 335, x'01', 'k', x'02');
            UPDATE part_items SET "Cost" = '12.50' WHERE "Id" = 1;
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
    public async Task A_shop_that_is_restored_is_the_same_shop_and_goes_on()
    {
        using var copy = await EmptyAsync("copy");
        var words = await store.Journal.SearchAsync("choir", null, false, null, 50);
        var backup = await BackupOf(store);
        var rows = Rows(backup);
        Assert.All(rows, t => Assert.NotEmpty(t.Value));
        Assert.Contains(rows["part_items"], r => r.Contains(",12.50,", StringComparison.Ordinal));

        var end = await RestoreAsync(copy, backup);
        var again = Rows(await BackupOf(copy));
        Assert.Equal(rows.Keys, again.Keys);
        Assert.All(rows, t => Assert.Equal(t.Value, again[t.Key]));
        Assert.Equal((rows.Count, rows.Values.Sum(r => r.Count)), (end.Tables, end.Rows));

        // By words, which no backup carries.
        var found = await copy.Journal.SearchAsync("choir", null, false, null, 50);
        Assert.NotEmpty(found.Items);
        Assert.Equal(words.Items, found.Items);

        // What is recorded next goes on from there in both.
        Assert.Equal((await store.TakeInAsync()).Number, (await copy.TakeInAsync()).Number);
        Assert.Equal(336, copy.Journal.LastPosition());
        const string line = """INSERT INTO audit ("At", "By", "What") VALUES (2, 'x', 'y') RETURNING "Position" """;
        Assert.Equal(
            store.Connections.Read(db => db.Number(line, null)),
            copy.Connections.Read(db => db.Number(line, null))
        );
    }

    [Fact]
    public async Task A_bit_that_was_flipped_in_any_table_is_found_and_nothing_is_begun_with_it()
    {
        var backup = Plain(await BackupOf(store));
        var random = new Random(20261128);
        using var copy = await EmptyAsync("copy");
        foreach (var line in LineStarts(backup))
        {
            var damaged = backup.ToArray();
            damaged[line.From + random.Next(line.Length)] ^= (byte)(1 << random.Next(8));
            await RefusedAsync(copy, Packed(damaged));
        }

        Assert.Equal(0, copy.Journal.LastPosition());
        await RestoreAsync(copy, Packed(backup));
    }

    [Fact]
    public async Task One_that_was_cut_off_packed_or_plain_is_refused_wherever_that_was()
    {
        var (packed, random) = (await BackupOf(store), new Random(7));
        var plain = Plain(packed);
        using var copy = await EmptyAsync("copy");
        for (var i = 0; i < 20; i++)
        {
            await RefusedAsync(copy, packed[..random.Next(packed.Length - 8)]);
            await RefusedAsync(copy, Packed(plain[..random.Next(plain.Length)]));
        }

        await RefusedAsync(copy, Packed([.. plain, .. "{}\n"u8]));
        await RefusedAsync(copy, "no backup"u8.ToArray());
        await RefusedAsync(copy, []);
        Assert.Equal(0, copy.Journal.LastPosition());
    }

    [Fact]
    public async Task A_shop_that_is_there_stays_as_it_is()
    {
        using var copy = await EmptyAsync("copy");
        var backup = await BackupOf(store);
        await RestoreAsync(copy, backup);
        var order = (await copy.TakeInAsync()).Number;
        var refused = await Assert.ThrowsAsync<StoreException>(() => RestoreAsync(copy, backup));
        Assert.Contains("There is a shop already", refused.Message, StringComparison.Ordinal);
        Assert.Equal(1, copy.Journal.Head(order));
    }

    [Fact]
    public async Task What_a_newer_version_wrote_is_not_half_restored()
    {
        using var copy = await EmptyAsync("copy");
        var text = Encoding.UTF8.GetString(Plain(await BackupOf(store)));
        foreach (
            var (from, to) in new[]
            {
                ("revtal-backup/1", "revtal-backup/2"),
                ("\"Grade\",", "\"Grades\","),
                ("{\"table\":\"tablets\"", "{\"table\":\"tabletops\""),
            }
        )
        {
            var newer = await Assert.ThrowsAsync<StoreException>(() =>
                RestoreAsync(copy, Packed(Encoding.UTF8.GetBytes(text.Replace(from, to, StringComparison.Ordinal))))
            );
            Assert.Contains("newer", newer.Message, StringComparison.Ordinal);
        }

        Assert.Equal(0, copy.Journal.LastPosition());
    }

    [Fact]
    public async Task What_was_changed_in_the_store_before_is_named_by_the_proof()
    {
        Assert.Equal(0, (await ProveAsync()).Faults);
        Do("""UPDATE entries SET "Body" = replace("Body", 'a', 'b') WHERE "Order" = 104 AND "Sequence" = 3""");
        Do("""DELETE FROM entries WHERE "Order" = 106 AND "Sequence" = 2""");
        Do("""UPDATE orders SET "Head" = 999 WHERE "Number" = 108""");
        Do("""UPDATE pictures SET "Content" = x'00' """);
        var proof = await ProveAsync();
        Assert.Equal((4, 20, 1), (proof.Faults, proof.Orders, proof.Pictures));
        Assert.Equal(
            [(104, 4), (106, 2)],
            proof.First.Where(f => f.Order < 108).Select(f => (f.Order!.Value, f.Sequence!.Value))
        );
        Assert.Contains(proof.First, f => f.Order == 108);
        Assert.Contains(proof.First, f => f.Order is null);
    }

    [Fact]
    public async Task It_is_of_one_moment_however_much_is_written_meanwhile()
    {
        using var over = new CancellationTokenSource();
        var writing = Task.Run(async () =>
        {
            while (!over.IsCancellationRequested)
            {
                await store.TakeInAsync();
            }
        });
        for (var i = 0; i < 10; i++)
        {
            var backup = await BackupOf(store);
            var proof = await BackupProver.ProveAsync(new MemoryStream(backup), "b");
            Assert.Equal((0, proof.Head.Position), (proof.Faults, proof.Entries));
            Assert.Equal(proof.Orders, Rows(backup)["orders"].Count);
        }

        await over.CancelAsync();
        await writing;
        Assert.True(store.Journal.LastPosition() > 335);
    }

    [Fact]
    public async Task Taken_away_as_tables_it_is_the_same_backup_whatever_its_texts_are()
    {
        string[] awkward =
        [
            "",
            "\\",
            "\\N",
            "\\\\",
            " before and after ",
            "a,b;c\td",
            "say \"so\"",
            "\"",
            "one\ntwo\r\nthree\rfour\n",
            "\r",
            "=1+1",
            "null",
            "null\0null",
            "żółć 漢字 🛠",
        ];
        foreach (var (text, i) in awkward.Select((t, i) => (t, i)))
        {
            store.Connections.Read(db =>
                db.Command("INSERT INTO door_keys VALUES (@p0, @p1)", null, $"text {i}", text).ExecuteNonQuery()
            );
        }

        // How far words are read is told too.
        await store.Journal.SearchAsync("choir", null, false, null, 1);
        var tables = await TablesOf(store);
        Assert.Equal(Lines(await BackupOf(store)), Lines(await ConvertedAsync(tables)));
        using var copy = await EmptyAsync("copy");
        await RestoreAsync(copy, await ConvertedAsync(tables));
        Assert.Equal(Lines(await BackupOf(store)), Lines(await BackupOf(copy)));

        // As a spreadsheet would read it.
        using var zip = new ZipArchive(new MemoryStream(tables));
        using var people = new StreamReader(zip.GetEntry("people.csv")!.Open());
        Assert.StartsWith("Id,Name,", await people.ReadLineAsync(), StringComparison.Ordinal);
        Assert.Contains("ines,Ines Havgard,", await people.ReadToEndAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Tables_that_were_changed_or_are_not_whole_are_refused()
    {
        var tables = await TablesOf(store);
        using (var zip = new ZipArchive(new MemoryStream(tables)))
        {
            foreach (var name in zip.Entries.Select(e => e.Name).ToArray())
            {
                await RefusedTablesAsync(Remade(tables, name, _ => null));
                if (name != "shop.json")
                {
                    await RefusedTablesAsync(Remade(tables, name, text => text[..^3] + "7" + text[^2..]));
                    await RefusedTablesAsync(Remade(tables, name, text => text[..(text.Length / 2)]));
                }
            }
        }

        var random = new Random(20261128);
        for (var i = 0; i < 50; i++)
        {
            await RefusedTablesAsync(tables[..random.Next(tables.Length)]);
            var damaged = tables.ToArray();
            damaged[random.Next(tables.Length)] ^= (byte)(1 << random.Next(8));
            // What a ZIP says beside its files, such as when each was written, is nothing of ours.
            try
            {
                Assert.Equal(Lines(await BackupOf(store)), Lines(await ConvertedAsync(damaged)));
            }
            catch (StoreException e)
            {
                Assert.Contains("tables", e.Message, StringComparison.Ordinal);
            }
        }

        var newer = Remade(tables, "shop.json", text => text.Replace("tables/1", "tables/2", StringComparison.Ordinal));
        var refused = await Assert.ThrowsAsync<StoreException>(() => ConvertedAsync(newer));
        Assert.Contains("newer", refused.Message, StringComparison.Ordinal);
    }

    private static Task<StoreException> RefusedTablesAsync(byte[] tables) =>
        Assert.ThrowsAsync<StoreException>(() => ConvertedAsync(tables));

    private static async Task<byte[]> TablesOf(TestStore of)
    {
        var to = new MemoryStream();
        await new TablesWriter(of.Engine).WriteAsync(to, "Saltmarsh Road", DateTimeOffset.UnixEpoch, "test");
        return to.ToArray();
    }

    private static async Task<byte[]> ConvertedAsync(byte[] tables)
    {
        var to = new MemoryStream();
        await TablesReader.ConvertAsync(new MemoryStream(tables), "the tables", to);
        return to.ToArray();
    }

    private static string[] Lines(byte[] backup) => Encoding.UTF8.GetString(Plain(backup)).Split('\n');

    // With one file changed, or without it.
    private static byte[] Remade(byte[] tables, string name, Func<string, string?> change)
    {
        var to = new MemoryStream();
        using (var from = new ZipArchive(new MemoryStream(tables)))
        using (var zip = new ZipArchive(to, ZipArchiveMode.Create))
        {
            foreach (var entry in from.Entries)
            {
                using var text = new StreamReader(entry.Open());
                var now = text.ReadToEnd();
                if (entry.Name == name && change(now) is var changed)
                {
                    now = changed;
                }

                if (now is not null)
                {
                    using var into = new StreamWriter(zip.CreateEntry(entry.Name).Open());
                    into.Write(now);
                }
            }
        }

        return to.ToArray();
    }

    private async Task<BackupProof> ProveAsync() =>
        await BackupProver.ProveAsync(new MemoryStream(await BackupOf(store)), "b");

    private static async Task<BackupEnd> RestoreAsync(TestStore into, byte[] backup) =>
        await new Restore(into.Engine).RunAsync(new MemoryStream(backup), "b");

    private static async Task RefusedAsync(TestStore into, byte[] backup)
    {
        await Assert.ThrowsAsync<StoreException>(() => BackupProver.ProveAsync(new MemoryStream(backup), "b"));
        await Assert.ThrowsAsync<StoreException>(() => RestoreAsync(into, backup));
    }

    private void Do(string sql) =>
        store.Connections.Read(db =>
        {
            using var command = db.Command(sql, null);
            return command.ExecuteNonQuery();
        });

    private async Task<TestStore> EmptyAsync(string name) => await TestStore.InAsync(Path.Combine(folder, name));

    private static async Task<byte[]> BackupOf(TestStore of)
    {
        var to = new MemoryStream();
        await new BackupWriter(of.Engine).WriteAsync(to, "Saltmarsh Road", DateTimeOffset.UnixEpoch, "test");
        return to.ToArray();
    }

    private static byte[] Plain(byte[] packed)
    {
        using var from = new GZipStream(new MemoryStream(packed), CompressionMode.Decompress);
        var to = new MemoryStream();
        from.CopyTo(to);
        return to.ToArray();
    }

    private static byte[] Packed(byte[] plain)
    {
        var to = new MemoryStream();
        using (var gzip = new GZipStream(to, CompressionLevel.Fastest))
        {
            gzip.Write(plain);
        }

        return to.ToArray();
    }

    // As any other program would read it: lines, and what they begin with.
    private static Dictionary<string, List<string>> Rows(byte[] backup)
    {
        var tables = new Dictionary<string, List<string>>();
        foreach (var line in Encoding.UTF8.GetString(Plain(backup)).Split('\n'))
        {
            if (line.StartsWith("{\"table\":", StringComparison.Ordinal))
            {
                tables[line.Split('"')[3]] = [];
            }
            else if (line.StartsWith('['))
            {
                tables.Last().Value.Add(line);
            }
        }

        return tables;
    }

    // Of each table its name, its first row and its end; and the first and last line of all.
    private static IEnumerable<(int From, int Length)> LineStarts(byte[] plain)
    {
        var (from, before) = (0, (byte)0);
        for (var i = 0; i < plain.Length; i++)
        {
            if (plain[i] == '\n')
            {
                if (plain[from] != '[' || before != '[')
                {
                    yield return (from, i - from);
                }

                (from, before) = (i + 1, plain[from]);
            }
        }
    }
}
