using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Out;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Server.Acts;

/// <summary>What the set-up is made of, as far as one is read without another.</summary>
[Flags]
public enum SetUpParts
{
    None = 0,
    Items = 1,
    Sites = 2,
    People = 4,
    Vendors = 8,
    Bins = 16,
    Doors = 32,
    Rules = 64,
    Standings = 128,
    Settings = 256,
    All = Items | Sites | People | Vendors | Bins | Doors | Rules | Standings | Settings,
}

/// <summary>What changes seldom and is needed everywhere: an immutable picture of the set-up.</summary>
public sealed class SetUp
{
    SetUp() { }

    BinsSeen bins = null!;

    /// <summary>How often the set-up was changed since the house was opened: told to devices, which keep what follows from it.</summary>
    public required int Version { get; init; }

    public required Catalogue Catalogue { get; init; }
    public required FrozenDictionary<string, WarehouseSite> Sites { get; init; }
    public required FrozenDictionary<int, Person> People { get; init; }
    public required FrozenDictionary<int, Vendor> Vendors { get; init; }
    public FrozenDictionary<int, Bin> Bins => bins.ById;
    public FrozenDictionary<(int SiteId, string Address), Bin> BinsByAddress => bins.ByAddress;
    public FrozenDictionary<int, IReadOnlyList<Bin>> BinsOfSite => bins.OfSite;
    public required FrozenDictionary<int, DockDoor> Doors { get; init; }
    public required FrozenDictionary<int, InspectionPlan> Plans { get; init; }
    public required IReadOnlyList<HoldRule> HoldRules { get; init; }

    /// <summary>The recalls by which goods are held as they come.</summary>
    public required IReadOnlyList<Recall> Recalls { get; init; }

    /// <summary>Which goods go by which plan: the rules in force.</summary>
    public required IReadOnlyList<InspectionRule> InspectionRules { get; init; }

    /// <summary>What standings mean, by site.</summary>
    public required FrozenDictionary<int, SiteStandings> Standings { get; init; }

    /// <summary>How each site counts goods in.</summary>
    public required FrozenDictionary<int, InForce<DoorSettings>> DoorSettings { get; init; }

    /// <summary>How each site plans its days.</summary>
    public required FrozenDictionary<int, InForce<PlanSettings>> PlanSettings { get; init; }

    /// <summary>What others are told by each site.</summary>
    public required FrozenDictionary<int, InForce<OutSettings>> OutSettings { get; init; }

    /// <summary>How each site decides over nonconforming goods.</summary>
    public required FrozenDictionary<int, InForce<CageSettings>> CageSettings { get; init; }

    /// <summary>Numbers of a site's doors.</summary>
    public IReadOnlyList<int> DoorNumbers(WarehouseSite site) =>
        [.. Doors.Values.Where(d => d.SiteId == site.Id).Select(d => d.Number).Order()];

    /// <summary>By which plans goods are inspected.</summary>
    public IReadOnlyList<PlanChosen> PlansFor(GoodsToInspect goods) => WhichPlans.For(goods, InspectionRules);

    /// <summary>Minutes that a sheet will still take, by the version it is drawn by, or would be now; null where its lot must be counted
    /// first.</summary>
    /// <param name="found">Findings so far.</param>
    public int? MinutesLeft(Inspection sheet, int found, DateTimeOffset now)
    {
        var plan = Plans[sheet.PlanId];
        var version = sheet.PlanVersion > 0 ? plan[sheet.PlanVersion] : plan.InForce(now);
        return version is null ? null : sheet.MinutesLeft(version.Content, Catalogue[sheet.ItemId], found);
    }

    /// <summary>True where goods of an item are inspected, or those of some vendors or origins are.</summary>
    public bool MayBeInspected(Item item) =>
        item.InspectionPlanId is not null || InspectionRules.Any(r => r.PlanId is not null && r.MayFit(item));

    /// <summary>True when a bin of any site has this address.</summary>
    public bool HasAddress(string address) => Sites.Values.Any(s => BinsByAddress.ContainsKey((s.Id, address.ToUpperInvariant())));

    /// <summary>A bin's address, for showing.</summary>
    public string Address(int? binId) => binId is { } id && Bins.TryGetValue(id, out var bin) ? bin.Address : "";

    /// <summary>The staging places of a door, in order of their addresses.</summary>
    public IReadOnlyList<Bin> StagingOf(DockDoor door) => bins.StagingOfDoor.GetValueOrDefault(door.Id) ?? [];

