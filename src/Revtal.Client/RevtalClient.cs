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
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

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

/// <summary>
/// Revtal's API, typed. One instance serves many calls; changes are sent again once with the same key if the answer was
/// lost.
/// </summary>
/// <param name="http">Its <see cref="HttpClient.BaseAddress"/> is the service's address.</param>
/// <param name="person">The id of who sends changes; null when only reading.</param>
public sealed class RevtalClient(HttpClient http, string? person = null)
{
    private const string Root = "api/v1/";

    public Task<BoardView> BoardAsync(CancellationToken cancel = default) => GetAsync<BoardView>("board", cancel);

    public Task<OrderView> OrderAsync(int number, CancellationToken cancel = default) =>
        GetAsync<OrderView>($"orders/{number}", cancel);

    /// <param name="below">The key of the next page: only numbers below it.</param>
    public Task<OrdersView> SearchAsync(
        string? text,
        Stage? stage = null,
        int? below = null,
        int limit = 50,
        CancellationToken cancel = default
    ) =>
        GetAsync<OrdersView>(
            $"orders?limit={limit}{Query("text", text)}{Query("stage", stage?.Word())}"
                + $"{Query("below", below?.ToString(System.Globalization.CultureInfo.InvariantCulture))}",
            cancel
        );

    public Task<EntriesView> EntriesAsync(int number, int after = 0, CancellationToken cancel = default) =>
        GetAsync<EntriesView>($"orders/{number}/entries?after={after}", cancel);

    public Task<CheckResult> CheckAsync(int number, CancellationToken cancel = default) =>
        GetAsync<CheckResult>($"orders/{number}/check", cancel);

    public Task<Receipt> TakeInAsync(TakeInRequest request, Guid? key = null, CancellationToken cancel = default) =>
        PostAsync<Receipt>("orders", request, key, cancel: cancel);

