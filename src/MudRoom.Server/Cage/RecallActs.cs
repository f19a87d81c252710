using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Out;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Cage;

/// <summary>Begins a recall, or a drill of one.</summary>
/// <param name="Item">By code or name; null for any.</param>
/// <param name="Vendor">By code or name; null for any.</param>
/// <param name="Numbers">As typed: one after another by comma or line; serial numbers as ranges too; for an advice its number.</param>
/// <param name="From">First day of production.</param>
/// <param name="To">Last day of production.</param>
/// <param name="Wants">What its holds want before they are lifted.</param>
/// <param name="MayCome">True where nobody here knows the goods, and they are to be held when they come.</param>
public sealed record BeginRecallRequest(
    RecallBy By,
    string? Item,
    string? Vendor,
    string? Numbers,
    DateOnly? From,
    DateOnly? To,
    string Why,
    bool IsDrill = false,
    IReadOnlyList<Wanted>? Wants = null,
    bool MayCome = false
);

/// <summary>A recall that was begun.</summary>
public sealed record RecallBegunAnswer(string Number, string Sentence);

/// <summary>Holds what a recall is about at this site.</summary>
public sealed record HoldHereRequest(string Recall);

/// <summary>Goods of a recall at a place.</summary>
/// <param name="Balance">The stock, by its id.</param>
/// <param name="Quantity">How much of it, in base units; null for all.</param>
public sealed record RecallStockRequest(string Recall, long Balance, string? Quantity = null);

/// <summary>Missing goods were looked for in a bin.</summary>
/// <param name="Missing">By its id within the recall.</param>
/// <param name="Bin">Its address.</param>
public sealed record RecallSearchRequest(string Recall, int Missing, string Bin);

/// <summary>Who got goods of a recall was told.</summary>
/// <param name="Reference">The order or job that they went out for.</param>
/// <param name="How">How, and what they said.</param>
public sealed record RecallTellRequest(string Recall, string Reference, string How, string? MailTo = null, string? MailText = null);

/// <summary>Ends a recall.</summary>
public sealed record EndRecallRequest(string Recall, string Note);

/// <summary>What is done with recalls.</summary>
public static class RecallActs
{
    const int MostWords = 500;

    public static void Map(SiteRoutes routes)
    {
        routes.Act<BeginRecallRequest, RecallBegunAnswer>("/cage/recalls/begin", Right.LayHold, Begin);
        routes.Act<HoldHereRequest, DoneAnswer>("/cage/recalls/hold-here", Right.LayHold, HoldHere);
        routes.Act<RecallStockRequest, DoneAnswer>("/cage/recalls/not-there", Right.See, NotThere);
        routes.Act<RecallStockRequest, DoneAnswer>("/cage/recalls/seen", Right.See, Seen);
        routes.Act<RecallSearchRequest, DoneAnswer>("/cage/recalls/not-in", Right.See, NotIn);
        routes.Act<RecallSearchRequest, DoneAnswer>("/cage/recalls/found", Right.PutAway, Found);
        routes.Act<RecallTellRequest, DoneAnswer>("/cage/recalls/told", Right.LayHold, Told);
        routes.Act<EndRecallRequest, DoneAnswer>("/cage/recalls/end", Right.LiftHold, End);
    }

    public static async Task<Outcome<RecallBegunAnswer>> Begin(Act act, BeginRecallRequest request)
    {
        if (request.Why.OrNull() is not { Length: <= MostWords } why)
            return new Refusal(HouseRefusals.NoteMissing, $"A recall wants a sentence of at most {MostWords} characters.", "Say why.");
        var wants = request.Wants ?? [];
        if (Wanted.FaultOf(wants) is { } absurd)
            return absurd;
        var read = await Scope(act, request);
        if (read.Refused(out var unread))
            return unread;
        var scope = read.Value;
        if (scope.Fault is { } fault)
            return fault;
        var same = await act.Db.Recalls.Where(r => r.EndedAt == null && r.IsDrill == request.IsDrill).ToListAsync();
        if (same.Find(r => r.Scope.IsAlike(scope)) is { } there)
            return new Refusal(CageRefusals.RecallThere, $"{there.Number} is about the same goods already.", "Look at that one.");
        var lots = await RecalledLots.Of(act.Db, [scope]);
        var says = scope.Words(id => act.SetUp.Catalogue[id].Name, id => act.SetUp.Vendors[id].Name);
        if (lots.Count == 0 && !request.MayCome && !await IsComing(act, scope))
            return new Refusal(
                CageRefusals.RecallEmpty,
                $"Nobody here knows {says}.",
                "Look at the number again. If it may still come, say that it is to be held then."
            );
        var recall = new Recall
        {
            Number = WarehouseSite.TakeHouseNumber("RC", await act.SiteRow(), await act.Db.Sites.ToListAsync()),
            SiteId = act.Site.Id,
            Scope = scope,
            Says = says,
            Why = why,
            IsDrill = request.IsDrill,
            Wants = wants,
            Since = act.Now,
            By = act.Person.Name,
        };
        act.Db.Recalls.Add(recall);
        await act.Db.SaveChangesAsync();
        act.Write(new RecallBegun(recall.Number, says, why, recall.IsDrill) { About = About(scope, lots) });
        act.Touch("cage", "shelf", "bench", "door", "book", "house");
        if (recall.IsDrill)
            return new RecallBegunAnswer(recall.Number, $"Drill {recall.Number} has begun: nothing is held.");
        act.Changes(SetUpParts.Rules);
        return new RecallBegunAnswer(recall.Number, await Hold(act, recall, lots));
    }

