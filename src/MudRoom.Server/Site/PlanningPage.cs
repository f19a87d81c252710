using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Site;

/// <summary>How a site plans its days: rules, hours, rates, holidays, free days.</summary>
/// <param name="Doors">Numbers of its doors.</param>
/// <param name="HorizonDays">Goods up to so many days before their due date are not early.</param>
public sealed record PlanningAnswer(PlanSettings Settings, int HorizonDays, IReadOnlyList<int> Doors);

/// <summary>The settings anew, as a whole.</summary>
public sealed record PlanningRequest(PlanSettings Settings, int HorizonDays);

/// <summary>Shows and changes how a site plans.</summary>
public static class PlanningPage
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/site/planning", Right.See, (Inquiry inquiry) =>
            TypedResults.Ok(new PlanningAnswer(inquiry.Site.Planning, inquiry.Site.HorizonDays, DoorsOf(inquiry.SetUp, inquiry.Site)))
        );
        routes.Act<PlanningRequest, DoneAnswer>("/site/planning", Right.SetUp, Run);
    }

    public static async Task<Outcome<DoneAnswer>> Run(Act act, PlanningRequest request)
    {
        if (request.Settings is null)
            return new Refusal(SiteRefusals.SettingAbsurd, "No settings were sent.", "Load the page again.");
        if (request.Settings.Fault(DoorsOf(act.SetUp, act.Site)) is { } fault)
            return fault;
        if (request.HorizonDays is < 0 or > 365)
            return new Refusal(
                SiteRefusals.SettingAbsurd,
                "The horizon for early goods is 0 to 365 days.",
                "Look at the number again. Nothing was kept."
            );
        var site = await act.Db.Sites.AsTracking().FirstAsync(s => s.Id == act.Site.Id);
        site.Planning = request.Settings;
        site.HorizonDays = request.HorizonDays;
        act.Write(new PlanningChanged(act.Site.Code, act.Site.Name, request.Settings.Advisory.Count, request.Settings.Holidays.Count));
        act.SetUpChanged = true;
        act.Touch("site", "road", "house");
        return new DoneAnswer("Kept. The day board goes by it from now on.");
    }

    static List<int> DoorsOf(SetUp setUp, WarehouseSite site) =>
        [.. setUp.Doors.Values.Where(d => d.SiteId == site.Id).Select(d => d.Number).Order()];
}
