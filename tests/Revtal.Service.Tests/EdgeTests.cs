using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Impatient senders, two at once, and a service that was killed or is not alone.</summary>
public sealed class EdgeTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient ines = fixture.Service.As("ines");

    [Fact]
    public async Task Overlapping_retries_of_one_receipt_bring_in_one_lot()
    {
        await ines.PutPartAsync("EDGE-8", new PartRequest("8 GB", 24.90m, Story.Module(8)));
        var before = (await ines.PartAsync("EDGE-8")).Items.Count;
        for (var round = 1; round <= 20; round++)
        {
            var key = Guid.NewGuid().ToString();
            var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => ReceiveAsync(key, 2)));
            Assert.All(answers, a => Assert.Equal(HttpStatusCode.Created, a.Status));
            Assert.Single(answers.Select(a => a.Text).Distinct());
            Assert.Equal(before + (round * 2), (await ines.PartAsync("EDGE-8")).Items.Count);
        }
    }

    // The second time the catalogue has the lines and the shelf the serials; the answer is the first one all the same.
    [Theory]
    [InlineData("catalogue.csv", "number,name,what,size,price\nEDGE-C,8 GB,module,8 GB,24.90\n", "comes new, 8 GB")]
    [InlineData("shelf.csv", "number,serial\nEDGE-T,EDGET-1\n", "comes in, EDGET-1")]
    public async Task A_table_that_is_sent_again_is_told_what_it_was_told(string table, string file, string what)
    {
        await ines.PutPartAsync("EDGE-T", new PartRequest("8 GB", 24.90m, Story.Module(8)));
        var key = Guid.NewGuid().ToString();
        var first = await SendAsync(key);
        Assert.Contains(what, first, StringComparison.Ordinal);
        Assert.Equal(first, await SendAsync(key));
        Assert.NotEqual(first, await SendAsync(Guid.NewGuid().ToString()));
        if (table == "shelf.csv")
        {
            Assert.Single((await ines.PartAsync("EDGE-T")).Items);
        }

        async Task<string> SendAsync(string key)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"api/v1/parts/{table}")
            {
                Content = new StringContent(file, Encoding.UTF8, "text/csv"),
            };
            request.Headers.Authorization = fixture.Service.Bearer("ines");
            request.Headers.Add("Idempotency-Key", key);
            using var answer = await fixture.Service.Http.SendAsync(request);
            Assert.True(answer.IsSuccessStatusCode);
            return await answer.Content.ReadAsStringAsync();
        }
    }

    [Fact]
    public async Task A_key_that_brought_in_two_does_not_bring_in_three()
    {
        await ines.PutPartAsync("EDGE-8", new PartRequest("8 GB", 24.90m, Story.Module(8)));
        var before = (await ines.PartAsync("EDGE-8")).Items.Count;
        var key = Guid.NewGuid().ToString();
        Assert.Equal(HttpStatusCode.Created, (await ReceiveAsync(key, 2)).Status);
        var (status, text) = await ReceiveAsync(key, 3);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("key-reused", text, StringComparison.Ordinal);
        Assert.Equal(before + 2, (await ines.PartAsync("EDGE-8")).Items.Count);
    }

    [Fact]
    public async Task The_last_lead_stays_a_lead()
    {
        Assert.Equal(
            (409, "last-lead"),
            await Story.Refused(ines.PutPersonAsync("ines", new PersonRequest("Ines Havgard", Role.Desk)))
        );
        Assert.Equal(Role.Lead, (await ines.ShopAsync()).People.Single(p => p.Id == "ines").Role);
    }

    [Theory]
    [InlineData("customer")]
    [InlineData("machine")]
    public async Task Nobody_is_called_as_the_shop_calls_others(string id) =>
        Assert.Equal(
            (422, "person-id"),
            await Story.Refused(ines.PutPersonAsync(id, new PersonRequest("Somebody", Role.Desk)))
        );

    [Fact]
    public async Task A_second_service_does_not_touch_a_folder_in_hand()
    {
        var (code, error) = await EndedAsync(fixture.Service.Folder);
        Assert.Equal(3, code);
        Assert.Contains("in hand", error, StringComparison.Ordinal);
        Assert.Single(error.Trim().Split('\n'));
        Assert.Equal("ready\n", await fixture.Service.Http.GetStringAsync("/readyz"));
    }

    [Fact]
    public async Task A_first_start_that_is_killed_at_any_moment_is_gone_on_with()
    {
        for (var moment = 0; moment < 10; moment++)
        {
            var folder = Directory.CreateTempSubdirectory("revtal-killed-").FullName;
            using (var doomed = ServiceProcess.Launch(folder))
            {
                // As far as it comes, and a little further each time; the moments fall over the whole migration.
                var database = Path.Combine(folder, "revtal.db");
                while (!File.Exists(database) && !doomed.HasExited)
                {
                    await Task.Yield();
                }

                await Task.Delay(moment * 20);
                doomed.Kill();
                await doomed.WaitForExitAsync();
            }

            await using (var again = await ServiceProcess.StartAsync(folder))
            {
                Assert.Equal("ready\n", await again.Http.GetStringAsync("/readyz"));
            }

            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task Help_is_printed_and_nothing_is_started()
    {
        using var process = ServiceProcess.Launch(
            Path.Combine(Path.GetTempPath(), "revtal-nowhere"),
            "revtald",
            "--help"
        );
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.Equal(0, process.ExitCode);
        Assert.Contains("--data FOLDER", output, StringComparison.Ordinal);
        Assert.False(Directory.Exists(Path.Combine(Path.GetTempPath(), "revtal-nowhere")));
    }

    [Fact]
    public async Task Many_who_listen_hear_the_same_in_order()
    {
        using var cancel = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        var order = (await ines.TakeInAsync(Story.TakeIn, cancel: cancel.Token)).Order;
        var since = (await ines.BoardAsync(cancel.Token)).Position;
        var heard = Enumerable
            .Range(0, 60)
            .Select(async i =>
            {
                var texts = new List<long>();
                await foreach (
                    var change in fixture.Service.As(i % 2 == 0 ? "mara" : "tobi").ChangesAsync(since, cancel.Token)
                )
                {
                    if (change.Order == order)
                    {
                        texts.Add(change.Position);
                    }

                    if (texts.Count == 40)
                    {
                        break;
                    }
                }

                return texts;
            })
            .ToArray();
        for (var i = 0; i < 40; i++)
        {
            await ines.NoteAsync(order, new NoteRequest($"{i}"), cancel: cancel.Token);
        }

        var all = await Task.WhenAll(heard);
        Assert.All(all, h => Assert.Equal(all[0], h));
        Assert.Equal(all[0].Order(), all[0]);
    }

    [Fact]
    public async Task What_changes_beside_the_orders_is_told_too()
    {
        using var cancel = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        await using var heard = fixture.Service.As(null).ShopChangesAsync(cancel.Token).GetAsyncEnumerator();
        var first = heard.MoveNextAsync().AsTask();

        // Until the listener is there nothing is told to it, and nothing is kept for it.
        while (!first.IsCompleted)
        {
            await ines.PutPersonAsync("heard", new PersonRequest("Hear D", Role.Desk), cancel.Token);
            await Task.WhenAny(first, Task.Delay(50, cancel.Token));
        }

        Assert.True(await first);
        Assert.Equal((ShopTopic.People, "ines"), (heard.Current.Topic, heard.Current.By));
        await ines.PutPartAsync("EDGE-L", new PartRequest("8 GB", 24.90m, Story.Module(8)), cancel.Token);
        await ines.MakeDummyAsync(new DummyRequest("edge-live", "FJ14"), cancel.Token);
        var topics = new List<ShopTopic?>();
        while (topics.Count < 2 && await heard.MoveNextAsync())
        {
            if (heard.Current.Topic != ShopTopic.People)
            {
                topics.Add(heard.Current.Topic);
            }
        }

        Assert.Equal([ShopTopic.Parts, ShopTopic.Dummies], topics);
    }

    [Fact]
    public async Task The_journal_shows_what_was_invited_and_not_what_opens_it()
    {
        var order = (await ines.TakeInAsync(Story.TakeIn)).Order;
        await ines.InviteAsync(order, new InviteRequest(Phase.Before));
        var entry = (await ines.EntriesAsync(order)).Single(e => e.Kind.StartsWith("reading-invited"));
        Assert.Equal("before", entry.Body.GetProperty("phase").GetString());
        Assert.Equal("", entry.Body.GetProperty("codeHash").GetString());
    }

    [Fact]
    public async Task A_listener_that_is_refused_is_told_so()
    {
        var refused = await Assert.ThrowsAsync<ProblemException>(async () =>
        {
            await foreach (var _ in fixture.Service.As(null).ChangesAsync(-1))
            {
                break;
            }
        });
        Assert.Equal("bad-request", refused.Code);
    }

    [Fact]
    public async Task A_demo_whose_filling_was_cut_off_is_filled_at_the_next_start()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-cut-").FullName;
        using (var doomed = ServiceProcess.Launch(folder, "revtal-demo"))
        {
            var mark = Path.Combine(folder, "demo.filling");
            while (!File.Exists(mark) && !doomed.HasExited)
            {
                await Task.Yield();
            }

            await Task.Delay(300);
            doomed.Kill();
            await doomed.WaitForExitAsync();
            Assert.True(File.Exists(mark));
        }

        await using (var again = await ServiceProcess.StartAsync(folder, program: "revtal-demo"))
        {
            Assert.Equal(36, (await again.As(null).SearchAsync(null, limit: 50)).Items.Count);
        }

        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_folder_with_something_else_in_it_ends_in_one_sentence()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-other-").FullName;
        await File.WriteAllTextAsync(Path.Combine(folder, "revtal.db"), new string('x', 8000));
        var (code, error) = await EndedAsync(folder);
        Assert.Equal(3, code);
        Assert.Contains("no database", error, StringComparison.Ordinal);
        Assert.DoesNotContain("   at ", error, StringComparison.Ordinal);
        Directory.Delete(folder, recursive: true);
    }

    [Theory]
    [InlineData("application/json; charset=klingon")]
    [InlineData("application/json; charset=utf-16")]
    [InlineData("text/plain")]
    public async Task Text_that_is_not_utf_8_is_not_guessed_at(string type)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, "api/v1/orders")
        {
            Content = new ByteArrayContent(Encoding.UTF8.GetBytes("{}")),
        };
        request.Content.Headers.TryAddWithoutValidation("Content-Type", type);
        request.Headers.Authorization = fixture.Service.Bearer("ines");
        using var answer = await fixture.Service.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, answer.StatusCode);
        await CodeAsync(answer, "media-type");
    }

    [Theory]
    [InlineData("GET", "api/v1/nowhere", 404, "no-such-path")]
    [InlineData("DELETE", "api/v1/board", 405, "method")]
    public async Task What_the_framework_refuses_has_a_code_and_says_what_to_do(
        string method,
        string path,
        int status,
        string code
    )
    {
        using var request = new HttpRequestMessage(new HttpMethod(method), path);
        using var answer = await fixture.Service.Http.SendAsync(request);
        Assert.Equal(status, (int)answer.StatusCode);
        await CodeAsync(answer, code);
    }

    private static async Task CodeAsync(HttpResponseMessage answer, string code)
    {
        Assert.Equal("application/problem+json", answer.Content.Headers.ContentType?.MediaType);
        var problem = await answer.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(code, problem.GetProperty("code").GetString());
        Assert.True(problem.GetProperty("detail").GetString()!.Length > 20);
    }

    private async Task<(HttpStatusCode Status, string Text)> ReceiveAsync(string key, int count)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, "api/v1/parts/kind/EDGE-8/items")
        {
            Content = JsonContent.Create(new { count, cost = 20 }),
        };
        request.Headers.Authorization = fixture.Service.Bearer("ines");
        request.Headers.Add("Idempotency-Key", key);
        using var answer = await fixture.Service.Http.SendAsync(request);
        return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
    }

    private static async Task<(int Code, string Error)> EndedAsync(string folder)
    {
        using var process = ServiceProcess.Launch(folder);
        var error = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        return (process.ExitCode, error);
    }
}
