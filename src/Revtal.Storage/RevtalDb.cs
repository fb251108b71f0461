using Microsoft.EntityFrameworkCore;

namespace Revtal.Storage;

/// <summary>The tables.</summary>
public class RevtalDb : DbContext
{
    public RevtalDb(DbContextOptions<RevtalDb> options)
        : base(options) { }

    /// <param name="options">Of another engine.</param>
    protected RevtalDb(DbContextOptions options)
        : base(options) { }

    public DbSet<EntryRow> Entries => Set<EntryRow>();

    public DbSet<OrderRow> Orders => Set<OrderRow>();

    public DbSet<InvoiceRow> Invoices => Set<InvoiceRow>();

    public DbSet<GuideRow> Guides => Set<GuideRow>();

    public DbSet<GuideDraftRow> Drafts => Set<GuideDraftRow>();

    public DbSet<SuggestionRow> Suggestions => Set<SuggestionRow>();

    public DbSet<PictureRow> Pictures => Set<PictureRow>();

    public DbSet<CaptureRow> Captures => Set<CaptureRow>();

    public DbSet<PersonRow> People => Set<PersonRow>();

    public DbSet<PartKindRow> PartKinds => Set<PartKindRow>();

    public DbSet<PartItemRow> PartItems => Set<PartItemRow>();

    public DbSet<DummyRow> Dummies => Set<DummyRow>();

    public DbSet<RequestRow> Requests => Set<RequestRow>();

    public DbSet<StockMoveRow> StockMoves => Set<StockMoveRow>();

    public DbSet<GuideNameRow> GuideNames => Set<GuideNameRow>();

    public DbSet<ArrivalRow> Arrivals => Set<ArrivalRow>();

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<EntryRow>(e =>
        {
            e.ToTable("entries").HasKey(r => r.Position);
            // The writer gives it: it is the only one, and so no table of counters is written with every entry.
            e.Property(r => r.Position).ValueGeneratedNever();
            e.HasIndex(r => new { r.Order, r.Sequence }).IsUnique();
            e.HasIndex(r => r.Id).IsUnique();
        });
        modelBuilder.Entity<OrderRow>(o =>
        {
            o.ToTable("orders").HasKey(r => r.Number);
            o.Property(r => r.Number).ValueGeneratedNever();
            o.HasIndex(r => r.Number, "open_orders").HasFilter("\"Open\"");
            o.HasIndex(r => new { r.Model, r.Way });
            o.HasIndex(r => r.Serial);
            o.HasIndex(r => r.Batch);
            o.HasIndex(r => new { r.Stage, r.Number });
            o.HasIndex(r => r.Number, "for_later").HasFilter("\"Later\" IS NOT NULL");
            o.HasIndex(r => r.Number, "unchained").HasFilter("\"Hash\" IS NULL");
        });
        modelBuilder.Entity<GuideRow>().ToTable("guides").HasKey(r => new { r.Code, r.Revision });
        modelBuilder.Entity<GuideNameRow>(n =>
        {
            n.ToTable("guide_names")
                .HasKey(r => new
                {
                    r.Code,
                    r.Name,
                    r.Build,
                });
            n.HasIndex(r => r.Name);
        });
        modelBuilder.Entity<ArrivalRow>(a =>
        {
            a.ToTable("arrivals").HasKey(r => r.Id);
            a.HasIndex(r => r.CodeHash);
            a.HasIndex(r => new { r.Order, r.At });
        });
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
        modelBuilder.Entity<RequestRow>().ToTable("requests").HasKey(r => r.Key);
        modelBuilder.Entity<PersonRow>().ToTable("people").HasKey(r => r.Id);
        modelBuilder.Entity<AccountRow>(a =>
        {
            a.ToTable("accounts").HasKey(r => r.Person);
            a.HasIndex(r => r.Badge).IsUnique();
        });
        modelBuilder.Entity<NoticeRow>(n =>
        {
            n.ToTable("notices").HasKey(r => r.Position);
            n.HasIndex(r => new { r.Person, r.Position });
            n.HasIndex(r => r.At, "unmailed").HasFilter("\"MailedAt\" IS NULL AND \"ReadAt\" IS NULL");
        });
        modelBuilder.Entity<ReaderRow>(r =>
        {
            r.ToTable("readers").HasKey(x => x.Name);
            r.HasData(new ReaderRow { Name = "traces" }, new ReaderRow { Name = "rows" });
        });
        modelBuilder.Entity<StoreTaskRow>(t =>
        {
            t.ToTable("store_tasks").HasKey(r => r.Id);
            t.HasIndex(r => new { r.Kind, r.BeganAt });
        });
        modelBuilder.Entity<InstanceRow>().ToTable("instances").HasKey(r => r.Id);
        modelBuilder.Entity<InvoiceRow>(i =>
        {
            i.ToTable("invoices").HasKey(r => r.Number);
            i.Property(r => r.Number).ValueGeneratedNever();
            i.HasIndex(r => r.Order);
        });
        modelBuilder.Entity<DayHeadRow>().ToTable("day_heads").HasKey(r => r.Day);
        modelBuilder.Entity<DoorKeyRow>().ToTable("door_keys").HasKey(r => r.Id);
        modelBuilder.Entity<TermRow>().ToTable("terms").HasKey(r => r.Term);
        modelBuilder.Entity<WebhookRow>().ToTable("webhooks").HasKey(r => r.Id);
        modelBuilder.Entity<WebhookMessageRow>(m =>
        {
            m.ToTable("webhook_messages").HasKey(r => r.Position);
            m.Property(r => r.Id).IsRequired();
            m.HasIndex(r => r.Id).IsUnique();
            m.HasIndex(r => new
            {
                r.Webhook,
                r.State,
                r.NextAt,
            });
        });
        modelBuilder.Entity<TabletRow>(t =>
        {
            t.ToTable("tablets").HasKey(r => r.Id);
            t.HasIndex(r => r.Hash).IsUnique();
        });
        modelBuilder.Entity<SessionRow>(s =>
        {
            s.ToTable("sessions").HasKey(r => r.Id);
            s.HasIndex(r => r.Hash).IsUnique();
            s.HasIndex(r => r.Person);
        });
        modelBuilder.Entity<SetUpLinkRow>().ToTable("set_up_links").HasKey(r => r.Hash);
        modelBuilder.Entity<AuditRow>().ToTable("audit").HasKey(r => r.Position);
        modelBuilder.Entity<PartKindRow>(k =>
        {
            k.ToTable("part_kinds").HasKey(r => r.Number);
            k.HasIndex(r => r.Barcode);
        });
        modelBuilder.Entity<PartItemRow>(i =>
        {
            i.ToTable("part_items").HasKey(r => r.Id);
            i.HasIndex(r => r.Order);
            // A part may come back after it was sold, but is never here twice.
            i.HasIndex(r => new { r.Kind, r.Serial })
                .IsUnique()
                .HasFilter("\"Serial\" IS NOT NULL AND \"State\" NOT IN ('Sold', 'Returned', 'Scrapped')");
        });
        modelBuilder.Entity<DummyRow>(d =>
        {
            d.ToTable("dummies").HasKey(r => r.Name);
            d.Property(r => r.Version).IsConcurrencyToken();
        });
        modelBuilder.Entity<StockMoveRow>(m =>
        {
            m.ToTable("stock_moves").HasKey(r => r.Id);
            m.HasIndex(r => r.Item);
            m.HasIndex(r => r.Key);
        });
    }
}
