using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class BenchMap : IEntityTypeConfiguration<InspectionPlan>, IEntityTypeConfiguration<Inspection>, IEntityTypeConfiguration<Finding>
{
    public void Configure(EntityTypeBuilder<InspectionPlan> plan) =>
        plan.OwnsMany(
            p => p.Characteristics,
            c =>
            {
                c.ToTable("Characteristics").HasKey(x => x.Id);
                c.Ignore(x => x.IsMeasured);
            }
        );

    public void Configure(EntityTypeBuilder<Inspection> inspection)
    {
        inspection.HasIndex(i => new { i.SiteId, i.Number }).IsUnique();
        inspection.HasIndex(i => new { i.SiteId, i.State });
        inspection.HasIndex(i => new
        {
            i.ArrivalId,
            i.ItemId,
            i.BatchId,
        });
        inspection.Property(i => i.Sample).AsJson();
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
}
