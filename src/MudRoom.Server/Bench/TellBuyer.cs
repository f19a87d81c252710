using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Out;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Out;

namespace MudRoom.Server.Bench;

/// <summary>The buyer is told how a characteristic of a vendor's lots goes on.</summary>
/// <param name="Note">What whoever tells it adds; empty for nothing.</param>
public sealed record TellBuyerRequest(int Plan, int Item, int Vendor, int Characteristic, string? Note = null);

/// <summary>What is seen coming goes out to the buyer, before a lot fails; always by a person's yes.</summary>
public static class TellBuyer
{
    /// <summary>Most lots that a notice names.</summary>
    const int MostLots = 20;

    public static void Map(SiteRoutes routes) => routes.Act<TellBuyerRequest, DoneAnswer>("/bench/coming/tell", Right.Inspect, Run);

    /// <summary>The last notice of a characteristic of some lots; null where there was none.</summary>
    public static async Task<LedgerEntry?> Last(History history, int siteId, IReadOnlyList<PastLot> lots, Characteristic c)
    {
        var told = await history
            .AboutAny(ReferenceKind.Inspection, [.. lots.Select(l => l.Number)])
            .Where(e => e.SiteId == siteId && e.Kind == EntryKind.BuyerTold)
            .OrderByDescending(e => e.Seq)
            .Take(MostLots)
            .ToListAsync();
        return told.Find(e => e.What is BuyerTold what && what.Characteristic == c.Name);
    }

    public static async Task<Outcome<DoneAnswer>> Run(Act act, TellBuyerRequest request)
    {
        if ((request.Note ?? "").Length > 500)
            return new Refusal(HouseRefusals.NoteLong, "The note has more than 500 characters.", "Shorten it.");
        var past = PastLots.Of(act);
        var lots = await past.Lots(request.Item, request.Vendor, request.Plan);
        if (lots.Count == 0 || past.CharacteristicsOf(lots[^1]).Find(x => x.Id == request.Characteristic) is not { } c)
            return Problems.NotFound("characteristic", request.Characteristic.ToString(System.Globalization.CultureInfo.InvariantCulture));
        var chart = past.Chart(lots, c);
        var seen = SeenComing.Of(c, chart);
        if (!seen.IsWorthTelling)
            return new Refusal(BenchRefusals.NothingComing, seen.Headline, "There is nothing to tell the buyer.");
        var last = lots[^1].Number;
        if (await Last(act.History, act.Site.Id, lots, c) is { } told && told.Subject == last)
            return new Refusal(
                BenchRefusals.BuyerToldAlready,
                $"{told.PersonName} told the buyer of {c.Name} after lot {last}; no lot was signed since.",
                "Tell it again after the next lot."
            );
        var (item, vendor) = (act.SetUp.Catalogue[request.Item], act.SetUp.Vendors[request.Vendor]);
        Outbox.Emit(
            act,
            OutKind.QualityNotice,
            last,
            new JsonObject
            {
                ["vendor"] = new JsonObject
                {
                    ["code"] = vendor.Code,
                    ["name"] = vendor.Name,
                    ["gln"] = vendor.Gln,
                },
                ["item"] = item.Code,
                ["name"] = item.Name,
                ["characteristic"] = c.Name,
                ["limits"] = PastLots.LimitsOf(c),
                ["unit"] = PastLots.UnitOf(c) ?? "%",
                ["finding"] = seen.Headline,
                ["passesLimitIn"] = seen.Drift?.PassesIn,
                ["lots"] = new JsonArray([
                    .. chart
                        .TakeLast(MostLots)
                        .Select(l => new JsonObject
                        {
                            ["inspection"] = l.Number,
                            ["on"] = l.On.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
                            ["mean"] = l.Is.Mean,
                            ["looked"] = l.Is.Looked,
                            ["nonconforming"] = l.Is.Nonconforming,
                        }),
                ]),
                ["note"] = request.Note.OrNull(),
                ["by"] = act.Person.Name,
            }
        );
        var fact = new BuyerTold(last, c.Name, item.Name, vendor.Name, seen.Headline)
        {
            About = [Reference.Item(item.Id), new Reference(ReferenceKind.Vendor, vendor.Id)],
        };
        act.Write(fact);
        act.Touch("bench");
        return new DoneAnswer(act.Words(fact));
    }
}
