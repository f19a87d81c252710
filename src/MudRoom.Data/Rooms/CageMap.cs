using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class CageMap : IEntityTypeConfiguration<Hold>, IEntityTypeConfiguration<HoldRule>, IEntityTypeConfiguration<Recall>
{
    public void Configure(EntityTypeBuilder<Recall> recall)
    {
        recall.Ignore(r => r.IsOpen).Ignore(r => r.Holds).Ignore(r => r.StillMissing);
        recall.HasIndex(r => r.Number).IsUnique();
        recall.HasIndex(r => r.EndedAt);
        recall.Property(r => r.Scope).AsJson();
        recall.Property(r => r.Wants).AsJson();
        recall.Property(r => r.Missing).AsJson();
        recall.Property(r => r.Seen).AsJson();
        recall.Property(r => r.Told).AsJson();
    }

    public void Configure(EntityTypeBuilder<HoldRule> rule)
    {
        rule.Ignore(r => r.Season).Ignore(r => r.IsOpen).Ignore(r => r.IsEmpty).Ignore(r => r.Fault);
        rule.Property(r => r.Besides).AsJson();
        rule.HasIndex(r => r.EndedAt);
        rule.HasOne<OrderLine>().WithMany().HasForeignKey(r => r.OrderLineId);
    }

    public void Configure(EntityTypeBuilder<Hold> hold)
    {
        hold.HasIndex(h => new { h.SiteId, h.Number }).IsUnique();
        hold.HasIndex(h => new { h.SiteId, h.IsOpen });
        hold.HasIndex(h => h.UsableUntil).HasFilter("\"UsableUntil\" IS NOT NULL");
        hold.HasIndex(h => new { h.ItemId, h.BatchId });
        hold.Property(h => h.Times).AsJson();
        hold.Property(h => h.Besides).AsJson();
        hold.Property(h => h.Decision).AsJson();
        hold.Ignore(h => h.Asks).Ignore(h => h.MayBeDecided).Ignore(h => h.IsWanting).Ignore(h => h.WantsAcceptance);
        hold.Ignore(h => h.IsLifted).Ignore(h => h.IsUnderConcession).Ignore(h => h.ReasonWord);
        hold.Property(h => h.Found).AsJson();
        hold.HasIndex(h => h.OrderLineId).HasFilter("\"OrderLineId\" IS NOT NULL");
        hold.HasOne<OrderLine>().WithMany().HasForeignKey(h => h.OrderLineId);
        hold.HasIndex(h => h.RecallId).HasFilter("\"RecallId\" IS NOT NULL");
        hold.HasOne<Recall>().WithMany().HasForeignKey(h => h.RecallId);
        hold.HasOne<Item>().WithMany().HasForeignKey(h => h.ItemId);
    }
}
