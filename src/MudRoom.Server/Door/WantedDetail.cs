using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>
/// Item, batch and date scanned one after another: a plain text that is no code of its own may be what the count in hand still wants. A
/// date is
/// known by its form. A batch or serial number is taken only where it looks like those of the item or vendor before; else it is offered,
/// and a
/// person says by one press that it is one: a wrong label must not become a piece in stock by itself.
/// </summary>
static class WantedDetail
{
    /// <summary>The text as a field of the count in hand, or as an offer for one; null when nothing is wanted that it could be.</summary>
    public static async Task<Reading?> Of(Inquiry inquiry, string text, CountInHand inHand)
    {
        if (text.Length is 0 or > 40)
            return null;
        var wanted = (inHand.Wanted ?? "").Split(',');
        foreach (var field in wanted)
            if (Dated(field, text, inquiry.Today) is { } date)
                return date;
        if (inquiry.SetUp.Catalogue.ByCode(inHand.Item ?? "").Select(f => f.Item).FirstOrDefault() is not { } item)
            return null;
        foreach (var field in wanted)
            if (Numbered(field, text) is { } number)
                return TextShape.Fits(text, await Before(inquiry, item, field, inHand.Serial))
                    ? number
                    : number with
                    {
                        Kind = ReadingKind.Unknown,
                        Offers = field,
                        Words =
                            $"{text} is no code here"
                            + (field == "serial" && inHand.Serial.OrNull() is { } last ? $", and looks other than {last}" : "")
                            + $". Is it the {(field == "serial" ? "serial number" : "source batch")} of {item.Name}?",
                    };
        return null;
    }

    public static void Map(SiteRoutes routes) => routes.Ask("/door/batches-before/{item}", Right.Tally, BatchesBefore, BlindView.Open);

    /// <summary>The last source batches of an item, or of its vendors: what a printed number that is one looks like.</summary>
    static async Task<Results<Ok<List<string>>, ProblemHttpResult>> BatchesBefore(Inquiry inquiry, string item) =>
        inquiry.SetUp.Catalogue.ByCode(item).Select(f => f.Item).FirstOrDefault() is { } known
            ? TypedResults.Ok(await Before(inquiry, known, "sourceBatch", null))
            : Problems.Of(Problems.NotFound("item", item));

    /// <summary>Numbers it is held against: in a run the one before; else the last of the item, else of its vendors.</summary>
    static async Task<List<string>> Before(Inquiry inquiry, Item item, string field, string? serial)
    {
        if (field == "serial")
            return serial.OrNull() is { } last
                ? [last]
                : (
                    await inquiry
                        .Db.TallyEntries.Where(e => e.ItemId == item.Id && e.Serial != null && e.TakenBackAt == null)
                        .OrderByDescending(e => e.Id)
                        .Take(TextShape.Remembered)
                        .Select(e => e.Serial!)
                        .ToListAsync()
                );
        var ofItem = await inquiry
            .Db.SourceBatches.Where(b => b.ItemId == item.Id)
            .OrderByDescending(b => b.Id)
            .Take(TextShape.Remembered)
            .ToListAsync();
        if (ofItem.Count > 0)
            return [.. ofItem.Select(b => b.Number)];
        var vendors = inquiry
            .Db.LineParts.Where(p => p.ItemId == item.Id && p.SiteId == inquiry.Site.Id)
            .OrderByDescending(p => p.Id)
            .Take(TextShape.Remembered)
            .Select(p => p.VendorId);
        return await inquiry
            .Db.SourceBatches.Where(b => vendors.Contains(b.VendorId))
            .OrderByDescending(b => b.Id)
            .Take(TextShape.Remembered)
            .Select(b => b.Number)
            .ToListAsync();
    }

    static Reading? Numbered(string field, string text) =>
        field switch
        {
            "serial" => Details($"Serial {text}.", text) with { Serial = text },
            "sourceBatch" => Details($"Source batch {text}.", text) with { SourceBatch = text },
            _ => null,
        };

    static Reading? Dated(string field, string text, DateOnly today) =>
        field switch
        {
            "production" when Date(text, today, DayZero.MonthOnly) is { } date => Details($"Produced {date}.", text) with
            {
                Production = date,
            },
            "bestBefore" when Date(text, today, DayZero.LastOfMonth) is { } date => Details($"Best before {date}.", text) with
            {
                BestBefore = date,
            },
            "expiry" when Date(text, today, DayZero.LastOfMonth) is { } date => Details($"Expiry {date}.", text) with { Expiry = date },
            _ => null,
        };

    static string? Date(string text, DateOnly today, DayZero zero) =>
        text.Length == 6 && CheckDigit.IsDigits(text) ? GoodsDate.Read(text, today, zero)?.ToString()
        : GoodsDate.Typed("", text).Accepted(out var date) ? date?.ToString()
        : null;

    static Reading Details(string words, string code) => new(ReadingKind.Details, words, code);
}
