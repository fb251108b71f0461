using Revtal.Contracts;
using Revtal.Core.Captures;

namespace Revtal.Client;

// Simulated machines.
public sealed partial class RevtalClient
{
    public Task<IReadOnlyList<DummyView>> DummiesAsync(CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<DummyView>>("dummies", cancel);

    public Task<DummyView> DummyAsync(string name, CancellationToken cancel = default) =>
        GetAsync<DummyView>($"dummies/{Uri.EscapeDataString(name)}", cancel);

    public Task<DummyView> MakeDummyAsync(DummyRequest request, CancellationToken cancel = default) =>
        PostAsync<DummyView>("dummies", request, null, cancel: cancel);

    public Task<DummyView> ActOnDummyAsync(string name, DummyActRequest request, CancellationToken cancel = default) =>
        PostAsync<DummyView>($"dummies/{Uri.EscapeDataString(name)}/acts", request, null, cancel: cancel);

    public Task<CaptureBundle> CaptureDummyAsync(string name, CancellationToken cancel = default) =>
        GetAsync<CaptureBundle>($"dummies/{Uri.EscapeDataString(name)}/capture", cancel);

    public Task<CollectedView> SendDummyAsync(string name, string code, CancellationToken cancel = default) =>
        PostAsync<CollectedView>(
            $"dummies/{Uri.EscapeDataString(name)}/send",
            new DummySendRequest(code),
            null,
            cancel: cancel
        );
}
