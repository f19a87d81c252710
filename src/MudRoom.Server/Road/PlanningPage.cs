using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>How a site plans its days: rules, hours, rates, holidays, free days.</summary>
/// <param name="Doors">Numbers of its doors.</param>
/// <param name="HorizonDays">Goods up to so many days before their due date are not early.</param>
public sealed record PlanningAnswer(PlanSettings Settings, int HorizonDays, IReadOnlyList<int> Doors, SettingsInForce InForce);

/// <summary>The settings anew, as a whole.</summary>
/// <param name="Version">That was looked at; null for whatever is in force.</param>
public sealed record PlanningRequest(PlanSettings Settings, int HorizonDays, int? Version = null);

/// <summary>Shows and changes how a site plans.</summary>
public static class PlanningPage
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/site/planning", Right.See, (Inquiry inquiry) =>
            TypedResults.Ok(
                new PlanningAnswer(
                    inquiry.PlanSettings,
                    inquiry.Site.HorizonDays,
                    inquiry.SetUp.DoorNumbers(inquiry.Site),
                    SettingsInForce.Of(inquiry.SetUp.PlanSettings[inquiry.Site.Id], inquiry.Site)
                )
            )
        );
        routes.Act<PlanningRequest, DoneAnswer>("/site/planning", Right.SetUp, Run);
    }

    public static async Task<Outcome<DoneAnswer>> Run(Act act, PlanningRequest request)
    {
        if (request.Settings is null)
            return new Refusal(HouseRefusals.SettingAbsurd, "No settings were sent.", "Load the page again.");
        if (request.Settings.Fault(act.SetUp.DoorNumbers(act.Site)) is { } fault)
            return fault;
        if (request.HorizonDays is < 0 or > 365)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                "The horizon for early goods is 0 to 365 days.",
                "Look at the number again. Nothing was kept."
            );
        var before = act.SetUp.PlanSettings[act.Site.Id];
        if (SettingsInForce.Moved(before, request.Version, act.Site) is { } moved)
            return moved;
        var site = await act.Db.Sites.AsTracking().FirstAsync(s => s.Id == act.Site.Id);
        if (site.HorizonDays != request.HorizonDays)
            act.Changes(SetUpParts.Sites);
        site.HorizonDays = request.HorizonDays;
        await SettingsRows.Keep(act.Db, act.Site.Id, SettingsOf.Road, request.Settings, act.Now, act.Person.Name);
        act.Write(
            new PlanningChanged(
                act.Site.Code,
                act.Site.Name,
                before.Version + 1,
                request.Settings.Advisory.Count,
                request.Settings.Holidays.Count
            )
        );
        act.Changes(SetUpParts.Settings);
        act.Touch("site", "road", "house");
        return new DoneAnswer("Kept. The day board goes by it from now on.");
    }
}
