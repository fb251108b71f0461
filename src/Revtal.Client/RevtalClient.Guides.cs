using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Client;

// Guides, their drafts, suggestions, pictures and the library.
public sealed partial class RevtalClient
{
    public Task<PictureKept> KeepPictureAsync(byte[] picture, CancellationToken cancel = default) =>
        ChangeAsync<PictureKept>(HttpMethod.Post, "pictures", () => Body(picture, "image/jpeg"), null, null, cancel);

    /// <summary>A JPEG.</summary>
    public Task<byte[]> PictureAsync(string hash, bool small = false, CancellationToken cancel = default) =>
        BytesAsync($"pictures/{Uri.EscapeDataString(hash)}?small={(small ? "true" : "false")}", cancel);

    /// <param name="text">Found anywhere in the guide; null for all.</param>
    public Task<IReadOnlyList<GuideLine>> GuidesAsync(string? text = null, CancellationToken cancel = default) =>
        AllAsync<GuideLine>($"guides?{Query("text", text)}", cancel);

    public Task<GuideView> GuideAsync(string code, int? revision = null, CancellationToken cancel = default) =>
        GetAsync<GuideView>(
            $"guides/{Uri.EscapeDataString(code)}{Phrases.When(revision, r => $"?revision={r}")}",
            cancel
        );

    public Task<GuidePublished> PublishGuideAsync(string yaml, CancellationToken cancel = default) =>
        ChangeAsync<GuidePublished>(HttpMethod.Post, "guides", () => YamlBody(yaml), null, null, cancel);

    public Task<GuideChecked> CheckGuideAsync(string yaml, CancellationToken cancel = default) =>
        ChangeAsync<GuideChecked>(HttpMethod.Post, "guides/check", () => YamlBody(yaml), null, null, cancel);

    public Task<IReadOnlyList<DraftLine>> DraftsAsync(CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<DraftLine>>("drafts", cancel);

    /// <summary>A new model's draft, begun from the guide of a like one.</summary>
    public Task<DraftView> BeginDraftAsync(string code, string like, CancellationToken cancel = default) =>
        PostAsync<DraftView>($"{Draft(code)}/like/{Uri.EscapeDataString(like)}", null, null, cancel: cancel);

    /// <summary>What the model's starts showed, counted.</summary>
    public Task<SignCounts> SignsAsync(string code, CancellationToken cancel = default) =>
        GetAsync<SignCounts>($"guides/{Uri.EscapeDataString(code)}/signs", cancel);

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

    /// <summary>A guide for another shop.</summary>
    public Task<ExchangeFile> ExportGuideAsync(string code, CancellationToken cancel = default) =>
        GetAsync<ExchangeFile>($"guides/{Uri.EscapeDataString(code)}/exchange", cancel);

    public Task<ExchangeView> CompareExchangeAsync(ExchangeFile file, CancellationToken cancel = default) =>
        PostAsync<ExchangeView>("exchange/compare", file, null, cancel: cancel);

    public Task<DraftView> MergeExchangeAsync(MergeRequest request, CancellationToken cancel = default) =>
        PostAsync<DraftView>("exchange/merge", request, null, cancel: cancel);

    public Task<DraftView> DraftAsync(string code, CancellationToken cancel = default) =>
        GetAsync<DraftView>(Draft(code), cancel);

    /// <param name="version">The version it was made from, 0 for a new one; null to overwrite whatever stands.</param>
    public Task<DraftView> SaveDraftAsync(string code, string yaml, int? version, CancellationToken cancel = default) =>
        ChangeAsync<DraftView>(HttpMethod.Put, Draft(code), () => YamlBody(yaml), null, version, cancel);

    public Task DiscardDraftAsync(string code, CancellationToken cancel = default) => DeleteAsync(Draft(code), cancel);

    public Task<GuidePublished> PublishDraftAsync(string code, CancellationToken cancel = default) =>
        PostAsync<GuidePublished>($"{Draft(code)}/publish", null, null, cancel: cancel);

    public Task<IReadOnlyList<SuggestionView>> SuggestionsAsync(
        string? code = null,
        SuggestionState? state = null,
        CancellationToken cancel = default
    ) => AllAsync<SuggestionView>($"suggestions?{Query("code", code)}{Query("state", Word(state))}", cancel);

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
            $"library?dry-run={(dryRun ? "true" : "false")}",
            () => Body(zip, "application/zip"),
            null,
            null,
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
}
