using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Checks;

namespace Revtal.Client;

// Readings, scores, the check, swap tests and watches.
public sealed partial class RevtalClient
{
    public Task<CheckResult> CheckAsync(int number, CancellationToken cancel = default) =>
        GetAsync<CheckResult>($"orders/{number}/check", cancel);

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

    public Task<Receipt> AskTrialAsync(int number, TrialAskRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/trial/ask", request, null, cancel: cancel);

    public Task<Receipt> RunTrialAsync(int number, TrialRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/trial", request, null, cancel: cancel);

    public Task<ScoresView> ScoresAsync(int number, CancellationToken cancel = default) =>
        GetAsync<ScoresView>($"orders/{number}/scores", cancel);

    public Task<Receipt> TakeScoresAsync(int number, ScoresRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/scores", request, null, cancel: cancel);

    public Task<Receipt> TakeScoresAsync(int number, Phase phase, byte[] file, CancellationToken cancel = default) =>
        ChangeAsync<Receipt>(
            HttpMethod.Post,
            $"orders/{number}/scores/file?phase={Word<Phase>(phase)}",
            () => Body(file, "text/plain"),
            null,
            null,
            cancel
        );

    public Task<Receipt> BeginSwapTestAsync(int number, SwapBeginRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/swap-test", request, null, cancel: cancel);

    public Task<Receipt> TrySwapAsync(int number, SwapTryRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/swap-test/tries", request, null, cancel: cancel);

    public Task<Receipt> EndSwapTestAsync(int number, SwapEndRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/swap-test/end", request, null, cancel: cancel);

    public Task<Receipt> BeginWatchAsync(int number, WatchRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/watch", request, null, cancel: cancel);

    public Task<Receipt> NoteWatchAsync(int number, WatchNoteRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/watch/notes", request, null, cancel: cancel);

    public Task<Receipt> EndWatchAsync(int number, WatchEndRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/watch/end", request, null, cancel: cancel);

    public Task<Reading> DecodeAsync(CaptureBundle bundle, CancellationToken cancel = default) =>
        PostAsync<Reading>("decode", bundle, null, cancel: cancel);
}
