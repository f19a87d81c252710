using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>What a check of the book found.</summary>
/// <param name="Entries">Entries read.</param>
/// <param name="Head">The chain's head.</param>
/// <param name="Faults">What does not hold, in sentences; empty when all does.</param>
public sealed record CheckReport(long Entries, ChainHead Head, IReadOnlyList<string> Faults);

/// <summary>Verifies the chain of the ledger and that balances equal what its movements come to.</summary>
public static class BookCheck
{
    const int MostFaults = 100;

    /// <summary>Reads the whole ledger once, in order.</summary>
    /// <param name="db">The database.</param>
    /// <param name="exported">A head exported earlier: the chain must still pass through it, or it was rewritten whole.</param>
    public static async Task<CheckReport> Run(MudRoomDb db, ChainHead? exported)
    {
        var faults = new List<string>();
        var accounts = new Accounts();
        var head = ChainHead.Start;
        await foreach (var entry in db.Ledger.AsNoTracking().OrderBy(e => e.Seq).AsAsyncEnumerable())
        {
            if (faults.Count < MostFaults && Chain.Fault(head, entry) is { } fault) faults.Add(fault);
            if (exported is not null && entry.Seq == exported.Seq && entry.Hash != exported.Hash)
                faults.Add($"Entry {entry.Seq} is not the one that was exported: the chain was rewritten.");
            if (entry.Movement is { } movement) accounts.Apply(movement);
            head = entry.Head;
        }

        if (exported is not null && exported.Seq > head.Seq)
            faults.Add($"The exported head is entry {exported.Seq}; the ledger ends at {head.Seq}: its end was cut off.");
        faults.AddRange(await BalanceFaults(db, accounts));
        faults.AddRange(await TransitFaults(db, accounts));
        return new CheckReport(head.Seq, head, [.. faults.Take(MostFaults)]);
    }

    static async Task<IEnumerable<string>> TransitFaults(MudRoomDb db, Accounts accounts)
    {
        var aboard = (await db.ManifestLines.AsNoTracking().Where(m => m.InTransit > 0).Select(m => new { m.Part!.ItemId, m.InTransit }).ToListAsync())
            .GroupBy(m => m.ItemId).ToDictionary(g => g.Key, g => g.Sum(m => m.InTransit));
        return accounts.InTransit.Keys.Union(aboard.Keys).Where(item => accounts.InTransit.GetValueOrDefault(item) != aboard.GetValueOrDefault(item))
            .Select(item => $"In transit of item {item}: the manifests come to {aboard.GetValueOrDefault(item)}, the ledger to {accounts.InTransit.GetValueOrDefault(item)}.");
    }

    static async Task<List<string>> BalanceFaults(MudRoomDb db, Accounts accounts)
    {
        var faults = new List<string>();
        var computed = new Dictionary<string, decimal>(accounts.Balances);
        await foreach (var balance in db.Balances.AsNoTracking().AsAsyncEnumerable())
        {
            var should = computed.GetValueOrDefault(balance.Key);
            if (balance.Quantity != should) faults.Add($"Balance {balance.Key} is {balance.Quantity}; the ledger comes to {should}.");
            computed.Remove(balance.Key);
        }

        faults.AddRange(computed.Select(c => $"Balance {c.Key} is missing; the ledger comes to {c.Value}."));
        faults.AddRange(accounts.Balances.Where(b => b.Value < 0).Select(b => $"The ledger brings {b.Key} to {b.Value}, below 0."));
        return faults;
    }
}
