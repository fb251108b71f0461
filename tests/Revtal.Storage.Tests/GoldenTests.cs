using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Storage;
using Revtal.Storage.Shapes;
using Xunit;

namespace Revtal.Tests.Storage;

/// <summary>
/// What earlier versions wrote is read for ever: lines of every kind, orders at every stage, a database of every
/// migration. The files were written by those versions, never by the code under test.
/// </summary>
public sealed class GoldenTests : IDisposable
{
    // Whoever changes one of these files changes history: a new version adds files beside them.
    private static readonly Dictionary<string, string> Fingerprints = new()
    {
        ["journal/first-version.jsonl"] = "a853e6e1f041b0a5fd8ae58c22a8e1dcf004c4984fe1c324d9def2ff1416da06",
        ["journal/golden.jsonl"] = "b2dae34a830d28ce2a0d8b016a1302847d293eb090f53f3fa6bdaf832754d7d6",
        ["journal/golden-orders.json"] = "330e13127977416f8303e974e0e6fd0c007d1de6840b313ee55b7e787d5cfbc6",
        ["journal/golden-holds.jsonl"] = "080f8410a5467d4493029284e2c23194431a3d11565f2085f761a90c495b8051",
        ["journal/golden-mends.jsonl"] = "900b135ccb45f6860eddd60bb02172fd4756aeed3ece448f63c9bdcc8ade4ad7",
        ["journal/golden-sketches.jsonl"] = "804725ba92aa1268050612d544518d7326734ab822ee1e3e6ca8a27646af3013",
        ["journal/golden-later.jsonl"] = "1b112aaddbd93b41dfed05ccd57ab3d295d281f0ccffe266a4521481e302a5a4",
        ["journal/golden-load.jsonl"] = "b9da41e02a6832beb495bda94eac5957f6d3bfdcdf7ee198537a31f5d54a6535",
        ["journal/golden-batches.jsonl"] = "a53e42940bca4234c8ce334c296009e6d4704f9537ae8586046999c808746b59",
        ["journal/golden-extras.jsonl"] = "cbe9e7ca2bf6c0d8d993137f25ac2ec415d8b451ec52ce64dcff5cf6f209fca5",
        ["journal/golden-shared.jsonl"] = "79075d70f8a1b675807357a2e19b2cfea37409f817cdea08c711024ac01283dc",
        ["journal/golden-answers.jsonl"] = "783359f3ea5afcd6f6ec31796c6863fb5cff13fc7a5fa987bfeb93280855aed2",
        ["journal/golden-reports.jsonl"] = "510d99621c15d28da28487ca0b00e8aae0c45b07df6553a44848c37daae5600a",
        ["journal/golden-invoices.jsonl"] = "c430b8a9341401c0097de1588d4959ffc15aa566ce364b3688ae2c54feb33243",
        ["databases/keeping.db"] = "9a469fcd95c4cdc408915f155af1c9d84abf8eae309708ae191ad24a115141e2",
        ["databases/terms.db"] = "bbd5255822f6f05abefe5e73739a2ce79467628183b29c719b025744a5f99b57",
        ["databases/chain.db"] = "fbe086b3dd516335f6e2fde6cb9301336628e6d0f3693c4cca7fdd7cfe380d3c",
        ["databases/readers.db"] = "49861e1120559390381b5804a2789d3b0a5b4ab4fb184a5271a823fed5afbd78",
        ["databases/outward.db"] = "000d799b02f57df9751f9d7639d28f6287fadb7fa4d55d39eb6b945d700087d8",
        ["databases/traces.db"] = "6ace2c0897b198bd6f753f0e2125327dcaf6f71f486edd88949b8f81de17167a",
        ["databases/said.db"] = "5084db1fb023b258f6daca65fb13a142529636da223953bd8f4f9227e02826e7",
        ["databases/notices.db"] = "4342d67bd4b42c110ebf28b684c5d83ee4bafbc79212282342ad84095c3c66f4",
        ["databases/tablets.db"] = "4c230fddeacac307f1c610572a959b3a21dca405ef5fd7b8fcb564f70a7a1d1e",
        ["databases/people.db"] = "bcc0cb784fd4be902b01a62ebc62b8276760728e792546ddb3502aef31c5a86a",
        ["databases/batches.db"] = "4240101a679807955b69398e92f36e69a50d1a0c9088b0ce5112b499a3bf9c93",
        ["databases/later.db"] = "682cc9797d4bd4a1b1b4ec6f075c4c7a4d82f37a6528c6fef6fd8ea13a979a3d",
        ["databases/arrivals.db"] = "9c981d0ad6699f465c8e5917c057ff025ae090fa8700432094fadc31bc9abd3d",
        ["databases/positions.db"] = "5652fce82f00ff41ebe14d89f5b16178a5addcaab370adfa0385f17a887809ab",
        ["databases/journal.db"] = "7df9765b4ea8063683d354aa226ffdd0f4e98df87cbde90b318624fe0ee722f6",
        ["databases/guides.db"] = "6c550ccbfe459555fdeb0e732c770d2390c7a8e3799ffc782fe40661d942ba06",
        ["databases/parts.db"] = "2f4fad60249da2f7e4bfc853b23143e27bef265215d398f689b3388ebbf439ba",
        ["databases/measuring.db"] = "8b930011eb8dd882603408b1065686be7c874bf0fda16365805559869d4568a1",
        ["databases/requests.db"] = "a1709b745ea7d920459087aa1066e7cd2d77293bb31c05e6042fed486d4dac1f",
        ["databases/search.db"] = "9a1df9cb47102461df284ca8cd25543d053f5854ed014045f9f0c076a50d91c5",
    };

