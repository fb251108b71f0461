using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Client;

/// <summary>Who comes in.</summary>
public sealed partial class RevtalClient
{
    /// <summary>Who is signed in with this client's token.</summary>
    public Task<SessionView> SessionAsync(CancellationToken cancel = default) =>
        GetAsync<SessionView>("session", cancel);

    public Task<SignedInView> SignInAsync(SignInRequest request, CancellationToken cancel = default) =>
        PostAsync<SignedInView>("session", request, null, cancel: cancel);

    /// <summary>As one of the demo's people, who have no passwords.</summary>
    public Task<SignedInView> SignInToDemoAsync(DemoSignInRequest request, CancellationToken cancel = default) =>
        PostAsync<SignedInView>("session/demo", request, null, cancel: cancel);

    public Task SignOutAsync(CancellationToken cancel = default) => DeleteAsync("session", cancel);

    public Task<SetUpView> ReadSetUpAsync(string link, CancellationToken cancel = default) =>
        GetAsync<SetUpView>($"session/set-up/{Uri.EscapeDataString(link)}", cancel);

    public Task<SignedInView> UseSetUpAsync(string link, SetUpRequest request, CancellationToken cancel = default) =>
        PostAsync<SignedInView>($"session/set-up/{Uri.EscapeDataString(link)}", request, null, cancel: cancel);

    public async Task ChangePasswordAsync(PasswordRequest request, CancellationToken cancel = default)
    {
        using var _ = await SendAsync(
            () => new HttpRequestMessage(HttpMethod.Post, Root + "session/password") { Content = Json(request) },
            cancel
        );
    }

    /// <summary>Sign-ins and tokens: one's own, or everybody's for a lead.</summary>
    public Task<IReadOnlyList<SessionLine>> SessionsAsync(CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<SessionLine>>("session/all", cancel);

    public Task<TokenMade> MakeTokenAsync(TokenRequest request, CancellationToken cancel = default) =>
        PostAsync<TokenMade>("session/tokens", request, null, cancel: cancel);

    public Task EndSessionAsync(string session, CancellationToken cancel = default) =>
        DeleteAsync($"session/all/{Uri.EscapeDataString(session)}", cancel);

    /// <summary>A link by which somebody sets a password, once.</summary>
    public Task<PersonInvite> InvitePersonAsync(string id, CancellationToken cancel = default) =>
        PostAsync<PersonInvite>($"shop/people/{Uri.EscapeDataString(id)}/invite", null, null, cancel: cancel);

    /// <summary>Somebody's password, tokens and sign-ins work no longer.</summary>
    public Task EndAccessAsync(string id, CancellationToken cancel = default) =>
        DeleteAsync($"shop/people/{Uri.EscapeDataString(id)}/access", cancel);

    /// <summary>Who came in, who could not, and what was done about people; newest first.</summary>
    public Task<Page<AuditLine>> AuditAsync(string? after = null, int limit = 50, CancellationToken cancel = default) =>
        GetAsync<Page<AuditLine>>($"shop/audit?limit={limit}{Query("after", after)}", cancel);
}
