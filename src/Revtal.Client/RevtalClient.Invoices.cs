using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.Client;

public sealed partial class RevtalClient
{
    /// <summary>The invoice that stands, else as it would be made now.</summary>
    public Task<InvoiceView> InvoiceAsync(int number, CancellationToken cancel = default) =>
        GetAsync<InvoiceView>($"orders/{number}/invoice", cancel);

    public Task<Receipt> MakeInvoiceAsync(int number, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/invoice", null, null, cancel: cancel);

    public Task<Receipt> ReverseInvoiceAsync(int number, ReverseRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/invoice/reverse", request, null, cancel: cancel);

    public Task<Receipt> TakePaymentAsync(int number, PaymentRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/payments", request, null, cancel: cancel);

    public Task<Receipt> AgreeExtraAsync(int number, ExtraRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/extras", request, null, cancel: cancel);

    /// <param name="extra">The sequence of the entry that told it.</param>
    public Task<Receipt> DropExtraAsync(int number, int extra, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/extras/{extra}/drop", null, null, cancel: cancel);

    /// <summary>The shop's invoices and what took them back, by number.</summary>
    public Task<Page<InvoiceLine>> InvoicesAsync(
        string? after = null,
        int limit = 50,
        CancellationToken cancel = default
    ) => GetAsync<Page<InvoiceLine>>($"invoices?limit={limit}{Query("after", after)}", cancel);

    /// <summary>The same as JSON Lines.</summary>
    public Task<byte[]> InvoicesFileAsync(CancellationToken cancel = default) =>
        BytesAsync("invoices/invoices.jsonl", cancel);

    public Task<InvoiceLine> FindInvoiceAsync(int invoice, CancellationToken cancel = default) =>
        GetAsync<InvoiceLine>($"invoices/{invoice}", cancel);

    /// <summary>It on paper, a PDF.</summary>
    public Task<byte[]> InvoicePaperAsync(int invoice, CancellationToken cancel = default) =>
        BytesAsync($"invoices/{invoice}/invoice.pdf", cancel);
}
