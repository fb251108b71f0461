using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Orders;

namespace Revtal.Client;

/// <summary>The service refused, and says why and what to do.</summary>
public sealed class ProblemException(HttpStatusCode status, string code, string detail) : Exception(detail)
{
    public HttpStatusCode Status { get; } = status;

    /// <summary>Stable short name of the rule: <c>power-not-isolated</c>.</summary>
    public string Code { get; } = code;
}

/// <summary>The service did not answer.</summary>
public sealed class UnreachableException(Uri address, Exception inner)
    : Exception($"No service answers at {address}. Start it with “revtald”, or name another with --service.", inner);

/// <summary>Revtal's API, typed. One instance serves many calls; changes are sent again once with the same key if the answer was lost.</summary>
/// <param name="http">Its <see cref="HttpClient.BaseAddress"/> is the service's address.</param>
/// <param name="person">The id of who sends changes; null when only reading.</param>
public sealed class RevtalClient(HttpClient http, string? person = null)
{
    private const string Root = "api/v1/";

    public Task<BoardView> BoardAsync(CancellationToken cancel = default) => GetAsync<BoardView>("board", cancel);

    public Task<OrderView> OrderAsync(int number, CancellationToken cancel = default) => GetAsync<OrderView>($"orders/{number}", cancel);

    /// <param name="below">The key of the next page: only numbers below it.</param>
    public Task<OrdersView> SearchAsync(string? text, Stage? stage = null, int? below = null, int limit = 50, CancellationToken cancel = default) =>
        GetAsync<OrdersView>($"orders?limit={limit}{Query("text", text)}{Query("stage", stage?.Word())}{Query("below", below?.ToString(System.Globalization.CultureInfo.InvariantCulture))}", cancel);

    public Task<EntriesView> EntriesAsync(int number, int after = 0, CancellationToken cancel = default) =>
        GetAsync<EntriesView>($"orders/{number}/entries?after={after}", cancel);

    public Task<CheckResult> CheckAsync(int number, CancellationToken cancel = default) => GetAsync<CheckResult>($"orders/{number}/check", cancel);

    public Task<Receipt> TakeInAsync(TakeInRequest request, Guid? key = null, CancellationToken cancel = default) => PostAsync<Receipt>("orders", request, key, cancel: cancel);

