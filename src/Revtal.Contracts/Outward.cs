using Revtal.Core.Orders;

namespace Revtal.Contracts;

/// <summary>What another program is told, in the envelope of Standard Webhooks 1.0.</summary>
/// <param name="Type">What happened: <c>order.plan-agreed</c>; <c>revtal.tried</c> where a lead tries it.</param>
/// <param name="Timestamp">When it happened, UTC.</param>
/// <param name="Data">Null where it is only tried.</param>
public sealed record WebhookEvent(string Type, DateTimeOffset Timestamp, WebhookEntry? Data);

/// <summary>An entry as another program is told of it.</summary>
/// <param name="Sequence">Its place in the journal of its order, from 1.</param>
/// <param name="Line">What the journal says of it; null where the program is not told words.</param>
public sealed record WebhookEntry(int Order, int Sequence, string Kind, DateTimeOffset At, string By, string? Line);

/// <param name="Name">What the shop knows it by.</param>
/// <param name="Address">Where it listens: https, or http within the shop's own network.</param>
/// <param name="Kinds">Of which kinds of entries it is told: <c>plan-agreed</c>; null or empty for all.</param>
/// <param name="InWords">Whether it is also told the journal's line, with what people wrote.</param>
/// <param name="Active">Whether it is told at all.</param>
[Example("""{"name": "book-keeping", "address": "https://books.example/revtal", "kinds": ["plan-agreed"]}""")]
public sealed record WebhookRequest(
    string Name,
    string Address,
    IReadOnlyList<string>? Kinds = null,
    bool InWords = false,
    bool Active = true
);

/// <param name="Secret">What signs its messages; told only here.</param>
public sealed record WebhookMade(Webhook Webhook, string Secret);

/// <param name="Taken">Whether it answered with 2xx.</param>
/// <param name="Answer">What came back, in a line.</param>
public sealed record WebhookTried(bool Taken, string Answer);

/// <param name="Message">One of its messages; null for all that were given up.</param>
[Example("""{"message": "msg_019ab0c2d3e47f00a1b2c3d4e5f60718"}""")]
public sealed record WebhookAgainRequest(string? Message = null);

/// <param name="Count">How many are sent again.</param>
public sealed record WebhookAgain(int Count);

/// <param name="Webhooks">By name.</param>
/// <param name="Kinds">Every kind of entry that one may be told of.</param>
/// <param name="MailFault">Why the last mail could not be handed to the mail server; null where it could, or where the
/// shop sends none.</param>
public sealed record WebhooksView(IReadOnlyList<Webhook> Webhooks, IReadOnlyList<string> Kinds, string? MailFault);

/// <param name="Mail">Where notices that lie unread are mailed to; null for nowhere.</param>
[Example("""{"mail": "mara@saltmarsh.example"}""")]
public sealed record MailRequest(string? Mail);
