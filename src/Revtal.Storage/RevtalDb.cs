using Microsoft.EntityFrameworkCore;

namespace Revtal.Storage;

/// <summary>The tables.</summary>
public sealed class RevtalDb(DbContextOptions<RevtalDb> options) : DbContext(options)
{
    public DbSet<EntryRow> Entries => Set<EntryRow>();

    public DbSet<OrderRow> Orders => Set<OrderRow>();

    public DbSet<GuideRow> Guides => Set<GuideRow>();

    public DbSet<GuideDraftRow> Drafts => Set<GuideDraftRow>();

    public DbSet<SuggestionRow> Suggestions => Set<SuggestionRow>();

    public DbSet<PictureRow> Pictures => Set<PictureRow>();

    public DbSet<CaptureRow> Captures => Set<CaptureRow>();

    public DbSet<PersonRow> People => Set<PersonRow>();

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<EntryRow>(e =>
        {
            e.ToTable("entries").HasKey(r => r.Position);
            e.Property(r => r.Position).ValueGeneratedOnAdd();
            e.HasIndex(r => new { r.Order, r.Sequence }).IsUnique();
            e.HasIndex(r => r.Id).IsUnique();
        });
        modelBuilder.Entity<OrderRow>(o =>
        {
            o.ToTable("orders").HasKey(r => r.Number);
            o.Property(r => r.Number).ValueGeneratedNever();
            o.HasIndex(r => r.Number, "open_orders").HasFilter("\"Open\"");
            o.HasIndex(r => new { r.Model, r.Number });
        });
        modelBuilder.Entity<GuideRow>().ToTable("guides").HasKey(r => new { r.Code, r.Revision });
        modelBuilder.Entity<GuideDraftRow>(d =>
        {
            d.ToTable("guide_drafts").HasKey(r => r.Code);
            d.Property(r => r.Version).IsConcurrencyToken();
        });
        modelBuilder.Entity<SuggestionRow>(s =>
        {
            s.ToTable("suggestions").HasKey(r => new { r.Order, r.Sequence });
            s.HasIndex(r => new { r.State, r.Code });
        });
        modelBuilder.Entity<PictureRow>().ToTable("pictures").HasKey(r => r.Hash);
        modelBuilder.Entity<CaptureRow>().ToTable("captures").HasKey(r => r.Hash);
        modelBuilder.Entity<PersonRow>().ToTable("people").HasKey(r => r.Id);
    }
}