    /// <summary>Reads the picture.</summary>
    /// <param name="before">The picture before; null where there is none.</param>
    /// <param name="changed">What has changed since: only that is read anew.</param>
    public static async Task<SetUp> Load(MudRoomDb db, SetUp? before = null, SetUpParts changed = SetUpParts.All)
    {
        // What a site has is laid out by site, so that another site touches all of it.
        if (before is null || changed.HasFlag(SetUpParts.Sites))
            changed = SetUpParts.All;
        bool Is(SetUpParts part) => (changed & part) != 0;
        var sites = Is(SetUpParts.Sites) ? await db.Sites.AsNoTracking().ToListAsync() : [.. before!.Sites.Values];
        var bins = Is(SetUpParts.Bins) ? await BinsOf(db, sites) : before!.bins;
        return new SetUp
        {
            Version = await VersionIn(db),
            Catalogue = Is(SetUpParts.Items)
                ? new Catalogue(await db.Items.AsNoTracking().AsSplitQuery().ToListAsync())
                : before!.Catalogue,
            Sites = Is(SetUpParts.Sites) ? sites.ToFrozenDictionary(s => s.Code, StringComparer.OrdinalIgnoreCase) : before!.Sites,
            People = Is(SetUpParts.People) ? (await db.People.AsNoTracking().ToListAsync()).ToFrozenDictionary(p => p.Id) : before!.People,
            Vendors = Is(SetUpParts.Vendors)
                ? (await db.Vendors.AsNoTracking().ToListAsync()).ToFrozenDictionary(v => v.Id)
                : before!.Vendors,
            bins = bins,
            Doors = Is(SetUpParts.Doors) ? (await db.Doors.AsNoTracking().ToListAsync()).ToFrozenDictionary(d => d.Id) : before!.Doors,
            Plans = Is(SetUpParts.Rules)
                ? (await db.InspectionPlans.AsNoTracking().Include(p => p.Versions).ToListAsync()).ToFrozenDictionary(p => p.Id)
                : before!.Plans,
            InspectionRules = Is(SetUpParts.Rules)
                ? await db.InspectionRules.AsNoTracking().Where(r => r.EndedAt == null).OrderBy(r => r.Id).ToListAsync()
                : before!.InspectionRules,
            HoldRules = Is(SetUpParts.Rules)
                ? await db.HoldRules.AsNoTracking().Where(r => r.EndedAt == null).OrderBy(r => r.Id).ToListAsync()
                : before!.HoldRules,
            Recalls = Is(SetUpParts.Rules)
                ? await db.Recalls.AsNoTracking().Where(r => r.EndedAt == null && !r.IsDrill).OrderBy(r => r.Id).ToListAsync()
                : before!.Recalls,
            Standings = Is(SetUpParts.Standings) ? await StandingRows.Load(db) : before!.Standings,
            DoorSettings = Is(SetUpParts.Settings) ? await SettingsRows.Load<DoorSettings>(db, SettingsOf.Door) : before!.DoorSettings,
            PlanSettings = Is(SetUpParts.Settings) ? await SettingsRows.Load<PlanSettings>(db, SettingsOf.Road) : before!.PlanSettings,
            CageSettings = Is(SetUpParts.Settings) ? await SettingsRows.Load<CageSettings>(db, SettingsOf.Cage) : before!.CageSettings,
            OutSettings = Is(SetUpParts.Settings) ? await SettingsRows.Load<OutSettings>(db, SettingsOf.Out) : before!.OutSettings,
        };
    }

    /// <summary>The bins, and the ways in which they are looked for.</summary>
    sealed record BinsSeen(
        FrozenDictionary<int, Bin> ById,
        FrozenDictionary<(int SiteId, string Address), Bin> ByAddress,
        FrozenDictionary<int, IReadOnlyList<Bin>> OfSite,
        FrozenDictionary<int, IReadOnlyList<Bin>> StagingOfDoor
    );

    static async Task<BinsSeen> BinsOf(MudRoomDb db, IReadOnlyCollection<WarehouseSite> sites)
    {
        var bins = await db.Bins.AsNoTracking().ToListAsync();
        var bySite = bins.ToLookup(b => b.SiteId);
        return new BinsSeen(
            bins.ToFrozenDictionary(b => b.Id),
            bins.ToFrozenDictionary(b => (b.SiteId, b.Address.ToUpperInvariant())),
            sites.ToFrozenDictionary(s => s.Id, s => (IReadOnlyList<Bin>)[.. bySite[s.Id]]),
            bins.Where(b => b is { Function: BinFunction.Staging, DoorId: not null })
                .GroupBy(b => b.DoorId!.Value)
                .ToFrozenDictionary(g => g.Key, g => (IReadOnlyList<Bin>)[.. g.OrderBy(b => b.Address, StringComparer.Ordinal)])
        );
    }

