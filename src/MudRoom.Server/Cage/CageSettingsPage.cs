using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Cage;

/// <summary>How a site decides over nonconforming goods.</summary>
public sealed record CageSettingsAnswer(CageSettings Settings, SettingsInForce InForce);

/// <summary>The settings anew, as a whole.</summary>
/// <param name="SecondAbove">As typed; empty where one person is always enough.</param>
/// <param name="Reasons">Why goods are held by hand, one a line; null for those in force.</param>
/// <param name="Version">That was looked at; null for whatever is in force.</param>
public sealed record CageSettingsRequest(string? SecondAbove, int? Version = null, string? Reasons = null);

/// <summary>Shows and changes how a site decides.</summary>
public static class CageSettingsPage
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/site/cage", Right.See, (Inquiry inquiry) =>
            TypedResults.Ok(
                new CageSettingsAnswer(inquiry.CageSettings, SettingsInForce.Of(inquiry.SetUp.CageSettings[inquiry.Site.Id], inquiry.Site))
            )
        );
        routes.Act<CageSettingsRequest, DoneAnswer>("/site/cage", Right.SetUp, Run);
    }

    public static async Task<Outcome<DoneAnswer>> Run(Act act, CageSettingsRequest request)
    {
        decimal? above = null;
        if (request.SecondAbove.OrNull() is { } typed)
        {
            var read = Quantities.Read(typed, act.Site.DecimalComma);
            if (read.Refused(out var noNumber))
                return noNumber;
            above = read.Value;
        }

        var before = act.SetUp.CageSettings[act.Site.Id];
        var settings = new CageSettings
        {
            SecondAbove = above,
            Reasons = request.Reasons is { } lines
                ? [.. lines.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)]
                : before.Value.Reasons,
        };
        if (settings.Fault is { } fault)
            return fault;
        if (SettingsInForce.Moved(before, request.Version, act.Site) is { } moved)
            return moved;
        await SettingsRows.Keep(act.Db, act.Site.Id, SettingsOf.Cage, settings, act.Now, act.Person.Name);
        act.Write(new DecidingChanged(act.Site.Code, act.Site.Name, before.Version + 1, settings.SecondAbove, settings.Reasons));
        act.Changes(SetUpParts.Settings);
        act.Touch("site", "cage");
        return new DoneAnswer("Kept. The cage goes by it from now on.");
    }
}
