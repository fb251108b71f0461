using Revtal.Contracts;
using Revtal.Core.Guides;

namespace Revtal.Client;

// The run and copies on the bench.
public sealed partial class RevtalClient
{
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

    /// <param name="ifMatch">The head that this was decided on; null to decide on whatever stands.</param>
    public Task<Receipt> ConfirmAsync(
        int number,
        StepId step,
        ConfirmRequest request,
        Guid? key = null,
        int? ifMatch = null,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/steps/{Path(step)}", request, key, ifMatch, cancel);

    public Task<Receipt> ReseatAsync(int number, ReseatRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/reseat", request, null, cancel: cancel);

    public Task<Receipt> BlockAsync(
        int number,
        StepId step,
        ReasonRequest request,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/steps/{Path(step)}/impossible", request, null, cancel: cancel);

    public Task<Receipt> TakeBackAsync(
        int number,
        StepId step,
        ReasonRequest request,
        CancellationToken cancel = default
    ) => PostAsync<Receipt>($"orders/{number}/steps/{Path(step)}/take-back", request, null, cancel: cancel);

    public Task<Receipt> WaiveAsync(int number, WaiveRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/waivers", request, null, cancel: cancel);

    public Task<Receipt> FindAsync(int number, FindRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/finds", request, null, cancel: cancel);

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
}
