using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Yard;

namespace MudRoom.Data.Rooms;

sealed class YardMap : IEntityTypeConfiguration<YardSpot>
{
    public void Configure(EntityTypeBuilder<YardSpot> spot) => spot.HasIndex(s => new { s.SiteId, s.Number }).IsUnique();
}
