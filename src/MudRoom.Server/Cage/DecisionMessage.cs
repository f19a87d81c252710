using System.Globalization;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Out;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Out;

namespace MudRoom.Server.Cage;

/// <summary>What accounts are told when something was done with nonconforming goods, as docs/formats/goods-decided-json.md says.</summary>
public static class DecisionMessage
{
    /// <summary>Tells of one decision: of a release when it is made, of all others when it has happened.</summary>
    /// <param name="lots">The goods, before they leave.</param>
    /// <param name="quantity">In base units.</param>
    public static async Task Tell(
        Act act,
        string hold,
        Item item,
        IReadOnlyList<Lot> lots,
        decimal quantity,
        HoldDecision decision,
        string by
    )
    {
        var receiptIds = lots.Select(l => l.ReceiptId).Distinct().ToList();
        var receipts = await act.Db.Receipts.Where(r => receiptIds.Contains(r.Id)).Select(r => r.Number).Order().ToListAsync();
        var vendors = lots.Select(l => l.VendorId).OfType<int>().Distinct().Select(v => act.SetUp.Vendors[v]);
        Outbox.Emit(
            act,
            OutKind.GoodsDecided,
            hold,
            new JsonObject
            {
                ["hold"] = hold,
                ["decision"] = Token(decision.Kind),
                ["item"] = item.Code,
                ["name"] = item.Name,
                ["quantity"] = quantity.ToString(LedgerEntry.QuantityForm, CultureInfo.InvariantCulture),
                ["unit"] = item.BaseUnit,
                ["value"] = decision.ValueOf(quantity)?.ToString(LedgerEntry.QuantityForm, CultureInfo.InvariantCulture),
                ["into"] = decision.IntoItemId is { } into ? act.SetUp.Catalogue[into].Code : null,
                ["vendors"] = new JsonArray([.. vendors.Select(v => (JsonNode)v.Code)]),
                ["receipts"] = new JsonArray([.. receipts.Select(r => (JsonNode)r)]),
                ["note"] = decision.Note,
                ["askedBy"] = decision.Concession?.AskedBy,
                ["forWhom"] = decision.Concession?.ForWhom,
                ["until"] = decision.Concession?.Until?.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture),
                ["decidedBy"] = decision.By.Name,
                ["second"] = decision.Second?.Name,
                ["by"] = by,
            }
        );
    }

    /// <summary>A decision in a word that does not change with what screens say.</summary>
    static string Token(DecisionKind kind) =>
        kind switch
        {
            DecisionKind.ReleaseUnderConcession => "concession",
            DecisionKind.ReturnToVendor => "return-to-vendor",
            DecisionKind.Scrap => "scrap",
            DecisionKind.Rework => "rework",
            DecisionKind.Repair => "repair",
            DecisionKind.UsableAgain => "usable-again",
            DecisionKind.BackToCustomer => "back-to-customer",
            DecisionKind.Regrade => "regrade",
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };
}
