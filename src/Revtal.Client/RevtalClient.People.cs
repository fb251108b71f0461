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

    public Task ChangePasswordAsync(PasswordRequest request, CancellationToken cancel = default) =>
        TellAsync("session/password", request, cancel);

    /// <summary>For bench tablets.</summary>
    public Task ChoosePinAsync(PinRequest request, CancellationToken cancel = default) =>
        TellAsync("session/pin", request, cancel);

    /// <summary>What makes one-time codes.</summary>
    public Task<CodesBegun> BeginCodesAsync(ProofRequest request, CancellationToken cancel = default) =>
        PostAsync<CodesBegun>("session/codes", request, null, cancel: cancel);

    /// <summary>From the first code on one is asked for.</summary>
    public Task<CodesOnPaper> ConfirmCodesAsync(CodeRequest request, CancellationToken cancel = default) =>
        PostAsync<CodesOnPaper>("session/codes/confirm", request, null, cancel: cancel);

    public Task EndCodesAsync(ProofRequest request, CancellationToken cancel = default) =>
        TellAsync("session/codes/end", request, cancel);

    public Task<IReadOnlyList<Tablet>> TabletsAsync(CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<Tablet>>("shop/tablets", cancel);

    /// <summary>A link that makes the screen on which it is opened a bench tablet, once.</summary>
    public Task<TabletMade> MakeTabletAsync(TabletRequest request, CancellationToken cancel = default) =>
        PostAsync<TabletMade>("shop/tablets", request, null, cancel: cancel);

    public Task DropTabletAsync(string tablet, CancellationToken cancel = default) =>
        DeleteAsync($"shop/tablets/{Uri.EscapeDataString(tablet)}", cancel);

    /// <summary>A new badge; the one before opens nothing any more.</summary>
    public Task<BadgeMade> MakeBadgeAsync(string id, CancellationToken cancel = default) =>
        PostAsync<BadgeMade>($"shop/people/{Uri.EscapeDataString(id)}/badge", null, null, cancel: cancel);

    // Answered with nothing.
    private async Task TellAsync(string path, object request, CancellationToken cancel, HttpMethod? method = null)
    {
        using var _ = await SendAsync(
            () => new HttpRequestMessage(method ?? HttpMethod.Post, Root + path) { Content = Json(request) },
            cancel
        );
    }

    /// <summary>Sign-ins and tokens: one's own, or everybody's for a lead.</summary>
    public Task<IReadOnlyList<SessionLine>> SessionsAsync(CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<SessionLine>>("session/all", cancel);

    public Task<TokenMade> MakeTokenAsync(TokenRequest request, CancellationToken cancel = default) =>
        PostAsync<TokenMade>("session/tokens", request, null, cancel: cancel);

    /// <summary>A link by which a calendar reads the bench's dates.</summary>
    public Task<CalendarMade> MakeCalendarAsync(CancellationToken cancel = default) =>
        PostAsync<CalendarMade>("session/calendar", null, null, cancel: cancel);

    public Task EndSessionAsync(string session, CancellationToken cancel = default) =>
        DeleteAsync($"session/all/{Uri.EscapeDataString(session)}", cancel);

    /// <summary>A link by which somebody sets a password, once.</summary>
    public Task<PersonInvite> InvitePersonAsync(string id, CancellationToken cancel = default) =>
        PostAsync<PersonInvite>($"shop/people/{Uri.EscapeDataString(id)}/invite", null, null, cancel: cancel);

    /// <summary>Somebody's password, tokens and sign-ins work no longer.</summary>
    public Task EndAccessAsync(string id, CancellationToken cancel = default) =>
        DeleteAsync($"shop/people/{Uri.EscapeDataString(id)}/access", cancel);

    /// <summary>What concerns oneself; newest first.</summary>
    public Task<Page<NoticeLine>> NoticesAsync(
        string? after = null,
        int limit = 50,
        CancellationToken cancel = default
    ) => GetAsync<Page<NoticeLine>>($"notices?limit={limit}{Query("after", after)}", cancel);

    /// <summary>One has read one's own up to a position.</summary>
    public Task ReadNoticesAsync(NoticesReadRequest request, CancellationToken cancel = default) =>
        TellAsync("notices/read", request, cancel);

    /// <summary>Who came in, who could not, and what was done about people; newest first.</summary>
    public Task<Page<AuditLine>> AuditAsync(string? after = null, int limit = 50, CancellationToken cancel = default) =>
        GetAsync<Page<AuditLine>>($"shop/audit?limit={limit}{Query("after", after)}", cancel);

    /// <summary>Other programs that are told what is recorded on orders.</summary>
    public Task<WebhooksView> WebhooksAsync(CancellationToken cancel = default) =>
        GetAsync<WebhooksView>("shop/webhooks", cancel);

    public Task<WebhookMade> MakeWebhookAsync(WebhookRequest request, CancellationToken cancel = default) =>
        PostAsync<WebhookMade>("shop/webhooks", request, null, cancel: cancel);

    public Task<Webhook> ChangeWebhookAsync(string id, WebhookRequest request, CancellationToken cancel = default) =>
        ChangeAsync<Webhook>(HttpMethod.Put, WebhookAt(id), () => Json(request), null, null, cancel);

    public Task DropWebhookAsync(string id, CancellationToken cancel = default) => DeleteAsync(WebhookAt(id), cancel);

    /// <summary>Another secret; the one before signs too for a day.</summary>
    public Task<WebhookMade> ChangeWebhookSecretAsync(string id, CancellationToken cancel = default) =>
        PostAsync<WebhookMade>($"{WebhookAt(id)}/secret", null, null, cancel: cancel);

    public Task<WebhookTried> TryWebhookAsync(string id, CancellationToken cancel = default) =>
        PostAsync<WebhookTried>($"{WebhookAt(id)}/try", null, null, cancel: cancel);

    /// <param name="state">Null for all.</param>
    public Task<Page<WebhookMessage>> WebhookMessagesAsync(
        string id,
        MessageState? state = null,
        CancellationToken cancel = default
    ) => GetAsync<Page<WebhookMessage>>($"{WebhookAt(id)}/messages?limit=100{Query("state", Word(state))}", cancel);

    public Task<WebhookAgain> ResendWebhookAsync(
        string id,
        WebhookAgainRequest request,
        CancellationToken cancel = default
    ) => PostAsync<WebhookAgain>($"{WebhookAt(id)}/again", request, null, cancel: cancel);

    /// <summary>Begins a look through the whole store, beside the work.</summary>
    public Task<VerifyView> VerifyStoreAsync(CancellationToken cancel = default) =>
        PostAsync<VerifyView>("shop/store/verify", null, null, cancel: cancel);

    /// <summary>How far the newest look through the store is, or how it went.</summary>
    public Task<VerifyView> VerificationAsync(CancellationToken cancel = default) =>
        GetAsync<VerifyView>("shop/store/verify", cancel);

    /// <summary>Where the shop's data lies, the services on it and its backups.</summary>
    public Task<StoreView> StoreAsync(CancellationToken cancel = default) => GetAsync<StoreView>("shop/store", cancel);

    /// <summary>One hash a day of all that was recorded before, newest first.</summary>
    public Task<IReadOnlyList<DayHead>> HeadsAsync(CancellationToken cancel = default) =>
        GetAsync<IReadOnlyList<DayHead>>("shop/store/heads", cancel);

    /// <summary>Begins a backup in the service's own folder.</summary>
    public Task<BackupMade> MakeBackupAsync(CancellationToken cancel = default) =>
        PostAsync<BackupMade>("shop/store/backups", null, null, cancel: cancel);

    /// <summary>All of the store as it is now, as it comes.</summary>
    /// <exception cref="IOException">It broke off, or cannot be written there.</exception>
    /// <param name="asTables">As a ZIP of CSV.</param>
    public async Task FetchBackupAsync(Stream to, bool asTables = false, CancellationToken cancel = default)
    {
        using var answer = await SendAsync(
            () => new HttpRequestMessage(HttpMethod.Get, $"{Root}shop/store/backup{(asTables ? "?form=tables" : "")}"),
            cancel,
            HttpCompletionOption.ResponseHeadersRead
        );
        await answer.Content.CopyToAsync(to, cancel);
    }

    /// <summary>Where one's own notices are mailed to.</summary>
    public Task PutMailAsync(MailRequest request, CancellationToken cancel = default) =>
        TellAsync("session/mail", request, cancel, HttpMethod.Put);

    private static string WebhookAt(string id) => $"shop/webhooks/{Uri.EscapeDataString(id)}";
}
