using Revtal.Core.Orders;

namespace Revtal.Storage;

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
                WHERE "Person" = @p0 AND (@p1 IS NULL OR "Position" < @p1) ORDER BY "Position" DESC LIMIT @p2
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
