using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Data.Rooms;

sealed class DoorMap
    : IEntityTypeConfiguration<TallyEntry>,
        IEntityTypeConfiguration<TallyQuestion>,
        IEntityTypeConfiguration<Receipt>,
        IEntityTypeConfiguration<Discrepancy>,
        IEntityTypeConfiguration<SecondCount>,
        IEntityTypeConfiguration<PrintJob>,
        IEntityTypeConfiguration<NumberBlock>,
        IEntityTypeConfiguration<VendorReturn>,
        IEntityTypeConfiguration<OutworkNote>
{
    public void Configure(EntityTypeBuilder<TallyEntry> entry)
    {
        entry.HasIndex(e => new { e.ArrivalId, e.At });
        entry.HasIndex(e => e.ActId);
        entry.HasIndex(e => e.ReceiptId).HasFilter("\"ReceiptId\" IS NOT NULL");
        entry.HasOne<Arrival>().WithMany().HasForeignKey(e => e.ArrivalId);
        entry.HasOne<Item>().WithMany().HasForeignKey(e => e.ItemId);
    }

    public void Configure(EntityTypeBuilder<TallyQuestion> question)
    {
        question.HasIndex(q => new
        {
            q.SiteId,
            q.IsOpen,
            q.AskedAt,
        });
        question.HasIndex(q => q.ArrivalId);
        question.HasOne<Arrival>().WithMany().HasForeignKey(q => q.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<Receipt> receipt)
    {
        receipt.HasIndex(r => new { r.SiteId, r.Number }).IsUnique();
        receipt.HasIndex(r => new { r.SiteId, r.PostedAt });
        receipt.HasIndex(r => new { r.VendorId, r.DeliveryNote });
        receipt.HasOne<Arrival>().WithMany().HasForeignKey(r => r.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<Discrepancy> discrepancy)
    {
        discrepancy.HasIndex(d => d.ArrivalId);
        discrepancy.HasIndex(d => d.ActId);
        discrepancy.HasOne<Arrival>().WithMany().HasForeignKey(d => d.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<SecondCount> second)
    {
        second.HasIndex(s => s.ArrivalId);
        second.HasOne<Arrival>().WithMany().HasForeignKey(s => s.ArrivalId);
    }

    public void Configure(EntityTypeBuilder<PrintJob> job)
    {
        job.HasIndex(j => new { j.SiteId, j.State });
        job.Property(j => j.Code).AsJson();
        job.Property(j => j.Lines).AsJson();
    }

    public void Configure(EntityTypeBuilder<NumberBlock> block) =>
        block.HasIndex(b => new
        {
            b.SiteId,
            b.Kind,
            b.Device,
        });

    public void Configure(EntityTypeBuilder<VendorReturn> back)
    {
        back.HasIndex(r => new { r.SiteId, r.Number }).IsUnique();
        back.HasIndex(r => r.ReceiptId);
        back.Ignore(r => r.Consequence);
        back.HasOne<Receipt>().WithMany().HasForeignKey(r => r.ReceiptId);
    }

    public void Configure(EntityTypeBuilder<OutworkNote> note)
    {
        note.HasIndex(n => new { n.SiteId, n.Number }).IsUnique();
        note.HasIndex(n => new { n.SiteId, n.IsOpen });
        note.Ignore(n => n.Out);
        note.HasOne<Item>().WithMany().HasForeignKey(n => n.ItemId);
    }
}
