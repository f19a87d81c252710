using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Cage;

/// <summary>Holds what comes of some goods, until somebody ends it.</summary>
/// <param name="Item">By code or name; empty for any.</param>
/// <param name="Vendor">By code or name; empty for any.</param>
/// <param name="Order">By its number; empty for any.</param>
/// <param name="Line">Of the order; null where it has one only.</param>
/// <param name="Because">The reason from the site's list; null for none of them.</param>
/// <param name="Why">What it is about; may be empty where <paramref name="Because"/> says it.</param>
/// <param name="Wants">What its holds want; without any, the signature of somebody who lifts holds.</param>
/// <param name="AlsoHere">True where what stands at this site is held too.</param>
public sealed record HoldAheadRequest(
    string? Item,
    string? Vendor,
    string? Order,
    int? Line,
    string? Because,
    string? Why,
    IReadOnlyList<Wanted>? Wants = null,
    bool AlsoHere = true
);

/// <summary>Holds what stands at this site of what is held as it comes.</summary>
/// <param name="Id">Of the hold on what comes.</param>
public sealed record HoldAheadHereRequest(int Id);

/// <summary>Ends a hold on what comes.</summary>
public sealed record EndHoldAheadRequest(int Id, string Why);

/// <summary>A hold on what comes.</summary>
/// <param name="Why">What its holds say.</param>
/// <param name="Goods">Which goods, and what their holds want, in words.</param>
public sealed record HoldAheadView(int Id, string Why, string Goods, string By, DateTime Since);

/// <summary>The holds on what comes, the newest first, and what one may name.</summary>
/// <param name="MayEnd">True where who asks may end them.</param>
public sealed record HoldsAheadAnswer(IReadOnlyList<HoldAheadView> Holds, IReadOnlyList<string> Vendors, bool MayLay, bool MayEnd);

