using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class BookMap
    : IEntityTypeConfiguration<LedgerEntry>,
        IEntityTypeConfiguration<EntryReference>,
        IEntityTypeConfiguration<Balance>,
        IEntityTypeConfiguration<SourceBatch>,
        IEntityTypeConfiguration<Batch>,
        IEntityTypeConfiguration<LogisticUnit>,
        IEntityTypeConfiguration<Lot>,
        IEntityTypeConfiguration<Statement>,
        IEntityTypeConfiguration<Reservation>,
        IEntityTypeConfiguration<StandingDefinition>
{
    public void Configure(EntityTypeBuilder<LedgerEntry> entry)
    {
        entry.HasKey(e => e.Seq);
        entry.Property(e => e.Seq).ValueGeneratedNever();
        entry.Ignore(e => e.Movement).Ignore(e => e.Head).Ignore(e => e.Named);
        entry.HasIndex(e => new { e.SiteId, e.At });
        entry.HasIndex(e => e.Undoes).HasFilter("\"Undoes\" IS NOT NULL");
    }

    /// <summary>The key is the order in which it is asked, and in SQLite all there is of the table (WITHOUT ROWID, in its
    /// migration).</summary>
    public void Configure(EntityTypeBuilder<EntryReference> reference) =>
        reference.HasKey(r => new
        {
            r.Kind,
            r.Id,
            r.Seq,
        });

    public void Configure(EntityTypeBuilder<Balance> balance)
    {
        balance.Ignore(b => b.Goods).Ignore(b => b.Place);
        balance.HasIndex(b => b.Key).IsUnique();
        balance.HasIndex(b => new { b.SiteId, b.ItemId });
        balance.HasIndex(b => b.BinId);
        balance.HasIndex(b => b.BatchId);
        balance.HasIndex(b => b.UnitId);
        balance.HasIndex(b => b.Serial);
        balance.HasIndex(b => b.LotId);
        balance.HasOne<Bin>().WithMany().HasForeignKey(b => b.BinId);
        balance.HasOne<Item>().WithMany().HasForeignKey(b => b.ItemId);
        balance.HasOne<Batch>().WithMany().HasForeignKey(b => b.BatchId);
        balance.HasOne<LogisticUnit>().WithMany().HasForeignKey(b => b.UnitId);
        balance.HasOne<Lot>().WithMany().HasForeignKey(b => b.LotId);
    }

    public void Configure(EntityTypeBuilder<SourceBatch> batch)
    {
        batch.Ignore(b => b.ProductionAsKnown);
        batch.Property(b => b.Attributes).AsJson();
        batch
            .HasIndex(b => new
            {
                b.ItemId,
                b.VendorId,
                b.Number,
            })
            .IsUnique();
        batch.HasIndex(b => b.Number);
        batch.HasIndex(b => b.VendorId);
        batch.HasOne<Item>().WithMany().HasForeignKey(b => b.ItemId);
    }

    public void Configure(EntityTypeBuilder<Batch> batch)
    {
        batch.HasIndex(b => new { b.ItemId, b.Number }).IsUnique();
        batch.HasIndex(b => b.Number);
        batch.HasOne(b => b.SourceBatch).WithMany().HasForeignKey(b => b.SourceBatchId);
        batch.HasOne<Item>().WithMany().HasForeignKey(b => b.ItemId);
    }

    public void Configure(EntityTypeBuilder<LogisticUnit> unit) => unit.HasIndex(u => u.Sscc).IsUnique();

    public void Configure(EntityTypeBuilder<Lot> lot)
    {
        lot.HasIndex(l => l.CountKey);
        lot.HasIndex(l => l.ArrivalId);
        lot.HasIndex(l => l.ReceiptId);
        lot.HasIndex(l => new { l.SiteId, l.OpenedAt });
        lot.HasIndex(l => l.ParentId).HasFilter("\"ParentId\" IS NOT NULL");
        lot.HasOne<Item>().WithMany().HasForeignKey(l => l.ItemId);
        lot.HasOne<Batch>().WithMany().HasForeignKey(l => l.BatchId);
    }

    public void Configure(EntityTypeBuilder<Statement> statement)
    {
        statement.Ignore(s => s.IsOpen);
        statement.HasIndex(s => s.LotId);
        statement.HasIndex(s => s.HoldId);
        statement.HasIndex(s => s.InspectionId);
        statement.HasIndex(s => s.ReservationId).HasFilter("\"ReservationId\" IS NOT NULL");
        statement.HasIndex(s => s.SettledBy).HasFilter("\"SettledBy\" IS NOT NULL");
        statement.HasIndex(s => new { s.SiteId, s.Asks }).HasFilter("\"SettledAt\" IS NULL");
        statement.HasOne<Lot>().WithMany().HasForeignKey(s => s.LotId);
    }

    public void Configure(EntityTypeBuilder<Reservation> reservation)
    {
        reservation.HasIndex(r => new { r.PartId, r.For }).IsUnique();
        reservation.HasOne<LinePart>().WithMany().HasForeignKey(r => r.PartId);
    }

    public void Configure(EntityTypeBuilder<StandingDefinition> standing)
    {
        standing.ToTable("Standings");
        standing.Ignore(s => s.Seen).Ignore(s => s.IsBuiltIn).Ignore(s => s.IsFetched).Ignore(s => s.PlaceWords);
        standing.HasIndex(s => new { s.SiteId, s.Standing }).IsUnique();
        standing.Property(s => s.Places).AsJson();
        standing.HasOne<WarehouseSite>().WithMany().HasForeignKey(s => s.SiteId);
    }
}
