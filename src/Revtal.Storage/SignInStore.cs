using System.Data.Common;
using System.Security.Cryptography;
using System.Text;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>
/// Passwords, sessions, set-up links and the audit list. Secrets are kept as hashes only. Asked at every request, so it
/// reads with prepared statements.
/// </summary>
public sealed class SignInStore(Connections connections)
{
    /// <summary>How exactly it is kept when a session was last used; each use would be a write.</summary>
    public static readonly TimeSpan UseKept = TimeSpan.FromMinutes(5);

    /// <summary>A secret that cannot be guessed: 256 random bits, in letters that stand in a link.</summary>
    public static string NewSecret() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));

    public static string HashOf(string secret) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));

    public AccountRow? Account(string person) => OneAccount("""WHERE "Person" = @p0""", person);

    /// <summary>Whose badge this is; null for nobody's.</summary>
    public AccountRow? AccountOfBadge(string code) => OneAccount("""WHERE "Badge" = @p0""", HashOf(code));

    /// <summary>Everybody who has chosen a PIN.</summary>
    public IReadOnlySet<string> WithPin() =>
        connections
            .Read(db => db.All("""SELECT "Person" FROM accounts WHERE "Pin" IS NOT NULL""", row => row.GetString(0)))
            .ToHashSet();

    private AccountRow? OneAccount(string where, string value) =>
        connections.Read(db =>
            db.All(
                $"""
                SELECT "Person", "Password", "Failed", "LockedUntil", "CodeKey", "AsksCode", "LastStep", "Recovery",
                    "Pin", "PinFailed", "PinLockedUntil", "Badge", "Mail", "MailFault"
                FROM accounts {where}
                """,
                row => new AccountRow
                {
                    Person = row.GetString(0),
                    Password = Text(row, 1),
                    Failed = row.GetInt32(2),
                    LockedUntil = row.IsDBNull(3) ? null : row.GetInt64(3),
                    CodeKey = Text(row, 4),
                    AsksCode = row.GetBoolean(5),
                    LastStep = row.GetInt64(6),
                    Recovery = Text(row, 7),
                    Pin = Text(row, 8),
                    PinFailed = row.GetInt32(9),
                    PinLockedUntil = row.IsDBNull(10) ? null : row.GetInt64(10),
                    Badge = Text(row, 11),
                    Mail = Text(row, 12),
                    MailFault = Text(row, 13),
                },
                value
            )
        )
            is [var only]
            ? only
            : null;

    public void Put(AccountRow account) =>
        connections.Change(
            """
            INSERT INTO accounts ("Person", "Password", "Failed", "LockedUntil", "CodeKey", "AsksCode", "LastStep",
                "Recovery", "Pin", "PinFailed", "PinLockedUntil", "Badge", "Mail", "MailFault")
            VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6, @p7, @p8, @p9, @p10, @p11, @p12, @p13)
            ON CONFLICT ("Person") DO UPDATE
            SET "Password" = @p1, "Failed" = @p2, "LockedUntil" = @p3, "CodeKey" = @p4, "AsksCode" = @p5,
                "LastStep" = @p6, "Recovery" = @p7, "Pin" = @p8, "PinFailed" = @p9, "PinLockedUntil" = @p10,
                "Badge" = @p11, "Mail" = @p12, "MailFault" = @p13
            """,
            account.Person,
            account.Password,
            account.Failed,
            account.LockedUntil,
            account.CodeKey,
            account.AsksCode,
            account.LastStep,
            account.Recovery,
            account.Pin,
            account.PinFailed,
            account.PinLockedUntil,
            account.Badge,
            account.Mail,
            account.MailFault
        );

    /// <summary>Whether a lead of the shop can sign in.</summary>
    public bool HasLead() =>
        connections.Read(db =>
            db.All(
                """
                SELECT 1 FROM accounts JOIN people ON people."Id" = accounts."Person"
                WHERE people."Role" = 'Lead' AND accounts."Password" IS NOT NULL LIMIT 1
                """,
                _ => true
            )
        )
            is [true];

    /// <summary>Who holds this secret now; null for nobody. Keeps that it was used.</summary>
    /// <param name="idle">How long it may lie unused.</param>
    public Session? Find(string secret, DateTimeOffset now, Func<SessionKind, TimeSpan> idle)
    {
        var found = connections.Read(db => db.All(Select + """ AND "Hash" = @p0""", Read, HashOf(secret)));
        if (found is not [var session] || session.ExpiresAt <= now || session.UsedAt + idle(session.Kind) <= now)
        {
            return null;
        }

        if (now - session.UsedAt >= UseKept)
        {
            KeepUse(session.Id, now);
        }

        return session;
    }

    // Where the disk is full, people still look: then it is kept at a later use.
    private void KeepUse(string id, DateTimeOffset now)
    {
        try
        {
            connections.Change(
                """UPDATE sessions SET "UsedAt" = @p1 WHERE "Id" = @p0""",
                id,
                now.ToUnixTimeMilliseconds()
            );
        }
        catch (Exception e) when (StoreException.Of(e) is not null) { }
    }

    /// <summary>Signed in, newest first.</summary>
    /// <param name="person">Null for everybody's.</param>
    public IReadOnlyList<Session> Sessions(string? person, DateTimeOffset now) =>
        connections.Read(db =>
            db.All(
                Select
                    + """
                     AND (CAST(@p0 AS TEXT) IS NULL OR "Person" = @p0) AND "ExpiresAt" > @p1 ORDER BY "MadeAt" DESC
                    """,
                Read,
                person,
                now.ToUnixTimeMilliseconds()
            )
        );

    /// <summary>Signs somebody in.</summary>
    /// <returns>The session, and its secret, which is told only here.</returns>
    public (Session Session, string Secret) Begin(
        string person,
        SessionKind kind,
        string name,
        bool looks,
        DateTimeOffset now,
        TimeSpan lasts,
        string? tablet = null
    )
    {
        var secret = (kind == SessionKind.Token ? "revtal-" : "") + NewSecret();
        var id = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(6));
        connections.Change("""DELETE FROM sessions WHERE "ExpiresAt" <= @p0""", now.ToUnixTimeMilliseconds());
        connections.Change(
            """
            INSERT INTO sessions ("Id", "Hash", "Person", "Kind", "Name", "Looks", "MadeAt", "UsedAt", "ExpiresAt",
                "Tablet")
            VALUES (@p0, @p1, @p2, @p3, @p4, @p5, @p6, @p6, @p7, @p8)
            """,
            id,
            HashOf(secret),
            person,
            kind.ToString(),
            name,
            looks,
            now.ToUnixTimeMilliseconds(),
            (now + lasts).ToUnixTimeMilliseconds(),
            tablet
        );
        return (new Session(id, person, kind, name, looks, now, now, now + lasts, tablet), secret);
    }

    /// <returns>Whether there was such a session, of this person where one is named.</returns>
    public bool End(string id, string? person) =>
        connections.Change(
            """DELETE FROM sessions WHERE "Id" = @p0 AND (CAST(@p1 AS TEXT) IS NULL OR "Person" = @p1)""",
            id,
            person
        ) == 1;

    /// <param name="but">A session that stays; null for none.</param>
    public void EndAll(string person, string? but = null) =>
        connections.Change("""DELETE FROM sessions WHERE "Person" = @p0 AND "Id" IS DISTINCT FROM @p1""", person, but);

    /// <summary>Whoever stood at this tablet no longer does.</summary>
    public void EndAtTablet(string tablet) =>
        connections.Change("""DELETE FROM sessions WHERE "Tablet" = @p0""", tablet);

    /// <summary>Nothing opens in this person's name any more.</summary>
    public void Shut(string person)
    {
        connections.Change("""DELETE FROM accounts WHERE "Person" = @p0""", person);
        EndAll(person);
        DropLinks(person);
    }

    /// <summary>A link that sets a password once.</summary>
    /// <param name="person">Who had one has another instead. Null: whoever opens it becomes the first lead; each
    /// instance tells its own, and the first that is used is the only one.</param>
    /// <returns>What stands in the link; told only here.</returns>
    public string Link(string? person, DateTimeOffset until)
    {
        var secret = NewSecret();
        if (person is not null)
        {
            DropLinks(person);
        }

        connections.Change(
            """INSERT INTO set_up_links ("Hash", "Person", "ExpiresAt") VALUES (@p0, @p1, @p2)""",
            HashOf(secret),
            person,
            until.ToUnixTimeMilliseconds()
        );
        return secret;
    }

    /// <summary>Whom a link is for; no value where it opens nothing (now).</summary>
    public (bool Opens, string? Person) LinkFor(string secret, DateTimeOffset now) =>
        connections.Read(db =>
            db.All(
                """SELECT "Person" FROM set_up_links WHERE "Hash" = @p0 AND "ExpiresAt" > @p1""",
                row => Text(row, 0),
                HashOf(secret),
                now.ToUnixTimeMilliseconds()
            )
        )
            is [var person]
            ? (true, person)
            : (false, null);

    /// <returns>Whether this was the one that used it up.</returns>
    public bool UseUp(string secret) =>
        connections.Change(
            """
            DELETE FROM set_up_links WHERE "Hash" = @p0
                OR "Person" IS NULL AND EXISTS (SELECT 1 FROM set_up_links WHERE "Hash" = @p0 AND "Person" IS NULL)
            """,
            HashOf(secret)
        ) > 0;

    /// <summary>Links that were made for somebody open nothing any more.</summary>
    private void DropLinks(string person) =>
        connections.Change("""DELETE FROM set_up_links WHERE "Person" = @p0""", person);

    public void Note(string by, string what, DateTimeOffset at, string? about = null, string? from = null) =>
        connections.Change(
            """INSERT INTO audit ("At", "By", "What", "About", "From") VALUES (@p0, @p1, @p2, @p3, @p4)""",
            at.ToUnixTimeMilliseconds(),
            by,
            what,
            about,
            from
        );

    /// <summary>Newest first.</summary>
    /// <param name="before">A position; null from the newest on.</param>
    public IReadOnlyList<AuditLine> Audit(long? before, int limit) =>
        connections.Read(db =>
            db.All(
                """
                SELECT "Position", "At", "By", "What", "About", "From" FROM audit
                WHERE CAST(@p0 AS BIGINT) IS NULL OR "Position" < @p0 ORDER BY "Position" DESC LIMIT @p1
                """,
                row => new AuditLine(
                    row.GetInt64(0),
                    Moment(row, 1),
                    row.GetString(2),
                    row.GetString(3),
                    Text(row, 4),
                    Text(row, 5)
                ),
                before,
                limit
            )
        );

    public int AuditCount() => connections.Read(db => db.All("SELECT count(*) FROM audit", row => row.GetInt32(0)))[0];

    // Somebody may come in at a tablet in the moment in which a lead ends it.
    private const string Select = """
        SELECT "Id", "Person", "Kind", "Name", "Looks", "MadeAt", "UsedAt", "ExpiresAt", "Tablet" FROM sessions
        WHERE ("Tablet" IS NULL OR EXISTS (SELECT 1 FROM tablets WHERE tablets."Id" = sessions."Tablet"))
        """;

    private static Session Read(DbDataReader row) =>
        new(
            row.GetString(0),
            row.GetString(1),
            Enum.Parse<SessionKind>(row.GetString(2)),
            row.GetString(3),
            row.GetBoolean(4),
            Moment(row, 5),
            Moment(row, 6),
            Moment(row, 7),
            Text(row, 8)
        );

    private static DateTimeOffset Moment(DbDataReader row, int column) =>
        DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(column));

    private static string? Text(DbDataReader row, int column) => row.IsDBNull(column) ? null : row.GetString(column);
}
