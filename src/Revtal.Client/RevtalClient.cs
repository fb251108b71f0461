using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Guides;

namespace Revtal.Client;

/// <summary>
/// Revtal's API, typed. One instance serves many calls; changes are sent again once with the same key if the answer was
/// lost. Here is how they travel; what can be asked stands in a file for each part of the work.
/// </summary>
/// <param name="http">Its <see cref="HttpClient.BaseAddress"/> is the service's address.</param>
/// <param name="token">Proves who asks; null where that needs nobody, or <paramref name="http"/> proves it.</param>
public sealed partial class RevtalClient(HttpClient http, string? token = null)
{
    private const int LargestPage = 500;
    private const string Root = "api/v1/";

    // What a guide calls its parts may hold anything that a path may not.
    private static string Path(StepId step) => Uri.EscapeDataString(step.ToString());

    private static string Query(string key, string? value) =>
        value is null ? "" : $"&{key}={Uri.EscapeDataString(value)}";

    // As JSON has it.
    private static string? Word<T>(T? word)
        where T : struct, Enum => word is { } w ? JsonNamingPolicy.KebabCaseLower.ConvertName(w.ToString()) : null;

    private static string Draft(string code) => $"guides/{Uri.EscapeDataString(code)}/draft";

    private static StringContent YamlBody(string yaml) => new(yaml, Encoding.UTF8, "application/yaml");

    private static ByteArrayContent Body(byte[] bytes, string type) =>
        new(bytes) { Headers = { ContentType = new MediaTypeHeaderValue(type) } };

    private HttpRequestMessage Signed(HttpRequestMessage request)
    {
        if (token is not null)
        {
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", token);
        }

        return request;
    }

    private static JsonContent Json(object body) => JsonContent.Create(body, WireTypes.Of(body.GetType()));

    private async Task DeleteAsync(string path, CancellationToken cancel)
    {
        using var _ = await SendAsync(() => new HttpRequestMessage(HttpMethod.Delete, Root + path), cancel);
    }

    private async Task<byte[]> BytesAsync(string path, CancellationToken cancel)
    {
        using var answer = await SendAsync(() => new HttpRequestMessage(HttpMethod.Get, Root + path), cancel);
        return await answer.Content.ReadAsByteArrayAsync(cancel);
    }

    private async Task<T> GetAsync<T>(string path, CancellationToken cancel)
    {
        using var answer = await SendAsync(() => new HttpRequestMessage(HttpMethod.Get, Root + path), cancel);
        return await ReadAsync<T>(answer, cancel);
    }

    /// <summary>A whole list, page by page.</summary>
    /// <param name="path">Ends where more parameters may follow.</param>
    private async Task<IReadOnlyList<T>> AllAsync<T>(string path, CancellationToken cancel)
    {
        var all = new List<T>();
        for (string? after = null; ; )
        {
            var page = await GetAsync<Page<T>>($"{path}&limit={LargestPage}{Query("after", after)}", cancel);
            all.AddRange(page.Items);
            if (page.Next is null)
            {
                return all;
            }

            after = page.Next;
        }
    }

    private Task<T> PostAsync<T>(
        string path,
        object? body,
        Guid? key,
        int? ifMatch = null,
        CancellationToken cancel = default
    ) => ChangeAsync<T>(HttpMethod.Post, path, () => body is null ? null : Json(body), key, ifMatch, cancel);

    private async Task<T> ChangeAsync<T>(
        HttpMethod method,
        string path,
        Func<HttpContent?> content,
        Guid? key,
        int? ifMatch,
        CancellationToken cancel
    )
    {
        var id = (key ?? Guid.CreateVersion7()).ToString();
        using var answer = await SendAsync(Make, cancel);
        return await ReadAsync<T>(answer, cancel);

        HttpRequestMessage Make()
        {
            var request = new HttpRequestMessage(method, Root + path) { Content = content() };
            request.Headers.Add("Idempotency-Key", id);

            if (ifMatch is { } head)
            {
                request.Headers.IfMatch.Add(new EntityTagHeaderValue($"\"{head}\""));
            }

            return request;
        }
    }

    private async Task<HttpResponseMessage> SendAsync(
        Func<HttpRequestMessage> make,
        CancellationToken cancel,
        HttpCompletionOption until = HttpCompletionOption.ResponseContentRead
    )
    {
        for (var again = false; ; again = true)
        {
            using var request = Signed(make());
            try
            {
                var answer = await http.SendAsync(request, until, cancel);
                return answer.IsSuccessStatusCode ? answer : throw await ProblemAsync(answer, cancel);
            }
            catch (HttpRequestException e) when (!again && e.HttpRequestError is HttpRequestError.ResponseEnded)
            {
                // The answer was lost, maybe after it was recorded; the same key records once.
            }
            // Whoever is gone before the connection is looked at comes as the socket's own word.
            catch (Exception e) when (e is HttpRequestException or SocketException)
            {
                throw new UnreachableException(http.BaseAddress!, e);
            }
        }
    }

    private static async Task<T> ReadAsync<T>(HttpResponseMessage answer, CancellationToken cancel) =>
        await answer.Content.ReadFromJsonAsync(WireTypes.Of<T>(), cancel)
        ?? throw new InvalidDataException("The service answered with nothing.");

    private static async Task<ProblemException> ProblemAsync(HttpResponseMessage answer, CancellationToken cancel)
    {
        using (answer)
        {
            var text = await answer.Content.ReadAsStringAsync(cancel);
            try
            {
                using var json = JsonDocument.Parse(text);
                var root = json.RootElement;
                return new ProblemException(
                    answer.StatusCode,
                    Field("code") ?? "",
                    Field("detail") ?? Field("title") ?? text
                );

                string? Field(string name) => root.TryGetProperty(name, out var value) ? value.GetString() : null;
            }
            catch (JsonException)
            {
                return new ProblemException(answer.StatusCode, "", $"The service answered {(int)answer.StatusCode}.");
            }
        }
    }
}
