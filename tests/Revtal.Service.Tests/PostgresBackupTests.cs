using System.Collections.Concurrent;
using System.Diagnostics;
using System.Text.Json.Nodes;
using Revtal.Contracts;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>
/// A shop goes from a folder into a database and back by its backups, and answers everything as before.
/// </summary>
public sealed class PostgresBackupTests : IDisposable
{
    // What a service says of itself and its settings, of whoever asks or of this very moment; and what never ends.
    private static readonly HashSet<string> OfAnother =
    [
        "getStore",
        "getHeads",
        "fetchBackup",
        "getVerification",
        "getSession",
        "listSessions",
        "streamChanges",
        "getHere",
        "listAudit",
        "signInElsewhere",
        "exportGuide",
        "getShop",
    ];

    private readonly string folder = Directory.CreateTempSubdirectory("revtal-move-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task A_shop_moves_into_a_database_and_back_and_every_endpoint_says_of_every_order_what_it_said()
    {
        await using var source = await ServiceProcess.StartAsync(
            program: "revtal-demo",
            arguments: ["--rate", "0", "--smtp:after", "60"]
        );
        string[] there = ["--store", PostgresServer.Here.NewDatabase()],
            back = ["--data", Path.Combine(folder, "back")];

        await RestoreAsync(await FetchAsync(source, "one"), there);
        await using var moved = await StartAsync(there, source);
        await RestoreAsync(await FetchAsync(moved, "two", asTables: true), back);
        await using var returned = await StartAsync(back, source);

        var asked = 0;
        await foreach (var (path, said) in AnswersAsync(source))
        {
            Assert.Equal((path, said), (path, await AnswerAsync(moved, path)));
            Assert.Equal((path, said), (path, await AnswerAsync(returned, path)));
            asked++;
        }

        Assert.True(asked > 500, $"{asked} answers");

        // And the bench goes on there.
        var next = (await source.As("sanne").TakeInAsync(new TakeInRequest("FJ14", "Ferry ticket desk", "slow"))).Order;
        foreach (var shop in new[] { moved, returned })
        {
            Assert.Equal(
                next,
                (await shop.As("sanne").TakeInAsync(new TakeInRequest("FJ14", "Ferry ticket desk", "slow"))).Order
            );
            await shop.As("mara").NoteAsync(next, new NoteRequest("@tobi: it came along"));
            Assert.Equal(next, (await shop.As("tobi").NoticesAsync()).Items[0].Order);
        }
    }

    [Fact]
    public async Task A_backup_under_load_has_all_that_was_acknowledged_before_it_began_and_nothing_by_halves()
    {
        await using var source = await ServiceProcess.StartAsync(arguments: ["--rate", "0"]);
        var order = (await source.As("sanne").TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", "slow"))).Order;
        var told = new ConcurrentQueue<string>();
        using var over = new CancellationTokenSource();
        var writers = Enumerable
            .Range(0, 8)
            .Select(async w =>
            {
                for (var i = 0; !over.IsCancellationRequested; i++)
                {
                    var number = w % 2 == 0 ? order : (await source.As("sanne").TakeInAsync(Story.TakeIn)).Order;
                    await source.As("mara").NoteAsync(number, new NoteRequest($"{w}.{i}"));
                    told.Enqueue($"{number}: {w}.{i}");
                }
            })
            .ToList();
        while (told.Count < 100)
        {
            await Task.Delay(10);
        }

        string[] before = [.. told];
        var backup = await FetchAsync(source, "loaded");
        await over.CancelAsync();
        await Task.WhenAll(writers);

        string[] there = ["--store", PostgresServer.Here.NewDatabase()];
        await RestoreAsync(backup, there);
        await using var moved = await StartAsync(there, source);
        foreach (var own in before.Select(b => b.Split(": ")).GroupBy(b => int.Parse(b[0]), b => b[1]))
        {
            var notes = (await moved.As("mara").OrderAsync(own.Key)).Journal.Select(j => j.Text).ToHashSet();
            Assert.Subset(notes, own.ToHashSet());
        }
    }

    private Task<ServiceProcess> StartAsync(string[] store, ServiceProcess source) =>
        ServiceProcess.StartAsync(
            Path.Combine(folder, "none"),
            arguments: [.. store, "--rate", "0", "--smtp:after", "60"],
            tokens: source.Tokens
        );

    private async Task<string> FetchAsync(ServiceProcess from, string name, bool asTables = false)
    {
        var file = Path.Combine(folder, name);
        await using var to = File.Create(file);
        await from.As("ines").FetchBackupAsync(to, asTables);
        return file;
    }

    private static async Task RestoreAsync(string file, string[] into)
    {
        using var process = Process.Start(
            new ProcessStartInfo(Repository.At("bin", "revtald"), [.. into, "--restore", file])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var said = await process.StandardOutput.ReadToEndAsync() + await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.True(process.ExitCode == 0, said);
        Assert.Contains("All of it is as it was recorded.", said, StringComparison.Ordinal);
    }

    // Everything that may be asked by the API's own description, of everything that the shop has.
    private static async IAsyncEnumerable<(string Path, string Said)> AnswersAsync(ServiceProcess service)
    {
        var ines = service.As("ines");
        var orders = Enumerable.Range(101, 40).Select(n => $"{n}").ToList();
        var things = new Dictionary<string, List<string>>
        {
            ["/orders/{number}"] = orders,
            ["/batches/{batch}"] = orders,
            ["/guides/{code}"] = ["FJ14", "NM2", "PW24", "QT40", "TB6", "QW80", "NS13", "NV15"],
            ["/machines/{serial}"] = ["NF14-1207", "NF14-0932", "NM2-6101", "NM2-6112"],
            ["/dummies/{name}"] = [.. (await ines.DummiesAsync()).Select(d => d.Name)],
            ["/parts/kind/{number}"] = [.. (await ines.PartsAsync()).Select(p => $"{p.Kind.Number}")],
            ["/collector/{system}"] = ["linux"],
        };
        var paths = JsonNode.Parse(await File.ReadAllTextAsync(Repository.At("docs", "openapi.json")))!["paths"]!;
        foreach (var (path, operations) in paths.AsObject())
        {
            if (operations!["get"] is not { } get || OfAnother.Contains((string)get["operationId"]!))
            {
                continue;
            }

            var whole = path.Replace("{sequence}", "2", StringComparison.Ordinal);
            var of = things.FirstOrDefault(t => whole.Contains(t.Key, StringComparison.Ordinal));
            var asks = of.Key is null
                ? [whole]
                : of.Value.Select(v => whole.Replace(of.Key[of.Key.IndexOf('{')..], v, StringComparison.Ordinal));
            foreach (var ask in asks.Where(a => !a.Contains('{')))
            {
                yield return (ask, await AnswerAsync(service, ask));
            }
        }

        foreach (var text in new[] { "choir", "NF14", "cohir", "ferr" })
        {
            var ask = $"/api/v1/orders?text={text}&limit=500";
            yield return (ask, await AnswerAsync(service, ask));
        }
    }

    private static async Task<string> AnswerAsync(ServiceProcess service, string path)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        request.Headers.Authorization = service.Bearer("ines");
        using var answer = await service.Http.SendAsync(request);
        var body = path.EndsWith(".pdf", StringComparison.Ordinal)
            ? $"{(await answer.Content.ReadAsByteArrayAsync()).Length} bytes"
            : await answer.Content.ReadAsStringAsync();
        // A refusal tells by which number the log knows it.
        var traced = body.IndexOf("\"traceId\"", StringComparison.Ordinal);
        return $"{(int)answer.StatusCode} {(traced < 0 ? body : body[..traced])}";
    }
}
