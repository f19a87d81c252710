using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>Writes the ledger and the balances beside it: the only way stock is ever changed.</summary>
public sealed class StockBook(MudRoomDb db, ChainHead head, InHand inHand)
{
    static readonly Func<MudRoomDb, string, Balance?> balanceByKey = EF.CompileQuery(
        (MudRoomDb db, string key) => db.Balances.IgnoreQueryFilters().FirstOrDefault(b => b.Key == key)
    );

    static readonly Func<MudRoomDb, string, Balance?> untrackedByKey = EF.CompileQuery(
        (MudRoomDb db, string key) => db.Balances.IgnoreQueryFilters().AsNoTracking().FirstOrDefault(b => b.Key == key)
    );

    readonly Dictionary<string, Balance> touched = [];

    /// <summary>Those among them that are kept in hand: EF does not know them.</summary>
    readonly HashSet<Balance> fromHand = new(ReferenceEqualityComparer.Instance);
    readonly List<LedgerEntry> written = [];

    /// <summary>The entries written so far, in order; the write desk appends them.</summary>
    public IReadOnlyList<LedgerEntry> Written => written;

    /// <summary>The chain's head after what was written so far.</summary>
    public ChainHead Head { get; private set; } = head;

    /// <summary>The import that new balances belong to: they are hidden until it is whole. 0 for none.</summary>
    public int Import { get; set; }

    /// <summary>True where a balance of these goods at this place is there and not of the import that is being written.</summary>
    public bool IsSeen(Goods goods, Place place) =>
        Find(Balance.KeyOf(goods, place)) is { } balance && (Import == 0 || balance.ImportId != Import);

    /// <summary>Of goods of which nobody has said the lot, those that stand at a place: the oldest lots first, up to a quantity.</summary>
    /// <param name="among">Only these lots; null for any.</param>
    /// <returns>Fewer where no more is there.</returns>
    public async Task<IReadOnlyList<(Goods Goods, decimal Quantity)>> Oldest(
        Goods goods,
        Place place,
        decimal quantity,
        IReadOnlyList<int>? among = null
    )
    {
        var stored = await db
            .Balances.IgnoreQueryFilters()
            .Where(b =>
                b.BinId == place.BinId
                && b.Standing == place.Standing
                && b.ItemId == goods.ItemId
                && b.BatchId == goods.BatchId
                && b.UnitId == goods.UnitId
                && b.Serial == goods.Serial
            )
            .ToListAsync();
        var all = stored.Concat(touched.Values.Where(b => b.Place == place && b.Goods.OfAnyLot == goods.OfAnyLot)).DistinctBy(b => b.Key);
        var oldest = all.Where(b => (goods.LotId is null || b.LotId == goods.LotId) && (among is null || among.Contains(b.LotId ?? 0)))
            .OrderBy(b => b.LotId);
        return [.. Portions.Of(oldest, b => b.Quantity, quantity).Select(p => (p.Row.Goods, p.Takes))];
    }

    /// <summary>How much of some lots stands at a place, in base units.</summary>
    public async Task<decimal> QuantityOf(Goods goods, Place place, IReadOnlyList<int> among) =>
        (await Oldest(goods, place, decimal.MaxValue, among)).Sum(p => p.Quantity);

    /// <summary>What an entry is about, as the rows by which it is found.</summary>
    /// <param name="bins">By address, for entries from before they named their bins.</param>
    public static IEnumerable<EntryReference> RowsOf(
        LedgerEntry entry,
        IReadOnlyDictionary<(int SiteId, string Address), int>? bins = null
    ) =>
        References
            .Of(entry, address => bins is not null && bins.TryGetValue((entry.SiteId, address), out var id) ? id : null)
            .Select(r => new EntryReference
            {
                Kind = r.Kind,
                Id = r.Id,
                Seq = entry.Seq,
                Derived = entry.HashVersion < 3,
            });

    /// <summary>Writes one entry, and moves the stock when it has a movement.</summary>
    /// <exception cref="InvalidOperationException">The movement moves nothing.</exception>
    public LedgerEntry Write(int siteId, Doer doer, Fact fact, Movement? movement = null, long? undoes = null)
    {
        if (movement is { Quantity: <= 0 })
            throw new InvalidOperationException($"{fact.Subject}: a movement of {movement.Quantity} moves nothing.");
        if (movement is not null)
        {
            // What becomes another lot where it stands has stood there as long as before.
            var since = movement.IsInPlace ? Find(Balance.KeyOf(movement.Goods, movement.From))?.Since ?? doer.At : doer.At;
            Move(siteId, movement.Goods, movement.From, -movement.Quantity, doer.At);
            Move(siteId, movement.Arriving, movement.To, movement.Quantity, since);
        }

        var entry = new LedgerEntry(Head, siteId, doer, fact, movement, undoes);
        written.Add(entry);
        Head = entry.Head;
        return entry;
    }

    /// <summary>Drops balances that came to nothing. Before saving.</summary>
    public void Sweep()
    {
        foreach (var balance in touched.Values.Where(b => b.Quantity == 0))
            db.Balances.Remove(balance);
    }

    void Move(int siteId, Goods goods, Place place, decimal by, DateTimeOffset at)
    {
        if (!place.IsInside)
            return;
        var key = Balance.KeyOf(goods, place);
        var balance = Find(key);
        if (balance is null)
        {
            balance = new Balance(siteId, goods, place, Import);
            touched[key] = balance;
            db.Balances.Add(balance);
        }
        else if (fromHand.Contains(balance))
        {
            inHand.Change(balance);
        }

        balance.Change(by, at);
    }

    Balance? Find(string key)
    {
        if (touched.TryGetValue(key, out var known))
            return known;
        var isFromHand = inHand.Stays;
        var found = isFromHand ? inHand.Get(key, () => untrackedByKey(db, key)) : balanceByKey(db, key);
        if (found is null)
            return null;
        if (isFromHand)
            fromHand.Add(found);
        return touched[key] = found;
    }
}
