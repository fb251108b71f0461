using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Revtal.Contracts;
using Revtal.Core.Guides;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The network interface as a stranger meets it: statuses, problems, headers.</summary>
public sealed class WireTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private const string TakeIn = """{ "model": "FJ14", "customer": "Choir", "complaint": "slow" }""";
    private readonly ServiceProcess service = fixture.Service;

    [Theory]
    [InlineData("orders", "{ not json", 400, "bad-request")]
    [InlineData("orders", "{ \"model\": 5 }", 400, "bad-request")]
    [InlineData(
        "orders",
        "{ \"model\": \"FJ14\", \"customer\": \"A\", \"complaint\": \"b\", \"backup\": \"maybe\" }",
        400,
        "bad-request"
    )]
    [InlineData("orders", "{ \"model\": \"XX99\", \"customer\": \"A\", \"complaint\": \"b\" }", 404, "no-such-model")]
    [InlineData("orders", "{ \"model\": \"FJ14\", \"customer\": \" \", \"complaint\": \"b\" }", 422, "text-missing")]
    [InlineData("orders", "{ \"model\": \"FJ14\", \"complaint\": \"b\" }", 400, "bad-request")]
    [InlineData(
        "orders",
        "{ \"model\": \"FJ14\", \"customer\": \"A\\u0007\", \"complaint\": \"b\" }",
        422,
        "text-control"
    )]
    [InlineData("orders/99999/notes", "{ \"text\": \"x\" }", 404, "no-such-order")]
    [InlineData("parts/kits/1/split", "{ \"note\": \"a\\u0000b\" }", 400, "bad-request")]
    [InlineData("orders?after=%00", "{ \"text\": \"x\" }", 400, "bad-request")]
    [InlineData("orders/101/plan", "{ \"changes\": [] }", 409, "wrong-stage")]
    [InlineData("orders/101/readings", "{ \"phase\": \"before\" }", 422, "reading-source")]
    [InlineData(
        "orders/101/readings",
        "{ \"phase\": \"before\", \"seen\": { \"slots\": [{ \"slot\": \"S9\", \"module\": null }] } }",
        422,
        "no-such-slot"
    )]
    [InlineData(
        "orders/101/readings",
        "{ \"phase\": \"before\", \"seen\": { \"systemShows\": \"lots\" } }",
        400,
        "bad-request"
    )]
    [InlineData(
        "orders/101/readings",
        "{ \"phase\": \"before\", \"capture\": { \"format\": \"revtal-capture/1\", \"files\": [{ \"name\": \"x\", "
            + "\"content\": \"aGVsbG8=\" }] } }",
        422,
        "capture-unknown"
    )]
    [InlineData("orders/101/layout", "{ \"parts\": [{ \"size\": 9223372036854775807 }] }", 400, "bad-request")]
    [InlineData("orders/101/layout", "{ \"parts\": [{ \"size\": \"9000000 TB\" }] }", 400, "bad-request")]
    [InlineData("orders/101/hand-back", "{ \"to\": \"x\" }", 409, "wrong-stage")]
    public async Task Bad_input_has_its_status_and_writes_nothing(string path, string body, int status, string code)
    {
        await EnsureOrderAsync();
        var before = await PositionAsync();
        using var answer = await PostAsync(path, body);
        using var problem = JsonDocument.Parse(await answer.Content.ReadAsStringAsync());

        Assert.Equal(
            (status, "application/problem+json"),
            ((int)answer.StatusCode, answer.Content.Headers.ContentType!.MediaType)
        );
        Assert.Equal(code, problem.RootElement.GetProperty("code").GetString());
        Assert.NotEmpty(problem.RootElement.GetProperty("detail").GetString()!);
        Assert.DoesNotContain(
            "Revtal.",
            problem.RootElement.GetProperty("detail").GetString(),
            StringComparison.Ordinal
        );
        Assert.Equal(before, await PositionAsync());
    }

    [Fact]
    public async Task A_body_over_its_size_is_refused()
    {
        using var answer = await PostAsync("orders", "{ \"model\": \"" + new string('x', 2 << 20) + "\" }");
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, answer.StatusCode);
    }

    [Fact]
    public async Task Another_media_type_is_refused()
    {
        using var answer = await PostAsync("orders", "model=FJ14", "application/x-www-form-urlencoded");
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, answer.StatusCode);
    }

    [Theory]
    [InlineData("Idempotency-Key", "not-a-uuid")]
    [InlineData("If-Match", "\"abc\"")]
    public async Task A_header_that_cannot_be_read_is_refused(string name, string value)
    {
        await EnsureOrderAsync();
        using var answer = await PostAsync("orders/101/notes", "{ \"text\": \"x\" }", header: (name, value));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
    }

    [Fact]
    public async Task An_order_has_an_etag_and_is_not_sent_twice()
    {
        await EnsureOrderAsync();
        using var first = await service.Http.GetAsync("/api/v1/orders/101");
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/v1/orders/101");
        request.Headers.IfNoneMatch.Add(first.Headers.ETag!);
        using var second = await service.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.NotModified, second.StatusCode);
    }

    [Fact]
    public async Task Older_orders_and_entries_are_had_page_by_page()
    {
        for (var i = 0; i < 3; i++)
        {
            (await PostAsync("orders", TakeIn)).Dispose();
        }

        var client = service.As("mara");
        var all = new List<int>();
        string? after = null;
        do
        {
            var page = await client.SearchAsync(null, after: after, limit: 2);
            all.AddRange(page.Items.Select(c => c.Number));
            Assert.InRange(page.Total, 3, int.MaxValue);
            after = page.Next;
        } while (after is not null);

        Assert.Equal(all.OrderDescending(), all);
        Assert.Equal(all.Distinct().Count(), all.Count);
        Assert.True(all.Count >= 3);
    }

    // Walked two by two each list is the one that is had at once, and each page tells how many there are.
    [Theory]
    [InlineData("orders")]
    [InlineData("orders/{order}/entries")]
    [InlineData("parts")]
    [InlineData("parts?only-short=true")]
    [InlineData("parts?text=pages")]
    [InlineData("parts/items")]
    [InlineData("parts/ledger")]
    [InlineData("guides")]
    [InlineData("suggestions")]
    public async Task Every_list_goes_on_by_its_key(string list)
    {
        var ines = service.As("ines");
        await ines.TakeInAsync(Story.TakeIn);
        var order = (await ines.TakeInAsync(Story.TakeIn)).Order;
        for (var i = 0; i < 5; i++)
        {
            await ines.NoteAsync(order, new NoteRequest($"{i}"));
            await ines.PutPartAsync($"PAGES-{i}", new PartRequest("8 GB", 9, Story.Module(8), Least: i + 100));
            await ines.ReceiveAsync($"PAGES-{i}", new ReceiveRequest(1));
            await ines.SuggestAsync(order, new SuggestRequest(new GuideChange(GuideChangeKind.Trap, "open", $"{i}")));
        }

        var path = list.Replace("{order}", $"{order}", StringComparison.Ordinal);
        path += path.Contains('?', StringComparison.Ordinal) ? "&" : "?";
        var whole = await PageAsync($"{path}limit=500");
        var walked = new List<string>();
        string? after = null;
        do
        {
            var page = await PageAsync($"{path}limit=2{(after is null ? "" : $"&after={after}")}");
            Assert.Equal((int)whole["total"]!, (int)page["total"]!);
            Assert.InRange(page["items"]!.AsArray().Count, 1, 2);
            walked.AddRange(page["items"]!.AsArray().Select(i => i!.ToJsonString()));
            after = (string?)page["next"];
        } while (after is not null);

        Assert.Equal(whole["items"]!.AsArray().Select(i => i!.ToJsonString()), walked);
        Assert.Equal((int)whole["total"]!, walked.Count);
        Assert.InRange(walked.Count, 2, 500);

        async Task<JsonNode> PageAsync(string path) =>
            JsonNode.Parse(await service.Http.GetStringAsync($"api/v1/{path}"))!;
    }

    [Theory]
    [InlineData("orders?after=x", "after")]
    [InlineData("orders?limit=0", "limit")]
    [InlineData("orders?limit=501", "limit")]
    [InlineData("orders?stage=nowhere", "stage wants one of taken-in")]
    [InlineData("parts/items?state=InStock", "state wants one of in-stock")]
    [InlineData("parts/items?order=first", "order wants a whole number")]
    [InlineData("parts?only-short=perhaps", "only-short wants true or false")]
    [InlineData("suggestions?after=1.2", "after")]
    [InlineData("parts/find", "text is missing")]
    public async Task A_parameter_that_cannot_be_read_is_named(string path, string said)
    {
        using var answer = await service.Http.GetAsync($"api/v1/{path}");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var problem = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        Assert.Equal("bad-request", (string?)problem["code"]);
        Assert.Contains(said, (string?)problem["detail"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_description_is_the_one_that_the_console_was_built_from() =>
        Assert.Equal(
            JsonSerializer.Serialize(
                JsonDocument.Parse(await File.ReadAllTextAsync(Repository.At("docs", "openapi.json")))
            ),
            JsonSerializer.Serialize(JsonDocument.Parse(await service.Http.GetStringAsync("/openapi/v1.json")))
        );

    [Fact]
    public async Task Pages_are_served_under_a_strict_policy_with_a_nonce_of_their_own()
    {
        using var first = await service.Http.GetAsync("/orders/101");
        using var second = await service.Http.GetAsync("/orders/101");
        var policy = first.Headers.GetValues("Content-Security-Policy").Single();
        Assert.DoesNotContain("unsafe", policy, StringComparison.Ordinal);
        Assert.Contains("default-src 'none'", policy, StringComparison.Ordinal);
        Assert.NotEqual(policy, second.Headers.GetValues("Content-Security-Policy").Single());
        Assert.DoesNotContain("__NONCE__", await first.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await service.Http.GetAsync("/api/v1/nothing")).StatusCode);
    }

    [Fact]
    public async Task A_page_of_another_name_cannot_speak_to_the_service()
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/v1/board");
        request.Headers.Host = "elsewhere.example";
        using var answer = await service.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
    }

    [Fact]
    public async Task Health_is_told()
    {
        Assert.Equal("alive\n", await service.Http.GetStringAsync("/healthz"));
        Assert.Equal("ready\n", await service.Http.GetStringAsync("/readyz"));
    }

    [Fact]
    public async Task Other_machines_are_not_listened_to()
    {
        using var process = System.Diagnostics.Process.Start(
            new System.Diagnostics.ProcessStartInfo(
                Repository.At("bin", "revtald"),
                ["--urls", "http://0.0.0.0:0", "--data", Path.Combine(service.Folder, "nobody-yet")]
            )
            {
                RedirectStandardError = true,
            }
        )!;
        var error = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.Equal(2, process.ExitCode);
        Assert.Contains("loopback only", error, StringComparison.Ordinal);
    }

    private async Task EnsureOrderAsync()
    {
        if (await PositionAsync() == 0)
        {
            (await PostAsync("orders", TakeIn)).Dispose();
        }
    }

    private async Task<long> PositionAsync() => (await service.As(null).BoardAsync()).Position;

    private async Task<HttpResponseMessage> PostAsync(
        string path,
        string body,
        string type = "application/json",
        string person = "mara",
        (string Name, string Value)? header = null
    )
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/v1/{path}")
        {
            Content = new StringContent(body, Encoding.UTF8, new MediaTypeHeaderValue(type)),
        };
        request.Headers.Authorization = fixture.Service.Bearer(person);
        if (header is { } h)
        {
            request.Headers.TryAddWithoutValidation(h.Name, h.Value);
        }

        return await service.Http.SendAsync(request);
    }
}
