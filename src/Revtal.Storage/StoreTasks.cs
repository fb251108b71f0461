using System.Text.Json;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>What is done with the whole store, each by one instance at a time.</summary>
public enum StoreTask
{
    /// <summary>A look through it.</summary>
    Look,

    /// <summary>A backup of it, as a file of the service's own.</summary>
    Backup,

    /// <summary>A backup of it, for whoever fetches it.</summary>
    Fetch,
}

/// <summary>One of them.</summary>
/// <param name="ToldAt">When whoever does it last said so.</param>
/// <param name="EndedAt">Null while it goes on.</param>
/// <param name="So">How it went so far.</param>
public sealed record StoreTaskLine<T>(
    string Id,
    DateTimeOffset BeganAt,
    DateTimeOffset ToldAt,
    DateTimeOffset? EndedAt,
    T So
);

/// <summary>
/// What was done with the whole store lately, in the store: any instance knows it, and no two do the same at once.
/// </summary>
public sealed class StoreTasks(Connections connections)
{
    /// <summary>Whoever says nothing for so long is over.</summary>
    public static readonly TimeSpan Silence = TimeSpan.FromMinutes(1);

    private const int MostKept = 100;

    /// <summary>Newest first.</summary>
    public IReadOnlyList<StoreTaskLine<T>> Of<T>(StoreTask task, int most = MostKept) =>
        connections.Read(db =>
            db.All(
                """
                SELECT "Id", "BeganAt", "ToldAt", "EndedAt", "Body" FROM store_tasks
                WHERE "Kind" = @p0 ORDER BY "BeganAt" DESC, "Id" DESC LIMIT @p1
                """,
                row => new StoreTaskLine<T>(
                    row.GetString(0),
                    DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(1)),
                    DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(2)),
                    row.IsDBNull(3) ? null : DateTimeOffset.FromUnixTimeMilliseconds(row.GetInt64(3)),
                    JsonSerializer.Deserialize<T>(row.GetString(4), RevtalJson.Options)!
                ),
                task.ToString(),
                most
            )
        );

    /// <summary>Begins one, where none of its kind goes on and none began after <paramref name="notSince"/>.</summary>
    /// <returns>Its id; null where it was not begun.</returns>
    public string? Begin<T>(StoreTask task, T so, DateTimeOffset now, DateTimeOffset? notSince = null)
    {
        var id = Guid.CreateVersion7(now).ToString();
        return connections.Change(
            (db, transaction) =>
            {
                var begun = db.Command(
                        """
                        INSERT INTO store_tasks ("Id", "Kind", "BeganAt", "ToldAt", "Body")
                        SELECT @p0, @p1, @p2, @p2, @p3
                        WHERE NOT EXISTS (
                            SELECT 1 FROM store_tasks
                            WHERE "Kind" = @p1 AND ("EndedAt" IS NULL AND "ToldAt" > @p4 OR "BeganAt" > @p5))
                        """,
                        transaction,
                        id,
                        task.ToString(),
                        now.ToUnixTimeMilliseconds(),
                        JsonSerializer.Serialize(so, RevtalJson.Options),
                        (now - Silence).ToUnixTimeMilliseconds(),
                        notSince?.ToUnixTimeMilliseconds() ?? long.MaxValue
                    )
                    .ExecuteNonQuery();
                db.Command(
                        """
                        DELETE FROM store_tasks WHERE "Kind" = @p0 AND "BeganAt" < (
                            SELECT min("BeganAt") FROM (
                                SELECT "BeganAt" FROM store_tasks
                                WHERE "Kind" = @p0 ORDER BY "BeganAt" DESC LIMIT @p1) newest)
                        """,
                        transaction,
                        task.ToString(),
                        MostKept
                    )
                    .ExecuteNonQuery();
                return begun == 1 ? id : null;
            }
        );
    }

    /// <summary>How it goes.</summary>
    /// <param name="ended">When it ended; null while it goes on.</param>
    public void Tell<T>(string id, T so, DateTimeOffset now, DateTimeOffset? ended = null) =>
        connections.Change(
            """UPDATE store_tasks SET "Body" = @p1, "ToldAt" = @p2, "EndedAt" = @p3 WHERE "Id" = @p0""",
            id,
            JsonSerializer.Serialize(so, RevtalJson.Options),
            now.ToUnixTimeMilliseconds(),
            ended?.ToUnixTimeMilliseconds()
        );
}
