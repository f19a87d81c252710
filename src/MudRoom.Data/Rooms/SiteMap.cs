using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Bench;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;

namespace MudRoom.Data.Rooms;

sealed class SiteMap : IEntityTypeConfiguration<WarehouseSite>, IEntityTypeConfiguration<Person>, IEntityTypeConfiguration<Vendor>,
    IEntityTypeConfiguration<Item>, IEntityTypeConfiguration<Bin>, IEntityTypeConfiguration<DockDoor>, IEntityTypeConfiguration<DoneAct>,
    IEntityTypeConfiguration<Note>, IEntityTypeConfiguration<RosterEntry>, IEntityTypeConfiguration<YardSpot>, IEntityTypeConfiguration<ItemPicture>
{
    public void Configure(EntityTypeBuilder<WarehouseSite> site)
    {
        site.HasIndex(s => s.Code).IsUnique();
        site.Property(s => s.LastNumbers).AsJson();
        site.Property(s => s.Planning).AsJson();
        site.Property(s => s.Door).AsJson();
    }

    public void Configure(EntityTypeBuilder<Person> person)
    {
        person.HasIndex(p => p.SignInName).IsUnique();
        person.Property(p => p.Skills).AsJson();
    }

    public void Configure(EntityTypeBuilder<RosterEntry> entry)
    {
        entry.HasIndex(e => new { e.SiteId, e.Day, e.PersonId }).IsUnique();
        entry.HasOne<Person>().WithMany().HasForeignKey(e => e.PersonId);
    }

    public void Configure(EntityTypeBuilder<ItemPicture> picture)
    {
        picture.HasKey(p => p.ItemId);
        picture.Property(p => p.ItemId).ValueGeneratedNever();
        picture.HasOne<Item>().WithOne().HasForeignKey<ItemPicture>(p => p.ItemId);
    }

    public void Configure(EntityTypeBuilder<YardSpot> spot) => spot.HasIndex(s => new { s.SiteId, s.Number }).IsUnique();

    public void Configure(EntityTypeBuilder<Vendor> vendor) => vendor.HasIndex(v => v.Code).IsUnique();

    public void Configure(EntityTypeBuilder<Item> item)
    {
        item.HasIndex(i => i.Code).IsUnique();
        item.Property(i => i.Attributes).AsJson();
        item.Property(i => i.Marks).AsJson();
        item.HasOne<InspectionPlan>().WithMany().HasForeignKey(i => i.InspectionPlanId);
        item.OwnsMany(i => i.PackLevels, pack =>
        {
            pack.ToTable("PackLevels").HasKey(p => p.Id);
            pack.HasIndex(p => p.Gtin);
            pack.Property(p => p.OtherCodes).AsJson();
            pack.Ignore(p => p.IsMeasure);
        });
        item.OwnsMany(i => i.VendorCodes, code =>
        {
            code.ToTable("VendorCodes").HasKey(c => c.Id);
            code.HasIndex(c => c.Code);
            code.HasOne<Vendor>().WithMany().HasForeignKey(c => c.VendorId);
        });
    }

    public void Configure(EntityTypeBuilder<Bin> bin)
    {
        bin.HasIndex(b => new { b.SiteId, b.Address }).IsUnique();
        bin.HasOne<WarehouseSite>().WithMany().HasForeignKey(b => b.SiteId);
        bin.HasOne<DockDoor>().WithMany().HasForeignKey(b => b.DoorId);
    }

    public void Configure(EntityTypeBuilder<DockDoor> door)
    {
        door.HasIndex(d => new { d.SiteId, d.Number }).IsUnique();
        door.HasOne<WarehouseSite>().WithMany().HasForeignKey(d => d.SiteId);
    }

    public void Configure(EntityTypeBuilder<DoneAct> act) => act.Property(a => a.Id).ValueGeneratedNever();

    public void Configure(EntityTypeBuilder<Note> note) => note.HasKey(n => n.Name);
}

sealed class BenchMap : IEntityTypeConfiguration<InspectionPlan>, IEntityTypeConfiguration<Inspection>, IEntityTypeConfiguration<Finding>
{
    public void Configure(EntityTypeBuilder<InspectionPlan> plan) => plan.OwnsMany(p => p.Characteristics, c =>
    {
        c.ToTable("Characteristics").HasKey(x => x.Id);
        c.Ignore(x => x.IsMeasured);
    });

    public void Configure(EntityTypeBuilder<Inspection> inspection)
    {
        inspection.HasIndex(i => new { i.SiteId, i.Number }).IsUnique();
        inspection.HasIndex(i => new { i.SiteId, i.State });
        inspection.HasIndex(i => new { i.ArrivalId, i.ItemId, i.BatchId });
        inspection.Property(i => i.Sample).AsJson();
        inspection.HasOne<InspectionPlan>().WithMany().HasForeignKey(i => i.PlanId);
        inspection.HasOne<Item>().WithMany().HasForeignKey(i => i.ItemId);
        inspection.HasMany(i => i.Findings).WithOne().HasForeignKey(f => f.InspectionId);
    }

    public void Configure(EntityTypeBuilder<Finding> finding)
    {
        finding.HasIndex(f => new { f.InspectionId, f.Piece, f.CharacteristicId }).IsUnique();
        finding.Property(f => f.Before).AsJson();
    }
}

sealed class CageMap : IEntityTypeConfiguration<Hold>
{
    public void Configure(EntityTypeBuilder<Hold> hold)
    {
        hold.HasIndex(h => new { h.SiteId, h.Number }).IsUnique();
        hold.HasIndex(h => new { h.SiteId, h.IsOpen });
        hold.HasIndex(h => new { h.ItemId, h.BatchId });
        hold.Property(h => h.Times).AsJson();
        hold.Ignore(h => h.CountsOf).Ignore(h => h.MayBeDecided);
        hold.HasOne<Item>().WithMany().HasForeignKey(h => h.ItemId);
    }
}
