using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>The units that counted goods stand on: one of ours, the vendor's own by its label, or new ones.</summary>
public static class CountedUnits
{
    /// <summary>The unit that goods are put on as it was scanned with them; null where none was.</summary>
    public static async Task<Outcome<LogisticUnit?>> Under(Act act, CountCommand command, Bin place, Standing standing) =>
        command.Onto is { } onto ? Optional(await UnitToStandOn(act, onto, place, standing))
        : command.Sscc is { } label ? Optional(await VendorUnit(act, label, command.Count))
        : (LogisticUnit?)null;

    static Outcome<LogisticUnit?> Optional(Outcome<LogisticUnit> unit) => unit.Refused(out var refusal) ? refusal : unit.Value;

    /// <summary>The unit that further goods are put on: one of ours, in the receiving place where they stand, with the same
    /// standing.</summary>
    static async Task<Outcome<LogisticUnit>> UnitToStandOn(Act act, string sscc, Bin place, Standing standing)
    {
        var unit = await act.Db.Units.FirstOrDefaultAsync(u => u.SiteId == act.Site.Id && u.Sscc == sscc);
        if (unit is null)
            return Problems.NotFound("unit", sscc);
        var elsewhere = await act.Db.Balances.FirstOrDefaultAsync(b =>
            b.UnitId == unit.Id && (b.BinId != place.Id || b.Standing != standing)
        );
        return elsewhere is null
            ? unit
            : new Refusal(
                DoorRefusals.UnitElsewhere,
                $"Unit {Sscc.Spaced(sscc)} stands in {act.SetUp.Address(elsewhere.BinId)}, {act.Standings.Word(elsewhere.Standing)}; "
                    + $"these goods are {act.Standings.Word(standing)}.",
                "Put them on another unit."
            );
    }

    /// <summary>The vendor's own unit that the goods stand on: known from now on by its SSCC; refused when it was counted already, with who
    /// and when.</summary>
    static async Task<Outcome<LogisticUnit>> VendorUnit(Act act, string label, Count count)
    {
        var unit = await act.Db.Units.FirstOrDefaultAsync(u => u.SiteId == act.Site.Id && u.Sscc == label);
        if (unit is not null && await Counted(act, unit.Id, label) is { } counted)
            return counted;
        if (unit is not null)
            return unit;
        unit = new LogisticUnit
        {
            SiteId = act.Site.Id,
            Sscc = label,
            PackName = count.Pack.Name,
            PackageType = count.Pack.PackageType,
            MadeAt = act.Now,
        };
        act.Db.Units.Add(unit);
        await act.Db.SaveChangesAsync();
        return unit;
    }

    /// <summary>The refusal of a unit that was counted already: two people, one pallet.</summary>
    public static async Task<Refusal?> Counted(Act act, int unitId, string sscc) =>
        await act.Db.TallyEntries.Where(e => e.UnitId == unitId && e.TakenBackAt == null).OrderBy(e => e.Id).FirstOrDefaultAsync()
            is { } there
            ? new Refusal(
                DoorRefusals.UnitCounted,
                $"Unit {Sscc.Spaced(sscc)} is counted already, by {there.PersonName} at {act.Site.LocalTime(there.At):HH:mm}.",
                "Look at the trail. If that was wrong, take it back there first."
            )
            : null;

    /// <summary>New units, one for each pack that is one, with numbers that the device gave or the site gives.</summary>
    public static async Task<Outcome<List<LogisticUnit>>> New(Act act, Count count, IReadOnlyList<string> given)
    {
        if (!count.Pack.IsUnit)
            return given.Count == 0
                ? new List<LogisticUnit>()
                : new Refusal(
                    DoorRefusals.UnitUnasked,
                    $"A {count.Pack.Name} of {count.Item.Name} gets no unit number.",
                    "Count it as a unit, or without the number."
                );
        var numbers = await UnitNumbers.For(act, (int)count.Packs, given);
        if (numbers.Refused(out var refusal))
            return refusal;
        var units = numbers
            .Value.Select(sscc => new LogisticUnit
            {
                SiteId = act.Site.Id,
                Sscc = sscc,
                PackName = count.Pack.Name,
                PackageType = count.Pack.PackageType,
                MadeAt = act.Now,
            })
            .ToList();
        act.Db.Units.AddRange(units);
        await act.Db.SaveChangesAsync();
        return units;
    }
}
