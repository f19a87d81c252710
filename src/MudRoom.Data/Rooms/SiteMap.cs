using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class SiteMap
    : IEntityTypeConfiguration<WarehouseSite>,
        IEntityTypeConfiguration<Person>,
        IEntityTypeConfiguration<Vendor>,
        IEntityTypeConfiguration<Item>,
        IEntityTypeConfiguration<Bin>,
        IEntityTypeConfiguration<DockDoor>,
        IEntityTypeConfiguration<DoneAct>,
        IEntityTypeConfiguration<Note>,
        IEntityTypeConfiguration<RoomSettings>,
        IEntityTypeConfiguration<RosterEntry>,
        IEntityTypeConfiguration<ItemPicture>
{
    public void Configure(EntityTypeBuilder<WarehouseSite> site)
    {
        site.HasIndex(s => s.Code).IsUnique();
        site.Property(s => s.LastNumbers).AsJson();
        site.Property(s => s.Scanner).AsJson();
    }

    public void Configure(EntityTypeBuilder<Person> person)
    {
        person.HasIndex(p => p.SignInName).IsUnique();
        person.Property(p => p.Skills).AsJson();
    }

    public void Configure(EntityTypeBuilder<RoomSettings> settings)
    {
        settings.HasKey(s => new
        {
            s.SiteId,
            s.Room,
            s.Version,
        });
        settings.HasOne<WarehouseSite>().WithMany().HasForeignKey(s => s.SiteId);
    }

    public void Configure(EntityTypeBuilder<RosterEntry> entry)
    {
        entry
            .HasIndex(e => new
            {
                e.SiteId,
                e.Day,
                e.PersonId,
            })
            .IsUnique();
        entry.HasOne<Person>().WithMany().HasForeignKey(e => e.PersonId);
    }

    public void Configure(EntityTypeBuilder<ItemPicture> picture)
    {
        picture.HasKey(p => p.ItemId);
        picture.Property(p => p.ItemId).ValueGeneratedNever();
        picture.HasOne<Item>().WithOne().HasForeignKey<ItemPicture>(p => p.ItemId);
    }

    public void Configure(EntityTypeBuilder<Vendor> vendor) => vendor.HasIndex(v => v.Code).IsUnique();

    public void Configure(EntityTypeBuilder<Item> item)
    {
        item.HasIndex(i => i.Code).IsUnique();
        item.Property(i => i.Attributes).AsJson();
        item.Property(i => i.Marks).AsJson();
        item.HasOne<InspectionPlan>().WithMany().HasForeignKey(i => i.InspectionPlanId);
        item.OwnsMany(
            i => i.PackLevels,
            pack =>
            {
                pack.ToTable("PackLevels").HasKey(p => p.Id);
                pack.HasIndex(p => p.Gtin);
                pack.Property(p => p.OtherCodes).AsJson();
                pack.Ignore(p => p.IsMeasure);
            }
        );
        item.OwnsMany(
            i => i.VendorCodes,
            code =>
            {
                code.ToTable("VendorCodes").HasKey(c => c.Id);
                code.HasIndex(c => c.Code);
                code.HasOne<Vendor>().WithMany().HasForeignKey(c => c.VendorId);
            }
        );
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
