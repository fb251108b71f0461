using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Orders;

namespace Revtal.Client;

// Machines that tell of themselves before there is an order, and what is found on those that the shop only sketches.
public sealed partial class RevtalClient
{
    public Task<IReadOnlyList<ArrivalView>> ArrivalsAsync(CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<ArrivalView>>("arrivals", cancel);

    /// <param name="model">Held against what it told.</param>
    public Task<ArrivalView> ArrivalAsync(
        string id,
        string? model = null,
        string? serial = null,
        CancellationToken cancel = default
    ) =>
        GetAsync<ArrivalView>(
            $"arrivals/{Uri.EscapeDataString(id)}?{Query("model", model)}{Query("serial", serial)}",
            cancel
        );

    public Task<ArrivalView> TakeArrivalAsync(CaptureBundle capture, CancellationToken cancel = default) =>
        PostAsync<ArrivalView>("arrivals", new ArrivalRequest(capture), null, cancel: cancel);

    /// <summary>A one-time code by which a machine tells of itself before there is an order.</summary>
    public Task<ArrivalInvite> InviteArrivalAsync(ArrivalInviteRequest request, CancellationToken cancel = default) =>
        PostAsync<ArrivalInvite>("arrivals/invites", request, null, cancel: cancel);

    /// <summary>Which of the shop's models calls itself so.</summary>
    public Task<IReadOnlyList<ModelMatch>> MatchesAsync(string product, CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<ModelMatch>>($"guide-matches?product={Uri.EscapeDataString(product)}", cancel);

    public Task<Receipt> CameOffAsync(int number, CameOffRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/came-off", request, null, cancel: cancel);

    public Task<Receipt> PositionAsync(int number, PositionRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/positions", request, null, cancel: cancel);

    public Task<Adoption> AdoptionAsync(int number, int? revision = null, CancellationToken cancel = default) =>
        GetAsync<Adoption>($"orders/{number}/adoption?{Query("revision", revision?.ToString())}", cancel);

    public Task<Receipt> AdoptAsync(int number, AdoptRequest request, CancellationToken cancel = default) =>
        PostAsync<Receipt>($"orders/{number}/adopt", request, null, cancel: cancel);

    public Task<GuidePublished> PublishSketchAsync(string code, CancellationToken cancel = default) =>
        PostAsync<GuidePublished>($"guides/{Uri.EscapeDataString(code)}/publish", null, null, cancel: cancel);
}
