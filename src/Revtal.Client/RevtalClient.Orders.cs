using Revtal.Contracts;

namespace Revtal.Client;

// An order from its take-in to its hand-back.
public sealed partial class RevtalClient
{
    /// <summary>Who has the order open now.</summary>
    public Task<HereView> HereAsync(int number, CancellationToken cancel = default) =>
        GetAsync<HereView>($"orders/{number}/here", cancel);

    /// <summary>A page of the order is open; to be said again within 40 s while it is.</summary>
    public Task<HereView> TellHereAsync(int number, HereRequest request, CancellationToken cancel = default) =>
        ChangeAsync<HereView>(HttpMethod.Put, $"orders/{number}/here", () => Json(request), null, null, cancel);

    public Task<Receipt> TakeInAsync(TakeInRequest request, Guid? key = null, CancellationToken cancel = default) =>
        PostAsync<Receipt>("orders", request, key, cancel: cancel);

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

    public Task<Receipt> BagAsync(
        int number,
        string position,
        BagRequest request,
        CancellationToken cancel = default
    ) =>
        PostAsync<Receipt>(
            $"orders/{number}/old-parts/{Uri.EscapeDataString(position)}/bag",
            request,
            null,
            cancel: cancel
        );

    public Task<byte[]> BagPaperAsync(int number, CancellationToken cancel = default) =>
        BytesAsync($"orders/{number}/bags.pdf", cancel);

    public Task<Receipt> VariantAsync(int number, VariantRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/variant", request, null, cancel: cancel);

    public Task<Receipt> SealAsync(int number, SealRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/seal", request, null, cancel: cancel);

    public Task<Receipt> CopyAsync(int number, CopyRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/copy", request, null, cancel: cancel);

    public Task<Receipt> ReadyAsync(int number, ReasonRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/ready", request, null, cancel: cancel);

    public Task<Receipt> HandBackAsync(int number, HandBackRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/hand-back", request, null, cancel: cancel);

    public Task<Receipt> CorrectAsync(int number, CorrectRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/intake", request, null, cancel: cancel);

    public Task<Receipt> VouchAsync(int number, ReasonRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/vouch", request, null, cancel: cancel);

    public Task<Receipt> ReleaseAsync(int number, ReleaseRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/release", request, null, cancel: cancel);

    /// <summary>Take the machine in hand, hand it over with a word, or release it.</summary>
    public Task<Receipt> OwnerAsync(int number, OwnerRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/owner", request, null, cancel: cancel);

    /// <summary>What was handed over in words was read.</summary>
    public Task<Receipt> ReadHandOverAsync(int number, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/hand-over/read", null, null, cancel: cancel);

    public Task<Receipt> PlaceAsync(int number, PlaceRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/place", request, null, cancel: cancel);

    public Task<Receipt> PromiseAsync(int number, PromiseRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/promise", request, null, cancel: cancel);

    /// <summary>The cards of some orders as they are now; of those that are open.</summary>
    /// <param name="orders">At most 100.</param>
    public Task<CardsView> CardsAsync(IReadOnlyList<int> orders, CancellationToken cancel = default) =>
        GetAsync<CardsView>($"board/cards?{string.Join('&', orders.Select(o => $"order={o}"))}", cancel);

    public Task<Receipt> ParkAsync(int number, ParkRequest request, CancellationToken cancel = default) =>
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
}
