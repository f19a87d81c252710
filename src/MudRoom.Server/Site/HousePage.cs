using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Site;

/// <summary>A spot of the yard as it is set.</summary>
/// <param name="X">Metres from the west wall, as doors have it.</param>
public sealed record HouseSpot(string Number, IReadOnlyList<string> Vehicles, bool ColdPlug, decimal X);

/// <summary>The facts of a house that everything else is numbered, dated and timed by.</summary>
/// <param name="Gln">Global Location Number by which messages name the site; null for none.</param>
/// <param name="CompanyPrefix">GS1 company prefix of unit numbers; null until somebody has said it.</param>
/// <param name="OwnNumbers">True for own numbers that mean nothing outside.</param>
/// <param name="Extension">First digit of unit numbers.</param>
/// <param name="NextNumber">Serial of the next unit number.</param>
public sealed record HouseFacts(
    string Name,
    string TimeZone,
    string? Gln,
    string? CompanyPrefix,
    bool OwnNumbers,
    int Extension,
    long NextNumber,
    bool DecimalComma,
    DateForm DateForm,
    IReadOnlyList<HouseSpot> Spots
);

/// <summary>The facts, with what may be chosen.</summary>
/// <param name="Sample">The next unit number, written out; null before it may be given.</param>
/// <param name="TimeZones">IANA names of every time zone this server knows.</param>
public sealed record HousePageAnswer(string Code, HouseFacts Facts, string? Sample, IReadOnlyList<string> TimeZones);

