using System.Data.Common;
using System.Security.Cryptography;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>The bench's tablets: a link enrols a screen once, and from then on the screen shows itself.</summary>
public sealed class TabletStore(Connections connections)
{
    /// <summary>A tablet to be, whose link opens until <paramref name="until"/>.</summary>
    /// <returns>It, and what stands in the link; that is told only here.</returns>
    public (Tablet Tablet, string Link) Make(string name, DateTimeOffset now, DateTimeOffset until)
    {
        var (id, link) = (Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(6)), SignInStore.NewSecret());
        connections.Change(
            """DELETE FROM tablets WHERE "EnrolledAt" IS NULL AND "LinkUntil" <= @p0""",
            now.ToUnixTimeMilliseconds()
        );
        connections.Change(
            """INSERT INTO tablets ("Id", "Name", "Hash", "LinkUntil", "MadeAt") VALUES (@p0, @p1, @p2, @p3, @p4)""",
            id,
            name,
            SignInStore.HashOf(link),
            until.ToUnixTimeMilliseconds(),
            now.ToUnixTimeMilliseconds()
        );
        return (new Tablet(id, name, now, null, null), link);
    }

    /// <summary>The screen that opened the link is that tablet from now on; a link works once.</summary>
    /// <returns>What it shows itself by; null where the link opens nothing (any more).</returns>
    public string? Enrol(string link, DateTimeOffset now)
    {
        var secret = SignInStore.NewSecret();
        var done = connections.Change(
            """
            UPDATE tablets SET "Hash" = @p1, "LinkUntil" = NULL, "EnrolledAt" = @p2
            WHERE "Hash" = @p0 AND "EnrolledAt" IS NULL AND "LinkUntil" > @p2
            """,
            SignInStore.HashOf(link),
            SignInStore.HashOf(secret),
            now.ToUnixTimeMilliseconds()
        );
        return done == 1 ? secret : null;
    }

    /// <summary>Which tablet shows itself by this; null for none.</summary>
    public Tablet? Find(string secret) =>
        connections.Read(db =>
            db.All(Select + """ WHERE "Hash" = @p0 AND "EnrolledAt" IS NOT NULL""", Read, SignInStore.HashOf(secret))
        )
            is [var only]
            ? only
            : null;

    /// <summary>Every tablet, by name; also those whose link was not opened yet.</summary>
    public IReadOnlyList<Tablet> List() => connections.Read(db => db.All(Select + """ ORDER BY "Name", "Id" """, Read));

    public void Used(string id, DateTimeOffset at) =>
        connections.Change("""UPDATE tablets SET "UsedAt" = @p1 WHERE "Id" = @p0""", id, at.ToUnixTimeMilliseconds());

    /// <returns>Whether there was such a tablet.</returns>
    public bool Drop(string id) => connections.Change("""DELETE FROM tablets WHERE "Id" = @p0""", id) == 1;

    private const string Select = """SELECT "Id", "Name", "MadeAt", "EnrolledAt", "UsedAt" FROM tablets""";

    private static Tablet Read(DbDataReader row) =>
        new(row.GetString(0), row.GetString(1), Moment(row, 2)!.Value, Moment(row, 3), Moment(row, 4));

    private static DateTimeOffset? Moment(DbDataReader row, int column) =>
        row.IsDBNull(column) ? null : DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(column));
}