    const string VersionNote = "set-up";

    static async Task<int> VersionIn(MudRoomDb db) =>
        await db.Notes.AsNoTracking().FirstOrDefaultAsync(n => n.Name == VersionNote) is { } note
            ? int.Parse(note.Value, CultureInfo.InvariantCulture)
            : 0;

    /// <summary>The set-up is changed by what is being written.</summary>
    public static Task CountChange(MudRoomDb db) =>
        db.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO Notes (Name, Value) VALUES ({VersionNote}, '1')
            ON CONFLICT (Name) DO UPDATE SET Value = CAST(Value AS INTEGER) + 1
            """
        );
}

/// <summary>Keeps the picture until the set-up changes; what has changed is read anew, and nothing else.</summary>
public sealed class SetUpStore(IDbContextFactory<MudRoomDb> contexts) : IDisposable
{
    readonly SemaphoreSlim loading = new(1, 1);
    readonly ConcurrentDictionary<Guid, SetUpParts> changedAtDesk = [];
    readonly Lock gate = new();

    /// <summary>Changes that are not in the picture yet, by their number.</summary>
    readonly SortedDictionary<int, SetUpParts> unread = [];
    volatile SetUp? current;

    /// <summary>The number of the last change.</summary>
    int changes;

    /// <summary>The number of the last change that is in the picture.</summary>
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
        if (changedAtDesk.IsEmpty)
            return await Current();
        // First what is changed, then the picture: a change that settles in between is read twice, and never missed.
        var parts = changedAtDesk.Values.Aggregate(SetUpParts.None, (all, part) => all | part);
        return KeptFor is not null || parts == SetUpParts.None ? await Current() : await SetUp.Load(db, current, parts);
    }

    /// <summary>An act that is being written has changed the set-up: those behind it at the desk see that.</summary>
    public void ChangedAtDesk(Guid act, SetUpParts parts) => changedAtDesk[act] = parts;

    /// <summary>What an act has changed is in the picture, or was taken back.</summary>
    public void Settled(Guid act) => changedAtDesk.TryRemove(act, out _);

    /// <summary>An act has changed the set-up: those parts are read anew. Who asks meanwhile gets the picture before; nobody waits but who
    /// changed it.</summary>
    /// <param name="act">The act: where the picture was kept for it, it is no longer.</param>
    /// <returns>The picture with the change.</returns>
    public async Task<SetUp> Renew(Guid act, SetUpParts parts)
    {
        if (KeptFor == act)
            KeptFor = null;
        return await Load(Changed(parts));
    }

    /// <summary>Forgets the picture: the next who asks reads it anew. One that is being read just now is not kept: it may be the old
    /// one.</summary>
    public void Drop()
    {
        Changed(SetUpParts.All);
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
        return await Load(Changed(SetUpParts.All));
    }

    /// <summary>It is kept no longer: the next who asks reads it anew.</summary>
    public void StopKeeping()
    {
        KeptFor = null;
        Drop();
    }

    public void Dispose() => loading.Dispose();

    /// <summary>Numbers a change.</summary>
    int Changed(SetUpParts parts)
    {
        lock (gate)
        {
            unread[++changes] = parts;
            return changes;
        }
    }

    /// <summary>The last change, and all that is not in the picture up to it.</summary>
    (int Last, SetUpParts Parts) Unread()
    {
        lock (gate)
        {
            foreach (var old in unread.Keys.TakeWhile(k => k <= seen).ToList())
                unread.Remove(old);
            return (changes, unread.Values.Aggregate(SetUpParts.None, (all, part) => all | part));
        }
    }

    /// <param name="least">The change that must be in it.</param>
    async Task<SetUp> Load(int least)
    {
        await loading.WaitAsync();
        try
        {
            while (true)
            {
                var there = current;
                if (there is not null && seen >= least)
                    return there;
                var (last, parts) = Unread();
                await using var db = await contexts.CreateDbContextAsync();
                var read = await SetUp.Load(db, there, parts);
                if (last != Volatile.Read(ref changes))
                    continue;
                (seen, current) = (last, read);
                // Dropped between the look and the keeping: what was kept goes again.
                if (last != Volatile.Read(ref changes))
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
