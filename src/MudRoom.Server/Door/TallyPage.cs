using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>A count in the trail.</summary>
/// <param name="Pack">Its pack level, for labels; null where it was counted by measure and gets none.</param>
public sealed record CountRow(
    Guid Act,
    DateTime At,
    string Person,
    string Item,
    decimal Quantity,
    string Unit,
    string InPacks,
    string? Batch,
    string Standing,
    Aside? Aside,
    string? Note,
    string Reason,
    string Place,
    bool TakenBack,
    bool CanTakeBack,
    string? Sscc,
    string? Pack,
    string? Serial
);

/// <summary>A difference between paper and goods.</summary>
public sealed record DiscrepancyRow(
    DiscrepancyKind Kind,
    string Word,
    string Item,
    decimal Quantity,
    string Unit,
    string Sentence,
    int? Part
);

/// <summary>A vendor whose goods are aboard, by the papers or by what was counted.</summary>
/// <param name="Counted">True when something of theirs was counted that stands on no receipt yet.</param>
/// <param name="DeliveryNote">The number of their delivery note, as far as it is known.</param>
public sealed record VendorAboard(int Id, string Name, bool Counted, string? DeliveryNote);

/// <summary>All of a tally: the manifest, what was counted last, what differs.</summary>
public sealed record TallyAnswer(
    ArrivalCard Card,
    string? Seal,
    IReadOnlyList<ManifestRow> Manifest,
    IReadOnlyList<CountRow> Counts,
    int CountsInAll,
    IReadOnlyList<DiscrepancyRow> Discrepancies,
    IReadOnlyList<VendorAboard> Vendors,
    IReadOnlyList<string> Receipts,
    IReadOnlyDictionary<string, string> LastBy,
    IReadOnlyList<QuestionRow> Questions,
    IReadOnlyList<AdvisedLeft> AdvisedLeft,
    IReadOnlyList<SecondCountRow> SecondCounts,
    IReadOnlyList<PictureView> Pictures,
    CountSettings Settings
);

/// <summary>How goods are counted here, as far as a device must know it.</summary>
/// <param name="Blind">True when this person may not know what is expected.</param>
/// <param name="Places">Receiving places that may be chosen, by standing; empty where the place is given.</param>
/// <param name="Printers">Names of printers.</param>
public sealed record CountSettings(
    QuantityEntry Quantity,
    bool Blind,
    bool SecondCount,
    bool ScanForced,
    bool RestAsOrdered,
    IReadOnlyList<string> Places,
    IReadOnlyList<AsideReason> Reasons,
    ScannerSettings Scanner,
    IReadOnlyList<string> Printers,
    bool DecimalComma,
    DateForm DateForm,
    DateOnly Today
);

/// <summary>A unit the vendor announced that nobody has scanned yet.</summary>
public sealed record AdvisedLeft(string Sscc, string Holds);

/// <summary>A code of an item aboard, with what it means.</summary>
/// <param name="Content">Base units in the pack.</param>
/// <param name="IsUnit">True when each gets a label of its own.</param>
/// <param name="BatchStart">What stands before the sequence number of own batches today; null for an item without.</param>
/// <param name="BatchEnd">What stands behind it.</param>
/// <param name="Asks">What the item asks for: what its label does not say may be typed in a dead spot.</param>
/// <param name="Attributes">Further facts of its source batch.</param>
public sealed record CodeAboard(
    string Code,
    string Item,
    string Name,
    string Pack,
    decimal Content,
    string Unit,
    bool IsUnit,
    string? BatchStart,
    string BatchEnd,
    IReadOnlyList<string> Asks,
    IReadOnlyList<AttributeDefinition> Attributes
);

