using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class RoadMap
    : IEntityTypeConfiguration<Order>,
        IEntityTypeConfiguration<OrderLine>,
        IEntityTypeConfiguration<LinePart>,
        IEntityTypeConfiguration<Arrival>,
        IEntityTypeConfiguration<ManifestLine>,
        IEntityTypeConfiguration<EtaChange>,
        IEntityTypeConfiguration<Attachment>,
        IEntityTypeConfiguration<OrderChange>,
        IEntityTypeConfiguration<Promise>,
        IEntityTypeConfiguration<DespatchAdvice>,
        IEntityTypeConfiguration<AdvisedUnit>,
        IEntityTypeConfiguration<AdviceDifference>,
        IEntityTypeConfiguration<ImportedFile>,
        IEntityTypeConfiguration<StagedImport>
{
    public void Configure(EntityTypeBuilder<StagedImport> import)
    {
        import.Ignore(i => i.IsOfSetUp);
        import.HasIndex(i => i.State);
        import.HasIndex(i => i.ActId);
    }

    public void Configure(EntityTypeBuilder<Order> order)
    {
        order.HasIndex(o => o.Number).IsUnique();
        order.Ignore(o => o.IsOpen);
        order.Property(o => o.Approvals).AsJson();
        order.Property(o => o.Cancellation).AsJson();
        order.HasIndex(o => new { o.OrderDate, o.Number });
        order.HasOne<Vendor>().WithMany().HasForeignKey(o => o.VendorId);
        order.HasMany(o => o.Lines).WithOne(l => l.Order).HasForeignKey(l => l.OrderId);
    }

    public void Configure(EntityTypeBuilder<OrderLine> line)
    {
        line.HasIndex(l => new { l.OrderId, l.Number }).IsUnique();
        line.HasOne<Item>().WithMany().HasForeignKey(l => l.ItemId);
        line.Property(l => l.Return).AsJson();
        line.HasMany(l => l.Parts).WithOne(p => p.Line).HasForeignKey(p => p.LineId);
    }

    public void Configure(EntityTypeBuilder<LinePart> part)
    {
        part.Ignore(p => p.Open);
        part.Property(p => p.IsOpen);
        // With the import at their end, so that leaving a hidden one out needs no look at the rows.
        part.HasIndex(p => new
        {
            p.SiteId,
            p.IsOpen,
            p.Due,
            p.Coming,
            p.ImportId,
        });
        part.HasIndex(p => new
        {
            p.SiteId,
            p.IsOpen,
            p.VendorId,
            p.Due,
            p.Coming,
            p.ImportId,
        });
        part.HasIndex(p => new { p.ItemId, p.IsOpen });
    }

    public void Configure(EntityTypeBuilder<Arrival> arrival)
    {
        arrival.HasIndex(a => new { a.SiteId, a.Number }).IsUnique();
        arrival.HasIndex(a => new
        {
            a.SiteId,
            a.State,
            a.Planned,
        });
        arrival.HasIndex(a => a.DoorId);
        arrival.HasIndex(a => new { a.SiteId, a.Planned });
        arrival.HasIndex(a => a.Number);
        arrival.HasIndex(a => a.ContainerNumber).HasFilter("\"ContainerNumber\" IS NOT NULL");
        arrival.Property(a => a.Papers).AsJson();
        arrival.Property(a => a.Before).AsJson();
        arrival.Property(a => a.Crew).AsJson();
        arrival.Property(a => a.DeliveryNotes).AsJson();
        arrival.Property(a => a.Overrulings).AsJson();
        arrival.HasOne<WarehouseSite>().WithMany().HasForeignKey(a => a.SiteId);
        arrival.HasMany(a => a.Manifest).WithOne().HasForeignKey(m => m.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<ManifestLine> line)
    {
        line.HasIndex(m => new { m.ArrivalId, m.PartId }).IsUnique();
        line.Ignore(m => m.StillAboard);
        line.HasIndex(m => m.InTransit).HasFilter("\"InTransit\" > 0");
        line.HasOne(m => m.Part).WithMany().HasForeignKey(m => m.PartId);
    }

    public void Configure(EntityTypeBuilder<EtaChange> change)
    {
        change.HasIndex(c => c.ArrivalId);
        change.HasOne<Arrival>().WithMany().HasForeignKey(c => c.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<Attachment> attachment)
    {
        attachment.HasIndex(a => a.ArrivalId);
        attachment.HasIndex(a => a.ActId);
        attachment.HasIndex(a => a.HoldId);
        attachment.HasOne<Hold>().WithMany().HasForeignKey(a => a.HoldId);
        attachment.HasOne<Arrival>().WithMany().HasForeignKey(a => a.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<OrderChange> change)
    {
        change.HasIndex(c => c.OrderId);
        change.HasOne<Order>().WithMany().HasForeignKey(c => c.OrderId);
    }

    public void Configure(EntityTypeBuilder<Promise> promise)
    {
        promise.HasIndex(p => p.PartId);
        promise.HasOne<LinePart>().WithMany().HasForeignKey(p => p.PartId);
    }

    public void Configure(EntityTypeBuilder<DespatchAdvice> advice)
    {
        advice.HasIndex(d => d.ArrivalId);
        advice.HasIndex(d => new { d.Number, d.VendorId });
        advice.HasOne<Arrival>().WithMany().HasForeignKey(d => d.ArrivalId);
        advice.HasOne<Vendor>().WithMany().HasForeignKey(d => d.VendorId);
    }

    public void Configure(EntityTypeBuilder<AdvisedUnit> unit)
    {
        unit.HasIndex(u => u.AdviceId);
        unit.HasIndex(u => u.ArrivalId);
        unit.HasIndex(u => u.Sscc);
        unit.HasIndex(u => new { u.ItemId, u.Serial }).HasFilter("Serial IS NOT NULL");
        unit.HasOne<Arrival>().WithMany().HasForeignKey(u => u.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<AdviceDifference> difference)
    {
        difference.HasIndex(d => d.ArrivalId);
        difference.HasOne<Arrival>().WithMany().HasForeignKey(d => d.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<ImportedFile> file) => file.HasIndex(f => f.Hash).IsUnique();
}
