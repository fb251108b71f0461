using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;

namespace Revtal.Storage;

/// <summary>
/// Contexts over one store. The entity model is built for whoever asks for the first: a start and what every request
/// does need none.
/// </summary>
/// <param name="use">Points the options at the store.</param>
internal sealed class Databases<TContext>(Action<DbContextOptionsBuilder> use) : IDbContextFactory<RevtalDb>
    where TContext : RevtalDb
{
    private readonly Lazy<PooledDbContextFactory<TContext>> pool = new(() =>
    {
        var options = new DbContextOptionsBuilder<TContext>();
        use(options);
        return new PooledDbContextFactory<TContext>(options.Options);
    });

    public RevtalDb CreateDbContext() => pool.Value.CreateDbContext();
}
