using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>What concerns somebody and is to be mailed.</summary>
/// <param name="Mail">The address.</param>
public sealed record NoticeToMail(
    long Position,
    string Person,
    string Mail,
    int Order,
    NoticeKind Kind,
    string Text,
    string By
);

/// <summary>
/// What concerns whom; written by <see cref="JournalWriter"/> with the entry that tells it, and read here.
/// </summary>
public sealed class NoticeStore(Connections connections)
{
    /// <summary>One person's, newest first.</summary>
    /// <param name="before">A position; null from the newest on.</param>
    public IReadOnlyList<NoticeLine> Of(string person, long? before, int limit) =>
        connections.Read(db =>
            db.All(
                """
                SELECT "Position", "Order", "Sequence", "Kind", "Text", "By", "At", "ReadAt" FROM notices
                WHERE "Person" = @p0 AND (CAST(@p1 AS BIGINT) IS NULL OR "Position" < @p1)
                ORDER BY "Position" DESC LIMIT @p2
                """,
                row => new NoticeLine(
                    row.GetInt64(0),
                    row.GetInt32(1),
                    row.GetInt32(2),
                    Enum.Parse<NoticeKind>(row.GetString(3)),
                    row.GetString(4),
                    row.GetString(5),
                    DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(6)),
                    row.IsDBNull(7) ? null : DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(7))
                ),
                person,
                before,
                limit
            )
        );

    /// <summary>What lies unread since before a moment, of people who wish for mail; oldest first.</summary>
    public IReadOnlyList<NoticeToMail> ToMail(DateTimeOffset before) =>
        connections.Read(db =>
            db.All(
                """
                SELECT n."Position", n."Person", a."Mail", n."Order", n."Kind", n."Text", n."By"
                FROM notices n JOIN accounts a ON a."Person" = n."Person"
                WHERE n."MailedAt" IS NULL AND n."ReadAt" IS NULL AND n."At" <= @p0
                    AND a."Mail" IS NOT NULL AND a."MailFault" IS NULL
                ORDER BY n."Position" LIMIT 500
                """,
                row => new NoticeToMail(
                    row.GetInt64(0),
                    row.GetString(1),
                    row.GetString(2),
                    row.GetInt32(3),
                    Enum.Parse<NoticeKind>(row.GetString(4)),
                    row.GetString(5),
                    row.GetString(6)
                ),
                before.ToUnixTimeMilliseconds()
            )
        );

    /// <summary>One person's went out up to this position; or are not to go.</summary>
    public void Mailed(string person, long upTo, DateTimeOffset at) =>
        connections.Change(
            """
            UPDATE notices SET "MailedAt" = @p2 WHERE "Person" = @p0 AND "Position" <= @p1 AND "MailedAt" IS NULL
            """,
            person,
            upTo,
            at.ToUnixTimeMilliseconds()
        );

    /// <summary>The mail server does not take this address, if it still is this person's.</summary>
    public void Refused(string person, string mail, string why) =>
        connections.Change(
            """UPDATE accounts SET "MailFault" = @p2 WHERE "Person" = @p0 AND "Mail" = @p1""",
            person,
            mail,
            why
        );

    public int Count(string person) =>
        connections.Read(db =>
            db.All("""SELECT count(*) FROM notices WHERE "Person" = @p0""", row => row.GetInt32(0), person)
        )[0];

    /// <summary>One person has read theirs up to this position.</summary>
    public void Read(string person, long upTo, DateTimeOffset at) =>
        connections.Change(
            """
            UPDATE notices SET "ReadAt" = @p2 WHERE "Person" = @p0 AND "Position" <= @p1 AND "ReadAt" IS NULL
            """,
            person,
            upTo,
            at.ToUnixTimeMilliseconds()
        );
}
