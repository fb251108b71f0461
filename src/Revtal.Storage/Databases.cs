using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;

namespace Revtal.Storage;

/// <summary>
/// Contexts over the database of one folder. The entity model is built for whoever asks for the first: a start and what
/// every request does need none.
/// </summary>
public sealed class Databases(string folder) : IDbContextFactory<RevtalDb>
{
    private readonly Lazy<PooledDbContextFactory<RevtalDb>> pool = new(() =>
    {
        var options = new DbContextOptionsBuilder<RevtalDb>();
        SqliteStore.Use(options, folder);
        return new PooledDbContextFactory<RevtalDb>(options.Options);
    });

    public RevtalDb CreateDbContext() => pool.Value.CreateDbContext();
}
