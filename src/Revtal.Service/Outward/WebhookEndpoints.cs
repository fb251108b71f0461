using Microsoft.AspNetCore.Http.HttpResults;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Service.People;
using Revtal.Storage;
using Revtal.Storage.Shapes;

namespace Revtal.Service.Outward;

/// <summary><c>/api/v1/shop/webhooks</c>: other programs that are told what is recorded on orders.</summary>
internal static class WebhookEndpoints
{
    private const int MostWebhooks = 20;

    private static readonly string[] Kinds = [.. EntryKinds.Names.Select(Webhooks.KindOf).Distinct().Order()];

    public static IServiceCollection AddWebhooks(this IServiceCollection services) =>
        services.AddSingleton<WebhookSender>().AddHostedService(s => s.GetRequiredService<WebhookSender>());

    public static void MapWebhooks(this IEndpointRouteBuilder api)
    {
        var webhooks = api.MapGroup("/shop/webhooks").WithTags("shop");
        webhooks
            .MapGet("/", (WebhookStore store, Mailer mailer) => new WebhooksView(store.List(), Kinds, mailer.Fault))
            .WithName("listWebhooks")
            .WithSummary("Other programs that are told what is recorded on orders (leads)");
        webhooks
            .MapPost("/", Make)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("makeWebhook")
            .WithSummary("Tell another program from now on, by Standard Webhooks 1.0 (leads)");
        webhooks
            .MapPut("/{webhook}", Change)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("changeWebhook")
            .WithSummary("Where it listens, and of what it is told (leads)");
        webhooks
            .MapDelete("/{webhook}", Drop)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("dropWebhook")
            .WithSummary("It is told nothing more, and what waits for it goes (leads)");
        webhooks
            .MapPost("/{webhook}/secret", ChangeSecret)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("changeWebhookSecret")
            .WithSummary("Another secret; the one before signs too for a day (leads)");
        webhooks
            .MapPost("/{webhook}/try", TryAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("tryWebhook")
            .WithSummary("Send it a message of no order and tell what it answers (leads)");
        webhooks
            .MapGet("/{webhook}/messages", Messages)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("listWebhookMessages")
            .WithSummary("What it was told in the last thirty days, newest first (leads)");
        webhooks
            .MapPost("/{webhook}/again", Again)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("resendWebhookMessages")
            .WithSummary("Send again what was given up, or one message (leads)");
    }

    private static Created<WebhookMade> Make(
        WebhookRequest request,
        HttpContext context,
        WebhookStore store,
        SignInStore audit,
        TimeProvider clock
    )
    {
        var now = clock.GetUtcNow();
        if (store.List().Count >= MostWebhooks)
        {
            throw RefusedException.Rule("webhooks-full", $"{MostWebhooks} programs are told already. End one first.");
        }

        var (name, address, kinds) = Proved(request);
        var (webhook, secret) = store.Make(name, address, kinds, request.InWords, now);
        Note(audit, context, now, "webhook-made", webhook);
        context.Response.Headers.CacheControl = "no-store";
        return Made.At($"shop/webhooks/{webhook.Id}", new WebhookMade(webhook, secret));
    }

    private static Webhook Change(
        string webhook,
        WebhookRequest request,
        HttpContext context,
        WebhookStore store,
        WebhookSender sender,
        SignInStore audit,
        TimeProvider clock
    )
    {
        var (name, address, kinds) = Proved(request);
        if (!store.Change(webhook, name, address, kinds, request.InWords, request.Active))
        {
            throw NoSuch();
        }

        sender.Ring();
        var changed = Need(store, webhook);
        Note(audit, context, clock.GetUtcNow(), "webhook-changed", changed);
        return changed;
    }

    private static NoContent Drop(
        string webhook,
        HttpContext context,
        WebhookStore store,
        SignInStore audit,
        TimeProvider clock
    )
    {
        var known = Need(store, webhook);
        store.Drop(webhook);
        Note(audit, context, clock.GetUtcNow(), "webhook-ended", known);
        return TypedResults.NoContent();
    }

    private static WebhookMade ChangeSecret(
        string webhook,
        HttpContext context,
        WebhookStore store,
        SignInStore audit,
        TimeProvider clock
    )
    {
        var (known, now) = (Need(store, webhook), clock.GetUtcNow());
        var secret = store.ChangeSecret(webhook, now) ?? throw NoSuch();
        Note(audit, context, now, "webhook-secret", known);
        context.Response.Headers.CacheControl = "no-store";
        return new WebhookMade(known, secret);
    }

    private static Task<WebhookTried> TryAsync(
        string webhook,
        WebhookStore store,
        WebhookSender sender,
        CancellationToken cancel
    ) => sender.TryAsync(Need(store, webhook), cancel);

    private static Page<WebhookMessage> Messages(
        string webhook,
        WebhookStore store,
        Word<MessageState>? state = null,
        string? after = null,
        int limit = Paging.Usual
    )
    {
        Need(store, webhook);
        return Page.Of(
            store.Of(webhook, state?.Value, Paging.Number(after), Paging.Checked(limit) + 1),
            limit,
            store.Count(webhook, state?.Value),
            m => $"{m.Position}"
        );
    }

    private static WebhookAgain Again(
        string webhook,
        WebhookAgainRequest request,
        WebhookStore store,
        WebhookSender sender,
        TimeProvider clock
    )
    {
        if (!Need(store, webhook).Active)
        {
            throw RefusedException.Rule("webhook-off", "This program is told nothing now. Turn it on first.");
        }

        var count = store.Again(webhook, request.Message, clock.GetUtcNow());
        if (count == 0 && request.Message is not null)
        {
            throw RefusedException.NotFound("no-such-message", "There is no such message (any more).");
        }

        sender.Ring();
        return new WebhookAgain(count);
    }

    private static (string Name, string Address, IReadOnlyList<string> Kinds) Proved(WebhookRequest request)
    {
        var address = Words.RequiredLine("The program's address", request.Address);
        if (
            !Uri.TryCreate(address, UriKind.Absolute, out var uri)
            || uri.Scheme is not ("https" or "http")
            || uri is not { UserInfo: "", Fragment: "" }
        )
        {
            throw RefusedException.Invalid(
                "webhook-address",
                $"“{address}” is no address of a program. Write one like https://books.example/revtal."
            );
        }

        string[] kinds = [.. (request.Kinds ?? []).Distinct()];
        return kinds.Except(Kinds).FirstOrDefault() is { } strange
            ? throw RefusedException.Invalid(
                "webhook-kind",
                $"“{Words.Plain(strange)}” is no kind of entry. Take one like plan-agreed or handed-back."
            )
            : (Words.RequiredLine("The program's name", request.Name), uri.AbsoluteUri, kinds);
    }

    private static Webhook Need(WebhookStore store, string id) => store.Find(id) ?? throw NoSuch();

    private static RefusedException NoSuch() =>
        RefusedException.NotFound("no-such-webhook", "The shop tells no such program.");

    private static void Note(SignInStore audit, HttpContext context, DateTimeOffset at, string what, Webhook webhook) =>
        audit.Note(
            Door.Need(context).Person.Id,
            what,
            at,
            $"{webhook.Name}: {new Uri(webhook.Address).Host}",
            Door.From(context)
        );
}
