using MailKit.Net.Smtp;
using Microsoft.Extensions.Options;
using MimeKit;
using Revtal.Core;
using Revtal.Service.Http;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Outward;

/// <summary>Mails people what concerns them and lies unread; several things in one mail, each thing once.</summary>
internal sealed class Mailer(
    MailOptions settings,
    IOptions<ShopOptions> shop,
    NoticeStore notices,
    PeopleStore people,
    TimeProvider clock,
    ILogger<Mailer> log
) : BackgroundService
{
    private static readonly TimeSpan AgainTo = TimeSpan.FromMinutes(10),
        FirstWait = TimeSpan.FromMinutes(1),
        LongestWait = TimeSpan.FromHours(1);

    private readonly Bell bell = new(clock, TimeSpan.FromSeconds(15));
    private readonly Dictionary<string, DateTimeOffset> rests = [];
    private DateTimeOffset restsUntil;
    private TimeSpan wait = FirstWait;

    /// <summary>Why the last mail could not be handed to the server; null where it could.</summary>
    public string? Fault { get; private set; }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (settings.Host is not null && !stoppingToken.IsCancellationRequested)
        {
            await bell.WaitAsync(stoppingToken);
            if (clock.GetUtcNow() >= restsUntil)
            {
                await LookAsync(stoppingToken);
            }
        }
    }

    private async Task LookAsync(CancellationToken cancel)
    {
        try
        {
            var now = clock.GetUtcNow();
            var due = notices
                .ToMail(now - TimeSpan.FromMinutes(settings.After))
                .Where(n => rests.GetValueOrDefault(n.Person) <= now)
                .ToList();
            if (due.Count == 0)
            {
                return;
            }

            using var client = await ConnectAsync(cancel);
            foreach (var own in due.GroupBy(n => n.Person))
            {
                await SendAsync(client, [.. own], cancel);
            }

            await client.DisconnectAsync(true, cancel);
            (Fault, wait) = (null, FirstWait);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            // The notices are where they were: they go when the server answers again.
            Fault = Words.Plain(e.Message);
            restsUntil = clock.GetUtcNow() + wait;
            wait = wait * 2 < LongestWait ? wait * 2 : LongestWait;
            log.LogWarning("Mail could not be sent: {Reason}", Fault);
        }
    }

    private async Task<SmtpClient> ConnectAsync(CancellationToken cancel)
    {
        var client = new SmtpClient { Timeout = 20_000 };
        try
        {
            await client.ConnectAsync(settings.Host!, settings.Port, settings.Way, cancel);
            if (settings.User is { } user)
            {
                await client.AuthenticateAsync(user, settings.Password!, cancel);
            }

            return client;
        }
        catch
        {
            client.Dispose();
            throw;
        }
    }

    private async Task SendAsync(SmtpClient client, IReadOnlyList<NoticeToMail> own, CancellationToken cancel)
    {
        var person = own[0].Person;
        try
        {
            await client.SendAsync(MailOf(own), cancel);
        }
        catch (SmtpCommandException e) when (e.ErrorCode != SmtpErrorCode.SenderNotAccepted)
        {
            // It may be taken later; nobody else waits for that.
            rests[person] = clock.GetUtcNow() + AgainTo;

            // Nothing goes there until its owner writes another.
            if (e.ErrorCode == SmtpErrorCode.RecipientNotAccepted && IsFinal(e))
            {
                notices.Refused(person, own[0].Mail, Words.Plain($"{(int)e.StatusCode} {e.Message}"));
            }

            return;
        }

        notices.Mailed(person, own[^1].Position, clock.GetUtcNow());
    }

    // RFC 5321, 4.2.1: 5yz is for ever, 4yz for now.
    private static bool IsFinal(SmtpCommandException e) => (int)e.StatusCode >= 500;

    private MimeMessage MailOf(IReadOnlyList<NoticeToMail> own)
    {
        var mail = new MimeMessage { Date = clock.GetUtcNow() };
        mail.From.Add(MailboxAddress.Parse(settings.From));
        mail.To.Add(MailboxAddress.Parse(own[0].Mail));
        mail.Subject = own is [var only]
            ? $"Order {only.Order}: {Phrases.Words(only.Kind)}"
            : $"{own.Count} things concern you: orders {Phrases.Listed(own.Select(n => $"{n.Order}").Distinct())}";

        // The same where it has to be sent again, so that a mail program knows it.
        mail.MessageId = $"{own[0].Person}.{own[0].Position}-{own[^1].Position}@{mail.From.Mailboxes.First().Domain}";
        mail.Headers.Add("Auto-Submitted", "auto-generated");
        mail.Body = new TextPart("plain") { Text = string.Join("\n\n", [.. own.Select(Told), Foot()]) };
        return mail;
    }

    private string Told(NoticeToMail notice) =>
        $"Order {notice.Order}, {Phrases.Words(notice.Kind)} ({NameOf(notice.By)}):\n{notice.Text}"
        + (PublicAddress.Own(shop.Value) is { } url ? $"\n{url}/orders/{notice.Order}" : "");

    private string NameOf(string id) => people.List().FirstOrDefault(p => p.Id == id)?.Name ?? shop.Value.Name;

    private string Foot() =>
        $"-- \n{shop.Value.Name}. You are told since this lay unread. Where it is mailed to is said under People.";
}