    public static async Task<Outcome<DoneAnswer>> HoldHere(Act act, HoldHereRequest request)
    {
        if (await Load(act, request.Recall) is not { } recall)
            return Problems.NotFound("recall", request.Recall);
        if (!recall.Holds)
            return new Refusal(
                CageRefusals.RecallEnded,
                recall.IsDrill ? $"{recall.Number} is a drill: it holds nothing." : $"{recall.Number} was ended by {recall.EndedBy}.",
                "Begin a recall."
            );
        act.Touch("cage", "shelf", "bench", "door", "book", "house");
        return new DoneAnswer(await Hold(act, recall, await RecalledLots.Of(act.Db, [recall.Scope])));
    }

    /// <summary>Holds what stands at this site, and says how much that is.</summary>
    static async Task<string> Hold(Act act, Recall recall, IReadOnlyList<LotInQuestion> lots)
    {
        var caught = await RecalledLots.Catch(act, recall, [.. lots.Where(l => l.Lot.SiteId == act.Site.Id)]);
        await act.Db.SaveChangesAsync();
        var places = (await LotReads.Balances(act.Db, [.. caught.Select(l => l.Id)])).Select(b => b.BinId).Distinct().Count();
        act.Write(new RecallLaid(recall.Number, places) { About = [.. Lots.About(caught)] });
        await Receipts.Moved(act);
        return places == 0
            ? $"{recall.Number}: nothing of it stands here now. What comes is held."
            : $"{recall.Number}: held in {places} {Quantities.Plural("place", places)}. What comes is held too.";
    }

    static IReadOnlyList<Reference> About(RecallScope scope, IReadOnlyList<LotInQuestion> lots) =>
        [
            .. scope.ItemId is { } item ? [Reference.Item(item)] : (Reference[])[],
            .. lots.Select(l => l.Lot.BatchId).OfType<int>().Distinct().Select(Reference.Batch),
        ];

