using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Out;

namespace MudRoom.Data.Rooms;

sealed class OutMap : IEntityTypeConfiguration<OutMessage>
{
    public void Configure(EntityTypeBuilder<OutMessage> message)
    {
        message.Property(m => m.Id).ValueGeneratedNever();
        message.HasIndex(m => new { m.SiteId, m.At });
        message.HasIndex(m => new
        {
            m.SiteId,
            m.State,
            m.At,
        });
        message.HasIndex(m => new
        {
            m.State,
            m.NextTry,
            m.At,
        });
        message.HasIndex(m => m.Subject);
    }
}
