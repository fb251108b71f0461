using System.Data.Common;
using System.Security.Cryptography;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>What signs a webhook's messages.</summary>
/// <param name="Old">The secret before, which signs too for a while after it was changed; null for none.</param>
public sealed record WebhookSecrets(string Now, string? Old);

/// <summary>A message to another program, before it is kept.</summary>
public sealed record NewMessage(string Id, string Type, string Body);

/// <summary>
/// Other programs that are told, and what is still to be told them. The journal is what waits: each webhook keeps how
/// far it was read, and its messages are written in the same transaction that moves this on.
/// </summary>
public sealed class WebhookStore(Connections connections)
{
    /// <summary>How long a message is shown after it was taken or given up.</summary>
    public static readonly TimeSpan Kept = TimeSpan.FromDays(30);

    /// <summary>How long the secret before signs too.</summary>
    public static readonly TimeSpan OldSigns = TimeSpan.FromDays(1);

    /// <summary>By name.</summary>
    public IReadOnlyList<Webhook> List() => All("""ORDER BY "Name", "Id" """);

    public Webhook? Find(string id) => All("""WHERE "Id" = @p0""", id) is [var only] ? only : null;

    private IReadOnlyList<Webhook> All(string which, params ReadOnlySpan<object?> values)
    {
        var given = values.ToArray();
        return connections.Read(db =>
            db.All(
                $"""
                SELECT "Id", "Name", "Address", "Kinds", "InWords", "Active", "MadeAt", "DeliveredAt",
                    (SELECT count(*) FROM webhook_messages m WHERE m."Webhook" = w."Id" AND m."State" = 'Waiting'),
                    (SELECT count(*) FROM webhook_messages m WHERE m."Webhook" = w."Id" AND m."State" = 'Dead')
                FROM webhooks w {which}
                """,
                row => new Webhook(
                    row.GetString(0),
                    row.GetString(1),
                    row.GetString(2),
                    row.GetString(3).Split(' ', StringSplitOptions.RemoveEmptyEntries),
                    row.GetBoolean(4),
                    row.GetBoolean(5),
                    row.GetInt32(8),
                    row.GetInt32(9),
                    Moment(row.GetInt64(6)),
                    row.IsDBNull(7) ? null : Moment(row.GetInt64(7))
                ),
                given
            )
        );
    }

    /// <summary>Whether anybody is told at all.</summary>
    public bool Any() =>
        connections.Read(db => db.All("""SELECT 1 FROM webhooks WHERE "Active" LIMIT 1""", _ => true)).Count > 0;

