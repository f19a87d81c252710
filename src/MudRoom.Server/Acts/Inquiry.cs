using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Server.Acts;

/// <summary>One person's question at one site: who, where, when, and what to read from.</summary>
/// <param name="Http">The request.</param>
/// <param name="Site">The site of the address, which the person may work at.</param>
/// <param name="Person">Who looks.</param>
/// <param name="SetUp">The set-up.</param>
/// <param name="Now">The instant.</param>
public sealed record Inquiry(HttpContext Http, WarehouseSite Site, Person Person, SetUp SetUp, DateTimeOffset Now)
{
    MudRoomDb? db;

    /// <summary>For reading only, all of one instant; nothing is tracked. Opened when it is first asked for: an act never asks.</summary>
    public MudRoomDb Db => db ??= OpenForReading();

    /// <summary>What happened, whole up to now: asked first it reads the same instant as the rest, asked later one of its own.</summary>
    public async Task<History> History()
    {
        await Http.RequestServices.GetRequiredService<WriteDesk>().CatchUp();
        if (db is null)
            return new History(Db);
        var later = await Http.RequestServices.GetRequiredService<IDbContextFactory<MudRoomDb>>().CreateDbContextAsync();
        Http.Response.RegisterForDisposeAsync(later);
        later.ChangeTracker.QueryTrackingBehavior = QueryTrackingBehavior.NoTrackingWithIdentityResolution;
        return new History(later);
    }

    /// <summary>What standings mean at the site.</summary>
    public SiteStandings Standings => SetUp.Standings[Site.Id];

    /// <summary>How the site counts goods in.</summary>
    public DoorSettings DoorSettings => SetUp.DoorSettings[Site.Id].Value;

    /// <summary>How the site plans its days.</summary>
    public PlanSettings PlanSettings => SetUp.PlanSettings[Site.Id].Value;

    /// <summary>How the site decides over nonconforming goods.</summary>
    public CageSettings CageSettings => SetUp.CageSettings[Site.Id].Value;

    /// <summary>The date at the site.</summary>
    public DateOnly Today => Site.DateAt(Now);

    /// <summary>What was scanned or typed, read as everywhere at the site.</summary>
    public ScannedCode Scan(string? typed) => Site.Scan(typed ?? "", Now);

    /// <summary>True when nothing that carries or implies what is expected may be sent.</summary>
    public bool IsBlind => BlindCount.Applies(DoorSettings, Person.Roles);

    /// <summary>True when the person may do what the right names.</summary>
    public bool May(Right right) => Rights.Allow(Person.Roles, right);

    MudRoomDb OpenForReading()
    {
        var reading = Http.RequestServices.GetRequiredService<MudRoomDb>();
        reading.ChangeTracker.QueryTrackingBehavior = QueryTrackingBehavior.NoTrackingWithIdentityResolution;
        Database.ReadOneInstant(reading);
        return reading;
    }

    /// <summary>The wall clock at the site.</summary>
    public DateTime Local(DateTimeOffset at) => Site.LocalTime(at);

    /// <summary>Hands the inquiry that the site's guard has made to an endpoint.</summary>
    public static ValueTask<Inquiry> BindAsync(HttpContext http) =>
        ValueTask.FromResult(
            (Inquiry)(http.Items[typeof(Inquiry)] ?? throw new InvalidOperationException("The endpoint stands outside the sites."))
        );
}
