using Revtal.Contracts;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Client;

// Options, layouts, plans and quotes.
public sealed partial class RevtalClient
{
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
        bool later = false,
        CancellationToken cancel = default
    ) =>
        GetAsync<OptionsView>(
            $"orders/{number}/options?stages={stages}{Query("target", target)}{Query("workload", workload)}"
                + $"{Query("budget", budget?.ToString(System.Globalization.CultureInfo.InvariantCulture))}"
                + $"{string.Concat((giveUp ?? []).Select(s => Query("give-up", s)))}"
                + Query("later", later ? "true" : null),
            cancel
        );

    /// <param name="growth">What is to come onto the drives, like “200 GB”; null for half as much again as they
    /// hold.</param>
    /// <param name="later">For the machine as the order leaves it.</param>
    public Task<DriveOptionsView> DriveOptionsAsync(
        int number,
        string? growth = null,
        decimal? budget = null,
        bool later = false,
        CancellationToken cancel = default
    ) =>
        GetAsync<DriveOptionsView>(
            $"orders/{number}/drive-options?later={(later ? "true" : "false")}{Query("growth", growth)}"
                + Query("budget", budget?.ToString(System.Globalization.CultureInfo.InvariantCulture)),
            cancel
        );

    public Task<Receipt> NoteLaterAsync(int number, LaterRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/later", request, null, cancel: cancel);

    public Task<Receipt> DropLaterAsync(int number, LaterDropRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/later/drop", request, null, cancel: cancel);

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

    public Task<Receipt> SetPlanAsync(
        int number,
        PlanRequest request,
        Guid? key = null,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/plan", request, key, cancel: cancel);

    public Task<Receipt> MendAsync(int number, MendRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/mend", request, null, cancel: cancel);

    public Task<Receipt> AgreeAsync(int number, AgreeRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/agreement", request, null, cancel: cancel);
}
