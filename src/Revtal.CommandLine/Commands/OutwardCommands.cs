using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Commands;

/// <summary>The part of <c>shop</c> that is about what goes out: to other programs, and by mail.</summary>
internal static class OutwardCommands
{
    public static Command[] All() => [Webhook(), List(), Messages(), Mail()];

    private static Command Webhook()
    {
        var name = new Argument<string>("NAME") { Description = "What the shop knows the program by" };
        var address = new Argument<string>("ADDRESS") { Description = "Where it listens" };
        var kinds = new Option<string[]>("--kind")
        {
            Description = "Only this kind of entry; more than once for more",
            AllowMultipleArgumentsPerToken = true,
        };
        var words = new Option<bool>("--words") { Description = "It is also told what people wrote" };
        var change = new Option<string?>("--change")
        {
            Description = "A webhook's id: change it in place of a new one",
        };
        return Cli.Command(
            "webhook",
            "Tell another program what is recorded on orders, signed by Standard Webhooks (leads)",
            "revtal shop webhook book-keeping https://books.example/revtal --kind plan-agreed handed-back",
            async (p, client, cancel) =>
            {
                var request = new WebhookRequest(
                    p.GetValue(name)!,
                    p.GetValue(address)!,
                    p.GetValue(kinds),
                    p.GetValue(words)
                );
                if (p.GetValue(change) is { } id)
                {
                    Cli.Show(p, await client.ChangeWebhookAsync(id, request, cancel), w => Show([w]));
                    return;
                }

                Cli.Show(p, await client.MakeWebhookAsync(request, cancel), ShowSecret);
            },
            name,
            address,
            kinds,
            words,
            change
        );
    }

    private static Command List()
    {
        var attempt = new Option<string?>("--try") { Description = "A webhook's id: send it a message of no order" };
        var secret = new Option<string?>("--secret")
        {
            Description = "Its id: another secret; the one before works for a day",
        };
        var off = new Option<string?>("--off") { Description = "Its id: it is told nothing for now" };
        var on = new Option<string?>("--on") { Description = "Its id: it is told again, from now on" };
        var end = new Option<string?>("--end") { Description = "Its id: it is told nothing more, and what waits goes" };
        return Cli.Command(
            "webhooks",
            "Other programs that are told, and what to do about them (leads)",
            "revtal shop webhooks --try 5f0c1d2e3a4b",
            async (p, client, cancel) =>
            {
                if (p.GetValue(attempt) is { } tried)
                {
                    Cli.Show(
                        p,
                        await Screen.Wait("waiting for its answer", client.TryWebhookAsync(tried, cancel)),
                        t => Screen.Line($"{(t.Taken ? "Taken" : "Not taken")}: {t.Answer}")
                    );
                    return;
                }

                if (p.GetValue(secret) is { } turned)
                {
                    Cli.Show(p, await client.ChangeWebhookSecretAsync(turned, cancel), ShowSecret);
                    return;
                }

                if (p.GetValue(end) is { } ended)
                {
                    await client.DropWebhookAsync(ended, cancel);
                }

                if ((p.GetValue(on) ?? p.GetValue(off)) is { } id)
                {
                    await TurnAsync(client, id, p.GetValue(on) is not null, cancel);
                }

                Cli.Show(
                    p,
                    await client.WebhooksAsync(cancel),
                    all =>
                    {
                        Show(all.Webhooks);
                        if (all.MailFault is { } fault)
                        {
                            Screen.Marked($"[red]Mail could not be sent:[/] {Screen.Safe(fault)}");
                        }
                    }
                );
            },
            attempt,
            secret,
            off,
            on,
            end
        );
    }

    private static async Task TurnAsync(RevtalClient client, string id, bool on, CancellationToken cancel)
    {
        var known =
            (await client.WebhooksAsync(cancel)).Webhooks.FirstOrDefault(w => w.Id == id)
            ?? throw RefusedException.NotFound("no-such-webhook", "The shop tells no such program.");
        await client.ChangeWebhookAsync(
            id,
            new WebhookRequest(known.Name, known.Address, known.Kinds, known.InWords, on),
            cancel
        );
    }

    private static Command Messages()
    {
        var id = new Argument<string>("WEBHOOK") { Description = "Its id" };
        var state = new Option<MessageState?>("--state") { Description = "waiting, delivered or dead" };
        var again = new Option<bool>("--again") { Description = "Send again all that were given up" };
        var message = new Option<string?>("--message") { Description = "With --again: only this one" };
        return Cli.Command(
            "messages",
            "What another program was told in the last thirty days, newest first (leads)",
            "revtal shop messages 5f0c1d2e3a4b --state dead --again",
            async (p, client, cancel) =>
            {
                var webhook = p.GetValue(id)!;
                if (p.GetValue(again))
                {
                    var sent = await client.ResendWebhookAsync(
                        webhook,
                        new WebhookAgainRequest(p.GetValue(message)),
                        cancel
                    );
                    Cli.Show(
                        p,
                        sent,
                        s => Screen.Line($"{Phrases.Counted(s.Count, "message", "messages")} sent again.")
                    );
                    return;
                }

                Cli.Show(
                    p,
                    await client.WebhookMessagesAsync(webhook, p.GetValue(state), cancel),
                    all =>
                        Screen.Table(
                            ["message", "when", "type", "state", "tries", "answer", "next"],
                            all.Items.Select(m =>
                                new[]
                                {
                                    m.Id,
                                    Screen.Ago(m.At),
                                    m.Type,
                                    Phrases.Words(m.State),
                                    $"{m.Tries}",
                                    Screen.Safe(m.Answer),
                                    m.State == MessageState.Waiting ? Screen.Time(m.NextAt) : "",
                                }
                            )
                        )
                );
            },
            id,
            state,
            again,
            message
        );
    }

    private static Command Mail()
    {
        var address = new Argument<string?>("ADDRESS")
        {
            Description = "Where your notices go that lie unread; without it, none are mailed",
            Arity = ArgumentArity.ZeroOrOne,
        };
        return Cli.Command(
            "mail",
            "Have notices that lie unread mailed to you, or no longer",
            "revtal shop mail mara@saltmarsh.example",
            async (p, client, cancel) =>
            {
                await client.PutMailAsync(new MailRequest(p.GetValue(address)), cancel);
                Cli.Show(
                    p,
                    new MailSet(p.GetValue(address)),
                    _ =>
                        Screen.Line(
                            p.GetValue(address) is { } to
                                ? $"Notices that lie unread go to {to}."
                                : "Notices are mailed nowhere."
                        )
                );
            },
            address
        );
    }

    private static void ShowSecret(WebhookMade made)
    {
        Screen.Line(made.Secret);
        Screen.Line($"{made.Webhook.Name} proves our messages with it. It is not shown again.");
    }

    private static void Show(IReadOnlyList<Webhook> all) =>
        Screen.Table(
            ["id", "name", "address", "told of", "waiting", "given up", "last taken"],
            all.Select(w =>
                new[]
                {
                    w.Id,
                    Screen.Safe(w.Name),
                    Screen.Safe(w.Address),
                    w.Active ? ToldOf(w) : "nothing now",
                    $"{w.Waiting}",
                    $"{w.Dead}",
                    w.DeliveredAt is { } at ? Screen.Ago(at) : "never",
                }
            )
        );

    private static string ToldOf(Webhook webhook) =>
        (webhook.Kinds.Count == 0 ? "everything" : string.Join(", ", webhook.Kinds))
        + (webhook.InWords ? ", in words" : "");
}