/// <summary>Holds on what comes: on an item, an order line, or all that a vendor sends; see decision 32.</summary>
public static class HoldsAhead
{
    /// <summary>Most holds that one act lays on what stands here.</summary>
    const int MostHere = 200;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/cage/ahead", Right.See, List);
        routes.Act<HoldAheadRequest, DoneAnswer>("/cage/ahead/lay", Right.LayHold, Lay);
        routes.Act<HoldAheadHereRequest, DoneAnswer>("/cage/ahead/hold-here", Right.LayHold, HoldHere);
        routes.Act<EndHoldAheadRequest, DoneAnswer>("/cage/ahead/end", Right.LiftHold, End);
    }

    static Ok<HoldsAheadAnswer> List(Inquiry inquiry) =>
        TypedResults.Ok(
            new HoldsAheadAnswer(
                [
                    .. inquiry
                        .SetUp.HoldRules.Where(r => r.IsByHand)
                        .OrderByDescending(r => r.Since)
                        .Select(r => new HoldAheadView(
                            r.Id,
                            r.Name,
                            Headline(Words(inquiry.SetUp, r)),
                            r.SignedBy ?? "",
                            inquiry.Local(r.Since)
                        )),
                ],
                NamedGoods.Vendors(inquiry.SetUp),
                inquiry.May(Right.LayHold),
                inquiry.May(Right.LiftHold)
            )
        );

    public static async Task<Outcome<DoneAnswer>> Lay(Act act, HoldAheadRequest request)
    {
        var reason = act.CageSettings.Reason(request.Because, request.Why);
        if (reason.Refused(out var noReason))
            return noReason;
        var named = NamedGoods.Read(act.SetUp, request.Item, null, request.Vendor, null);
        if (named.Refused(out var nobody))
            return nobody;
        var line = await LineOf(act.Db, request);
        if (line.Refused(out var noLine))
            return noLine;
        var made = HoldRule.OnWhatComes(
            reason.Value.Sentence,
            named.Value.Item,
            named.Value.Vendor,
            line.Value is { } of ? (of.Id, $"line {of.Number} of {of.Order!.Number}, {act.SetUp.Catalogue[of.ItemId].Name}") : null,
            request.Wants ?? [],
            act.Person.Name,
            act.Now
        );
        if (made.Refused(out var noRule))
            return noRule;
        var rule = made.Value;
        if (act.SetUp.HoldRules.FirstOrDefault(r => r.SaysTheSame(rule)) is { } same)
            return new Refusal(
                CageRefusals.HoldRuleThere,
                $"That is held as it comes already: {same.Name}.",
                "End that one first, or name other goods."
            );
        act.Db.HoldRules.Add(rule);
        var fact = new HeldAhead(rule.Name, Words(act.SetUp, rule), act.Person.Name) { About = About(rule) };
        act.Write(fact);
        act.Changes(SetUpParts.Rules);
        act.Touch("cage", "shelf", "bench", "door", "book", "house", "site");
        if (!request.AlsoHere)
            return new DoneAnswer(act.Words(fact));
        var here = await LayHere(act, rule);
        return here.Refused(out var tooMany) ? tooMany : new DoneAnswer($"{act.Words(fact)} {here.Value}");
    }

    public static async Task<Outcome<DoneAnswer>> HoldHere(Act act, HoldAheadHereRequest request)
    {
        if (await Open(act, request.Id) is not { } rule)
            return NotInForce();
        var here = await LayHere(act, rule);
        if (here.Refused(out var tooMany))
            return tooMany;
        act.Touch("cage", "shelf", "bench", "door", "book", "house");
        return new DoneAnswer(here.Value);
    }

    public static async Task<Outcome<DoneAnswer>> End(Act act, EndHoldAheadRequest request)
    {
        if (request.Why.OrNull() is not { Length: <= HoldRule.MostWords } why)
            return new Refusal(HouseRefusals.ReasonMissing, $"A reason of at most {HoldRule.MostWords} characters is wanted.", "Say why.");
        if (await Open(act, request.Id) is not { } rule)
            return NotInForce();
        rule.End(act.Person.Name, act.Now);
        var fact = new HeldAheadEnded(rule.Name, Words(act.SetUp, rule), act.Person.Name, why) { About = About(rule) };
        act.Write(fact);
        act.Changes(SetUpParts.Rules);
        act.Touch("cage", "site");
        return new DoneAnswer($"{act.Words(fact)} What is held stays held until it is lifted.");
    }

    /// <summary>Holds what stands at this site and this one does not hold yet: a hold for each item and batch.</summary>
    /// <returns>What it did, in a sentence.</returns>
    static async Task<Outcome<string>> LayHere(Act act, HoldRule rule)
    {
        var lots = await Standing(act, rule);
        var open = await act.Db.Holds.Where(h => h.SiteId == act.Site.Id && h.IsOpen).AsNoTracking().ToListAsync();
        var laid = open.Where(rule.HasLaid).Select(h => (int?)h.Id).ToList();
        var held = await act.Db.Statements.Where(x => laid.Contains(x.HoldId) && x.SettledAt == null).Select(x => x.LotId).ToListAsync();
        var there = (await LotReads.Balances(act.Db, [.. lots.Select(l => l.Id).Except(held)])).ToLookup(b => b.LotId!.Value);
        var groups = lots.Where(l => there.Contains(l.Id)).GroupBy(l => (l.ItemId, l.BatchId)).ToList();
        if (groups.Count > MostHere)
            return new Refusal(
                CageRefusals.TooMuchHere,
                $"{groups.Count} batches of it stand here: at most {MostHere} are held in one go.",
                "Hold them by Book, or hold only what comes."
            );
        var numbers = new List<string>();
        foreach (var group in groups)
            numbers.Add(await HandHold.OnAll(act, [.. group], group.Sum(l => there[l.Id].Sum(b => b.Quantity)), rule));
        await Receipts.Moved(act);
        var places = groups.SelectMany(g => g.SelectMany(l => there[l.Id])).Select(b => b.BinId).Distinct().Count();
        return numbers.Count == 0
            ? "Nothing of it stands here that is not held for that."
            : $"Held in {places} {Quantities.Plural("place", places)} here too, by {string.Join(", ", numbers)}.";
    }

    /// <summary>The lots that stand at this site and that it speaks of.</summary>
    static Task<List<Lot>> Standing(Act act, HoldRule rule)
    {
        var lots = act.Db.Lots.Where(l => l.SiteId == act.Site.Id);
        if (rule.ItemId is { } item)
            lots = lots.Where(l => l.ItemId == item);
        if (rule.VendorId is { } vendor)
            lots = lots.Where(l => l.VendorId == vendor);
        if (rule.OrderLineId is { } line)
            lots = lots.Where(l =>
                act.Db.OrderLines.Any(o => o.Id == line && o.ItemId == l.ItemId && o.Order!.VendorId == l.VendorId)
                && act.Db.ManifestLines.Any(m => m.ArrivalId == l.ArrivalId && m.Part!.LineId == line)
            );
        return lots.Where(l => act.Db.Balances.Any(b => b.LotId == l.Id && b.Quantity > 0)).OrderBy(l => l.Id).ToListAsync();
    }

    /// <summary>The order line that was named; null where none was.</summary>
    static async Task<Outcome<OrderLine?>> LineOf(MudRoomDb db, HoldAheadRequest request)
    {
        if (request.Order.OrNull() is not { } number)
            return request.Line is null
                ? (OrderLine?)null
                : new Refusal(CageRefusals.OrderLineUnclear, "A line is of an order.", "Type the order's number too.");
        var lines = await db
            .OrderLines.Include(l => l.Order)
            .Where(l => l.Order!.Number == number)
            .OrderBy(l => l.Number)
            .AsNoTracking()
            .ToListAsync();
        if (lines.Count == 0)
            return Problems.NotFound("order", number);
        var line =
            request.Line is { } wanted ? lines.Find(l => l.Number == wanted)
            : lines is [var only] ? only
            : null;
        return line is not null
            ? line
            : new Refusal(
                CageRefusals.OrderLineUnclear,
                request.Line is { } typed
                    ? $"{number} has no line {typed}; its lines are {string.Join(", ", lines.Select(l => l.Number))}."
                    : $"{number} has {lines.Count} lines: {string.Join(", ", lines.Select(l => l.Number))}.",
                "Name one of them."
            );
    }

    /// <summary>Which goods it holds, and what their holds want.</summary>
    static string Words(SetUp setUp, HoldRule rule) => rule.Words(i => setUp.Catalogue[i].Name, v => setUp.Vendors[v].Name);

    static string Headline(string words) => char.ToUpperInvariant(words[0]) + words[1..];

    static IReadOnlyList<Reference> About(HoldRule rule) =>
        [
            .. rule.ItemId is { } item ? [Reference.Item(item)] : (Reference[])[],
            .. rule.VendorId is { } vendor ? [new Reference(ReferenceKind.Vendor, vendor)] : (Reference[])[],
        ];

    static Task<HoldRule?> Open(Act act, int id) =>
        act.Db.HoldRules.FirstOrDefaultAsync(r => r.Id == id && r.EndedAt == null && r.IsByHand);

    static Refusal NotInForce() => new(HouseRefusals.NotFound, "That is not held as it comes any more.", "Look at the list again.");
}
