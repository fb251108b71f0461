using Revtal.Contracts;
using Revtal.Core.Guides;

namespace Revtal.Client;

// Machines that are worked on together.
public sealed partial class RevtalClient
{
    /// <param name="text">One serial a line, or a CSV whose first line names its columns.</param>
    public Task<BatchListView> ReadBatchListAsync(string text, CancellationToken cancel = default) =>
        PostAsync<BatchListView>("batches/list", new BatchListRequest(text), null, cancel: cancel);

    public Task<BatchReceipt> TakeInBatchAsync(
        BatchRequest request,
        Guid? key = null,
        CancellationToken cancel = default
    ) => PostAsync<BatchReceipt>("batches", request, key, cancel: cancel);

    public Task<BatchView> BatchAsync(int batch, CancellationToken cancel = default) =>
        GetAsync<BatchView>($"batches/{batch}", cancel);

    public Task<BatchRunView> BatchRunAsync(int batch, CancellationToken cancel = default) =>
        GetAsync<BatchRunView>($"batches/{batch}/run", cancel);

    public Task<byte[]> BatchReportAsync(int batch, CancellationToken cancel = default) =>
        BytesAsync($"batches/{batch}/report.csv", cancel);

    public Task<BatchPreview> PreviewBatchAsync(
        int batch,
        BatchPlanRequest request,
        CancellationToken cancel = default
    ) => PostAsync<BatchPreview>($"batches/{batch}/plan/preview", request, null, cancel: cancel);

    public Task<BatchReceipt> PlanBatchAsync(
        int batch,
        BatchPlanRequest request,
        Guid? key = null,
        CancellationToken cancel = default
    ) => PostAsync<BatchReceipt>($"batches/{batch}/plan", request, key, cancel: cancel);

    public Task<OfferView> OfferBatchAsync(int batch, OfferRequest request, CancellationToken cancel = default) =>
        PostAsync<OfferView>($"batches/{batch}/quote/link", request, null, cancel: cancel);

    public Task<BatchReceipt> RevokeBatchAsync(int batch, CancellationToken cancel = default) =>
        PostAsync<BatchReceipt>($"batches/{batch}/quote/revoke", null, null, cancel: cancel);

    public Task<BatchReceipt> AgreeBatchAsync(
        int batch,
        BatchAgreeRequest request,
        Guid? key = null,
        CancellationToken cancel = default
    ) => PostAsync<BatchReceipt>($"batches/{batch}/agreement", request, key, cancel: cancel);

    public Task<BatchReceipt> DeclineBatchAsync(
        int batch,
        DeclineRequest request,
        CancellationToken cancel = default
    ) => PostAsync<BatchReceipt>($"batches/{batch}/decline", request, null, cancel: cancel);

    public Task<BatchReceipt> SpreadAsync(int batch, BatchSpreadRequest request, CancellationToken cancel = default) =>
        PostAsync<BatchReceipt>($"batches/{batch}/hands", request, null, cancel: cancel);

    public Task<BatchReceipt> ConfirmBatchAsync(
        int batch,
        StepId step,
        BatchConfirmRequest request,
        CancellationToken cancel = default
    ) => PostAsync<BatchReceipt>($"batches/{batch}/run/steps/{Path(step)}", request, null, cancel: cancel);

    public Task<BatchReceipt> ReadyBatchAsync(int batch, ReasonRequest request, CancellationToken cancel = default) =>
        PostAsync<BatchReceipt>($"batches/{batch}/ready", request, null, cancel: cancel);

    public Task<BatchReceipt> HandBackBatchAsync(
        int batch,
        HandBackRequest request,
        CancellationToken cancel = default
    ) => PostAsync<BatchReceipt>($"batches/{batch}/hand-back", request, null, cancel: cancel);

    public Task<Receipt> LeaveBatchAsync(int number, ReasonRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/leave-batch", request, null, cancel: cancel);

    public Task<Receipt> JoinBatchAsync(int number, JoinBatchRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/join-batch", request, null, cancel: cancel);
}