    /// <summary>From now on it is told; of what was before it is not.</summary>
    /// <returns>It, and its secret.</returns>
    public (Webhook Webhook, string Secret) Make(
        string name,
        string address,
        IReadOnlyList<string> kinds,
        bool inWords,
        DateTimeOffset now
    )
    {
        var (id, secret) = (Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(6)), Webhooks.NewSecret());
        connections.Change(
            """
            INSERT INTO webhooks ("Id", "Name", "Address", "Kinds", "InWords", "Active", "Secret", "Position", "MadeAt")
            VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6, (SELECT coalesce(max("Position"), 0) FROM entries), @p7)
            """,
            id,
            name,
            address,
            string.Join(' ', kinds),
            inWords,
            true,
            secret,
            now.ToUnixTimeMilliseconds()
        );
        return (Find(id)!, secret);
    }

    /// <summary>What was recorded while it was not active it is not told of later.</summary>
    /// <returns>Whether there is such a webhook.</returns>
    public bool Change(
        string id,
        string name,
        string address,
        IReadOnlyList<string> kinds,
        bool inWords,
        bool active
    ) =>
        connections.Change(
            """
            UPDATE webhooks SET "Name" = @p1, "Address" = @p2, "Kinds" = @p3, "InWords" = @p4, "Active" = @p5,
                "Position" = CASE WHEN "Active" THEN "Position"
                    ELSE (SELECT coalesce(max("Position"), 0) FROM entries) END
            WHERE "Id" = @p0
            """,
            id,
            name,
            address,
            string.Join(' ', kinds),
            inWords,
            active
        ) == 1;

    /// <summary>It is told nothing more until a lead says so.</summary>
    public void Stop(string id) =>
        connections.Change("""UPDATE webhooks SET "Active" = @p1 WHERE "Id" = @p0""", id, false);

    /// <returns>The new secret; null where there is no such webhook.</returns>
    public string? ChangeSecret(string id, DateTimeOffset now)
    {
        var secret = Webhooks.NewSecret();
        var done = connections.Change(
            """
            UPDATE webhooks SET "OldSecret" = "Secret", "OldUntil" = @p2, "Secret" = @p1 WHERE "Id" = @p0
            """,
            id,
            secret,
            (now + OldSigns).ToUnixTimeMilliseconds()
        );
        return done == 1 ? secret : null;
    }

    public WebhookSecrets Secrets(string id, DateTimeOffset now) =>
        connections.Read(db =>
            db.All(
                """
                SELECT "Secret", CASE WHEN "OldUntil" > @p1 THEN "OldSecret" END FROM webhooks WHERE "Id" = @p0
                """,
                row => new WebhookSecrets(row.GetString(0), row.IsDBNull(1) ? null : row.GetString(1)),
                id,
                now.ToUnixTimeMilliseconds()
            )
        )[0];

    /// <returns>Whether there was such a webhook.</returns>
    public bool Drop(string id) =>
        connections.Change(
            (db, transaction) =>
            {
                db.Command("""DELETE FROM webhook_messages WHERE "Webhook" = @p0""", transaction, id).ExecuteNonQuery();
                return db.Command("""DELETE FROM webhooks WHERE "Id" = @p0""", transaction, id).ExecuteNonQuery() == 1;
            }
        );

    /// <summary>How far the journal was read for it.</summary>
    public long ReadUpTo(string id) =>
        connections.Read(db =>
            db.All("""SELECT "Position" FROM webhooks WHERE "Id" = @p0""", row => row.GetInt64(0), id)
        )
            is [var position]
            ? position
            : long.MaxValue;

    /// <summary>Keeps what is to be told it of the journal up to a position.</summary>
    /// <param name="after">How far it was read before; nothing happens where somebody else read on meanwhile.</param>
    public void Fill(string id, long after, long upTo, IReadOnlyList<NewMessage> messages, DateTimeOffset now) =>
        connections.Change(
            (db, transaction) =>
            {
                var moved = db.Command(
                        """UPDATE webhooks SET "Position" = @p2 WHERE "Id" = @p0 AND "Position" = @p1""",
                        transaction,
                        id,
                        after,
                        upTo
                    )
                    .ExecuteNonQuery();
                foreach (var message in moved == 1 ? messages : [])
                {
                    Add(db, transaction, id, message, now);
                }

                return moved == 1;
            }
        );

    private static void Add(
        Prepared db,
        DbTransaction transaction,
        string id,
        NewMessage message,
        DateTimeOffset now
    ) =>
        db.Command(
                """
                INSERT INTO webhook_messages ("Id", "Webhook", "Type", "Body", "State", "Tries", "At", "NextAt")
                VALUES (@p0, @p1, @p2, @p3, 'Waiting', 0, @p4, @p4)
                """,
                transaction,
                message.Id,
                id,
                message.Type,
                message.Body,
                now.ToUnixTimeMilliseconds()
            )
            .ExecuteNonQuery();

    /// <summary>What of a webhook's is to be sent now, the longest due first.</summary>
    public IReadOnlyList<WebhookMessage> Due(string id, DateTimeOffset now, int most) =>
        Messages(
            """WHERE "Webhook" = @p0 AND "State" = 'Waiting' AND "NextAt" <= @p1 ORDER BY "NextAt", "Position" """
                + "LIMIT @p2",
            id,
            now.ToUnixTimeMilliseconds(),
            most
        );

    /// <summary>A webhook's messages, newest first.</summary>
    /// <param name="before">A position; null from the newest on.</param>
    public IReadOnlyList<WebhookMessage> Of(string id, MessageState? state, long? before, int most) =>
        Messages(
            """
            WHERE "Webhook" = @p0 AND (CAST(@p1 AS TEXT) IS NULL OR "State" = @p1)
                AND (CAST(@p2 AS BIGINT) IS NULL OR "Position" < @p2)
            ORDER BY "Position" DESC LIMIT @p3
            """,
            id,
            state?.ToString(),
            before,
            most
        );

    public int Count(string id, MessageState? state) =>
        connections.Read(db =>
            db.All(
                """
                SELECT count(*) FROM webhook_messages
                WHERE "Webhook" = @p0 AND (CAST(@p1 AS TEXT) IS NULL OR "State" = @p1)
                """,
                row => row.GetInt32(0),
                id,
                state?.ToString()
            )
        )[0];

    public WebhookMessage? Message(string message) =>
        Messages("""WHERE "Id" = @p0""", message) is [var only] ? only : null;

    private IReadOnlyList<WebhookMessage> Messages(string which, params ReadOnlySpan<object?> values)
    {
        var given = values.ToArray();
        return connections.Read(db =>
            db.All(
                $"""
                SELECT "Position", "Id", "Type", "Body", "State", "Tries", "At", "NextAt", "TriedAt", "Answer"
                FROM webhook_messages {which}
                """,
                row => new WebhookMessage(
                    row.GetInt64(0),
                    row.GetString(1),
                    row.GetString(2),
                    row.GetString(3),
                    Enum.Parse<MessageState>(row.GetString(4)),
                    row.GetInt32(5),
                    Moment(row.GetInt64(6)),
                    Moment(row.GetInt64(7)),
                    row.IsDBNull(8) ? null : Moment(row.GetInt64(8)),
                    row.IsDBNull(9) ? null : row.GetString(9)
                ),
                given
            )
        );
    }

    /// <summary>Takes a message to send it. Who dies with it in hand leaves it to be sent again.</summary>
    /// <param name="until">When somebody else may take it.</param>
    /// <returns>Whether nobody else took it first.</returns>
    public bool Take(WebhookMessage message, DateTimeOffset until) =>
        connections.Change(
            """
            UPDATE webhook_messages SET "NextAt" = @p2 WHERE "Id" = @p0 AND "State" = 'Waiting' AND "NextAt" = @p1
            """,
            message.Id,
            message.NextAt.ToUnixTimeMilliseconds(),
            until.ToUnixTimeMilliseconds()
        ) == 1;

    /// <summary>The other program took it.</summary>
    public void Delivered(string id, string message, string answer, DateTimeOffset now)
    {
        Tried(message, MessageState.Delivered, answer, now, now);
        connections.Change(
            """UPDATE webhooks SET "DeliveredAt" = @p1 WHERE "Id" = @p0""",
            id,
            now.ToUnixTimeMilliseconds()
        );
    }

    /// <summary>It was not taken.</summary>
    /// <param name="next">When it is sent again; null for never.</param>
    public void Failed(string message, string answer, DateTimeOffset now, DateTimeOffset? next) =>
        Tried(message, next is null ? MessageState.Dead : MessageState.Waiting, answer, now, next ?? now);

    private void Tried(string message, MessageState state, string answer, DateTimeOffset now, DateTimeOffset next) =>
        connections.Change(
            """
            UPDATE webhook_messages
            SET "State" = @p1, "Answer" = @p2, "TriedAt" = @p3, "NextAt" = @p4, "Tries" = "Tries" + 1
            WHERE "Id" = @p0
            """,
            message,
            state.ToString(),
            answer,
            now.ToUnixTimeMilliseconds(),
            next.ToUnixTimeMilliseconds()
        );

    /// <summary>They are sent again from the beginning.</summary>
    /// <param name="message">One of them; null for all that were given up.</param>
    /// <returns>How many.</returns>
    public int Again(string id, string? message, DateTimeOffset now) =>
        connections.Change(
            """
            UPDATE webhook_messages SET "State" = 'Waiting', "Tries" = 0, "NextAt" = @p2
            WHERE "Webhook" = @p0 AND ("Id" = @p1 OR (CAST(@p1 AS TEXT) IS NULL AND "State" = 'Dead'))
            """,
            id,
            message,
            now.ToUnixTimeMilliseconds()
        );

    /// <summary>What was taken or given up long ago is shown no longer.</summary>
    public void Forget(DateTimeOffset now) =>
        connections.Change(
            """DELETE FROM webhook_messages WHERE "State" <> 'Waiting' AND "At" < @p0""",
            (now - Kept).ToUnixTimeMilliseconds()
        );

    private static DateTimeOffset Moment(long at) => DateTimeOffset.FromUnixTimeMilliseconds(at);
}
