using System.Globalization;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Bench;

/// <summary>A sample is brought to the bench.</summary>
/// <param name="Bin">Of the bench; null for the first.</param>
public sealed record BringSampleRequest(string Inspection, string? Bin = null);

/// <summary>Says what became of a part of a sample.</summary>
/// <param name="Quantity">As typed, in base units.</param>
/// <param name="Bin">Where it is kept; null for where it is. Of no meaning for what is used up, or back.</param>
/// <param name="Until">Until when it is kept.</param>
public sealed record SettleSampleRequest(string Inspection, SampleFate Fate, string Quantity, string? Bin = null, DateOnly? Until = null);

/// <summary>The way of a sample: to the bench, and from there back to its lot, used up, or kept.</summary>
public static class SampleActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<BringSampleRequest, DoneAnswer>("/bench/bring-sample", Right.Inspect, Bring);
        routes.Act<SettleSampleRequest, DoneAnswer>("/bench/settle-sample", Right.Inspect, Settle);
    }

    /// <summary>The bins of the bench that take goods, by address.</summary>
    public static IReadOnlyList<string> Benches(SetUp setUp, int siteId) =>
        [
            .. setUp
                .BinsOfSite[siteId]
                .Where(b => b is { Function: BinFunction.Bench, Blocked: false })
                .Select(b => b.Address)
                .Order(StringComparer.Ordinal),
        ];

    public static async Task<Outcome<DoneAnswer>> Bring(Act act, BringSampleRequest request)
    {
        if (await BenchActs.Load(act, request.Inspection) is not { } sheet)
            return Problems.NotFound("inspection", request.Inspection);
        var benches = Benches(act.SetUp, act.Site.Id);
        var address = request.Bin.OrNull() ?? (benches.Count > 0 ? benches[0] : "");
        if (!benches.Contains(address, StringComparer.OrdinalIgnoreCase))
            return new Refusal(
                BenchRefusals.BenchUnknown,
                address.Length == 0 ? "This site has no place of the bench." : $"{address} is no place of the bench.",
                benches.Count == 0 ? "Have one set up." : $"Choose {string.Join(" or ", benches)}."
            );
        var bin = BinOf(act, address)!;
        var before = sheet.SampleBinId;
        if (sheet.Bring(bin.Id, bin.Address) is { } refusal)
            return refusal;
        var found = await Parts(act, sheet, SampleWay.Left(sheet), before);
        if (found.Refused(out var notThere))
            return notThere;
        var item = act.SetUp.Catalogue[sheet.ItemId];
        foreach (var (row, takes) in found.Value.Where(p => p.Row.BinId != bin.Id))
            Carry(act, row, takes, bin.Id, of => new SampleBrought(sheet.Number, of, act.SetUp.Address(row.BinId), bin.Address), item);
        await Receipts.Moved(act);
        act.Touch("inspection:" + sheet.Number, "bench", "shelf", "book", "house");
        return new DoneAnswer($"The sample of {sheet.Number} is in {bin.Address}.");
    }

    /// <summary>More of the lot is drawn, and goes where its sample is: what the first sample left open, a second decides.</summary>
    /// <param name="quantity">In base units.</param>
    public static async Task<Refusal?> DrawMore(Act act, Inspection sheet, decimal quantity)
    {
        var lots = await LotReads.Under(act.Db, sheet);
        var drawn = new SampleDrawnOn(sheet.Number, Amount.Of(quantity, act.SetUp.Catalogue[sheet.ItemId]))
        {
            About = [.. BenchActs.About(sheet)],
        };
        if (sheet.LetsUse)
        {
            var waits = (await LotReads.Balances(act.Db, [.. lots.Select(l => l.Id)]))
                .Where(b => b.Standing == Standing.ToInspect)
                .Select(b => b.LotId)
                .ToHashSet();
            var rest = lots.Where(l => !waits.Contains(l.Id)).ToList();
            if (await Lots.Quantity(act, rest) is var there && there < quantity)
                return NotAllThere(act, sheet, there, quantity);
            await BenchActs.SampleWaits(act, sheet, rest, quantity, drawn);
        }

        if (sheet.SampleBinId is { } bench)
        {
            var found = await Parts(act, sheet, quantity, null, notIn: bench);
            if (found.Refused(out var notThere))
                return notThere;
            var item = act.SetUp.Catalogue[sheet.ItemId];
            foreach (var (row, takes) in found.Value)
                Carry(act, row, takes, bench, of => drawn with { More = of }, item);
            await Receipts.Moved(act);
        }
        else
        {
            act.Write(drawn);
        }

        sheet.DrawMore(quantity);
        return null;
    }

    public static async Task<Outcome<DoneAnswer>> Settle(Act act, SettleSampleRequest request)
    {
        if (await BenchActs.Load(act, request.Inspection) is not { } sheet)
            return Problems.NotFound("inspection", request.Inspection);
        if (!Enum.IsDefined(request.Fate))
            return new Refusal(HouseRefusals.SettingAbsurd, "A sample goes back, is used up, or is kept.", "Choose one of the list.");
        var item = act.SetUp.Catalogue[sheet.ItemId];
        var read = Quantities.Read(request.Quantity ?? "", act.Site.DecimalComma);
        if (read.Refused(out var noNumber))
            return noNumber;
        var quantity = read.Value;
        if (Quantities.Check(quantity, item) is { } badQuantity)
            return badQuantity;
        Bin? keep = null;
        if (request.Fate == SampleFate.Retained && request.Bin.OrNull() is { } address)
        {
            if (BinOf(act, address) is not { Blocked: false } bin)
                return new Refusal(ShelfRefusals.BinUnknown, $"{address} is no bin of this site.", "Scan the bin's label.");
            if (!act.Standings[Standing.Held].MayStand(bin.Function))
                return new Refusal(
                    BenchRefusals.RetainedNotThere,
                    $"Goods that are {act.Standings.Word(Standing.Held)} may not stand in {bin.Address}.",
                    "Choose a place of the cage."
                );
            keep = bin;
        }

        var until = request.Fate == SampleFate.Retained ? request.Until : null;
        if (sheet.MaySettle(request.Fate, quantity, until, item, act.Today) is { } refusal)
            return refusal;
        var found = await Parts(act, sheet, quantity, sheet.SampleBinId);
        if (found.Refused(out var notThere))
            return notThere;
        var done = request.Fate switch
        {
            SampleFate.UsedUp => await UseUp(act, sheet, item, found.Value),
            SampleFate.Retained => await Retain(act, sheet, item, found.Value, keep, until!.Value),
            _ => await PutBack(act, sheet, item, found.Value, quantity),
        };
        if (done.Refused(out var stays))
            return stays;
        sheet.Settle(new SampleWent(request.Fate, quantity, done.Value.Where, until, act.Person.Name, act.Now));
        await Receipts.Moved(act);
        act.Touch("inspection:" + sheet.Number, "bench", "cage", "shelf", "book", "house");
        return new DoneAnswer(done.Value.Sentence);
    }

    static async Task<Outcome<(string Where, string Sentence)>> UseUp(
        Act act,
        Inspection sheet,
        Item item,
        IReadOnlyList<(Balance Row, decimal Takes)> parts
    )
    {
        foreach (var (row, takes) in parts)
        {
            if (await Lots.Shrink(act, row.LotId!.Value, takes, usedUp: true) is { } refusal)
                return refusal;
            act.Write(
                new SampleUsedUp(sheet.Number, Amount.Of(takes, item), act.SetUp.Address(row.BinId)),
                new Movement(row.Goods, takes, row.Place, new Place(Account.Bench))
            );
        }

        return ("", $"{Said(parts, item)} of the sample are used up and out of the books.");
    }

    /// <summary>What is kept is held by a hold of its own, whose time ends on the day.</summary>
    static async Task<Outcome<(string Where, string Sentence)>> Retain(
        Act act,
        Inspection sheet,
        Item item,
        IReadOnlyList<(Balance Row, decimal Takes)> parts,
        Bin? keep,
        DateOnly until
    )
    {
        var quantity = parts.Sum(p => p.Takes);
        var where = keep?.Address ?? act.SetUp.Address(parts[0].Row.BinId);
        var sentence = $"Retained sample of {sheet.Number}";
        var ends = act.Site.Days(until, until).Begin;
        var hold = new Hold
        {
            Number = await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = sheet.BatchId,
            Reason = HoldReason.Retained,
            Sentence = sentence,
            Since = act.Now,
            Until = ends,
            Times = [new TimeCondition(sentence, ends)],
            ArrivalId = sheet.ArrivalId,
            InspectionId = sheet.Id,
            LaidBy = act.Person.Name,
        };
        // New, and so open.
        _ = hold.Grow(quantity, act.Site.LocalTime);
        act.Db.Holds.Add(hold);
        var kept = new List<Lot>();
        foreach (var (row, takes) in parts)
        {
            var line = await Lots.LineOf(act.Db, row);
            var lots = await LotReads.ByIds(act.Db, [row.LotId!.Value]);
            kept.AddRange(await Lots.Part(act, lots, takes, hold.Number, line));
        }

        await act.Db.SaveChangesAsync();
        Lots.Say(act, kept, hold);
        var fact = new SampleRetained(sheet.Number, Amount.Of(quantity, item), where, until)
        {
            About = [Reference.Hold(hold.Number), .. Lots.About(kept)],
        };
        act.Write(fact);
        await Lots.Restand(act, kept, fact);
        if (keep is not null)
        {
            await act.Db.SaveChangesAsync();
            foreach (var row in await LotReads.Balances(act.Db, [.. kept.Select(l => l.Id)]))
                if (row.BinId != keep.Id)
                    Carry(act, row, row.Quantity, keep.Id, of => fact with { Sample = of }, item);
        }

        return (where, $"{Quantities.Show(quantity)} {item.UnitWord} are kept in {where} until {until:yyyy-MM-dd}, by {hold.Number}.");
    }

    /// <summary>Back to where most of the lot stands; where all of it stands with the sample, or nothing is left of it, it stays.</summary>
    static async Task<Outcome<(string Where, string Sentence)>> PutBack(
        Act act,
        Inspection sheet,
        Item item,
        IReadOnlyList<(Balance Row, decimal Takes)> parts,
        decimal quantity
    )
    {
        var lots = await LotReads.EverUnder(act.Db, sheet);
        var rest = (await LotReads.Balances(act.Db, [.. lots.Select(l => l.Id)]))
            .Where(b => b.BinId != sheet.SampleBinId && act.SetUp.Bins[b.BinId].Function != BinFunction.Truck)
            .ToList();
        var to = sheet.SampleBinId is null ? null : rest.GroupBy(b => b.BinId).MaxBy(g => g.Sum(b => b.Quantity))?.Key;
        var where = act.SetUp.Address(to ?? parts[0].Row.BinId);
        if (to is { } bin)
            foreach (var (row, takes) in parts.Where(p => p.Row.BinId == sheet.SampleBinId))
                Carry(act, row, takes, bin, of => new SampleBack(sheet.Number, of, where), item);
        else
            act.Write(new SampleBack(sheet.Number, Amount.Of(quantity, item), where) { About = [.. Lots.About(lots)] });
        return (where, $"{Said(parts, item)} of the sample are back with the lot, in {where}.");
    }

    /// <summary>Goods go to another bin as they stand. Out of a labelled unit they are loose: the unit stays where it is.</summary>
    static void Carry(Act act, Balance row, decimal takes, int bin, Func<Amount, Fact> fact, Item item)
    {
        var (said, to) = (fact(Amount.Of(takes, item)), Place.In(bin, row.Standing));
        if (row.UnitId is null)
        {
            act.Write(said, new Movement(row.Goods, takes, row.Place, to));
            return;
        }

        act.Write(said, new Movement(row.Goods, takes, row.Place, new Place(Account.Bench)));
        act.Write(said, new Movement(row.Goods with { UnitId = null }, takes, new Place(Account.Bench), to));
    }

    /// <summary>So much of what the sample was drawn from: what is in a bin first, then what waits for its verdict.</summary>
    /// <param name="bin">The bin of the bench that it is in; null where it is with its lot.</param>
    /// <param name="notIn">A bin of which nothing is meant.</param>
    static async Task<Outcome<IReadOnlyList<(Balance Row, decimal Takes)>>> Parts(
        Act act,
        Inspection sheet,
        decimal quantity,
        int? bin,
        int? notIn = null
    )
    {
        await act.Db.SaveChangesAsync();
        var lots = sheet.State == InspectionState.Signed ? await LotReads.EverUnder(act.Db, sheet) : await LotReads.Under(act.Db, sheet);
        var rows = (await LotReads.Balances(act.Db, [.. lots.Select(l => l.Id)]))
            .Where(b => b.BinId != notIn)
            .OrderBy(b => b.BinId != bin)
            .ThenBy(b => b.Standing != Standing.ToInspect);
        var parts = Portions.Of(rows, r => r.Quantity, quantity);
        if (parts.Sum(p => p.Takes) is var there && there == quantity)
            return Outcome<IReadOnlyList<(Balance Row, decimal Takes)>>.Of(parts);
        return NotAllThere(act, sheet, there, quantity);
    }

    static Refusal NotAllThere(Act act, Inspection sheet, decimal there, decimal quantity) =>
        new(
            HouseRefusals.NotAllThere,
            $"{Quantities.Show(there)} {act.SetUp.Catalogue[sheet.ItemId].UnitWord} of {sheet.Number} are on the site; "
                + $"{Quantities.Show(quantity)} is more.",
            "Say so of what is there."
        );

    static Bin? BinOf(Act act, string address) =>
        act.SetUp.BinsOfSite[act.Site.Id].FirstOrDefault(b => b.Address.Equals(address.Trim(), StringComparison.OrdinalIgnoreCase));

    static string Said(IReadOnlyList<(Balance Row, decimal Takes)> parts, Item item) =>
        string.Create(CultureInfo.InvariantCulture, $"{Quantities.Show(parts.Sum(p => p.Takes))} {item.UnitWord}");
}
