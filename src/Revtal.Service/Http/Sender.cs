using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Extensions.Primitives;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Orders;
using Revtal.Service.People;
using Revtal.Storage;

namespace Revtal.Service.Http;

/// <summary>Who sends a change, under which id, and on which state of the order it was decided.</summary>
/// <param name="Id">From <c>Idempotency-Key</c>; made here when the header is missing.</param>
/// <param name="MayBeRetry">Whether the sender gave the id, so that an earlier answer may have been lost.</param>
/// <param name="IfMatch">The head that the sender saw; null when it does not mind.</param>
/// <param name="Waited">Null where it was said just now.</param>
public sealed record Sender(Person Person, Guid Id, bool MayBeRetry, int? IfMatch, Waited? Waited = null)
{
    public const string KeyHeader = "Idempotency-Key";
    public const string SaidHeader = "Said-At";
    public const string SentHeader = "Sent-At";

    /// <summary>Bound by minimal APIs.</summary>
    public static ValueTask<Sender> BindAsync(HttpContext context)
    {
        var who = Door.Need(context);
        var headers = context.Request.Headers;
        var (id, given) = Key(headers[KeyHeader]);
        return ValueTask.FromResult(new Sender(who.Person, id, given, Head(headers.IfMatch), WaitedBy(headers)));
    }

    /// <summary>When it happened: now, or when it was said where that can be believed.</summary>
    public DateTimeOffset When(TimeProvider clock)
    {
        var now = clock.GetUtcNow();
        return Said(now, DateTimeOffset.UnixEpoch) is { ClockOff: false, At: var said } ? said : now;
    }

    /// <inheritdoc cref="Core.Orders.Said.Of"/>
    public Said? Said(DateTimeOffset now, DateTimeOffset notBefore) =>
        Waited is { } w ? Core.Orders.Said.Of(w.SaidAt, w.SentAt, now, notBefore) : null;

    /// <summary>The same for a change outside the journal.</summary>
    /// <param name="action">What is done, with what it is done to.</param>
    public Hand Hand(TimeProvider clock, string action, object? request) =>
        new(Person.Id, clock.GetUtcNow(), Id, MayBeRetry ? Fingerprint(action, request) : null);

    /// <summary>A hash of what a request asks, so that one id cannot stand for two different things.</summary>
    public static string Fingerprint(string action, object? request)
    {
        var json = JsonSerializer.SerializeToUtf8Bytes(request, RevtalJson.Options);
        return $"{action}:{Convert.ToHexString(SHA256.HashData(json).AsSpan(0, 16))}";
    }

    internal static (Guid Id, bool Given) Key(StringValues header)
    {
        if (header.Count == 0)
        {
            return (Guid.CreateVersion7(), false);
        }

        return Guid.TryParse(header.ToString().Trim('"'), out var id)
            ? (id, true)
            : throw new BadHttpRequestException(
                $"{KeyHeader} wants a UUID, made anew for each change and kept for its retries."
            );
    }

    private static Waited? WaitedBy(IHeaderDictionary headers) =>
        (headers[SaidHeader].ToString(), headers[SentHeader].ToString()) switch
        {
            ("", "") => null,
            var (said, sent) => new Waited(Moment(SaidHeader, said), Moment(SentHeader, sent)),
        };

    private static DateTimeOffset Moment(string header, string text) =>
        DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var moment)
        && moment.Year is > 2000 and < 9000
            ? moment
            : throw new BadHttpRequestException(
                $"{SaidHeader} and {SentHeader} go together: each a moment of the sender's clock, like "
                    + "2026-11-27T10:42:00Z."
            );

    // RFC 9110 13.1.1; an order's ETag begins with its head.
    private static int? Head(StringValues header)
    {
        var text = header.ToString();
        return text is "" or "*" ? null
            : int.TryParse(text.Trim('"').Split('-')[0], out var head) ? head
            : throw new BadHttpRequestException("If-Match wants the ETag of the order as it was read, like \"12\".");
    }
}

/// <summary>It was kept for want of a network, by the clock of the screen on which it was said.</summary>
/// <param name="SaidAt">What that clock showed when it was said.</param>
/// <param name="SentAt">What it shows now.</param>
public sealed record Waited(DateTimeOffset SaidAt, DateTimeOffset SentAt);

/// <summary>Nobody known sent this.</summary>
public sealed class NotSignedInException(string message, string code = "not-signed-in") : Exception(message)
{
    public string Code { get; } = code;
}

/// <summary>The order moved on since the sender read it.</summary>
/// <param name="now">As it is now.</param>
/// <param name="seen">The head that the sender saw.</param>
/// <param name="people">Everybody of the shop.</param>
public sealed class StaleException(OrderSnapshot now, int seen, IReadOnlyList<Person> people)
    : Exception(Since(now, seen, people))
{
    private const int MostShown = 5;

    public int Head { get; } = now.Order.Head;

    private static string Since(OrderSnapshot now, int seen, IReadOnlyList<Person> people)
    {
        var lines = now
            .Entries.Where(e => e.Sequence > seen)
            .Take(MostShown)
            .Select(e => $"{Person.Called(people, e.By)}: {e.Body.Line(now.Guide, people)}");
        return $"Order {now.Order.Number} has changed since you read it: {string.Join("; ", lines)}. "
            + "Read it again, then decide.";
    }
}
