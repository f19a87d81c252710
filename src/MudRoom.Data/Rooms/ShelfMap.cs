using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class ShelfMap : IEntityTypeConfiguration<StoreTask>, IEntityTypeConfiguration<BinRefusal>
{
    public void Configure(EntityTypeBuilder<BinRefusal> refusal)
    {
        refusal.HasIndex(r => new
        {
            r.SiteId,
            r.Day,
            r.ItemId,
        });
        refusal.HasOne<Bin>().WithMany().HasForeignKey(r => r.BinId);
    }

    public void Configure(EntityTypeBuilder<StoreTask> task)
    {
        task.Ignore(t => t.Goods).Ignore(t => t.At);
        task.Property(t => t.Trail).AsJson();
        task.HasIndex(t => new { t.SiteId, t.State });
        task.HasIndex(t => new { t.Key, t.State });
        task.HasIndex(t => new { t.TargetBinId, t.State });
        task.HasOne<Item>().WithMany().HasForeignKey(t => t.ItemId);
    }
}