    public Task<Receipt> TakeReadingAsync(
        int number,
        ReadingRequest request,
        Guid? key = null,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/readings", request, key, cancel: cancel);

    /// <summary>A one-time code by which the machine itself sends a reading.</summary>
    public Task<InviteView> InviteAsync(int number, InviteRequest request, CancellationToken cancel = default) =>
        PostAsync<InviteView>($"orders/{number}/invites", request, null, cancel: cancel);

    /// <summary>The collector's script for a machine without a network.</summary>
    /// <param name="system"><c>linux</c>, <c>windows</c> or <c>macos</c>.</param>
    public Task<byte[]> CollectorAsync(string system, CancellationToken cancel = default) =>
        BytesAsync($"collector/{Uri.EscapeDataString(system)}", cancel);

    public Task<ScoresView> ScoresAsync(int number, CancellationToken cancel = default) =>
        GetAsync<ScoresView>($"orders/{number}/scores", cancel);

    public Task<Receipt> TakeScoresAsync(int number, ScoresRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/scores", request, null, cancel: cancel);

    public Task<Receipt> TakeScoresAsync(int number, Phase phase, byte[] file, CancellationToken cancel = default) =>
        ChangeAsync<Receipt>(
            HttpMethod.Post,
            $"orders/{number}/scores/file?phase={phase.ToString().ToLowerInvariant()}",
            () => Body(file, "text/plain"),
            null,
            null,
            cancel
        );

    public Task<Receipt> BeginSwapTestAsync(int number, SwapBeginRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/swap-test", request, null, cancel: cancel);

    public Task<Receipt> TrySwapAsync(int number, SwapTryRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/swap-test/tries", request, null, cancel: cancel);

    public Task<Receipt> EndSwapTestAsync(int number, string? reason = null, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/swap-test/end", new ReasonRequest(reason), null, cancel: cancel);

    public Task<Receipt> BeginWatchAsync(int number, WatchRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/watch", request, null, cancel: cancel);

    public Task<Receipt> NoteWatchAsync(int number, WatchNoteRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/watch/notes", request, null, cancel: cancel);

    public Task<Receipt> EndWatchAsync(int number, WatchEndRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/watch/end", request, null, cancel: cancel);

    public Task<IReadOnlyList<DummyView>> DummiesAsync(CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<DummyView>>("dummies", cancel);

    public Task<DummyView> DummyAsync(string name, CancellationToken cancel = default) =>
        GetAsync<DummyView>($"dummies/{Uri.EscapeDataString(name)}", cancel);

    public Task<DummyView> MakeDummyAsync(DummyRequest request, CancellationToken cancel = default) =>
        PostAsync<DummyView>("dummies", request, null, cancel: cancel);

    public Task<DummyView> ActOnDummyAsync(string name, DummyActRequest request, CancellationToken cancel = default) =>
        PostAsync<DummyView>($"dummies/{Uri.EscapeDataString(name)}/acts", request, null, cancel: cancel);

    public Task<CaptureBundle> CaptureDummyAsync(string name, CancellationToken cancel = default) =>
        GetAsync<CaptureBundle>($"dummies/{Uri.EscapeDataString(name)}/capture", cancel);

    public Task<CollectedView> SendDummyAsync(string name, string code, CancellationToken cancel = default) =>
        PostAsync<CollectedView>(
            $"dummies/{Uri.EscapeDataString(name)}/send",
            new DummySendRequest(code),
            null,
            cancel: cancel
        );

    public Task<Reading> DecodeAsync(CaptureBundle bundle, CancellationToken cancel = default) =>
        PostAsync<Reading>("decode", bundle, null, cancel: cancel);

    public Task<PlanPreview> PreviewAsync(int number, PlanRequest request, CancellationToken cancel = default) =>
        PostAsync<PlanPreview>($"orders/{number}/plan/preview", request, null, cancel: cancel);

    /// <param name="target">A size like “32 GB”; null for the workload's, or for what the reading suggests.</param>
    /// <param name="giveUp">Slots whose modules leave in any case.</param>
    public Task<OptionsView> OptionsAsync(
        int number,
        string? target = null,
        string? workload = null,
        decimal? budget = null,
        int stages = 1,
        IReadOnlyList<string>? giveUp = null,
        CancellationToken cancel = default
    ) =>
        GetAsync<OptionsView>(
            $"orders/{number}/options?stages={stages}{Query("target", target)}{Query("workload", workload)}"
                + $"{Query("budget", budget?.ToString(System.Globalization.CultureInfo.InvariantCulture))}"
                + $"{string.Concat((giveUp ?? []).Select(s => Query("giveUp", s)))}",
            cancel
        );

    public Task<LayoutView> LayoutAsync(int number, LayoutRequest request, CancellationToken cancel = default) =>
        PostAsync<LayoutView>($"orders/{number}/layout", request, null, cancel: cancel);

    public Task<IReadOnlyList<FitNote>> FitAsync(
        int number,
        string slot,
        MemoryModule module,
        CancellationToken cancel = default
    ) =>
        PostAsync<IReadOnlyList<FitNote>>(
            $"orders/{number}/fit/{Uri.EscapeDataString(slot)}",
            module,
            null,
            cancel: cancel
        );

    public Task<Quote> QuoteAsync(int number, CancellationToken cancel = default) =>
        GetAsync<Quote>($"orders/{number}/quote", cancel);

    /// <summary>The quote, a PDF.</summary>
    public Task<byte[]> QuotePaperAsync(int number, CancellationToken cancel = default) =>
        BytesAsync($"orders/{number}/quote.pdf", cancel);

    public Task<OfferView> OfferAsync(int number, OfferRequest request, CancellationToken cancel = default) =>
        PostAsync<OfferView>($"orders/{number}/quote/link", request, null, cancel: cancel);

    public Task<Receipt> RevokeAsync(int number, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/quote/revoke", null, null, cancel: cancel);

    public Task<Receipt> DeclineAsync(int number, DeclineRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/decline", request, null, cancel: cancel);

    /// <param name="link">The part of the link behind its last slash.</param>
    public Task<CustomerQuote> ReadQuoteAsync(string link, CancellationToken cancel = default) =>
        GetAsync<CustomerQuote>($"quotes/{Uri.EscapeDataString(link)}", cancel);

    public Task<Receipt> AnswerQuoteAsync(string link, AnswerRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"quotes/{Uri.EscapeDataString(link)}/answer", request, null, cancel: cancel);

    public Task<Receipt> BeginCopyAsync(
        int number,
        string bay,
        CopyBeginRequest request,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/copies/{Uri.EscapeDataString(bay)}", request, null, cancel: cancel);

    public Task<Receipt> AdvanceCopyAsync(
        int number,
        string bay,
        CopyDoneRequest request,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/copies/{Uri.EscapeDataString(bay)}/done", request, null, cancel: cancel);

    public Task<Receipt> VerifyCopyAsync(
        int number,
        string bay,
        CopyVerifyRequest request,
        CancellationToken cancel = default
    ) =>
        PostAsync<Receipt>($"orders/{number}/copies/{Uri.EscapeDataString(bay)}/verify", request, null, cancel: cancel);

    public Task<Receipt> SettleAsync(
        int number,
        string position,
        OldPartRequest request,
        CancellationToken cancel = default
    ) =>
        PostAsync<Receipt>(
            $"orders/{number}/old-parts/{Uri.EscapeDataString(position)}",
            request,
            null,
            cancel: cancel
        );

    /// <param name="text">Found in number, barcode, name or what it is; null for all.</param>
    /// <param name="onlyShort">Only what should be ordered.</param>
    public Task<IReadOnlyList<PartLine>> PartsAsync(
        string? text = null,
        bool onlyShort = false,
        CancellationToken cancel = default
    ) =>
        GetAsync<IReadOnlyList<PartLine>>(
            $"parts?onlyShort={(onlyShort ? "true" : "false")}{Query("text", text)}",
            cancel
        );

    public Task<PartView> PartAsync(string number, CancellationToken cancel = default) =>
        GetAsync<PartView>($"parts/kind/{Uri.EscapeDataString(number)}", cancel);

    public Task<PartKind> PutPartAsync(string number, PartRequest request, CancellationToken cancel = default) =>
        ChangeAsync<PartKind>(
            HttpMethod.Put,
            $"parts/kind/{Uri.EscapeDataString(number)}",
            () => JsonContent.Create(request, options: RevtalJson.Options),
            null,
            null,
            cancel
        );

    public Task<IReadOnlyList<PartItem>> ReceiveAsync(
        string number,
        ReceiveRequest request,
        Guid? key = null,
        CancellationToken cancel = default
    ) =>
        PostAsync<IReadOnlyList<PartItem>>(
            $"parts/kind/{Uri.EscapeDataString(number)}/items",
            request,
            key,
            cancel: cancel
        );

    public Task<IReadOnlyList<PartItem>> PartItemsAsync(
        string? kind = null,
        int? order = null,
        PartState? state = null,
        CancellationToken cancel = default
    ) =>
        GetAsync<IReadOnlyList<PartItem>>(
            $"parts/items?{Query("kind", kind)}"
                + $"{Query("order", order?.ToString(System.Globalization.CultureInfo.InvariantCulture))}"
                + $"{Query("state", state?.ToString())}",
            cancel
        );

    public Task<PartItem> MovePartAsync(long id, MovePartRequest request, CancellationToken cancel = default) =>
        PostAsync<PartItem>($"parts/items/{id}/move", request, null, cancel: cancel);

    public Task<IReadOnlyList<PartItem>> SplitKitAsync(
        long kit,
        SplitRequest request,
        CancellationToken cancel = default
    ) => PostAsync<IReadOnlyList<PartItem>>($"parts/kits/{kit}/split", request, null, cancel: cancel);

    public Task<IReadOnlyList<LedgerView>> LedgerAsync(
        long? item = null,
        long after = 0,
        CancellationToken cancel = default
    ) =>
        GetAsync<IReadOnlyList<LedgerView>>(
            $"parts/ledger?after={after}"
                + $"{Query("item", item?.ToString(System.Globalization.CultureInfo.InvariantCulture))}",
            cancel
        );

    /// <param name="what"><c>catalogue</c> or <c>shelf</c>.</param>
    public Task<byte[]> ExportPartsAsync(string what, CancellationToken cancel = default) =>
        BytesAsync($"parts/{what}.csv", cancel);

    /// <inheritdoc cref="ExportPartsAsync"/>
    public Task<CsvImported> ImportPartsAsync(
        string what,
        byte[] csv,
        bool dryRun = false,
        CancellationToken cancel = default
    ) =>
        ChangeAsync<CsvImported>(
            HttpMethod.Post,
            $"parts/{what}.csv?dryRun={(dryRun ? "true" : "false")}",
            () => Body(csv, "text/csv"),
            null,
            null,
            cancel
        );

    public Task<MachineView> MachineAsync(string serial, CancellationToken cancel = default) =>
        GetAsync<MachineView>($"machines/{Uri.EscapeDataString(serial)}", cancel);

    public Task<Receipt> SetPlanAsync(
        int number,
        PlanRequest request,
        Guid? key = null,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/plan", request, key, cancel: cancel);

    public Task<Receipt> AgreeAsync(int number, AgreeRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/agreement", request, null, cancel: cancel);

    /// <param name="ifMatch">The head that this was decided on; null to decide on whatever stands.</param>
    public Task<Receipt> ConfirmAsync(
        int number,
        StepId step,
        ConfirmRequest request,
        Guid? key = null,
        int? ifMatch = null,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/steps/{step}", request, key, ifMatch, cancel);

    public Task<Receipt> ReseatAsync(int number, ReseatRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/reseat", request, null, cancel: cancel);

    public Task<Receipt> BlockAsync(
        int number,
        StepId step,
        ReasonRequest request,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/steps/{step}/impossible", request, null, cancel: cancel);

    public Task<Receipt> TakeBackAsync(
        int number,
        StepId step,
        ReasonRequest request,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/steps/{step}/take-back", request, null, cancel: cancel);

    public Task<Receipt> WaiveAsync(int number, WaiveRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/waivers", request, null, cancel: cancel);

    public Task<Receipt> FindAsync(int number, FindRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/finds", request, null, cancel: cancel);

    public Task<Receipt> VariantAsync(int number, VariantRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/variant", request, null, cancel: cancel);

    public Task<Receipt> SealAsync(int number, SealRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/seal", request, null, cancel: cancel);

    public Task<Receipt> CopyAsync(int number, CopyRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/copy", request, null, cancel: cancel);

    public Task<Receipt> SuggestAsync(int number, SuggestRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/suggestions", request, null, cancel: cancel);

    /// <param name="picture">JPEG, PNG or WebP, at most 12 MB.</param>
    public Task<Receipt> PhotoAsync(
        int number,
        byte[] picture,
        StepId? step = null,
        string? caption = null,
        CancellationToken cancel = default
    ) =>
        ChangeAsync<Receipt>(
            HttpMethod.Post,
            $"orders/{number}/photos?{Query("step", step?.ToString())}{Query("caption", caption)}",
            () => Body(picture, "image/jpeg"),
            null,
            null,
            cancel
        );

    /// <summary>The run sheet, a PDF.</summary>
    public Task<byte[]> RunPaperAsync(int number, CancellationToken cancel = default) =>
        BytesAsync($"orders/{number}/run.pdf", cancel);

    public Task<PictureKept> KeepPictureAsync(byte[] picture, CancellationToken cancel = default) =>
        ChangeAsync<PictureKept>(HttpMethod.Post, "pictures", () => Body(picture, "image/jpeg"), null, null, cancel);

    /// <summary>A JPEG.</summary>
    public Task<byte[]> PictureAsync(string hash, bool small = false, CancellationToken cancel = default) =>
        BytesAsync($"pictures/{Uri.EscapeDataString(hash)}?small={(small ? "true" : "false")}", cancel);

    public Task<Receipt> ReadyAsync(int number, ReasonRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/ready", request, null, cancel: cancel);

    public Task<Receipt> HandBackAsync(int number, HandBackRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/hand-back", request, null, cancel: cancel);

    public Task<Receipt> ParkAsync(int number, ReasonRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/park", request, null, cancel: cancel);

    public Task<Receipt> ResumeAsync(int number, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/resume", null, null, cancel: cancel);

    public Task<Receipt> CancelAsync(int number, ReasonRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/cancel", request, null, cancel: cancel);

    public Task<Receipt> NoteAsync(
        int number,
        NoteRequest request,
        Guid? key = null,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/notes", request, key, cancel: cancel);

    /// <param name="text">Found anywhere in the guide; null for all.</param>
    public Task<IReadOnlyList<GuideLine>> GuidesAsync(string? text = null, CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<GuideLine>>($"guides?{Query("text", text)}", cancel);

    public Task<GuideView> GuideAsync(string code, int? revision = null, CancellationToken cancel = default) =>
        GetAsync<GuideView>(
            $"guides/{Uri.EscapeDataString(code)}{Phrases.When(revision, r => $"?revision={r}")}",
            cancel
        );

    public async Task<string> GuideFileAsync(string code, int? revision = null, CancellationToken cancel = default)
    {
        using var answer = await SendAsync(
            () =>
                new HttpRequestMessage(
                    HttpMethod.Get,
                    $"{Root}guides/{Uri.EscapeDataString(code)}/file{Phrases.When(revision, r => $"?revision={r}")}"
                ),
            cancel
        );
        return await answer.Content.ReadAsStringAsync(cancel);
    }

    public Task<GuidePublished> PublishGuideAsync(string yaml, CancellationToken cancel = default) =>
        ChangeAsync<GuidePublished>(HttpMethod.Post, "guides", () => YamlBody(yaml), null, null, cancel);

    public Task<GuideChecked> CheckGuideAsync(string yaml, CancellationToken cancel = default) =>
        ChangeAsync<GuideChecked>(HttpMethod.Post, "guides/check", () => YamlBody(yaml), null, null, cancel);

    public Task<IReadOnlyList<RevisionLine>> RevisionsAsync(string code, CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<RevisionLine>>($"guides/{Uri.EscapeDataString(code)}/revisions", cancel);

    /// <param name="from">A revision's number, or “draft”; null for the newest two states.</param>
    public Task<GuideCompared> CompareGuidesAsync(
        string code,
        string? from = null,
        string? to = null,
        CancellationToken cancel = default
    ) =>
        GetAsync<GuideCompared>(
            $"guides/{Uri.EscapeDataString(code)}/compare?{Query("from", from)}{Query("to", to)}",
            cancel
        );

    public Task<DraftView> DraftAsync(string code, CancellationToken cancel = default) =>
        GetAsync<DraftView>(Draft(code), cancel);

    /// <param name="version">The version it was made from, 0 for a new one; null to overwrite whatever stands.</param>
    public Task<DraftView> SaveDraftAsync(string code, string yaml, int? version, CancellationToken cancel = default) =>
        ChangeAsync<DraftView>(HttpMethod.Put, Draft(code), () => YamlBody(yaml), null, version, cancel);

    public async Task DiscardDraftAsync(string code, CancellationToken cancel = default)
    {
        using var answer = await SendAsync(
            () => Signed(new HttpRequestMessage(HttpMethod.Delete, Root + Draft(code))),
            cancel
        );
    }

    public Task<GuidePublished> PublishDraftAsync(string code, CancellationToken cancel = default) =>
        PostAsync<GuidePublished>($"{Draft(code)}/publish", null, null, cancel: cancel);

    public Task<IReadOnlyList<SuggestionView>> SuggestionsAsync(
        string? code = null,
        SuggestionState? state = null,
        CancellationToken cancel = default
    ) =>
        GetAsync<IReadOnlyList<SuggestionView>>(
            $"suggestions?{Query("code", code)}{Query("state", state?.ToString())}",
            cancel
        );

    public Task<SuggestionView> DecideAsync(int order, int sequence, bool accept, CancellationToken cancel = default) =>
        PostAsync<SuggestionView>(
            $"suggestions/{order}/{sequence}/{(accept ? "accept" : "decline")}",
            null,
            null,
            cancel: cancel
        );

    /// <summary>All guides and their pictures, a ZIP file.</summary>
    public Task<byte[]> ExportLibraryAsync(CancellationToken cancel = default) => BytesAsync("library", cancel);

    public Task<LibraryImported> ImportLibraryAsync(
        byte[] zip,
        bool dryRun = false,
        CancellationToken cancel = default
    ) =>
        ChangeAsync<LibraryImported>(
            HttpMethod.Post,
            $"library?dryRun={(dryRun ? "true" : "false")}",
            () => Body(zip, "application/zip"),
            null,
            null,
            cancel
        );

    public Task<ShopView> ShopAsync(CancellationToken cancel = default) => GetAsync<ShopView>("shop", cancel);

    public Task<Person> PutPersonAsync(string id, PersonRequest request, CancellationToken cancel = default) =>
        ChangeAsync<Person>(
            HttpMethod.Put,
            $"shop/people/{Uri.EscapeDataString(id)}",
            () => JsonContent.Create(request, options: RevtalJson.Options),
            null,
            null,
            cancel
        );

    /// <summary>Live changes until cancelled or the connection ends.</summary>
    /// <param name="after">The position last seen; null for what comes from now on.</param>
    public async IAsyncEnumerable<Change> ChangesAsync(
        long? after = null,
        [EnumeratorCancellation] CancellationToken cancel = default
    )
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, $"{Root}changes");
        if (after is { } position)
        {
            request.Headers.Add("Last-Event-ID", position.ToString(System.Globalization.CultureInfo.InvariantCulture));
        }

        using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
        await using var stream = await answer.Content.ReadAsStreamAsync(cancel);
        await foreach (
            var item in SseParser
                .Create(stream, (_, data) => JsonSerializer.Deserialize<Change>(data, RevtalJson.Options))
                .EnumerateAsync(cancel)
        )
        {
            if (item.Data is { } change)
            {
                yield return change;
            }
        }
    }

    private static string Query(string key, string? value) =>
        value is null ? "" : $"&{key}={Uri.EscapeDataString(value)}";

    private static string Draft(string code) => $"guides/{Uri.EscapeDataString(code)}/draft";

    private static StringContent YamlBody(string yaml) => new(yaml, Encoding.UTF8, "application/yaml");

    private static ByteArrayContent Body(byte[] bytes, string type) =>
        new(bytes) { Headers = { ContentType = new MediaTypeHeaderValue(type) } };

    private HttpRequestMessage Signed(HttpRequestMessage request)
    {
        if (person is not null)
        {
            request.Headers.TryAddWithoutValidation("Revtal-As", person);
        }

        return request;
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

    private Task<T> PostAsync<T>(
        string path,
        object? body,
        Guid? key,
        int? ifMatch = null,
        CancellationToken cancel = default
    ) =>
        ChangeAsync<T>(
            HttpMethod.Post,
            path,
            () => body is null ? null : JsonContent.Create(body, body.GetType(), options: RevtalJson.Options),
            key,
            ifMatch,
            cancel
        );

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
            Signed(request).Headers.Add("Idempotency-Key", id);

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
        await answer.Content.ReadFromJsonAsync<T>(RevtalJson.Options, cancel)
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
