using Microsoft.EntityFrameworkCore;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>The bench's simulated machines, as they stand.</summary>
public sealed class DummyStore(IDbContextFactory<RevtalDb> databases, Road road)
{
    public async Task<IReadOnlyList<string>> ListAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Dummies.AsNoTracking().OrderBy(d => d.Name).Select(d => d.State).ToListAsync(cancel);
    }

    /// <exception cref="RefusedException">There is none of this name.</exception>
    public async Task<string> GetAsync(string name, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var row = await db.Dummies.AsNoTracking().FirstOrDefaultAsync(d => d.Name == name, cancel);
        return row?.State ?? throw None(name);
    }

    /// <summary>A new one.</summary>
    /// <exception cref="RefusedException">The name is taken.</exception>
    public Task<T> AddAsync<T>(string name, string state, T answer, Hand hand, CancellationToken cancel = default) =>
        road.TakeAsync(
            ShopTopic.Dummies,
            hand,
            async db =>
            {
                if (await db.Dummies.AnyAsync(d => d.Name == name, cancel))
                {
                    throw new RefusedException(
                        RefusalKind.Conflict,
                        "dummy-taken",
                        $"There is a dummy “{name}” already."
                    );
                }

                db.Dummies.Add(
                    new DummyRow
                    {
                        Name = name,
                        State = state,
                        Version = 1,
                    }
                );
                return answer;
            },
            cancel
        );

    /// <summary>One is changed, as it stands at that moment.</summary>
    /// <exception cref="RefusedException">There is none of this name, or the change refused.</exception>
    public Task<T> ChangeAsync<T>(
        string name,
        Func<string, (string State, T Answer)> change,
        Hand hand,
        CancellationToken cancel = default
    ) =>
        road.TakeAsync(
            ShopTopic.Dummies,
            hand,
            async db =>
            {
                var row = await db.Dummies.FirstOrDefaultAsync(d => d.Name == name, cancel) ?? throw None(name);
                var (state, answer) = change(row.State);
                (row.State, row.Version) = (state, row.Version + 1);
                return answer;
            },
            cancel
        );

    private static RefusedException None(string name) =>
        RefusedException.NotFound(
            "no-such-dummy",
            $"There is no dummy “{name}”. Make one of that name, or use one that is there."
        );
}