/// <summary>Shows and changes the facts of a house, on one page.</summary>
public static class HousePage
{
    const int MostSpots = 200;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/site/house", Right.See, Run);
        routes.Act<HouseFacts, DoneAnswer>("/site/house", Right.SetUp, Keep);
    }

    static async Task<Ok<HousePageAnswer>> Run(Inquiry inquiry)
    {
        // The row and not the set-up: numbers are given all the time.
        var site = await inquiry.Db.Sites.AsNoTracking().FirstAsync(s => s.Id == inquiry.Site.Id);
        var spots = await inquiry.Db.YardSpots.Where(s => s.SiteId == site.Id).OrderBy(s => s.Number).ToListAsync();
        return TypedResults.Ok(
            new HousePageAnswer(
                site.Code,
                new HouseFacts(
                    site.Name,
                    site.TimeZone,
                    site.Gln,
                    site.CompanyPrefix,
                    site.OwnNumbers,
                    site.SsccExtension,
                    site.NextSscc,
                    site.DecimalComma,
                    site.DateForm,
                    [.. spots.Select(s => new HouseSpot(s.Number, s.Vehicles, s.ColdPlug, s.X))]
                ),
                site.NumberPrefix is { } prefix ? Sscc.Spaced(Sscc.Make(site.SsccExtension, prefix, site.NextSscc)) : null,
                [.. TimeZoneInfo.GetSystemTimeZones().Where(z => z.HasIanaId).Select(z => z.Id).Order(StringComparer.Ordinal)]
            )
        );
    }

    static async Task<Outcome<DoneAnswer>> Keep(Act act, HouseFacts facts)
    {
        if (facts.Name.OrNull() is not { Length: <= 60 } name)
            return new Refusal(HouseRefusals.SettingAbsurd, "A site has a name of up to 60 characters.", "Type it. Nothing was kept.");
        if (!TimeZoneInfo.TryFindSystemTimeZoneById(facts.TimeZone ?? "", out var zone) || !zone.HasIanaId)
            return new Refusal(
                SiteRefusals.TimeZoneUnknown,
                $"{facts.TimeZone} is no time zone this server knows.",
                "Choose one of the list, as Europe/London. Nothing was kept."
            );
        if (!Enum.IsDefined(facts.DateForm))
            return new Refusal(HouseRefusals.SettingAbsurd, "No such form of dates is known.", "Choose one of the list. Nothing was kept.");
        var gln = Gln.Read(facts.Gln);
        if (gln.Refused(out var noGln))
            return noGln;
        var site = await act.Db.Sites.AsTracking().FirstAsync(s => s.Id == act.Site.Id);
        if (gln.Value is not null && await act.Db.Sites.FirstOrDefaultAsync(s => s.Gln == gln.Value && s.Id != site.Id) is { } other)
            return new Refusal(
                SiteRefusals.GlnTaken,
                $"GLN {gln.Value} is that of {other.Name}.",
                "Every site has its own. Nothing was kept."
            );
        if (site.NumberBy(facts.CompanyPrefix, facts.OwnNumbers, facts.Extension, facts.NextNumber) is { } numbers)
            return numbers;
        (site.Name, site.TimeZone, site.Gln, site.DateForm) = (name, zone.Id, gln.Value, facts.DateForm);
        site.DecimalComma = facts.DecimalComma;
        if (await KeepSpots(act, facts.Spots ?? []) is { } spots)
            return spots;
        var numbersBy = site.OwnNumbers ? "own numbers" : site.CompanyPrefix;
        act.Write(new SiteChanged(site.Code, site.Name, zone.Id, numbersBy, facts.Spots?.Count ?? 0));
        act.Changes(SetUpParts.Sites);
        act.Touch("site", "road", "yard", "door", "house");
        return new DoneAnswer("Kept. It holds from now on; what is numbered or written already stays as it is.");
    }

    static async Task<Refusal?> KeepSpots(Act act, IReadOnlyList<HouseSpot> wanted)
    {
        if (wanted.Count > MostSpots)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                $"A yard has up to {MostSpots} spots here.",
                "Leave some out. Nothing was kept."
            );
        if (wanted.FirstOrDefault(s => s.Number.OrNull() is not { Length: <= 20 }) is not null)
            return new Refusal(
                HouseRefusals.SpotMissing,
                "A yard spot has a name of 1 to 20 characters.",
                "Name it, or take it away. Nothing was kept."
            );
        if (wanted.GroupBy(s => s.Number.Trim(), StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
            return new Refusal(
                SiteRefusals.SpotTwice,
                $"Spot {twice.Key} stands there twice.",
                "Name one of them otherwise. Nothing was kept."
            );
        if (wanted.FirstOrDefault(s => s.Vehicles is not { Count: > 0 } || s.Vehicles.Except(Arrival.Vehicles).Any()) is { } unfit)
            return new Refusal(
                HouseRefusals.VehicleUnknown,
                $"Spot {unfit.Number} takes no vehicle that is known.",
                $"Choose from {string.Join(", ", Arrival.Vehicles)}. Nothing was kept."
            );
        if (wanted.FirstOrDefault(s => s.X is < 0 or > 10_000) is { } far)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                $"Spot {far.Number} lies 0 to 10 000 metres from the west wall.",
                "Look at the number. Nothing was kept."
            );
        var there = await act.Db.YardSpots.AsTracking().Where(s => s.SiteId == act.Site.Id).ToListAsync();
        var gone = there.Where(s => !wanted.Any(w => w.Number.Trim().Equals(s.Number, StringComparison.OrdinalIgnoreCase))).ToList();
        var names = gone.Select(s => s.Number).ToList();
        if (
            await act.Db.Arrivals.FirstOrDefaultAsync(a =>
                a.SiteId == act.Site.Id && a.State == ArrivalState.InYard && a.YardSpot != null && names.Contains(a.YardSpot)
            ) is
            { } stands
        )
            return new Refusal(
                HouseRefusals.SpotTaken,
                $"{stands.Number} stands at spot {stands.YardSpot}.",
                "Move it first. Nothing was kept."
            );
        act.Db.YardSpots.RemoveRange(gone);
        foreach (var spot in wanted)
        {
            var row = there.Find(s => s.Number.Equals(spot.Number.Trim(), StringComparison.OrdinalIgnoreCase));
            if (row is null)
                act.Db.YardSpots.Add(
                    new YardSpot
                    {
                        SiteId = act.Site.Id,
                        Number = spot.Number.Trim(),
                        Vehicles = [.. spot.Vehicles],
                        ColdPlug = spot.ColdPlug,
                        X = spot.X,
                    }
                );
            else
                (row.Vehicles, row.ColdPlug, row.X) = ([.. spot.Vehicles], spot.ColdPlug, spot.X);
        }

        return null;
    }
}
