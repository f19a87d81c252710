using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>
/// Finds entries of the ledger from what they are about: by the key of the references, however long the ledger is. They are written behind
/// the entries: an act sees them all, an inquiry once the desk has caught up.
/// </summary>
public sealed class History(MudRoomDb db)
{
    /// <summary>All that are about one thing, of whatever site.</summary>
    public IQueryable<LedgerEntry> About(Reference thing) =>
        db.EntryReferences.Where(r => r.Kind == thing.Kind && r.Id == thing.Id).Join(db.Ledger, r => r.Seq, e => e.Seq, (r, e) => e);

    /// <summary>All that are about any of some things of a kind, of whatever site; one that is about several of them comes several
    /// times.</summary>
    public IQueryable<LedgerEntry> AboutAny(ReferenceKind kind, IReadOnlyCollection<string> ids) =>
        db.EntryReferences.Where(r => r.Kind == kind && ids.Contains(r.Id)).Join(db.Ledger, r => r.Seq, e => e.Seq, (r, e) => e);

    /// <summary>How some things of a kind are written in the book, in whatever letters.</summary>
    /// <param name="keys">In capitals.</param>
    public IQueryable<string> Spellings(ReferenceKind kind, IReadOnlyCollection<string> keys) =>
        db.EntryReferences.Where(r => r.Kind == kind && keys.Contains(r.Id.ToUpper())).Select(r => r.Id).Distinct();

    /// <summary>The newest that are about any of some things, each once: work in proportion to how many are wanted.</summary>
    /// <param name="siteId">Of this site.</param>
    /// <param name="before">Older than this entry; null for the newest of all.</param>
    /// <param name="items">Only of these items, where that is asked; null for any.</param>
    public async Task<IReadOnlyList<LedgerEntry>> Newest(
        int siteId,
        IReadOnlyCollection<Reference> things,
        int most,
        long? before,
        IReadOnlyList<int>? items = null
    )
    {
        if (things.Count == 0)
            return [];
        var last = before ?? long.MaxValue;
        IQueryable<long> Of(Reference thing)
        {
            var found = db
                .EntryReferences.Where(r => r.Kind == thing.Kind && r.Id == thing.Id && r.Seq < last)
                .Join(db.Ledger, r => r.Seq, e => e.Seq, (r, e) => new { r.Seq, Entry = e })
                .Where(x => x.Entry.SiteId == siteId);
            if (items is not null)
                found = found.Where(x => x.Entry.ItemId != null && items.Contains(x.Entry.ItemId.Value));
            return found.OrderByDescending(x => x.Seq).Select(x => x.Seq).Take(most);
        }

        var seqs = await things.Select(Of).Aggregate((all, more) => all.Union(more)).OrderByDescending(s => s).Take(most).ToListAsync();
        return await db.Ledger.Where(e => seqs.Contains(e.Seq)).OrderByDescending(e => e.Seq).ToListAsync();
    }

    /// <summary>The newest of a site.</summary>
    public async Task<IReadOnlyList<LedgerEntry>> Newest(int siteId, int most, long? before) =>
        await db
            .Ledger.Where(e => e.SiteId == siteId && (before == null || e.Seq < before))
            .OrderByDescending(e => e.Seq)
            .Take(most)
            .ToListAsync();
}
