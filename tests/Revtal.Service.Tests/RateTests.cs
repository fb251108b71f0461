using System.Net;
using System.Text.Json.Nodes;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Who asks too much waits, and nobody else does.</summary>
public sealed class RateTests
{
    [Fact]
    public async Task A_sign_in_that_asks_too_often_waits_and_no_other_does()
    {
        await using var service = await ServiceProcess.StartAsync(arguments: ["--rate", "4"]);
        var (answers, last) = await AskAsync(service, "sanne", 60);
        // Ten seconds' worth may come at once, and four more each second that it took.
        Assert.InRange(answers.Count(a => a == HttpStatusCode.OK), 40, 59);
        Assert.All(answers, a => Assert.True(a is HttpStatusCode.OK or HttpStatusCode.TooManyRequests));
        Assert.Equal("too-many", (string)JsonNode.Parse(last.Body)!["code"]!);
        Assert.InRange(last.Wait, 1, 30);
        Assert.Equal("mara", (await service.As("mara").SessionAsync()).Person!.Id);

        await Task.Delay(TimeSpan.FromSeconds(2));
        Assert.Equal(HttpStatusCode.OK, (await AskAsync(service, "sanne", 1)).Answers[0]);
    }

    [Fact]
    public async Task Nobody_waits_where_the_setting_says_so_but_whoever_is_not_signed_in()
    {
        await using var service = await ServiceProcess.StartAsync(arguments: ["--rate", "0"]);
        Assert.All((await AskAsync(service, "sanne", 1500)).Answers, a => Assert.Equal(HttpStatusCode.OK, a));
        var ofNobody = (await AskAsync(service, null, 400)).Answers;
        Assert.Contains(HttpStatusCode.TooManyRequests, ofNobody);
        Assert.InRange(ofNobody.Count(a => a == HttpStatusCode.OK), 200, 390);
        Assert.Equal(HttpStatusCode.OK, (await AskAsync(service, "sanne", 1)).Answers[0]);
    }

    [Fact]
    public async Task What_is_large_is_taken_in_a_few_at_a_time_and_the_rest_waits_or_is_told_to()
    {
        await using var service = await ServiceProcess.StartAsync();
        var opened = new TaskCompletionSource();
        var large = Enumerable.Range(0, 60).Select(_ => UploadAsync()).ToList();
        // Eight are under way and thirty-two wait; what came after those is told to come again.
        var refused = new List<HttpResponseMessage>();
        while (refused.Count < 20)
        {
            var done = await Task.WhenAny(large);
            large.Remove(done);
            refused.Add(await done);
        }

        Assert.All(refused, r => Assert.Equal(HttpStatusCode.TooManyRequests, r.StatusCode));
        Assert.All(refused, r => Assert.Equal("1", r.Headers.GetValues("Retry-After").Single()));
        // What is small goes on meanwhile.
        await service.As("mara").TakeInAsync(Story.TakeIn);
        Assert.All(large, l => Assert.False(l.IsCompleted));
        opened.SetResult();
        Assert.All(await Task.WhenAll(large), r => Assert.Equal(HttpStatusCode.OK, r.StatusCode));

        async Task<HttpResponseMessage> UploadAsync()
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, "api/v1/decode")
            {
                Content = new HeldContent(opened.Task),
            };
            request.Headers.Authorization = service.Bearer("mara");
            // The answer may come before the body.
            request.Headers.ExpectContinue = true;
            return await service.Http.SendAsync(request);
        }
    }

    [Fact]
    public async Task One_sign_in_listens_a_hundred_times_and_another_still_may()
    {
        await using var service = await ServiceProcess.StartAsync();
        var open = new List<HttpResponseMessage>();
        for (var i = 0; i < 100; i++)
        {
            open.Add(await ListenAsync("mara"));
        }

        Assert.All(open, o => Assert.Equal(HttpStatusCode.OK, o.StatusCode));
        using var more = await ListenAsync("mara");
        Assert.Equal(HttpStatusCode.TooManyRequests, more.StatusCode);
        Assert.Equal("too-many", (string)JsonNode.Parse(await more.Content.ReadAsStringAsync())!["code"]!);
        using var other = await ListenAsync("tobi");
        Assert.Equal(HttpStatusCode.OK, other.StatusCode);

        // Who leaves makes room, also for whoever asked for nonsense.
        using var nonsense = await ListenAsync("mara", "yesterday");
        Assert.Equal(HttpStatusCode.BadRequest, nonsense.StatusCode);
        open.ForEach(o => o.Dispose());
        var status = HttpStatusCode.TooManyRequests;
        for (var tries = 0; tries < 100 && status != HttpStatusCode.OK; tries++)
        {
            await Task.Delay(50);
            using var again = await ListenAsync("mara");
            status = again.StatusCode;
        }

        Assert.Equal(HttpStatusCode.OK, status);

        async Task<HttpResponseMessage> ListenAsync(string who, string? after = null)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, $"api/v1/changes?after={after ?? "0"}");
            request.Headers.Authorization = service.Bearer(who);
            return await service.Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        }
    }

    private static async Task<(HttpStatusCode[] Answers, (string Body, int Wait) Last)> AskAsync(
        ServiceProcess service,
        string? who,
        int times
    )
    {
        var answers = new List<HttpStatusCode>();
        var last = ("", 0);
        for (var i = 0; i < times; i++)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, "api/v1/session");
            request.Headers.Authorization = service.Bearer(who ?? "nobody");
            using var answer = await service.Http.SendAsync(request);
            answers.Add(answer.StatusCode);
            if (answer.StatusCode == HttpStatusCode.TooManyRequests)
            {
                last = (
                    await answer.Content.ReadAsStringAsync(),
                    int.Parse(answer.Headers.GetValues("Retry-After").Single())
                );
            }
        }

        return ([.. answers], last);
    }

    /// <summary>A body that begins, and ends when it is let go on.</summary>
    private sealed class HeldContent : HttpContent
    {
        private readonly Task opened;

        public HeldContent(Task opened)
        {
            this.opened = opened;
            Headers.ContentType = new("application/json");
        }

        protected override async Task SerializeToStreamAsync(Stream stream, TransportContext? context)
        {
            await stream.WriteAsync("""{"format":"revtal-capture/1","""u8.ToArray());
            await stream.FlushAsync();
            await opened;
            await stream.WriteAsync(
                """
                "files":[{"name":"meminfo","content":"TWVtVG90YWw6ICAgICAgIDQwMDAwMDAga0IK"}]}
                """u8.ToArray()
            );
        }

        protected override bool TryComputeLength(out long length)
        {
            length = 0;
            return false;
        }
    }
}
