using Microsoft.EntityFrameworkCore;
using Revtal.Storage;

namespace Revtal.Tests.Storage;

/// <summary>Contexts over the database of one folder.</summary>
internal sealed class Databases(string folder) : IDbContextFactory<RevtalDb>
{
    public RevtalDb CreateDbContext()
    {
        var options = new DbContextOptionsBuilder<RevtalDb>();
        SqliteStore.Use(options, folder);
        return new RevtalDb(options.Options);
    }
}
