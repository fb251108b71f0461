using Revtal.Contracts;

namespace Revtal.Client;

public sealed partial class RevtalClient
{
    /// <summary>The report that was made last, else as it would be made now.</summary>
    public Task<ReportView> ReportAsync(int number, CancellationToken cancel = default) =>
        GetAsync<ReportView>($"orders/{number}/report", cancel);

    public Task<Receipt> MakeReportAsync(int number, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/report", null, null, cancel: cancel);

    public Task<OfferView> OfferReportAsync(int number, OfferRequest request, CancellationToken cancel = default) =>
        PostAsync<OfferView>($"orders/{number}/report/link", request, null, cancel: cancel);

    /// <summary>The report, a PDF.</summary>
    public Task<byte[]> ReportPaperAsync(int number, CancellationToken cancel = default) =>
        BytesAsync($"orders/{number}/report.pdf", cancel);

    /// <summary>Its proof: a JSON Web Signature, compact, ASCII.</summary>
    public Task<byte[]> ProofAsync(int number, CancellationToken cancel = default) =>
        BytesAsync($"orders/{number}/proof", cancel);

    /// <param name="link">The part of the link behind its last slash.</param>
    public Task<CustomerReport> ReadReportAsync(string link, CancellationToken cancel = default) =>
        GetAsync<CustomerReport>($"reports/{Uri.EscapeDataString(link)}", cancel);

    /// <inheritdoc cref="ReadReportAsync"/>
    public Task<byte[]> ReadReportPaperAsync(string link, CancellationToken cancel = default) =>
        BytesAsync($"reports/{Uri.EscapeDataString(link)}/report.pdf", cancel);

    /// <inheritdoc cref="ReadReportAsync"/>
    public Task<byte[]> ReadProofAsync(string link, CancellationToken cancel = default) =>
        BytesAsync($"reports/{Uri.EscapeDataString(link)}/proof", cancel);

    public Task<ProofMark> ProofMarkAsync(string id, CancellationToken cancel = default) =>
        GetAsync<ProofMark>($"proofs/{Uri.EscapeDataString(id)}", cancel);

    public Task<ProofView> CheckProofAsync(ProofCheckRequest request, CancellationToken cancel = default) =>
        PostAsync<ProofView>("proofs/check", request, null, cancel: cancel);

    public Task<ShopKeys> KeysAsync(CancellationToken cancel = default) => GetAsync<ShopKeys>("shop/keys", cancel);

    public Task<ShopKeys> TurnKeyAsync(CancellationToken cancel = default) =>
        PostAsync<ShopKeys>("shop/keys", null, null, cancel: cancel);
}
