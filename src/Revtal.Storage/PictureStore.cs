using Microsoft.EntityFrameworkCore;

namespace Revtal.Storage;

/// <summary>Pictures by the hash of their bytes; the same picture is kept once.</summary>
public sealed class PictureStore(IDbContextFactory<RevtalDb> databases)
{
    public async Task PutAsync(IEnumerable<PictureRow> pictures, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        foreach (var picture in pictures.DistinctBy(p => p.Hash))
        {
            // The hash says what it is: who kept it first kept the same.
            await db.Database.ExecuteSqlAsync(
                $"""
                INSERT INTO pictures ("Hash", "Content", "Small", "Width", "Height")
                VALUES ({picture.Hash}, {picture.Content}, {picture.Small}, {picture.Width}, {picture.Height})
                ON CONFLICT DO NOTHING
                """,
                cancel
            );
        }
    }

    /// <summary>The picture's JPEG; null when there is none of this hash.</summary>
    public async Task<byte[]?> GetAsync(string hash, bool small, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .Pictures.Where(p => p.Hash == hash)
            .Select(p => small ? p.Small : p.Content)
            .FirstOrDefaultAsync(cancel);
    }

    /// <summary>Which of these hashes are not kept.</summary>
    public async Task<IReadOnlyList<string>> MissingAsync(
        IReadOnlyCollection<string> hashes,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var kept = await db.Pictures.Where(p => hashes.Contains(p.Hash)).Select(p => p.Hash).ToListAsync(cancel);
        return [.. hashes.Except(kept)];
    }
}