    static async Task<Outcome<RecallScope>> Scope(Act act, BeginRecallRequest request)
    {
        var named = NamedGoods.Read(act.SetUp, request.Item, null, request.Vendor, null);
        if (named.Refused(out var nobody))
            return nobody;
        var typed = request.Numbers ?? "";
        IReadOnlyList<string> numbers =
        [
            .. typed.Split([',', ';', '\n', '\r'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries),
        ];
        if (request.By == RecallBy.Serial)
        {
            var serials = Serials.Read(typed);
            if (serials.Refused(out var noRange))
                return noRange;
            numbers = serials.Value;
        }

        var scope = new RecallScope(
            request.By,
            named.Value.Item?.Id,
            named.Value.Vendor?.Id,
            numbers,
            request.By == RecallBy.Produced ? request.From : null,
            request.By == RecallBy.Produced ? request.To : null
        );
        if (request.By != RecallBy.Advice)
            return scope;
        var advices = await act.Db.DespatchAdvices.Where(a => a.EndedAt == null && numbers.Contains(a.Number)).ToListAsync();
        if (named.Value.Vendor is { } vendor)
            advices = [.. advices.Where(a => a.VendorId == vendor.Id)];
        return advices switch
        {
            [var only] => scope with { VendorId = only.VendorId, ArrivalId = only.ArrivalId },
            [] => Problems.NotFound("despatch advice", typed.Trim()),
            _ => new Refusal(
                CageRefusals.RecallAbsurd,
                $"{advices.Count} vendors have sent an advice of that number.",
                "Name the vendor too."
            ),
        };
    }

    static async Task<bool> IsComing(Act act, RecallScope scope) => (await RecallReads.Coming(act.Db, [scope]))[0].Count > 0;

    public static async Task<Outcome<DoneAnswer>> NotThere(Act act, RecallStockRequest request)
    {
        var read = await Stock(act, request);
        if (read.Refused(out var no))
            return no;
        var (recall, row, item) = read.Value;
        decimal? quantity = null;
        if (request.Quantity.OrNull() is { } typed)
        {
            var some = Quantities.Read(typed, act.Site.DecimalComma);
            if (some.Refused(out var unread))
                return unread;
            if (Quantities.Check(some.Value, item) is { } absurd)
                return absurd;
            quantity = some.Value;
        }

        var missed = recall.NotThere(Spot(row), quantity, row.Quantity, Hand(act), act.Now, act.Site.LocalTime);
        if (missed.Refused(out var refused))
            return refused;
        var place = act.SetUp.Address(row.BinId);
        var fact = new RecallMissed(recall.Number, Amount.Of(missed.Value.Quantity, item), place, act.Person.Name)
        {
            About = AboutRow(row),
        };
        return Done(act, fact);
    }

    public static async Task<Outcome<DoneAnswer>> Seen(Act act, RecallStockRequest request)
    {
        var read = await Stock(act, request);
        if (read.Refused(out var no))
            return no;
        var (recall, row, item) = read.Value;
        if (recall.See(Spot(row), Hand(act), act.Now, act.Site.LocalTime) is { } refused)
            return refused;
        var place = act.SetUp.Address(row.BinId);
        return Done(act, new RecallSeen(recall.Number, Amount.Of(row.Quantity, item), place, act.Person.Name) { About = AboutRow(row) });
    }

    public static async Task<Outcome<DoneAnswer>> NotIn(Act act, RecallSearchRequest request)
    {
        var read = await Search(act, request);
        if (read.Refused(out var no))
            return no;
        var (recall, bin) = read.Value;
        var looked = recall.NotIn(request.Missing, bin.Id, Hand(act), act.Now, act.Site.LocalTime);
        if (looked.Refused(out var refused))
            return refused;
        var item = await ItemOf(act, looked.Value);
        return Done(
            act,
            new RecallLookedIn(recall.Number, Amount.Of(looked.Value.Quantity, item), bin.Address, act.Person.Name)
            {
                About = [Reference.Bin(bin.Id), new Reference(ReferenceKind.Lot, looked.Value.Spot.LotId)],
            }
        );
    }

    /// <summary>Missing goods are found: the book has them where they are.</summary>
    public static async Task<Outcome<DoneAnswer>> Found(Act act, RecallSearchRequest request)
    {
        var read = await Search(act, request);
        if (read.Refused(out var no))
            return no;
        var (recall, bin) = read.Value;
        var found = recall.Find(request.Missing, bin.Id, Hand(act), act.Now, act.Site.LocalTime);
        if (found.Refused(out var refused))
            return refused;
        var (spot, missed) = (found.Value.Spot, found.Value.Quantity);
        var item = await ItemOf(act, found.Value);
        // A labelled unit is found with all that stands on it.
        var rows = await act
            .Db.Balances.Where(b =>
                b.BinId == spot.BinId
                && b.UnitId == spot.UnitId
                && (spot.UnitId != null || b.LotId == spot.LotId && b.Serial == spot.Serial)
            )
            .ToListAsync();
        var fact = new RecallFound(recall.Number, Amount.Of(missed, item), bin.Address, act.Person.Name)
        {
            About = [Reference.Bin(bin.Id), new Reference(ReferenceKind.Lot, spot.LotId), Reference.Item(item.Id)],
        };
        // Somebody has moved them meanwhile, or they are where the book had them: there is nothing to put right.
        if (rows.Count == 0 || bin.Id == spot.BinId)
            return Done(act, fact);
        foreach (var row in rows)
            act.Write(
                fact,
                new Movement(
                    row.Goods,
                    spot.UnitId is null ? Math.Min(row.Quantity, missed) : row.Quantity,
                    row.Place,
                    Place.In(bin.Id, row.Standing)
                )
            );
        act.Touch("cage", "shelf", "book", "house");
        return new DoneAnswer(act.Words(fact));
    }

    public static async Task<Outcome<DoneAnswer>> Told(Act act, RecallTellRequest request)
    {
        if (await Load(act, request.Recall) is not { } recall)
            return Problems.NotFound("recall", request.Recall);
        if (request.How.OrNull() is not { Length: <= MostWords } how)
            return new Refusal(
                HouseRefusals.NoteMissing,
                $"Say in at most {MostWords} characters how they were told.",
                "Who, by what way, and what they said."
            );
        if (request.Reference.OrNull() is not { Length: <= 40 } reference)
            return new Refusal(HouseRefusals.ReferenceMissing, "Say whom.", "Choose one that got goods of it.");
        var gone = await RecallReads.Gone(act.Db, act.History, recall.Scope);
        if (!gone.Any(g => g.Reference == reference && Recall.MayBeTold(g.To, g.Quantity)))
            return Problems.NotFound("order or job with goods of it:", reference);
        if (
            request.MailTo.OrNull() is { } to
            && Outbox.Send(
                act,
                recall.Number,
                new Mail(to, $"Recall {recall.Number}", request.MailText ?? ""),
                Reference.Recall(recall.Number)
            )
                is { } unsent
        )
            return unsent;
        recall.Tell(reference, Hand(act), act.Now, how);
        return Done(
            act,
            new RecallTold(recall.Number, reference, act.Person.Name, how) { About = [new Reference(ReferenceKind.Demand, reference)] }
        );
    }

    public static async Task<Outcome<DoneAnswer>> End(Act act, EndRecallRequest request)
    {
        if (await Load(act, request.Recall) is not { } recall)
            return Problems.NotFound("recall", request.Recall);
        if (request.Note.OrNull() is not { Length: <= MostWords } note)
            return new Refusal(
                HouseRefusals.NoteMissing,
                $"Ending wants a sentence of at most {MostWords} characters.",
                "Say what came of it."
            );
        var reads = await RecallReads.Of(act.Db, act.History, act.SetUp, recall);
        var ended = recall.End(reads.Finding, note, Hand(act), act.Now, act.Site.LocalTime);
        if (ended.Refused(out var refused))
            return refused;
        if (!recall.IsDrill)
            act.Changes(SetUpParts.Rules);
        return Done(act, new RecallEnded(recall.Number, act.Person.Name, ended.Value));
    }

    static DoneAnswer Done(Act act, Fact fact)
    {
        act.Write(fact);
        act.Touch("cage", "book");
        return new DoneAnswer(act.Words(fact));
    }

    /// <summary>A recall by its number; it is of the whole house.</summary>
    public static Task<Recall?> Load(Act act, string number) => act.Db.Recalls.FirstOrDefaultAsync(r => r.Number == number);

    static async Task<Outcome<(Recall Recall, Balance Row, Item Item)>> Stock(Act act, RecallStockRequest request)
    {
        if (await Load(act, request.Recall) is not { } recall)
            return Problems.NotFound("recall", request.Recall);
        if (
            await act.Db.Balances.FirstOrDefaultAsync(b => b.SiteId == act.Site.Id && b.Id == request.Balance) is not { LotId: { } lot } row
        )
            return Problems.NotFound("stock", request.Balance.ToString(CultureInfo.InvariantCulture));
        var known = (await RecalledLots.WithBatches(act.Db, await LotReads.ByIds(act.Db, [lot]))).Single();
        return recall.Scope.Catches(known.Goods(row.Serial))
            ? (recall, row, act.SetUp.Catalogue[row.ItemId])
            : new Refusal(CageRefusals.NotMissing, $"These goods are not of {recall.Number}.", "Look at its list again.");
    }

    static async Task<Outcome<(Recall Recall, Bin Bin)>> Search(Act act, RecallSearchRequest request)
    {
        if (await Load(act, request.Recall) is not { } recall)
            return Problems.NotFound("recall", request.Recall);
        return act.SetUp.BinsByAddress.GetValueOrDefault((act.Site.Id, (request.Bin ?? "").Trim().ToUpperInvariant())) is { } bin
            ? (recall, bin)
            : Problems.NotFound("bin", request.Bin ?? "");
    }

    static async Task<Item> ItemOf(Act act, MissingGoods missing) =>
        act.SetUp.Catalogue[await act.Db.Lots.Where(l => l.Id == missing.Spot.LotId).Select(l => l.ItemId).SingleAsync()];

    static RecallSpot Spot(Balance row) => new(row.LotId!.Value, row.BinId, row.UnitId, row.Serial);

    static IReadOnlyList<Reference> AboutRow(Balance row) =>
        [
            Reference.Item(row.ItemId),
            Reference.Bin(row.BinId),
            new Reference(ReferenceKind.Lot, row.LotId!.Value),
            .. row.BatchId is { } batch ? [Reference.Batch(batch)] : (Reference[])[],
        ];

    static Hand Hand(Act act) => new(act.Person.Id, act.Person.Name);
}