    // Early bodies also held what follows from the rest; it is computed now and no longer written.
    private static readonly HashSet<string> Derived =
    [
        "fits",
        "isGood",
        "pulls",
        "spoken",
        "stays",
        "touched",
        "onlyLooks",
        "drivesLeaving",
        "changes",
    ];

    private readonly string folder = Directory.CreateTempSubdirectory("revtal-golden-").FullName;

    public static TheoryData<string> Files => [.. Fingerprints.Keys];

    public static TheoryData<string, int, int> Databases =>
        new()
        {
            // Entries and orders as the version that made it counted them.
            { "journal", 109, 10 },
            { "guides", 252, 16 },
            { "parts", 276, 18 },
            { "measuring", 335, 20 },
            { "requests", 335, 20 },
            { "search", 335, 20 },
            { "positions", 335, 20 },
            { "arrivals", 335, 20 },
            { "later", 335, 20 },
            { "batches", 335, 20 },
            { "people", 335, 20 },
            { "tablets", 335, 20 },
            { "notices", 335, 20 },
            { "said", 335, 20 },
            { "traces", 335, 20 },
            { "outward", 335, 20 },
            { "readers", 335, 20 },
            { "chain", 335, 20 },
            { "terms", 335, 20 },
            { "keeping", 335, 20 },
        };

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Theory]
    [MemberData(nameof(Files))]
    public void A_golden_file_is_as_it_was_written(string file) =>
        Assert.Equal(
            Fingerprints[file],
            Convert.ToHexStringLower(SHA256.HashData(File.ReadAllBytes(Repository.At("tests", "data", file))))
        );

    [Fact]
    public void Every_kind_that_is_read_has_its_golden_lines() =>
        Assert.Empty(EntryKinds.Names.Except(Lines().Select(l => l.Kind)));

    [Fact]
    public void What_was_written_once_is_read_and_written_again_without_loss()
    {
        Assert.All(
            Lines(),
            line =>
            {
                var body = EntryKinds.Read(line.Kind, line.Body);
                Assert.Equal(line.Kind, EntryKinds.NameOf(body));
                var again = EntryKinds.Write(body);
                Assert.Empty(Differences("", JsonNode.Parse(line.Body), JsonNode.Parse(again)));
                Assert.NotEmpty(body.Line(null));
            }
        );
    }

    [Fact]
    public void Golden_orders_stand_where_they_stood()
    {
        var orders = JsonNode.Parse(File.ReadAllText(Repository.At("tests", "data", "journal", "golden-orders.json")))!;
        var stages = new HashSet<Stage>();
        foreach (var told in orders.AsArray())
        {
            var (number, sequence) = ((int)told!["order"]!, (int)told["sequence"]!);
            var entries = Lines().Where(l => l.Order == number).Select(l => l.Entry).OrderBy(e => e.Sequence);
            var order = Order.Fold(entries.TakeWhile(e => e.Sequence <= sequence));
            var guide = Repository.Guide(order.Model).For(order.Variant);
            var card = OrderCard.Of(order, guide);
            Assert.Equal((string)told["stage"]!, order.Stage.Word());
            Assert.Equal((string?)told["verdict"], Word(card.Verdict));
            Assert.True(
                JsonNode.DeepEquals(told["slots"], JsonSerializer.SerializeToNode(card.Slots, RevtalJson.Options))
            );
            stages.Add(order.Stage);
        }

        Assert.Equal(Enum.GetValues<Stage>().Order(), stages.Order());
    }

    [Theory]
    [MemberData(nameof(Databases))]
    public async Task A_database_of_every_migration_opens_folds_and_goes_on(string version, int entries, int orders)
    {
        File.Copy(Repository.At("tests", "data", "databases", $"{version}.db"), Path.Combine(folder, "revtal.db"));
        using var store = await TestStore.InAsync(folder);
        var (journal, guides) = (store.Journal, store.Guides);
        Assert.Equal(entries, (await journal.ChangesAsync(0, 1000)).Count);

        var parts = new PartStore(store.Databases, store.Connections, store.Road);
        var found = await parts.LinesAsync("MODULE", onlyShort: false, after: null, most: 50);
        Assert.Equal((await parts.KindsAsync()).Count(k => k.Module is not null), found.Total);

        var stood = await StagesAsync(store.Databases);
        Assert.Equal(orders, store.Rebuild.Run().Orders);
        Assert.Equal(stood, await StagesAsync(store.Databases));
        Assert.NotEmpty((await journal.SearchAsync("letterpress", null, false, null, 1)).Items);
        store.Verifier.Run(fault => Assert.Fail(fault.Sentence), _ => { });

        var number = stood.First(o => o.Stage == nameof(Stage.TakenIn)).Number;
        var order = Order.Fold((journal.Entries(number)).Select(s => s.Entry));
        var guide = guides.Get(order.Model, order.Revision);
        var appended = await store.Writer.AppendAsync(
            new Append(
                number,
                order.Head,
                Guid.NewGuid(),
                DateTimeOffset.UnixEpoch,
                "mara",
                new NoteAdded("goes on"),
                "",
                e => ProjectionRows.Project(order.Apply(e), guide)
            )
        );
        Assert.IsType<AppendResult.Recorded>(appended);
        Assert.Equal(order.Head + 1, journal.Head(number));
    }

    [Fact]
    public async Task Rows_say_something_else_only_with_another_version()
    {
        File.Copy(Repository.At("tests", "data", "databases", "readers.db"), Path.Combine(folder, "revtal.db"));
        using var store = await TestStore.InAsync(folder);
        var rebuild = store.Rebuild;
        Assert.True(rebuild.IsDue());
        rebuild.Run();
        Assert.False(rebuild.IsDue());
        await using var db = store.Databases.CreateDbContext();
        var rows = await db.Orders.AsNoTracking().OrderBy(o => o.Number).ToListAsync();
        rows.ForEach(r => r.Hash = null);
        var said = string.Join('\n', rows.Select(r => JsonSerializer.Serialize(r)));
        // Where this differs, rows say something else of the same entries: raise the version, so that they are made
        // anew.
        Assert.Equal((1, "0efd2bd0dae0f21f"), (Rebuild.Version, Print(said)));

        var words = store.Connections.Read(db =>
            db.All(
                """SELECT "Id", "Kind", "Text" FROM traces ORDER BY "Id" """,
                row => $"{row.GetInt64(0)} {row.GetString(1)} {row.GetString(2)}"
            )
        );
        // The same of what orders are found by.
        Assert.Equal((2, "3f81f464eb54d754"), (Rebuild.WordsVersion, Print(string.Join('\n', words))));
    }

    private static string Print(string text) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..16];

    private static async Task<List<(int Number, string Stage)>> StagesAsync(IDbContextFactory<RevtalDb> databases)
    {
        await using var db = databases.CreateDbContext();
        return [.. (await db.Orders.OrderBy(o => o.Number).ToListAsync()).Select(o => (o.Number, o.Stage))];
    }

    private static string? Word<T>(T? value)
        where T : struct, Enum => value is { } v ? JsonNamingPolicy.KebabCaseLower.ConvertName(v.ToString()) : null;

    private sealed record Line(int Order, string Kind, string Body, Entry Entry);

    private static IEnumerable<Line> Lines()
    {
        string[] files =
        [
            "golden.jsonl",
            "golden-holds.jsonl",
            "golden-mends.jsonl",
            "golden-sketches.jsonl",
            "golden-later.jsonl",
            "golden-load.jsonl",
            "golden-batches.jsonl",
            "golden-extras.jsonl",
            "golden-shared.jsonl",
            "golden-answers.jsonl",
            "golden-reports.jsonl",
            "golden-invoices.jsonl",
        ];
        foreach (var line in files.SelectMany(f => File.ReadLines(Repository.At("tests", "data", "journal", f))))
        {
            using var json = JsonDocument.Parse(line);
            var root = json.RootElement;
            var (order, kind) = (root.GetProperty("order").GetInt32(), root.GetProperty("kind").GetString()!);
            var body = root.GetProperty("body").GetRawText();
            yield return new Line(
                order,
                kind,
                body,
                new Entry(
                    order,
                    root.GetProperty("sequence").GetInt32(),
                    root.GetProperty("id").GetGuid(),
                    DateTimeOffset.FromUnixTimeMilliseconds(root.GetProperty("at").GetInt64()),
                    root.GetProperty("by").GetString()!,
                    EntryKinds.Read(kind, body)
                )
            );
        }
    }

    // What the old line says must stand in the new one, but for what is computed now.
    private static IEnumerable<string> Differences(string path, JsonNode? was, JsonNode? now)
    {
        switch (was, now)
        {
            case (JsonObject a, JsonObject b):
                return a.SelectMany(p =>
                    b.ContainsKey(p.Key) ? Differences($"{path}.{p.Key}", p.Value, b[p.Key])
                    : Derived.Contains(p.Key) || p.Value is null ? []
                    : [$"{path}.{p.Key} is lost"]
                );
            case (JsonArray a, JsonArray b) when a.Count == b.Count:
                return a.SelectMany((item, i) => Differences($"{path}[{i}]", item, b[i]));
            default:
                return JsonNode.DeepEquals(was, now) ? [] : [$"{path} was {was}, is {now}"];
        }
    }
}
