using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class ShelfMap : IEntityTypeConfiguration<PutAwayJob>, IEntityTypeConfiguration<BinRefusal>
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

    public void Configure(EntityTypeBuilder<PutAwayJob> job)
    {
        job.Ignore(j => j.Goods);
        job.Property(j => j.Trail).AsJson();
        job.HasIndex(j => new { j.SiteId, j.State });
        job.HasIndex(j => new { j.TargetBinId, j.State });
        job.HasOne<Item>().WithMany().HasForeignKey(j => j.ItemId);
    }
}
