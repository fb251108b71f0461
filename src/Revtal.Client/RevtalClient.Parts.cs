using Revtal.Contracts;
using Revtal.Core.Parts;

namespace Revtal.Client;

// The catalogue, the shelf and machines over their visits.
public sealed partial class RevtalClient
{
    /// <param name="text">Found in number, barcode, name or what it is; null for all.</param>
    /// <param name="onlyShort">Only what should be ordered.</param>
    public Task<IReadOnlyList<PartLine>> PartsAsync(
        string? text = null,
        bool onlyShort = false,
        CancellationToken cancel = default
    ) => AllAsync<PartLine>($"parts?only-short={(onlyShort ? "true" : "false")}{Query("text", text)}", cancel);

    public Task<PartView> PartAsync(string number, CancellationToken cancel = default) =>
        GetAsync<PartView>($"parts/kind/{Uri.EscapeDataString(number)}", cancel);

    public Task<PartKind> PutPartAsync(string number, PartRequest request, CancellationToken cancel = default) =>
        ChangeAsync<PartKind>(
            HttpMethod.Put,
            $"parts/kind/{Uri.EscapeDataString(number)}",
            () => Json(request),
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
        AllAsync<PartItem>(
            $"parts/items?{Query("kind", kind)}"
                + $"{Query("order", order?.ToString(System.Globalization.CultureInfo.InvariantCulture))}"
                + $"{Query("state", Word(state))}",
            cancel
        );

    public Task<PartItem> MovePartAsync(long id, MovePartRequest request, CancellationToken cancel = default) =>
        PostAsync<PartItem>($"parts/items/{id}/move", request, null, cancel: cancel);

    public Task<IReadOnlyList<PartItem>> SplitKitAsync(
        long kit,
        SplitRequest request,
        CancellationToken cancel = default
    ) => PostAsync<IReadOnlyList<PartItem>>($"parts/kits/{kit}/split", request, null, cancel: cancel);

    public Task<IReadOnlyList<LedgerView>> LedgerAsync(long? item = null, CancellationToken cancel = default) =>
        AllAsync<LedgerView>(
            $"parts/ledger?{Query("item", item?.ToString(System.Globalization.CultureInfo.InvariantCulture))}",
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
            $"parts/{what}.csv?dry-run={(dryRun ? "true" : "false")}",
            () => Body(csv, "text/csv"),
            null,
            null,
            cancel
        );

    public Task<MachineView> MachineAsync(string serial, CancellationToken cancel = default) =>
        GetAsync<MachineView>($"machines/{Uri.EscapeDataString(serial)}", cancel);
}
