using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Orders;
using Revtal.Storage;

namespace Revtal.Service.Outward;

/// <summary>
/// Tells other programs what is recorded, by Standard Webhooks 1.0: signed, sent again with growing waits, each message
/// at least once. One that does not answer holds up no other.
/// </summary>
internal sealed class WebhookSender(
    WebhookStore store,
    Journal journal,
    Changes changes,
    OrderShelf shelf,
    PeopleStore people,
    TimeProvider clock,
    ILogger<WebhookSender> log
) : BackgroundService
{
    private const int Together = 100,
        LongestAnswer = 200;

    private static readonly TimeSpan Answers = TimeSpan.FromSeconds(15),
        InHand = TimeSpan.FromMinutes(1),
        LongestWish = TimeSpan.FromDays(1),
        BetweenClearings = TimeSpan.FromHours(1);

    private readonly Bell bell = new(clock, TimeSpan.FromSeconds(5));
    private readonly Dictionary<string, Task> underWay = [];
    private DateTimeOffset cleared;

    private readonly HttpClient http = new(
        new SocketsHttpHandler
        {
            // Whoever is told is whoever a lead named, and nobody that this one names.
            AllowAutoRedirect = false,
            UseCookies = false,
            UseProxy = false,
            ActivityHeadersPropagator = null,
            PooledConnectionLifetime = TimeSpan.FromMinutes(2),
            ConnectCallback = OwnNetwork.ConnectAsync,
        }
    )
    {
        Timeout = Answers,
    };

    /// <summary>There is more to send than what was recorded.</summary>
    public void Ring() => bell.Ring();

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        changes.Recorded += Hear;
        try
        {
            while (true)
            {
                await bell.WaitAsync(stoppingToken);
                await LookAsync(stoppingToken);
            }
        }
        catch (OperationCanceledException)
        {
            await Task.WhenAll(underWay.Values);
        }
        finally
        {
            changes.Recorded -= Hear;
        }
    }

    public override void Dispose()
    {
        http.Dispose();
        base.Dispose();
    }

    private void Hear(IReadOnlyList<Changed> changes) => bell.Ring();

    private async Task LookAsync(CancellationToken cancel)
    {
        try
        {
            if (!store.Any())
            {
                return;
            }

            foreach (var webhook in store.List().Where(w => w.Active))
            {
                if (!underWay.TryGetValue(webhook.Id, out var before) || before.IsCompleted)
                {
                    underWay[webhook.Id] = Task.Run(() => TellAsync(webhook, cancel), CancellationToken.None);
                }
            }

            var now = clock.GetUtcNow();
            if (now - cleared > BetweenClearings)
            {
                cleared = now;
                store.Forget(now);
            }
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            // A store that cannot be written now may be written at the next look.
            log.LogWarning("Other programs were not told: {Reason}", e.Message);
        }
    }

    // What the journal has for it becomes messages.
    private async Task FillAsync(Webhook webhook, CancellationToken cancel)
    {
        var last = journal.LastPosition();
        for (var after = store.ReadUpTo(webhook.Id); after < last; after = store.ReadUpTo(webhook.Id))
        {
            var changes = await journal.ChangesAsync(after, Together, cancel);
            var messages = new List<NewMessage>();
            foreach (var change in changes.Where(c => webhook.Wants(Webhooks.KindOf(c.Kind))))
            {
                messages.Add(await MessageAsync(change, webhook.InWords, cancel));
            }

            store.Fill(webhook.Id, after, changes[^1].Position, messages, clock.GetUtcNow());
        }
    }

    private async Task<NewMessage> MessageAsync(Changed change, bool inWords, CancellationToken cancel)
    {
        var line = inWords ? LineOf(await shelf.LoadAsync(change.Order, cancel), change.Sequence) : null;
        var (kind, type) = (Webhooks.KindOf(change.Kind), $"order.{Webhooks.KindOf(change.Kind)}");
        var told = new WebhookEvent(
            type,
            change.At,
            new WebhookEntry(change.Order, change.Sequence, kind, change.At, change.By, line)
        );
        return Message(told);
    }

    private string LineOf(OrderSnapshot order, int sequence) =>
        order.Entries.First(e => e.Sequence == sequence).Body.Line(order.Guide, people.List());

    private static NewMessage Message(WebhookEvent told) =>
        new($"msg_{Guid.CreateVersion7():N}", told.Type, JsonSerializer.Serialize(told, RevtalJson.Options));

    /// <summary>Sends a message of no order, to see whether it is taken; it is not kept.</summary>
    public async Task<WebhookTried> TryAsync(Webhook webhook, CancellationToken cancel)
    {
        var message = Message(new WebhookEvent("revtal.tried", clock.GetUtcNow(), null));
        var (status, answer, _) = await PostAsync(webhook, message.Id, message.Body, cancel);
        return new WebhookTried(IsTaken(status), answer);
    }

    private async Task TellAsync(Webhook webhook, CancellationToken cancel)
    {
        try
        {
            await FillAsync(webhook, cancel);
            while (store.Due(webhook.Id, clock.GetUtcNow(), Together) is { Count: > 0 } due)
            {
                foreach (var message in due)
                {
                    var isMine = store.Take(message, clock.GetUtcNow() + InHand);
                    if (isMine && !await SendAsync(webhook, message, cancel))
                    {
                        return;
                    }
                }
            }
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            // What was in hand is taken up again after a while.
            log.LogWarning("{Webhook} was not told: {Reason}", webhook.Name, e.Message);
        }
        catch (OperationCanceledException)
        {
            // The service stops.
        }
    }

    /// <returns>Whether more may be sent there.</returns>
    private async Task<bool> SendAsync(Webhook webhook, WebhookMessage message, CancellationToken cancel)
    {
        var (status, answer, wish) = await PostAsync(webhook, message.Id, message.Body, cancel);
        var now = clock.GetUtcNow();
        if (IsTaken(status))
        {
            store.Delivered(webhook.Id, message.Id, answer, now);
            return true;
        }

        var isGone = status == HttpStatusCode.Gone;
        var wait = isGone ? null : Webhooks.WaitAfter(message.Tries + 1);
        store.Failed(message.Id, answer, now, now + Later(wait, wish));
        if (isGone)
        {
            // The specification's word for: tell me nothing more.
            store.Stop(webhook.Id);
        }

        return !isGone;
    }

    private static bool IsTaken(HttpStatusCode? status) => status is { } s && (int)s is >= 200 and < 300;

    // Never sooner than the other side wishes, and each a little different, so that not all come back at once.
    private static TimeSpan? Later(TimeSpan? wait, TimeSpan? wish) =>
        wait is not { } least ? null
        : wish > least ? wish
        : least * (1 + Random.Shared.NextDouble() / 10);

    private async Task<(HttpStatusCode? Status, string Answer, TimeSpan? Wish)> PostAsync(
        Webhook webhook,
        string id,
        string body,
        CancellationToken cancel
    )
    {
        var at = clock.GetUtcNow();
        using var request = new HttpRequestMessage(HttpMethod.Post, webhook.Address)
        {
            Content = new StringContent(body, Encoding.UTF8, "application/json"),
        };
        var secrets = store.Secrets(webhook.Id, at);
        var moment = at.ToUnixTimeSeconds();
        request.Headers.Add("webhook-id", id);
        request.Headers.Add("webhook-timestamp", moment.ToString(CultureInfo.InvariantCulture));
        request.Headers.Add(
            "webhook-signature",
            string.Join(
                ' ',
                new[] { secrets.Now, secrets.Old }.OfType<string>().Select(s => Webhooks.Signature(s, id, moment, body))
            )
        );
        request.Headers.UserAgent.Add(new ProductInfoHeaderValue("Revtal", BuildVersion.Text));
        try
        {
            // Of what it answers only the first line counts.
            using var response = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
            return (
                response.StatusCode,
                Short($"{(int)response.StatusCode} {Words.Plain(response.ReasonPhrase ?? "")}".Trim()),
                Wish(response.Headers.RetryAfter, at)
            );
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return (null, $"No answer within {Answers.TotalSeconds:0} s", null);
        }
        catch (HttpRequestException e)
        {
            return (null, Short($"Not reached: {Words.Plain(e.InnerException?.Message ?? e.Message)}"), null);
        }
    }

    private static TimeSpan? Wish(RetryConditionHeaderValue? header, DateTimeOffset now)
    {
        var wish = header?.Delta ?? header?.Date - now;
        return wish > LongestWish ? LongestWish : wish;
    }

    private static string Short(string text) => text.Length > LongestAnswer ? text[..LongestAnswer] : text;
}
