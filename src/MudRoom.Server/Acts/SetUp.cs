using System.Collections.Concurrent;
using System.Collections.Frozen;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Server.Acts;

/// <summary>What changes seldom and is needed everywhere: an immutable picture of the set-up.</summary>
public sealed class SetUp
{
    SetUp() { }

    public required Catalogue Catalogue { get; init; }
    public required FrozenDictionary<string, WarehouseSite> Sites { get; init; }
    public required FrozenDictionary<int, Person> People { get; init; }
    public required FrozenDictionary<int, Vendor> Vendors { get; init; }
    public required FrozenDictionary<int, Bin> Bins { get; init; }
    public required FrozenDictionary<(int SiteId, string Address), Bin> BinsByAddress { get; init; }
    public required FrozenDictionary<int, IReadOnlyList<Bin>> BinsOfSite { get; init; }
    public required FrozenDictionary<int, DockDoor> Doors { get; init; }
    public required FrozenDictionary<int, IReadOnlyList<Bin>> StagingOfDoor { get; init; }
    public required FrozenDictionary<int, InspectionPlan> Plans { get; init; }
    public required IReadOnlyList<HoldRule> HoldRules { get; init; }

    /// <summary>What standings mean, by site.</summary>
    public required FrozenDictionary<int, SiteStandings> Standings { get; init; }

    /// <summary>True when a bin of any site has this address.</summary>
    public bool HasAddress(string address) => Sites.Values.Any(s => BinsByAddress.ContainsKey((s.Id, address.ToUpperInvariant())));

    /// <summary>A bin's address, for showing.</summary>
    public string Address(int? binId) => binId is { } id && Bins.TryGetValue(id, out var bin) ? bin.Address : "";

    /// <summary>The staging places of a door, in order of their addresses.</summary>
    public IReadOnlyList<Bin> StagingOf(DockDoor door) => StagingOfDoor.GetValueOrDefault(door.Id) ?? [];

    /// <summary>Reads the picture.</summary>
    public static async Task<SetUp> Load(MudRoomDb db)
    {
        var sites = await db.Sites.AsNoTracking().ToListAsync();
        var bins = await db.Bins.AsNoTracking().ToListAsync();
        var bySite = bins.ToLookup(b => b.SiteId);
        return new SetUp
        {
            Catalogue = new Catalogue(await db.Items.AsNoTracking().AsSplitQuery().ToListAsync()),
            Sites = sites.ToFrozenDictionary(s => s.Code, StringComparer.OrdinalIgnoreCase),
            People = (await db.People.AsNoTracking().ToListAsync()).ToFrozenDictionary(p => p.Id),
            Vendors = (await db.Vendors.AsNoTracking().ToListAsync()).ToFrozenDictionary(v => v.Id),
            Bins = bins.ToFrozenDictionary(b => b.Id),
            BinsByAddress = bins.ToFrozenDictionary(b => (b.SiteId, b.Address.ToUpperInvariant())),
            BinsOfSite = sites.ToFrozenDictionary(s => s.Id, s => (IReadOnlyList<Bin>)[.. bySite[s.Id]]),
            Doors = (await db.Doors.AsNoTracking().ToListAsync()).ToFrozenDictionary(d => d.Id),
            StagingOfDoor = bins.Where(b => b is { Function: BinFunction.Staging, DoorId: not null })
                .GroupBy(b => b.DoorId!.Value)
                .ToFrozenDictionary(g => g.Key, g => (IReadOnlyList<Bin>)[.. g.OrderBy(b => b.Address, StringComparer.Ordinal)]),
            Plans = (await db.InspectionPlans.AsNoTracking().ToListAsync()).ToFrozenDictionary(p => p.Id),
            HoldRules = await db.HoldRules.AsNoTracking().ToListAsync(),
            Standings = await StandingRows.Load(db),
        };
    }
}

/// <summary>Keeps the picture until the set-up changes.</summary>
public sealed class SetUpStore(IDbContextFactory<MudRoomDb> contexts) : IDisposable
{
    readonly SemaphoreSlim loading = new(1, 1);
    readonly ConcurrentDictionary<Guid, bool> changedAtDesk = [];
    volatile SetUp? current;
    int version;

    /// <summary>How many changes the picture has in it.</summary>
    int seen;

    /// <summary>The act for which the picture is kept as it is, while its slices are written; null when there is none.</summary>
    public Guid? KeptFor { get; private set; }

    /// <summary>The picture as it is now.</summary>
    public async ValueTask<SetUp> Current() => current ?? await Load(0);

    /// <summary>The picture for an act, asked at the write desk: with what acts before it have changed, even where that is not committed
    /// and not read anew for everybody yet.</summary>
    /// <param name="db">Of the one writer.</param>
    public async ValueTask<SetUp> For(MudRoomDb db)
    {
        if (KeptFor is not null || changedAtDesk.IsEmpty)
            return await Current();
        return await SetUp.Load(db);
    }

    /// <summary>An act that is being written has changed the set-up: those behind it at the desk see that.</summary>
    public void ChangedAtDesk(Guid act) => changedAtDesk[act] = true;

    /// <summary>What an act has changed is in the picture, or was taken back.</summary>
    public void Settled(Guid act) => changedAtDesk.TryRemove(act, out _);

    /// <summary>An act has changed the set-up: it is read anew. Who asks meanwhile gets the picture before; nobody waits but who changed
    /// it.</summary>
    /// <param name="act">The act: where the picture was kept for it, it is no longer.</param>
    /// <returns>The picture with the change.</returns>
    public async Task<SetUp> Renew(Guid act)
    {
        if (KeptFor == act)
            KeptFor = null;
        return await Load(Interlocked.Increment(ref version));
    }

    /// <summary>Forgets the picture: the next who asks reads it anew. One that is being read just now is not kept: it may be the old
    /// one.</summary>
    public void Drop()
    {
        Interlocked.Increment(ref version);
        current = null;
    }

    /// <summary>Keeps the picture as it is: what an act writes of the set-up from now on is seen when all of it is there, and no other act
    /// changes it.</summary>
    /// <param name="settled">Done when all that was being written before is there.</param>
    /// <returns>The picture that is kept.</returns>
    public async Task<SetUp> KeepFor(Guid act, Func<Task> settled)
    {
        KeptFor = act;
        await settled();
        return await Load(Interlocked.Increment(ref version));
    }

    /// <summary>It is kept no longer: the next who asks reads it anew.</summary>
    public void StopKeeping()
    {
        KeptFor = null;
        Drop();
    }

    public void Dispose() => loading.Dispose();

    /// <param name="least">Changes that must be in it.</param>
    async Task<SetUp> Load(int least)
    {
        await loading.WaitAsync();
        try
        {
            while (true)
            {
                if (current is { } there && seen >= least)
                    return there;
                var before = Volatile.Read(ref version);
                await using var db = await contexts.CreateDbContextAsync();
                var read = await SetUp.Load(db);
                if (before != Volatile.Read(ref version))
                    continue;
                (seen, current) = (before, read);
                // Dropped between the look and the keeping: what was kept goes again.
                if (before != Volatile.Read(ref version))
                    current = null;
                else
                    return read;
            }
        }
        finally
        {
            loading.Release();
        }
    }
}