/// <summary>The queue of Door, and one tally.</summary>
public static class TallyPage
{
    const int Shown = 40,
        MostOfLine = 400;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/queue", Right.See, Queue, BlindView.Open);
        routes.Ask("/door/tally/{number}", Right.See, One, BlindView.Open);
        routes.Ask("/door/tally/{number}/line/{part:int}", Right.See, Line);
        routes.Ask("/door/codes/{number}", Right.Tally, Codes, BlindView.Open);
    }

    /// <summary>All codes of the items aboard, for a device that will stand in a dead spot.</summary>
    static async Task<Results<Ok<List<CodeAboard>>, ProblemHttpResult>> Codes(Inquiry inquiry, string number)
    {
        var arrival = await inquiry.Db.Arrivals.Numbered(inquiry.Site, number);
        if (arrival is null)
            return Problems.Of(Problems.NotFound("arrival", number));
        var aboard = (
            await inquiry
                .Db.ManifestLines.Where(m => m.ArrivalId == arrival.Id)
                .OrderBy(m => m.Id)
                .Select(m => new { m.Part!.ItemId, m.Part.VendorId })
                .ToListAsync()
        ).DistinctBy(m => m.ItemId);
        return TypedResults.Ok(
            aboard
                .Select(m => (Item: inquiry.SetUp.Catalogue[m.ItemId], Vendor: inquiry.SetUp.Vendors[m.VendorId]))
                .OrderBy(m => m.Item.Code, StringComparer.Ordinal)
                .SelectMany(m =>
                {
                    var (start, end) = BatchRules.Around(m.Item, inquiry.Today, m.Vendor.Code);
                    return Core
                        .Site.Catalogue.Codes(m.Item)
                        .Select(c => new CodeAboard(
                            c.Code,
                            m.Item.Code,
                            m.Item.Name,
                            c.Found.Pack.Name,
                            c.Found.Pack.Content(1),
                            m.Item.UnitWord,
                            c.Found.Pack.IsUnit,
                            m.Item.NeedsBatch ? start : null,
                            end,
                            TallyRules.Asks(m.Item),
                            m.Item.Attributes
                        ));
                })
                .ToList()
        );
    }

    static async Task<Ok<BoardAnswer>> Queue(Inquiry inquiry)
    {
        var atDoors = inquiry.Db.Arrivals.Where(a => a.SiteId == inquiry.Site.Id && a.State == ArrivalState.AtDoor);
        var cards = await ArrivalCards.Load(inquiry, atDoors);
        var shown = inquiry.IsBlind
            ? cards.OrderBy(c => c.AtDoorSince).Select(BlindTally.Of)
            : cards.OrderBy(c => c.Notches.Count == 0).ThenBy(c => c.AtDoorSince);
        return TypedResults.Ok(new BoardAnswer([.. shown], await Board.Doors(inquiry), inquiry.Local(inquiry.Now)));
    }

    static async Task<Results<Ok<TallyAnswer>, ProblemHttpResult>> One(Inquiry inquiry, string number)
    {
        var arrival = await inquiry.Db.Arrivals.Numbered(inquiry.Site, number);
        if (arrival is null)
            return Problems.Of(Problems.NotFound("arrival", number));
        var card = (await ArrivalCards.Load(inquiry, inquiry.Db.Arrivals.Where(a => a.Id == arrival.Id)))[0];
        var manifest = await ArrivalPage.Manifest(inquiry, arrival.Id);
        var all = inquiry.Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id);
        var entries = await all.OrderByDescending(e => e.Id).Take(Shown).ToListAsync();
        var discrepancies = await inquiry
            .Db.Discrepancies.Where(d => d.ArrivalId == arrival.Id && !d.TakenBack)
            .OrderByDescending(d => d.Id)
            .ToListAsync();
        var counted = await all.Where(e => e.TakenBackAt == null && e.ReceiptId == null).Select(e => e.VendorId).Distinct().ToListAsync();
        var receipts = await inquiry
            .Db.Receipts.Where(r => r.ArrivalId == arrival.Id && r.ReversedAt == null)
            .Select(r => r.Number)
            .ToListAsync();
        var recent = inquiry.Now.AddMinutes(-10);
        var pictures = await Attachments.Pictures(inquiry, arrival.Id);
        var whole = new TallyAnswer(
            card,
            arrival.Seal,
            manifest,
            await Rows(inquiry, arrival, entries),
            await all.CountAsync(),
            [
                .. discrepancies.Select(d =>
                {
                    var item = d.ItemId is { } id ? inquiry.SetUp.Catalogue[id] : null;
                    return new DiscrepancyRow(
                        d.Kind,
                        Discrepancies.Word(d.Kind),
                        item?.Name ?? "not known yet",
                        d.Quantity,
                        item?.UnitWord ?? "",
                        d.Sentence,
                        d.PartId
                    );
                }),
            ],
            [
                .. manifest
                    .Select(m => m.VendorId)
                    .Union(counted)
                    .Select(v => new VendorAboard(
                        v,
                        inquiry.SetUp.Vendors[v].Name,
                        counted.Contains(v),
                        arrival.DeliveryNotes.Find(n => n.VendorId == v)?.Number
                    )),
            ],
            receipts,
            entries
                .Where(e => e.At > recent && e.TakenBackAt == null && e.PartId != null)
                .GroupBy(e => e.PartId!.Value)
                .ToDictionary(g => g.Key.ToString(), g => g.First().PersonName),
            await TallyQuestions.Of(inquiry, arrival.Id),
            await AdvisedUnits.Left(inquiry, arrival.Id),
            await Door.SecondCounts.Of(inquiry, arrival.Id),
            pictures,
            SettingsFor(inquiry, arrival)
        );
        return TypedResults.Ok(inquiry.IsBlind ? BlindTally.Of(whole) : whole);
    }

    /// <summary>What was counted on one line, last first, so that it can be looked at and taken back.</summary>
    static async Task<Results<Ok<List<CountRow>>, ProblemHttpResult>> Line(Inquiry inquiry, string number, int part)
    {
        var arrival = await inquiry.Db.Arrivals.Numbered(inquiry.Site, number);
        if (arrival is null)
            return Problems.Of(Problems.NotFound("arrival", number));
        var entries = await inquiry
            .Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.PartId == part)
            .OrderByDescending(e => e.Id)
            .Take(MostOfLine)
            .ToListAsync();
        return TypedResults.Ok(await Rows(inquiry, arrival, entries));
    }

    static async Task<List<CountRow>> Rows(Inquiry inquiry, Arrival arrival, List<TallyEntry> entries)
    {
        var batchIds = entries.Select(e => e.BatchId).ToList();
        var batches = await inquiry.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id, b => b.Number);
        var unitIds = entries.Select(e => e.UnitId).ToList();
        var units = await inquiry.Db.Units.Where(u => unitIds.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Sscc);
        var open = arrival.State == ArrivalState.AtDoor;
        return
        [
            .. entries.Select(e =>
            {
                var item = inquiry.SetUp.Catalogue[e.ItemId];
                return new CountRow(
                    e.ActId,
                    inquiry.Local(e.At),
                    e.PersonName,
                    item.Name,
                    e.Quantity,
                    item.UnitWord,
                    $"{Quantities.Show(e.Packs)} {Quantities.Plural(e.PackName, e.Packs)}",
                    e.BatchId is { } b ? batches[b] : null,
                    inquiry.Standings.Word(e.Standing),
                    e.Aside,
                    e.Note,
                    e.Reason,
                    inquiry.SetUp.Address(e.BinId),
                    e.TakenBackAt is not null,
                    open && e.TakenBackAt is null && e.ReceiptId is null,
                    e.UnitId is { } u ? units[u] : null,
                    item.LabelledPack(e.PackName)?.Name,
                    e.Serial
                );
            }),
        ];
    }

    static CountSettings SettingsFor(Inquiry inquiry, Arrival arrival)
    {
        var door = inquiry.DoorSettings;
        var staging = arrival.DoorId is { } id ? inquiry.SetUp.StagingOf(inquiry.SetUp.Doors[id]) : [];
        return new CountSettings(
            door.Quantity,
            inquiry.IsBlind,
            door.SecondCount,
            door.ScanForced && !inquiry.May(Right.SettleTally),
            door.RestAsOrdered && inquiry.May(Right.CloseTally),
            door.PlaceChosen && staging.Count > 0 ? [.. ReceivingPlace.Choices(StandingKind.Usable, staging).Select(b => b.Address)] : [],
            door.ReasonsInForce,
            inquiry.Site.Scanner,
            door.PrintersFor(arrival.DoorId is { } at ? inquiry.SetUp.Doors[at].Number : null),
            inquiry.Site.DecimalComma,
            inquiry.Site.DateForm,
            inquiry.Today
        );
    }
}