    public Task<Receipt> TakeReadingAsync(int number, ReadingRequest request, Guid? key = null, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/readings", request, key, cancel: cancel);

    public Task<Reading> DecodeAsync(CaptureBundle bundle, CancellationToken cancel = default) => PostAsync<Reading>("decode", bundle, null, cancel: cancel);

    public Task<PlanView> PreviewAsync(int number, PlanRequest request, CancellationToken cancel = default) =>
        PostAsync<PlanView>($"orders/{number}/plan/preview", request, null, cancel: cancel);

    public Task<Receipt> SetPlanAsync(int number, PlanRequest request, Guid? key = null, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/plan", request, key, cancel: cancel);

    public Task<Receipt> AgreeAsync(int number, AgreeRequest request, CancellationToken cancel = default) => PostAsync<Receipt>($"orders/{number}/agreement", request, null, cancel: cancel);

    /// <param name="ifMatch">The head that this was decided on; null to decide on whatever stands.</param>
    public Task<Receipt> ConfirmAsync(int number, string step, ConfirmRequest request, Guid? key = null, int? ifMatch = null, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/steps/{Uri.EscapeDataString(step)}", request, key, ifMatch, cancel);

    public Task<Receipt> ReseatAsync(int number, ReseatRequest request, CancellationToken cancel = default) => PostAsync<Receipt>($"orders/{number}/reseat", request, null, cancel: cancel);

    public Task<Receipt> ReadyAsync(int number, ReasonRequest request, CancellationToken cancel = default) => PostAsync<Receipt>($"orders/{number}/ready", request, null, cancel: cancel);

    public Task<Receipt> HandBackAsync(int number, HandBackRequest request, CancellationToken cancel = default) => PostAsync<Receipt>($"orders/{number}/hand-back", request, null, cancel: cancel);

    public Task<Receipt> ParkAsync(int number, ReasonRequest request, CancellationToken cancel = default) => PostAsync<Receipt>($"orders/{number}/park", request, null, cancel: cancel);

    public Task<Receipt> ResumeAsync(int number, CancellationToken cancel = default) => PostAsync<Receipt>($"orders/{number}/resume", null, null, cancel: cancel);

    public Task<Receipt> CancelAsync(int number, ReasonRequest request, CancellationToken cancel = default) => PostAsync<Receipt>($"orders/{number}/cancel", request, null, cancel: cancel);

    public Task<Receipt> NoteAsync(int number, NoteRequest request, Guid? key = null, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/notes", request, key, cancel: cancel);

    public Task<IReadOnlyList<GuideLine>> GuidesAsync(CancellationToken cancel = default) => GetAsync<IReadOnlyList<GuideLine>>("guides", cancel);

    public Task<GuideView> GuideAsync(string code, int? revision = null, CancellationToken cancel = default) =>
        GetAsync<GuideView>($"guides/{Uri.EscapeDataString(code)}{(revision is { } r ? $"?revision={r}" : "")}", cancel);

    public async Task<string> GuideFileAsync(string code, int? revision = null, CancellationToken cancel = default)
    {
        using var answer = await SendAsync(() => new HttpRequestMessage(HttpMethod.Get, $"{Root}guides/{Uri.EscapeDataString(code)}/file{(revision is { } r ? $"?revision={r}" : "")}"), cancel);
        return await answer.Content.ReadAsStringAsync(cancel);
    }

    public Task<GuidePublished> PublishGuideAsync(string yaml, CancellationToken cancel = default) =>
        ChangeAsync<GuidePublished>(HttpMethod.Post, "guides", () => new StringContent(yaml, Encoding.UTF8, "application/yaml"), null, null, cancel);

    public Task<ShopView> ShopAsync(CancellationToken cancel = default) => GetAsync<ShopView>("shop", cancel);

    public Task<Person> PutPersonAsync(string id, PersonRequest request, CancellationToken cancel = default) =>
        ChangeAsync<Person>(HttpMethod.Put, $"shop/people/{Uri.EscapeDataString(id)}", () => JsonContent.Create(request, options: RevtalJson.Options), null, null, cancel);

    /// <summary>Live changes until cancelled or the connection ends.</summary>
    /// <param name="after">The position last seen; null for what comes from now on.</param>
    public async IAsyncEnumerable<Change> ChangesAsync(long? after = null, [EnumeratorCancellation] CancellationToken cancel = default)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, $"{Root}changes");
        if (after is { } position)
        {
            request.Headers.Add("Last-Event-ID", position.ToString(System.Globalization.CultureInfo.InvariantCulture));
        }

        using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
        await using var stream = await answer.Content.ReadAsStreamAsync(cancel);
        await foreach (var item in SseParser.Create(stream, (_, data) => JsonSerializer.Deserialize<Change>(data, RevtalJson.Options)).EnumerateAsync(cancel))
        {
            if (item.Data is { } change)
            {
                yield return change;
            }
        }
    }

    private static string Query(string key, string? value) => value is null ? "" : $"&{key}={Uri.EscapeDataString(value)}";

    private async Task<T> GetAsync<T>(string path, CancellationToken cancel)
    {
        using var answer = await SendAsync(() => new HttpRequestMessage(HttpMethod.Get, Root + path), cancel);
        return await ReadAsync<T>(answer, cancel);
    }

    private Task<T> PostAsync<T>(string path, object? body, Guid? key, int? ifMatch = null, CancellationToken cancel = default) => ChangeAsync<T>(
        HttpMethod.Post, path, () => body is null ? null : JsonContent.Create(body, body.GetType(), options: RevtalJson.Options), key, ifMatch, cancel);

    private async Task<T> ChangeAsync<T>(HttpMethod method, string path, Func<HttpContent?> content, Guid? key, int? ifMatch, CancellationToken cancel)
    {
        var id = (key ?? Guid.CreateVersion7()).ToString();
        using var answer = await SendAsync(Make, cancel);
        return await ReadAsync<T>(answer, cancel);

        HttpRequestMessage Make()
        {
            var request = new HttpRequestMessage(method, Root + path) { Content = content() };
            request.Headers.Add("Idempotency-Key", id);
            if (person is not null)
            {
                request.Headers.TryAddWithoutValidation("Revtal-As", person);
            }

            if (ifMatch is { } head)
            {
                request.Headers.IfMatch.Add(new EntityTagHeaderValue($"\"{head}\""));
            }

            return request;
        }
    }

    private async Task<HttpResponseMessage> SendAsync(Func<HttpRequestMessage> make, CancellationToken cancel)
    {
        for (var again = false; ; again = true)
        {
            using var request = make();
            try
            {
                var answer = await http.SendAsync(request, cancel);
                return answer.IsSuccessStatusCode ? answer : throw await ProblemAsync(answer, cancel);
            }
            catch (HttpRequestException e) when (!again && e.HttpRequestError is HttpRequestError.ResponseEnded)
            {
                // The answer was lost, maybe after it was recorded; the same key records once.
            }
            catch (HttpRequestException e)
            {
                throw new UnreachableException(http.BaseAddress!, e);
            }
        }
    }

    private static async Task<T> ReadAsync<T>(HttpResponseMessage answer, CancellationToken cancel) =>
        await answer.Content.ReadFromJsonAsync<T>(RevtalJson.Options, cancel) ?? throw new InvalidDataException("The service answered with nothing.");

    private static async Task<ProblemException> ProblemAsync(HttpResponseMessage answer, CancellationToken cancel)
    {
        using (answer)
        {
            var text = await answer.Content.ReadAsStringAsync(cancel);
            try
            {
                using var json = JsonDocument.Parse(text);
                var root = json.RootElement;
                return new ProblemException(answer.StatusCode, Field("code") ?? "", Field("detail") ?? Field("title") ?? text);

                string? Field(string name) => root.TryGetProperty(name, out var value) ? value.GetString() : null;
            }
            catch (JsonException)
            {
                return new ProblemException(answer.StatusCode, "", $"The service answered {(int)answer.StatusCode}.");
            }
        }
    }
}
