using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Server.Acts;

/// <summary>What an act answers that only says what it did.</summary>
public sealed record DoneAnswer(string Sentence);

/// <summary>Something a person does: all it reads and writes lies in one transaction with its ledger entries.</summary>
public sealed class Act(WriteScope scope, string siteCode, Person person, SetUp asked, DateTimeOffset now, string device, Guid id)
{
    WarehouseSite? siteRow;

    public MudRoomDb Db { get; } = scope.Db;
    public StockBook Book { get; } = scope.Book;

    /// <summary>What happened, with what this act and those before it in its group have written.</summary>
    public History History => new(Db);

    /// <summary>What stands in every bin, before this act.</summary>
    public StorePicture Store { get; } = scope.Store;

    /// <summary>The findings of the sheets that were written on last.</summary>
    public SheetsRead Sheets { get; } = scope.Sheets;

    /// <summary>What acts of this kind keep in hand between them.</summary>
    public InHand InHand { get; } = scope.InHand;

    /// <summary>Appends a row that nothing tracks.</summary>
    public void Append(object row) => scope.Append(row);

    public Person Person { get; } = person;
    public SetUp SetUp { get; private set; } = asked;
    public DateTimeOffset Now { get; } = now;

    /// <summary>The site as it is in the set-up; for reading.</summary>
    public WarehouseSite Site { get; } = asked.Sites[siteCode];

    /// <summary>Who, when, where: for the ledger.</summary>
    public Doer Doer { get; } = new(now, person.Id, person.Name, device, id);
    public DateOnly Today => Site.DateAt(Now);

    /// <summary>What standings mean at the site.</summary>
    public SiteStandings Standings => SetUp.Standings[Site.Id];

    /// <summary>What was scanned or typed, read as everywhere at the site.</summary>
    public ScannedCode Scan(string? typed) => Site.Scan(typed ?? "", Now);

    /// <summary>What others are told has changed once it is durable: "arrival:A-2617", "shelf".</summary>
    public HashSet<string> Touched { get; } = [];

    /// <summary>The parts of the set-up that were changed and must be read anew.</summary>
    public SetUpParts SetUpChanged { get; private set; }

    /// <summary>The act has changed a part of the set-up.</summary>
    public void Changes(SetUpParts parts) => SetUpChanged |= parts;

    /// <summary>How the site counts goods in.</summary>
    public DoorSettings DoorSettings => SetUp.DoorSettings[Site.Id].Value;

    /// <summary>How the site plans its days.</summary>
    public PlanSettings PlanSettings => SetUp.PlanSettings[Site.Id].Value;

    /// <summary>How the site decides over nonconforming goods.</summary>
    public CageSettings CageSettings => SetUp.CageSettings[Site.Id].Value;

    /// <summary>True where stock that was brought in slice by slice, and hidden, is seen from this act on.</summary>
    public bool ShowsStock { get; set; }

    /// <summary>The act has changed the set-up and goes on with it as it is now.</summary>
    public async Task RenewSetUp(SetUpParts parts)
    {
        Changes(parts);
        await Db.SaveChangesAsync();
        SetUp = await SetUp.Load(Db, SetUp, parts);
    }

    /// <summary>Accounts whose sessions end with this act, by person, with their new security stamp.</summary>
    public Dictionary<int, string> EndedSessions { get; } = [];

    /// <summary>Ends every session of an account, at once when the act is durable.</summary>
    public void EndSessions(SignInAccount account) => EndedSessions[account.Id] = account.SecurityStamp = Guid.NewGuid().ToString("N");

    public bool May(Right right) => Rights.Allow(Person.Roles, right);

    /// <summary>The site's own row, to take numbers from.</summary>
    public async Task<WarehouseSite> SiteRow() => siteRow ??= await Db.Sites.FirstAsync(s => s.Id == Site.Id);

    /// <summary>The next number of a kind at this site.</summary>
    public async Task<string> Number(string letter) => (await SiteRow()).TakeNumber(letter);

    /// <summary>The next number of an arrival: unique in the house, over all its sites.</summary>
    public async Task<string> ArrivalNumber() => WarehouseSite.TakeHouseNumber("A", await SiteRow(), await Db.Sites.ToListAsync());

    /// <summary>Writes a ledger entry.</summary>
    public LedgerEntry Write(Fact fact, Movement? movement = null, long? undoes = null) =>
        Book.Write(Site.Id, Doer, fact, movement, undoes);

    /// <summary>What happened, in words as the site reads them.</summary>
    public string Words(Fact fact) => fact.Words(Site.Wording);

    /// <summary>Moves goods of which nobody has said the lot: the oldest first, an entry for each. The caller has looked whether so much is
    /// there.</summary>
    /// <param name="fact">What happened, by how much it happened to.</param>
    /// <param name="among">Only these lots; null for any.</param>
    public async Task<IReadOnlyList<LedgerEntry>> Move(
        Func<decimal, Fact> fact,
        Goods goods,
        decimal quantity,
        Place from,
        Place to,
        IReadOnlyList<int>? among = null
    )
    {
        var parts = await Book.Oldest(goods, from, quantity, among);
        if (parts.Sum(p => p.Quantity) != quantity)
            throw new InvalidOperationException($"{quantity} of item {goods.ItemId} cannot leave bin {from.BinId}: so much is not there.");
        return [.. parts.Select(p => Write(fact(p.Quantity), new Movement(p.Goods, p.Quantity, from, to)))];
    }

    /// <summary>Says what has changed.</summary>
    public void Touch(params string[] topics) => Touched.UnionWith(topics);
}
