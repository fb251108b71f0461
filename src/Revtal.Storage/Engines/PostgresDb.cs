using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace Revtal.Storage;

/// <summary>The tables as PostgreSQL has them; its migrations are its own.</summary>
public sealed class PostgresDb(DbContextOptions<PostgresDb> options) : RevtalDb(options)
{
    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        base.OnModelCreating(modelBuilder);
        modelBuilder.Entity<TraceRow>(t =>
        {
            t.ToTable("traces").HasKey(r => r.Id);
            t.Property(r => r.Id).ValueGeneratedNever();
        });

        // Texts are ordered by their bytes, as everywhere else in Revtal and whatever the server's language is.
        foreach (var text in modelBuilder.Model.GetEntityTypes().SelectMany(e => e.GetProperties()))
        {
            if (text.ClrType == typeof(string))
            {
                text.SetCollation("C");
            }
        }
    }
}

/// <summary>Lets the migration tool build the model without the service.</summary>
internal sealed class PostgresDesignTimeFactory : IDesignTimeDbContextFactory<PostgresDb>
{
    public PostgresDb CreateDbContext(string[] args) =>
        new(new DbContextOptionsBuilder<PostgresDb>().UseNpgsql("Host=localhost").Options);
}
