using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;

namespace MudRoom.Data;

/// <summary>What a check of the book found.</summary>
/// <param name="Entries">Entries read.</param>
/// <param name="Head">The chain's head.</param>
/// <param name="Faults">What does not hold, in sentences; empty when all does.</param>
/// <param name="Notices">What is no fault by itself and should be known: a clock that ran backwards.</param>
public sealed record CheckReport(long Entries, ChainHead Head, IReadOnlyList<string> Faults, IReadOnlyList<string> Notices);

/// <summary>
/// Verifies the chain of the ledger; that every column of the balances equals what its movements come to; that what is held and what waits
/// for
/// inspection add up; and that every signed sheet is as it was signed. All of it at one instant, while the server writes.
/// </summary>
public static class BookCheck
{
    const int MostFaults = 100;

    /// <summary>Reads the whole ledger once, in order.</summary>
    /// <param name="db">The database.</param>
    /// <param name="exported">A head exported earlier: the chain must still pass through it, or it was rewritten whole.</param>
    public static async Task<CheckReport> Run(MudRoomDb db, ChainHead? exported)
    {
        // One read transaction, deferred so that it never asks for the writer's place: what is written meanwhile is not half seen.
        await db.Database.OpenConnectionAsync();
        await using var instant = ((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true);
        await db.Database.UseTransactionAsync(instant);
        List<string> faults = [],
            notices = [];
        var accounts = new Accounts();
        var bins = await ReferencesFromBefore.BinsByAddress(db);
        var (named, kept) = (new Mark(), new Mark());
        var writtenUpTo = await db.Database.SqlQueryRaw<long>($"SELECT ({ReferencesBehind.WrittenUpTo}) AS \"Value\"").SingleAsync();
        var head = ChainHead.Start;
        DateTimeOffset? last = null;
        await foreach (var entry in db.Ledger.IgnoreQueryFilters().AsNoTracking().OrderBy(e => e.Seq).AsAsyncEnumerable())
        {
            if (faults.Count < MostFaults && Chain.Fault(head, entry) is { } fault)
                faults.Add(fault);
            if (exported is not null && entry.Seq == exported.Seq && entry.Hash != exported.Hash)
                faults.Add($"Entry {entry.Seq} is not the one that was exported: the chain was rewritten.");
            if (entry.At < last && notices.Count < MostFaults)
                notices.Add(
                    $"Time ran backwards: entry {entry.Seq} is of {entry.At:yyyy-MM-dd HH:mm:ss} UTC, the one before it of "
                        + $"{last:yyyy-MM-dd HH:mm:ss} UTC."
                );
            last = entry.At;
            if (entry.Seq <= writtenUpTo)
                foreach (var row in StockBook.RowsOf(entry, bins))
                    named.Add(row);
            if (entry.Movement is { } movement)
                accounts.Apply(movement, entry.At);
            head = entry.Head;
        }

        if (exported is not null && exported.Seq > head.Seq)
            faults.Add($"The exported head is entry {exported.Seq}; the ledger ends at {head.Seq}: its end was cut off.");
        await foreach (var row in db.EntryReferences.AsNoTracking().AsAsyncEnumerable())
            kept.Add(row);
        if (!named.Equals(kept))
            faults.Add(
                $"The entries name {named.Count} things, and are found from {kept.Count}: some are not found from what they are about, or "
                    + "from what they are not."
            );
        faults.AddRange(await BalanceFaults(db, accounts));
        faults.AddRange(await TransitFaults(db, accounts));
        faults.AddRange(await SaidFaults(db));
        faults.AddRange(await SheetFaults(db));
        faults.AddRange(await WaitingTasks.Faults(db));
        await db.Database.UseTransactionAsync(null);
        return new CheckReport(head.Seq, head, [.. faults.Take(MostFaults)], notices);
    }

    static async Task<IEnumerable<string>> TransitFaults(MudRoomDb db, Accounts accounts)
    {
        var aboard = (
            await db.ManifestLines.AsNoTracking().Where(m => m.InTransit > 0).Select(m => new { m.Part!.ItemId, m.InTransit }).ToListAsync()
        )
            .GroupBy(m => m.ItemId)
            .ToDictionary(g => g.Key, g => g.Sum(m => m.InTransit));
        return accounts
            .InTransit.Keys.Union(aboard.Keys)
            .Where(item => accounts.InTransit.GetValueOrDefault(item) != aboard.GetValueOrDefault(item))
            .Select(item =>
                $"In transit of item {item}: the manifests come to {aboard.GetValueOrDefault(item)}, the ledger to "
                + $"{accounts.InTransit.GetValueOrDefault(item)}."
            );
    }

    /// <summary>Goods, place, site, standing, quantity, since and key: each column against the ledger.</summary>
    static async Task<List<string>> BalanceFaults(MudRoomDb db, Accounts accounts)
    {
        var faults = new List<string>();
        var standings = await StandingRows.Load(db);
        var computed = accounts.Balances.ToDictionary(c => (c.Goods, c.Place));
        var siteOf = await db.Bins.AsNoTracking().ToDictionaryAsync(b => b.Id, b => b.SiteId);
        await foreach (var balance in db.Balances.IgnoreQueryFilters().AsNoTracking().AsAsyncEnumerable())
        {
            computed.Remove((balance.Goods, balance.Place), out var should);
            var words = Of(balance.Goods, balance.Place);
            if (balance.Quantity != (should?.Quantity ?? 0))
                faults.Add($"{words} is {balance.Quantity}; the ledger comes to {should?.Quantity ?? 0}.");
            else if (should is not null && balance.Since != should.Since)
                faults.Add($"{words} says since {balance.Since:O}; by the ledger it is {should.Since:O}.");
            if (balance.Key != Balance.KeyOf(balance.Goods, balance.Place))
                faults.Add($"{words} has the key of another: {balance.Key}.");
            if (siteOf.GetValueOrDefault(balance.BinId) != balance.SiteId)
                faults.Add($"{words} is kept under site {balance.SiteId}, its bin is of site {siteOf.GetValueOrDefault(balance.BinId)}.");
        }

        faults.AddRange(
            computed.Values.Where(c => c.Quantity > 0).Select(c => $"{Of(c.Goods, c.Place)} is missing; the ledger comes to {c.Quantity}.")
        );
        faults.AddRange(
            accounts.Balances.Where(b => b.Quantity < 0).Select(b => $"The ledger brings {Of(b.Goods, b.Place)} to {b.Quantity}, below 0.")
        );
        return faults;

        string Of(Goods goods, Place place) =>
            Words(goods, place, standings.GetValueOrDefault(siteOf.GetValueOrDefault(place.BinId!.Value)) ?? SiteStandings.BuiltIn);
    }

    static string Words(Goods goods, Place place, SiteStandings standings) =>
        $"The balance of item {goods.ItemId}"
        + (goods.BatchId is { } b ? $", batch {b}" : "")
        + (goods.UnitId is { } u ? $", unit {u}" : "")
        + (goods.Serial is { } s ? $", serial {s}" : "")
        + (goods.LotId is { } l ? $", lot {l}" : "")
        + $" in bin {place.BinId}, {standings.Word(place.Standing!.Value)},";

    /// <summary>Each balance has a lot of the same goods and the standing that follows from what is said of it; open holds and inspections
    /// speak for what there is of their lots, settled ones for nothing; and each line of a manifest has counted what its live counts
    /// come to.</summary>
    static async Task<List<string>> SaidFaults(MudRoomDb db)
    {
        var faults = new List<string>();
        var said = (await db.Statements.AsNoTracking().Where(s => s.SettledAt == null).ToListAsync()).ToLookup(s => s.LotId);
        var lots = await db
            .Lots.AsNoTracking()
            .Select(l => new
            {
                l.Id,
                l.ItemId,
                l.BatchId,
                l.SiteId,
            })
            .ToDictionaryAsync(l => l.Id);
        var standings = await StandingRows.Load(db);
        var there = new Dictionary<int, decimal>();
        await foreach (var balance in db.Balances.IgnoreQueryFilters().AsNoTracking().AsAsyncEnumerable())
        {
            var of = standings[balance.SiteId];
            var words = Words(balance.Goods, balance.Place, of);
            if (balance.LotId is not { } id || !lots.TryGetValue(id, out var lot))
            {
                faults.Add($"{words} has no lot.");
                continue;
            }

            there[id] = there.GetValueOrDefault(id) + balance.Quantity;
            if ((lot.ItemId, lot.BatchId, lot.SiteId) != (balance.ItemId, balance.BatchId, balance.SiteId))
                faults.Add($"{words} is of lot {id}, which is of other goods.");
            if (Statements.StandingOf(said[id], of) is var standing && standing != balance.Standing)
                faults.Add($"{words} is {of.Word(balance.Standing)}; by what is said of lot {id} it is {of.Word(standing)}.");
        }

        var byHold = said.SelectMany(s => s).Where(s => s.HoldId is not null).ToLookup(s => s.HoldId!.Value, s => s.LotId);
        var byInspection = said.SelectMany(s => s)
            .Where(s => s.InspectionId is not null)
            .ToLookup(s => s.InspectionId!.Value, s => s.LotId);
        decimal Of(IEnumerable<int> ids) => ids.Distinct().Sum(id => there.GetValueOrDefault(id));
        await foreach (var hold in db.Holds.AsNoTracking().AsAsyncEnumerable())
            if (!hold.IsOpen && byHold.Contains(hold.Id))
                faults.Add($"{hold.Number} is lifted, and still said of {byHold[hold.Id].Count()} lots.");
            else if (hold.IsOpen && Of(byHold[hold.Id]) is var held && held != hold.Quantity)
                faults.Add($"{hold.Number} holds {hold.Quantity}; its lots have {held}.");
        await foreach (var inspection in db.Inspections.AsNoTracking().AsAsyncEnumerable())
            if (inspection.State == InspectionState.Signed && byInspection.Contains(inspection.Id))
                faults.Add($"{inspection.Number} is signed, and still said of {byInspection[inspection.Id].Count()} lots.");
            else if (
                inspection.State is InspectionState.Waiting or InspectionState.Drawn
                && Of(byInspection[inspection.Id]) is var waits
                && waits != inspection.Quantity
            )
                faults.Add($"{inspection.Number} speaks for {inspection.Quantity}; its lots have {waits}.");

        var counted = (
            await db
                .TallyEntries.AsNoTracking()
                .Where(e => e.TakenBackAt == null && e.PartId != null)
                .Select(e => new
                {
                    e.ArrivalId,
                    PartId = e.PartId!.Value,
                    e.Quantity,
                })
                .ToListAsync()
        ).GroupBy(e => (e.ArrivalId, e.PartId)).ToDictionary(g => g.Key, g => g.Sum(e => e.Quantity));
        faults.AddRange(
            from line in await db
                .ManifestLines.IgnoreQueryFilters()
                .AsNoTracking()
                .Where(m => m.Counted > 0)
                .Select(m => new
                {
                    m.ArrivalId,
                    m.PartId,
                    m.Counted,
                })
                .ToListAsync()
            let live = counted.GetValueOrDefault((line.ArrivalId, line.PartId))
            where live != line.Counted
            select $"Line part {line.PartId} of arrival {line.ArrivalId} has counted {line.Counted}; its counts come to {live}."
        );
        return faults;
    }

    static async Task<List<string>> SheetFaults(MudRoomDb db)
    {
        var plans = await db.InspectionPlans.AsNoTracking().Include(p => p.Versions).ToDictionaryAsync(p => p.Id);
        var faults = new List<string>();
        await foreach (
            var sheet in db
                .Inspections.AsNoTracking()
                .Where(i => i.State == InspectionState.Signed)
                .Include(i => i.Findings)
                .OrderBy(i => i.Id)
                .AsAsyncEnumerable()
        )
            if (!plans.TryGetValue(sheet.PlanId, out var plan))
                faults.Add($"The plan that sheet {sheet.Number} was signed by is gone.");
            else if (!Sheets.IsWhole(sheet, plan.Name, plan[sheet.PlanVersion]))
                faults.Add($"Sheet {sheet.Number} was changed after {sheet.SignedBy} signed it: its hash does not fit its content.");
        return faults;
    }

    /// <summary>A set of references as their number and the sum of their hashes, so that two sets of any size are compared in any
    /// order.</summary>
    struct Mark : IEquatable<Mark>
    {
        ulong sum;

        public long Count { get; private set; }

        public void Add(EntryReference row)
        {
            var text = $"{(int)row.Kind}|{row.Id}|{row.Seq}|{row.Derived}";
            sum = unchecked(
                sum + BitConverter.ToUInt64(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(text)))
            );
            Count++;
        }

        public readonly bool Equals(Mark other) => (sum, Count) == (other.sum, other.Count);

        public override readonly bool Equals(object? obj) => obj is Mark other && Equals(other);

        public override readonly int GetHashCode() => HashCode.Combine(sum, Count);
    }
}
