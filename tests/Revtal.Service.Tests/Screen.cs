using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Revtal.Core;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A browser of the bench: it keeps the cookies that it is given.</summary>
internal sealed class Screen(Uri address) : IDisposable
{
    private readonly HttpClient http = new(new HttpClientHandler { UseCookies = false }) { BaseAddress = address };
    private readonly Dictionary<string, string> cookies = [];

    public Task<JsonNode> SessionAsync() => AnswerAsync(HttpMethod.Get, "session", null);

    /// <summary>Who is signed in at it, by id; null for nobody.</summary>
    public async Task<string?> WhoAsync() => (string?)(await SessionAsync())["person"]?["id"];

    public Task<JsonNode> PostAsync(string path, object body) => AnswerAsync(HttpMethod.Post, path, body);

    public async Task<string> RefusalAsync(string path, object body)
    {
        using var answer = await SendAsync(HttpMethod.Post, path, body);
        Assert.False(answer.IsSuccessStatusCode);
        return (string)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["code"]!;
    }

    public void Dispose() => http.Dispose();

    private async Task<JsonNode> AnswerAsync(HttpMethod method, string path, object? body)
    {
        using var answer = await SendAsync(method, path, body);
        var text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, text);
        return JsonNode.Parse(text)!;
    }

    private async Task<HttpResponseMessage> SendAsync(HttpMethod method, string path, object? body)
    {
        using var request = new HttpRequestMessage(method, $"api/v1/{path}");
        request.Content = body is null ? null : JsonContent.Create(body, options: RevtalJson.Options);
        request.Headers.Add("Sec-Fetch-Site", "same-origin");
        request.Headers.TryAddWithoutValidation("Cookie", string.Join("; ", cookies.Select(c => $"{c.Key}={c.Value}")));
        var answer = await http.SendAsync(request);
        foreach (var set in answer.Headers.TryGetValues("Set-Cookie", out var all) ? all : [])
        {
            var (name, value) = (set.Split('=')[0], set.Split(';')[0].Split('=', 2)[1]);
            Assert.True(value is "" || name.StartsWith("__Host-", StringComparison.Ordinal), set);
            cookies[name] = value;
        }

        return answer;
    }
}
