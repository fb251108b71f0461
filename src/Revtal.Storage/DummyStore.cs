using Microsoft.EntityFrameworkCore;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>The bench's simulated machines, as they stand.</summary>
public sealed class DummyStore(IDbContextFactory<RevtalDb> databases)
{
    public async Task<IReadOnlyList<string>> ListAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Dummies.AsNoTracking().OrderBy(d => d.Name).Select(d => d.State).ToListAsync(cancel);
    }

    /// <exception cref="RefusedException">There is none of this name.</exception>
    public async Task<(string State, int Version)> GetAsync(string name, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Dummies.AsNoTracking().FirstOrDefaultAsync(d => d.Name == name, cancel) is { } row
            ? (row.State, row.Version)
            : throw RefusedException.NotFound(
                "no-such-dummy",
                $"There is no dummy “{name}”. Make one of that name, or use one that is there."
            );
    }

    /// <param name="version">That the change was made on; 0 for a new one.</param>
    /// <exception cref="RefusedException">Somebody else changed it, or the name is taken.</exception>
    public async Task PutAsync(string name, string state, int version, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var row = new DummyRow
        {
            Name = name,
            State = state,
            Version = version + 1,
        };
        var entry = db.Entry(row);
        entry.State = version == 0 ? EntityState.Added : EntityState.Modified;
        entry.Property(r => r.Version).OriginalValue = version;
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException)
        {
            throw new RefusedException(
                RefusalKind.Conflict,
                "dummy-taken",
                version == 0
                    ? $"There is a dummy “{name}” already."
                    : $"Somebody else had {name} in hand. Look at it again."
            );
        }
    }
}
