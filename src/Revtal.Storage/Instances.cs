using Revtal.Core;

namespace Revtal.Storage;

/// <summary>The running services on one store; each says from time to time that it is there.</summary>
public sealed class Instances(IStoreEngine engine, Connections connections)
{
    /// <summary>How often each says so.</summary>
    public static readonly TimeSpan Beat = TimeSpan.FromSeconds(15);

    /// <summary>Whoever was silent for so long is taken for gone.</summary>
    public static readonly TimeSpan Silence = 4 * Beat;

    /// <param name="id">Of this run of it.</param>
    /// <param name="name">Its machine, and where it listens.</param>
    /// <param name="position">The last position that its listeners were told of.</param>
    public void Tell(string id, string name, string version, DateTimeOffset began, DateTimeOffset now, long position) =>
        connections.Change(
            (db, transaction) =>
            {
                db.Command(
                        """DELETE FROM instances WHERE "Id" <> @p0 AND "SeenAt" < @p1""",
                        transaction,
                        id,
                        // Where only one may be, whoever was there before was killed.
                        engine.IsShared
                            ? (now - Silence).ToUnixTimeMilliseconds()
                            : long.MaxValue
                    )
                    .ExecuteNonQuery();
                return db.Command(
                        """
                        INSERT INTO instances ("Id", "Name", "Version", "BeganAt", "SeenAt", "Position")
                        VALUES (@p0, @p1, @p2, @p3, @p4, @p5)
                        ON CONFLICT ("Id") DO UPDATE SET "SeenAt" = @p4, "Position" = @p5
                        """,
                        transaction,
                        id,
                        name,
                        version,
                        began.ToUnixTimeMilliseconds(),
                        now.ToUnixTimeMilliseconds(),
                        position
                    )
                    .ExecuteNonQuery();
            }
        );

    public void Leave(string id) => connections.Change("""DELETE FROM instances WHERE "Id" = @p0""", id);

    /// <summary>Those that are there, by name.</summary>
    public IReadOnlyList<Instance> All(DateTimeOffset now) =>
        connections.Read(db =>
            db.All(
                """
                SELECT "Name", "Version", "BeganAt", "SeenAt", "Position" FROM instances
                WHERE "SeenAt" >= @p0 ORDER BY "Name", "Id"
                """,
                row => new Instance(
                    row.GetString(0),
                    row.GetString(1),
                    DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(2)),
                    DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(3)),
                    row.GetInt64(4)
                ),
                (now - Silence).ToUnixTimeMilliseconds()
            )
        );
}
