using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class BenchMap
    : IEntityTypeConfiguration<InspectionPlan>,
        IEntityTypeConfiguration<PlanVersion>,
        IEntityTypeConfiguration<InspectionRule>,
        IEntityTypeConfiguration<Gauge>,
        IEntityTypeConfiguration<Inspection>,
        IEntityTypeConfiguration<Finding>,
        IEntityTypeConfiguration<BenchPicture>,
        IEntityTypeConfiguration<SeverityRow>
{
    public void Configure(EntityTypeBuilder<InspectionPlan> plan)
    {
        plan.Ignore(p => p.Draft);
        plan.Ignore(p => p.SamplingUnit);
        plan.HasIndex(p => p.Name).IsUnique();
        plan.HasMany(p => p.Versions).WithOne().HasForeignKey(v => v.PlanId);
    }

    public void Configure(EntityTypeBuilder<PlanVersion> version)
    {
        version.ToTable("PlanVersions");
        version.Ignore(v => v.Content);
        version.Ignore(v => v.Hash);
        version.HasIndex(v => new { v.PlanId, v.Number }).IsUnique();
    }

    public void Configure(EntityTypeBuilder<InspectionRule> rule)
    {
        rule.ToTable("InspectionRules");
        rule.Ignore(r => r.IsOpen);
        rule.Ignore(r => r.Nearness);
        rule.Ignore(r => r.DaysFault);
        rule.HasIndex(r => r.EndedAt);
        rule.HasOne<InspectionPlan>().WithMany().HasForeignKey(r => r.PlanId);
        rule.HasOne<Item>().WithMany().HasForeignKey(r => r.ItemId);
        rule.HasOne<Vendor>().WithMany().HasForeignKey(r => r.VendorId);
    }

    public void Configure(EntityTypeBuilder<Gauge> gauge)
    {
        gauge.ToTable("Gauges");
        gauge.Property(g => g.Name).UseCollation("NOCASE");
        gauge.HasIndex(g => new { g.SiteId, g.Name }).IsUnique();
        gauge.HasOne<WarehouseSite>().WithMany().HasForeignKey(g => g.SiteId);
    }

    public void Configure(EntityTypeBuilder<Inspection> inspection)
    {
        // A sheet is taken back once.
        inspection.HasIndex(i => i.SupersedesId).IsUnique();
        inspection.HasOne<Inspection>().WithMany().HasForeignKey(i => i.SupersedesId);
        inspection.HasOne<InspectionRule>().WithMany().HasForeignKey(i => i.RuleId);
        inspection.Property(i => i.Cleared).AsJson();
        inspection.Property(i => i.Notes).AsJson();
        inspection.Property(i => i.Pieces).AsJson();
        inspection.Property(i => i.Pictures).AsJson();
        inspection.Property(i => i.SampleWent).AsJson();
        inspection.HasOne<Bin>().WithMany().HasForeignKey(i => i.SampleBinId);
        inspection.HasIndex(i => new { i.SiteId, i.Number }).IsUnique();
        inspection.HasIndex(i => new { i.SiteId, i.State });
        // The lots of a vendor, of which severity and its usual quality are asked.
        inspection.HasIndex(i => new
        {
            i.SiteId,
            i.ItemId,
            i.VendorId,
            i.SignedAt,
        });
        inspection.HasIndex(i => new { i.SiteId, i.SignedAt });
        inspection.HasIndex(i => new
        {
            i.ArrivalId,
            i.ItemId,
            i.BatchId,
        });
        inspection.Property(i => i.Sample).AsJson();
        inspection.Property(i => i.Outcomes).AsJson();
        inspection.Property(i => i.Values).AsJson();
        inspection.Property(i => i.Signatures).AsJson();
        inspection.Ignore(i => i.WaitsForSecond);
        inspection.Ignore(i => i.Asks);
        inspection.HasOne<InspectionPlan>().WithMany().HasForeignKey(i => i.PlanId);
        inspection.HasOne<Item>().WithMany().HasForeignKey(i => i.ItemId);
        inspection.HasMany(i => i.Findings).WithOne().HasForeignKey(f => f.InspectionId);
    }

    public void Configure(EntityTypeBuilder<Finding> finding)
    {
        finding
            .HasIndex(f => new
            {
                f.InspectionId,
                f.Piece,
                f.CharacteristicId,
            })
            .IsUnique();
        finding.Property(f => f.Before).AsJson();
    }

    public void Configure(EntityTypeBuilder<BenchPicture> picture)
    {
        picture.ToTable("BenchPictures");
        picture.HasIndex(p => p.InspectionId);
        picture.HasOne<WarehouseSite>().WithMany().HasForeignKey(p => p.SiteId);
        picture.HasOne<Inspection>().WithMany().HasForeignKey(p => p.InspectionId);
    }

    public void Configure(EntityTypeBuilder<SeverityRow> word)
    {
        word.ToTable("SeverityWords");
        word.HasIndex(w => new
        {
            w.SiteId,
            w.ItemId,
            w.VendorId,
        });
        word.HasOne<WarehouseSite>().WithMany().HasForeignKey(w => w.SiteId);
        word.HasOne<Item>().WithMany().HasForeignKey(w => w.ItemId);
        word.HasOne<Vendor>().WithMany().HasForeignKey(w => w.VendorId);
    }
}
